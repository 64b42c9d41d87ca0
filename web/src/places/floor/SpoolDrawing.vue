<script setup lang="ts">
import { computed } from 'vue'
import { amount } from '@/shared/format'

/** A spool seen from the side: its outside shrinks as labels are used. */
const props = defineProps<{ left: number; capacity: number; unit: 'labels' | 'sheets' | 'length' }>()

const core = 19
const full = 44
// The area of what is wound is the length of the web, so the radius goes with its root.
const outside = computed(() => {
  const share = props.capacity > 0 ? Math.min(props.left / props.capacity, 1) : 1
  return Math.sqrt(core ** 2 + Math.max(share, 0) * (full ** 2 - core ** 2))
})
const turns = computed(() => {
  const radii: number[] = []
  for (let r = core + 4.5; r < outside.value - 1; r += 4.5) radii.push(r)
  return radii
})
const words = computed(() =>
  props.left < 0
    ? 'The printer does not tell how much is left'
    : `${amount(props.left, props.unit)} ${props.unit === 'length' ? 'of tape' : props.unit} left`,
)
</script>

<template>
  <svg viewBox="-50 -50 100 100" width="60" height="60" role="img" :aria-label="words">
    <circle r="46" fill="none" stroke="var(--control)" stroke-width="1" stroke-dasharray="2 4" />
    <circle :r="outside" fill="var(--liner)" stroke="var(--liner-edge)" stroke-width="1.5" />
    <circle v-for="r in turns" :key="r" :r="r" fill="none" stroke="var(--liner-edge)" stroke-width="0.8" />
    <circle :r="core" fill="var(--paper)" stroke="var(--control)" />
    <text v-if="left < 0" text-anchor="middle" dominant-baseline="central" font-size="22" fill="var(--ink)">
      ?
    </text>
  </svg>
</template>
