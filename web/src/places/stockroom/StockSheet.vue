<script setup lang="ts">
import { NButton, NPopconfirm } from 'naive-ui'
import { computed } from 'vue'
import { api, type Schemas } from '@/api/client'
import { asStock } from '@/api/documents'
import { count, lengthText } from '@/shared/format'
import { useAsked } from '@/shared/useAsked'
import LevelText from '@/shared/LevelText.vue'
import CableDrawing from './CableDrawing.vue'
import { drawnHeight } from './pieces'
import StockDrawn from './StockDrawn.vue'
import StockRolls from './StockRolls.vue'

/** The chosen stock with its dimensions, what follows from them, and which printers take it. */
const props = defineProps<{ row: Schemas['StockRow']; cable?: number }>()
const emit = defineEmits<{ design: []; copy: []; change: []; retire: [] }>()

const stock = computed(() => asStock(props.row.about))
const facts = computed(() => props.row.facts)
const rollUnit = computed(() =>
  stock.value.kind === 'sheet' ? 'sheets' : stock.value.kind === 'tape' ? 'length' : 'labels',
)
const tall = computed(() => drawnHeight(stock.value))
const scale = computed(() =>
  Math.min(250 / Math.max(facts.value.web / 1000, 1), 210 / Math.max(tall.value, 1), 6),
)
const { data: check } = useAsked((signal) => api.POST('/stocks/check', { body: props.row.about, signal }))

const lines = computed(() => {
  const s = stock.value
  const f = facts.value
  const made: [string, string][] = [['Piece', `${lengthText(s.width)} × ${lengthText(s.length)}`]]
  if (s.kind === 'die-cut' || s.kind === 'wrap' || s.kind === 'flag') {
    made.push(['Web · pitch', `${lengthText(f.web)} · ${lengthText(f.pitch)}`])
    if ((s.lanes ?? 1) > 1) made.push(['Lanes', `${s.lanes ?? 1}, ${lengthText(s.laneGap ?? 0)} apart`])
    made.push(['Liner edges', `${lengthText(s.edgeLeft ?? 0)} left, ${lengthText(s.edgeRight ?? 0)} right`])
  }
  if (s.kind !== 'plate' && s.kind !== 'sheet')
    made.push(['Found by', f.tracking === 'gap' ? `gap of ${lengthText(s.gap)}` : f.tracking])
  if (s.roll)
    made.push(['Core · outside', `${lengthText(s.roll.core, 0)} · ${lengthText(s.roll.outside, 0)}`])
  if (f.pieces)
    made.push([
      'On a full roll',
      `${count(f.pieces)} pieces${f.rollLength ? `, ${(f.rollLength / 1e6).toFixed(1)} m` : ''}`,
    ])
  if (s.tape) {
    if (!f.pieces && f.rollLength) made.push(['On a full roll', `${(f.rollLength / 1e6).toFixed(1)} m`])
    made.push([
      'Length',
      s.tape.byContent
        ? `by content, ${lengthText(s.tape.least ?? 0, 0)} to ${lengthText(s.tape.most ?? 1_000_000, 0)}`
        : 'set',
    ])
  }
  if (s.sleeve)
    made.push([
      'Supplied · recovered',
      `${lengthText(s.sleeve.supplied)} · ${lengthText(s.sleeve.recovered)}`,
    ])
  if (f.flatWidth) made.push(['Pressed flat', lengthText(f.flatWidth)])
  if (s.wrap) made.push(['Print zone · clear tail', `${lengthText(s.length)} · ${lengthText(s.wrap.tail)}`])
  if (s.flag)
    made.push([
      'Each face · round',
      `${lengthText((s.length - s.flag.round) / 2)} · ${lengthText(s.flag.round)}`,
    ])
  if (f.largestCable)
    made.push(['For cables of', `${lengthText(f.smallestCable ?? 0)} to ${lengthText(f.largestCable)}`])
  if (s.plate)
    made.push([
      'Holes',
      s.plate.holes?.length
        ? `${s.plate.holes.length} of ${lengthText(s.plate.holes[0]?.diameter ?? 0)}, ${lengthText(s.plate.clearance ?? 0)} clear`
        : 'none',
    ])
  if (s.inlay)
    made.push([
      'Chip',
      `${String(s.inlay.epcBits ?? 0)} bits of identifier, ${String(s.inlay.userBits ?? 0)} of user memory`,
    ])
  if (s.sheet)
    made.push([
      'Page',
      `${lengthText(s.sheet.width, 0)} × ${lengthText(s.sheet.height, 0)}, ${s.sheet.columns} × ${s.sheet.rows}`,
    ])
  if (s.keep) made.push(['Kept free at the edges', lengthText(s.keep)])
  made.push(['Shown by heat', s.reacts?.join(' and ') ?? 'nothing: needs a ribbon or marking'])
  return made
})
</script>

