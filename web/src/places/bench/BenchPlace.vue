<script setup lang="ts">
import { useElementSize, useEventListener, useLocalStorage } from '@vueuse/core'
import { NButton, NDropdown } from 'naive-ui'
import { computed, onMounted, ref, shallowRef, toRaw, watch } from 'vue'
import { onBeforeRouteLeave, onBeforeRouteUpdate, useRoute, useRouter } from 'vue-router'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDesign, type Design, type Element } from '@/api/documents'
import { useCore } from '@/core/useCore'
import AsReadNote from '@/shared/AsReadNote.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import ContactSheet from '@/strip/ContactSheet.vue'
import LabelStrip from '@/strip/LabelStrip.vue'
import ThreadLine from '@/strip/ThreadLine.vue'
import { askFirstStrip } from '@/strip/firstStrip'
import { useStrip } from '@/strip/useStrip'
import ArrangeSheet from './ArrangeSheet.vue'
import type { Moves } from './arrange'
import BenchHead from './BenchHead.vue'
import BorderBar from './BorderBar.vue'
import CarryPanel from './CarryPanel.vue'
import ElementList from './ElementList.vue'
import { addable, type Layable, layable } from './elements'
import FieldPanels from './FieldPanels.vue'
import HandOverlay from './HandOverlay.vue'
import HandSheet from './HandSheet.vue'
import KeysHelp from './KeysHelp.vue'
import LooksSheet from './LooksSheet.vue'
import MergePanel from './MergePanel.vue'
import PartPanel from './PartPanel.vue'
import SaysSheet from './SaysSheet.vue'
import SitsSheet from './SitsSheet.vue'
import StripBar from './StripBar.vue'
import TrayPanel from './TrayPanel.vue'
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
import { useWalk } from './useWalk'

const props = defineProps<{ designId: number }>()
const route = useRoute()
const router = useRouter()

const bench = useBench(() => props.designId)
const { design, chosen, chosenId, recordSetId, group } = bench
const others = useHere(() => props.designId)
const sets = shallowRef<Schemas['RecordSet'][]>([])
const typefaces = shallowRef<string[]>([])
const runProblem = shallowRef<Problem>()
async function loadTypefaces() {
  const { data } = await api.GET('/typefaces')
  typefaces.value = data ?? []
}
onMounted(async () => {
  void bench.load(first.soon)
  void loadTypefaces()
  const { data } = await api.GET('/record-sets')
  sets.value = data ?? []
})
async function brought() {
  await Promise.all([loadTypefaces(), useCore().typefaces()])
}

const { proof, looking } = useProof(design, recordSetId, bench.version)
const total = ref(1)
const walk = useWalk(total, proof)
const { mode, zoom, at, order, inHand, notes, shown } = walk
const first = askFirstStrip(props.designId, inHand.value)
const strip = useStrip(design, recordSetId, shown, bench.version, () =>
  bench.asKept() && inHand.value === first.record ? first.answer() : undefined,
)
watch(strip.total, (n) => (total.value = n))
/** The artwork's size in micrometres. */
const art = computed(() => {
  const dot = strip.dot.value
  return { width: strip.size.value.width * dot, height: strip.size.value.height * dot }
})
const hand = computed(() => strip.labels.value.get(inHand.value))
const part = computed(() => hand.value?.parts.find((p) => p.element === chosenId.value))
const lying = computed(() => design.value?.turn === 90 || design.value?.turn === 270)
const levels = computed(() => new Map((proof.value?.knots ?? []).map((k) => [k.record, k.level])))
const fieldNames = computed(() => strip.fields.value.map((f) => f.name))
const answers = computed(() => design.value?.questions?.map((q) => q.name) ?? [])
const numbers = computed(() => design.value?.series?.map((n) => n.name) ?? [])
const fieldPanels = ref<InstanceType<typeof FieldPanels>>()
function changeDesign(to: Partial<Design>) {
  if (!design.value) return
  Object.assign(design.value, to)
  bench.commit()
}
/** Those whose words the chosen element can say. */
const sayers = computed(
  () => design.value?.elements.filter((e) => e.says?.length && e.id !== chosenId.value) ?? [],
)
const handFindings = computed(() => hand.value?.findings ?? [])

