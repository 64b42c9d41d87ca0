<script setup lang="ts">
import { api } from '@/api/client'
import { count, moment } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import { stateWords } from './words'

const { data: runs, problem } = usePolled(() => api.GET('/runs'), 2000)
</script>

<template>
  <div class="place">
    <header class="place-head"><h1>Runs</h1></header>
    <ProblemNote v-if="problem" :problem />
    <div v-if="runs && !runs.length" class="empty">
      <p>No run was prepared yet. <RouterLink to="/bench">Choose a design</RouterLink> and prepare one.</p>
    </div>
    <table v-else-if="runs" class="plain">
      <thead>
        <tr>
          <th class="number">Run</th>
          <th>Design</th>
          <th>Records</th>
          <th class="number">Labels out</th>
          <th>State</th>
          <th>Prepared</th>
          <th>Last printed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="run in runs" :key="run.id">
          <td class="number quiet">{{ run.id }}</td>
          <td>
            <RouterLink :to="`/runs/${run.id}`" class="strong">{{ run.name }}</RouterLink>
            <span class="quiet"> version {{ run.version }}</span>
          </td>
          <td>{{ run.recordSet }}</td>
          <td class="number">{{ count(run.printed) }} of {{ count(run.labels) }}</td>
          <td :class="stateWords[run.state].tone">
            {{ stateWords[run.state].mark }} {{ stateWords[run.state].name }}
          </td>
          <td class="quiet">{{ moment(run.preparedAt) }} by {{ run.preparedBy }}</td>
          <td class="quiet">{{ run.lastPrintedAt ? moment(run.lastPrintedAt) : 'not yet' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
