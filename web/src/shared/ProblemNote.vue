<script setup lang="ts">
import { IconAlertTriangle } from '@tabler/icons-vue'
import type { Problem } from '@/api/client'

/** What stands against something; nothing, where nothing does. */
defineProps<{ problem: Problem | undefined }>()
</script>

<template>
  <div v-if="problem" class="problem" role="alert">
    <IconAlertTriangle :size="18" aria-hidden="true" />
    <div>
      <p>{{ problem.text }}</p>
      <ul v-if="problem.faults && problem.faults.length > 1">
        <li v-for="fault in problem.faults.slice(0, 8)" :key="fault.path + fault.text">
          <span class="mono">{{ fault.path }}</span> {{ fault.text }}
        </li>
      </ul>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.problem {
  display: flex;
  gap: 10px;
  padding: 10px 20px;
  color: var(--bad);
  border-bottom: 1px solid var(--line);
  background: var(--raised);
}
.problem svg {
  flex: none;
  margin-top: 1px;
}
</style>
