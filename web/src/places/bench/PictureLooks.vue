<script setup lang="ts">
import { NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Element } from '@/api/documents'
import SheetRow from './SheetRow.vue'

/** How a picture becomes dots of one ink. */
type Looks = NonNullable<Element['picture']>
const props = defineProps<{ picture: Looks }>()
const emit = defineEmits<{ set: [to: Partial<Looks>] }>()

const address = computed(() => `/api/pictures/${props.picture.hash}`)
const ways = [
  { value: '', label: 'dark or bare' },
  { value: 'ordered', label: 'an even pattern' },
  { value: 'diffused', label: 'scattered dots' },
]
</script>

<template>
  <SheetRow name="Picture">
    <a :href="address" target="_blank" rel="noopener" class="name">{{
      picture.name ?? 'as it was brought in'
    }}</a>
  </SheetRow>
  <SheetRow name="Shades become">
    <NSelect
      size="small"
      :value="picture.way ?? ''"
      :options="ways"
      aria-label="How shades become dots"
      class="wide"
      @update:value="emit('set', { way: $event || undefined })"
    />
  </SheetRow>
  <SheetRow name="Lighter by">
    <NInputNumber
      size="small"
      :show-button="false"
      :value="picture.lighter ?? 0"
      :min="-100"
      :max="100"
      :input-props="{ 'aria-label': 'Lighter by per cent' }"
      class="narrow"
      @update:value="emit('set', { lighter: $event || undefined })"
    >
      <template #suffix>%</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow name="Proportions">
    <NCheckbox
      :checked="!picture.stretch"
      @update:checked="emit('set', { stretch: $event ? undefined : true })"
      >kept</NCheckbox
    >
  </SheetRow>
</template>

<style scoped>
.wide {
  width: 150px;
}
.narrow {
  width: 96px;
}
.name {
  overflow-wrap: anywhere;
}
</style>
