<script setup lang="ts">
import type { Schemas } from '@/api/client'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'
import LabelDots from './LabelDots.vue'
import type { StripLabel } from './useStrip'

/** Many labels at once, small, to see that a series counts and nothing looks odd. */
defineProps<{
  labels: ReadonlyMap<number, StripLabel>
  order: readonly number[]
  from: number
  most: number
  inHand: number | undefined
  levels: ReadonlyMap<number, Schemas['Knot']['level']>
}>()
const emit = defineEmits<{ go: [at: number]; walk: [by: number] }>()
</script>

<template>
  <div class="sheet">
    <button
      v-for="(record, i) in order.slice(from, from + most)"
      :key="record"
      type="button"
      :class="{ hand: record === inHand }"
      :aria-label="`Take the label of record ${record} in hand`"
      @click="emit('go', from + i)"
    >
      <LabelDots v-if="labels.get(record)" :label="labels.get(record)!" name="" />
      <span class="caption">
        {{ record }}
        <LevelText v-if="levels.has(record)" :level="levels.get(record)!" />
      </span>
    </button>
    <p v-if="order.length > most" class="pages">
      <TextButton :disabled="from === 0" @click="emit('walk', -most)"> Earlier </TextButton>
      <TextButton :disabled="from + most >= order.length" @click="emit('walk', most)"> Later </TextButton>
    </p>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  align-content: start;
  gap: 8px;
  padding: 10px;
  overflow: auto;
  background: var(--liner);
}
.sheet > button {
  padding: 0;
  border: 0;
  background: none;
  font: inherit;
  color: var(--on-liner);
  text-align: left;
  cursor: pointer;
}
.hand img,
.hand canvas {
  outline: 3px solid var(--accent);
}
.sheet img,
.sheet canvas {
  height: auto;
  background: var(--label);
  border-radius: 4px;
}
.caption {
  font-size: 12.5px;
}
.pages {
  display: flex;
  gap: 14px;
  grid-column: 1 / -1;
}
</style>
