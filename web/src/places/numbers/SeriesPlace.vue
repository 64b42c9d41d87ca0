<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '@/api/client'
import { count } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import NumberLife from './NumberLife.vue'
import SeriesForm from './SeriesForm.vue'
import { fates } from './words'

/** The number series with their accounts; any number can be looked up by typing or scanning it. */
const route = useRoute()
const router = useRouter()
const { data: all, problem } = useAsked((signal) => api.GET('/series', { signal }))

const making = computed(() => route.query.new !== undefined)
const make = (on: boolean) => router.replace({ query: on ? { new: '1' } : {} })

const looked = computed(() => (typeof route.query.number === 'string' ? route.query.number : ''))
const typed = ref(looked.value)
watch(looked, (now) => (typed.value = now))
const look = () => router.replace({ query: typed.value.trim() ? { number: typed.value.trim() } : {} })
const {
  data: lives,
  problem: unfound,
  refresh,
} = useAsked((signal) =>
  looked.value ? api.GET('/numbers', { params: { query: { number: looked.value } }, signal }) : undefined,
)
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1><RouterLink to="/records">Records</RouterLink> · Number series</h1>
      <form class="look" @submit.prevent="look">
        <NInput
          v-model:value="typed"
          placeholder="Type or scan a number"
          :input-props="{ 'aria-label': 'Look a number up' }"
        />
        <NButton attr-type="submit">Look it up</NButton>
      </form>
      <span class="room" />
      <NButton v-if="!making" type="primary" @click="make(true)">Make a series</NButton>
    </header>
    <ProblemNote :problem="problem ?? unfound" />
    <SeriesForm
      v-if="making"
      @close="make(false)"
      @made="(series) => router.push(`/records/series/${series.id}`)"
    />
    <section v-if="looked && lives" aria-label="What became of it" aria-live="polite">
      <p v-if="!lives.length" class="none">
        <b class="mono">{{ looked }}</b> was never taken from a series here. See whether all of it was read,
        or typed.
      </p>
      <NumberLife v-for="life in lives" :key="life.number.id" :life @changed="refresh" />
    </section>
    <div v-if="all && !all.length && !making" class="empty">
      <p>
        There is no number series yet. A series counts for good: no number is given twice, by whichever
        design, run or printer, and of each it is known what became of it.
      </p>
      <NButton type="primary" @click="make(true)">Make a series</NButton>
    </div>
    <table v-else-if="all?.length" class="plain">
      <thead>
        <tr>
          <th>Series</th>
          <th class="number">Taken</th>
          <th v-for="fate in fates" :key="fate.state" class="number" :title="fate.means">{{ fate.words }}</th>
          <th>Made by</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="series in all" :key="series.id">
          <td>
            <LevelText v-if="series.heldAt" level="stopped">held</LevelText>
            <RouterLink :to="`/records/series/${series.id}`" class="strong">{{ series.name }}</RouterLink>
          </td>
          <td class="number strong">{{ count(series.account.taken) }}</td>
          <td v-for="fate in fates" :key="fate.state" class="number">
            {{ count(series.account[fate.state]) }}
          </td>
          <td class="quiet">{{ series.madeBy }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.look {
  display: flex;
  gap: 8px;
}
.none {
  padding: 14px 20px;
  border-bottom: 1px solid var(--line);
}
table.plain th:first-child,
table.plain td:first-child {
  padding-left: 20px;
}
</style>
