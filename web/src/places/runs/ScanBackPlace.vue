<script setup lang="ts">
import { NCheckbox } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import PrintNow from './PrintNow.vue'
import ScanLine, { type Said } from './ScanLine.vue'

/** Printed labels are scanned and held against what they are meant to say. To be read from two metres. */
const props = defineProps<{ runId: number }>()
const path = computed(() => ({ params: { path: { id: props.runId } } }))
const { data: run, problem, refresh } = usePolled(() => api.GET('/runs/{id}', path.value), 1000)
const { data: scans, refresh: look } = usePolled(() => api.GET('/runs/{id}/scans', path.value), 2000)
const { data: printers } = usePolled(() => api.GET('/printers'), 10_000)
const stop = ref(true)

async function scan(scanned: string): Promise<Said> {
  if (!scanned) return { good: false, big: 'Nothing was scanned.', small: 'Scan a code of a printed label.' }
  const { data, error } = await api.POST('/runs/{id}/scans', {
    ...path.value,
    body: { scanned, stop: stop.value },
  })
  await Promise.all([refresh(), look()])
  if (!data) return { good: false, big: error.text, small: `“${scanned}” was scanned.` }
  const values = data.values.slice(1, 5).filter(Boolean).join(' · ')
  return data.outcome === 'meant'
    ? {
        good: true,
        big: data.values[0] ?? `label ${count(data.label ?? 0)}`,
        small: `${data.text} ${values}`,
      }
    : {
        good: false,
        big: data.text,
        small: `“${scanned}” was scanned. ${data.stopped ? 'The print pauses.' : values}`,
      }
}
const now = computed(() => run.value?.prints.find((p) => p.state === 'held' || p.state === 'printing'))
const words: Record<Schemas['Scan']['outcome'], string> = {
  meant: 'as meant',
  again: 'scanned before',
  spoiled: 'said to be spoiled',
  unprinted: 'not known to have come out',
  other: 'none of this run',
}
const level = (outcome: Schemas['Scan']['outcome']) =>
  outcome === 'meant' ? 'fine' : outcome === 'again' ? 'warning' : 'error'
</script>

<template>
  <div class="back">
    <ProblemNote :problem />
    <template v-if="run">
      <header class="place-head">
        <h1>
          <RouterLink :to="`/runs/${run.id}`">Run {{ run.id }} of {{ run.name }}</RouterLink> · scan back
        </h1>
        <span class="room" />
        <NCheckbox v-model:checked="stop">Pause the print at the first that is not as meant</NCheckbox>
      </header>
      <ScanLine label="Scan any code of a printed label" button="Look" :act="scan" pictures>
        {{ plural(run.printed, 'label') }} of this run came out. Scan them all, or some at random.
      </ScanLine>
      <section v-if="scans?.latest.length" class="latest" aria-label="Scanned lately">
        <ol>
          <li v-for="s in scans.latest" :key="s.at + s.scanned">
            <LevelText :level="level(s.outcome)">{{ words[s.outcome] }}</LevelText>
            <b v-if="s.label">label {{ count(s.label) }}</b>
            <code>{{ s.scanned }}</code>
            <span class="quiet">{{ moment(s.at) }}, {{ s.by }}</span>
          </li>
        </ol>
      </section>
      <footer class="foot">
        <p v-if="scans" class="count">
          <b>{{ count(scans.meant) }}</b> of {{ count(scans.printed) }} as meant<template v-if="scans.wrong"
            >, <b class="bad">{{ plural(scans.wrong, 'scan') }} otherwise</b></template
          >
        </p>
        <PrintNow v-if="now" :print="now" :printers="printers ?? []" @changed="refresh" />
      </footer>
    </template>
  </div>
</template>

<style scoped>
.back {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.latest {
  max-height: 150px;
  overflow: auto;
  padding: 8px 20px;
  border-top: 1px solid var(--line);
}
li {
  display: flex;
  gap: 14px;
  padding: 3px 0;
}
code {
  overflow-wrap: anywhere;
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
  flex: none;
  font-size: 26px;
}
</style>
