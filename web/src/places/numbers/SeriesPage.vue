<script setup lang="ts">
import { NButton, NPopconfirm, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import SeriesAhead from './SeriesAhead.vue'
import { badTagOptions, fates, fateWords, labelsText, unusedOptions } from './words'

/** One number series: its account, what comes next, and the numbers that were taken. */
const props = defineProps<{ seriesId: number }>()
const router = useRouter()
const path = computed(() => ({ id: props.seriesId }))
const {
  data: series,
  problem,
  refresh,
} = useAsked((signal) => api.GET('/series/{id}', { params: { path: path.value }, signal }))
const key = ref<string | null>(null)
watch(series, (now) => (key.value ??= now?.keys[0]?.key ?? ''))
const { data: next } = useAsked((signal) =>
  key.value === null
    ? undefined
    : api.GET('/series/{id}/next', {
        params: { path: path.value, query: { key: key.value, most: 1000 } },
        signal,
      }),
)
const keyOptions = computed(() =>
  (series.value?.keys ?? []).map((k) => ({ value: k.key, label: k.key || 'all' })),
)

const state = ref<Schemas['NumberState'] | null>(null)
const stateOptions = fates.map((f) => ({ value: f.state, label: f.words }))
const before = ref<number[]>([])
watch(state, () => (before.value = []))
const each = 50
const { data: numbers } = useAsked((signal) => {
  const query = { state: state.value ?? undefined, before: before.value.at(-1), most: each }
  return api.GET('/series/{id}/numbers', { params: { path: path.value, query }, signal })
})
const share = (n: number) => `${String((100 * n) / Math.max(series.value?.account.taken ?? 0, 1))}%`

const { problem: refused, doing } = useDoing()
async function change(to: Partial<Pick<Schemas['NumberSeries'], 'unused' | 'badTag'>>) {
  if (!series.value) return
  const { counts, unused, badTag } = series.value
  const body = { counts, unused, badTag, ...to }
  await doing(() => api.PUT('/series/{id}', { params: { path: path.value }, body }))
  await refresh()
}
async function retire() {
  const { error } = await doing(() => api.DELETE('/series/{id}', { params: { path: path.value } }))
  if (!error) await router.push('/records/series')
}
</script>

<template>
  <div class="place">
    <ProblemNote :problem="problem ?? refused" />
    <template v-if="series">
      <header class="place-head">
        <h1><RouterLink to="/records/series">Number series</RouterLink> · {{ series.name }}</h1>
        <span class="quiet">made {{ moment(series.madeAt) }} by {{ series.madeBy }}</span>
        <span class="room" />
        <span class="quiet">All numbers as</span>
        <a
          v-for="format in ['csv', 'xlsx', 'json']"
          :key="format"
          :href="`/api/series/${series.id}/list?format=${format}`"
          >{{ format.toUpperCase() }}</a
        >
        <NPopconfirm positive-text="Take it out of use" negative-text="Not now" @positive-click="retire">
          <template #trigger><NButton>Retire it</NButton></template>
          No run takes numbers of it any more. What became of those that were taken stays here.
        </NPopconfirm>
      </header>
      <div class="columns">
        <div>
          <section class="account" aria-labelledby="account">
            <h2 id="account">Account</h2>
            <p>
              <b>{{ plural(series.account.taken, 'number') }} taken</b> =
              <template v-for="(fate, i) in fates" :key="fate.state"
                ><template v-if="i"> + </template><b>{{ count(series.account[fate.state]) }}</b>
                {{ fate.words }}</template
              >
            </p>
            <div v-if="series.account.taken" class="bar" aria-hidden="true">
              <span
                v-for="fate in fates"
                :key="fate.state"
                :class="fate.state"
                :style="{ width: share(series.account[fate.state]) }"
              />
            </div>
            <p class="quiet meanings">
              <span v-for="fate in fates" :key="fate.state"
                ><i :class="fate.state" aria-hidden="true" /> {{ fate.words }}: {{ fate.means }}</span
              >
            </p>
          </section>
          <section class="taken" aria-labelledby="taken">
            <h2 id="taken">Numbers taken</h2>
            <NSelect
              v-model:value="state"
              :options="stateOptions"
              clearable
              size="small"
              placeholder="whatever became of them"
              aria-label="What became of them"
              class="which"
            />
            <table v-if="numbers?.length" class="plain">
              <thead>
                <tr>
                  <th>Number</th>
                  <th>Fate</th>
                  <th>Run</th>
                  <th>Label</th>
                  <th>Taken</th>
                  <th v-if="series.keys.some((k) => k.key)">Counted for</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="n in numbers" :key="n.id">
                  <td class="mono">
                    <RouterLink :to="{ path: '/records/series', query: { number: n.number } }">{{
                      n.number
                    }}</RouterLink>
                  </td>
                  <td>{{ fateWords[n.state] }}</td>
                  <td>
                    <RouterLink :to="`/runs/${n.runId}`">{{ n.runId }} · {{ n.design }}</RouterLink>
                  </td>
                  <td>{{ labelsText(n) }}</td>
                  <td class="quiet">{{ moment(n.takenAt) }}, {{ n.takenBy }}</td>
                  <td v-if="series.keys.some((k) => k.key)">{{ n.key }}</td>
                </tr>
              </tbody>
            </table>
            <p v-else class="quiet none">There are none.</p>
            <p v-if="numbers && (before.length || numbers.length === each)" class="pages">
              <TextButton :disabled="!before.length" @click="before.pop()"> Later ones </TextButton>
              <TextButton :disabled="numbers.length < each" @click="before.push(numbers.at(-1)?.id ?? 1)">
                Earlier ones
              </TextButton>
            </p>
          </section>
        </div>
        <aside aria-label="What comes next">
          <SeriesAhead v-if="series.heldAt" :series @changed="refresh" />
          <section>
            <h2>Next</h2>
            <NSelect
              v-if="keyOptions.some((k) => k.value)"
              v-model:value="key"
              size="small"
              :options="keyOptions"
              aria-label="Counted for"
            />
            <ol class="mono next" tabindex="0" aria-label="The next numbers">
              <li v-for="number in next?.numbers" :key="number">{{ number }}</li>
            </ol>
            <p v-if="next?.ends" class="warn">{{ next.ends }}</p>
            <p v-if="series.unused === 'return' && series.account.returned" class="quiet">
              Returned numbers are taken before these.
            </p>
          </section>
          <SeriesAhead v-if="!series.heldAt" :series @changed="refresh" />
          <section>
            <h2>Numbers that a run took and does not print</h2>
            <NSelect
              size="small"
              :value="series.unused"
              :options="unusedOptions"
              aria-label="Unused numbers"
              @update:value="change({ unused: $event })"
            />
            <p class="quiet">Those that were at a printer are void in any case.</p>
          </section>
          <section>
            <h2>Numbers of a label whose tag is bad</h2>
            <NSelect
              size="small"
              :value="series.badTag"
              :options="badTagOptions"
              aria-label="Where the tag is bad"
              @update:value="change({ badTag: $event })"
            />
          </section>
        </aside>
      </div>
    </template>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px;
}
section {
  padding: 12px 20px;
}
aside {
  border-left: 1px solid var(--line);
}
.account,
aside section {
  border-bottom: 1px solid var(--line);
}
aside section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.bar {
  display: flex;
  height: 14px;
  margin: 8px 0;
  border: 1px solid var(--control);
}
.printed {
  background: var(--accent);
}
.open {
  background: var(--paper);
}
.returned {
  background: var(--sunken);
}
.spoiled {
  background: repeating-linear-gradient(45deg, var(--control) 0 2px, var(--paper) 2px 5px);
}
.voided {
  background: repeating-linear-gradient(-45deg, var(--ink) 0 1px, var(--paper) 1px 5px);
}
.meanings {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  font-size: 13px;
}
.meanings i {
  display: inline-block;
  width: 11px;
  height: 11px;
  border: 1px solid var(--control);
  vertical-align: -1px;
}
.which {
  width: 230px;
  margin: 6px 0;
}
.taken table {
  margin: 0 -10px;
}
.none {
  padding: 10px 0;
}
.pages {
  display: flex;
  gap: 18px;
  padding: 8px 0;
}
.next {
  max-height: 230px;
  overflow: auto;
}
</style>
