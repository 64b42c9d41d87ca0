<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Design } from '@/api/documents'
import { dotsPerMicrometre } from '@/shared/format'
import type { StripLabel } from './useStrip'

/**
 * The web as it leaves the printer, to scale, with one label in hand. It lies along the screen when
 * the artwork reads along the feed, and stands upright when it reads across it.
 */
const props = defineProps<{
  design: Design
  /** Size of the artwork, in dots: where a legend is repeated, a label has it several times. */
  art: { width: number; height: number }
  labels: ReadonlyMap<number, StripLabel>
  order: readonly number[]
  at: number
  zoom: 'fit' | 'true'
  notes?: ReadonlyMap<number, string>
}>()
const emit = defineEmits<{ walk: [by: number]; go: [at: number]; room: [labels: number] }>()
defineSlots<{
  hand(p: { scale: number; label: StripLabel | undefined; art: { width: number; height: number } }): unknown
}>()

const frame = ref<HTMLElement>()
const { width: frameW, height: frameH } = useElementSize(frame)

const stock = computed(() => props.design.stock)
const lying = computed(() => props.design.turn === 90 || props.design.turn === 270)
const captionHeight = 26

/** Micrometres in a dot. */
const dot = computed(() => 1 / dotsPerMicrometre(props.design.printer.resolution))

/** The piece of a record as its artwork is read, in micrometres; as the stock has it until it is drawn. */
function piece(record: number | undefined) {
  const label = record === undefined ? undefined : props.labels.get(record)
  if (label) return { width: label.width * dot.value, height: label.height * dot.value }
  const { width, length } = stock.value
  return lying.value ? { width: length, height: width } : { width, height: length }
}
const inHand = computed(() => piece(props.order[props.at]))
const web = computed(
  () =>
    (lying.value ? inHand.value.height : inHand.value.width) +
    (stock.value.edgeLeft ?? 0) +
    (stock.value.edgeRight ?? 0),
)

/** The length that must be in sight; of a piece that grows as it is typed, in steps of 20 mm. */
const longest = computed(() => {
  const length = lying.value ? inHand.value.width : inHand.value.height
  if (!stock.value.tape?.byContent) return Math.max(length, 1)
  return Math.ceil(Math.max(length, stock.value.length, 1) / 20_000) * 20_000
})

/** Pixels in a micrometre. Dots that come out nearly one to one are shown just so. */
const scale = computed(() => {
  if (props.zoom === 'true') return 96 / 25_400
  const across = lying.value ? frameH.value - 2 * captionHeight - 10 : frameW.value
  const along = lying.value ? frameW.value : frameH.value - captionHeight
  const fit = Math.min(across / web.value, (along * 0.9) / longest.value)
  const dots = 1 / dot.value
  const whole = Math.floor(fit / dots)
  return whole >= 1 && fit / dots < whole + 0.25 ? whole * dots : Math.max(fit, 0.0005)
})

const px = (length: number) => length * scale.value
/** The clear tail of a wrap lies on the web behind its print zone, and is drawn there. */
const tail = computed(() => px(stock.value.wrap?.tail ?? 0))
const gap = computed(() => {
  const between = px(stock.value.gap)
  return lying.value
    ? Math.max(between, stock.value.kind === 'tape' ? 2 : 0)
    : Math.max(between, captionHeight)
})
const radius = computed(() => {
  if (stock.value.shape === 'circle' || stock.value.shape === 'ellipse') return '50%'
  return `${String(stock.value.shape === 'rounded' ? px(stock.value.cornerRadius ?? 0) : 0)}px`
})
const along = (record: number | undefined) => {
  const size = piece(record)
  return px(lying.value ? size.width : size.height)
}

/** Where the label in hand begins: the one before peeks out. */
const handAt = computed(() => {
  const { width, height } = inHand.value
  if (!lying.value) return props.at === 0 ? 18 : Math.min(px(height) * 0.22, 60) + gap.value
  return Math.max(Math.min((frameW.value - px(width)) / 2, px(width) * 0.5), Math.min(gap.value, 60))
})
const webSize = computed(() => px(web.value))

