<script setup lang="ts">
import { NButton, NPagination, NPopconfirm } from 'naive-ui'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '@/api/client'
import { moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import RecordTable from './RecordTable.vue'

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
const { data: set, problem: unread } = useAsked(() => api.GET('/record-sets/{id}', { params: path() }))
const { data: records } = useAsked((signal) => {
  const query = { from: (page.value - 1) * each + 1, most: each }
  return api.GET('/record-sets/{id}/records', { params: { ...path(), query }, signal })
})

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
      <NPopconfirm positive-text="Retire it" negative-text="Keep it" @positive-click="retire">
        <template #trigger><NButton>Retire</NButton></template>
        It leaves the list. What was printed from it stays.
      </NPopconfirm>
      <NButton type="primary" @click="router.push(`/bench?new=1&records=${setId}`)"
        >Design a label for them</NButton
      >
    </header>
    <ProblemNote :problem="problem ?? unread" />
    <RecordTable
      v-if="set"
      class="table"
      :fields="set.fields"
      :records="records?.records ?? []"
      :asked="record"
    />
    <NPagination
      v-if="set && set.count > each"
      v-model:page="page"
      class="pages"
      :page-count="Math.ceil(set.count / each)"
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
.pages {
  padding: 10px 20px;
  border-top: 1px solid var(--line);
}
</style>
