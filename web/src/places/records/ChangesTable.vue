<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import { visible } from '@/shared/visible'

/** What is different between two readings of the same records, one by one. */
defineProps<{ changes: Schemas['RecordChanges'] }>()
</script>

<template>
  <div v-if="changes.first?.length" class="changes" tabindex="0" role="region" aria-label="What changed">
    <table class="plain">
      <tbody>
        <tr v-for="one in changes.first" :key="`${one.what} ${one.number}`">
          <td :class="{ good: one.what === 'new', warn: one.what === 'gone' }">{{ one.what }}</td>
          <td class="mono">{{ one.key.join(' · ') }}</td>
          <td>
            <span v-for="value in one.values" :key="value.field" class="value">
              <span class="quiet">{{ value.field }}</span> {{ ' '
              }}<del>{{ visible(value.before) || 'empty' }}</del> →
              <ins>{{ visible(value.now) || 'empty' }}</ins>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="changes.new + changes.gone + changes.changed > changes.first.length" class="quiet line">
      The first {{ count(changes.first.length) }} of
      {{ plural(changes.new + changes.gone + changes.changed, 'change') }}.
    </p>
  </div>
</template>

<style scoped>
.changes {
  max-height: 180px;
  overflow: auto;
  background: var(--paper);
}
.changes td {
  padding: 4px 10px;
}
.changes td:first-child {
  padding-left: 20px;
  width: 80px;
}
.value {
  margin-right: 16px;
}
del {
  color: var(--quiet);
}
ins {
  text-decoration: none;
  font-weight: 500;
}
</style>
