<script setup lang="ts">
import { api } from '@/api/client'
import type { Stock } from '@/api/documents'
import { useAsked } from '@/shared/useAsked'

/** The web that comes out of a printer: the last printed labels at the head's side, then the next. */
const props = defineProps<{
  printerId: number
  camera: boolean
  stock?: Stock
  version: number
  name: string
}>()

const { data: web } = useAsked((signal) =>
  props.camera && props.version >= 0
    ? api.GET('/printers/{id}/web', {
        params: { path: { id: props.printerId }, query: { skip: -3, most: 3 } },
        signal,
      })
    : undefined,
)

const height = 42
const across = (stock: Stock) => {
  const lanes = Math.max(stock.lanes ?? 1, 1)
  if (stock.sheet) return stock.sheet.width
  return lanes * stock.width * (stock.sleeve?.faces ?? 1) + (lanes - 1) * (stock.laneGap ?? 0)
}
const along = (stock: Stock) => stock.sheet?.height ?? stock.length
/** Low rows are not blown up to the height of the web: they would be wider than the screen. */
const scale = (stock: Stock) => Math.min(height / along(stock), 190 / across(stock))
const blank = (stock: Stock) => ({
  width: `${across(stock) * scale(stock)}px`,
  height: `${along(stock) * scale(stock)}px`,
  backgroundColor: stock.colour,
  borderRadius: `${Math.max((stock.cornerRadius ?? 0) * scale(stock), stock.shape === 'rounded' ? 3 : 0)}px`,
})
</script>

<template>
  <div class="out">
    <div class="head" title="The print head" />
    <div class="web" :class="{ close: stock?.kind === 'tape' }">
      <template v-if="stock">
        <RouterLink
          v-for="place in (web?.places ?? []).toReversed()"
          :key="place"
          class="label printed"
          :to="`/floor/${printerId}/web`"
          :style="blank(stock)"
          :aria-label="`Label ${place} that came out of ${name}`"
        >
          <img :src="`/api/printers/${printerId}/web/${place}`" alt="" />
        </RouterLink>
        <span v-for="n in 70" :key="`blank ${n}`" class="label" :style="blank(stock)" />
      </template>
      <p v-else class="quiet none">Nothing is known of what is loaded.</p>
    </div>
  </div>
</template>

<style scoped>
.out {
  display: flex;
  min-width: 0;
}
.head {
  flex: none;
  width: 4px;
  background: var(--ink);
}
.web {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 7px;
  overflow: hidden;
  padding: 6px 7px;
  background: var(--liner);
  border-block: 1px solid var(--liner-edge);
}
.web.close {
  gap: 1px;
}
.label {
  flex: none;
  display: block;
  overflow: hidden;
  background: var(--web);
  opacity: 0.75;
}
.label.printed {
  background: var(--label);
  opacity: 1;
}
.label img {
  display: block;
  width: 100%;
  height: 100%;
}
.none {
  padding: 20px;
  color: var(--on-liner);
}
</style>
