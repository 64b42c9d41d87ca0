<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { api, asForm } from '@/api/client'
import type { Element } from '@/api/documents'
import LengthInput from '@/shared/LengthInput.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import SheetRow from './SheetRow.vue'

/** How words look. */
type Looks = NonNullable<Element['text']>
const props = defineProps<{ text: Looks; typefaces: readonly string[] }>()
const emit = defineEmits<{ set: [to: Partial<Looks>]; brought: [family: string] }>()
const { problem, doing } = useDoing()

async function bringIn(event: Event) {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  input.value = ''
  if (!file) return
  const { data } = await doing(() => api.POST('/typefaces', asForm(file)))
  if (!data) return
  emit('brought', data.family)
  emit('set', { typeface: data.family })
}

const list = (...values: [string, string][]) => values.map(([value, label]) => ({ value, label }))
const faces = computed(() => props.typefaces.map((value) => ({ value, label: value })))
const aligns = list(['', 'left'], ['centre', 'centre'], ['right', 'right'], ['justified', 'both edges'])
const stands = list(['', 'top'], ['middle', 'middle'], ['bottom', 'bottom'])
const measures = list(['points', 'size of type'], ['capitals', 'height of capitals'])
/** What is done with more words than the box has room for. */
const fits = list(['', 'cut off'], ['shrink', 'shrink'], ['stretch', 'stretch to the box'])
const fit = computed(() => (props.text.stretch ? 'stretch' : (props.text.shrinkTo ?? 0) > 0 ? 'shrink' : ''))

function measure(by: string) {
  emit('set', { capitals: by === 'capitals' ? 3000 : undefined })
}
function setFit(to: string) {
  emit('set', {
    stretch: to === 'stretch' || undefined,
    shrinkTo: to === 'shrink' ? Math.max(1, Math.round(props.text.points * 6) / 10) : undefined,
  })
}
</script>

<template>
  <SheetRow name="Typeface">
    <NSelect
      size="small"
      :value="text.typeface"
      :options="faces"
      aria-label="Typeface"
      class="wide"
      @update:value="emit('set', { typeface: $event })"
    />
  </SheetRow>
  <p class="bring">
    <label>
      <span>Bring a typeface in…</span>
      <input type="file" accept=".ttf,.otf,font/*" class="unseen" aria-label="Font file" @change="bringIn" />
    </label>
  </p>
  <ProblemNote :problem />
  <SheetRow name="Size by">
    <NSelect
      size="small"
      :value="text.capitals ? 'capitals' : 'points'"
      :options="measures"
      aria-label="What the size is told by"
      class="wide"
      @update:value="measure"
    />
  </SheetRow>
  <SheetRow :name="text.capitals ? 'Capitals' : 'Size'">
    <LengthInput
      v-if="text.capitals"
      :model-value="text.capitals"
      label="Height of capitals"
      :least="designBounds.TextLooks.capitals.min"
      :decimals="2"
      class="narrow"
      @update:model-value="emit('set', { capitals: $event })"
    />
    <NInputNumber
      v-else
      v-bind="designBounds.Points.value"
      size="small"
      :show-button="false"
      :value="text.points"
      :step="0.5"
      :input-props="{ 'aria-label': 'Size of type in points' }"
      class="narrow"
      @update:value="$event && emit('set', { points: $event })"
    >
      <template #suffix>pt</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow name="Style">
    <NCheckbox :checked="text.bold ?? false" @update:checked="emit('set', { bold: $event })">bold</NCheckbox>
    <NCheckbox :checked="text.italic ?? false" @update:checked="emit('set', { italic: $event })"
      >italic</NCheckbox
    >
  </SheetRow>
  <SheetRow name="Lines">
    <NSelect
      size="small"
      :value="text.align ?? ''"
      :options="aligns"
      aria-label="Alignment"
      class="half"
      @update:value="emit('set', { align: $event })"
    />
    <NSelect
      size="small"
      :value="text.stand ?? ''"
      :options="stands"
      aria-label="Between top and bottom"
      class="half"
      @update:value="emit('set', { stand: $event })"
    />
  </SheetRow>
  <SheetRow name="Too long">
    <NCheckbox :checked="text.wrap ?? false" @update:checked="emit('set', { wrap: $event })">wrap</NCheckbox>
    <NSelect
      size="small"
      :value="fit"
      :options="fits"
      :consistent-menu-width="false"
      aria-label="What is done with too many words"
      class="fit"
      @update:value="setFit"
    />
  </SheetRow>
  <SheetRow v-if="fit === 'shrink'" name="Smallest">
    <NInputNumber
      v-bind="designBounds.TextLooks.shrinkTo"
      size="small"
      :show-button="false"
      :value="text.shrinkTo"
      :step="0.5"
      :input-props="{ 'aria-label': 'Smallest size of type in points' }"
      class="narrow"
      @update:value="$event && emit('set', { shrinkTo: $event })"
    >
      <template #suffix>pt</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow name="From line to line">
    <NInputNumber
      v-bind="designBounds.TextLooks.spacing"
      size="small"
      :show-button="false"
      :value="text.spacing || 100"
      :input-props="{ 'aria-label': 'From line to line, in per cent' }"
      class="third"
      @update:value="emit('set', { spacing: $event === 100 || !$event ? undefined : $event })"
    >
      <template #suffix>%</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow name="Between letters">
    <NInputNumber
      v-bind="designBounds.TextLooks.tracking"
      size="small"
      :show-button="false"
      :value="text.tracking ?? 0"
      :input-props="{ 'aria-label': 'More room between letters, in per cent of the size' }"
      class="third"
      @update:value="emit('set', { tracking: $event || undefined })"
    >
      <template #suffix>%</template>
    </NInputNumber>
  </SheetRow>
</template>

<style scoped>
.bring {
  text-align: right;
  font-size: 13px;
}
.bring span {
  color: var(--accent);
  cursor: pointer;
}
.bring:focus-within span {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.wide {
  width: 156px;
  max-width: 100%;
}
.narrow {
  width: 116px;
}
.third {
  width: 84px;
}
.half {
  width: 92px;
}
.fit {
  width: 118px;
}
</style>
