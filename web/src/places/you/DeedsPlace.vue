<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import DeedList from './DeedList.vue'

/** Who did what in the plant, the latest first. */
const { data: deeds, problem } = usePolled(() => api.GET('/deeds'), 5000)
const words = ref('')
const shown = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/)
  return deeds.value?.filter((deed) => {
    const says = `${deed.by} ${deed.did} ${deed.about} ${deed.name}`.toLowerCase()
    return wanted.every((word) => says.includes(word))
  })
})
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Who did what</h1>
      <span v-if="deeds" class="quiet">the last {{ deeds.length }}, the latest first</span>
      <span class="room" />
      <NInput
        v-model:value="words"
        class="find"
        placeholder="a name, a word"
        :input-props="{ 'aria-label': 'Show those with' }"
      />
    </header>
    <ProblemNote :problem />
    <DeedList v-if="shown" class="list" :deeds="shown" />
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
