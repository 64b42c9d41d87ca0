<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { useEventListener } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import ChangesTable from './ChangesTable.vue'
import { changesInWords } from './changes'
import ReadChoices from './ReadChoices.vue'
import RecordTable from './RecordTable.vue'

/** Reads a file, shows what was found, lets it be corrected, and takes it in. */
const emit = defineEmits<{ close: []; taken: [set: Schemas['RecordSet']] }>()

const file = shallowRef<File>()
const preview = shallowRef<Schemas['Preview']>()
const name = ref('')
const settings = ref<Schemas['ReadSettings']>({})
const { problem, busy, doing } = useDoing()
const over = ref(false)

/** The set of this name that is here already: the file takes its place, or becomes a second one. */
const same = computed(() => preview.value?.same)
const replace = ref(true)
const inPlaceOf = computed(() => (replace.value ? same.value?.set.id : undefined))
const taking = ref(false)
const anyway = ref(false)

function form(): FormData {
  const data = new FormData()
  for (const [key, value] of Object.entries(settings.value)) if (value) data.append(key, value)
  data.append('name', name.value)
  if (taking.value && inPlaceOf.value) {
    data.append('replaces', String(inPlaceOf.value))
    if (anyway.value) data.append('anyway', 'yes')
  }
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
  settings.value = {}
  await look()
}

async function look() {
  const { data } = await doing(() => api.POST('/record-sets/preview', body()))
  preview.value = data
  if (data) settings.value = data.file.settings
}

function correct(made: Schemas['ReadSettings']) {
  settings.value = made
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

async function take(lacking = false) {
  taking.value = true
  anyway.value = lacking
  const { data } = await doing(() => api.POST('/record-sets', body()))
  taking.value = false
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
    <p v-if="problem?.status === 409 && inPlaceOf" class="go">
      <NButton size="small" @click="take(true)">Take them in anyway</NButton>
    </p>
    <template v-if="file">
      <div class="settings">
        <div>
          <span id="l-name">Name</span>
          <NInput
            v-model:value="name"
            size="small"
            :input-props="{ 'aria-labelledby': 'l-name' }"
            @change="look"
          />
        </div>
        <ReadChoices :read="preview?.file" :settings @correct="correct" />
      </div>
      <template v-if="preview">
        <ul v-if="preview.file.notes.length" class="notes">
          <li v-for="note in preview.file.notes" :key="note">
            <span class="warn" aria-hidden="true">▲</span> {{ note }}
          </li>
        </ul>
        <fieldset v-if="same" class="same">
          <legend>
            {{ same.set.name }} is here already, taken in {{ moment(same.set.importedAt) }} by
            {{ same.set.importedBy }}. In this file: {{ changesInWords(same.changes) }}.
          </legend>
          <label><input v-model="replace" type="radio" :value="true" /> Replace it; designs go over</label>
          <label
            ><input v-model="replace" type="radio" :value="false" /> Keep both, this one as a second
            set</label
          >
          <ChangesTable :changes="same.changes" />
        </fieldset>
        <div class="go">
          <p>
            <b>{{ plural(preview.file.count, 'record') }}</b> with
            {{ plural(preview.fields.length, 'field') }}
            <span class="quiet"
              >· the first {{ count(preview.records.length) }} are shown as they will be kept</span
            >
          </p>
          <span class="room" />
          <NButton type="primary" :loading="busy" @click="take()"
            >{{ inPlaceOf ? 'Replace with' : 'Take in' }} {{ plural(preview.file.count, 'record') }}</NButton
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
.same {
  margin: 0 20px 10px;
  padding: 8px 12px;
  border: 1px solid var(--line);
}
.same legend {
  font-weight: 500;
}
.same label {
  margin-right: 18px;
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
