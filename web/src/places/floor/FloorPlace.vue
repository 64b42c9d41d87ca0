<script setup lang="ts">
import { NButton } from 'naive-ui'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'
import DayOrders from './DayOrders.vue'
import AddPrinter from './AddPrinter.vue'
import PrinterLine from './PrinterLine.vue'

const router = useRouter()
const adding = ref(false)
const { data: floor, problem } = usePolled(() => api.GET('/floor'), 1000)
</script>

<template>
  <div class="place">
    <h1 class="unseen">Floor</h1>
    <AddPrinter v-if="adding" @close="adding = false" />
    <ProblemNote v-if="problem" :problem />
    <template v-if="floor">
      <section v-if="floor.copied" class="list" aria-labelledby="copied">
        <h2 id="copied">The database was put back from a copy</h2>
        <p>
          <LevelText level="stopped">What was printed since is not known here</LevelText>, found
          {{ moment(floor.copied.at) }}: {{ floor.copied.why }}. Prints that were open are held, and wait for
          you below.
        </p>
        <p v-if="floor.copied.series">
          <RouterLink to="/records/series">{{
            plural(floor.copied.series, 'number series', 'number series')
          }}</RouterLink>
          {{ floor.copied.series === 1 ? 'gives' : 'give' }} no numbers until somebody says from where.
        </p>
        <p v-if="floor.copied.runs">
          <RouterLink to="/runs">{{ plural(floor.copied.runs, 'run') }}</RouterLink> with labels that were not
          printed {{ floor.copied.runs === 1 ? 'asks' : 'ask' }} before printing whether they came out since.
        </p>
      </section>
      <section v-if="floor.waiting.length" class="list" aria-labelledby="waits">
        <h2 id="waits">Waits for a person</h2>
        <ul>
          <li v-for="w in floor.waiting" :key="w.runId + w.text">
            <LevelText :level="w.level" />
            <span class="what"
              >{{ w.text }} <span class="quiet">{{ w.do }}</span></span
            >
            <NButton size="large" ghost type="primary" @click="router.push(`/runs/${w.runId}`)">Look</NButton>
          </li>
        </ul>
      </section>
      <DayOrders />
      <PrinterLine v-for="line in floor.printers" :key="line.printer.id" :line />
      <p class="more">
        <span v-if="!floor.printers.length" class="quiet">There is no printer yet.</span>
        <TextButton v-if="!adding" @click="adding = true">Add a printer</TextButton>
      </p>
      <section class="list" aria-labelledby="lately">
        <h2 id="lately">Lately printed</h2>
        <ul>
          <li v-for="run in floor.lately" :key="run.id">
            <span class="picture"><img :src="run.picture" alt="" loading="lazy" /></span>
            <span class="what">
              <RouterLink :to="`/runs/${run.id}`" class="strong">{{ run.name }}</RouterLink>
              <span class="quiet block">
                {{ count(run.printed) }} of {{ count(run.labels) }} labels ·
                {{ moment(run.lastPrintedAt ?? run.preparedAt) }} by
                {{ run.preparedBy }}
              </span>
            </span>
            <NButton size="large" ghost type="primary" @click="router.push(`/runs/${run.id}`)"
              >Print again</NButton
            >
          </li>
        </ul>
        <p v-if="!floor.lately.length" class="quiet none">
          Nothing was printed yet. <RouterLink to="/bench">Choose a design</RouterLink> and prepare a run.
        </p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.list {
  padding: 12px 20px;
  border-bottom: 1px solid var(--line);
}
.more {
  padding: 8px 20px;
  border-bottom: 1px solid var(--line);
}
li {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-bottom: 1px dotted var(--control);
}
.what {
  flex: 1;
  min-width: 0;
}
.block {
  display: block;
}
.picture {
  flex: none;
  padding: 4px;
  background: var(--liner);
}
.picture img {
  display: block;
  width: 84px;
  border-radius: 2px;
}
.none {
  padding: 12px 0;
}
</style>
