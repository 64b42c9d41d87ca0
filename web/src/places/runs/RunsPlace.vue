<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { NButton, NDatePicker, NInput } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '@/api/client'
import { count, moment } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import { stateWords } from './words'

const route = useRoute()
const router = useRouter()
const asked = (name: string) => (typeof route.query[name] === 'string' ? route.query[name] : '')
/** Words, a value of a record, a number; and the days. */
const find = ref(asked('find'))
const found = refDebounced(find, 200)
/** Either end may be open. */
const from = ref(asked('from') || null)
const to = ref(asked('to') || null)
const skip = ref(0)
const page = 50
watch([found, from, to], () => {
  skip.value = 0
  const query = { find: found.value || undefined, from: from.value ?? undefined, to: to.value ?? undefined }
  void router.replace({ query })
})
const wanted = computed(() => ({
  find: found.value || undefined,
  from: from.value ?? undefined,
  to: to.value ?? undefined,
  skip: skip.value,
  most: page,
}))
const {
  data: runs,
  problem,
  refresh,
} = usePolled(() => api.GET('/runs', { params: { query: wanted.value } }), 2000)
watch(wanted, () => refresh())
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Runs</h1>
      <RouterLink to="/runs/used">What was used</RouterLink>
      <span class="room" />
      <NDatePicker
        v-model:formatted-value="from"
        type="date"
        clearable
        value-format="yyyy-MM-dd"
        class="day"
        placeholder="from"
        :input-props="{ 'aria-label': 'First day' }"
      />
      <NDatePicker
        v-model:formatted-value="to"
        type="date"
        clearable
        value-format="yyyy-MM-dd"
        class="day"
        placeholder="to"
        :input-props="{ 'aria-label': 'Last day' }"
      />
      <NInput
        v-model:value="find"
        clearable
        class="find"
        placeholder="words, a value or a part of it, a number"
        :input-props="{ 'aria-label': 'Find runs' }"
      />
    </header>
    <ProblemNote v-if="problem" :problem />
    <div v-if="runs && !runs.length" class="empty">
      <p v-if="found || from || to || skip">
        No run is like that.
        <template v-if="found"
          >A part of a value is looked for among 100,000 records, those of the runs prepared last; a whole
          value among all.</template
        >
      </p>
      <p v-else>
        No run was prepared yet. <RouterLink to="/bench">Choose a design</RouterLink> and prepare one.
      </p>
    </div>
    <table v-else-if="runs" class="plain">
      <thead>
        <tr>
          <th class="number">Run</th>
          <th>Design</th>
          <th>Records</th>
          <th>Printer</th>
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
          <td>{{ run.printer }}</td>
          <td class="number">{{ count(run.printed) }} of {{ count(run.labels) }}</td>
          <td :class="stateWords[run.state].tone">
            {{ stateWords[run.state].mark }} {{ stateWords[run.state].name }}
          </td>
          <td class="quiet">{{ moment(run.preparedAt) }} by {{ run.preparedBy }}</td>
          <td class="quiet">{{ run.lastPrintedAt ? moment(run.lastPrintedAt) : 'not yet' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="runs && (skip || runs.length === page)" class="pages">
      <NButton :disabled="!skip" @click="skip = Math.max(skip - page, 0)">Later</NButton>
      <NButton :disabled="runs.length < page" @click="skip += page">Earlier</NButton>
    </p>
  </div>
</template>

<style scoped>
.day {
  width: 140px;
}
.find {
  width: 360px;
}
.pages {
  display: flex;
  gap: 10px;
  padding: 12px 20px;
}
@media (max-width: 1100px) {
  .find {
    width: 300px;
  }
}
</style>
