<script setup lang="ts">
import { computed } from 'vue'
import { units } from '@/shared/format'

/** Rulers along the top and the left of the label in hand; a drag from one pulls a guide out of it. */
const props = defineProps<{ art: { width: number; height: number }; scale: number }>()
const emit = defineEmits<{ pull: [axis: 'x' | 'y', event: PointerEvent] }>()

const unit = computed(() => (units.value === 'in' ? 25_400 : 10_000))
const parts = computed(() => (units.value === 'in' ? 8 : 10))
/** Ticks of a ruler, as far apart as can be seen, each long one with its number. */
function ticks(length: number) {
  const small = unit.value / parts.value
  const every = [1, 2, 5, 10, 20, 50].find((n) => small * n * props.scale >= 3.5) ?? 100
  const step = small * every
  const apart = [1, 2, 5, 10].find((n) => unit.value * n * props.scale >= 24) ?? 20
  return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => {
    const at = i * step
    const long = Math.abs(at % (unit.value * apart)) < 1
    const number = Math.round(at / unit.value) * (units.value === 'mm' ? 10 : 1)
    return { at, long, number: long ? String(number) : '' }
  })
}
const across = computed(() => ticks(props.art.width))
const down = computed(() => ticks(props.art.height))
const thick = 15
</script>

<template>
  <svg
    class="ruler"
    :style="{ left: 0, top: `${-thick}px`, cursor: 's-resize' }"
    :width="art.width * scale"
    :height="thick"
    data-testid="ruler-top"
    aria-hidden="true"
    @pointerdown.stop="emit('pull', 'y', $event)"
  >
    <g v-for="tick in across" :key="tick.at">
      <line :x1="tick.at * scale" :x2="tick.at * scale" :y1="tick.long ? 6 : 11" :y2="thick" />
      <text :x="tick.at * scale + 2" y="9">{{ tick.number }}</text>
    </g>
  </svg>
  <svg
    class="ruler"
    :style="{ top: 0, left: `${-thick}px`, cursor: 'e-resize' }"
    :width="thick"
    :height="art.height * scale"
    data-testid="ruler-left"
    aria-hidden="true"
    @pointerdown.stop="emit('pull', 'x', $event)"
  >
    <g v-for="tick in down" :key="tick.at">
      <line :y1="tick.at * scale" :y2="tick.at * scale" :x1="tick.long ? 6 : 11" :x2="thick" />
      <text :x="-tick.at * scale - 2" y="9" transform="rotate(-90)" text-anchor="end">{{ tick.number }}</text>
    </g>
  </svg>
</template>

<style scoped>
.ruler {
  position: absolute;
  background: var(--paper);
  touch-action: none;
}
line {
  stroke: var(--quiet);
}
text {
  font-size: 9px;
  fill: var(--ink);
}
</style>
