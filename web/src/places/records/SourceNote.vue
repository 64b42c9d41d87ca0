<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Problem, type Schemas } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import ChangesTable from './ChangesTable.vue'
import { changesInWords } from './changes'
import { ofRereading, requestWords, rereadings, toRereading } from './connections'

/** Where records were read, when, and what changed then; they can be read again. */
const props = defineProps<{ set: Schemas['RecordSet']; source: Schemas['Source'] }>()
const emit = defineEmits<{ renewed: [set: Schemas['RecordSet'], changed: boolean] }>()
const route = useRoute()
const { problem, busy, doing } = useDoing()
const path = computed(() => ({ path: { id: props.set.id } }))
const answers = ref<Schemas['Answers']>({})
type Opened = 'answers' | 'how' | 'changes' | 'tell'
const open = ref<Opened | undefined>(route.query.changes ? 'changes' : undefined)
const said = shallowRef('')
watch(
  () => props.set.id,
  () => ((answers.value = { ...props.source.answers }), (problem.value = undefined)),
  { immediate: true },
)

const changes = computed(() => props.source.changes)
const summary = computed(() => (changes.value ? changesInWords(changes.value) : ''))

async function readAgain(anyway?: true) {
  if (props.source.parameters && open.value !== 'answers' && !anyway) {
    open.value = 'answers'
    return
  }
  const body = { answers: props.source.parameters ? answers.value : undefined, anyway }
  const { data } = await doing(() => api.POST('/record-sets/{id}/refresh', { params: path.value, body }))
  if (!data) return
  const c = data.changes
  open.value = c.new + c.gone + c.changed > 0 ? 'changes' : undefined
  said.value = 'Read again.'
  emit('renewed', data.set, !!open.value)
}

const how = ref('0')
const key = ref<string[]>([])
function change() {
  how.value = ofRereading(props.source.rereading)
  key.value = [...props.source.rereading.key]
  open.value = open.value === 'how' ? undefined : 'how'
}
const ways = computed(() =>
  rereadings.some((r) => r.value === how.value)
    ? rereadings
    : [...rereadings, { value: how.value, label: `every ${how.value} minutes` }],
)
async function keep() {
  const body = toRereading(how.value, key.value)
  const { data } = await doing(() => api.PUT('/record-sets/{id}/source', { params: path.value, body }))
  if (!data) return
  open.value = undefined
  emit('renewed', data, false)
}

/** What is printed is told: a database in columns that are chosen here, anything else as it takes it. */
const isDatabase = computed(() => props.source.kind !== 'desk' && props.source.kind !== 'files')
const parts = [
  { key: 'at', label: 'When' },
  { key: 'by', label: 'By whom' },
  { key: 'count', label: 'How many' },
  { key: 'numbers', label: 'Which codes' },
] as const
const back = ref<Schemas['WriteBack']>({})
const columns = shallowRef<Schemas['Column'][]>([])
async function telling() {
  if (open.value === 'tell') return (open.value = undefined)
  back.value = { ...props.source.writeBack }
  const { table, schema } = props.source.request
  if (isDatabase.value && table) {
    const params = { path: { id: props.source.connectionId } }
    const { data } = await doing(() =>
      api.POST('/connections/{id}/columns', { params, body: { name: table, schema } }),
    )
    columns.value = data?.filter((c) => !c.key) ?? []
    if (!data) return
  }
  return (open.value = 'tell')
}
const columnOptions = computed(() =>
  columns.value.map((c) => ({ value: c.name, label: `${c.name} · ${c.type}` })),
)
async function tell(on: boolean) {
  const { error } = await doing<{ error?: Problem }>(() =>
    on
      ? api.PUT('/record-sets/{id}/write-back', { params: path.value, body: back.value })
      : api.DELETE('/record-sets/{id}/write-back', { params: path.value }),
  )
  if (error) return
  open.value = undefined
  emit('renewed', props.set, false)
}
const toldWords = computed(() => {
  const { told, untold, writeBack } = props.source
  if (told === undefined) return writeBack ? 'it is told what is printed' : ''
  return `told of ${plural(told, 'label')}${untold ? `, ${count(untold)} wait` : ''}`
})
</script>

