<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { nextTick, ref } from 'vue'
import TextButton from '@/shared/TextButton.vue'

/** Does something against a rule, with a reason, or takes it back. */
const props = defineProps<{
  reason: string
  action: string
  undo: string
  placeholder: string
  label: string
}>()
const emit = defineEmits<{ give: [reason: string] }>()
const words = ref<string>()
const input = ref<InstanceType<typeof NInput>>()
async function open() {
  words.value = props.reason
  await nextTick()
  input.value?.focus()
}
function take() {
  const reason = words.value?.trim()
  if (!reason) return
  emit('give', reason)
  words.value = undefined
}
</script>

<template>
  <form v-if="words !== undefined" @submit.prevent="take" @keydown.esc.stop="words = undefined">
    <NInput
      ref="input"
      v-model:value="words"
      size="small"
      :maxlength="500"
      :placeholder
      :input-props="{ 'aria-label': label }"
    />
    <NButton attr-type="submit" size="small" :disabled="!words.trim()">{{ action }}</NButton>
  </form>
  <TextButton v-else-if="reason" class="do" @click="emit('give', '')">{{ undo }}</TextButton>
  <TextButton v-else class="do" @click="open">{{ action }}…</TextButton>
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
