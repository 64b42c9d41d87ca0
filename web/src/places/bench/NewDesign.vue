<script setup lang="ts">
import { NButton, NCheckbox, NInput, NRadio, NRadioGroup, NSelect } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, asForm, type Schemas } from '@/api/client'
import { asStock } from '@/api/documents'
import { type Turn, turns } from './turns'
import ProblemNote from '@/shared/ProblemNote.vue'
import { lengthText } from '@/shared/format'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import { visible } from '@/shared/visible'
import TextButton from '@/shared/TextButton.vue'

/** Starts a design: printer and stock come first, since they fix what is possible. */
const emit = defineEmits<{ close: [] }>()
const route = useRoute()
const router = useRouter()

const floor = shallowRef<Schemas['Floor']>()
const stocks = shallowRef<Schemas['StockRow'][]>([])
const sets = shallowRef<Schemas['RecordSet'][]>([])
const { problem, busy, doing } = useDoing()
const name = ref('')
const startId = ref<string>()
const { data: starts } = useAsked((signal) => api.GET('/designs/starts', { signal }))
const start = computed(() => starts.value?.find((s) => s.id === startId.value))
/** A start brings its stock, a printer that takes it, and records that have its fields. */
function chooseStart(s: Schemas['Start']) {
  startId.value = startId.value === s.id ? undefined : s.id
  if (!startId.value) return
  if (!s.printerIds.includes(printerId.value ?? 0)) printerId.value = s.printerIds[0] ?? printerId.value
  stockId.value = s.stockId ?? stockId.value
  // Records that one came with, or chose, stay: what they lack is told.
  if (!chosen.value)
    setId.value = sets.value.find((r) => s.fields.every((f) => r.fields.includes(f)))?.id ?? setId.value
}
const printerId = ref<number>()
const stockId = ref<number>()
const setId = ref<number | null>(null)
const chosen = ref(false)
const lacking = computed(() => {
  const has = sets.value.find((r) => r.id === setId.value)?.fields
  return has ? (start.value?.fields ?? []).filter((f) => !has.includes(f)) : []
})
const turn = ref<Turn>(0)

onMounted(async () => {
  const [f, s, r] = await Promise.all([api.GET('/floor'), api.GET('/stocks'), api.GET('/record-sets')])
  problem.value = f.error ?? s.error ?? r.error
  floor.value = f.data
  stocks.value = s.data ?? []
  sets.value = r.data ?? []
  chosen.value = Number(route.query.records) > 0
  setId.value = Number(route.query.records) || (sets.value[0]?.id ?? null)
  choosePrinter(f.data?.printers[0]?.printer.id)
})

const loadedIn = (id: number | undefined) => floor.value?.printers.find((p) => p.printer.id === id)?.stock?.id
function choosePrinter(id: number | undefined) {
  printerId.value = id
  stockId.value = (Number(route.query.stock) || loadedIn(id)) ?? stocks.value[0]?.id
}

