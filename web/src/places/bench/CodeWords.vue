<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Element, Piece } from '@/api/documents'
import FieldOrText from './FieldOrText.vue'
import SheetRow from './SheetRow.vue'

/** The words beside a code: what its bars say, and a line above and below. */
type Code = NonNullable<Element['code']>
const props = defineProps<{ code: Code; typefaces: readonly string[]; fields: readonly string[] }>()
const emit = defineEmits<{ set: [to: Partial<Code>] }>()

const usual = 'Liberation Mono'
const readables = [
  { value: '', label: 'below' },
  { value: 'above', label: 'above' },
  { value: 'none', label: 'none' },
]
const faces = computed(() => props.typefaces.map((value) => ({ value, label: value })))
const lineTo = (pieces: Piece[]) => (pieces.length ? pieces : undefined)
const worded = computed(
  () => props.code.readable !== 'none' || !!props.code.header?.length || !!props.code.footer?.length,
)
</script>

<template>
  <SheetRow name="Readable text">
    <NSelect
      size="small"
      :value="code.readable ?? ''"
      :options="readables"
      aria-label="Readable text"
      class="half"
      @update:value="emit('set', { readable: $event })"
    />
    <NInputNumber
      v-if="worded"
      v-bind="designBounds.CodeLooks.points"
      size="small"
      :show-button="false"
      :value="code.points || 8"
      :input-props="{ 'aria-label': 'Size of readable text in points' }"
      class="tiny"
      @update:value="$event && emit('set', { points: $event })"
    >
      <template #suffix>pt</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow v-if="worded" name="Its typeface">
    <NSelect
      size="small"
      :value="code.typeface || usual"
      :options="faces"
      aria-label="Typeface of the readable text"
      class="wide"
      @update:value="emit('set', { typeface: $event === usual ? undefined : $event })"
    />
  </SheetRow>
  <SheetRow v-if="code.readable !== 'none'" name="Letters">
    <NCheckbox :checked="code.spread ?? false" @update:checked="emit('set', { spread: $event || undefined })"
      >spread over the bars</NCheckbox
    >
  </SheetRow>
  <SheetRow name="Line above">
    <FieldOrText
      :pieces="code.header ?? []"
      :fields
      label="Line above the code"
      @set="emit('set', { header: lineTo($event) })"
    />
  </SheetRow>
  <SheetRow name="Line below">
    <FieldOrText
      :pieces="code.footer ?? []"
      :fields
      label="Line below the code"
      @set="emit('set', { footer: lineTo($event) })"
    />
  </SheetRow>
</template>

<style scoped>
.wide {
  width: 150px;
}
.tiny {
  width: 76px;
}
.half {
  width: 100px;
}
</style>
