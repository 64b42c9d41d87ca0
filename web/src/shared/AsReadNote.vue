<script setup lang="ts">
import { NButton } from 'naive-ui'
import type { Problem } from '@/api/client'
import ProblemNote from './ProblemNote.vue'

/** What stands against a run; where only its records could not be read again, it can be had with those of before. */
defineProps<{ problem: Problem | undefined }>()
const emit = defineEmits<{ asRead: [] }>()
</script>

<template>
  <ProblemNote :problem>
    <p v-if="problem?.asRead" class="choice">
      <NButton size="small" @click="emit('asRead')">Use the records as they were read last</NButton>
    </p>
  </ProblemNote>
</template>

<style scoped>
.choice {
  margin-top: 8px;
}
</style>
