<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NButton, NInput, NInputNumber, NSelect } from 'naive-ui'
import { watchDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Stock } from '@/api/documents'
import LengthInput from '@/shared/LengthInput.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useNewest } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import LevelText from '@/shared/LevelText.vue'
import { drawnHeight, drawStock } from './pieces'
import StockDrawn from './StockDrawn.vue'
import StockMore from './StockMore.vue'

/** A stock's figures, each checked as it is typed, with the drawing beside them. */
const props = defineProps<{ stock: Stock; id?: number }>()
const emit = defineEmits<{ kept: [row: Schemas['StockRow']]; close: [] }>()

const stock = ref<Stock>(JSON.parse(JSON.stringify(props.stock)) as Stock)
const { problem, doing } = useDoing()
const about = () => stock.value as unknown as Schemas['About']
const { data: check, refresh } = useNewest((signal) => api.POST('/stocks/check', { body: about(), signal }))
watchDebounced(stock, refresh, { debounce: 120, deep: true, immediate: true })

const kinds = [
  ['die-cut', 'die-cut labels on a liner'],
  ['tape', 'continuous tape'],
  ['sleeve', 'shrink sleeve'],
  ['wrap', 'self-laminating wrap'],
  ['flag', 'cable flag'],
  ['plate', 'plate or tag'],
  ['sheet', 'sheet of labels'],
].map(([value, label]) => ({ value, label }))
const shapes = ['rectangle', 'rounded', 'circle', 'ellipse'].map((value) => ({ value, label: value }))

function become(kind: Stock['kind']) {
  const s = stock.value
  s.kind = kind
  if (kind === 'tape')
    [s.gap, s.tape] = [0, s.tape ?? { byContent: true, margin: 2000, least: 10_000, most: 600_000 }]
  if (kind === 'sleeve') s.sleeve ??= { supplied: 6400, recovered: 3200, wall: 640 }
  if (kind === 'wrap') s.wrap ??= { tail: s.length * 2 }
  if (kind === 'flag') s.flag ??= { round: Math.round(s.length / 4) }
  if (kind === 'plate') [s.gap, s.plate] = [0, s.plate ?? {}]
  if (kind === 'sheet')
    s.sheet ??= {
      width: 210_000,
      height: 297_000,
      left: 0,
      top: 0,
      columns: 2,
      rows: 4,
      pitchX: s.width,
      pitchY: s.length,
    }
}

type Figure = { field: string; name: string; get: () => number; set: (v: number) => void }
/** A length at a path of the stock, such as roll.core. */
function figure(field: string, name: string): Figure {
  const [head = '', tail] = field.split('.')
  const root = stock.value as unknown as Record<string, unknown>
  const owner = () => (tail ? ((root[head] ??= {}) as Record<string, unknown>) : root)
  const key = tail ?? head
  return { field, name, get: () => Number(owner()[key] ?? 0), set: (v) => (owner()[key] = v) }
}
const figures = computed<Figure[]>(() => {
  const s = stock.value
  const list = [
    figure('width', 'Width across'),
    figure('length', s.kind === 'wrap' ? 'Print zone along' : 'Length along'),
  ]
  if (s.shape === 'rounded') list.push(figure('cornerRadius', 'Corner radius'))
  if (s.kind !== 'plate' && s.kind !== 'sheet' && s.kind !== 'tape') list.push(figure('gap', 'Gap along'))
  if (s.kind === 'die-cut' || s.kind === 'wrap' || s.kind === 'flag')
    list.push(
      figure('edgeLeft', 'Left edge'),
      figure('edgeRight', 'Right edge'),
      figure('laneGap', 'Between lanes'),
    )
  if (s.kind === 'tape')
    list.push(
      figure('tape.margin', 'Margin'),
      figure('tape.least', 'Shortest'),
      figure('tape.most', 'Longest'),
    )
  if (s.kind === 'sleeve')
    list.push(
      figure('sleeve.supplied', 'Supplied diameter'),
      figure('sleeve.recovered', 'Recovered diameter'),
      figure('sleeve.wall', 'Wall when shrunk'),
    )
  if (s.kind === 'wrap') list.push(figure('wrap.tail', 'Clear tail'))
  if (s.kind === 'flag') list.push(figure('flag.round', 'Round the cable'))
  if (s.kind === 'plate') list.push(figure('plate.clearance', 'Clear of holes'))
  if (s.kind === 'sheet')
    for (const [field, name] of [
      ['width', 'Page width'],
      ['height', 'Page height'],
      ['left', 'Left margin'],
      ['top', 'Top margin'],
      ['pitchX', 'Column pitch'],
      ['pitchY', 'Row pitch'],
    ] as const)
      list.push(figure(`sheet.${field}`, name))
  if (s.roll)
    list.push(
      figure('roll.core', 'Core'),
      figure('roll.outside', 'Outside'),
      figure('roll.thickness', 'Thickness of web'),
    )
  list.push(figure('keep', 'Keep free at edges'))
  return list
})
const wrong = (field: string) => check.value?.reasons.find((r) => r.field === field)?.text
/** What is wrong with no figure that stands here. */
const other = computed(
  () =>
    check.value?.reasons.filter(
      (r) =>
        !figures.value.some((f) => f.field === r.field) &&
        !['tracking', 'plate.holes', 'inlay', 'inlay.chipX', 'inlay.epcBits'].includes(r.field),
    ) ?? [],
)
const tall = computed(() => Math.min(Math.max(drawnHeight(stock.value), 1), 400))
const scale = computed(() =>
  Math.min(320 / Math.max(drawStock(stock.value, tall.value).width, 1), 330 / tall.value, 6),
)

