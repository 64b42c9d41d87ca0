<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NCheckbox, NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import HazardReasons from './HazardReasons.vue'
import { languages, ruleSets } from './symbols'
import LayingDialog from './LayingDialog.vue'
import { type Laid, useLaying } from './useLaying'

/** The label of a chemical: what is true of it, what follows from that, and why. */
const props = defineProps<{ design: Design; fields: readonly string[]; recordSet: number | undefined }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [laid: Schemas['LaidOut'], how: Laid] }>()

interface Spec {
  way: 'substance' | 'classes' | 'mixture'
  substance: string
  classes: string
  mixture: string
  /** What is known of the substance or mixture: answers by the names of their questions. */
  known: Record<string, string>
  /** What stands in the blanks of statements, by their codes. */
  fill: Record<string, string>
  choices: Schemas['PrecautionChoice'][]
  form: string
  rules: string
  language: string
  volume: number | null // litres
  public: boolean
  name: string
  supplier: string
  quantity: string
  ufi: string
  languages: string[]
  fromRecords: boolean
}
const begin: Spec = {
  way: 'substance',
  substance: '',
  classes: '',
  mixture: '',
  known: {},
  fill: {},
  choices: [],
  form: 'dust',
  rules: 'clp',
  language: 'en',
  volume: 1,
  public: false,
  name: '',
  supplier: '',
  quantity: '',
  ufi: '',
  languages: [],
  fromRecords: false,
}
const { spec, document, lay, laying } = useLaying(
  show,
  () => props.design,
  'chemical',
  begin,
  (made, how) => {
    emit('take', made, how)
  },
)

const search = ref('')
const { data: found } = useAsked((signal) =>
  show.value && search.value
    ? api.GET('/hazards/substances', { params: { query: { search: search.value } }, signal })
    : undefined,
)
const substances = computed(() => {
  const list = (search.value ? found.value : undefined) ?? []
  const options = list.map((s) => ({
    value: s.id ?? s.cas,
    label: `${s.names[spec.value.language] ?? s.names.en ?? ''}${s.state ? ` (${s.state})` : ''} · ${s.cas}${s.un ? ` · UN ${s.un}` : ''}`,
  }))
  if (spec.value.substance && !options.some((o) => o.value === spec.value.substance))
    options.unshift({ value: spec.value.substance, label: spec.value.substance })
  return options
})
const ways = [
  { value: 'substance', label: 'a substance' },
  { value: 'classes', label: 'a classification' },
  { value: 'mixture', label: 'a mixture of parts' },
]
const forms = [
  { value: 'dust', label: 'dust or mist' },
  { value: 'vapour', label: 'vapour' },
  { value: 'gas', label: 'gas' },
]
const hazard = computed<Schemas['HazardRequest'] | undefined>(() => {
  const s = spec.value
  const text = s[s.way].trim()
  if (!text) return undefined
  return {
    [s.way]: text,
    form: s.form,
    rules: s.rules,
    language: s.language,
    volume: (s.volume ?? 0) * 1000,
    public: s.public,
    known: s.way === 'classes' ? undefined : typedAnswers(s.known),
    fill: typedAnswers(s.fill),
    choices: s.choices,
  }
})
/** Answers with something in them. */
function typedAnswers(known: Record<string, string> | undefined) {
  return Object.fromEntries(Object.entries(known ?? {}).filter(([, answer]) => answer.trim()))
}
const { data: answer, problem } = useAsked((signal) =>
  show.value && hazard.value ? api.POST('/hazards/label', { body: hazard.value, signal }) : undefined,
)
/** Says what is in the container: what was answered and chosen for something else does not count for it. */
function is(what: Partial<Spec>) {
  Object.assign(spec.value, { known: {}, choices: [], ...what })
}
/** Keeps a precautionary statement or leaves it out, for a reason; without one, as it was chosen by the rules. */
function choose(code: string, keep: boolean, reason: string) {
  const others = (spec.value.choices ?? []).filter((c) => c.code !== code)
  spec.value.choices = reason ? [...others, { code, keep, reason }] : others
}
/** The answer that no question asks for. */
const hnoc = 'hazards not otherwise classified'
/** All that is asked, in an order that answers do not change. */
const questions = computed(() =>
  [...(answer.value?.open ?? []), ...(answer.value?.answered ?? [])]
    .filter((q) => q.id !== hnoc)
    .sort((a, b) => a.id.localeCompare(b.id)),
)
const open = computed(() => answer.value?.open?.length ?? 0)
/** Statements with a blank, filled or not, in their order. */
const blanks = computed(() => {
  const codes = new Set([...(answer.value?.blanks ?? []), ...Object.keys(spec.value.fill ?? {})])
  return (answer.value?.precautions ?? []).filter((p) => codes.has(p.code))
})
const suggested: Record<string, string> = {
  P501: 'an approved waste plant',
  'P370+P378': 'foam, dry powder or carbon dioxide',
  P411: '30',
  P321: 'first aid',
}
const lookedUp = computed(() => props.fields.includes('signal word'))
async function take() {
  if (!hazard.value) return
  const { name, supplier, quantity, ufi, languages: more, fromRecords } = spec.value
  const body = {
    document: document(),
    hazard: hazard.value,
    name,
    supplier,
    quantity,
    ufi,
    languages: more,
    recordSet: fromRecords && lookedUp.value ? props.recordSet : undefined,
  }
  await lay(api.POST('/safety/chemical', { body }))
}
</script>

