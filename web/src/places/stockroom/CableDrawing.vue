<script setup lang="ts">
import { computed } from 'vue'
import type { Stock } from '@/api/documents'
import { drawing } from '@/theme'

/** The cable cut across with the stock round it: what is printed, and what lies clear over it. */
const props = defineProps<{ stock: Stock; cable: number }>()

const circumference = computed(() => Math.PI * props.cable)
/** Turns a length laid round the cable into an arc at a radius. */
function arc(from: number, length: number, radius: number): string {
  const turns = Math.min(length / circumference.value, 0.9999)
  const at = (share: number) => {
    const angle = 2 * Math.PI * (from / circumference.value + share) - Math.PI / 2
    return `${(radius * Math.cos(angle)).toFixed(2)} ${(radius * Math.sin(angle)).toFixed(2)}`
  }
  return `M${at(0)}A${radius} ${radius} 0 ${turns > 0.5 ? 1 : 0} 1 ${at(turns)}`
}
const print = computed(() => {
  if (props.stock.kind === 'wrap') return props.stock.length
  return props.stock.kind === 'flag' ? (props.stock.flag?.round ?? 0) : circumference.value
})
</script>

<template>
  <svg
    viewBox="-58 -50 116 100"
    width="150"
    height="129"
    role="img"
    :aria-label="`A cable of ${cable / 1000} mm cut across, with ${stock.name} round it`"
  >
    <circle r="30" fill="var(--sunken)" stroke="var(--control)" />
    <circle r="13" :fill="drawing.copper" />
    <path :d="arc(0, print, 33)" fill="none" stroke="var(--accent)" stroke-width="4" />
    <path
      v-if="stock.kind === 'wrap'"
      :d="arc(stock.length, stock.wrap?.tail ?? 0, 38)"
      fill="none"
      stroke="var(--control)"
      stroke-width="2"
      stroke-dasharray="4 3"
    />
    <path v-if="stock.kind === 'flag'" d="M-2 -33V-50M2 -33V-50" stroke="var(--accent)" stroke-width="2.5" />
    <text y="4" text-anchor="middle" font-size="11" font-weight="600" :fill="drawing.onCopper">
      {{ (cable / 1000).toFixed(1) }}
    </text>
  </svg>
</template>
