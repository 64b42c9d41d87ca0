<script setup lang="ts">
import { NButton, NCheckbox, NInput, NRadio, NRadioGroup } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Element } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import { plural } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'
import { aligned, alike, around, type Edge, type Moves, spread, spreadMiddles } from './arrange'

/** Several elements that are chosen together: brought into line, spread, made alike. */
const props = defineProps<{
  elements: readonly Element[]
  /** Names of all groups on the label. */
  groups: readonly string[]
  art: { width: number; height: number }
}>()
const emit = defineEmits<{ move: [moves: Moves]; duplicate: []; remove: []; frame: [] }>()

const to = ref<'each other' | 'label'>('each other')
const byMiddles = ref(false)
const spreadAll = (way: 'across' | 'down') => (byMiddles.value ? spreadMiddles : spread)(free.value, way)
/** Both sizes of the first for all. */
function sameSize() {
  const [first] = props.elements
  if (first)
    emit(
      'move',
      new Map(free.value.map((e) => [e.id, { width: first.width, height: first.height }] as const)),
    )
}
/** The name of the group that they are, all of them and nothing else in it; empty: they are none. */
const grouped = computed(() => {
  const names = new Set(props.elements.map((e) => e.group ?? ''))
  return names.size === 1 ? ([...names][0] ?? '') : ''
})
const typed = ref('')
/** A name that no other group has. */
function unused(wanted: string) {
  for (let n = 1; ; n++) {
    const made = n === 1 ? wanted : `${wanted} ${String(n)}`
    if (!props.groups.includes(made)) return made
  }
}
function group(to: string | undefined) {
  emit('move', new Map(props.elements.map((e) => [e.id, { group: to }] as const)))
  typed.value = ''
}
const free = computed(() => props.elements.filter((e) => !e.locked))
const frame = computed(() => (to.value === 'label' ? { x: 0, y: 0, ...props.art } : around(props.elements)))
const edges: [Edge, string][][] = [
  [
    ['left', 'Left edges'],
    ['centre', 'Centres'],
    ['right', 'Right edges'],
  ],
  [
    ['top', 'Top edges'],
    ['middle', 'Middles'],
    ['bottom', 'Bottom edges'],
  ],
]
</script>

<template>
  <section aria-labelledby="arrange">
    <h2 id="arrange">{{ plural(elements.length, 'element') }} chosen</h2>
    <NRadioGroup v-model:value="to" name="to" aria-label="Bring into line with">
      <NRadio value="each other">in line with each other</NRadio>
      <NRadio value="label">in line with the label</NRadio>
    </NRadioGroup>
    <p v-for="(row, i) in edges" :key="i" class="row">
      <NButton v-for="[edge, name] in row" :key="edge" @click="emit('move', aligned(free, edge, frame))">{{
        name
      }}</NButton>
    </p>
    <p class="row">
      <NButton :disabled="free.length < 3" @click="emit('move', spreadAll('across'))">Spread across</NButton>
      <NButton :disabled="free.length < 3" @click="emit('move', spreadAll('down'))">Spread down</NButton>
      <NCheckbox v-model:checked="byMiddles">by their middles</NCheckbox>
    </p>
    <p class="row">
      <NButton @click="emit('move', alike(free, 'width'))">Same width</NButton>
      <NButton @click="emit('move', alike(free, 'height'))">Same height</NButton>
      <NButton @click="sameSize">Same size</NButton>
      <span class="quiet">as {{ elements[0]?.id }}, chosen first</span>
    </p>
    <form class="row" @submit.prevent="group(unused(typed.trim() || 'group'))">
      <template v-if="grouped">
        <span>Group “{{ grouped }}”</span>
        <TextButton @click="group(undefined)">Ungroup</TextButton>
      </template>
      <template v-else>
        <NInput
          v-model:value="typed"
          size="small"
          :maxlength="designBounds.Element.group.maxlength"
          placeholder="group"
          class="name"
          :input-props="{ 'aria-label': 'Name of the group' }"
        />
        <NButton size="small" attr-type="submit">Group them</NButton>
      </template>
    </form>
    <slot />
    <p class="row">
      <TextButton @click="emit('frame')">Frame round them</TextButton>
      <TextButton @click="emit('duplicate')">Duplicate all</TextButton>
      <TextButton @click="emit('remove')">Delete all</TextButton>
    </p>
    <p class="quiet">
      Shift and a click add an element or take it away; a drag over the bare label chooses what it touches.
    </p>
  </section>
</template>

<style scoped>
section {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.name {
  width: 150px;
}
</style>
