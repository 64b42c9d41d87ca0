<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { type Element, fieldOf, type Piece } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import PanelDialog from '@/shared/PanelDialog.vue'
import TextButton from '@/shared/TextButton.vue'
import ChangeRows from './ChangeRows.vue'
import { useFormulas } from './useFormulas'

/** One piece of what an element says: its formula with what it gives for three records, and what is done to its value. */
const props = defineProps<{
  piece: Piece
  value: string | undefined
  fields: readonly string[]
  answers: readonly string[]
  others: readonly Element[]
  recordSetId: number | undefined
  record: number
}>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [piece: Piece] }>()

const formula = ref('')
const element = ref<string>()
const changes = ref<NonNullable<Piece['changes']>>([])
const tried = shallowRef<Schemas['FormulaTried']>()
const formulas = useFormulas()

async function ask() {
  if (!formula.value.trim()) {
    tried.value = undefined
    return
  }
  const of = formula.value
  const { data } = await api.POST('/formulas/try', {
    body: { formula: of, recordSetId: props.recordSetId, from: props.record, answers: [...props.answers] },
  })
  if (of === formula.value) tried.value = data
}
const askSoon = useDebounceFn(ask, 150)
watch(
  show,
  (now) => {
    if (!now) return
    formula.value = props.piece.formula ?? ''
    element.value = props.piece.element
    changes.value = [...(props.piece.changes ?? [])]
    void ask()
  },
  { immediate: true },
)
watch(formula, () => void askSoon())

const isFormula = computed(() => props.piece.formula !== undefined)
const title = computed(() =>
  isFormula.value
    ? 'Formula'
    : props.piece.element !== undefined
      ? 'What another element says'
      : (fieldOf(props.piece) ?? 'Text'),
)
const sayers = computed(() => props.others.map((e) => ({ value: e.id, label: e.id })))

const input = ref<InstanceType<typeof NInput>>()
const area = () => input.value?.textareaElRef ?? null
/** The word that the cursor stands behind: what is offered begins with it. */
const at = ref(0)
const word = computed(() => /[\p{L}_][\p{L}\d_]*$/u.exec(formula.value.slice(0, at.value))?.[0] ?? '')
const note = () => (at.value = area()?.selectionStart ?? formula.value.length)
const offered = computed(() => {
  const begins = (name: string) => name.toLowerCase().startsWith(word.value.toLowerCase())
  const names = [...props.fields, ...props.answers].filter(begins).map((name) => ({
    insert: /^[\p{L}_][\p{L}\d_]*$/u.test(name) ? name : `field("${name}")`,
    name,
    says: 'a field of the record',
  }))
  const functions = formulas.value.functions
    .filter((f) => begins(f.name))
    .map((f) => ({
      insert: `${f.name}(`,
      name: `${f.name}(${f.takes})`,
      says: `${f.says}; ${f.example} → ${f.gives}`,
    }))
  return [...names, ...functions]
})
async function insert(text: string) {
  const from = at.value - word.value.length
  formula.value = formula.value.slice(0, from) + text + formula.value.slice(at.value)
  await nextTick()
  area()?.focus()
  area()?.setSelectionRange(from + text.length, from + text.length)
  note()
}

function take() {
  const made: Piece = { ...props.piece, changes: changes.value.length ? changes.value : undefined }
  // The piece may have become another while this was open: it stays what it is.
  if (isFormula.value) made.formula = formula.value
  else if (made.element !== undefined) made.element = element.value ?? made.element
  emit('take', made)
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" :title :width="760">
    <template v-if="isFormula">
      <NInput
        ref="input"
        v-model:value="formula"
        :maxlength="designBounds.Piece.formula.maxlength"
        type="textarea"
        :autosize="{ minRows: 2, maxRows: 6 }"
        placeholder='such as upper(contents) + ", lot " + lot'
        :input-props="{ 'aria-label': 'The formula', spellcheck: false }"
        class="mono"
        @keyup="note"
        @click="note"
      />
      <p v-if="tried?.problem" class="bad" role="alert">
        <template v-if="tried.at">Letter {{ tried.at }}: </template>{{ tried.problem }}
      </p>
      <table v-else-if="tried" class="plain values" aria-label="What it gives">
        <tbody>
          <tr v-for="v in tried.values" :key="v.record">
            <td class="number quiet">{{ recordSetId === undefined ? '' : `record ${v.record}` }}</td>
            <td :class="v.problem ? 'bad' : 'mono'">{{ v.problem ?? (v.value || 'nothing') }}</td>
          </tr>
        </tbody>
      </table>
      <h3>Fields and functions{{ word ? ` that begin with “${word}”` : '' }}</h3>
      <div class="offered" tabindex="0" role="region" aria-label="Fields and functions">
        <p v-for="o in offered" :key="o.name">
          <TextButton class="mono" @click="insert(o.insert)">{{ o.name }}</TextButton>
          <span class="quiet says">{{ o.says }}</span>
        </p>
        <p v-if="!offered.length" class="quiet">None does.</p>
      </div>
    </template>
    <p v-else-if="piece.element !== undefined">
      <NSelect v-model:value="element" :options="sayers" aria-label="Which element" />
    </p>
    <p v-else class="quiet">On this label: “{{ value }}”.</p>
    <h3>Then</h3>
    <ChangeRows v-model="changes" />
    <template #foot>
      <NButton type="primary" :disabled="isFormula && (!formula.trim() || !!tried?.problem)" @click="take"
        >Take it so</NButton
      >
      <NButton @click="show = false">Not now</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
h3 {
  margin: 14px 0 6px;
  font-size: 14px;
}
.values {
  margin-top: 8px;
}
.values .number {
  width: 1px;
  white-space: nowrap;
}
.says {
  margin-left: 10px;
}
.bad {
  margin-top: 8px;
  color: var(--bad);
}
.offered {
  max-height: 170px;
  overflow: auto;
  padding: 4px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
