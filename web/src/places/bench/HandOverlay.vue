<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Design, Element } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import type { StripLabel } from '@/strip/useStrip'
import { around, type Moves, type Place, touched } from './arrange'
import { codeResized, cropped, fromMiddle, isHollow, proportioned, resized } from './elements'
import RulerEdges from './RulerEdges.vue'
import { type Ground, type SnapLine, snapped, snappedHandle } from './snap'

/** What lies over the label in hand: the boxes of its elements, and the handles of the chosen one. */
const props = defineProps<{
  design: Design
  art: { width: number; height: number }
  chosenId: string | undefined
  /** All that are chosen together. */
  group: readonly Element[]
  scale: number
  /** Micrometres in a dot. */
  dot: number
  label: StripLabel | undefined
  asking: boolean
  rulers: boolean
}>()
/** Lines that a person laid on the label to place things by, in micrometres. */
const guides = defineModel<{ x: number[]; y: number[] }>('guides', { required: true })
const emit = defineEmits<{
  choose: [id: string | undefined, besides: boolean]
  chooseAll: [ids: string[]]
  change: [id: string, to: Partial<Element>]
  move: [moves: Moves]
  done: []
  drop: [field: string, at: { x: number; y: number }, on: string | undefined, event: DragEvent]
  file: [file: File, at: { x: number; y: number }]
}>()

const frame = ref<HTMLElement>()
const over = ref(false)
const px = (length: number) => `${String(length * props.scale)}px`
const boxStyle = (e: Omit<Place, 'id'>) => ({
  left: px(e.x),
  top: px(e.y),
  width: px(e.width),
  height: px(e.height),
})
const chosen = computed(() => props.design.elements.find((e) => e.id === props.chosenId))
const handles = ['nw', 'n', 'ne', 'e', 'se', 's', 'sw', 'w']

/** What the chosen element really takes, where that is not its box. */
const real = computed(() => {
  const part = props.label?.parts.find((p) => p.element === props.chosenId)
  if (!part || !chosen.value || (chosen.value.kind !== 'text' && chosen.value.kind !== 'code'))
    return undefined
  const { x, y, w, h } = part.real
  return {
    left: px(x * props.dot),
    top: px(y * props.dot),
    width: px(w * props.dot),
    height: px(h * props.dot),
  }
})
/** Where an element is taken hold of: a frame where it follows to, all else where it was put. */
function placeOf(e: Element): Omit<Place, 'id'> {
  const part = e.around && props.label?.parts.find((p) => p.element === e.id)
  if (!part) return { x: e.x, y: e.y, width: e.width, height: e.height }
  const { x, y, w, h } = part.real
  return { x: x * props.dot, y: y * props.dot, width: w * props.dot, height: h * props.dot }
}
const hasFinding = (id: string) => props.label?.findings.some((f) => f.element === id)

/** Classes of an element's box. */
const looksOf = (element: Element) =>
  [
    props.group.length > 1 && props.group.includes(element) && 'together',
    hasFinding(element.id) && 'finding',
    element.locked && 'locked',
    element.hidden && 'hidden',
    element.when && isAbsent(element.id) && 'absent',
  ]
    .filter(Boolean)
    .join(' ')
const isAbsent = (id: string) => props.label?.parts.find((p) => p.element === id)?.absent

/** What is told while a code is dragged larger or smaller: its module. */
const told = ref('')

/** Makes the chosen element another size; a code goes in steps of whole dots a module. */
function resize(
  element: Element,
  begun: Pick<Element, 'x' | 'y' | 'width' | 'height'>,
  handle: string,
  dx: number,
  dy: number,
  facts: NonNullable<StripLabel['parts'][number]['code']> | undefined,
  keys: { shiftKey: boolean; altKey: boolean },
) {
  const stepped = facts && codeResized(begun, element.turn ?? 0, facts, handle, dx, dy)
  if (!stepped || !element.code) {
    let to = resized(begun, handle, dx, dy)
    if (keys.shiftKey || (element.picture && !element.picture.stretch)) to = proportioned(begun, to, handle)
    if (keys.altKey) to = fromMiddle(begun, to)
    emit('change', element.id, to)
    return
  }
  const module = Math.round(stepped.dots * props.dot)
  told.value = `${plural(stepped.dots, 'dot')} · ${lengthText(module, 3)} a module`
  emit('change', element.id, { ...stepped.box, code: { ...element.code, module } })
}

