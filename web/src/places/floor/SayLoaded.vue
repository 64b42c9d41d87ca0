<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'
import TextButton from '@/shared/TextButton.vue'
import { useDoing } from '@/shared/useDoing'

/** Says that a stock is loaded where the printer says something else, with the reason: the rolls were changed, and it did not notice. */
const props = defineProps<{ printerId: number; which: Omit<Schemas['SayLoaded'], 'reason'>; words: string }>()
const emit = defineEmits<{ said: [] }>()
const reason = ref<string>()
const { problem, doing } = useDoing()
async function say() {
  const { error } = await doing(() =>
    api.POST('/printers/{id}/loaded', {
      params: { path: { id: props.printerId } },
      body: { ...props.which, reason: reason.value ?? '' },
    }),
  )
  if (error) return
  reason.value = undefined
  emit('said')
}
</script>

<template>
  <form
    v-if="reason !== undefined"
    class="say-loaded"
    @submit.prevent="say"
    @keydown.esc.stop="reason = undefined"
  >
    <NInput
      v-model:value="reason"
      size="small"
      autofocus
      :maxlength="300"
      placeholder="How do you know? The roll was changed …"
      :input-props="{ 'aria-label': 'Reason why the printer is wrong about what is loaded' }"
    />
    <NButton attr-type="submit" size="small" :disabled="!reason.trim()">Say so</NButton>
    <ProblemNote :problem />
  </form>
  <TextButton v-else @click="reason = ''">{{ words }}</TextButton>
</template>

<style scoped>
.say-loaded {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  max-width: 520px;
}
.say-loaded > :first-child {
  flex: 1;
  min-width: 200px;
}
</style>
