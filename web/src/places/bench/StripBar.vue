<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { ref, watch } from 'vue'
import type { Mode, Zoom } from './useWalk'

/** How the strip is walked and zoomed. */
const props = defineProps<{
  record: number
  total: number
  lying: boolean
  found: number
  legends: number
  mostLegends: number
}>()
const mode = defineModel<Mode>('mode', { required: true })
const zoom = defineModel<Zoom>('zoom', { required: true })
const rulers = defineModel<boolean>('rulers', { required: true })
const emit = defineEmits<{
  go: [record: number]
  find: [words: string]
  step: [by: number]
  legends: [times: number]
}>()
/** A number goes to that record; whatever else is typed is looked for in what the records say. */
const typed = ref('')
watch(
  () => props.record,
  (record) => (typed.value = String(record)),
  { immediate: true },
)
function take() {
  const text = typed.value.trim()
  if (text === String(props.record)) return
  if (/^[1-9]\d*$/.test(text) && Number(text) <= props.total) emit('go', Number(text))
  else if (text) emit('find', text)
  else typed.value = String(props.record)
}

const modes: { key: Mode; name: string }[] = [
  { key: 'order', name: 'In order' },
  { key: 'extremes', name: 'Extremes' },
  { key: 'findings', name: 'With findings' },
]
const zooms: { key: Zoom; name: string }[] = [
  { key: 'sheet', name: 'Contact sheet' },
  { key: 'fit', name: 'Fit' },
  { key: 'true', name: 'True size' },
]
</script>

<template>
  <div class="bar">
    <span class="quiet feed"
      >feed <span aria-hidden="true">{{ lying ? '←' : '↑' }}</span><span class="unseen">{{
        lying ? 'to the left' : 'upwards'
      }}</span></span
    >
    <span class="group" role="group" aria-label="Which labels">
      <button
        v-for="m in modes"
        :key="m.key"
        type="button"
        :aria-pressed="mode === m.key"
        :disabled="m.key === 'findings' && !found"
        @click="mode = m.key"
      >
        {{ m.name }}
      </button>
    </span>
    <label v-if="mostLegends > 1" class="legends">
      legend
      <NSelect
        size="tiny"
        :value="legends"
        :options="Array.from({ length: mostLegends }, (_, i) => ({ value: i + 1, label: `${i + 1} ×` }))"
        aria-label="How often the legend stands on a piece"
        class="times"
        @update:value="emit('legends', $event)"
      />
    </label>
    <span class="room" />
    <button type="button" :aria-pressed="rulers" @click="rulers = !rulers">Rulers</button>
    <span class="walk">
      <button type="button" aria-label="The label before" @click="emit('step', -1)">‹</button>
      <NInput
        v-model:value="typed"
        size="tiny"
        class="which"
        placeholder=""
        title="A number, or words of a record"
        :input-props="{ 'aria-label': 'Record in hand: a number, or words of it' }"
        @keydown.enter.prevent="take"
        @blur="typed = String(record)"
      />
      <span class="quiet">of {{ total }}</span>
      <button type="button" aria-label="The next label" @click="emit('step', 1)">›</button>
    </span>
    <span class="group" role="group" aria-label="Zoom">
      <button
        v-for="z in zooms"
        :key="z.key"
        type="button"
        :aria-pressed="zoom === z.key"
        @click="zoom = z.key"
      >
        {{ z.name }}
      </button>
    </span>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 0 14px;
  padding: 3px 20px;
  min-height: 32px;
  background: var(--sunken);
  border-bottom: 1px solid var(--line);
  font-size: 13px;
  white-space: nowrap;
}
button {
  padding: 3px 0;
  border: 0;
  background: none;
  color: var(--quiet);
  font: inherit;
  cursor: pointer;
}
button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  text-decoration: underline;
  text-decoration-color: var(--accent);
  text-decoration-thickness: 2px;
  text-underline-offset: 4px;
}
button:disabled {
  opacity: 0.6;
  cursor: default;
}
.group {
  display: flex;
  gap: 12px;
}
.walk {
  display: flex;
  align-items: center;
  gap: 6px;
}
.walk button {
  font-size: 17px;
  line-height: 1;
  padding: 2px 7px;
}
.which {
  width: 84px;
}
.which:deep(input) {
  text-align: right;
}
.legends {
  display: flex;
  align-items: center;
  gap: 6px;
}
.times {
  width: 66px;
}
.room {
  flex: 1;
}
.feed {
  letter-spacing: 0.02em;
}
</style>
