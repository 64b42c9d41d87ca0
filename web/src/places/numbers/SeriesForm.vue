<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInput, NInputNumber, NSelect } from 'naive-ui'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import { badTagOptions, unusedOptions } from './words'
import { useCheckRules } from './useCheckRules'

/** A new number series: how it counts, with the numbers that it will give beside it. */
const emit = defineEmits<{ made: [series: Schemas['NumberSeries']]; close: [] }>()

const kinds = [
  { value: 'counting', label: 'Counted' },
  { value: 'sscc', label: 'SSCC of logistic units (GS1)' },
  { value: 'listed', label: 'A list of ready numbers' },
] as const
const kind = ref<(typeof kinds)[number]['value']>('counting')
const name = ref('')
const unused = ref<Schemas['Unused']>('return')
const badTag = ref<Schemas['BadTag']>('same')
const start = ref('1')
const step = ref<number | null>(1)
const end = ref('')
const width = ref<number | null>(null)
const prefix = ref('')
const suffix = ref('')
const check = ref<string | null>(null)
const random = ref('')
const digits = ref('decimal')
const ownDigits = ref('')
const alphabets = [
  { value: 'decimal', label: '0 to 9' },
  { value: 'hex', label: '0 to 9, A to F' },
  { value: 'base36', label: '0 to 9, A to Z' },
  { value: 'base34', label: '0 to 9, A to Z without I and O' },
  { value: 'letters', label: 'A to Z' },
  { value: 'letters24', label: 'A to Z without I and O' },
  { value: 'letters*2,decimal*4', label: 'two letters, then four digits' },
  { value: 'own', label: 'letters of your own' },
]
const checkRules = useCheckRules()
const extension = ref('0')
const company = ref('')
const list = ref('')
const numbers = computed(() => list.value.split(/\r?\n/).filter(Boolean))

/** How the numbers of logistic units count: the standard's rule is the server's. */
const { data: sscc, problem: noSscc } = useAsked((signal) => {
  const query = { extension: extension.value, company: company.value }
  return kind.value === 'sscc' && company.value
    ? api.GET('/series/sscc', { params: { query }, signal })
    : undefined
})
const counts = computed<Schemas['SeriesCounts']>(() => {
  if (kind.value === 'sscc' && sscc.value) return sscc.value
  if (kind.value === 'listed') return { start: '0', step: 1 }
  return {
    start: start.value,
    step: step.value ?? 1,
    end: end.value || undefined,
    width: width.value ?? undefined,
    prefix: prefix.value || undefined,
    suffix: suffix.value || undefined,
    check: check.value ?? undefined,
    random: random.value || undefined,
    digits: (digits.value === 'own' ? ownDigits.value : digits.value) || undefined,
  }
})
const settled = refDebounced(counts, 200)
const { data: gives, problem: wrong } = useAsked((signal) =>
  kind.value === 'listed'
    ? undefined
    : api.POST('/series/count', { body: { counts: settled.value, most: 1000 }, signal }),
)
const first = computed(() =>
  kind.value === 'listed' ? numbers.value.slice(0, 1000) : wrong.value ? [] : (gives.value?.numbers ?? []),
)
watch(kind, () => (random.value = ''))

async function readList(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (file) list.value = await file.text()
}
/** There is no company yet, it is none, or what it gives is still awaited. */
const badCompany = computed(
  () => kind.value === 'sscc' && sscc.value?.prefix !== extension.value + company.value,
)
const ready = computed(
  () =>
    name.value.trim() &&
    !badCompany.value &&
    (kind.value === 'listed' ? numbers.value.length > 0 : !wrong.value),
)
const { problem, busy, doing } = useDoing()
async function make() {
  const body = {
    name: name.value,
    counts: counts.value,
    unused: unused.value,
    badTag: badTag.value,
    list: kind.value === 'listed' ? numbers.value : undefined,
  }
  const { data } = await doing(() => api.POST('/series', { body }))
  if (data) emit('made', data)
}
</script>