const list = ref<InstanceType<typeof ElementList>>()
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
const { showing, takeReference } = laid
const { asked, answer, put, dropped, picked, bringIn, add } = adding
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
function change(to: Partial<Element>) {
  if (chosen.value) changeAll(new Map([[chosen.value.id, to]]))
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

const { parts, putPart, sharePart, takePart, givePart } = useParts(bench, doing)

const rulers = useLocalStorage('rulers', false)
const allGuides = useLocalStorage<Record<number, { x: number[]; y: number[] }>>('guides', {})
const guides = computed({
  get: () => allGuides.value[props.designId] ?? { x: [], y: [] },
  set: (to) => (allGuides.value = { ...allGuides.value, [props.designId]: to }),
})
const groupNames = computed(() => [...new Set(design.value?.elements.flatMap((e) => e.group ?? []) ?? [])])

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
  openAdd: () => list.value?.openAdd(),
  add(letter) {
    const found = addable.find((a) => a.key === letter)
    const whole = layable.find((l) => l.key === letter)
    if (!found && !whole) return false
    list.value?.closeAdd()
    if (found) add(found.kind)
    if (whole) showing[whole.kind] = true
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
      <div class="sheets" :class="{ alone: group.length !== 1, mute: group.length === 1 && !chosen?.says }">
        <ElementList
          ref="list"
          class="elements"
          :elements="design.elements"
          :chosen-ids="group.map((e) => e.id)"
          :label="hand"
          :groups="proof?.groups ?? []"
          :parts="parts ?? []"
          @choose="bench.choose"
          @part="putPart"
          @add="add"
          @lay="(what: Layable) => (showing[what] = true)"
          @find="find"
        />
        <ArrangeSheet
          v-if="group.length > 1"
          class="nothing"
          :elements="group"
          :groups="groupNames"
          :art
          @frame="adding.frameRound"
          @move="(changeAll($event), commit())"
          @duplicate="adding.copyAll"
          @remove="bench.remove(...group.map((e) => e.id))"
        >
          <PartPanel
            :design
            :elements="group"
            :parts="parts ?? []"
            @share="sharePart"
            @take="takePart"
            @give="givePart"
          />
        </ArrangeSheet>
        <template v-else-if="chosen">
          <SaysSheet
            v-if="chosen.says"
            class="says"
            :element="chosen"
            :part
            :fields="fieldNames"
            :answers
            :numbers
            :others="sayers"
            :record-set-id="recordSetId"
            :record="inHand"
            @change="change"
            @done="bench.commit"
          />
          <LooksSheet
            class="looks"
            :element="chosen"
            :facts="part?.code"
            :tag-facts="part?.tag"
            :typefaces
            :inks="strip.inks.value"
            :mixes="strip.mixes.value"
            :document="design"
            :record-set-id="recordSetId"
            :fields="fieldNames"
            :findings="handFindings.filter((f) => f.element === chosenId)"
            @brought="brought"
            @change="change"
            @done="bench.commit"
          />
          <SitsSheet
            class="sits"
            :element="chosen"
            :dot="strip.dot.value"
            :fields="fieldNames"
            @frame="adding.frameRound"
            @change="change"
            @done="bench.commit"
            @move="bench.move(chosen.id, $event)"
            @duplicate="adding.copyAll"
            @divide="adding.divide"
            @remove="bench.remove(chosen.id)"
          />
        </template>
        <HandSheet
          v-else
          class="nothing"
          :record="inHand"
          :design
          :art
          :dots="strip.size.value"
          :findings="handFindings"
          :proof
          @choose="chosenId = $event"
          @find="find"
          @go="walk.goTo"
          @reference="takeReference"
        />
        <TrayPanel
          class="tray"
          :fields="strip.fields.value"
          :record="inHand"
          :can-join="chosen?.says !== undefined"
          :linked="recordSetId !== undefined"
          :answers
          :numbers
          @put="put"
          @numbers="fieldPanels?.open('numbers')"
          @ask="fieldPanels?.open('questions')"
          @languages="fieldPanels?.open('languages')"
        />
        <FieldPanels
          ref="fieldPanels"
          :design
          :sets
          :record-set-id="recordSetId"
          :field-names="fieldNames"
          @change="changeDesign"
        />
      </div>
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
  contain: strict;
  display: grid;
  min-height: 0;
}
.sheets > * {
  padding: 12px 14px;
  min-width: 0;
  overflow: auto;
}
.upright .sheets {
  border-left: 1px solid var(--line);
  grid-template:
    'elements says' minmax(150px, 34fr)
    'looks sits' minmax(280px, 46fr)
    'tray tray' minmax(96px, auto) / minmax(0, 1fr) minmax(0, 1fr);
}
/* Where one element is not chosen, the list has the room of its sheets. */
.upright .alone .elements {
  grid-area: elements-start / elements-start / looks-end / looks-end;
}
/* What says nothing leaves that sheet's room to the list. */
.upright .mute .elements {
  grid-area: elements / elements / says / says;
}
.lying .sheets {
  grid-template: 'elements says looks sits tray' minmax(0, 1fr) / 1.1fr 1.15fr 1.15fr 1.1fr 0.95fr;
}
.elements {
  grid-area: elements;
}
.tray {
  grid-area: tray;
}
.says {
  grid-area: says;
}
.looks {
  grid-area: looks;
}
.sits {
  grid-area: sits;
}
.upright .nothing {
  grid-area: says / says / sits / sits;
}
.lying .nothing {
  grid-area: says / says / sits / sits;
}
.lying .sheets > * + *,
.upright .says,
.upright .sits,
.upright .nothing {
  border-left: 1px solid var(--line);
}
.upright .looks,
.upright .sits,
.upright .tray {
  border-top: 1px solid var(--line);
}
.upright .tray {
  max-height: 190px;
}
</style>
