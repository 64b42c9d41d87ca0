<script setup lang="ts">
import { useElementSize, useEventListener, useLocalStorage } from '@vueuse/core'
import { NButton, NDropdown } from 'naive-ui'
import { computed, onMounted, ref, shallowRef, toRaw, watch } from 'vue'
import { onBeforeRouteLeave, onBeforeRouteUpdate, useRoute, useRouter } from 'vue-router'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDesign, type Element } from '@/api/documents'
import { afterPaint } from '@/shared/afterPaint'
import AsReadNote from '@/shared/AsReadNote.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import ContactSheet from '@/strip/ContactSheet.vue'
import LabelStrip from '@/strip/LabelStrip.vue'
import ThreadLine from '@/strip/ThreadLine.vue'
import { askFirstStrip } from '@/strip/firstStrip'
import { useStrip } from '@/strip/useStrip'
import type { Moves } from './arrange'
import BenchHead from './BenchHead.vue'
import BenchSheets from './BenchSheets.vue'
import BorderBar from './BorderBar.vue'
import CarryPanel from './CarryPanel.vue'
import { addable, type Layable, layable } from './elements'
import HandOverlay from './HandOverlay.vue'
import KeysHelp from './KeysHelp.vue'
import MergePanel from './MergePanel.vue'
import StripBar from './StripBar.vue'
import SafetyPanels from '../safety/SafetyPanels.vue'
import SymbolsPanel from '../safety/SymbolsPanel.vue'
import { useAdding } from './useAdding'
import { useBench } from './useBench'
import { useClipboard } from './useClipboard'
import { useFollow } from './useFollow'
import { useHere } from './useHere'
import { useKeys } from './useKeys'
import { useLaidOut } from './useLaidOut'
import { useParts } from './useParts'
import { useProof } from './useProof'
import { useSeen } from './useSeen'
import { useWalk } from './useWalk'

const props = defineProps<{ designId: number }>()
const route = useRoute()
const router = useRouter()

const bench = useBench(() => props.designId)
const { design, chosenId, recordSetId, group } = bench
const others = useHere(() => props.designId)
const sets = shallowRef<Schemas['RecordSet'][]>([])
const runProblem = shallowRef<Problem>()
onMounted(async () => {
  const { data } = await api.GET('/record-sets')
  sets.value = data ?? []
})

const { proof, looking } = useProof(design, recordSetId, bench.version)
const total = ref(1)
const walk = useWalk(total, proof)
const { mode, zoom, at, order, inHand, notes, shown } = walk
const first = askFirstStrip(props.designId, inHand.value)
const strip = useStrip(design, recordSetId, shown, bench.version, () =>
  bench.asKept() && inHand.value === first.record ? first.take() : undefined,
)
const loaded = bench.load({ seen: first.seen?.design, soon: first.soon })
useSeen(bench, inHand, first, loaded)
void first.soon.then(strip.again)
watch(strip.total, (n) => (total.value = n))
/** The artwork's size in micrometres. */
const art = computed(() => {
  const dot = strip.dot.value
  return { width: strip.size.value.width * dot, height: strip.size.value.height * dot }
})
const lying = computed(() => design.value?.turn === 90 || design.value?.turn === 270)
const levels = computed(() => new Map((proof.value?.knots ?? []).map((k) => [k.record, k.level])))
const fieldNames = computed(() => strip.fields.value.map((f) => f.name))

const sheets = ref<InstanceType<typeof BenchSheets>>()
/** Where the label is there at once, its sheets are made when its dots are on the screen. */
const painted = ref(false)
onMounted(() => {
  afterPaint(() => (painted.value = true))
})
const help = ref(false)
const carrying = ref(false)
const { problem: unread, doing } = useDoing()
const picker = ref<HTMLInputElement>()
const adding = useAdding(
  bench,
  strip,
  () => art.value,
  sets,
  doing,
  (what) => {
    if (what === 'picture') picker.value?.click()
    else choosingSymbol.value = true
  },
)
const choosingSymbol = ref(false)
const laid = useLaidOut(bench)
const { asked, answer, dropped, picked, bringIn, add } = adding
const { follow, settle, commit, asMoved } = useFollow(bench, strip)
function moveByHand(id: string, to: Partial<Element>) {
  follow(new Map([[id, to]]))
}
/** Figures and words come one at a time: the page follows in the same frame. */
function changeAll(moves: Moves) {
  settle()
  bench.changeAll(moves)
  if (design.value) strip.hurry(toRaw(design.value))
}
function find(group: Schemas['FindingGroup']) {
  chosenId.value = group.element
  const here = group.records.indexOf(inHand.value)
  walk.goTo(group.records[(here + 1) % group.records.length] ?? 1)
}

useClipboard({ bench, fields: fieldNames, paste: adding.paste, bringIn })

