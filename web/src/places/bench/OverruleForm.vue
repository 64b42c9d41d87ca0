<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { nextTick, ref } from 'vue'
import TextButton from '@/shared/TextButton.vue'

/** Overrules what a rule of a safety label asks, with a reason, or has it hold again. */
const props = defineProps<{ overruled: string }>()
const emit = defineEmits<{ overrule: [reason: string] }>()
const reason = ref<string>()
const input = ref<InstanceType<typeof NInput>>()
async function open() {
  reason.value = props.overruled
  await nextTick()
  input.value?.focus()
}
function take() {
  const words = reason.value?.trim()
  if (!words) return
  emit('overrule', words)
  reason.value = undefined
}
</script>

<template>
  <form v-if="reason !== undefined" @submit.prevent="take" @keydown.esc.stop="reason = undefined">
    <NInput
      ref="input"
      v-model:value="reason"
      size="small"
      :maxlength="500"
      placeholder="Why is it right as it is?"
      :input-props="{ 'aria-label': 'Reason to overrule it' }"
    />
    <NButton attr-type="submit" size="small" :disabled="!reason.trim()">Overrule</NButton>
  </form>
  <TextButton v-else-if="overruled" class="do" @click="emit('overrule', '')">Have it hold again</TextButton>
  <TextButton v-else class="do" @click="open">Overrule…</TextButton>
</template>

<style scoped>
form {
  display: flex;
  gap: 6px;
  margin-top: 4px;
}
.do {
  margin-left: 6px;
}
</style>
