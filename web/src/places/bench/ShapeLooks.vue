<script setup lang="ts">
import { NCheckbox, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Element } from '@/api/documents'
import LengthInput from '@/shared/LengthInput.vue'
import SheetRow from './SheetRow.vue'

/** How a box, an oval or a line is drawn: its outline, its corners, what it is filled with, where it runs. */
type Shape = NonNullable<Element['shape']>
const props = defineProps<{ element: Element; inks: readonly { value: string; label: string }[] }>()
const emit = defineEmits<{ change: [to: Partial<Element>]; done: [] }>()

const shape = computed<Shape>(() => props.element.shape ?? {})
const line = computed(() => props.element.kind === 'line')
const slopes = [
  { value: '', label: 'straight' },
  { value: 'down', label: 'down to the right' },
  { value: 'up', label: 'up to the right' },
]
const fills = computed(() => [{ value: '', label: 'nothing' }, ...props.inks])

function set(to: Partial<Shape>) {
  const next = Object.fromEntries(Object.entries({ ...shape.value, ...to }).filter(([, v]) => v)) as Shape
  emit('change', { shape: Object.keys(next).length ? next : undefined })
  emit('done')
}
function weigh(weight: number) {
  emit('change', { weight })
  emit('done')
}
</script>

<template>
  <SheetRow v-if="line" name="Lies">
    <NSelect
      size="small"
      :value="shape.slope ?? ''"
      :options="slopes"
      aria-label="How the line lies"
      class="wide"
      @update:value="set({ slope: $event })"
    />
  </SheetRow>
  <SheetRow v-else name="Outline">
    <NCheckbox :checked="!shape.noOutline" @update:checked="set({ noOutline: !$event })">drawn</NCheckbox>
  </SheetRow>
  <SheetRow v-if="line ? shape.slope : !shape.noOutline" name="Line weight">
    <LengthInput
      :model-value="element.weight ?? 0"
      label="Weight of the line"
      :decimals="2"
      :least="0"
      class="narrow"
      @update:model-value="weigh"
    />
  </SheetRow>
  <p v-if="line && !shape.slope" class="quiet">A straight line is as thick as it is high. See <i>Sits</i>.</p>
  <SheetRow v-if="element.kind === 'box'" name="Corners">
    <LengthInput
      :model-value="shape.corner ?? 0"
      label="Radius of the corners"
      :least="0"
      class="narrow"
      @update:model-value="set({ corner: $event })"
    />
  </SheetRow>
  <SheetRow v-if="!line" name="Filled with">
    <NSelect
      size="small"
      :value="shape.fill ?? ''"
      :options="fills"
      aria-label="What it is filled with"
      class="wide"
      @update:value="set({ fill: $event })"
    />
  </SheetRow>
</template>

<style scoped>
.wide {
  width: 150px;
}
.narrow {
  width: 96px;
}
</style>
