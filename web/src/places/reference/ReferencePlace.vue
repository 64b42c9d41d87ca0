<script setup lang="ts">
import { NButton, NInput, NPopconfirm, NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'
import HazardReasons from '../safety/HazardReasons.vue'
import PacksPanel from './PacksPanel.vue'
import SubstanceForm from './SubstanceForm.vue'
import { languages, ruleSets } from '../safety/symbols'

/** Symbols, substances, statements and pipe colours: what each is, what it asks for, where it comes from. */
const route = useRoute()
const router = useRouter()
const words = ref(String(route.query.words ?? ''))
watch(words, (now) => void router.replace({ query: { ...route.query, words: now || undefined } }))
watch(
  () => route.query.words, // another find, while this place is open
  (asked) => (words.value = String(asked ?? '')),
)

const language = ref('en')
const rules = ref('clp')
const wanted = computed(() => words.value.trim())
const {
  data: symbols,
  problem,
  refresh,
} = useAsked((signal) =>
  api.GET('/symbols', { params: { query: { search: wanted.value || undefined } }, signal }),
)
const { data: substances, refresh: again } = useAsked((signal) =>
  wanted.value
    ? api.GET('/hazards/substances', { params: { query: { search: wanted.value } }, signal })
    : undefined,
)
const { data: statements } = useAsked((signal) =>
  wanted.value
    ? api.GET('/hazards/statements', {
        params: { query: { search: wanted.value, language: language.value } },
        signal,
      })
    : undefined,
)
const { data: pipes } = useAsked((signal) => api.GET('/pipes/groups', { signal }))
const groups = computed(() => {
  const word = wanted.value.toLowerCase()
  return (pipes.value ?? []).filter((g) =>
    [g.name, g.field, g.holds, g.standard].join(' ').toLowerCase().includes(word),
  )
})

type Chosen =
  | { what: 'symbol'; of: Schemas['Symbol'] }
  | { what: 'substance'; of: Schemas['Substance'] }
  | { what: 'statement'; of: Schemas['HazardStatement'] }
const chosen = shallowRef<Chosen>()
// What the words name exactly is shown at once: so come those who follow a find.
watch(
  [symbols, substances],
  ([drawn, named]) => {
    const symbol = drawn?.find((s) => s.id === wanted.value)
    const substance = named?.find((s) => (s.id ?? s.cas) === wanted.value)
    const [first] = drawn ?? []
    if (substance) chosen.value = { what: 'substance', of: substance }
    else if (symbol) chosen.value = { what: 'symbol', of: symbol }
    else if (!chosen.value && first) chosen.value = { what: 'symbol', of: first }
  },
  { immediate: true },
)
const { data: answer } = useAsked((signal) =>
  chosen.value?.what === 'substance'
    ? api.POST('/hazards/label', {
        body: { substance: idOf(chosen.value.of), rules: rules.value, language: language.value },
        signal,
      })
    : undefined,
)
const { data: uses } = useAsked((signal) =>
  chosen.value?.what === 'symbol'
    ? api.GET('/symbols/{symbol}/uses', { params: { path: { symbol: chosen.value.of.id } }, signal })
    : undefined,
)
const idOf = (s: Schemas['Substance']) => s.id ?? s.cas
const writing = ref(false)
const ofBook = computed(() => (chosen.value?.what === 'substance' ? chosen.value.of : undefined))
const changing = shallowRef<Schemas['Substance']>()
function write(of: Schemas['Substance'] | undefined) {
  changing.value = of
  writing.value = true
}
async function kept(substance: Schemas['Substance']) {
  chosen.value = { what: 'substance', of: substance }
  if (!wanted.value) words.value = idOf(substance)
  await again()
}
async function forget() {
  if (!ofBook.value) return
  await api.DELETE('/hazards/substances/{cas}', { params: { path: { cas: idOf(ofBook.value) } } })
  chosen.value = undefined
  await again()
}
async function retire(symbol: string) {
  await api.DELETE('/symbols/{symbol}', { params: { path: { symbol } } })
  chosen.value = undefined
  await refresh()
}
const { data: reference, refresh: lookAgain } = useAsked((signal) => api.GET('/reference', { signal }))
const packing = ref(false)
async function packsChanged() {
  chosen.value = undefined
  await Promise.all([lookAgain(), refresh(), again()])
}
/** How many symbols are drawn at once. */
const some = 60
const all = ref(false)
const shown = computed(() => (all.value ? symbols.value : symbols.value?.slice(0, some)) ?? [])
</script>

<template>
  <div class="place">
    <div class="found">
      <div class="top">
        <h1>Reference</h1>
        <NInput
          v-model:value="words"
          class="search"
          clearable
          :maxlength="200"
          placeholder="slippery, H225, steam"
          :input-props="{ 'aria-label': 'Look for anything in the reference' }"
        />
        <NSelect v-model:value="language" :options="languages" aria-label="Language" class="pick" />
        <NButton @click="write(undefined)">Add a substance</NButton>
        <NButton @click="packing = true">Pack {{ reference?.version }}</NButton>
      </div>
      <ProblemNote v-if="problem" :problem />
      <section aria-labelledby="r-symbols">
        <h2 id="r-symbols">{{ plural(symbols?.length ?? 0, 'symbol') }}</h2>
        <ul class="grid">
          <li v-for="symbol in shown" :key="symbol.id">
            <button
              type="button"
              class="tile"
              :aria-pressed="chosen?.of === symbol"
              :class="{ chosen: chosen?.of === symbol }"
              :aria-label="`${symbol.number} ${symbol.name}`"
              :title="symbol.name"
              @click="chosen = { what: 'symbol', of: symbol }"
            >
              <img :src="symbol.drawing" alt="" width="52" height="52" loading="lazy" />
              <span>{{ symbol.number }}</span>
            </button>
          </li>
        </ul>
        <NButton v-if="(symbols?.length ?? 0) > some && !all" size="small" @click="all = true"
          >All {{ symbols?.length }}</NButton
        >
      </section>
      <section v-if="wanted && substances?.length" aria-labelledby="r-substances">
        <h2 id="r-substances">{{ plural(substances.length, 'substance') }}</h2>
        <table class="plain">
          <thead>
            <tr>
              <th>Name</th>
              <th>CAS</th>
              <th>UN</th>
              <th>Classification</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in substances" :key="idOf(s)">
              <td>
                <TextButton @click="chosen = { what: 'substance', of: s }">
                  {{ s.names[language] ?? s.names.en }}
                </TextButton>
                <span v-if="s.state" class="quiet"> · {{ s.state }}</span>
                <span v-if="s.own" class="quiet"> · {{ s.own === 'own' ? 'ours' : 'changed by us' }}</span>
              </td>
              <td class="no-wrap">{{ s.cas }}</td>
              <td>{{ s.un }}</td>
              <td class="quiet">
                {{ s.classification || 'not classified' }}
                <span v-if="s.source === 'check'" class="warn">▲ check it against the safety data sheet</span>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-if="wanted && statements?.length" aria-labelledby="r-statements">
        <h2 id="r-statements">{{ plural(statements.length, 'statement') }}</h2>
        <table class="plain">
          <tbody>
            <tr v-for="s in statements" :key="s.code">
              <th scope="row" class="no-wrap">
                <TextButton @click="chosen = { what: 'statement', of: s }">
                  {{ s.code }}
                </TextButton>
              </th>
              <td>{{ s.text }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-if="groups.length" aria-labelledby="r-pipes">
        <h2 id="r-pipes">{{ plural(groups.length, 'group') }} of pipe contents</h2>
        <table class="plain">
          <thead>
            <tr>
              <th>Contents</th>
              <th>Colours</th>
              <th>Standard</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="g in groups" :key="g.rules + g.id">
              <td>
                {{ g.name }}<br /><span class="quiet">{{ g.holds }}</span>
              </td>
              <td>{{ g.letters }} on {{ g.field }}{{ g.stripe && `, ${g.stripe} band` }}</td>
              <td class="quiet">{{ g.standard }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
    <aside class="about" aria-live="polite">
      <template v-if="chosen?.what === 'symbol'">
        <img :src="chosen.of.drawing" alt="" class="large" />
        <h2>{{ chosen.of.name }}</h2>
        <dl class="facts">
          <dt>Number</dt>
          <dd>{{ chosen.of.number }}</dd>
          <dt>Standard</dt>
          <dd>{{ chosen.of.standard }}</dd>
          <dt>Family</dt>
          <dd>{{ chosen.of.family }}</dd>
          <dt>Meaning</dt>
          <dd>{{ chosen.of.means }}</dd>
          <dt>Can be told from</dt>
          <dd>{{ chosen.of.smallest }} dots on</dd>
          <dt>Drawing</dt>
          <dd>{{ chosen.of.source }}</dd>
          <template v-if="chosen.of.family === 'own'">
            <dt>Brought in</dt>
            <dd>
              <NPopconfirm
                positive-text="Retire it"
                negative-text="Keep it"
                @positive-click="retire(chosen.of.id)"
              >
                <template #trigger><NButton size="tiny">Retire</NButton></template>
                It leaves the list. Where it stands it stays.
              </NPopconfirm>
            </dd>
          </template>
          <dt>Used by</dt>
          <dd>
            <template v-if="uses?.length">
              <RouterLink v-for="u in uses" :key="u.id" :to="`/bench/${u.id}`" class="use">{{
                u.name
              }}</RouterLink>
            </template>
            <span v-else>no design</span>
          </dd>
        </dl>
      </template>
      <template v-else-if="chosen?.what === 'substance'">
        <h2>{{ chosen.of.names[language] ?? chosen.of.names.en }}</h2>
        <dl class="facts">
          <template v-if="chosen.of.own">
            <dt>Said by</dt>
            <dd>
              the plant{{
                chosen.of.own === 'changed' ? ', otherwise than the book' : '; the book does not have it'
              }}
            </dd>
          </template>
          <dt>Also called</dt>
          <dd>{{ chosen.of.synonyms.join(', ') }}</dd>
          <dt>Formula</dt>
          <dd>{{ chosen.of.formula }}</dd>
          <dt>Numbers</dt>
          <dd>
            CAS {{ chosen.of.cas }}<template v-if="chosen.of.state">, {{ chosen.of.state }}</template
            ><template v-if="chosen.of.ec"> · EC {{ chosen.of.ec }}</template>
          </dd>
          <dt>Transport</dt>
          <dd v-if="chosen.of.un">
            UN {{ chosen.of.un }} · class {{ chosen.of.transport
            }}<template v-if="chosen.of.packingGroup"> · packing group {{ chosen.of.packingGroup }}</template>
          </dd>
          <dd v-else>not listed</dd>
          <template v-if="chosen.of.limits">
            <dt>In mixtures</dt>
            <dd>its own limits, %: {{ chosen.of.limits }}</dd>
          </template>
        </dl>
        <p class="doing">
          <NButton size="small" @click="write(chosen.of)">Say otherwise</NButton>
          <NPopconfirm
            v-if="chosen.of.own"
            positive-text="Forget it"
            negative-text="Keep it"
            @positive-click="forget"
          >
            <template #trigger><NButton size="small">Forget ours</NButton></template>
            The book's own words count again, where it has any.
          </NPopconfirm>
        </p>
        <NSelect v-model:value="rules" size="small" :options="ruleSets" aria-label="Rules" />
        <HazardReasons v-if="answer" :answer />
      </template>
      <template v-else-if="chosen?.what === 'statement'">
        <h2>{{ chosen.of.code }}</h2>
        <p>{{ chosen.of.text }}</p>
        <p class="quiet">
          Asked for by {{ chosen.of.because.length ? chosen.of.because.join(', ') : 'no class by itself' }}.
        </p>
      </template>
    </aside>
    <PacksPanel v-model:show="packing" :reference @changed="packsChanged" />
    <SubstanceForm v-model:show="writing" :of="changing" @kept="kept" />
  </div>
</template>

<style scoped>
.place {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(300px, 400px);
  height: 100%;
}
.found,
.about {
  padding: 16px 20px;
  overflow: auto;
}
.about {
  border-left: 1px solid var(--line);
}
.top {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 16px;
  margin-bottom: 12px;
}
.search {
  flex: 1 1 190px;
  min-width: 190px;
}
.pick {
  width: 130px;
  flex: none;
}
section {
  margin-bottom: 20px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(74px, 1fr));
  gap: 6px;
  margin: 8px 0;
}
.tile {
  display: grid;
  justify-items: center;
  width: 100%;
  padding: 5px 2px 3px;
  border: 1px solid transparent;
  border-radius: 8px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}
.tile.chosen {
  border-color: var(--accent);
  background: var(--accent-soft);
}
.tile img {
  padding: 3px;
  border-radius: 4px;
  background: var(--label);
}
.large {
  width: 160px;
  height: 160px;
  padding: 8px;
  border-radius: 6px;
  background: var(--label);
}
.facts {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  gap: 6px 10px;
  margin: 10px 0;
  font-size: 13px;
}
.facts dt {
  color: var(--quiet);
}
.doing {
  display: flex;
  gap: 8px;
  margin-bottom: 10px;
}
.use {
  display: block;
}
td .text-button {
  text-align: left;
}
.no-wrap {
  white-space: nowrap;
}
</style>