interface Place {
  key: string
  position: number
  record: number
  inHand: boolean
  width: number
  height: number
  at: number
}
const places = computed<Place[]>(() => {
  const room = lying.value ? frameW.value : frameH.value
  const made: Place[] = []
  const add = (position: number, at: number) => {
    const record = props.order[position]
    if (record === undefined) return
    const size = piece(record)
    made.push({
      key: String(record),
      position,
      record,
      inHand: position === props.at,
      width: px(size.width),
      height: px(size.height),
      at,
    })
  }
  let before = handAt.value
  for (let position = props.at - 1; position >= Math.max(props.at - 3, 0) && before > 0; position--) {
    before -= along(props.order[position]) + gap.value
    add(position, before)
  }
  let at = handAt.value
  for (let position = props.at; position < props.order.length && at < room; position++) {
    add(position, at)
    at += along(props.order[position]) + gap.value
  }
  return made.sort((a, b) => a.position - b.position)
})

/** Holes of a plate where they are on the artwork, in pixels. */
const holes = computed(() => {
  const { width, length, plate } = stock.value
  return (plate?.holes ?? []).map((h) => {
    const turned = {
      0: [h.x, h.y],
      90: [h.y, width - h.x],
      180: [width - h.x, length - h.y],
      270: [length - h.y, h.x],
    }
    const [x = 0, y = 0] = turned[props.design.turn ?? 0]
    return {
      left: `${String(px(x - h.diameter / 2))}px`,
      top: `${String(px(y - h.diameter / 2))}px`,
      width: `${String(px(h.diameter))}px`,
      height: `${String(px(h.diameter))}px`,
    }
  })
})
/** What of a flag goes round the cable, as a share of its length. */
const round = computed(() => {
  const flag = stock.value.flag
  return flag
    ? {
        from: (50 * (stock.value.length - flag.round)) / stock.value.length,
        size: (100 * flag.round) / stock.value.length,
      }
    : undefined
})

/** How many labels, from the one in hand on, there is room for. */
const room = computed(() =>
  Math.max(
    1,
    Math.ceil(
      ((lying.value ? frameW.value : frameH.value) - handAt.value) /
        Math.max(along(props.order[props.at]) + gap.value, 1),
    ),
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
        [lying ? 'left' : 'top']: `${place.at}px`,
        width: `${place.width}px`,
        [lying ? 'top' : 'left']: lying
          ? `calc(50% - ${place.height / 2}px - 4px)`
          : `calc(50% - ${place.width / 2}px)`,
      }"
    >
      <span
        v-if="tail"
        class="tail"
        :style="
          lying
            ? { left: `${place.width}px`, width: `${tail}px`, height: `${place.height}px` }
            : { top: `${place.height}px`, height: `${tail}px`, width: `${place.width}px` }
        "
      />
      <div
        class="label"
        :style="{
          width: `${place.width}px`,
          height: `${place.height}px`,
          borderRadius: radius,
          backgroundColor: stock.colour,
        }"
        @click="!place.inHand && emit('go', place.position)"
      >
        <img
          v-if="labels.get(place.record)"
          :src="labels.get(place.record)?.picture"
          :alt="`Label of record ${place.record}`"
          :style="{ borderRadius: radius }"
          decoding="sync"
          draggable="false"
        />
        <span v-for="(hole, i) in holes" :key="i" class="hole" :style="hole" />
        <span
          v-if="round"
          class="round"
          :style="
            lying
              ? { left: `${round.from}%`, width: `${round.size}%`, top: 0, bottom: 0 }
              : { top: `${round.from}%`, height: `${round.size}%`, left: 0, right: 0 }
          "
        />
        <slot
          v-if="place.inHand"
          name="hand"
          :scale
          :label="labels.get(place.record)"
          :art="{ width: art.width * dot, height: art.height * dot }"
        />
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
  contain: strict;
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
.tail {
  position: absolute;
  background: repeating-linear-gradient(135deg, #ffffff80 0 6px, #ffffff30 6px 12px);
  outline: 1px dashed var(--liner-edge);
  outline-offset: -1px;
}
.hole {
  position: absolute;
  border-radius: 50%;
  background: var(--sunken);
  box-shadow: inset 0 0 0 1px var(--control);
}
.round {
  position: absolute;
  border: 1px dashed var(--control);
  background: #7a7f8514;
  pointer-events: none;
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
