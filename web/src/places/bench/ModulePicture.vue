<script setup lang="ts">
import { computed } from 'vue'

/** The first bars of a code, dot by dot, as the printer sets them. */
const props = defineProps<{ widths: readonly number[] }>()

const cell = 4
const shown = 48 // dots
const bars = computed(() => {
  const made: { x: number; w: number }[] = []
  let at = 0
  props.widths.forEach((dots, i) => {
    if (i % 2 === 0 && dots > 0 && at < shown) made.push({ x: at, w: Math.min(dots, shown - at) })
    at += dots
  })
  return made
})
</script>

<template>
  <svg class="module" :viewBox="`0 0 ${shown * cell} 26`" role="img" aria-label="The first bars, dot by dot">
    <template v-for="bar in bars" :key="bar.x">
      <rect :x="bar.x * cell" y="0" :width="bar.w * cell" height="26" fill="var(--ink)" />
      <path
        :d="Array.from({ length: bar.w - 1 }, (_, i) => `M${(bar.x + i + 1) * cell} 0v26`).join('')"
        stroke="var(--paper)"
        stroke-width="0.5"
      />
    </template>
    <path d="M0 6.5h192M0 13h192M0 19.5h192" stroke="var(--paper)" stroke-width="0.5" />
  </svg>
</template>

<style scoped>
.module {
  display: block;
  width: 100%;
  max-height: 28px;
  margin: 6px 0;
}
</style>