<template>
  <section aria-label="Where these records were read">
    <div class="line">
      <span
        ><b>{{ source.connection }}</b
        >, {{ requestWords(source.request) }}
        <span class="quiet"
          >· read {{ moment(source.readAt) }}<template v-if="toldWords"> · {{ toldWords }}</template></span
        ></span
      >
      <TextButton
        v-if="summary"
        :disabled="!changes?.first?.length"
        @click="open = open === 'changes' ? undefined : 'changes'"
      >
        {{ summary }}
      </TextButton>
      <span class="room" />
      <span class="unseen" role="status">{{ said }}</span>
      <NButton size="small" :loading="busy" @click="readAgain()">Read again</NButton>
      <TextButton @click="change">How often…</TextButton>
      <TextButton @click="telling">Write back…</TextButton>
    </div>
    <ProblemNote :problem="problem ?? (source.trouble ? { status: 0, text: source.trouble } : undefined)">
      <p v-if="problem?.status === 409" class="line">
        <NButton size="small" @click="readAgain(true)">Take them in anyway</NButton>
      </p>
    </ProblemNote>
    <ProblemNote
      v-if="source.untoldWhy"
      :problem="{ status: 0, text: `What was printed waits to be told: ${source.untoldWhy}` }"
    />
    <form v-if="open === 'tell'" class="line wrap" @submit.prevent="tell(true)">
      <p v-if="isDatabase && !columns.length">
        What a question gives cannot be written into: take the records in from a table.
      </p>
      <template v-else-if="isDatabase">
        <p class="whole">What is written into the row of each record, once its labels are out:</p>
        <label v-for="part in parts" :key="part.key"
          >{{ part.label }}
          <NSelect
            size="small"
            class="part"
            clearable
            :value="back[part.key] || null"
            :options="columnOptions"
            placeholder="nowhere"
            :aria-label="part.label"
            @update:value="back = { ...back, [part.key]: $event ?? undefined }"
        /></label>
      </template>
      <p v-else-if="source.kind === 'files'">
        Each label that comes out is a line of {{ source.request.table }}.printed.csv, beside the file.
      </p>
      <p v-else>The order desk is told of each label that comes out, once.</p>
      <NButton
        v-if="!isDatabase || columns.length"
        size="small"
        type="primary"
        attr-type="submit"
        :loading="busy"
        >{{ source.untold ? 'Tell it so, and try again' : 'Tell it so' }}</NButton
      >
      <NButton v-if="source.writeBack" size="small" :loading="busy" @click="tell(false)"
        >Tell it no more</NButton
      >
    </form>
    <form v-if="open === 'answers'" class="line" @submit.prevent="readAgain()">
      <label v-for="parameter in source.parameters" :key="parameter"
        >{{ parameter }}
        <NInput
          size="small"
          :input-props="{ 'aria-label': parameter }"
          :value="answers[parameter] ?? ''"
          placeholder=""
          @update:value="answers = { ...answers, [parameter]: $event }"
      /></label>
      <NButton size="small" type="primary" attr-type="submit" :loading="busy">Read with these</NButton>
    </form>
    <form v-if="open === 'how'" class="line" @submit.prevent="keep">
      <label
        >Read again
        <NSelect v-model:value="how" size="small" :options="ways" aria-label="Read again" class="wide"
      /></label>
      <label
        >Told apart by
        <NSelect
          v-model:value="key"
          size="small"
          multiple
          class="wide"
          :options="set.fields.map((value) => ({ value, label: value }))"
          placeholder="all their values"
          aria-label="Told apart by"
      /></label>
      <NButton size="small" type="primary" attr-type="submit" :loading="busy">Keep it so</NButton>
    </form>
    <ChangesTable v-if="open === 'changes' && changes" :changes />
  </section>
</template>

<style scoped>
section {
  border-bottom: 1px solid var(--line);
  background: var(--sunken);
}
.line {
  display: flex;
  align-items: end;
  gap: 14px;
  padding: 8px 20px;
}
.line:first-child {
  align-items: center;
}
.room {
  flex: 1;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.wide {
  width: 240px;
}
.part {
  width: 190px;
}
.wrap {
  flex-wrap: wrap;
}
.whole {
  width: 100%;
}
</style>
