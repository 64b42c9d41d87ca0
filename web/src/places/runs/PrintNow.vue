<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInputNumber, NProgress, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, duration } from '@/shared/format'
import { useDoing } from '@/shared/useDoing'
import LevelText from '@/shared/LevelText.vue'

/** What prints now: progress on the label count, what it waits for, cancel, go on, here or at another printer. */
const props = defineProps<{
  print: Schemas['Print']
  printers: Schemas['Printer'][]
}>()
const emit = defineEmits<{ changed: [] }>()

const { problem, doing } = useDoing()
const held = computed(() => props.print.state === 'held')
/** The last label that came out, as the labels of the run are numbered. Where that is in doubt, a person says it first. */
const lastLabel = ref<number | null>(0)
watch(
  [() => props.print.id, () => props.print.state], // not whenever the print is asked about anew: somebody types
  () => (lastLabel.value = props.print.inDoubt ? null : props.print.lastOut),
  { immediate: true },
)
const path = () => ({ params: { path: { id: props.print.id } } })
const word = () => ({ lastLabel: lastLabel.value ?? undefined })
const where = computed(() => props.printers.find((p) => p.id === props.print.printerId)?.name)
const others = computed(() =>
  props.printers
    .filter((p) => p.id !== props.print.printerId && p.address)
    .map((p) => ({ value: p.id, label: `at ${p.name}` })),
)

async function cancel() {
  const body = held.value ? word() : {}
  await doing(() => api.POST('/prints/{id}/cancel', { ...path(), body }))
  emit('changed')
}
async function pause() {
  await doing(() => api.POST('/prints/{id}/pause', path()))
  emit('changed')
}
async function goOn() {
  await doing(() => api.POST('/prints/{id}/go-on', { ...path(), body: word() }))
  emit('changed')
}
async function move(printerId: number) {
  await doing(() => api.POST('/prints/{id}/move', { ...path(), body: { printerId, ...word() } }))
  emit('changed')
}
</script>

<template>
  <div class="now">
    <div class="words" aria-live="polite">
      <p class="strong">
        {{ held ? 'Held at' : 'Printing' }} {{ count(print.printed) }} of {{ count(print.labels) }}
        <template v-if="where"> at {{ where }}</template>
        <span v-if="print.secondsLeft >= 0" class="quiet">· {{ duration(print.secondsLeft) }} to go</span>
      </p>
      <p v-if="print.text">
        <LevelText :level="held ? 'error' : 'warning'">{{ print.text }}</LevelText>
        <span class="quiet">&nbsp;{{ print.do }}</span>
      </p>
      <p v-if="problem" class="bad" role="alert">{{ problem.text }}</p>
      <NProgress
        type="line"
        :percentage="Math.round((100 * print.printed) / print.labels)"
        :show-indicator="false"
        :height="8"
        :aria-label="`${print.printed} of ${print.labels} labels`"
      />
    </div>
    <div class="ways">
      <template v-if="held">
        <label class="last">
          Last label out
          <NInputNumber
            v-bind="requestBounds.LastOut.lastLabel"
            v-model:value="lastLabel"
            size="large"
            :max="print.lastLabel"
            :show-button="false"
            :placeholder="print.inDoubt ? 'look' : undefined"
            class="number"
            :input-props="{
              'aria-label': `Last label of the run that came out, ${print.firstLabel} to ${print.lastLabel}, or 0`,
            }"
          />
          <span class="quiet">of {{ count(print.firstLabel) }} to {{ count(print.lastLabel) }}; 0: none</span>
        </label>
        <NButton size="large" type="primary" :disabled="lastLabel === null" @click="goOn"
          >Go on after it</NButton
        >
        <NSelect
          v-if="others.length"
          size="large"
          class="elsewhere"
          :value="null"
          :options="others"
          :disabled="lastLabel === null"
          placeholder="or go on elsewhere"
          aria-label="Go on at another printer"
          @update:value="move"
        />
      </template>
      <NButton v-if="!held" size="large" @click="pause">Pause</NButton>
      <NButton size="large" @click="cancel">Cancel</NButton>
    </div>
  </div>
</template>

<style scoped>
.now {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 18px;
  width: 100%;
}
.words {
  flex: 1 1 340px;
}
.ways {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-left: auto;
}
.last {
  display: flex;
  align-items: center;
  gap: 8px;
}
.number {
  width: 90px;
}
.elsewhere {
  width: 190px;
}
</style>
