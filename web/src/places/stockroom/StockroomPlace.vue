<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { NButton, NDropdown, NInput } from 'naive-ui'
import { computed, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { asStock, type Stock } from '@/api/documents'
import { count, lengthText, parseLength, plural, units } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useNewest } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import StockDrawn from './StockDrawn.vue'
import StockForm from './StockForm.vue'
import StockSheet from './StockSheet.vue'

/** The stocks side by side as webs, all to one scale; the chosen one with its dimensions. */
const route = useRoute()
const router = useRouter()
const query = (name: string) => (typeof route.query[name] === 'string' ? route.query[name] : '')
const find = ref(query('find'))
const cableText = ref(query('cable'))
const { problem, doing } = useDoing()
const chosenNumber = ref(query('stock'))
const form = shallowRef<{ stock: Stock; id?: number }>()

const cable = computed(() => (cableText.value.trim() ? parseLength(cableText.value) : undefined))
const cableWrong = computed(() => cableText.value.trim() !== '' && (cable.value ?? 0) < 1)

const {
  data: rows,
  problem: unread,
  refresh: load,
} = useNewest((signal) => {
  const query = { find: find.value || undefined, cable: cable.value }
  return cableWrong.value ? undefined : api.GET('/stocks', { params: { query }, signal })
})
watchDebounced([find, cableText], load, { debounce: 120, immediate: true })
watchDebounced(
  [find, cableText, chosenNumber],
  () =>
    router.replace({
      query: {
        find: find.value || undefined,
        cable: cableText.value || undefined,
        stock: chosenNumber.value || undefined,
      },
    }),
  { debounce: 300 },
)

const chosen = computed(() => rows.value?.find((r) => r.number === chosenNumber.value) ?? rows.value?.[0])
const hanging = computed(() => rows.value?.slice(0, 24) ?? [])
/** One scale for all: so that the widest web takes a quarter of the row at most. */
const scale = computed(() => {
  const widest = Math.max(...hanging.value.map((r) => r.facts.web / 1000), 40)
  return Math.min(1.25, 210 / widest)
})
const tall = 270

const fresh: Stock = {
  number: '',
  name: '',
  kind: 'die-cut',
  material: '',
  purpose: '',
  shape: 'rounded',
  cornerRadius: 2000,
  width: 76_000,
  length: 38_000,
  gap: 3000,
  edgeLeft: 2000,
  edgeRight: 2000,
  roll: { core: 40_000, outside: 127_000, thickness: 160 },
}
const copyOf = (s: Stock): Stock => ({
  ...(JSON.parse(JSON.stringify(s)) as Stock),
  number: '',
  name: `${s.name}, copy`,
})

async function kept(row: Schemas['StockRow']) {
  form.value = undefined
  find.value = ''
  cableText.value = ''
  chosenNumber.value = row.number
  await load()
}
const files = [
  { key: 'csv', label: 'Write all to a CSV file' },
  { key: 'json', label: 'Write all to a JSON file' },
  { key: 'in', label: 'Take stocks in from a file' },
]
const picker = ref<HTMLInputElement>()
const taken = shallowRef<Schemas['StockImport']>()
function file(key: string) {
  if (key === 'in') picker.value?.click()
  else location.assign(`/api/stocks/file?format=${key}`)
}
async function takeIn(event: Event) {
  const input = event.target as HTMLInputElement
  const chosenFile = input.files?.[0]
  if (!chosenFile) return
  const body = { text: await chosenFile.text() }
  input.value = ''
  taken.value = (await doing(() => api.POST('/stocks/file', { body }))).data
  await load()
}
async function retire(row: Schemas['StockRow']) {
  await doing(() => api.DELETE('/stocks/{id}', { params: { path: { id: row.id } } }))
  await load()
}
</script>

