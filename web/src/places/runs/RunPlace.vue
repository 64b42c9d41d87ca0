<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { asStock } from '@/api/documents'
import { count, moment, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import { usePolled } from '@/shared/usePolled'
import TextButton from '@/shared/TextButton.vue'
import SayLoaded from '../floor/SayLoaded.vue'
import GoBar from './GoBar.vue'
import LabelsBetween from './LabelsBetween.vue'
import PrintNow from './PrintNow.vue'
import RecordTicks from './RecordTicks.vue'
import RunFindings from './RunFindings.vue'
import RunHistory from './RunHistory.vue'
import RollPlan from './RollPlan.vue'
import RunAnswers from './RunAnswers.vue'
import RunMany from './RunMany.vue'
import RunNumbers from './RunNumbers.vue'
import RunPrinter from './RunPrinter.vue'
import RunProof from './RunProof.vue'
import RunQuestions from './RunQuestions.vue'
import RunWeb from './RunWeb.vue'

/** One page that grows: which records, how many, proof, printer, go. */
const props = defineProps<{ runId: number }>()

/** Why an order of the day is not printed yet. */
const route = useRoute()
const why = computed(() => route.query.why)
const path = computed(() => ({ params: { path: { id: props.runId } } }))
const { data: run, problem, refresh } = usePolled(() => api.GET('/runs/{id}', path.value), 400)
const { problem: refused, doing } = useDoing()
const open = ref<'records' | 'many' | 'besides' | 'printer'>()
const { data: printers } = useAsked(() => api.GET('/printers'))

const started = computed(() => (run.value?.prints.length ?? 0) > 0)
const now = computed(
  () => run.value?.prints.filter((p) => p.state === 'printing' || p.state === 'held') ?? [],
)

/** Answers for records or labels that were changed here. */
const edited = ref(0)
async function answered() {
  edited.value++
  await refresh()
}

/** What the proof was made of: another choice needs another look. */
const made = computed(() =>
  run.value
    ? JSON.stringify([
        run.value.choice.records,
        run.value.choice.howMany,
        run.value.printer.id,
        run.value.choice.setupId,
        run.value.choice.answers,
        run.value.choice.besides,
        run.value.answersGiven,
        edited.value,
        run.value.numbers,
      ])
    : '',
)
const proofOf = ref('')
const stopped = ref(false)
watch(made, () => (stopped.value = false))
const { data: lastProof, problem: unproved } = useAsked((signal) => {
  const of = made.value
  if (!of || stopped.value) return undefined
  return api.GET('/runs/{id}/proof', { ...path.value, signal }).then((answer) => {
    if (!signal.aborted) proofOf.value = of
    return answer
  })
})
const proof = computed(() => (proofOf.value === made.value && !unproved.value ? lastProof.value : undefined))
/** Printers that share the labels with the run's own. */
const shared = ref<number[]>([])
/** On whichever printer is free next and can print it. */
const anywhere = ref(false)
async function choose(change: Partial<Schemas['RunChoice']> = {}): Promise<boolean> {
  if (!run.value) return false
  const body = {
    records: run.value.choice.records,
    howMany: run.value.choice.howMany,
    printerId: run.value.printer.id,
    setupId: run.value.choice.setupId,
    answers: run.value.choice.answers,
    besides: run.value.choice.besides,
    ...change,
  }
  const { error } = await doing(() => api.PUT('/runs/{id}', { ...path.value, body }))
  if (!error) open.value = undefined
  await refresh()
  return !error
}

function takeRecords(
  chosen: Pick<Schemas['RunChoice'], 'records' | 'tick' | 'untick'>,
  corrected: Record<string, number>,
) {
  if (run.value) void choose({ ...chosen, howMany: { ...run.value.choice.howMany, corrected } })
}

async function print(kind: Schemas['StartPrint']['kind'], labels?: string) {
  const body = {
    kind,
    labels,
    start: sheet.value ? start.value - 1 : undefined,
    free: (anywhere.value && !shared.value.length) || undefined,
    spread: shared.value.length ? [run.value?.printer.id ?? 0, ...shared.value] : undefined,
  }
  await doing(() => api.POST('/runs/{id}/prints', { ...path.value, body }))
  await refresh()
}

/** A person looked, and knows that no label of it came out while this database did not know of it. */
async function trust() {
  await doing(() => api.POST('/runs/{id}/trust', path.value))
  await refresh()
}

async function spoil(labels: string, numbers: Schemas['SpoilLabels']['numbers']) {
  await doing(() => api.POST('/runs/{id}/spoiled', { ...path.value, body: { labels, numbers } }))
  await refresh()
}
async function giveUp() {
  await doing(() => api.POST('/runs/{id}/close', path.value))
  await refresh()
}

const printable = computed(() => (proof.value && run.value ? run.value.labels - proof.value.leftOut : 0))
const stock = computed(() => (run.value ? asStock(run.value.stock) : undefined))
const wrongStock = computed(() => (run.value?.misfit ? `${run.value.misfit} Load it before you print.` : ''))
const otherMaterial = computed(() =>
  run.value?.otherStock
    ? `${run.value.otherStock} is loaded; this run was made for ${stock.value?.name ?? 'another stock'} of the same size.`
    : '',
)
/** On a sheet of labels the first places may be used already. */
const sheet = computed(() => stock.value?.sheet)
const start = ref(1)
const printerId = computed(() => run.value?.printer.id)
const { data: setups } = useAsked((signal) => {
  const id = printerId.value
  return id === undefined ? undefined : api.GET('/printers/{id}/setups', { params: { path: { id } }, signal })
})
const setupOptions = computed(() =>
  (setups.value ?? [])
    .filter((u) => !u.stock || u.stock === stock.value?.number)
    .map((u) => ({ value: u.id, label: u.about.name })),
)
/** What the labels take of the web; of a tape cut by content it is known once all were looked at. */
const web = computed(() => proof.value?.webMillimetres ?? run.value?.webMillimetres ?? 0)
const seen = ref(1)
</script>

<template>
  <div class="run">
    <ProblemNote v-if="problem" :problem />
    <template v-if="run">
      <header class="place-head">
        <h1>Run of {{ run.name }}</h1>
        <RouterLink :to="`/bench/${run.designId}`">version {{ run.version }}</RouterLink>
        <span class="room" />
        <RouterLink v-if="run.printed" :to="`/runs/${run.id}/scan`">Scan back</RouterLink>
        <RouterLink v-if="!run.closedAt && run.left" :to="`/runs/${run.id}/demand`">One at a time</RouterLink>
        <span class="quiet"
          >Run {{ run.id }} · prepared {{ moment(run.preparedAt) }} by {{ run.preparedBy }}</span
        >
      </header>
      <div class="columns">
        <div class="lines">
          <ProblemNote :problem="refused ?? unproved" />
          <p v-if="!started && why" class="say warn"><span aria-hidden="true">▲</span> {{ why }}</p>
          <section class="line" aria-labelledby="q-records">
            <h2 id="q-records">Which records</h2>
            <p>
              <template v-if="run.recordSetId === undefined">This label needs none</template>
              <template v-else>
                <b>{{ run.recordSet }}</b> ·
                {{ run.choice.records ? `records ${run.choice.records}` : 'all' }} ·
                {{ count(run.chosen) }} of {{ count(run.recordCount) }}
              </template>
            </p>
            <TextButton
              v-if="!started && open !== 'records' && run.recordSetId !== undefined"
              @click="open = 'records'"
            >
              Change
            </TextButton>
            <RecordTicks v-if="open === 'records'" :run @take="takeRecords" />
          </section>
          <RunMany
            :run
            :started
            :open="open === 'many'"
            @open="open = 'many'"
            @take="choose({ howMany: $event })"
          />
          <LabelsBetween
            :run
            :printers="printers ?? []"
            :started
            :open="open === 'besides'"
            @open="open = 'besides'"
            @take="choose({ besides: $event })"
          />
          <section v-if="run.taken.length" class="line" aria-labelledby="q-taken">
            <h2 id="q-taken">Look at these</h2>
            <p>
              <LevelText level="warning">{{
                plural(run.taken.length, 'quantity is no whole number', 'quantities are no whole numbers')
              }}</LevelText>
              <span v-for="t in run.taken.slice(0, 4)" :key="`${t.record} ${t.field}`" class="quiet">
                · record {{ t.record }} says “{{ t.value }}”, taken as {{ count(t.as) }}</span
              ><span v-if="run.taken.length > 4" class="quiet"> …</span>
            </p>
          </section>
          <RunQuestions :run :started :keep="(answers) => choose({ answers })" />
          <RunAnswers v-if="run.answersWanted" :run :started @answered="answered" />
          <RunNumbers v-if="run.numbers.length" :numbers="run.numbers" />
          <RunProof
            :run-id="run.id"
            :proof
            :labels="run.labels"
            :stopped="stopped"
            @see="seen = $event"
            @stop="stopped = true"
            @again="stopped = false"
          />
          <RunWeb v-model:from="seen" :run-id="run.id" :total="run.labels" :made :stock="stock" />
          <RunFindings v-if="proof?.groups.length" :groups="proof.groups" :design-id="run.designId" />
          <RunPrinter
            v-model:anywhere="anywhere"
            v-model:shared="shared"
            :run
            :printers="printers ?? []"
            :printing="now.length > 0"
            :web
            :open="open === 'printer'"
            @open="open = 'printer'"
            @take="choose({ printerId: $event, setupId: undefined })"
          />
          <RollPlan
            v-if="run.rollPlan?.stretches.length && !run.closedAt"
            :plan="run.rollPlan"
            :printed="run.printed"
            :sheets="!!sheet"
            @taken="refresh"
          />
          <section v-if="setupOptions.length" class="line" aria-labelledby="q-setup">
            <h2 id="q-setup">Print set-up</h2>
            <NSelect
              class="from"
              size="small"
              :value="run.choice.setupId ?? null"
              :options="setupOptions"
              clearable
              :disabled="!!now.length"
              placeholder="as the printer is set"
              aria-label="Set-up to print with"
              @update:value="choose({ setupId: $event ?? undefined })"
            />
          </section>
          <section v-if="sheet" class="line" aria-labelledby="q-start">
            <h2 id="q-start">Begin at place</h2>
            <p class="edit">
              <NInputNumber
                v-bind="requestBounds.StartPrint.start"
                v-model:value="start"
                size="small"
                :max="run.perPage"
                :show-button="false"
                class="each"
                :input-props="{ 'aria-label': 'First place of the first sheet' }"
              />
              <span class="quiet">of {{ run.perPage }}, along the rows, on the first sheet</span>
            </p>
          </section>
          <div v-if="wrongStock" class="say bad">
            <span aria-hidden="true">■</span> {{ wrongStock }}
            <SayLoaded
              :printer-id="run.printer.id"
              :which="{ runId: run.id }"
              words="It is loaded, and the printer does not know…"
              @said="refresh"
            />
          </div>
          <p v-else-if="otherMaterial" class="say warn">
            <span aria-hidden="true">▲</span> {{ otherMaterial }}
          </p>
        </div>
        <RunHistory class="side" :run @again="print('again', $event)" @spoiled="spoil" @close="giveUp" />
      </div>
      <footer class="go">
        <div v-if="now.length" class="prints">
          <PrintNow v-for="p in now" :key="p.id" :print="p" :printers="printers ?? []" @changed="refresh" />
        </div>
        <span v-else-if="run.closedAt" class="quiet"
          >Given up {{ moment(run.closedAt) }} by {{ run.closedBy }}: what was not printed then is not printed
          any more.</span
        >
        <p v-else-if="run.doubtedAt" class="doubted">
          <LevelText level="stopped">Its labels may have been printed.</LevelText> The database was put back
          from a copy ({{ moment(run.doubtedAt) }}) after this run was prepared. Look for its labels. If there
          are any, give the run up and prepare another; if there are none:
          <NButton type="primary" @click="trust">None was printed since</NButton>
        </p>
        <GoBar
          v-else-if="proof"
          :printed="run.printed"
          :printable
          :left-out="proof.leftOut"
          :loaded="!wrongStock"
          :ask-from="run.askFrom"
          :worth="proof.worth"
          @print="print"
        />
        <span v-else class="quiet">The run can be printed as soon as every label was looked at.</span>
      </footer>
    </template>
  </div>
</template>

<style scoped src="./edit.css"></style>
<style scoped>
.doubted {
  padding: 4px 0;
}
.run {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.columns {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 370px;
}
.lines {
  overflow: auto;
}
.side {
  overflow: auto;
  border-left: 1px solid var(--line);
}
.line {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) auto;
  align-items: center;
  min-height: 42px;
  padding: 4px 20px;
  border-bottom: 1px solid var(--line);
}
.say {
  padding: 10px 20px;
}
.go {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 68px;
  padding: 10px 20px;
  background: var(--sunken);
  border-top: 1px solid var(--line);
}
@media (max-width: 900px) {
  .columns {
    display: block !important;
    overflow: auto;
  }
  .side {
    border-left: 0;
  }
  .go {
    flex-wrap: wrap;
  }
}
@media (max-width: 640px) {
  .line {
    display: block !important;
    padding: 6px 12px;
  }
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: minmax(0, 1fr) 300px;
  }
  .line {
    grid-template-columns: 128px minmax(0, 1fr) auto;
  }
}
.prints {
  display: grid;
  gap: 8px;
  width: 100%;
  max-height: 40vh;
  overflow: auto;
}
</style>
