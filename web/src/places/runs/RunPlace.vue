<script setup lang="ts">
import { NButton, NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { asPrinter, asStock } from '@/api/documents'
import { count, duration, moment, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import { usePolled } from '@/shared/usePolled'
import GoBar from './GoBar.vue'
import LabelsBetween from './LabelsBetween.vue'
import PrintNow from './PrintNow.vue'
import RecordTicks from './RecordTicks.vue'
import RunFindings from './RunFindings.vue'
import RunHistory from './RunHistory.vue'
import RollPlan from './RollPlan.vue'
import RunAnswers from './RunAnswers.vue'
import RunNumbers from './RunNumbers.vue'
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
const each = ref(1)
const field = ref<string | null>(null)
const free = ref<string | null>(null)
const pack = ref<number | null>(null)
const sets = ref(false)
const fill = ref<NonNullable<Schemas['HowMany']['fill']>>('')
/** Printers that share the labels with the run's own. */
const shared = ref<number[]>([])
/** On whichever printer is free next and can print it. */
const anywhere = ref(false)
watch(
  () => run.value?.choice,
  (choice, before) => {
    if (!choice || JSON.stringify(choice) === JSON.stringify(before)) return
    each.value = choice.howMany.each
    field.value = choice.howMany.field ?? null
    if (!field.value) field.value = null
    free.value = choice.howMany.free || null
    pack.value = choice.howMany.pack || null
    sets.value = choice.howMany.sets ?? false
    fill.value = choice.howMany.fill ?? ''
  },
  { immediate: true },
)

async function choose(change: Partial<Schemas['RunChoice']> = {}) {
  if (!run.value) return
  const body = {
    records: run.value.choice.records,
    howMany: {
      each: Math.max(each.value, 1),
      field: field.value ?? '',
      free: (field.value && free.value) ?? '',
      pack: (field.value && pack.value) || 0,
      sets: sets.value,
      fill: fill.value,
      corrected: run.value.choice.howMany.corrected,
    },
    printerId: run.value.printer.id,
    setupId: run.value.choice.setupId,
    answers: run.value.choice.answers,
    besides: run.value.choice.besides,
    ...change,
  }
  const { error } = await doing(() => api.PUT('/runs/{id}', { ...path.value, body }))
  if (!error) open.value = undefined
  await refresh()
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
const speed = computed(() => (run.value ? asPrinter(run.value.printer.about).speed : undefined))
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
/** Printers that print in the same dots. */
const alike = computed(() => {
  const own = run.value && asPrinter(run.value.printer.about).resolution
  return (printers.value ?? [])
    .filter((p) => p.id !== printerId.value && p.address && asPrinter(p.about).resolution === own)
    .map((p) => ({ value: p.id, label: `and ${p.name}` }))
})
const setupOptions = computed(() =>
  (setups.value ?? [])
    .filter((u) => !u.stock || u.stock === stock.value?.number)
    .map((u) => ({ value: u.id, label: u.about.name })),
)
/** In which order labels take the places of a row of lanes or a sheet. */
const fills = computed(() =>
  sheet.value
    ? [
        { value: '', label: 'along the rows of a sheet' },
        { value: 'down', label: 'down the columns of a sheet' },
        { value: 'through', label: 'down the stack of sheets' },
      ]
    : [
        { value: '', label: 'across the lanes' },
        { value: 'through', label: 'along one lane, then the next' },
      ],
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
            <button
              v-if="!started && open !== 'records' && run.recordSetId !== undefined"
              type="button"
              class="linklike"
              @click="open = 'records'"
            >
              Change
            </button>
            <RecordTicks v-if="open === 'records'" :run @take="takeRecords" />
          </section>
          <section class="line" aria-labelledby="q-many">
            <h2 id="q-many">{{ run.recordSetId === undefined ? 'How many' : 'How many of each' }}</h2>
            <form v-if="open === 'many'" class="edit" @submit.prevent="choose()">
              <NSelect
                v-if="run.recordSetFields.length"
                v-model:value="field"
                :options="
                  run.recordSetFields.map((value) => ({ value, label: `as the field ${value} says` }))
                "
                clearable
                placeholder="the same number"
                aria-label="Where the number comes from"
                class="from"
              />
              <NInputNumber
                v-if="!field"
                v-model:value="each"
                :show-button="false"
                :min="1"
                :max="1000000"
                class="each"
                :input-props="{ 'aria-label': 'Labels of each record' }"
              />
              <template v-if="field">
                <NSelect
                  v-model:value="free"
                  :options="
                    run.recordSetFields
                      .filter((value) => value !== field)
                      .map((value) => ({ value, label: `and ${value} besides` }))
                  "
                  clearable
                  placeholder="nothing besides"
                  aria-label="A field whose number is added"
                  class="from"
                />
                <NInputNumber
                  v-model:value="pack"
                  :show-button="false"
                  :min="1"
                  :max="1000000"
                  placeholder="a label a piece"
                  class="pack"
                  :input-props="{ 'aria-label': 'Pieces in a pack, a label for each pack' }"
                  ><template v-if="pack" #suffix>in a pack</template></NInputNumber
                >
              </template>
              <NCheckbox v-if="run.chosen > 1" v-model:checked="sets"
                >in sets: the whole run, then again</NCheckbox
              >
              <NSelect
                v-if="run.perPage > 1"
                v-model:value="fill"
                :options="fills"
                aria-label="In which order places are filled"
                class="from"
              />
              <NButton type="primary" attr-type="submit">Take this</NButton>
            </form>
            <p v-else>
              <template v-if="run.choice.howMany.field"
                >as the field <b>{{ run.choice.howMany.field }}</b> says<template
                  v-if="run.choice.howMany.free"
                  >, and <b>{{ run.choice.howMany.free }}</b> besides</template
                ><template v-if="run.choice.howMany.pack"
                  >, one for each pack of {{ count(run.choice.howMany.pack) }}</template
                ></template
              >
              <template v-else
                ><b>{{ count(run.choice.howMany.each) }}</b>
                {{ run.recordSetId === undefined ? 'of it' : 'of each' }}</template
              >
              <template v-if="run.choice.howMany.sets">, in sets</template
              ><template v-if="run.choice.howMany.fill"
                >, {{ fills.find((f) => f.value === run?.choice.howMany.fill)?.label }}</template
              >
              · <b>{{ plural(run.labels, 'label') }}</b>
            </p>
            <button v-if="!started && open !== 'many'" type="button" class="linklike" @click="open = 'many'">
              Change
            </button>
          </section>
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
          <RunQuestions :run :started @answer="choose({ answers: $event })" />
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
          <section class="line" aria-labelledby="q-printer">
            <h2 id="q-printer">Printer</h2>
            <form v-if="open === 'printer'" class="edit" @submit.prevent>
              <NSelect
                :value="run.printer.id"
                :options="(printers ?? []).map((p) => ({ value: p.id, label: p.name }))"
                aria-label="Printer"
                class="from"
                @update:value="choose({ printerId: $event, setupId: undefined })"
              />
            </form>
            <p v-else>
              <RouterLink :to="`/floor/${run.printer.id}`">{{ run.printer.name }}</RouterLink> ·
              {{ stock?.name }} ·
              <template v-if="sheet">{{ plural(Math.ceil(run.labels / run.perPage), 'sheet') }}</template>
              <template v-else-if="stock?.plate">{{ plural(run.labels, 'plate') }}</template>
              <template v-else>{{ (web / 1000).toFixed(1) }} m of web</template>
              <template v-if="run.seconds && speed">
                · {{ duration(run.seconds) }} at {{ speed }} mm/s</template
              >
              <NCheckbox
                v-if="!now.length && (printers?.length ?? 0) > 1 && !shared.length"
                v-model:checked="anywhere"
                class="anywhere"
              >
                or the next free one that fits
              </NCheckbox>
              <NSelect
                v-if="!now.length && !run.choice.besides?.length && alike.length"
                v-model:value="shared"
                multiple
                size="small"
                class="shared"
                :options="alike"
                placeholder="share it with others"
                aria-label="Printers that share the labels"
              />
            </p>
            <button
              v-if="!now.length && open !== 'printer'"
              type="button"
              class="linklike"
              @click="open = 'printer'"
            >
              Change
            </button>
          </section>
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
                v-model:value="start"
                size="small"
                :min="1"
                :max="run.perPage"
                :show-button="false"
                class="each"
                :input-props="{ 'aria-label': 'First place of the first sheet' }"
              />
              <span class="quiet">of {{ run.perPage }}, along the rows, on the first sheet</span>
            </p>
          </section>
          <p v-if="wrongStock" class="say bad"><span aria-hidden="true">■</span> {{ wrongStock }}</p>
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

<style scoped>
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
.edit {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  padding: 4px 0;
}
.from {
  width: 230px;
}
.each {
  width: 120px;
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
.shared {
  display: inline-block;
  width: 190px;
  margin-right: 14px;
  vertical-align: middle;
}
.anywhere {
  margin-left: 14px;
}
</style>