/** What is snapped to while these are moved, within some pixels. */
const snapReach = 6
const snapLines = ref<SnapLine[]>([])
function groundFor(moving: ReadonlySet<string>): Ground {
  return {
    width: props.art.width,
    height: props.art.height,
    keep: props.design.stock.keep ?? 0,
    guides: guides.value,
    others: props.design.elements.filter((e) => !moving.has(e.id) && !e.hidden).map(placeOf),
    baselines: standsOf((id) => !moving.has(id)),
  }
}
/** What the words of some elements stand on, from the top of the label. */
const standsOf = (wanted: (id: string) => boolean) =>
  props.label?.parts.flatMap((p) =>
    wanted(p.element) && !p.absent ? (p.stands ?? []).map((dots) => dots * props.dot) : [],
  ) ?? []
const lineStyle = (l: SnapLine) =>
  l.axis === 'x'
    ? { left: px(l.at), top: px(l.from), height: px(l.to - l.from), width: '1px' }
    : { top: px(l.at), left: px(l.from), width: px(l.to - l.from), height: '1px' }

/** How wide an outline is to be hit on, in pixels. */
const grip = 12

/** Elements that a press at a place of the artwork may mean, from front to back. */
function elementsAt(x: number, y: number): Element[] {
  const reach = grip / 2 / props.scale
  return [...props.design.elements].reverse().filter((e) => {
    if (e.hidden || (e.kind === 'tag' && !props.group.includes(e))) return false
    const { x: left, y: top, width, height } = placeOf(e)
    const inside = (by: number) =>
      x >= left - by && x <= left + width + by && y >= top - by && y <= top + height + by
    return isHollow(e) ? inside(reach) && !inside(-reach) : inside(0)
  })
}
/** A second press on what is chosen takes what lies below it there, and at last the first again. */
function chooseBelow(event: PointerEvent, element: Element) {
  const rect = frame.value?.getBoundingClientRect()
  if (!rect) return
  const here = elementsAt((event.clientX - rect.left) / props.scale, (event.clientY - rect.top) / props.scale)
  const next = here[(here.findIndex((e) => e.id === element.id) + 1) % here.length]
  if (next && next.id !== element.id) emit('choose', next.id, false)
}

/** A gesture from one pointer down to its up: a move, or the drag of a handle. Ctrl keeps it from snapping. */
function drag(down: PointerEvent, element: Element, handle?: string, wasChosen = true) {
  if (element.locked || element.around) return
  const target = down.currentTarget as HTMLElement
  target.setPointerCapture(down.pointerId)
  const begun = { x: element.x, y: element.y, width: element.width, height: element.height }
  const begunCrop = element.picture
  const together = props.group.some((e) => e.id === element.id) ? props.group : [element]
  const free = together.filter((e) => !e.locked && !e.around)
  const from = free.map(({ id, x, y }) => ({ id, x, y }))
  const bounds = around(free)
  const ground = groundFor(new Set(handle ? [element.id] : free.map((e) => e.id)))
  const stands = standsOf((id) => free.some((e) => e.id === id)).map((at) => at - bounds.y)
  const facts = props.label?.parts.find((p) => p.element === element.id)?.code
  let moved = false
  const whole = (length: number) => Math.round(Math.round(length / props.dot) * props.dot)
  const move = (event: PointerEvent) => {
    let dx = whole((event.clientX - down.clientX) / props.scale)
    let dy = whole((event.clientY - down.clientY) / props.scale)
    if (!moved && Math.abs(event.clientX - down.clientX) + Math.abs(event.clientY - down.clientY) < 3) return
    moved = true
    const reach = event.ctrlKey || (handle && facts) ? 0 : snapReach / props.scale
    const to = handle
      ? snappedHandle(resized(begun, handle, dx, dy), handle, ground, reach)
      : snapped({ ...bounds, x: bounds.x + dx, y: bounds.y + dy }, ground, reach, stands)
    snapLines.value = reach ? to.lines : []
    if (reach) {
      dx = Math.round(dx + to.dx)
      dy = Math.round(dy + to.dy)
    }
    if (handle && event.altKey && element.picture)
      emit('change', element.id, cropped(begun, begunCrop, handle, dx, dy))
    else if (handle) resize(element, begun, handle, dx, dy, facts, event)
    else emit('move', new Map(from.map(({ id, x, y }) => [id, { x: x + dx, y: y + dy }])))
  }
  const end = () => {
    target.removeEventListener('pointermove', move)
    target.removeEventListener('pointerup', end)
    target.removeEventListener('pointercancel', end)
    told.value = ''
    snapLines.value = []
    if (moved) emit('done')
    else if (wasChosen && !handle && props.group.length > 1) emit('choose', element.id, false)
    else if (wasChosen && !handle) chooseBelow(down, element)
  }
  target.addEventListener('pointermove', move)
  target.addEventListener('pointerup', end)
  target.addEventListener('pointercancel', end)
}

