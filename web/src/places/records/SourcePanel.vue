<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { NButton, NInput, NRadioButton, NRadioGroup, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import ConnectionDialog from './ConnectionDialog.vue'
import { rereadings, toRereading } from './connections'
import ReadChoices from './ReadChoices.vue'
import RecordTable from './RecordTable.vue'
import { useConnections } from './useConnections'

/** Reads records from a database, or files where they lie, shows them, and takes them in so that they can be read again. */
const emit = defineEmits<{ close: []; taken: [set: Schemas['RecordSet']] }>()

const { options, chosen, connection, asked, problem: unlisted, refresh } = useConnections((k) => k !== 'desk')
const { problem, busy, doing } = useDoing()
const editing = ref<'new' | 'this'>()
const isFiles = computed(() => connection.value?.place.kind === 'files')

const { data: tables, problem: unread } = useAsked((signal) =>
  chosen.value === undefined
    ? undefined
    : api.GET('/connections/{id}/tables', { params: { path: { id: chosen.value } }, signal }),
)
const nameOf = (t: Schemas['Table']) => (t.schema ? `${t.schema}.${t.name}` : t.name)
const tableOptions = computed(
  () => tables.value?.map((t, i) => ({ value: i, label: nameOf(t) + (t.view ? ' (view)' : '') })) ?? [],
)

const by = ref<'table' | 'question'>('table')
const tableAt = ref<number>()
const columns = ref<string[]>([])
const written = ref('')
const settled = refDebounced(written, 500)
const answers = ref<Schemas['Answers']>({})
const settledAnswers = refDebounced(answers, 500)
const name = ref('')
const rereading = ref('0')
const key = ref<string[]>([])

/** How a file is read, where that was corrected; otherwise it is found. */
const settings = ref<Schemas['ReadSettings']>()

watch(chosen, () => ((tableAt.value = undefined), (columns.value = []), (by.value = 'table')))
watch(tableAt, (at) => {
  columns.value = []
  settings.value = undefined
  key.value = []
  const table = at === undefined ? undefined : tables.value?.[at]
  if (table) name.value = nameOf(table)
})

const request = computed<Schemas['SourceRequest'] | undefined>(() => {
  if (by.value === 'question') return settled.value.trim() ? { text: settled.value } : undefined
  const table = tableAt.value === undefined ? undefined : tables.value?.[tableAt.value]
  if (!table) return undefined
  return {
    schema: table.schema,
    table: table.name,
    columns: columns.value.length ? columns.value : undefined,
    settings: settings.value,
  }
})
const { data: allColumns } = useAsked((signal) => {
  const table = tableAt.value === undefined ? undefined : tables.value?.[tableAt.value]
  if (!table || chosen.value === undefined || isFiles.value) return undefined
  const params = { path: { id: chosen.value } }
  return api.POST('/connections/{id}/columns', { params, body: table, signal })
})
const { data: look, problem: unseen } = useAsked((signal) => {
  if (!request.value || chosen.value === undefined) return undefined
  const body = { request: request.value, answers: settledAnswers.value }
  return api.POST('/connections/{id}/look', { params: { path: { id: chosen.value } }, body, signal })
})
const shown = computed(() => (request.value && !unseen.value ? look.value : undefined))

async function take() {
  if (!request.value || chosen.value === undefined) return
  const body = {
    name: name.value,
    request: request.value,
    answers: answers.value,
    rereading: toRereading(rereading.value, key.value),
  }
  const params = { path: { id: chosen.value } }
  const { data } = await doing(() => api.POST('/connections/{id}/records', { params, body }))
  if (data) emit('taken', data)
}
async function kept(connection: Schemas['Connection']) {
  await refresh()
  chosen.value = connection.id
}
</script>

<template>
  <div>
    <div class="top">
      <label class="from"
        >From
        <NSelect
          v-model:value="chosen"
          size="small"
          :options
          aria-label="The connection"
          placeholder="no connection yet"
      /></label>
      <TextButton v-if="connection" @click="editing = 'this'">Change it…</TextButton>
      <TextButton @click="editing = 'new'">New connection…</TextButton>
      <span class="room" />
      <TextButton @click="emit('close')">Not now</TextButton>
    </div>
    <ProblemNote :problem="problem ?? unlisted ?? unread" />
    <p v-if="asked && !connection" class="empty">
      A connection says where a database, or a folder of files, is. Records that are read through it can be
      read again, and what changed is told.
    </p>
    <template v-else-if="connection">
      <div class="what">
        <NRadioGroup v-if="!isFiles" v-model:value="by" size="small" aria-label="What is read">
          <NRadioButton value="table" label="A table or view" />
          <NRadioButton value="question" label="A question in SQL" />
        </NRadioGroup>
        <NSelect
          v-if="by === 'table'"
          v-model:value="tableAt"
          size="small"
          filterable
          class="table-of"
          :options="tableOptions"
          :placeholder="isFiles ? 'Choose a file' : 'Choose a table'"
          :input-props="{ 'aria-label': isFiles ? 'The file' : 'The table' }"
        />
        <NSelect
          v-if="by === 'table' && allColumns && tableAt !== undefined && !isFiles"
          v-model:value="columns"
          size="small"
          multiple
          filterable
          max-tag-count="responsive"
          class="columns"
          :options="allColumns.map((c) => ({ value: c.name, label: `${c.name} · ${c.type}` }))"
          placeholder="all columns"
          :input-props="{ 'aria-label': 'The columns' }"
        />
      </div>
      <div v-if="by === 'question'" class="question">
        <NInput
          v-model:value="written"
          type="textarea"
          :rows="4"
          class="mono"
          placeholder="select bin, contents from shed.bins where bags < :most order by bin"
          :input-props="{ 'aria-label': 'The question in SQL', spellcheck: false }"
        />
        <p class="quiet">
          One that only reads. What is asked each time is written with a colon:
          <span class="mono">:most</span>.
        </p>
        <div v-if="look?.parameters.length" class="asks">
          <label v-for="parameter in look.parameters" :key="parameter"
            >{{ parameter }}
            <NInput
              size="small"
              :input-props="{ 'aria-label': parameter }"
              :value="answers[parameter] ?? ''"
              placeholder=""
              @update:value="answers = { ...answers, [parameter]: $event }"
          /></label>
        </div>
      </div>
      <div v-if="isFiles && tableAt !== undefined" class="settings">
        <ReadChoices
          :read="look?.file"
          :settings="settings ?? look?.file?.settings ?? {}"
          @correct="settings = $event"
        />
      </div>
      <ul v-if="shown?.file?.notes.length" class="notes">
        <li v-for="note in shown.file.notes" :key="note">
          <span class="warn" aria-hidden="true">▲</span> {{ note }}
        </li>
      </ul>
      <ProblemNote :problem="request && unseen" />
      <template v-if="shown?.fields.length">
        <div class="go">
          <label
            >Name
            <NInput
              v-model:value="name"
              size="small"
              placeholder="Bins"
              :input-props="{ 'aria-label': 'Name' }"
          /></label>
          <label
            >Read again
            <NSelect v-model:value="rereading" size="small" :options="rereadings" aria-label="Read again"
          /></label>
          <label
            >Told apart by
            <NSelect
              v-model:value="key"
              size="small"
              multiple
              max-tag-count="responsive"
              :options="shown.fields.map((value) => ({ value, label: value }))"
              placeholder="what is different in each"
              aria-label="Told apart by"
          /></label>
          <NButton type="primary" :loading="busy" :disabled="!name.trim()" @click="take"
            >Take them in</NButton
          >
        </div>
        <p class="quiet count">
          {{
            shown.more ? `The first ${count(shown.records.length)}` : plural(shown.records.length, 'record')
          }}, as they will be kept.
        </p>
        <RecordTable
          :fields="shown.fields"
          :records="shown.records.map((values, i) => ({ number: i + 1, values }))"
        />
      </template>
    </template>
    <ConnectionDialog
      :show="!!editing"
      :connection="editing === 'this' ? connection : undefined"
      kind="postgresql"
      @update:show="editing = undefined"
      @kept="kept"
      @closed="refresh"
    />
  </div>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 14px;
  padding: 0 20px 10px;
  font-size: 13px;
}
.notes {
  padding: 0 20px 10px;
}
.top,
.what,
.go {
  display: flex;
  align-items: end;
  gap: 16px;
  padding: 10px 20px;
}
.top {
  align-items: center;
  border-bottom: 1px solid var(--line);
}
.from {
  display: flex;
  align-items: center;
  gap: 10px;
}
.from > :last-child {
  width: 240px;
}
.room {
  flex: 1;
}
.table-of {
  width: 260px;
}
.columns {
  flex: 1;
  min-width: 200px;
}
.question {
  padding: 0 20px 10px;
}
.question p {
  margin-top: 4px;
  font-size: 13px;
}
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-top: 8px;
}
.asks label,
.go label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.go {
  border-block: 1px solid var(--line);
  background: var(--sunken);
}
.go label {
  flex: 1;
  max-width: 260px;
}
.go button {
  margin-left: auto;
}
.count {
  padding: 8px 20px;
}
</style>
