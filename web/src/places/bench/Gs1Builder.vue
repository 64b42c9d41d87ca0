<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { fieldOf, type Piece } from '@/api/documents'
import PanelDialog from '@/shared/PanelDialog.vue'
import TextButton from '@/shared/TextButton.vue'
import FieldOrText from './FieldOrText.vue'

/** Builds GS1 data: a row an application identifier, each with a field or a text as its value. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{
  pieces: readonly Piece[]
  fields: readonly string[]
  recordSetId: number | undefined
  record: number
}>()
const emit = defineEmits<{ take: [pieces: Piece[]] }>()

/** An identifier with its value; proposed: nobody chose the identifier, so that it follows the field. */
interface Row {
  ai: string
  value: Piece[]
  proposed?: boolean
}
const identifiers = shallowRef<Schemas['Identifier'][]>([])
const suits = shallowRef<Record<string, string>>({})
const rows = ref<Row[]>([])
const problem = ref('')
watch(
  show,
  async (open) => {
    if (!open) return
    problem.value = ''
    const [known, apart] = await Promise.all([
      identifiers.value.length ? undefined : api.GET('/gs1/identifiers'),
      api.POST('/gs1/rows', {
        body: {
          pieces: [...props.pieces],
          fields: [...props.fields],
          recordSetId: props.recordSetId,
          record: props.record,
        },
      }),
    ])
    if (known?.data) identifiers.value = known.data
    problem.value = known?.error?.text ?? apart.error?.text ?? ''
    suits.value = apart.data?.suits ?? {}
    rows.value = apart.data?.rows ?? []
    const [first] = rows.value
    if (!first) add()
    else if (!first.ai) {
      first.proposed = true
      fill(first, first.value)
    }
  },
  { immediate: true },
)
const options = computed(() => identifiers.value.map((i) => ({ value: i.ai, label: `(${i.ai}) ${i.title}` })))
const formatOf = (ai: string) => identifiers.value.find((i) => i.ai === ai)?.format ?? ''

/** Identifiers that a word finds: the one that it is before those that begin with it, and these before titles. */
const found = ref<{ value: string; label: string }[]>()
function find(words: string) {
  const typed = words.replace(/[()]/g, '').trim().toLowerCase()
  const rank = ({ value, label }: { value: string; label: string }) =>
    value === typed ? 0 : value.startsWith(typed) ? 1 : label.toLowerCase().includes(typed) ? 2 : 3
  found.value = options.value.filter((o) => rank(o) < 3).sort((a, b) => rank(a) - rank(b))
}

/** The identifiers that most labels begin with, in that order. */
const usual = ['01', '10', '17', '21']
function add() {
  const unused = usual.find((ai) => !rows.value.some((row) => row.ai === ai))
  rows.value.push({ ai: unused ?? '', value: [], proposed: true })
}
function fill(row: Row, value: Piece[]) {
  row.value = value
  const field = value.map(fieldOf).find((name) => name !== undefined)
  const suiting = field === undefined ? undefined : suits.value[field]
  if (row.proposed && suiting) row.ai = suiting
}
function choose(row: Row, ai: string) {
  row.ai = ai
  row.proposed = false
}
async function take() {
  const { data, error } = await api.POST('/gs1/pieces', {
    body: rows.value.map(({ ai, value }) => ({ ai, value })),
  })
  problem.value = error?.text ?? ''
  if (!data) return
  emit('take', data)
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" title="GS1 data" :width="640">
    <p class="quiet">
      Each line is an application identifier with its value: a field of the records, or a text you type.
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <div v-for="(row, i) in rows" :key="i" class="row">
      <NSelect
        size="small"
        :value="row.ai || null"
        :options="found ?? options"
        filterable
        remote
        placeholder="choose"
        class="ai"
        :input-props="{ 'aria-label': `Identifier ${i + 1}` }"
        @search="find"
        @update:show="found = undefined"
        @update:value="choose(row, $event)"
      />
      <FieldOrText
        :pieces="row.value"
        :fields
        :label="`Value ${i + 1}`"
        class="value"
        @set="fill(row, $event)"
      />
      <TextButton :aria-label="`Take (${row.ai}) away`" @click="rows.splice(i, 1)"> take away </TextButton>
      <p class="quiet format">{{ formatOf(row.ai) }}</p>
    </div>
    <template #foot>
      <NButton size="small" @click="add">Another identifier</NButton>
      <span class="gap" />
      <NButton size="small" @click="show = false">Cancel</NButton>
      <NButton
        size="small"
        type="primary"
        :disabled="!rows.length || rows.some((row) => !row.ai)"
        @click="take"
        >Take it</NButton
      >
    </template>
  </PanelDialog>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 250px 1fr auto;
  gap: 2px 10px;
  align-items: center;
  margin-top: 10px;
}
.value {
  flex-wrap: nowrap;
  justify-content: flex-start;
  width: 100%;
}
.format {
  grid-column: 2;
  font-size: 13px;
}
.gap {
  flex: 1;
}
</style>
