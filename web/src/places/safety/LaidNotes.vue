<script setup lang="ts">
import type { Problem, Schemas } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'

/** What stands against a layout: a problem, or what was left out and is too small. */
defineProps<{ laid: Schemas['LaidOut'] | undefined; problem: Problem | undefined }>()
</script>

<template>
  <ProblemNote v-if="problem" :problem />
  <div v-if="laid && (laid.notes.length || !laid.fits)" class="warn" role="status">
    <p v-for="note in laid.notes" :key="note">▲ {{ note }}</p>
    <p v-if="laid.larger">The smallest stock here that takes all of it: {{ laid.larger }}.</p>
  </div>
</template>

<style scoped>
.warn {
  margin-top: 8px;
  color: var(--warn);
}
</style>
