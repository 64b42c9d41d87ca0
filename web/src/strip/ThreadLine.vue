<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'

/** The whole batch as one thin line: a knot where a finding is, a ring round what is in hand. */
const props = defineProps<{
  total: number
  inHand: number
  knots: readonly Schemas['Knot'][]
  upright: boolean
}>()
const emit = defineEmits<{ go: [record: number] }>()

const line = ref<HTMLElement>()
const { width, height } = useElementSize(line)
const long = computed(() => Math.max((props.upright ? height.value : width.value) - 24, 1))
const at = (record: number) => 12 + ((record - 0.5) / Math.max(props.total, 1)) * long.value
/** A tick a label, as long as there is room to tell them apart. */
const ticks = computed(() => {
  const step = Math.max(1, Math.ceil(props.total / (long.value / 4)))
  return Array.from({ length: Math.ceil(props.total / step) }, (_, i) => at(i * step + 1))
})

function click(event: MouseEvent) {
  const way = props.upright ? event.offsetY : event.offsetX
  const record = Math.ceil(((way - 12) / long.value) * props.total)
  emit('go', Math.min(Math.max(record, 1), props.total))
}
/** Keys of a slider (WAI-ARIA Authoring Practices, slider). */
const strides: Record<string, number> = {
  ArrowLeft: -1,
  ArrowUp: -1,
  ArrowRight: 1,
  ArrowDown: 1,
  PageUp: -10,
  PageDown: 10,
  Home: -Infinity,
  End: Infinity,
}
function key(event: KeyboardEvent) {
  const by = strides[event.key]
  if (by === undefined) return
  event.preventDefault()
  event.stopPropagation()
  emit('go', Math.min(Math.max(props.inHand + by, 1), Math.max(props.total, 1)))
}
const place = (offset: number) => (props.upright ? { x: 14, y: offset } : { x: offset, y: 14 })
</script>

<template>
  <div
    ref="line"
    class="thread"
    role="slider"
    tabindex="0"
    aria-label="Record in hand"
    :aria-orientation="upright ? 'vertical' : 'horizontal'"
    aria-valuemin="1"
    :aria-valuemax="Math.max(total, 1)"
    :aria-valuenow="inHand"
    :aria-valuetext="`record ${inHand} of ${Math.max(total, 1)}`"
    @click="click"
    @keydown="key"
  >
    <svg :width="upright ? 28 : width" :height="upright ? height : 28" aria-hidden="true">
      <path
        :d="ticks.map((o) => (upright ? `M11 ${o}h6` : `M${o} 11v6`)).join('')"
        stroke="var(--control)"
        stroke-width="1"
        fill="none"
      />
      <rect
        v-for="knot in knots"
        :key="knot.record"
        :x="place(at(knot.record)).x - (upright ? 7 : 2)"
        :y="place(at(knot.record)).y - (upright ? 2 : 7)"
        :width="upright ? 14 : 4"
        :height="upright ? 4 : 14"
        :fill="knot.level === 'error' ? 'var(--bad)' : 'var(--warn)'"
      />
      <circle
        v-if="total"
        :cx="place(at(inHand)).x"
        :cy="place(at(inHand)).y"
        r="9"
        fill="none"
        stroke="var(--accent)"
        stroke-width="2.5"
      />
    </svg>
  </div>
</template>

<style scoped>
.thread {
  cursor: pointer;
  overflow: hidden;
  background: var(--paper);
  min-width: 28px;
  min-height: 28px;
}
svg {
  display: block;
  pointer-events: none;
}
</style>