/** How much of the room the strip has, as a person left it. */
const usualShares = { lying: 44, upright: 52 }
const shares = useLocalStorage('shares', usualShares)
const way = computed(() => (lying.value ? 'lying' : 'upright'))
/** Goes to the next record that says so. */
async function findRecord(words: string) {
  if (recordSetId.value === undefined) return
  const params = { path: { id: recordSetId.value }, query: { words, after: inHand.value } }
  const { data } = await doing(() => api.GET('/record-sets/{id}/next', { params }))
  if (data?.number) walk.goTo(data.number)
  else if (data) unread.value = { status: 404, text: `No record has “${words}” in it.` }
}

const parts = useParts(bench, doing)

const rulers = useLocalStorage('rulers', false)
const allGuides = useLocalStorage<Record<number, { x: number[]; y: number[] }>>('guides', {})
const guides = computed({
  get: () => allGuides.value[props.designId] ?? { x: [], y: [] },
  set: (to) => (allGuides.value = { ...allGuides.value, [props.designId]: to }),
})

useKeys({
  arrow(dx, dy, fine) {
    if (!group.value.length || !design.value) {
      walk.step(dx || dy)
      return
    }
    const step = fine ? strip.dot.value : 1000
    const free = group.value.filter((e) => !e.locked).map(asMoved)
    follow(
      new Map(free.map((e) => [e.id, { x: Math.round(e.x + dx * step), y: Math.round(e.y + dy * step) }])),
    )
  },
  walk: walk.step,
  openAdd: () => sheets.value?.openAdd(),
  add(letter) {
    const found = addable.find((a) => a.key === letter)
    const whole = layable.find((l) => l.key === letter)
    if (!found && !whole) return false
    sheets.value?.closeAdd()
    if (found) add(found.kind)
    if (whole) laid.showing[whole.kind] = true
    return true
  },
  remove: () => bench.remove(...group.value.map((e) => e.id)),
  duplicate: adding.copyAll,
  unchoose: () => bench.choose(undefined),
  all: () => bench.chooseAll(design.value?.elements.map((e) => e.id) ?? []),
  undo() {
    settle()
    bench.undo()
  },
  redo: bench.redo,
  help: () => (help.value = true),
})
useEventListener('keyup', (event) => {
  if (event.key.startsWith('Arrow')) commit()
})

function take(document: Schemas['Document'], printerId: number | undefined) {
  carrying.value = false
  bench.carry(asDesign(document), printerId)
}

async function prepare(asRead?: true) {
  await bench.flush()
  if (bench.state.value === 'conflict') return
  const { data, error } = await api.POST('/runs', {
    body: { designId: props.designId, recordSetId: recordSetId.value, asRead },
  })
  runProblem.value = error
  if (data) await router.push(`/runs/${data.id}`)
}
async function keepMine() {
  const id = await bench.keepAsCopy()
  if (id !== undefined) {
    await router.push(`/bench/${id}`)
    void bench.takeTheirs()
  }
}
onBeforeRouteLeave(() => bench.flush())
onBeforeRouteUpdate((to, from) => (to.path === from.path ? undefined : bench.flush()))

const page = ref<HTMLElement>()
const { width: pageWidth } = useElementSize(page)
const sheetMost = computed(() => (pageWidth.value > 1150 ? 40 : 32))
watch(sheetMost, (most) => (walk.sheetMost.value = most), { immediate: true })
watch(
  () => route.query.record,
  (record) => record && Number(record) !== inHand.value && walk.goTo(Number(record)),
)
</script>

