<script setup lang="ts">
import { computed } from 'vue'

/** The border between the strip and the sheets, which can be moved by hand or by arrow keys; a double click puts it back. */
const props = defineProps<{ lying: boolean; usual: number }>()
/** Per cent of the room that the strip has. */
const share = defineModel<number>({ required: true })
const least = 24
const most = 76
const held = (to: number) => Math.round(Math.min(Math.max(to, least), most) * 10) / 10

function drag(down: PointerEvent) {
  const bar = down.currentTarget as HTMLElement
  const room = bar.parentElement?.getBoundingClientRect()
  if (down.button !== 0 || !room) return
  bar.setPointerCapture(down.pointerId)
  const begun = share.value
  const move = (event: PointerEvent) => {
    const by = props.lying
      ? (event.clientY - down.clientY) / room.height
      : (event.clientX - down.clientX) / room.width
    share.value = held(begun + by * 100)
  }
  const end = () => {
    bar.removeEventListener('pointermove', move)
    bar.removeEventListener('pointerup', end)
    bar.removeEventListener('pointercancel', end)
  }
  bar.addEventListener('pointermove', move)
  bar.addEventListener('pointerup', end)
  bar.addEventListener('pointercancel', end)
}
const steps = computed(
  () =>
    new Map<string, number>(
      props.lying
        ? [
            ['ArrowUp', -2],
            ['ArrowDown', 2],
          ]
        : [
            ['ArrowLeft', -2],
            ['ArrowRight', 2],
          ],
    ),
)
function key(event: KeyboardEvent) {
  const by = steps.value.get(event.key)
  if (by === undefined) return
  event.preventDefault()
  event.stopPropagation()
  share.value = held(share.value + by)
}
</script>

<template>
  <div
    class="border"
    :class="lying ? 'lying' : 'upright'"
    role="separator"
    tabindex="0"
    aria-label="Border between strip and sheets"
    :aria-orientation="lying ? 'horizontal' : 'vertical'"
    :aria-valuenow="share"
    :aria-valuemin="least"
    :aria-valuemax="most"
    @pointerdown="drag"
    @keydown="key"
    @dblclick="share = usual"
  />
</template>

<style scoped>
.border {
  z-index: 2;
  touch-action: none;
}
.upright {
  justify-self: start;
  width: 9px;
  margin-left: -5px;
  cursor: col-resize;
}
.lying {
  align-self: start;
  height: 9px;
  margin-top: -5px;
  cursor: row-resize;
}
.border:is(:hover, :focus-visible) {
  background: color-mix(in srgb, var(--accent) 40%, transparent);
}
</style>
