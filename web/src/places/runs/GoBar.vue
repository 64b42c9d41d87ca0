<script setup lang="ts">
import { NButton, NInput, NPopconfirm, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'

/** Goes: a sample, the rest, or all again. */
const props = defineProps<{
  printed: number
  printable: number
  leftOut: number
  loaded: boolean
  askFrom: number
  worth: Schemas['WorthALook'][]
}>()
const emit = defineEmits<{ print: [kind: Schemas['StartPrint']['kind'], labels?: string] }>()

const rest = computed(() => props.printable - props.printed)
/** Which labels a sample has: the first few, those that are worth a look, or some that are named. */
const which = ref<'first' | 'worth' | 'named'>('first')
const named = ref('')
const most = 12
const sample = computed(() => {
  if (which.value === 'worth') return props.worth.slice(0, most).map((w) => w.label)
  return Array.from({ length: Math.min(3, props.printable + props.leftOut) }, (_, i) => i + 1)
})
const samples = computed(() => [
  { value: 'first', label: 'the first few' },
  ...(props.worth.length
    ? [{ value: 'worth', label: `${Math.min(most, props.worth.length)} worth a look` }]
    : []),
  { value: 'named', label: 'labels I name' },
])
function printSample() {
  emit('print', 'sample', which.value === 'named' ? named.value : sample.value.join(', '))
}
</script>

<template>
  <form v-if="rest > 0 || printed === 0" class="sample" @submit.prevent="printSample">
    <NSelect
      v-model:value="which"
      size="large"
      class="which"
      :options="samples"
      aria-label="Which labels the sample has"
    />
    <NInput
      v-if="which === 'named'"
      v-model:value="named"
      size="large"
      class="named"
      placeholder="5, 8-10"
      :input-props="{ 'aria-label': 'Labels of the sample' }"
    />
    <NButton
      size="large"
      ghost
      type="primary"
      attr-type="submit"
      :disabled="!printable || !loaded || (which === 'named' && !named)"
    >
      Print {{ which === 'named' ? 'them' : sample.length }} as a sample
    </NButton>
  </form>
  <NButton
    v-if="printed > 0"
    size="large"
    ghost
    type="primary"
    :disabled="!printable || !loaded"
    @click="emit('print', 'all')"
    >Print all {{ count(printable) }} again</NButton
  >
  <span class="room" />
  <span v-if="leftOut" class="quiet">leaves out the {{ plural(leftOut, 'label') }} with errors</span>
  <LevelText v-if="rest <= 0 && printable" level="fine" class="strong"
    >All {{ count(printable) }} are printed</LevelText
  >
  <NPopconfirm
    v-else-if="rest >= askFrom && loaded"
    positive-text="Print them"
    negative-text="Not now"
    @positive-click="emit('print', 'rest')"
  >
    <template #trigger>
      <NButton size="large" type="primary" class="main"
        >Print {{ printed ? `the other ${count(rest)}` : count(rest) }}</NButton
      >
    </template>
    {{ plural(rest, 'label') }} will be printed. Is that the number you want?
  </NPopconfirm>
  <NButton
    v-else
    size="large"
    type="primary"
    class="main"
    :disabled="rest <= 0 || !loaded"
    @click="emit('print', 'rest')"
  >
    Print {{ printed ? `the other ${count(rest)}` : count(rest) }}
  </NButton>
</template>

<style scoped>
.room {
  flex: 1;
}
.sample {
  display: flex;
  gap: 8px;
}
.which {
  width: 165px;
}
.named {
  width: 110px;
}
.main {
  font-size: 16px;
  padding: 0 24px;
}
</style>
