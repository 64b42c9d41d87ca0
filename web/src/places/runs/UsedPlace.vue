<script setup lang="ts">
import { NRadioButton, NRadioGroup, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, day } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'

/** How much of each stock each printer used, a bar a day, each in its own row and to its own scale. */
const days = ref(30)
const unit = ref<'labels' | 'metres'>('labels')
const { data: used, problem } = useAsked((signal) =>
  api.GET('/used', { params: { query: { days: days.value } }, signal }),
)
const choices = [7, 30, 90, 365].map((value) => ({ value, label: `${String(value)} days` }))

type Line = Schemas['UsedStock']
const values = (line: Line) => (unit.value === 'labels' ? line.labels : line.metres)
const told = (n: number) => (unit.value === 'labels' ? count(n) : `${n.toFixed(1)} m`)
const sum = (line: Line) => values(line).reduce((all, n) => all + n, 0)
const most = (line: Line) => Math.max(...values(line), 0)
const dayOf = (text: string) => day(new Date(`${text}T12:00`))
const lines = computed(() => [...(used.value?.used ?? [])].sort((a, b) => sum(b) - sum(a)))
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1><RouterLink to="/runs">Runs</RouterLink> · what was used</h1>
      <span class="room" />
      <NRadioGroup v-model:value="unit" aria-label="Told in">
        <NRadioButton value="labels">labels</NRadioButton>
        <NRadioButton value="metres">metres of web</NRadioButton>
      </NRadioGroup>
      <NSelect v-model:value="days" :options="choices" class="days" aria-label="How many days" />
    </header>
    <ProblemNote v-if="problem" :problem />
    <p v-if="used && !lines.length" class="empty">Nothing was printed in these days.</p>
    <table v-else-if="used" class="plain">
      <thead>
        <tr>
          <th>Printer</th>
          <th>Stock</th>
          <th class="chart">
            <span class="ends">
              <span>{{ dayOf(used.days[0]!) }}</span>
              <span>{{ dayOf(used.days[used.days.length - 1]!) }}</span>
            </span>
          </th>
          <th class="number">Most a day</th>
          <th class="number">In all</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in lines" :key="line.printer + line.stock">
          <td class="strong">{{ line.printer }}</td>
          <td>
            {{ line.name }} <span class="quiet">{{ line.stock }}</span>
          </td>
          <td class="chart">
            <svg
              :viewBox="`0 0 ${used.days.length} 40`"
              preserveAspectRatio="none"
              role="img"
              :aria-label="`${line.name} at ${line.printer}: ${told(sum(line))} in ${used.days.length} days`"
            >
              <rect
                v-for="(n, i) in values(line)"
                :key="i"
                :x="i + 0.1"
                :y="40 - (40 * n) / (most(line) || 1)"
                width="0.8"
                :height="(40 * n) / (most(line) || 1)"
              >
                <title>{{ dayOf(used.days[i]!) }}: {{ told(n) }}</title>
              </rect>
            </svg>
          </td>
          <template v-if="unit === 'metres' && line.byContent">
            <td class="number quiet" colspan="2">as long as their content</td>
          </template>
          <template v-else>
            <td class="number">{{ told(most(line)) }}</td>
            <td class="number strong">{{ told(sum(line)) }}</td>
          </template>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.days {
  width: 130px;
}
.chart {
  width: 50%;
}
.ends {
  display: flex;
  justify-content: space-between;
}
svg {
  display: block;
  width: 100%;
  height: 40px;
  border-bottom: 1px solid var(--control);
}
rect {
  fill: var(--accent);
}
</style>
