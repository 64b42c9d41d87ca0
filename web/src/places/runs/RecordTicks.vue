<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NCheckbox, NInput, NInputNumber } from 'naive-ui'
import { refDebounced } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'
import RecordFilter from '../records/RecordFilter.vue'

/** The records of the run's set, to be ticked, or typed as a range, and their numbers corrected by hand. */
const props = defineProps<{ run: Schemas['Run'] }>()
const emit = defineEmits<{
  take: [choice: Pick<Schemas['RunChoice'], 'records' | 'tick' | 'untick'>, corrected: Record<string, number>]
}>()

const each = 50
const page = ref(0)
const range = ref(props.run.choice.records)
const base = ref(props.run.choice.records)
const ticks = reactive(new Map<number, boolean>())
const corrected = reactive<Record<string, number>>({ ...props.run.choice.howMany.corrected })

const id = computed(() => props.run.id) // and not the run, which is asked for again and again
const { data: rows } = useAsked((signal) => {
  const query = { from: page.value * each + 1, most: each }
  return api.GET('/runs/{id}/records', { params: { path: { id: id.value }, query }, signal })
})

const usual = computed(() => (props.run.choice.howMany.field ? undefined : props.run.choice.howMany.each))
/** All and none forget what was ticked before; a typed range is what the ticks go on from. */
const isTicked = (row: Schemas['RunRecord']) =>
  ticks.get(row.number) ??
  (typed.value && filtered.value
    ? true
    : base.value === ''
      ? true
      : base.value === 'none'
        ? false
        : row.copies > 0)
function all(text: '' | 'none') {
  base.value = text
  range.value = text
  ticks.clear()
}
const choosing = ref<Schemas['Choosing']>({})
const settled = refDebounced(choosing, 150)
/** Only what is looked for; undefined: all are looked at. */
const { data: chosen, problem } = useAsked((signal) => {
  const set = props.run.recordSetId
  if (set === undefined || Object.values(settled.value).every((v) => v === undefined)) return undefined
  const body = { choosing: settled.value, runId: id.value, from: page.value * each + 1, most: each }
  return api.POST('/record-sets/{id}/choose', { params: { path: { id: set } }, body, signal })
})
const filtered = computed(() => Object.values(settled.value).some((v) => v !== undefined) && chosen.value)
watch(settled, () => (page.value = 0))
const shownRows = computed<Schemas['RunRecord'][]>(() => {
  const found = filtered.value
  if (!found) return rows.value ?? []
  return found.records.map((r, i) => ({ ...r, copies: found.copies?.[i] ?? 0 }))
})
const total = computed(() => (filtered.value ? filtered.value.found : props.run.recordCount))
/** Exactly those that were found. */
function onlyFound() {
  if (!filtered.value) return
  range.value = base.value = filtered.value.range
  typed.value = true
  ticks.clear()
}
const typed = ref(false)
function correct(row: Schemas['RunRecord'], copies: number | null) {
  if (copies === null) return
  corrected[String(row.number)] = copies
}
function take() {
  const by = (on: boolean) => [...ticks].filter(([, ticked]) => ticked === on).map(([number]) => number)
  emit('take', { records: range.value, tick: by(true), untick: by(false) }, { ...corrected })
}
</script>

<template>
  <form class="ticks" @submit.prevent="take">
    <div class="top">
      <NInput
        v-model:value="range"
        placeholder="all"
        class="range"
        :input-props="{ 'aria-label': 'Range of records' }"
        @update:value="ticks.clear()"
      />
      <TextButton @click="all('')">All {{ count(run.recordCount) }}</TextButton>
      <TextButton @click="all('none')">None</TextButton>
      <span class="quiet">Type 1-3, 7 or 200-, find them, or tick below.</span>
      <span class="room" />
      <NButton type="primary" attr-type="submit">Take these</NButton>
    </div>
    <div class="find">
      <RecordFilter v-model="choosing" :fields="run.recordSetFields" :set-name="run.recordSet" />
      <template v-if="filtered">
        <b aria-live="polite">{{ count(filtered.found) }} found</b>
        <TextButton @click="onlyFound">Take exactly these</TextButton>
      </template>
    </div>
    <ProblemNote :problem />
    <div class="scroll" tabindex="0" role="region" aria-label="Records to tick">
      <table class="plain">
        <thead>
          <tr>
            <th><span class="unseen">Ticked</span></th>
            <th class="number">No.</th>
            <th>Labels</th>
            <th v-for="field in run.recordSetFields" :key="field">{{ field }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in shownRows" :key="row.number">
            <td>
              <NCheckbox
                :checked="isTicked(row)"
                :aria-label="`Record ${row.number}`"
                @update:checked="ticks.set(row.number, $event)"
              />
            </td>
            <td class="number quiet">{{ row.number }}</td>
            <td>
              <NInputNumber
                v-bind="requestBounds.HowMany.corrected"
                size="tiny"
                :show-button="false"
                :value="corrected[String(row.number)] ?? (row.copies || usual || null)"
                placeholder=""
                class="copies"
                :input-props="{ 'aria-label': `Labels of record ${row.number}` }"
                @update:value="correct(row, $event)"
              />
            </td>
            <td v-for="(value, i) in row.values" :key="i">{{ value }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="total > each" class="pages">
      <TextButton :disabled="page === 0" @click="page--">Earlier records</TextButton>
      <span class="quiet"
        >{{ count(page * each + 1) }} to {{ count(Math.min((page + 1) * each, total)) }} of
        {{ count(total) }}</span
      >
      <TextButton :disabled="(page + 1) * each >= total" @click="page++"> Later records </TextButton>
    </p>
  </form>
</template>

<style scoped>
.ticks {
  grid-column: 1 / -1;
  padding: 6px 0 10px;
}
.top,
.pages {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 6px 0;
}
.top button {
  white-space: nowrap;
}
.find {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  padding-bottom: 8px;
}
.range {
  width: 200px;
}
.room {
  flex: 1;
}
.scroll {
  max-height: 300px;
  overflow: auto;
  border-block: 1px solid var(--line);
}
.scroll th {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 1;
}
.scroll td {
  padding-block: 3px;
  white-space: nowrap;
}
.copies {
  width: 64px;
}
.copies:deep(input) {
  text-align: right;
}
</style>
