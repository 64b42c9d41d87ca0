<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { moment } from '@/shared/format'

/** Deeds, each a line: when, who, what. */
defineProps<{ deeds: readonly Schemas['Deed'][] }>()

function placeOf(deed: Schemas['Deed']): string | undefined {
  if (deed.runId !== undefined) return `/runs/${String(deed.runId)}`
  const places: Partial<Record<Schemas['Deed']['about'], string>> = {
    printer: '/floor/',
    design: '/bench/',
    'record set': '/records/',
  }
  const place = places[deed.about]
  return place && deed.subjectId ? place + String(deed.subjectId) : undefined
}
const called = (deed: Schemas['Deed']) => deed.name || String(deed.subjectId || '')
</script>

<template>
  <ul>
    <li v-for="deed in deeds" :key="deed.id">
      <time :datetime="deed.doneAt" class="quiet">{{ moment(deed.doneAt) }}</time>
      <span>
        <b>{{ deed.by }}</b> {{ deed.did }}
        <template v-if="deed.about !== 'account'">
          <RouterLink v-if="placeOf(deed)" :to="placeOf(deed)!">{{ called(deed) }}</RouterLink>
          <template v-else>{{ called(deed) }}</template>
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
