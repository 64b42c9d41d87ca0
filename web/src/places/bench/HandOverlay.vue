<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Design, Element } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import type { StripLabel } from '@/strip/useStrip'
import { type Moves, type Place, touched } from './arrange'
import { codeResized, resized } from './elements'

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
}>()
const emit = defineEmits<{
  choose: [id: string | undefined, besides: boolean]
  chooseAll: [ids: string[]]
  change: [id: string, to: Partial<Element>]
  move: [moves: Moves]
  done: []
  drop: [field: string, at: { x: number; y: number }, on: string | undefined, event: DragEvent]
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
const hasFinding = (id: string) => props.label?.findings.some((f) => f.element === id)

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
) {
  const stepped = facts && codeResized(begun, element.turn ?? 0, facts, handle, dx, dy)
  if (!stepped || !element.code) {
    emit('change', element.id, resized(begun, handle, dx, dy))
    return
  }
  const module = Math.round(stepped.dots * props.dot)
  told.value = `${plural(stepped.dots, 'dot')} · ${lengthText(module, 3)} a module`
  emit('change', element.id, { ...stepped.box, code: { ...element.code, module } })
}

/** A gesture from one pointer down to its up: a move, or the drag of a handle. */
function drag(down: PointerEvent, element: Element, handle?: string) {
  if (element.locked) return
  const target = down.currentTarget as HTMLElement
  target.setPointerCapture(down.pointerId)
  const begun = { x: element.x, y: element.y, width: element.width, height: element.height }
  const together = props.group.some((e) => e.id === element.id) ? props.group : [element]
  const from = together.filter((e) => !e.locked).map(({ id, x, y }) => ({ id, x, y }))
  const facts = props.label?.parts.find((p) => p.element === element.id)?.code
  let moved = false
  const whole = (length: number) => Math.round(Math.round(length / props.dot) * props.dot)
  const move = (event: PointerEvent) => {
    const dx = whole((event.clientX - down.clientX) / props.scale)
    const dy = whole((event.clientY - down.clientY) / props.scale)
    if (!moved && Math.abs(event.clientX - down.clientX) + Math.abs(event.clientY - down.clientY) < 3) return
    moved = true
    if (handle) resize(element, begun, handle, dx, dy, facts)
    else emit('move', new Map(from.map(({ id, x, y }) => [id, { x: x + dx, y: y + dy }])))
  }
  const end = () => {
    target.removeEventListener('pointermove', move)
    target.removeEventListener('pointerup', end)
    target.removeEventListener('pointercancel', end)
    told.value = ''
    if (moved) emit('done')
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
  if (!props.group.some((e) => e.id === element.id)) emit('choose', element.id, false)
  drag(event, element)
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
  if (!field || !rect) return
  const at = { x: (event.clientX - rect.left) / props.scale, y: (event.clientY - rect.top) / props.scale }
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
      class="box"
      :class="{
        together: group.length > 1 && group.includes(element),
        finding: hasFinding(element.id),
        locked: element.locked,
      }"
      :style="boxStyle(element)"
      :data-element="element.id"
      @pointerdown="press($event, element)"
    />
    <div v-if="marquee" class="marquee" :style="boxStyle(marquee)" />
    <template v-if="chosen && group.length < 2">
      <div v-if="real" class="real" :style="real" />
      <div class="frame" :style="boxStyle(chosen)">
        <span
          v-for="handle in chosen.locked ? [] : handles"
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
.box:hover {
  outline: 1px dashed var(--accent);
}
.box.locked {
  cursor: default;
}
.box.finding {
  outline: 2px solid #c77700;
}
.box.together {
  outline: 1.5px solid #5a2a6b;
}
.marquee {
  position: absolute;
  border: 1px dashed #5a2a6b;
  background: #5a2a6b14;
  pointer-events: none;
}
.real {
  position: absolute;
  outline: 1px dotted #5a2a6b;
  pointer-events: none;
}
.frame {
  position: absolute;
  outline: 1.5px solid #5a2a6b;
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
  background: #fff;
  border: 2px solid #5a2a6b;
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
