<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDocument, asStock, type Design } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { type Turn, turns } from './turns'
import { useAsked } from '@/shared/useAsked'
import LevelText from '@/shared/LevelText.vue'

/** Another stock or printer for the design: each way it can be carried there, with what breaks. */
const props = defineProps<{
  design: Design
  recordSetId: number | undefined
  record: number
  printerId: number | undefined
}>()
const emit = defineEmits<{
  take: [document: Schemas['Document'], printerId: number | undefined]
  close: []
}>()

const printers = shallowRef<Schemas['Printer'][]>([])
const stocks = shallowRef<Schemas['StockRow'][]>([])
const onPrinter = ref<number>()
const stockId = ref<number>()
const problem = shallowRef<Problem>()

onMounted(async () => {
  const [p, s] = await Promise.all([api.GET('/printers'), api.GET('/stocks')])
  problem.value = p.error ?? s.error
  printers.value = p.data ?? []
  stocks.value = s.data ?? []
  // The design says its printer; what is kept beside it may be of before an undo.
  onPrinter.value = printers.value.find((x) => x.name === props.design.printer.name)?.id ?? props.printerId
})
const printerOptions = computed(() => printers.value.map((p) => ({ value: p.id, label: p.name })))
const stockOptions = computed(() =>
  stocks.value.map((s) => ({ value: s.id, label: `${s.number} · ${asStock(s.about).name}` })),
)
const wayNames = {
  places: ['Keep places', 'Sizes, and places from the top left, stay.'],
  margins: ['Keep margins', 'Sizes stay, and the distance to the nearer edges.'],
  scale: ['Scale', 'All grows or shrinks with the label.'],
  're-flow': ['Re-flow', 'Rows are spread over the new width and stacked anew.'],
} as const

const looking = ref(false)
const turn = ref<Turn | null>(null)
const { data: carried, problem: refused } = useAsked((signal) => {
  if (!onPrinter.value) return undefined
  const body = {
    document: asDocument(props.design),
    stockId: stockId.value,
    printerId: onPrinter.value,
    recordSetId: props.recordSetId,
    record: props.record,
    turn: turn.value ?? undefined,
  }
  looking.value = true
  return api.POST('/designs/carry', { body, signal }).finally(() => (looking.value = signal.aborted))
})
</script>

<template>
  <section class="carry" aria-label="Another stock or printer">
    <header>
      <label>
        Printer
        <NSelect v-model:value="onPrinter" class="choice" :options="printerOptions" aria-label="Printer" />
      </label>
      <label>
        Stock
        <NSelect
          v-model:value="stockId"
          class="choice wide"
          filterable
          clearable
          :placeholder="`${design.stock.name}, as now`"
          :options="stockOptions"
          :input-props="{ 'aria-label': 'Stock' }"
        />
      </label>
      <label>
        Artwork
        <NSelect
          v-model:value="turn"
          class="choice"
          clearable
          placeholder="lies as suits"
          :options="turns"
          aria-label="How the artwork lies"
        />
      </label>
      <span v-if="looking" class="quiet">looking at what breaks</span>
      <span class="room" />
      <NButton @click="emit('close')">Leave it as it is</NButton>
    </header>
    <ProblemNote :problem="problem ?? refused" />
    <ul v-if="carried?.reasons.length" class="reasons">
      <li v-for="reason in carried.reasons" :key="reason.text">
        <LevelText level="error">{{ reason.text }}</LevelText>
      </li>
    </ul>
    <ol v-else-if="carried" class="ways">
      <li v-for="way in carried.ways" :key="way.way + (way.offer ?? '')">
        <h2>{{ wayNames[way.way][0] }}</h2>
        <p class="quiet">{{ wayNames[way.way][1] }}</p>
        <p v-if="way.offer" class="offer">Offered: {{ way.offer }}</p>
        <div class="liner">
          <img
            :src="way.picture"
            :alt="`The label of record ${record}, ${wayNames[way.way][0].toLowerCase()}${way.offer ? `, ${way.offer}` : ''}`"
          />
        </div>
        <p class="quiet size">{{ lengthText(way.width) }} × {{ lengthText(way.height) }}</p>
        <p v-if="!way.groups.length"><LevelText level="fine">Nothing breaks</LevelText></p>
        <template v-else>
          <p>
            <LevelText :level="way.errors ? 'error' : 'warning'">{{
              way.errors ? `${plural(way.errors, 'label')} with errors` : 'warnings only'
            }}</LevelText>
          </p>
          <ul class="breaks">
            <li v-for="group in way.groups.slice(0, 3)" :key="group.element + group.rule">
              {{ group.element }}: {{ group.text }}
            </li>
            <li v-if="way.groups.length > 3" class="quiet">and {{ way.groups.length - 3 }} more</li>
          </ul>
        </template>
        <ul v-if="way.changes.length" class="breaks">
          <li v-for="change in way.changes.slice(0, 4)" :key="change.text" class="quiet">
            {{ change.text }}
          </li>
          <li v-if="way.changes.length > 4" class="quiet">and {{ way.changes.length - 4 }} more changes</li>
        </ul>
        <NButton
          size="small"
          type="primary"
          :disabled="looking"
          @click="emit('take', way.document, onPrinter)"
          >Take this</NButton
        >
      </li>
    </ol>
    <p v-else class="quiet none">Choose a stock or a printer to see what would become of this design.</p>
  </section>
</template>

<style scoped>
.carry {
  padding: 12px 20px;
  background: var(--sunken);
  border-bottom: 1px solid var(--line);
  max-height: 62vh;
  overflow: auto;
}
header,
header label {
  display: flex;
  align-items: center;
  gap: 10px;
}
header {
  gap: 18px;
}
.choice {
  width: 170px;
}
.choice.wide {
  width: 300px;
}
.room {
  flex: 1;
}
.reasons,
.none {
  padding: 12px 0 4px;
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 18px;
  margin: 12px 0 0;
  padding: 0;
  list-style: none;
}
.ways > li {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
h2 {
  font-size: 14px;
}
.liner {
  display: flex;
  align-items: center;
  justify-content: center;
  height: 150px;
  padding: 8px;
  background: var(--liner);
}
.liner img {
  max-width: 100%;
  max-height: 100%;
}
.offer {
  font-weight: 600;
}
.breaks {
  font-size: 13px;
}
.ways .n-button {
  align-self: flex-start;
  margin-top: auto;
}
</style>