const printers = computed(() =>
  (floor.value?.printers ?? []).map((p) => ({ value: p.printer.id, label: p.printer.name })),
)
const typed = ref('')
const option = (s: Schemas['StockRow'], after = '') => ({
  value: s.id,
  label: `${asStock(s.about).name}${after}`,
})
/** What is in the printer comes first, then what was used lately, then all; or what is looked for. */
const stockOptions = computed(() => {
  const loaded = stocks.value.find((s) => s.id === loadedIn(printerId.value))
  const rest = stocks.value.filter((s) => s !== loaded)
  const recent = rest.filter((s) => s.usedAt)
  const made = [
    ...(loaded ? [option(loaded, ' · in the printer now')] : []),
    ...recent.map((s) => option(s, ' · used lately')),
    ...rest.filter((s) => !s.usedAt).map((s) => option(s)),
  ]
  if (!found.value) return made
  const ids = new Set(found.value.map((s) => s.id))
  const some = made.filter((o) => ids.has(o.value))
  return isSize.value ? [...some, { value: ofSize, label: `Make a label of ${typed.value.trim()}` }] : some
})
const ofSize = -1
const { data: matches } = useAsked((signal) => {
  const find = typed.value.trim()
  return find ? api.GET('/stocks', { params: { query: { find } }, signal }) : undefined
})
const found = computed(() => (typed.value.trim() ? matches.value : undefined))
const isSize = computed(() => /\d\s*(mm|cm|in|")?\s*[x×*]\s*\d/i.test(typed.value))
async function chooseStock(id: number) {
  if (id !== ofSize) {
    stockId.value = id
    return
  }
  const body = { size: typed.value, printerId: printerId.value ?? undefined }
  const { data } = await doing(() => api.POST('/stocks/of-size', { body }))
  if (!data) return
  if (!stocks.value.some((s) => s.id === data.id)) stocks.value = [data, ...stocks.value]
  stockId.value = data.id
  typed.value = ''
}
const setOptions = computed(() => sets.value.map((s) => ({ value: s.id, label: `${s.name} · ${s.count}` })))

/** Pages of finished artwork, each with whether it is taken. */
const pages = ref<(Schemas['ArtworkPage'] & { taken: boolean })[]>([])
const trim = ref(true)
const fit = ref(false)
const artworkName = ref('')
async function openArtwork(event: Event) {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  input.value = ''
  if (!file) return
  const { data } = await doing(() => api.POST('/artwork', asForm(file)))
  if (!data) return
  startId.value = undefined
  artworkName.value = file.name.replace(/\.[^.]*$/, '')
  pages.value = data.map((page) => ({ ...page, taken: true }))
}
const taken = computed(() => pages.value.filter((p) => p.taken))
const sizeOf = ({ picture }: Schemas['ArtworkPage']) =>
  picture.trueWidth && picture.trueHeight
    ? `${lengthText(picture.trueWidth)} × ${lengthText(picture.trueHeight)}`
    : 'of no told size'
async function beginWithArtwork() {
  const body = {
    name: name.value.trim() || artworkName.value,
    printerId: printerId.value ?? 0,
    stockId: stockId.value ?? 0,
    turn: turn.value,
    pages: taken.value.map((p) => p.picture.hash),
    trim: trim.value,
    fit: fit.value,
  }
  const { data } = await doing(() => api.POST('/designs/artwork', { body }))
  if (data) await router.push(`/bench/${data.id}`)
}

async function begin() {
  if (taken.value.length) {
    await beginWithArtwork()
    return
  }
  const body = {
    name: name.value.trim() || (start.value?.name ?? 'New label'),
    start: startId.value,
    printerId: printerId.value,
    stockId: stockId.value,
    turn: turn.value,
    recordSetId: setId.value ?? undefined,
  }
  const { data } = await doing(() => api.POST('/designs', { body }))
  if (data) await router.push(`/bench/${data.id}`)
}
</script>

<template>
  <form class="new" aria-label="New design" @submit.prevent="begin">
    <ProblemNote v-if="problem" :problem />
    <div class="row">
      <div>
        <span id="n-name">Name</span>
        <NInput v-model:value="name" placeholder="New label" :input-props="{ 'aria-labelledby': 'n-name' }" />
      </div>
      <div>
        <span id="n-printer">Printer</span>
        <NSelect
          :value="printerId"
          :options="printers"
          aria-labelledby="n-printer"
          @update:value="choosePrinter"
        />
      </div>
      <div>
        <span id="n-stock">Stock</span>
        <NSelect
          :value="stockId"
          filterable
          remote
          placeholder="76x38, 4 in x 2 in, sleeve"
          :options="stockOptions"
          :input-props="{ 'aria-labelledby': 'n-stock' }"
          @search="typed = $event"
          @update:value="chooseStock"
          @blur="typed = ''"
        />
      </div>
      <div>
        <span id="n-set">Records</span>
        <NSelect
          v-model:value="setId"
          :options="setOptions"
          clearable
          placeholder="none yet"
          aria-labelledby="n-set"
          @update:value="chosen = true"
        />
        <p v-if="lacking.length" class="say warn">
          <span aria-hidden="true">▲</span> They have no field {{ lacking.join(', ') }}: what says
          {{ lacking.length === 1 ? 'it' : 'them' }} stays empty until it is given another.
        </p>
      </div>
    </div>
    <section v-if="pages.length" class="artwork" aria-labelledby="n-artwork">
      <h2 id="n-artwork">{{ artworkName }}</h2>
      <ul>
        <li v-for="(page, i) in pages" :key="page.picture.hash">
          <img :src="`/api/pictures/${page.picture.hash}`" :alt="`Page ${i + 1}`" />
          <NCheckbox v-model:checked="page.taken">page {{ i + 1 }}, {{ sizeOf(page) }}</NCheckbox>
          <p v-for="code in page.codes" :key="code.text" class="quiet">
            {{ code.symbology }}: “{{ visible(code.text) }}”
          </p>
        </li>
      </ul>
      <p class="ways">
        <NCheckbox v-model:checked="trim">trim the white round it</NCheckbox>
        <NCheckbox v-model:checked="fit">as large as the label has room</NCheckbox>
        <TextButton @click="pages = []">Without it</TextButton>
      </p>
    </section>
    <fieldset v-else class="starts">
      <legend>Begin with</legend>
      <button type="button" class="start" :aria-pressed="!startId" @click="startId = undefined">
        <span class="picture" />
        <span>An empty label</span>
      </button>
      <button
        v-for="s in starts"
        :key="s.id"
        type="button"
        class="start"
        :aria-pressed="startId === s.id"
        :title="`${s.for}. ${s.stock}`"
        @click="chooseStart(s)"
      >
        <span class="picture"><img :src="s.picture" alt="" loading="lazy" /></span>
        <span>{{ s.name }}</span>
      </button>
    </fieldset>
    <p v-if="!pages.length" class="open">
      <label>
        <span>{{ busy ? 'Reading…' : 'Finished artwork from a file (PDF, SVG, picture)' }}</span>
        <input
          type="file"
          accept=".pdf,.svg,application/pdf,image/*"
          class="unseen"
          aria-label="Finished artwork"
          @change="openArtwork"
        />
      </label>
    </p>
    <p v-if="start" class="quiet">{{ start.for }}. {{ start.stock }}.</p>
    <div class="row last">
      <NRadioGroup
        v-if="!startId"
        v-model:value="turn"
        name="turn"
        aria-label="How the artwork lies on the web"
      >
        <NRadio v-for="way in turns" :key="way.value" :value="way.value">{{ way.label }}</NRadio>
      </NRadioGroup>
      <span class="room" />
      <NButton @click="emit('close')">Not now</NButton>
      <NButton type="primary" attr-type="submit" :disabled="!printerId || !stockId">Start the design</NButton>
    </div>
  </form>
</template>

<style scoped>
.new {
  background: var(--sunken);
  border-bottom: 1px solid var(--line);
  padding: 14px 20px;
}
.row {
  display: grid;
  grid-template-columns: 1.3fr 1fr 1.5fr 1.2fr;
  gap: 16px;
}
.row span[id] {
  font-size: 13px;
  color: var(--quiet);
}
.starts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 6px 8px;
  min-width: 0;
  max-height: 244px;
  margin: 12px 0 4px;
  padding: 4px 2px;
  border: 0;
  overflow-y: auto;
}
.starts legend {
  font-size: 13px;
  color: var(--quiet);
}
.artwork ul {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  max-height: 260px;
  margin: 8px 0;
  overflow-y: auto;
}
.artwork h2 {
  margin-top: 12px;
}
.artwork li {
  max-width: 240px;
  overflow-wrap: anywhere;
}
.artwork img {
  display: block;
  max-width: 200px;
  max-height: 130px;
  margin-bottom: 4px;
  background: var(--label);
  border: 1px solid var(--liner-edge);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
}
.open span {
  color: var(--accent);
  font-weight: 500;
  cursor: pointer;
}
.open:focus-within span {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.start {
  align-self: start;
  padding: 4px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  font: inherit;
  font-size: 12.5px;
  line-height: 1.25;
  color: inherit;
  cursor: pointer;
}
.start[aria-pressed='true'] {
  border-color: var(--accent);
  background: var(--accent-soft);
}
.start .picture {
  display: grid;
  place-items: center;
  height: 66px;
  margin-bottom: 4px;
  background: var(--liner);
}
.start img {
  max-width: 100px;
  max-height: 58px;
}
.row.last {
  display: flex;
  align-items: center;
  margin-top: 14px;
}
.room {
  flex: 1;
}
</style>
