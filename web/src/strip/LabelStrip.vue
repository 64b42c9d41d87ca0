<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { artworkSize, type Design } from '@/api/documents'
import { dotsPerMicrometre } from '@/shared/format'
import type { StripLabel } from './useStrip'

/**
 * The web as it leaves the printer, to scale, with one label in hand. It lies along the screen when
 * the artwork reads along the feed, and stands upright when it reads across it.
 */
const props = defineProps<{
  design: Design
  labels: ReadonlyMap<number, StripLabel>
  order: readonly number[]
  at: number
  zoom: 'fit' | 'true'
  notes?: ReadonlyMap<number, string>
}>()
const emit = defineEmits<{ walk: [by: number]; go: [at: number]; room: [labels: number] }>()
defineSlots<{ hand(p: { scale: number; label: StripLabel | undefined }): unknown }>()

const frame = ref<HTMLElement>()
const { width: frameW, height: frameH } = useElementSize(frame)

const lying = computed(() => props.design.turn === 90 || props.design.turn === 270)
const art = computed(() => artworkSize(props.design))
const captionHeight = 26

/** Pixels in a micrometre. Dots that come out nearly one to one are shown just so. */
const scale = computed(() => {
  if (props.zoom === 'true') return 96 / 25_400
  const web =
    props.design.stock.width + (props.design.stock.edgeLeft ?? 0) + (props.design.stock.edgeRight ?? 0)
  const across = lying.value ? frameH.value - 2 * captionHeight - 10 : frameW.value
  const along = lying.value ? frameW.value : frameH.value - captionHeight
  const fit = Math.min(across / web, (along * 0.9) / props.design.stock.length)
  const dots = dotsPerMicrometre(props.design.printer.resolution)
  const whole = Math.floor(fit / dots)
  return whole >= 1 && fit / dots < whole + 0.25 ? whole * dots : Math.max(fit, 0.0005)
})

const px = (length: number) => length * scale.value
const label = computed(() => ({ w: px(art.value.width), h: px(art.value.height) }))
const gap = computed(() => Math.max(px(props.design.stock.gap), captionHeight))
const radius = computed(() =>
  px(props.design.stock.shape === 'rounded' ? (props.design.stock.cornerRadius ?? 0) : 0),
)
const pitch = computed(() =>
  lying.value ? label.value.w + px(props.design.stock.gap) : label.value.h + gap.value,
)

/** Where the label in hand begins: the one before peeks out. */
const handAt = computed(() => {
  if (!lying.value) return props.at === 0 ? 18 : Math.min(label.value.h * 0.22, 60) + gap.value
  return Math.max(
    Math.min((frameW.value - label.value.w) / 2, label.value.w * 0.5),
    px(props.design.stock.gap),
  )
})
const webSize = computed(() => {
  const s = props.design.stock
  return px(s.width + (s.edgeLeft ?? 0) + (s.edgeRight ?? 0))
})

interface Place {
  key: string
  position: number
  record: number
  inHand: boolean
  style: Record<string, string>
}
const places = computed<Place[]>(() => {
  const room = lying.value ? frameW.value : frameH.value
  const made: Place[] = []
  for (let position = props.at - 2; position < props.order.length; position++) {
    const offset = handAt.value + (position - props.at) * pitch.value
    if (offset > room) break
    const record = props.order[position]
    if (record === undefined || offset + pitch.value < 0) continue
    made.push({
      key: String(record),
      position,
      record,
      inHand: position === props.at,
      style: { [lying.value ? 'left' : 'top']: `${String(offset)}px`, width: `${String(label.value.w)}px` },
    })
  }
  return made
})

/** How many labels, from the one in hand on, there is room for. */
const room = computed(() =>
  Math.max(
    1,
    Math.ceil(((lying.value ? frameW.value : frameH.value) - handAt.value) / Math.max(pitch.value, 1)),
  ),
)
watch(room, (labels) => emit('room', labels), { immediate: true })

let wheeled = 0
function wheel(event: WheelEvent) {
  wheeled += event.deltaY + event.deltaX
  const steps = Math.trunc(wheeled / 60)
  if (!steps) return
  wheeled = 0
  emit('walk', Math.sign(steps))
}

function worst(record: number): 'error' | 'warning' | undefined {
  const findings = props.labels.get(record)?.findings ?? []
  if (findings.some((f) => f.level === 'error')) return 'error'
  return findings.length ? 'warning' : undefined
}
function caption(place: Place): string {
  return props.notes?.get(place.record) ?? props.labels.get(place.record)?.findings[0]?.text ?? ''
}
</script>

<template>
  <div ref="frame" class="strip" :class="{ lying }" @wheel.prevent="wheel">
    <div class="web" :style="lying ? { height: `${webSize}px` } : { width: `${webSize}px` }" />
    <div
      v-for="place in places"
      :key="place.key"
      class="spot"
      :class="{ hand: place.inHand }"
      :style="{
        ...place.style,
        [lying ? 'top' : 'left']: lying
          ? `calc(50% - ${label.h / 2}px - 4px)`
          : `calc(50% - ${label.w / 2}px)`,
      }"
    >
      <div
        class="label"
        :style="{ width: `${label.w}px`, height: `${label.h}px`, borderRadius: `${radius}px` }"
        @click="!place.inHand && emit('go', place.position)"
      >
        <img
          v-if="labels.get(place.record)"
          :src="labels.get(place.record)?.picture"
          :alt="`Label of record ${place.record}`"
          :style="{ borderRadius: `${radius}px` }"
          decoding="sync"
          draggable="false"
        />
        <slot v-if="place.inHand" name="hand" :scale :label="labels.get(place.record)" />
      </div>
      <p class="caption">
        <span class="which">{{ place.record }}<template v-if="place.inHand"> · in hand</template></span>
        <span v-if="worst(place.record)" :class="worst(place.record) === 'error' ? 'bad' : 'warn'">
          <span aria-hidden="true">{{ worst(place.record) === 'error' ? '■' : '▲' }}</span>
          {{ caption(place) }}
        </span>
        <span v-else-if="caption(place)" class="note">{{ caption(place) }}</span>
      </p>
    </div>
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  overflow: hidden;
  background: var(--sunken);
}
.web {
  position: absolute;
  background: var(--liner);
  inset-block: 0;
  left: 50%;
  transform: translateX(-50%);
  border-inline: 1px solid var(--liner-edge);
}
.lying .web {
  inset-block: auto;
  inset-inline: 0;
  left: 0;
  top: calc(50% - 4px);
  transform: translateY(-50%);
  border-inline: 0;
  border-block: 1px solid var(--liner-edge);
}
.spot {
  position: absolute;
}
.label {
  position: relative;
  background: #fff;
}
.label img {
  display: block;
  width: 100%;
  height: 100%;
  user-select: none;
}
.spot:not(.hand) .label {
  cursor: pointer;
}
.hand .label {
  box-shadow:
    0 0 0 2px var(--liner),
    0 0 0 5px var(--accent);
}
.caption {
  display: flex;
  gap: 10px;
  height: 22px;
  padding: 3px 4px 0;
  font-size: 12.5px;
  line-height: 18px;
  white-space: nowrap;
  overflow: hidden;
}
.caption > span {
  background: var(--paper);
  border-radius: 4px;
  padding: 0 6px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.which {
  flex: none;
  font-weight: 600;
}
.hand .which {
  color: var(--accent);
}
.note {
  color: var(--quiet);
}
</style>
