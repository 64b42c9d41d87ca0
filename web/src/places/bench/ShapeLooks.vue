<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInputNumber, NSelect } from 'naive-ui'
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
const dashes = [
  { value: '', label: 'unbroken' },
  { value: 'dashed', label: 'dashed' },
  { value: 'dotted', label: 'dotted' },
]
const arrows = [
  { value: '', label: 'none' },
  { value: 'start', label: 'at its start' },
  { value: 'end', label: 'at its end' },
  { value: 'both', label: 'at both ends' },
]
const forms = [
  { value: 0, label: 'round' },
  ...[3, 4, 5, 6, 8, 12].map((value) => ({ value, label: `${String(value)} corners` })),
]
const fills = computed(() => [{ value: '', label: 'nothing' }, ...props.inks])

function set(to: Partial<Shape>) {
  const next = Object.fromEntries(Object.entries({ ...shape.value, ...to }).filter(([, v]) => v)) as Shape
  emit('change', { shape: Object.keys(next).length ? next : undefined })
  emit('done')
}
function keepOff(distance: number) {
  emit('change', { distance })
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
  <template v-if="line">
    <SheetRow name="Drawn">
      <NSelect
        size="small"
        :value="shape.dash ?? ''"
        :options="dashes"
        aria-label="How the line is broken"
        class="wide"
        @update:value="set({ dash: $event })"
      />
    </SheetRow>
    <SheetRow name="Arrow">
      <NSelect
        size="small"
        :value="shape.arrow ?? ''"
        :options="arrows"
        aria-label="Which ends are pointed"
        class="wide"
        @update:value="set({ arrow: $event })"
      />
    </SheetRow>
  </template>
  <SheetRow v-if="element.around" name="Distance">
    <LengthInput
      :model-value="element.distance ?? 0"
      label="Distance of the frame"
      class="narrow"
      @update:model-value="keepOff"
    />
  </SheetRow>
  <SheetRow v-if="line ? shape.slope || shape.arrow : !shape.noOutline" name="Line weight">
    <LengthInput
      :model-value="element.weight ?? 0"
      label="Weight of the line"
      :decimals="2"
      :least="0"
      class="narrow"
      @update:model-value="weigh"
    />
  </SheetRow>
  <p v-if="line && !shape.slope" class="quiet">
    {{
      shape.arrow ? 'The head is as wide as the box is high.' : 'A straight line is as thick as it is high.'
    }}
    See <i>Sits</i>.
  </p>
  <SheetRow v-if="element.kind === 'oval'" name="Form">
    <NSelect
      size="small"
      :value="shape.sides ?? 0"
      :options="forms"
      aria-label="Round, or with corners"
      class="wide"
      @update:value="set({ sides: $event })"
    />
  </SheetRow>
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
  <SheetRow v-if="!line && shape.fill" name="Tint">
    <NInputNumber
      v-bind="designBounds.Shape.tint"
      size="small"
      :show-button="false"
      :value="shape.tint || 100"
      :input-props="{ 'aria-label': 'Tint in per cent' }"
      class="narrow"
      @update:value="set({ tint: $event && $event < 100 ? $event : undefined })"
    >
      <template #suffix>%</template>
    </NInputNumber>
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
