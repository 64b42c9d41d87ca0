<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Design, Element } from '@/api/documents'
import { useCore } from '@/core/useCore'
import type { Strip } from '@/strip/useStrip'
import ArrangeSheet from './ArrangeSheet.vue'
import type { Moves } from './arrange'
import ElementList from './ElementList.vue'
import type { Layable } from './elements'
import FieldPanels from './FieldPanels.vue'
import HandSheet from './HandSheet.vue'
import LooksSheet from './LooksSheet.vue'
import PartPanel from './PartPanel.vue'
import SaysSheet from './SaysSheet.vue'
import SitsSheet from './SitsSheet.vue'
import TrayPanel from './TrayPanel.vue'
import type { useAdding } from './useAdding'
import type { Bench } from './useBench'
import type { useParts } from './useParts'

/** What is on the label, what the chosen of it says and how it looks and sits, and the tray of what can come onto it. */
const props = defineProps<{
  bench: Bench
  strip: Strip
  adding: ReturnType<typeof useAdding>
  parts: ReturnType<typeof useParts>
  proof: Schemas['Proof'] | undefined
  sets: Schemas['RecordSet'][]
  /** The artwork's size in micrometres. */
  art: { width: number; height: number }
  lying: boolean
  /** The record in hand. */
  record: number
}>()
const emit = defineEmits<{
  move: [moves: Moves]
  lay: [what: Layable]
  find: [group: Schemas['FindingGroup']]
  go: [record: number]
  reference: [made: Design]
  overrule: [demand: number, reason: string]
}>()
// What these hold stays the same as long as the Bench does.
const { design, chosen, chosenId, group, recordSetId } = props.bench
const { parts, putPart, sharePart, takePart, givePart } = props.parts

const hand = computed(() => props.strip.labels.value.get(props.record))
const part = computed(() => hand.value?.parts.find((p) => p.element === chosenId.value))
const findings = computed(() => hand.value?.findings ?? [])
const fieldNames = computed(() => props.strip.fields.value.map((f) => f.name))
const answers = computed(() => design.value?.questions?.map((q) => q.name) ?? [])
const numbers = computed(() => design.value?.series?.map((n) => n.name) ?? [])
const groupNames = computed(() => [...new Set(design.value?.elements.flatMap((e) => e.group ?? []) ?? [])])
/** Those whose words the chosen element can say. */
const sayers = computed(
  () => design.value?.elements.filter((e) => e.says?.length && e.id !== chosenId.value) ?? [],
)

const typefaces = shallowRef<string[]>([])
async function loadTypefaces() {
  const { data } = await api.GET('/typefaces')
  typefaces.value = data ?? []
}
onMounted(loadTypefaces)
async function brought() {
  await Promise.all([loadTypefaces(), useCore().typefaces()])
}

function changeDesign(to: Partial<Design>) {
  if (!design.value) return
  Object.assign(design.value, to)
  props.bench.commit()
}
function change(to: Partial<Element>) {
  if (chosen.value) emit('move', new Map([[chosen.value.id, to]]))
}
function arrange(moves: Moves) {
  emit('move', moves)
  props.bench.commit()
}

const fieldPanels = ref<InstanceType<typeof FieldPanels>>()
const list = ref<InstanceType<typeof ElementList>>()
defineExpose({ openAdd: () => list.value?.openAdd(), closeAdd: () => list.value?.closeAdd() })
</script>

<template>
  <div
    v-if="design"
    class="sheets"
    :class="[
      lying ? 'lying' : 'upright',
      { alone: group.length !== 1, mute: group.length === 1 && !chosen?.says },
    ]"
  >
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
      @add="adding.add"
      @lay="(what: Layable) => emit('lay', what)"
      @find="emit('find', $event)"
    />
    <ArrangeSheet
      v-if="group.length > 1"
      class="nothing"
      :elements="group"
      :groups="groupNames"
      :art
      @frame="adding.frameRound"
      @move="arrange"
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
        :record
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
        :findings="findings.filter((f) => f.element === chosenId)"
        @overrule="(demand: number, reason: string) => emit('overrule', demand, reason)"
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
      :record
      :design
      :art
      :dots="strip.size.value"
      :findings
      :proof
      :printer-id="bench.kept.value?.printerId"
      @choose="chosenId = $event"
      @find="emit('find', $event)"
      @go="emit('go', $event)"
      @reference="emit('reference', $event)"
      @overrule="(demand: number, reason: string) => emit('overrule', demand, reason)"
    />
    <TrayPanel
      class="tray"
      :fields="strip.fields.value"
      :record
      :can-join="chosen?.says !== undefined"
      :linked="recordSetId !== undefined"
      :answers
      :numbers
      @put="adding.put"
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

<style scoped>
.sheets {
  contain: strict;
  display: grid;
  min-height: 0;
}
.sheets > * {
  padding: 12px 14px;
  min-width: 0;
  overflow: auto;
}
.sheets.upright {
  border-left: 1px solid var(--line);
  grid-template:
    'elements says' minmax(150px, 34fr)
    'looks sits' minmax(280px, 46fr)
    'tray tray' minmax(96px, auto) / minmax(0, 1fr) minmax(0, 1fr);
}
/* Where one element is not chosen, the list has the room of its sheets. */
.upright.alone .elements {
  grid-area: elements-start / elements-start / looks-end / looks-end;
}
/* What says nothing leaves that sheet's room to the list. */
.upright.mute .elements {
  grid-area: elements / elements / says / says;
}
.sheets.lying {
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
.nothing {
  grid-area: says / says / sits / sits;
}
.lying > * + *,
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
