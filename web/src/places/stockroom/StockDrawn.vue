<script setup lang="ts">
import { computed } from 'vue'
import type { Stock } from '@/api/documents'
import { drawing } from '@/theme'
import { drawStock } from './pieces'

/** A stock as it hangs from the printer, at so many pixels a millimetre. */
const props = defineProps<{ stock: Stock; scale: number; tall: number; name: string }>()
const drawn = computed(() => drawStock(props.stock, props.tall))
const strokes = { mark: 'none', inlay: drawing.antenna, chip: 'none' } as Record<string, string>
const clear = { clear: 0.55, round: 0.9 } as Record<string, number>
</script>

<template>
  <svg
    :width="Math.max(drawn.width * scale, 2)"
    :height="tall * scale"
    :viewBox="`0 0 ${Math.max(drawn.width, 0.1)} ${Math.max(tall, 0.1)}`"
    role="img"
    :aria-label="name"
  >
    <rect
      v-for="(s, i) in drawn.shapes"
      :key="i"
      :x="s.x"
      :y="s.y"
      :width="Math.max(s.w, 0)"
      :height="Math.max(s.h, 0)"
      :rx="s.rx"
      :ry="s.ry"
      :fill="s.fill"
      :fill-opacity="clear[s.kind] ?? 1"
      :stroke="strokes[s.kind] ?? drawing.outline"
      :stroke-width="s.kind === 'clear' ? 0.25 : 0.35"
      :stroke-dasharray="s.kind === 'clear' || s.kind === 'round' ? '1.2 1.2' : undefined"
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
</style>