<template>
  <LayingDialog
    v-model:show="show"
    title="Chemical label"
    :width="980"
    :laying
    :ready="hazard !== undefined && !problem && !open && !answer?.blanks?.length"
    @take="take"
  >
    <div class="two">
      <div class="form">
        <label
          >It is
          <NSelect
            :value="spec.way"
            size="small"
            :options="ways"
            aria-label="It is"
            @update:value="is({ way: $event })"
          />
        </label>
        <label v-if="spec.way === 'substance'"
          >Substance
          <NSelect
            :value="spec.substance || null"
            size="small"
            filterable
            remote
            clearable
            :options="substances"
            placeholder="name, CAS, EC or UN number"
            aria-label="Substance"
            :input-props="{ 'aria-label': 'Look for a substance' }"
            @search="search = $event"
            @update:value="is({ substance: $event ?? '' })"
          />
        </label>
        <label v-else-if="spec.way === 'classes'"
          >Classification
          <NInput
            :value="spec.classes"
            size="small"
            type="textarea"
            :autosize="{ minRows: 2 }"
            placeholder="Flam. Liq. 2; Acute Tox. 3 (oral)"
            :input-props="{ 'aria-label': 'Classification' }"
            @update:value="is({ classes: $event })"
          />
        </label>
        <template v-else>
          <label
            >Parts
            <NInput
              :value="spec.mixture"
              size="small"
              type="textarea"
              :autosize="{ minRows: 2 }"
              placeholder="12% 1310-73-2; 3% Kelpol: Skin Irrit. 2; 8% unknown"
              :input-props="{ 'aria-label': 'Parts' }"
              @update:value="is({ mixture: $event })"
            />
          </label>
          <label
            >Inhaled as
            <NSelect v-model:value="spec.form" size="small" :options="forms" aria-label="Inhaled as" />
          </label>
        </template>
        <fieldset v-if="questions.length && hazard" class="questions">
          <legend>
            {{ spec.way === 'mixture' ? 'What the parts alone do not tell' : 'What the entry leaves open' }}
          </legend>
          <label v-for="q in questions" :key="q.id">
            <span
              ><span v-if="!q.answer" class="bad" aria-hidden="true">■ </span>{{ q.text }}
              <span class="quiet">{{ q.because.join(', ') }} · {{ q.clause }}</span></span
            >
            <NSelect
              v-if="q.choices?.length"
              size="small"
              :value="spec.known[q.id] ?? null"
              :options="
                q.choices.map((value) => ({ value, label: value === 'none' ? 'not classified' : value }))
              "
              placeholder="choose"
              :aria-label="q.id"
              @update:value="spec.known = { ...spec.known, [q.id]: $event }"
            />
            <NInput
              v-else
              size="small"
              :value="spec.known[q.id] ?? ''"
              :placeholder="q.unit ? (spec.way === 'mixture' ? 'number, or none' : 'number') : 'in words'"
              :input-props="{ 'aria-label': q.id }"
              @update:value="spec.known = { ...spec.known, [q.id]: $event }"
              ><template v-if="q.unit" #suffix>{{ q.unit }}</template></NInput
            >
          </label>
        </fieldset>
        <div class="pair">
          <label
            >Rules
            <NSelect v-model:value="spec.rules" size="small" :options="ruleSets" aria-label="Rules" />
          </label>
          <label
            >Language
            <NSelect v-model:value="spec.language" size="small" :options="languages" aria-label="Language" />
          </label>
          <label
            >Also in
            <NSelect
              v-model:value="spec.languages"
              size="small"
              multiple
              :options="languages.filter((l) => l.value !== spec.language)"
              placeholder="no other language"
              aria-label="Also in"
              :input-props="{ 'aria-label': 'Look for a further language' }"
            />
          </label>
        </div>
        <div class="pair">
          <label
            >Container holds
            <NInputNumber
              v-bind="requestBounds.HazardRequest.volume"
              v-model:value="spec.volume"
              size="small"
              :show-button="false"
              :input-props="{ 'aria-label': 'Container holds litres' }"
              ><template #suffix>l</template></NInputNumber
            >
          </label>
          <label
            >Quantity
            <NInput
              v-model:value="spec.quantity"
              size="small"
              placeholder="200 l"
              :input-props="{ 'aria-label': 'Quantity' }"
            />
          </label>
        </div>
        <label v-if="spec.way === 'mixture'"
          >UFI
          <NInput
            v-model:value="spec.ufi"
            size="small"
            placeholder="N1QV-R02N-J00M-WQD5"
            :input-props="{ 'aria-label': 'UFI' }"
          />
        </label>
        <label
          >Name on the label
          <NInput
            v-model:value="spec.name"
            size="small"
            :placeholder="answer?.name || 'what it is called'"
            :input-props="{ 'aria-label': 'Name on the label' }"
          />
        </label>
        <label v-if="spec.rules === 'hazcom' && spec.way !== 'classes'"
          >Hazards not otherwise classified
          <NInput
            :value="spec.known[hnoc] ?? ''"
            size="small"
            placeholder="in the words of section 2 of the safety data sheet"
            :input-props="{ 'aria-label': 'Hazards not otherwise classified' }"
            @update:value="spec.known = { ...spec.known, [hnoc]: $event }"
          />
        </label>
        <label
          >Supplier
          <NInput
            v-model:value="spec.supplier"
            size="small"
            type="textarea"
            :autosize="{ minRows: 2 }"
            placeholder="name, address, telephone"
            :input-props="{ 'aria-label': 'Supplier' }"
          />
        </label>
        <fieldset v-if="blanks.length" class="questions">
          <legend>Blanks of statements</legend>
          <label v-for="p in blanks" :key="p.code">
            <span
              ><span v-if="answer?.blanks?.includes(p.code)" class="bad" aria-hidden="true">■ </span
              >{{ p.code }} <span class="quiet">{{ p.text }}</span></span
            >
            <NInput
              size="small"
              :value="spec.fill[p.code] ?? ''"
              :placeholder="suggested[p.code] ?? 'what stands there'"
              :input-props="{ 'aria-label': `Blank of ${p.code}` }"
              @update:value="spec.fill = { ...spec.fill, [p.code]: $event }"
            />
          </label>
        </fieldset>
        <NCheckbox v-model:checked="spec.public">for the general public</NCheckbox>
        <NCheckbox v-if="lookedUp" v-model:checked="spec.fromRecords">each record's own substance</NCheckbox>
        <p v-else class="quiet small">
          For drums that differ, look the substances of a record set up under Records, and choose that set
          here.
        </p>
      </div>
      <div class="outcome">
        <ProblemNote v-if="problem && hazard" :problem />
        <HazardReasons v-else-if="answer && hazard" :answer :choices="spec.choices ?? []" @choose="choose" />
        <p v-else class="quiet">
          Say what is in the container: pictograms, signal word and statements follow from that, each with its
          reason.
        </p>
      </div>
    </div>
  </LayingDialog>
</template>

<style scoped src="./panels.css"></style>
