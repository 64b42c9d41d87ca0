<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { count, moment } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import DeskPanel from './DeskPanel.vue'
import ImportPanel from './ImportPanel.vue'
import SourcePanel from './SourcePanel.vue'

const route = useRoute()
const router = useRouter()
const { data: sets, problem } = useAsked(() => api.GET('/record-sets'))

/** Where records are just being taken in from: a file, a connection or the order desk. */
const from = computed(() => (route.query.import === undefined ? route.query.from : 'file'))
const take = (from?: 'connection' | 'desk' | 'file') =>
  router.replace({ query: from === 'file' ? { import: '1' } : from ? { from } : {} })

async function taken(set: Schemas['RecordSet']) {
  await router.push(`/records/${set.id}`)
}
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Records</h1>
      <RouterLink to="/records/series">Number series</RouterLink>
      <span class="room" />
      <template v-if="!from">
        <NButton @click="router.push('/records/write')">Write records</NButton>
        <NButton @click="take('desk')">Look up an order</NButton>
        <NButton @click="take('connection')">From a database</NButton>
        <NButton type="primary" @click="take('file')">Import a file</NButton>
      </template>
    </header>
    <ProblemNote v-if="problem" :problem />
    <ImportPanel v-if="from === 'file'" @close="take()" @taken="taken" />
    <SourcePanel v-else-if="from === 'connection'" @close="take()" @taken="taken" />
    <DeskPanel v-else-if="from === 'desk'" @close="take()" @taken="taken" />
    <template v-else-if="sets">
      <div v-if="!sets.length" class="empty">
        <p>
          There are no records yet. Import a spreadsheet or a text file: one row of names, then a row for each
          label. Or read them from a database, look an order up, or write them here.
        </p>
        <NButton type="primary" @click="take('file')">Import a file</NButton>
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