<template>
  <aside aria-label="The chosen stock">
    <header>
      <h2>{{ stock.name }}</h2>
      <span class="quiet">{{ row.number }}</span>
    </header>
    <p class="quiet">{{ [stock.material, stock.purpose].filter(Boolean).join(' · ') }}</p>
    <div class="drawing">
      <figure>
        <figcaption>{{ lengthText(facts.web) }}</figcaption>
        <div class="rule" :style="{ width: `${(facts.web / 1000) * scale}px` }" />
        <StockDrawn :stock :scale :tall :name="`${stock.name}, drawn to scale`" />
      </figure>
      <CableDrawing v-if="cable && facts.largestCable" :stock :cable />
    </div>
    <dl>
      <div v-for="[name, value] in lines" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ value }}</dd>
      </div>
    </dl>
    <StockRolls
      v-if="stock.kind !== 'plate'"
      :stock="row.number"
      :unit="rollUnit"
      :full="rollUnit === 'length' ? (facts.rollLength ?? 0) : facts.pieces"
    />
    <h3>Which printers take it</h3>
    <ul>
      <li v-for="fit in check?.printers" :key="fit.printer">
        <template v-if="fit.reasons.length">
          <span>{{ fit.printer }}</span>
          <LevelText level="error">{{ fit.reasons[0]?.text }}</LevelText>
        </template>
        <template v-else>
          <span>{{ fit.printer }}</span>
          <span class="good">✓ fits, {{ lengthText(fit.printable) }} printable across</span>
        </template>
      </li>
    </ul>
    <p class="actions">
      <NButton type="primary" size="small" @click="emit('design')">Design on it</NButton>
      <NButton size="small" @click="emit('copy')">Copy</NButton>
      <NButton size="small" @click="emit('change')">Change</NButton>
      <NPopconfirm positive-text="Retire it" negative-text="Keep it" @positive-click="emit('retire')">
        <template #trigger><NButton size="small">Retire</NButton></template>
        It leaves the stockroom. Designs keep the stock they were made with.
      </NPopconfirm>
    </p>
  </aside>
</template>

<style scoped>
aside {
  padding: 14px 20px;
  overflow: auto;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
h2 {
  font-size: 16px;
  color: var(--ink);
}
h3 {
  margin: 14px 0 4px;
  font-size: 13px;
  color: var(--quiet);
}
.drawing {
  display: flex;
  align-items: center;
  justify-content: space-around;
  gap: 10px;
  margin: 8px 0;
}
figure {
  margin: 0;
}
figcaption {
  text-align: center;
  font-size: 12.5px;
  font-weight: 600;
  color: var(--accent);
}
.rule {
  height: 7px;
  margin-bottom: 3px;
  border: solid var(--accent);
  border-width: 0 1px 0;
  background: linear-gradient(var(--accent), var(--accent)) center / 100% 1px no-repeat;
}
dl > div,
li {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  padding: 5px 0;
  border-bottom: 1px dotted var(--control);
}
dd,
li span:last-child {
  font-weight: 500;
  text-align: right;
}
.actions {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
</style>
