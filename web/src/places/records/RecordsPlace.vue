<script setup lang="ts">
import { NButton } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { count, moment } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import ImportPanel from './ImportPanel.vue'

const route = useRoute()
const router = useRouter()
const { data: sets, problem } = useAsked(() => api.GET('/record-sets'))

const importing = () => route.query.import !== undefined
const toggle = (on: boolean) => router.replace({ query: on ? { import: '1' } : {} })

async function taken(set: Schemas['RecordSet']) {
  await router.push(`/records/${set.id}`)
}
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Records</h1>
      <span class="room" />
      <NButton v-if="!importing()" @click="router.push('/records/write')">Write records</NButton>
      <NButton v-if="!importing()" type="primary" @click="toggle(true)">Import a file</NButton>
    </header>
    <ProblemNote v-if="problem" :problem />
    <ImportPanel v-if="importing()" @close="toggle(false)" @taken="taken" />
    <template v-else-if="sets">
      <div v-if="!sets.length" class="empty">
        <p>
          There are no records yet. Import a spreadsheet or a text file: one row of names, then a row for each
          label. Or write them here.
        </p>
        <NButton type="primary" @click="toggle(true)">Import a file</NButton>
      </div>
      <table v-else class="plain">
        <thead>
          <tr>
            <th>Record set</th>
            <th class="number">Records</th>
            <th>Fields</th>
            <th>Taken in</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="set in sets" :key="set.id">
            <td>
              <RouterLink :to="`/records/${set.id}`" class="strong">{{ set.name }}</RouterLink>
            </td>
            <td class="number">{{ count(set.count) }}</td>
            <td class="quiet">{{ set.fields.join(', ') }}</td>
            <td class="quiet">{{ moment(set.importedAt) }} by {{ set.importedBy }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
table.plain th:first-child,
table.plain td:first-child {
  padding-left: 20px;
}
</style>