function press(event: PointerEvent, element: Element) {
  if (event.button !== 0) return
  event.stopPropagation()
  if (event.shiftKey) {
    emit('choose', element.id, true)
    return
  }
  const wasChosen = props.group.some((e) => e.id === element.id)
  if (!wasChosen) emit('choose', element.id, false)
  drag(event, element, undefined, wasChosen)
}

/** Pulls a guide out of a ruler, or moves one; beyond the label it is let go. */
function pull(axis: 'x' | 'y', down: PointerEvent, at?: number) {
  const rect = frame.value?.getBoundingClientRect()
  const target = down.currentTarget as HTMLElement
  if (!rect || down.button !== 0) return
  target.setPointerCapture(down.pointerId)
  const rest = guides.value[axis].filter((g) => g !== at)
  const lay = (event: PointerEvent) => {
    const length = axis === 'x' ? event.clientX - rect.left : event.clientY - rect.top
    const place = Math.round(length / props.scale / 100) * 100
    const most = axis === 'x' ? props.art.width : props.art.height
    guides.value = { ...guides.value, [axis]: place > 0 && place < most ? [...rest, place] : rest }
  }
  const end = () => {
    target.removeEventListener('pointermove', lay)
    target.removeEventListener('pointerup', end)
    target.removeEventListener('pointercancel', end)
  }
  target.addEventListener('pointermove', lay)
  target.addEventListener('pointerup', end)
  target.addEventListener('pointercancel', end)
}

/** A drag over the bare label chooses what it touches; a click on it, nothing. */
const marquee = ref<Omit<Place, 'id'>>()
function sweep(down: PointerEvent) {
  if (down.button !== 0) return
  const rect = frame.value?.getBoundingClientRect()
  const target = down.currentTarget as HTMLElement
  if (!rect) return
  if (!down.shiftKey) emit('choose', undefined, false)
  target.setPointerCapture(down.pointerId)
  const at = (event: PointerEvent) => ({
    x: (event.clientX - rect.left) / props.scale,
    y: (event.clientY - rect.top) / props.scale,
  })
  const first = at(down)
  const move = (event: PointerEvent) => {
    const { x, y } = at(event)
    if (!marquee.value && Math.abs(x - first.x) + Math.abs(y - first.y) < 3 / props.scale) return
    marquee.value = {
      x: Math.min(x, first.x),
      y: Math.min(y, first.y),
      width: Math.abs(x - first.x),
      height: Math.abs(y - first.y),
    }
  }
  const end = () => {
    target.removeEventListener('pointermove', move)
    target.removeEventListener('pointerup', end)
    target.removeEventListener('pointercancel', end)
    if (marquee.value) emit('chooseAll', touched(props.design.elements, marquee.value))
    marquee.value = undefined
  }
  target.addEventListener('pointermove', move)
  target.addEventListener('pointerup', end)
  target.addEventListener('pointercancel', end)
}

function drop(event: DragEvent) {
  over.value = false
  const field = event.dataTransfer?.getData('application/x-oddspool-field')
  const rect = frame.value?.getBoundingClientRect()
  if (!rect) return
  const at = { x: (event.clientX - rect.left) / props.scale, y: (event.clientY - rect.top) / props.scale }
  const file = event.dataTransfer?.files[0]
  if (file) emit('file', file, at)
  if (!field) return
  const under = [...props.design.elements]
    .reverse()
    .find((e) => e.says && at.x >= e.x && at.x <= e.x + e.width && at.y >= e.y && at.y <= e.y + e.height)
  emit('drop', field, at, under?.id, event)
}
</script>

<template>
  <div
    ref="frame"
    class="overlay"
    :class="{ over }"
    :style="{ width: px(art.width), height: px(art.height) }"
    data-testid="in-hand"
    @pointerdown="sweep"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <div
      v-for="element in design.elements"
      :key="element.id"
      v-memo="[element, scale, JSON.stringify(placeOf(element)), looksOf(element)]"
      class="box"
      :class="[looksOf(element), { chip: element.kind === 'tag', hollow: isHollow(element) }]"
      :style="boxStyle(placeOf(element))"
      :data-element="element.id"
      @pointerdown="press($event, element)"
    >
      <span v-if="element.kind === 'tag'" class="inlay">chip</span>
      <svg v-if="isHollow(element)" class="outline" aria-hidden="true">
        <ellipse v-if="element.kind === 'oval'" cx="50%" cy="50%" rx="50%" ry="50%" :stroke-width="grip" />
        <rect v-else width="100%" height="100%" :stroke-width="grip" />
      </svg>
    </div>
    <RulerEdges v-if="rulers" :art :scale @pull="pull" />
    <template v-for="axis in ['x', 'y'] as const" :key="axis">
      <div
        v-for="at in guides[axis]"
        :key="at"
        class="guide"
        :class="axis"
        :style="
          axis === 'x' ? { left: px(at), height: px(art.height) } : { top: px(at), width: px(art.width) }
        "
        :title="`Guide at ${lengthText(at)}; drag it off the label to let it go`"
        @pointerdown.stop="pull(axis, $event, at)"
      />
    </template>
    <div v-for="(l, i) in snapLines" :key="i" class="snap" :style="lineStyle(l)">
      <span v-if="l.told">{{ lengthText(l.told) }}</span>
    </div>
    <div v-if="marquee" class="marquee" :style="boxStyle(marquee)" />
    <template v-if="chosen && group.length < 2">
      <div v-if="real" class="real" :style="real" />
      <div class="frame" :style="boxStyle(placeOf(chosen))">
        <span
          v-for="handle in chosen.locked || chosen.around ? [] : handles"
          :key="handle"
          class="handle"
          :class="handle"
          :data-handle="handle"
          @pointerdown.stop="drag($event, chosen, handle)"
        />
        <span v-if="told" class="told" role="status">{{ told }}</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
