<script setup lang="ts">
import { NButton, NInputNumber, NProgress } from 'naive-ui'
import { ref, shallowRef, watch } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { count, duration } from '@/shared/format'

/** What prints now: progress on the label count, what it waits for, cancel, go on. */
const props = defineProps<{ print: Schemas['Print'] }>()
const emit = defineEmits<{ changed: [] }>()

const problem = shallowRef<Problem>()
const lastOut = ref(0)
watch(
  () => props.print.state,
  () => (lastOut.value = props.print.printed),
  { immediate: true },
)
const path = () => ({ params: { path: { id: props.print.id } } })

async function cancel() {
  problem.value = (await api.POST('/prints/{id}/cancel', path())).error
  emit('changed')
}
async function goOn() {
  problem.value = (
    await api.POST('/prints/{id}/go-on', { ...path(), body: { lastOut: lastOut.value } })
  ).error
  emit('changed')
}
</script>

<template>
  <div class="now">
    <div class="words" aria-live="polite">
      <p class="strong">
        {{ print.state === 'held' ? 'Held at' : 'Printing' }} {{ count(print.printed) }} of
        {{ count(print.labels) }}
        <span v-if="print.secondsLeft >= 0" class="quiet">· {{ duration(print.secondsLeft) }} to go</span>
      </p>
      <p v-if="print.text" :class="print.state === 'held' ? 'bad' : 'warn'">
        <span aria-hidden="true">{{ print.state === 'held' ? '■' : '▲' }}</span> {{ print.text }}
        <span class="quiet">{{ print.do }}</span>
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
    <template v-if="print.state === 'held'">
      <label class="last">
        Last label out
        <NInputNumber
          v-model:value="lastOut"
          size="large"
          :min="0"
          :max="print.labels"
          :show-button="false"
          class="number"
          :input-props="{ 'aria-label': 'Last label that came out' }"
        />
      </label>
      <NButton size="large" type="primary" @click="goOn">Go on after it</NButton>
    </template>
    <NButton size="large" @click="cancel">Cancel</NButton>
  </div>
</template>

<style scoped>
.now {
  display: flex;
  align-items: center;
  gap: 18px;
  width: 100%;
}
.words {
  flex: 1;
}
.last {
  display: flex;
  align-items: center;
  gap: 8px;
}
.number {
  width: 90px;
}
</style>
