<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { moment } from '@/shared/format'

/** Entries of the audit log, each a line: when, who, what. */
defineProps<{ entries: readonly Schemas['AuditEntry'][] }>()

function placeOf(entry: Schemas['AuditEntry']): string | undefined {
  if (entry.runId !== undefined) return `/runs/${String(entry.runId)}`
  const places: Partial<Record<Schemas['AuditEntry']['about'], string>> = {
    printer: '/floor/',
    design: '/bench/',
    'record set': '/records/',
  }
  const place = places[entry.about]
  return place && entry.subjectId ? place + String(entry.subjectId) : undefined
}
const called = (entry: Schemas['AuditEntry']) => entry.name || String(entry.subjectId || '')
</script>

<template>
  <ul>
    <li v-for="entry in entries" :key="entry.id">
      <time :datetime="entry.doneAt" class="quiet">{{ moment(entry.doneAt) }}</time>
      <span>
        <b>{{ entry.by }}</b> {{ entry.did }}
        <template v-if="entry.about !== 'account'">
          <RouterLink v-if="placeOf(entry)" :to="placeOf(entry)!">{{ called(entry) }}</RouterLink>
          <template v-else>{{ called(entry) }}</template>
        </template>
      </span>
    </li>
  </ul>
</template>

<style scoped>
li {
  display: flex;
  gap: 12px;
  padding: 5px 0;
}
time {
  flex: none;
  min-width: 92px;
}
</style>
