<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ref, watch } from 'vue'
import type { Design } from '@/api/documents'
import LevelText from '@/shared/LevelText.vue'
import LabelDots from './LabelDots.vue'
import type { StripLabel } from './useStrip'
import { type Place, useStripPlaces } from './useStripPlaces'

/**
 * The web as it leaves the printer, to scale, with one label in hand. It lies along the screen when
 * the artwork reads along the feed, and stands upright when it reads across it.
 */
const props = defineProps<{
  design: Design
  /** Size of the artwork, in dots: where a legend is repeated, a label has it several times. */
  art: { width: number; height: number }
  /** Micrometres in a dot. */
  dot: number
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

const { stock, lying, scale, tail, radius, holes, round, webSize, places, room } = useStripPlaces(
  props,
  frameW,
  frameH,
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
const roomForWords = 190 // pixels
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
        <LabelDots
          v-if="labels.get(place.record)"
          :label="labels.get(place.record)!"
          :name="`Label of record ${place.record}`"
          :style="{ borderRadius: radius }"
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
        <!-- Where there is no room for the words, the mark alone is seen. -->
        <LevelText v-if="worst(place.record)" :level="worst(place.record)!" :title="caption(place)"
          ><span :class="{ unseen: place.width < roomForWords }">{{ caption(place) }}</span></LevelText
        >
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
  background: var(--label);
}
.tail {
  position: absolute;
  background: repeating-linear-gradient(135deg, var(--veil) 0 6px, var(--veil-light) 6px 12px);
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
  background: var(--shade);
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
