<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import type { Element } from '@/api/documents'
import LengthInput from '@/shared/LengthInput.vue'
import TextButton from '@/shared/TextButton.vue'
import type { Division } from './arrange'
import DividePanel from './DividePanel.vue'
import StandsOn from './StandsOn.vue'

/** Where the chosen element sits and how big it is, to a tenth of a millimetre and in dots. */
const props = defineProps<{ element: Element; dot: number; fields: readonly string[] }>()
const emit = defineEmits<{
  change: [to: Partial<Element>]
  done: []
  move: [to: 'front' | 'back']
  duplicate: []
  remove: []
  divide: [how: Division]
  frame: []
}>()

const dots = (length: number) => (props.dot ? Math.round(length / props.dot) : 0)
function set(to: Partial<Element>) {
  emit('change', to)
  emit('done')
}
const turns = [0, 90, 180, 270].map((value) => ({ value, label: `${String(value)}°` }))
const rows = [
  { name: 'From left', key: 'x', least: undefined },
  { name: 'From top', key: 'y', least: undefined },
  { name: 'Width', key: 'width', least: 100 },
  { name: 'Height', key: 'height', least: 100 },
] as const
</script>

<template>
  <section aria-labelledby="sits">
    <h2 id="sits">Sits</h2>
    <p v-if="element.around" class="quiet">
      It follows what it stands round. See its distance under <i>Looks</i>.
    </p>
    <div v-for="row in element.around ? [] : rows" :key="row.key" class="row">
      <span>{{ row.name }}</span>
      <LengthInput
        :model-value="element[row.key]"
        :label="row.name"
        :least="row.least"
        @update:model-value="set({ [row.key]: $event })"
      />
      <span class="quiet number">{{ dots(element[row.key]) }} dots</span>
    </div>
    <div v-if="!element.around" class="row">
      <span>Turn</span>
      <NSelect
        size="small"
        :value="element.turn ?? 0"
        :options="turns"
        aria-label="Turn"
        @update:value="set({ turn: $event })"
      />
      <NCheckbox :checked="element.locked ?? false" @update:checked="set({ locked: $event })">lock</NCheckbox>
    </div>
    <div v-if="element.text" class="row">
      <span>Angle</span>
      <NInputNumber
        v-bind="designBounds.Element.angle"
        size="small"
        :show-button="false"
        :value="element.angle ?? 0"
        :input-props="{ 'aria-label': 'Angle in degrees besides' }"
        @update:value="set({ angle: $event || undefined })"
      >
        <template #suffix>°</template>
      </NInputNumber>
      <span class="quiet">besides</span>
    </div>
    <StandsOn :element :fields @set="set" />
    <p class="actions">
      <TextButton @click="emit('move', 'front')">To the front</TextButton>
      <TextButton @click="emit('move', 'back')">To the back</TextButton>
      <TextButton @click="emit('duplicate')">Duplicate</TextButton>
      <TextButton v-if="!element.around" @click="emit('frame')"> Frame round it </TextButton>
      <TextButton @click="emit('remove')">Delete</TextButton>
    </p>
    <DividePanel
      v-if="element.kind === 'box' && !element.around"
      :key="element.id"
      :fields
      @divide="emit('divide', $event)"
    />
  </section>
</template>

<style scoped>
section {
  container-type: inline-size;
}
.row {
  display: grid;
  grid-template-columns: 62px minmax(92px, 1fr) 64px;
  align-items: center;
  gap: 2px 8px;
  min-height: 34px;
  padding: 3px 0;
  border-bottom: 1px dotted var(--control);
}
.number {
  white-space: nowrap;
}
@container (max-width: 240px) {
  .row {
    grid-template-columns: 62px minmax(0, 1fr);
  }
  .row > :nth-child(3) {
    grid-column: 2;
    font-size: 13px;
  }
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  margin-top: 10px;
}
</style>