async function keep() {
  const path = { params: { path: { id: props.id ?? 0 } } }
  const { data } = await doing(() =>
    props.id ? api.PUT('/stocks/{id}', { ...path, body: about() }) : api.POST('/stocks', { body: about() }),
  )
  if (data) emit('kept', data)
}
</script>

<template>
  <form class="form" :aria-label="id ? 'Change the stock' : 'New stock'" @submit.prevent="keep">
    <ProblemNote v-if="problem" :problem />
    <div class="columns">
      <div class="figures">
        <div class="pair">
          <label
            >Number<NInput
              v-model:value="stock.number"
              size="small"
              placeholder="S-200"
              :input-props="{ 'aria-label': 'Number' }"
          /></label>
          <label
            >Name<NInput
              v-model:value="stock.name"
              size="small"
              placeholder=""
              :input-props="{ 'aria-label': 'Name' }"
          /></label>
        </div>
        <div class="pair">
          <label
            >Material<NInput
              v-model:value="stock.material"
              size="small"
              placeholder=""
              :input-props="{ 'aria-label': 'Material' }"
          /></label>
          <label
            >Purpose<NInput
              v-model:value="stock.purpose"
              size="small"
              placeholder=""
              :input-props="{ 'aria-label': 'Purpose' }"
          /></label>
        </div>
        <div class="pair">
          <div>
            <span>Kind</span
            ><NSelect
              size="small"
              :value="stock.kind"
              :options="kinds"
              aria-label="Kind"
              @update:value="become"
            />
          </div>
          <div>
            <span>Shape</span
            ><NSelect v-model:value="stock.shape" size="small" :options="shapes" aria-label="Shape" />
          </div>
        </div>
        <div class="grid">
          <div v-for="f in figures" :key="f.field">
            <span>{{ f.name }}</span>
            <LengthInput
              :model-value="f.get()"
              :label="f.name"
              :decimals="f.field === 'roll.thickness' ? 2 : 1"
              @update:model-value="f.set"
            />
            <p v-if="wrong(f.field)" class="bad" role="alert">{{ wrong(f.field) }}</p>
          </div>
          <div v-if="stock.kind === 'die-cut'">
            <span>Lanes</span>
            <NInputNumber
              v-bind="designBounds.Stock.lanes"
              v-model:value="stock.lanes"
              size="small"
              :show-button="false"
              placeholder="1"
              :input-props="{ 'aria-label': 'Lanes' }"
            />
          </div>
          <template v-if="stock.sheet">
            <div>
              <span>Columns</span>
              <NInputNumber
                v-bind="designBounds.Stock['sheet.columns']"
                v-model:value="stock.sheet.columns"
                size="small"
                :show-button="false"
                :input-props="{ 'aria-label': 'Columns' }"
              />
            </div>
            <div>
              <span>Rows</span>
              <NInputNumber
                v-bind="designBounds.Stock['sheet.rows']"
                v-model:value="stock.sheet.rows"
                size="small"
                :show-button="false"
                :input-props="{ 'aria-label': 'Rows' }"
              />
            </div>
          </template>
        </div>
        <StockMore v-model="stock" :wrong />
        <p v-for="reason in other" :key="reason.text" class="bad" role="alert">{{ reason.text }}</p>
      </div>
      <div class="picture">
        <StockDrawn :stock :scale :tall name="The stock as it is typed" />
        <ul v-if="check">
          <li v-for="fit in check.printers" :key="fit.printer">
            <LevelText :level="fit.reasons.length ? 'error' : 'fine'"
              >{{ fit.printer }}: {{ fit.reasons[0]?.text ?? 'fits' }}</LevelText
            >
          </li>
        </ul>
      </div>
    </div>
    <p class="actions">
      <NButton type="primary" attr-type="submit" :disabled="!check || check.reasons.length > 0"
        >Keep this stock</NButton
      >
      <NButton @click="emit('close')">Not now</NButton>
    </p>
  </form>
</template>

<style scoped>
.form {
  padding: 14px 20px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr);
  gap: 28px;
}
.pair,
.grid {
  display: grid;
  grid-template-columns: 1fr 1.6fr;
  gap: 10px 16px;
  margin-bottom: 10px;
}
.grid {
  grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
}
label,
.grid span,
.pair span {
  font-size: 13px;
  color: var(--quiet);
}
.picture {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 14px;
}
.actions {
  display: flex;
  gap: 10px;
  margin-top: 12px;
}
</style>