<template>
  <form class="make" aria-labelledby="new-series" @submit.prevent="make">
    <div class="fields">
      <h2 id="new-series" class="all">A new number series</h2>
      <ProblemNote :problem class="all" />
      <label class="wide"
        >Name
        <NInput v-model:value="name" placeholder="crates" :input-props="{ 'aria-label': 'Name' }" />
      </label>
      <label class="wide"
        >Its numbers are
        <NSelect v-model:value="kind" :options="[...kinds]" aria-label="Its numbers are" />
      </label>
      <template v-if="kind === 'counting'">
        <label
          >First number <NInput v-model:value="start" :input-props="{ 'aria-label': 'First number' }"
        /></label>
        <label
          >Step
          <NInputNumber
            v-model:value="step"
            :show-button="false"
            :precision="0"
            :input-props="{ 'aria-label': 'Step' }"
        /></label>
        <label
          >Last number
          <NInput v-model:value="end" placeholder="none" :input-props="{ 'aria-label': 'Last number' }"
        /></label>
        <label
          >Digits of each
          <NInputNumber
            v-bind="requestBounds.SeriesCounts.width"
            v-model:value="width"
            :show-button="false"
            placeholder="as needed"
            :input-props="{ 'aria-label': 'Digits of each' }"
        /></label>
        <label class="wide"
          >Digits are
          <NSelect v-model:value="digits" :options="alphabets" aria-label="Digits are" />
        </label>
        <label v-if="digits === 'own'" class="wide"
          >In their order
          <NInput
            v-model:value="ownDigits"
            placeholder="BCDFGHJK"
            :input-props="{ 'aria-label': 'In their order' }"
          />
        </label>
        <label
          >Before it
          <NInput v-model:value="prefix" placeholder="KW-" :input-props="{ 'aria-label': 'Before it' }"
        /></label>
        <label
          >Behind it
          <NInput v-model:value="suffix" placeholder="" :input-props="{ 'aria-label': 'Behind it' }"
        /></label>
        <label class="wide"
          >Check character
          <NSelect
            v-model:value="check"
            :options="checkRules"
            clearable
            placeholder="none"
            aria-label="Check character"
          />
        </label>
        <label class="wide"
          >In an order that nobody can guess, by a key
          <NInput
            v-model:value="random"
            placeholder="none: one after the other"
            :input-props="{ 'aria-label': 'Key of a random order' }"
          />
        </label>
      </template>
      <template v-else-if="kind === 'sscc'">
        <label
          >Extension digit
          <NSelect
            v-model:value="extension"
            :options="[...'0123456789'].map((value) => ({ value, label: value }))"
            aria-label="Extension digit"
        /></label>
        <label class="wide"
          >Company prefix (GS1)
          <NInput
            v-model:value="company"
            :maxlength="12"
            placeholder="9521234"
            :input-props="{ 'aria-label': 'Company prefix', inputmode: 'numeric' }"
        /></label>
        <p v-if="!badCompany" class="quiet all">
          {{ counts.width }} digits are left to count with. The digit behind them is the check digit.
        </p>
      </template>
      <label v-else class="all"
        >One number a line
        <NInput
          v-model:value="list"
          type="textarea"
          :rows="6"
          class="mono"
          :input-props="{ 'aria-label': 'One number a line', spellcheck: 'false' }"
        />
        <input
          type="file"
          accept=".txt,.csv,text/plain"
          aria-label="Take them from a file"
          @change="readList"
        />
      </label>
      <label class="wide"
        >Numbers that a run took and does not print
        <NSelect v-model:value="unused" :options="unusedOptions" aria-label="Unused numbers" />
      </label>
      <label class="wide"
        >Numbers of a label whose tag is bad
        <NSelect v-model:value="badTag" :options="badTagOptions" aria-label="Where the tag is bad" />
      </label>
      <p class="all buttons">
        <NButton type="primary" attr-type="submit" :loading="busy" :disabled="!ready"
          >Make this series</NButton
        >
        <NButton @click="emit('close')">Not now</NButton>
      </p>
    </div>
    <section class="gives" aria-labelledby="it-gives" tabindex="0">
      <h2 id="it-gives">It gives</h2>
      <p v-if="badCompany" class="quiet">
        {{ (company && noSscc?.text) || 'Its numbers stand here once the company prefix does.' }}
      </p>
      <p v-else-if="wrong && kind !== 'listed'" class="warn">{{ wrong.text }}</p>
      <template v-else>
        <ol class="mono">
          <li v-for="number in first" :key="number">{{ number }}</li>
        </ol>
        <p class="quiet">
          <template v-if="kind === 'listed'">{{ count(numbers.length) }} in all</template>
          <template v-else>{{ gives?.ends || 'and so on' }}</template>
        </p>
      </template>
    </section>
  </form>
</template>

<style scoped>
.make {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px;
  border-bottom: 1px solid var(--line);
}
.fields {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  align-content: start;
  align-items: end;
  gap: 10px 14px;
  padding: 14px 20px;
}
.all {
  grid-column: 1 / -1;
}
.wide {
  grid-column: span 2;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.buttons {
  display: flex;
  gap: 10px;
  padding-top: 4px;
}
.gives {
  max-height: 470px;
  overflow: auto;
  padding: 14px 20px;
  border-left: 1px solid var(--line);
  background: var(--sunken);
}
.gives ol {
  margin: 6px 0;
}
</style>