<template>
  <div
    ref="page"
    class="bench"
    :class="way"
    :style="{
      '--strip': `${shares.upright}fr`,
      '--sheets': `${100 - shares.upright}fr`,
      '--tall': `${shares.lying}%`,
    }"
  >
    <template v-if="design">
      <BenchHead
        class="head"
        :design
        :kept="bench.kept.value"
        :state="bench.state.value"
        :sets
        :record-set-id="recordSetId"
        :proof
        :looking
        :undoes="bench.undoes.value"
        :redoes="bench.redoes.value"
        :others
        @rename="design.name = $event"
        @records="recordSetId = $event"
        @findings="mode = 'findings'"
        @carry="carrying = !carrying"
        @run="prepare()"
        @undo="bench.undo"
        @redo="bench.redo"
      />
      <div class="notes">
        <CarryPanel
          v-if="carrying"
          :design
          :record-set-id="recordSetId"
          :record="inHand"
          :printer-id="bench.kept.value?.printerId"
          @take="take"
          @close="carrying = false"
        />
        <ProblemNote v-if="bench.problem.value" :problem="bench.problem.value">
          <MergePanel
            v-if="bench.clashes.value.length"
            :clashes="bench.clashes.value"
            :who="others[0] ?? 'the other'"
            @take="bench.merge"
          />
          <p v-if="bench.state.value === 'conflict'" class="choices">
            <NButton size="small" @click="bench.takeTheirs()">Load that draft</NButton>
            <NButton size="small" @click="keepMine">Keep mine as a copy</NButton>
          </p>
        </ProblemNote>
        <ProblemNote v-else-if="strip.problem.value" :problem="strip.problem.value" />
        <AsReadNote :problem="runProblem ?? unread" @as-read="prepare(true)" />
      </div>
      <StripBar
        v-model:mode="mode"
        v-model:zoom="zoom"
        v-model:rulers="rulers"
        class="bar"
        :record="inHand"
        :total
        :lying
        :found="(proof?.errors ?? 0) + (proof?.warnings ?? 0)"
        :legends="Math.max(design.repeat ?? 1, 1)"
        :most-legends="strip.mostLegends.value"
        @legends="((design.repeat = $event), bench.commit())"
        @go="walk.goTo"
        @find="findRecord"
        @step="walk.step"
      />
      <ContactSheet
        v-if="zoom === 'sheet'"
        class="strip"
        :labels="strip.labels.value"
        :order
        :from="walk.sheetFrom.value"
        :most="sheetMost"
        :in-hand="inHand"
        :levels
        @go="((at = $event), (zoom = 'fit'))"
        @walk="walk.step"
      />
      <LabelStrip
        v-else
        class="strip"
        :design
        :art="strip.size.value"
        :dot="strip.dot.value"
        :labels="strip.labels.value"
        :order
        :at
        :zoom
        :notes
        @walk="walk.step"
        @go="at = $event"
        @room="walk.room.value = $event"
      >
        <template #hand="{ scale, label, art: frame }">
          <HandOverlay
            v-model:guides="guides"
            :design
            :art="frame"
            :chosen-id="chosenId"
            :group
            :scale
            :dot="strip.dot.value"
            :label
            :asking="asked !== undefined"
            :rulers
            @file="bringIn"
            @choose="bench.choose"
            @choose-all="bench.chooseAll"
            @move="follow"
            @change="moveByHand"
            @done="commit"
            @drop="dropped"
          />
        </template>
      </LabelStrip>
      <ThreadLine
        class="thread"
        :total
        :in-hand="inHand"
        :knots="proof?.knots ?? []"
        :upright="!lying"
        @go="walk.goTo"
      />
      <BorderBar v-model="shares[way]" class="edge" :lying :usual="usualShares[way]" />
      <BenchSheets
        v-if="painted"
        ref="sheets"
        class="sheets"
        :bench
        :strip
        :adding
        :parts
        :proof
        :sets
        :art
        :lying
        :record="inHand"
        @move="changeAll"
        @lay="(what: Layable) => (laid.showing[what] = true)"
        @find="find"
        @go="walk.goTo"
        @reference="laid.takeReference"
        @overrule="laid.overrule"
      />
    </template>
    <ProblemNote v-else-if="bench.problem.value" :problem="bench.problem.value" />

    <NDropdown
      trigger="manual"
      placement="bottom-start"
      :show="asked !== undefined"
      :x="asked?.left ?? 0"
      :y="asked?.top ?? 0"
      :options="[
        { key: 'text', label: `${asked?.field ?? ''} as words` },
        { key: 'code', label: `${asked?.field ?? ''} as a code` },
      ]"
      @select="answer"
      @clickoutside="asked = undefined"
    />
    <KeysHelp v-model:show="help" />
    <SymbolsPanel
      v-model:show="choosingSymbol"
      :reference="bench.design.value?.reference"
      @take="adding.addSymbol"
    />
    <SafetyPanels v-if="design" :design :laid :record-set-id="recordSetId" :field-names="fieldNames" />
    <input
      ref="picker"
      type="file"
      accept="image/*,.pdf,.svg,application/pdf"
      class="unseen"
      tabindex="-1"
      aria-label="Picture file"
      @change="picked"
    />
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  height: 100%;
  min-height: 0;
}
.upright {
  grid-template:
    'head head head' auto
    'notes notes notes' auto
    'bar bar sheets' auto
    'strip thread sheets' minmax(0, 1fr) / minmax(0, var(--strip)) 28px minmax(0, var(--sheets));
}
.lying {
  grid-template:
    'head' auto
    'notes' auto
    'bar' auto
    'strip' minmax(160px, var(--tall))
    'thread' 28px
    'sheets' minmax(0, 1fr) / minmax(0, 1fr);
}
.head {
  grid-area: head;
}
.notes {
  grid-area: notes;
}
.bar {
  grid-area: bar;
}
.strip {
  grid-area: strip;
}
.thread {
  grid-area: thread;
}
.upright .thread {
  border-left: 1px solid var(--line);
}
.lying .thread {
  border-block: 1px solid var(--line);
}
.edge {
  grid-area: sheets;
}
.choices {
  display: flex;
  gap: 10px;
  margin-top: 8px;
}
.sheets {
  grid-area: sheets;
}
</style>