<template>
  <div class="stockroom">
    <header class="place-head">
      <h1>Stocks</h1>
      <span class="room" />
      <NInput
        v-model:value="find"
        clearable
        class="find"
        placeholder="76x38, sleeve yellow"
        :input-props="{ 'aria-label': 'Find stocks' }"
      >
        <template #suffix>
          <span v-if="rows" class="quiet">{{ rows.length }}</span>
        </template>
      </NInput>
      <label class="cable">
        or for a cable of
        <NInput
          v-model:value="cableText"
          class="mm"
          placeholder="6.2"
          :status="cableWrong ? 'error' : undefined"
          :input-props="{ 'aria-label': 'Diameter of a cable' }"
        >
          <template #suffix>{{ units }}</template>
        </NInput>
      </label>
      <NDropdown trigger="click" :options="files" @select="file">
        <NButton>Files</NButton>
      </NDropdown>
      <input
        ref="picker"
        type="file"
        class="unseen"
        accept=".csv,.json,text/csv,application/json"
        aria-label="File of stocks"
        tabindex="-1"
        @change="takeIn"
      />
      <NButton type="primary" @click="form = { stock: fresh }">New stock</NButton>
    </header>
    <ProblemNote :problem="problem ?? unread" />
    <div v-if="taken" class="taken" role="status">
      <p>
        <b>{{ plural(taken.added, 'stock') }} added, {{ count(taken.changed) }} changed</b
        ><template v-if="taken.refused.length">, {{ count(taken.refused.length) }} left out:</template>
        <TextButton @click="taken = undefined">Good</TextButton>
      </p>
      <ul>
        <li v-for="line in taken.refused.slice(0, 8)" :key="line" class="bad">{{ line }}</li>
      </ul>
    </div>
    <StockForm
      v-if="form"
      :id="form.id"
      :key="form.id ?? form.stock.name"
      class="scroll"
      :stock="form.stock"
      @kept="kept"
      @close="form = undefined"
    />
    <div v-else-if="rows" class="columns">
      <div class="left">
        <p class="quiet note">
          All drawn to one scale, as they leave the printer. Lately used first.<span class="room" />1 :
          {{ (96 / 25.4 / scale).toFixed(1) }}
        </p>
        <div v-if="rows.length" class="bar" />
        <div
          v-if="rows.length"
          class="webs"
          tabindex="0"
          role="region"
          aria-label="Stocks drawn side by side"
        >
          <button
            v-for="row in hanging"
            :key="row.id"
            type="button"
            class="hang"
            :class="{ chosen: row.id === chosen?.id }"
            :aria-pressed="row.id === chosen?.id"
            :style="{ maxWidth: `${Math.max((row.facts.web / 1000) * scale + 12, 96)}px` }"
            @click="chosenNumber = row.number"
          >
            <span class="clip"
              ><StockDrawn :stock="asStock(row.about)" :scale :tall="tall / scale" name="" aria-hidden="true"
            /></span>
            <b>{{ asStock(row.about).name }}</b>
            <span class="quiet">{{ asStock(row.about).kind }}</span>
          </button>
        </div>
        <div v-else class="empty">
          <p v-if="cable">Nothing in the stockroom goes round a cable of {{ lengthText(cable) }}.</p>
          <p v-else>Nothing in the stockroom is called that, or has that size.</p>
          <NButton @click="form = { stock: fresh }">Make a new stock</NButton>
        </div>
        <table v-if="rows.length" class="plain">
          <thead>
            <tr>
              <th>Stock</th>
              <th>Material</th>
              <th>Purpose</th>
              <th class="number">On a roll</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.id" :class="{ chosen: row.id === chosen?.id }">
              <td>
                <TextButton @click="chosenNumber = row.number">
                  {{ asStock(row.about).name }}
                </TextButton>
                <span class="quiet which">{{ row.number }}</span>
              </td>
              <td class="quiet">{{ asStock(row.about).material }}</td>
              <td class="quiet">{{ asStock(row.about).purpose }}</td>
              <td class="number">{{ row.facts.pieces ? count(row.facts.pieces) : '' }}</td>
            </tr>
          </tbody>
        </table>
        <p class="unseen" role="status">{{ plural(rows.length, 'stock') }} found</p>
      </div>
      <StockSheet
        v-if="chosen"
        class="side"
        :row="chosen"
        :cable
        @design="router.push(`/bench?new=1&stock=${chosen.id}`)"
        @copy="form = { stock: copyOf(asStock(chosen.about)) }"
        @change="form = { stock: asStock(chosen.about), id: chosen.id }"
        @retire="retire(chosen)"
      />
    </div>
  </div>
</template>

<style scoped>
.taken {
  padding: 10px 20px;
  background: var(--sunken);
  border-bottom: 1px solid var(--line);
}
.taken .text-button {
  margin-left: 16px;
}
.stockroom {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.find {
  width: 300px;
}
.cable {
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--quiet);
}
.mm {
  width: 96px;
}
.scroll {
  overflow: auto;
}
.columns {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
}
.left {
  min-height: 0;
  overflow: auto;
}
.side {
  border-left: 1px solid var(--line);
}
.note {
  display: flex;
  padding: 8px 20px 4px;
  font-size: 13px;
}
.room {
  flex: 1;
}
.bar {
  height: 6px;
  margin: 0 20px;
  border-radius: 3px;
  background: var(--control);
}
.webs {
  display: flex;
  gap: 12px;
  padding: 0 20px 8px;
  overflow-x: auto;
}
.hang {
  flex: none;
  display: flex;
  flex-direction: column;
  align-items: center;
  padding: 0 4px 6px;
  border: 2px solid transparent;
  border-top: 0;
  background: none;
  color: var(--ink);
  font: inherit;
  font-size: 12.5px;
  text-align: center;
  cursor: pointer;
}
.hang.chosen {
  border-color: var(--accent);
}
.clip {
  display: block;
  height: 270px;
  overflow: hidden;
  margin-bottom: 6px;
}
.which {
  margin-left: 8px;
}
tr.chosen td {
  background: var(--accent-soft);
}
table.plain th:first-child,
table.plain td:first-child {
  padding-left: 20px;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: minmax(0, 1fr) 330px;
  }
  .find {
    width: 210px;
  }
}
</style>
