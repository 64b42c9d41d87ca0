<script setup lang="ts">
import { useEventListener, watchDebounced } from '@vueuse/core'
import { NInput, NModal } from 'naive-ui'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '@/api/client'
import { asStock } from '@/api/documents'

/** Finds any design, record set, run, symbol, substance or place by typing, and words in records and on labels. */
interface Found {
  name: string
  what: string
  to: string
}

const open = defineModel<boolean>('open', { required: true })
const router = useRouter()
const words = ref('')
const at = ref(0)
const all = shallowRef<Found[]>([])
const input = ref<InstanceType<typeof NInput>>()

const places: Found[] = [
  { name: 'Floor', what: 'place', to: '/floor' },
  { name: 'Bench: designs', what: 'place', to: '/bench' },
  { name: 'New design', what: 'action', to: '/bench?new=1' },
  { name: 'Records', what: 'place', to: '/records' },
  { name: 'Import records', what: 'action', to: '/records?import=1' },
  { name: 'Stockroom', what: 'place', to: '/stockroom' },
  { name: 'Runs', what: 'place', to: '/runs' },
  { name: 'Reference', what: 'place', to: '/reference' },
]

watch(open, async (isOpen) => {
  if (!isOpen) return
  words.value = ''
  at.value = 0
  void nextTick(() => input.value?.focus())
  const [designs, sets, runs, stocks] = await Promise.all([
    api.GET('/designs'),
    api.GET('/record-sets'),
    api.GET('/runs'),
    api.GET('/stocks'),
  ])
  all.value = [
    ...(designs.data ?? []).map((d) => ({ name: d.name, what: 'design', to: `/bench/${d.id}` })),
    ...(sets.data ?? []).map((s) => ({ name: s.name, what: 'record set', to: `/records/${s.id}` })),
    ...(runs.data ?? []).map((r) => ({ name: `Run ${r.id} of ${r.name}`, what: 'run', to: `/runs/${r.id}` })),
    ...(stocks.data ?? []).map((s) => ({
      name: `${s.number} ${asStock(s.about).name}`,
      what: 'stock',
      to: `/stockroom?stock=${s.number}`,
    })),
  ]
})

/** What stands in records, on labels and in the reference, looked for by the server. */
const within = shallowRef<Found[]>([])
watchDebounced(
  words,
  async (asked) => {
    if (asked.trim().length < 2) {
      within.value = []
      return
    }
    const query = { params: { query: { search: asked } } }
    const [said, symbols, substances] = await Promise.all([
      api.GET('/find', { params: { query: { words: asked } } }),
      api.GET('/symbols', query),
      api.GET('/hazards/substances', query),
    ])
    if (asked !== words.value) return
    within.value = [
      ...(symbols.data ?? []).slice(0, 3).map((s) => refers(s.id, s.name, 'symbol')),
      ...(substances.data ?? []).slice(0, 3).map((s) => refers(s.cas, s.names.en ?? s.cas, 'substance')),
      ...(said.data ?? []).map((hit) =>
        hit.designId
          ? { name: hit.name, what: 'said by a design', to: `/bench/${hit.designId}` }
          : {
              name: hit.text,
              what: `record ${hit.record ?? ''} of ${hit.name}`,
              to: `/records/${hit.recordSetId ?? 0}?record=${hit.record ?? 1}`,
            },
      ),
    ]
  },
  { debounce: 150 },
)

function refers(to: string, name: string, what: string): Found {
  return { name, what, to: `/reference?words=${encodeURIComponent(to)}` }
}

const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const named = [...places, ...all.value]
    .filter((f) => parts.every((part) => `${f.name} ${f.what}`.toLowerCase().includes(part)))
    .slice(0, 12)
  return [...named, ...within.value.filter((hit) => !named.some((f) => f.to === hit.to))].slice(0, 20)
})
watch(words, () => (at.value = 0))

function go(to: string) {
  open.value = false
  void router.push(to)
}

function key(event: KeyboardEvent) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step) {
    at.value = (at.value + step + found.value.length) % Math.max(found.value.length, 1)
    event.preventDefault()
  }
  const chosen = found.value[at.value]
  if (event.key === 'Enter' && chosen) go(chosen.to)
}

useEventListener('keydown', (event) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault()
    open.value = true
  }
})
</script>

<template>
  <NModal v-model:show="open" :auto-focus="false">
    <div class="find" role="dialog" aria-label="Find anything">
      <NInput
        ref="input"
        v-model:value="words"
        :maxlength="200"
        placeholder="A design, a run, a symbol, a substance, a word in records"
        :input-props="{ 'aria-label': 'Find anything' }"
        @keydown="key"
      />
      <ul>
        <li v-for="(f, i) in found" :key="f.to">
          <button type="button" :class="{ at: i === at }" @click="go(f.to)">
            <span class="called">{{ f.name }}</span><span class="quiet">{{ f.what }}</span>
          </button>
        </li>
      </ul>
      <p v-if="!found.length" class="quiet none">Nothing is called that.</p>
    </div>
  </NModal>
</template>

<style scoped>
li .quiet {
  flex: none;
  padding-left: 14px;
  white-space: nowrap;
}
.called {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.find {
  width: min(660px, 94vw);
  padding: 12px;
  background: var(--raised);
  border-radius: 8px;
}
ul {
  margin-top: 8px;
}
button {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 8px 10px;
  border: 0;
  border-radius: 6px;
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button.at,
button:hover {
  background: var(--accent-soft);
}
.none {
  padding: 10px;
}
</style>
