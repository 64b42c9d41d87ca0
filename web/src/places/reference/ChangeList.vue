<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** What differs between two reference packs, and which designs that touches. */
defineProps<{ changes: readonly Schemas['ReferenceChange'][]; uses?: boolean }>()
</script>

<template>
  <p v-if="!changes.length" class="quiet">Nothing differs.</p>
  <table v-else class="plain">
    <thead>
      <tr>
        <th>What</th>
        <th>Was</th>
        <th>Is</th>
        <th v-if="uses">Used by</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in changes" :key="c.kind + c.id">
        <td>
          {{ c.kind }} {{ c.what }}<br /><span class="quiet">{{ c.id === c.name ? '' : c.id }}</span>
          {{ c.name }}
        </td>
        <td>
          <img v-if="c.drawnBefore" :src="c.drawnBefore" :alt="`${c.id} as it was`" width="64" height="64" />
          <template v-else>{{ c.before || '—' }}</template>
        </td>
        <td>
          <img v-if="c.drawnAfter" :src="c.drawnAfter" :alt="`${c.id} as it is`" width="64" height="64" />
          <template v-else>{{ c.after || '—' }}</template>
        </td>
        <td v-if="uses">
          <RouterLink v-for="d in c.designs" :key="d.id" :to="`/bench/${d.id}`" class="design">{{
            d.name
          }}</RouterLink>
          <span v-if="!c.designs.length" class="quiet">no design</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
img {
  padding: 3px;
  border-radius: 4px;
  background: var(--label);
}
td {
  vertical-align: top;
}
.design {
  display: block;
}
</style>
