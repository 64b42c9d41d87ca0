<script setup lang="ts">
import { NButton, NPagination, NPopconfirm } from 'naive-ui'
import { ref, shallowRef, watch, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Problem, type Schemas } from '@/api/client'
import { moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import RecordTable from './RecordTable.vue'

/** The records of a set; one of them may be asked for. */
const props = defineProps<{ setId: number; record?: number }>()
const router = useRouter()
const set = shallowRef<Schemas['RecordSet']>()
const records = shallowRef<Schemas['Record'][]>([])
const problem = shallowRef<Problem>()
const each = 200
const page = ref(Math.ceil((props.record ?? 1) / each))
watch(
  () => [props.setId, props.record],
  () => (page.value = Math.ceil((props.record ?? 1) / each)),
)

watchEffect(async () => {
  const answer = await api.GET('/record-sets/{id}', { params: { path: { id: props.setId } } })
  set.value = answer.data
  problem.value = answer.error
})
watchEffect(async (onCleanup) => {
  let newest = true
  onCleanup(() => (newest = false))
  const query = { from: (page.value - 1) * each + 1, most: each }
  const { data } = await api.GET('/record-sets/{id}/records', {
    params: { path: { id: props.setId }, query },
  })
  if (newest && data) records.value = data.records
})

async function retire() {
  const { error } = await api.DELETE('/record-sets/{id}', { params: { path: { id: props.setId } } })
  problem.value = error
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
    <ProblemNote v-if="problem" :problem />
    <RecordTable v-if="set" class="table" :fields="set.fields" :records :asked="record" />
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