/* Where the inlay lies: nothing that is printed, so it takes no press meant for what is. */
.chip {
  border: 1px dashed var(--note-edge);
  border-radius: 3px;
}
.chip:not(.chosen) {
  pointer-events: none;
}
.inlay {
  position: absolute;
  right: 2px;
  bottom: 0;
  padding: 0 3px;
  border-radius: 3px;
  background: var(--note);
  color: var(--on-note);
  font-size: 11px;
  line-height: 14px;
}
.overlay {
  position: absolute;
  inset: 0 auto auto 0;
  touch-action: none;
}
.overlay.over {
  background: color-mix(in srgb, var(--accent) 12%, transparent);
}
.box {
  position: absolute;
  cursor: move;
  min-width: 6px;
  min-height: 6px;
}
.hollow {
  pointer-events: none;
}
.outline {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
}
.outline > * {
  fill: none;
  stroke: transparent;
  pointer-events: stroke;
}
.box:hover {
  outline: 1px dashed var(--accent);
}
.box.locked {
  cursor: default;
}
.box.finding {
  outline: 2px solid var(--warn-mark);
}
.box.together {
  outline: 1.5px solid var(--hand);
}
.box.hidden,
.box.absent {
  outline: 1px dotted var(--quiet);
  background: repeating-linear-gradient(135deg, var(--hatch) 0 3px, transparent 3px 7px);
}
.guide {
  position: absolute;
  touch-action: none;
}
.guide.x {
  top: 0;
  width: 7px;
  margin-left: -3px;
  border-left: 1px dashed var(--guide);
  transform: translateX(3px);
  cursor: ew-resize;
}
.guide.y {
  left: 0;
  height: 7px;
  margin-top: -3px;
  border-top: 1px dashed var(--guide);
  transform: translateY(3px);
  cursor: ns-resize;
}
.snap {
  position: absolute;
  background: var(--snap);
  pointer-events: none;
}
.snap span {
  position: absolute;
  top: 50%;
  left: 50%;
  padding: 0 5px;
  border-radius: 3px;
  background: var(--snap);
  color: var(--on-snap);
  font-size: 11px;
  white-space: nowrap;
  transform: translate(4px, -50%);
}
.marquee {
  position: absolute;
  border: 1px dashed var(--hand);
  background: var(--hand-soft);
  pointer-events: none;
}
.real {
  position: absolute;
  outline: 1px dotted var(--hand);
  pointer-events: none;
}
.frame {
  position: absolute;
  outline: 1.5px solid var(--hand);
  pointer-events: none;
}
.told {
  position: absolute;
  top: calc(100% + 8px);
  left: 0;
  padding: 2px 8px;
  border-radius: 4px;
  background: var(--ink);
  color: var(--paper);
  font-size: 13px;
  white-space: nowrap;
}
.handle {
  position: absolute;
  width: 10px;
  height: 10px;
  background: var(--label);
  border: 2px solid var(--hand);
  pointer-events: auto;
  transform: translate(-50%, -50%);
}
.nw {
  left: 0;
  top: 0;
  cursor: nwse-resize;
}
.n {
  left: 50%;
  top: 0;
  cursor: ns-resize;
}
.ne {
  left: 100%;
  top: 0;
  cursor: nesw-resize;
}
.e {
  left: 100%;
  top: 50%;
  cursor: ew-resize;
}
.se {
  left: 100%;
  top: 100%;
  cursor: nwse-resize;
}
.s {
  left: 50%;
  top: 100%;
  cursor: ns-resize;
}
.sw {
  left: 0;
  top: 100%;
  cursor: nesw-resize;
}
.w {
  left: 0;
  top: 50%;
  cursor: ew-resize;
}
</style>
