<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import PrintNow from './PrintNow.vue'
import ScanLine, { type Said } from './ScanLine.vue'

/** One label at a time, at the printer: what is scanned says which, and Enter alone brings the next. To be read from two metres. */
const props = defineProps<{ runId: number }>()
const path = computed(() => ({ params: { path: { id: props.runId } } }))
const { data: run, problem, refresh } = usePolled(() => api.GET('/runs/{id}', path.value), 400)
const { data: printers } = usePolled(() => api.GET('/printers'), 10_000)
const waiting = ref(0)

/** The label before is still being printed: then it is asked again. */
const patience = 15_000
async function next(scanned: string): Promise<Said> {
  for (const since = Date.now(); ;) {
    const { data, error } = await api.POST('/runs/{id}/next', { ...path.value, body: { scanned } })
    if (!data && error.status === 409 && Date.now() - since < patience) {
      await new Promise((resolve) => setTimeout(resolve, 150))
      continue
    }
    await refresh()
    return data
      ? { good: true, big: data.values[0] ?? `label ${String(data.label)}`, small: words(data) }
      : {
          good: false,
          big: error.text,
          small: error.text.includes(scanned) ? '' : `“${scanned}” was scanned.`,
        }
  }
}
const words = (label: Schemas['NextLabel']) =>
  [`label ${count(label.label)}`, ...label.values.slice(1, 4)].filter(Boolean).join(' · ')

const now = computed(() => run.value?.prints.find((p) => p.state === 'held'))
const other = computed(() => run.value?.prints.reduce((all, p) => all + p.readOther, 0) ?? 0)
</script>

<template>
  <div class="demand">
    <ProblemNote :problem />
    <template v-if="run">
      <header class="place-head">
        <h1>
          <RouterLink :to="`/runs/${run.id}`">Run {{ run.id }} of {{ run.name }}</RouterLink> · one at a time
        </h1>
        <span class="room" />
        <b>{{ run.printer.name }}</b>
      </header>
      <ScanLine
        v-model:waiting="waiting"
        label="Scan what stands in a record, or press Enter for the next label"
        button="Next label"
        :act="next"
      >
        <template #button="{ typed }">{{ typed ? 'Print its label' : 'Next label' }}</template>
        {{ plural(run.labels, 'label') }}, {{ count(run.printed) }} of them printed. What comes next stands
        here, large.
      </ScanLine>
      <p v-if="other" class="odd bad" role="alert">
        ■ {{ plural(other, 'label') }} read otherwise than meant:
        <RouterLink :to="`/runs/${run.id}`">see which</RouterLink>
      </p>
      <footer class="foot">
        <PrintNow v-if="now" :print="now" :printers="printers ?? []" @changed="refresh" />
        <template v-else>
          <p class="count">
            <b>{{ count(run.printed) }}</b> of {{ count(run.labels) }} printed
          </p>
          <p v-if="waiting > 1" class="quiet">{{ plural(waiting - 1, 'scan') }} waiting</p>
        </template>
      </footer>
    </template>
  </div>
</template>

<style scoped>
.demand {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.odd {
  padding: 10px 20px;
  font-size: 20px;
}
.foot {
  display: flex;
  align-items: center;
  gap: 20px;
  min-height: 68px;
  padding: 8px 20px;
  background: var(--sunken);
  border-top: 1px solid var(--line);
}
.count {
  font-size: 26px;
}
</style>
