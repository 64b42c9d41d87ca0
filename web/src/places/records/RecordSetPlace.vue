<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { NButton, NInput, NPagination, NPopconfirm, NSelect } from 'naive-ui'
import { computed, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import { languages, ruleSets } from '../safety/symbols'
import RecordFilter from './RecordFilter.vue'
import RecordTable from './RecordTable.vue'
import SourceNote from './SourceNote.vue'

/** The records of a set; one of them may be asked for. */
const props = defineProps<{ setId: number; record?: number }>()
const router = useRouter()
const { problem, doing } = useDoing()
const each = 200
const page = ref(Math.ceil((props.record ?? 1) / each))
watch(
  () => [props.setId, props.record],
  () => (page.value = Math.ceil((props.record ?? 1) / each)),
)

const path = () => ({ path: { id: props.setId } })
const {
  data: set,
  problem: unread,
  refresh: again,
} = useAsked(() => api.GET('/record-sets/{id}', { params: path() }))
/** Read again, they are a set of their own, or what was kept of how they are read is shown. */
async function renewed(now: Schemas['RecordSet'], changed: boolean) {
  if (now.id === props.setId) await again()
  else await router.replace({ path: `/records/${String(now.id)}`, query: changed ? { changes: '1' } : {} })
}
const choosing = ref<Schemas['Choosing']>({})
const isAll = computed(() => Object.values(choosing.value).every((v) => v === undefined))
const settled = refDebounced(choosing, 150)
watch(settled, () => (page.value = 1))
const { data: records, problem: unfound } = useAsked((signal) => {
  const body = { choosing: settled.value, from: (page.value - 1) * each + 1, most: each }
  return api.POST('/record-sets/{id}/choose', { params: path(), body, signal })
})
const found = computed(() => records.value?.found ?? set.value?.count ?? 0)

/** A click sorts by a field, the next the other way round, the third not; with Shift besides the fields before. */
function sort(field: string, besides: boolean) {
  const now = choosing.value.sort ?? []
  const was = now.find((o) => o.field === field)
  const others = besides ? now.filter((o) => o.field !== field) : []
  const mine = was?.down ? [] : [{ field, down: was ? true : undefined }]
  const sorted = [...others, ...mine]
  choosing.value = { ...choosing.value, sort: sorted.length ? sorted : undefined }
}
async function keep() {
  const name = `${set.value?.name ?? 'Records'}, ${plural(found.value, 'record')} chosen`
  const body = { choosing: choosing.value, name }
  const { data } = await doing(() => api.POST('/record-sets/{id}/keep', { params: path(), body }))
  if (!data) return
  choosing.value = {}
  await router.push(`/records/${String(data.id)}`)
}

/** Each record becomes its full packs and the last one, with what each holds. */
const packing = ref(false)
const packOf = reactive({ field: '', size: '' })
async function split() {
  const { data } = await doing(() => api.POST('/record-sets/{id}/packs', { params: path(), body: packOf }))
  if (!data) return
  packing.value = false
  await router.push(`/records/${String(data.id)}`)
}

/** Each record gets what is to stand on the label of its substance. */
const looking = ref(false)
const hazardsOf = reactive({ field: '', rules: 'clp', language: 'en', fill: '', known: '' })
async function lookUp() {
  const { data } = await doing(() =>
    api.POST('/record-sets/{id}/hazards', { params: path(), body: hazardsOf }),
  )
  if (!data) return
  looking.value = false
  await router.push(`/records/${String(data.id)}`)
}

async function retire() {
  const { error } = await doing(() => api.DELETE('/record-sets/{id}', { params: path() }))
  if (!error) await router.push('/records')
}
</script>

<template>
  <div class="place page">
    <header class="place-head">
      <h1>{{ set?.name ?? 'Records' }}</h1>
      <span v-if="set" class="quiet"
        >{{ plural(set.count, 'record') }} · taken in {{ moment(set.importedAt) }} by
        {{ set.importedBy }}</span
      >
      <span class="room" />
      <NButton @click="router.push(`/records/${String(setId)}/write`)">Change by hand</NButton>
      <NPopconfirm positive-text="Retire it" negative-text="Keep it" @positive-click="retire">
        <template #trigger><NButton>Retire</NButton></template>
        It leaves the list. What was printed from it stays.
      </NPopconfirm>
      <NButton type="primary" @click="router.push(`/bench?new=1&records=${setId}`)"
        >Design a label for them</NButton
      >
    </header>
    <ProblemNote :problem="problem ?? unread ?? unfound" />
    <SourceNote v-if="set?.source" :set :source="set.source" @renewed="renewed" />
    <div v-if="set" class="choose">
      <RecordFilter v-model="choosing" :fields="set.fields" :set-name="set.name" />
      <span class="room" />
      <span aria-live="polite"
        ><b>{{ count(found) }}</b> of {{ count(set.count) }}</span
      >
      <NButton size="small" :disabled="isAll || !found" @click="keep">Keep these as a set</NButton>
      <TextButton @click="packing = !packing">Packs…</TextButton>
      <TextButton @click="looking = !looking">Hazards…</TextButton>
    </div>
    <form v-if="looking && set" class="choose" @submit.prevent="lookUp">
      <span>Look up what stands on labels of the substances in</span>
      <NSelect
        v-model:value="hazardsOf.field"
        size="small"
        :options="set.fields.map((value) => ({ value, label: value }))"
        placeholder="CAS or EC numbers, or classes"
        aria-label="The substances"
        class="of"
      />
      <NSelect
        v-model:value="hazardsOf.rules"
        size="small"
        :options="ruleSets"
        aria-label="Rules"
        class="of"
      />
      <NSelect
        v-model:value="hazardsOf.language"
        size="small"
        :options="languages"
        aria-label="Language"
        class="of"
      />
      <NInput
        v-model:value="hazardsOf.fill"
        size="small"
        class="fills"
        placeholder="P501 = an approved waste plant; P370+P378 = foam"
        :input-props="{ 'aria-label': 'What fills the blanks of statements' }"
      />
      <NInput
        v-model:value="hazardsOf.known"
        size="small"
        class="fills"
        placeholder="concentration of 7697-37-2 = 65; stabilised = yes"
        :input-props="{ 'aria-label': 'What entries leave open' }"
      />
      <NButton size="small" type="primary" attr-type="submit" :disabled="!hazardsOf.field"
        >Make a set with hazards</NButton
      >
    </form>
    <form v-if="packing && set" class="choose" @submit.prevent="split">
      <span>Split what is ordered, in</span>
      <NSelect
        v-model:value="packOf.field"
        size="small"
        :options="set.fields.map((value) => ({ value, label: value }))"
        aria-label="The ordered quantity"
        class="of"
      />
      <span>, into packs of</span>
      <NSelect
        v-model:value="packOf.size"
        size="small"
        filterable
        tag
        :options="set.fields.map((value) => ({ value, label: `as ${value} says` }))"
        placeholder="12, or a field"
        :input-props="{ 'aria-label': 'The size of a pack' }"
        class="of"
      />
      <NButton size="small" type="primary" attr-type="submit" :disabled="!packOf.field || !packOf.size"
        >Make a set of packs</NButton
      >
    </form>
    <RecordTable
      v-if="set"
      class="table"
      :fields="set.fields"
      :records="records?.records ?? []"
      :asked="record"
      :order="choosing.sort ?? []"
      sortable
      @sort="sort"
    />
    <NPagination
      v-if="set && found > each"
      v-model:page="page"
      class="pages"
      :page-count="Math.ceil(found / each)"
    />
  </div>
</template>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  overflow: hidden;
}
.table {
  flex: 1;
  min-height: 0;
}
.choose {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 8px 20px;
  border-bottom: 1px solid var(--line);
}
.choose > :not(.filter) {
  white-space: nowrap;
}
.of {
  width: 170px;
}
.pages {
  padding: 10px 20px;
  border-top: 1px solid var(--line);
}
.fills {
  flex: 1 1 260px;
}
</style>
