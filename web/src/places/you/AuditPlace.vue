<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import AuditList from './AuditList.vue'

/** Who did what in the plant, the latest first. */
const { data: entries, problem } = usePolled(() => api.GET('/audit'), 5000)
const words = ref('')
const shown = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/)
  return entries.value?.filter((entry) => {
    const says = `${entry.by} ${entry.did} ${entry.about} ${entry.name}`.toLowerCase()
    return wanted.every((word) => says.includes(word))
  })
})
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Audit log</h1>
      <span v-if="entries" class="quiet">the last {{ entries.length }}, the latest first</span>
      <span class="room" />
      <NInput
        v-model:value="words"
        class="find"
        placeholder="a name, a word"
        :input-props="{ 'aria-label': 'Show those with' }"
      />
    </header>
    <ProblemNote :problem />
    <AuditList v-if="shown" class="list" :entries="shown" />
  </div>
</template>

<style scoped>
.list {
  padding: 6px 20px;
}
.find {
  width: 240px;
}
</style>
