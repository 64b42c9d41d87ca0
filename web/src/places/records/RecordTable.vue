<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { visible } from '@/shared/visible'
import type { Schemas } from '@/api/client'

const props = defineProps<{
  fields: string[]
  records: Schemas['Record'][]
  asked?: number
  /** Its columns can be sorted by a click on their names. */
  sortable?: boolean
  order?: Schemas['FieldOrder'][]
}>()
const emit = defineEmits<{ sort: [field: string, besides: boolean] }>()
const orderOf = (field: string) => props.order?.find((o) => o.field === field)
const says = (field: string) => {
  const order = orderOf(field)
  return order ? (order.down ? 'descending' : 'ascending') : undefined
}
const rows = ref<HTMLElement>()
watch(
  () => [props.records, props.asked],
  async () => {
    await nextTick()
    rows.value?.querySelector('.asked')?.scrollIntoView({ block: 'center' })
  },
)
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Records">
    <table class="plain">
      <thead>
        <tr>
          <th class="number">No.</th>
          <th v-for="field in fields" :key="field" :aria-sort="says(field)">
            <button
              v-if="sortable"
              type="button"
              class="sort"
              title="Sort by it; with Shift besides the others"
              @click="emit('sort', field, $event.shiftKey)"
            >
              {{ field
              }}<span v-if="orderOf(field)" aria-hidden="true">{{ orderOf(field)?.down ? ' ↓' : ' ↑' }}</span>
            </button>
            <template v-else>{{ field }}</template>
          </th>
        </tr>
      </thead>
      <tbody ref="rows">
        <tr v-for="record in records" :key="record.number" :class="{ asked: record.number === asked }">
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
.asked td {
  background: var(--accent-soft);
}
.sort {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  white-space: pre;
  cursor: pointer;
}
.sort:hover {
  color: var(--accent);
}
.scroll {
  overflow: auto;
}
th,
td {
  white-space: pre;
}
.number {
  width: 1px; /* as little as its figures need */
  padding-left: 20px;
}
td.mono {
  font-size: 13px;
}
</style>
