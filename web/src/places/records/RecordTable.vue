<script setup lang="ts">
import { visible } from '@/shared/visible'
import type { Schemas } from '@/api/client'

defineProps<{ fields: string[]; records: Schemas['Record'][] }>()
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Records">
    <table class="plain">
      <thead>
        <tr>
          <th class="number">No.</th>
          <th v-for="field in fields" :key="field">{{ field }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="record in records" :key="record.number">
          <td class="number quiet">{{ record.number }}</td>
          <td v-for="(value, i) in record.values" :key="i" class="mono">
            <template v-if="value">{{ visible(value) }}</template><span v-else class="quiet">empty</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
}
th,
td {
  white-space: pre;
}
td.mono {
  font-size: 13px;
}
</style>
