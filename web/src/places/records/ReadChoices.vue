<script setup lang="ts">
import { NInput, NSelect, type SelectOption } from 'naive-ui'
import { computed } from 'vue'
import { api, type Schemas } from '@/api/client'
import { useAsked } from '@/shared/useAsked'

/** How a file is read, and what of that can be corrected for a file of its kind. */
type Settings = Schemas['ReadSettings']
const props = defineProps<{
  /** What it was read as; nothing before it could be read. */
  read: Schemas['FileRead'] | undefined
  settings: Settings
}>()
const emit = defineEmits<{ correct: [settings: Settings] }>()

const { data: known } = useAsked((signal) => api.GET('/encodings', { signal }))
const encodings = computed(() =>
  (known.value ?? []).map((e) => ({ value: e.name, label: e.writing ? `${e.name}, ${e.writing}` : e.name })),
)
/** Columns at fixed places, in place of a separator. */
const fixed = 'fixed'
const separators = [
  { value: ',', label: 'comma' },
  { value: ';', label: 'semicolon' },
  { value: '\t', label: 'tab' },
  { value: '|', label: 'bar |' },
  { value: fixed, label: 'none: columns at fixed places' },
]
const quotes = [
  { value: 'double', label: 'double quotes hold values' },
  { value: 'none', label: 'quotes are plain text' },
]
const headers = [
  { value: 'first row', label: 'first row names the fields' },
  { value: 'none', label: 'no row of names' },
  ...Array.from({ length: 20 }, (_, i) => ({
    value: `row ${i + 2}`,
    label: `row ${i + 2} names the fields`,
  })),
]

const isText = computed(() => !props.read || /text|columns/.test(props.read.kind))
const named = (list: readonly string[] | undefined) => (list ?? []).map((value) => ({ value, label: value }))
const choices = computed(() => {
  const sheets = named(props.read?.sheets)
  const tables = named(props.read?.tables)
  const all: { key: keyof Settings; name: string; options: SelectOption[]; has: boolean }[] = [
    { key: 'sheet', name: 'Sheet', options: sheets, has: sheets.length > 0 },
    { key: 'table', name: 'List', options: tables, has: tables.length > 0 },
    {
      key: 'encoding',
      name: 'Letters',
      options: encodings.value,
      has: isText.value || !!props.settings.encoding,
    },
    { key: 'separator', name: 'Separator', options: separators, has: isText.value },
    { key: 'columns', name: 'Columns begin at', options: [], has: !!props.settings.columns },
    { key: 'quotes', name: 'Quotes', options: quotes, has: isText.value && !props.settings.columns },
    { key: 'header', name: 'Names', options: headers, has: isText.value || sheets.length > 0 },
  ]
  return all.filter((c) => c.has)
})

function correct(key: keyof Settings, value: string) {
  const made: Settings = { ...props.settings, [key]: value }
  // Another sheet or list has its own names; they are found anew.
  if (key === 'sheet' || key === 'table') made.header = undefined
  if (key === 'separator') {
    made.separator = value === fixed ? undefined : value
    made.columns = value === fixed ? '1' : undefined
    made.quotes = undefined
  }
  emit('correct', made)
}
</script>

<template>
  <div v-for="choice in choices" :key="choice.key">
    <span :id="`l-${choice.key}`">{{ choice.name }}</span>
    <NInput
      v-if="choice.key === 'columns'"
      size="small"
      :default-value="settings.columns"
      placeholder="1,11,25"
      :input-props="{ 'aria-labelledby': 'l-columns' }"
      @change="correct('columns', $event)"
    />
    <NSelect
      v-else
      size="small"
      :value="choice.key === 'separator' && settings.columns ? fixed : settings[choice.key]"
      :options="choice.options"
      :aria-labelledby="`l-${choice.key}`"
      @update:value="(value: string) => correct(choice.key, value)"
    />
  </div>
</template>
