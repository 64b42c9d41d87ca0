<script setup lang="ts">
import { inject, onMounted, onUnmounted, ref, watch } from 'vue'
import { type Painted, paintDots } from './dots'
import { type StripLabel, stripDots } from './useStrip'

/** A label in its very dots: a picture from the server, or drawn from the planes that the core gave. */
const props = defineProps<{ label: StripLabel; name: string }>()
const canvas = ref<HTMLCanvasElement>()

let painted: Painted | undefined
let paintedOn: HTMLCanvasElement | undefined
function paint({ dots, width, height }: Pick<StripLabel, 'dots' | 'width' | 'height'>) {
  if (!canvas.value || !dots || dots.planes === painted?.dots.planes) return
  if (canvas.value !== paintedOn) painted = undefined
  paintedOn = canvas.value
  painted = paintDots(canvas.value, dots, width, height, painted)
}
onMounted(() => paint(props.label))
watch(
  () => props.label,
  (label) => paint(label),
  { flush: 'post' },
)
/** Dots are painted as they come, before the page is made anew around them. */
const stop = inject(
  stripDots,
  undefined,
)?.((label) => {
  if (
    label.record === props.label.record &&
    label.width === props.label.width &&
    label.height === props.label.height
  )
    paint(label)
})
onUnmounted(() => stop?.())
</script>

<template>
  <canvas
    v-if="label.dots"
    ref="canvas"
    :role="name ? 'img' : undefined"
    :aria-label="name || undefined"
    :aria-hidden="!name || undefined"
  />
  <img v-else :src="label.picture" :alt="name" decoding="sync" draggable="false" />
</template>

<style scoped>
canvas,
img {
  display: block;
  width: 100%;
  height: 100%;
  user-select: none;
}
</style>
