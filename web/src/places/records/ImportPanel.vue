<script setup lang="ts">
import { NButton, NInput, NSelect, type SelectOption } from 'naive-ui'
import { useEventListener } from '@vueuse/core'
import { computed, reactive, ref, shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import RecordTable from './RecordTable.vue'

/** Reads a file, shows what was found, lets it be corrected, and takes it in. */
const emit = defineEmits<{ close: []; taken: [set: Schemas['RecordSet']] }>()

const file = shallowRef<File>()
const preview = shallowRef<Schemas['Preview']>()
const name = ref('')
const settings = reactive<Schemas['ReadSettings']>({})
const { problem, busy, doing } = useDoing()
const over = ref(false)

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

const isText = computed(() => !preview.value || /text|columns/.test(preview.value.kind))
const sheets = computed(() => preview.value?.sheets.map((value) => ({ value, label: value })) ?? [])
const tables = computed(() => preview.value?.tables.map((value) => ({ value, label: value })) ?? [])
/** What can be corrected of a file of this kind. */
const choices = computed(() => {
  const all: { key: keyof Schemas['ReadSettings']; name: string; options: SelectOption[]; has: boolean }[] = [
    { key: 'sheet', name: 'Sheet', options: sheets.value, has: sheets.value.length > 0 },
    { key: 'table', name: 'List', options: tables.value, has: tables.value.length > 0 },
    { key: 'encoding', name: 'Letters', options: encodings.value, has: isText.value || !!settings.encoding },
    { key: 'separator', name: 'Separator', options: separators, has: isText.value },
    { key: 'columns', name: 'Columns begin at', options: [], has: !!settings.columns },
    { key: 'quotes', name: 'Quotes', options: quotes, has: isText.value && !settings.columns },
    { key: 'header', name: 'Names', options: headers, has: isText.value || sheets.value.length > 0 },
  ]
  return all.filter((c) => c.has)
})

function form(): FormData {
  const data = new FormData()
  for (const [key, value] of Object.entries(settings)) if (value) data.append(key, value)
  data.append('name', name.value)
  if (file.value) data.append('file', file.value)
  return data
}
// A form goes out as it is: the contract's type of it knows no files.
const body = () => ({ body: { file: '' }, bodySerializer: form })

/** As much as the server reads at once; what is larger is not even sent. */
const mostMegabytes = 64

async function choose(chosen: File | undefined) {
  if (!chosen) return
  const megabytes = Math.round(chosen.size / 2 ** 20)
  if (megabytes > mostMegabytes) {
    const text = `${chosen.name} has ${megabytes} MB, and up to ${mostMegabytes} MB are read at once. Split it, or leave out columns that no label needs.`
    problem.value = { status: 413, text }
    return
  }
  file.value = chosen
  name.value = chosen.name
  for (const key of Object.keys(settings) as (keyof Schemas['ReadSettings'])[]) settings[key] = undefined
  await look()
}

async function look() {
  const { data } = await doing(() => api.POST('/record-sets/preview', body()))
  preview.value = data
  if (data) Object.assign(settings, data.settings)
}

function correct(key: keyof Schemas['ReadSettings'], value: string) {
  settings[key] = value
  // Another sheet or list has its own names; they are found anew.
  if (key === 'sheet' || key === 'table') settings.header = undefined
  void look()
}
function separate(value: string) {
  settings.separator = value === fixed ? undefined : value
  settings.columns = value === fixed ? '1' : undefined
  settings.quotes = undefined
  void look()
}

/** Cells that were copied in a spreadsheet come as rows parted by tabs. */
useEventListener('paste', (event: ClipboardEvent) => {
  if (event.target instanceof HTMLInputElement) return
  const chosen = event.clipboardData?.files[0]
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (chosen) void choose(chosen)
  else if (text.trim()) void choose(new File([text], 'Pasted cells', { type: 'text/plain' }))
})

async function take() {
  const { data } = await doing(() => api.POST('/record-sets', body()))
  if (data) emit('taken', data)
}
</script>

<template>
  <div>
    <div
      class="drop"
      :class="{ over }"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="((over = false), choose($event.dataTransfer?.files[0]))"
    >
      <label class="pick">
        <span>{{ file ? 'Another file' : 'Choose a file' }}</span>
        <input
          type="file"
          accept=".csv,.txt,.tsv,.xlsx,.ods,.json,.ndjson,.xml,.dbf,.sqlite,.sqlite3,.db,text/*"
          @change="choose(($event.target as HTMLInputElement).files?.[0])"
        />
      </label>
      <span class="quiet"
        >or drop it here, or paste cells. Text, workbooks (XLSX, ODS), JSON, XML, DBF and SQLite, up to 64 MB.
        Values stay as they are written or shown.</span
      >
      <span class="room" />
      <TextButton @click="emit('close')">Not now</TextButton>
    </div>
    <ProblemNote v-if="problem" :problem />
    <template v-if="file">
      <div class="settings">
        <div>
          <span id="l-name">Name</span>
          <NInput v-model:value="name" size="small" :input-props="{ 'aria-labelledby': 'l-name' }" />
        </div>
        <div v-for="choice in choices" :key="choice.key">
          <span :id="`l-${choice.key}`">{{ choice.name }}</span>
          <NInput
            v-if="choice.key === 'columns'"
            size="small"
            :value="settings.columns"
            placeholder="1,11,25"
            :input-props="{ 'aria-labelledby': 'l-columns' }"
            @update:value="settings.columns = $event"
            @change="correct('columns', $event)"
          />
          <NSelect
            v-else
            size="small"
            :value="choice.key === 'separator' && settings.columns ? fixed : settings[choice.key]"
            :options="choice.options"
            :aria-labelledby="`l-${choice.key}`"
            @update:value="
              (value: string) => (choice.key === 'separator' ? separate(value) : correct(choice.key, value))
            "
          />
        </div>
      </div>
      <template v-if="preview">
        <ul v-if="preview.notes.length" class="notes">
          <li v-for="note in preview.notes" :key="note">
            <span class="warn" aria-hidden="true">▲</span> {{ note }}
          </li>
        </ul>
        <div class="go">
          <p>
            <b>{{ plural(preview.count, 'record') }}</b> with {{ plural(preview.fields.length, 'field') }}
            <span class="quiet"
              >· the first {{ count(preview.records.length) }} are shown as they will be kept</span
            >
          </p>
          <span class="room" />
          <NButton type="primary" :loading="busy" @click="take"
            >Take in {{ plural(preview.count, 'record') }}</NButton
          >
        </div>
        <RecordTable
          :fields="preview.fields"
          :records="preview.records.map((values, i) => ({ number: i + 1, values }))"
        />
      </template>
    </template>
  </div>
</template>

<style scoped>
.drop {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 16px 20px;
  padding: 18px;
  border: 1px dashed var(--control);
  border-radius: 6px;
}
.drop > .pick,
.drop > .text-button {
  flex: none;
}
.drop.over {
  background: var(--accent-soft);
}
.pick span {
  display: inline-block;
  padding: 6px 14px;
  border-radius: 6px;
  background: var(--accent);
  color: var(--on-accent);
  font-weight: 500;
  cursor: pointer;
}
.pick input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.pick:focus-within span {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.settings {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 14px;
  padding: 0 20px 14px;
}
.settings span {
  font-size: 13px;
  color: var(--quiet);
}
.notes {
  padding: 0 20px 10px;
}
.go {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 20px;
  border-block: 1px solid var(--line);
  background: var(--sunken);
}
.room {
  flex: 1;
}
</style>
