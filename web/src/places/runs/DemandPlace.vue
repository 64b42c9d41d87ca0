<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'
import PrintNow from './PrintNow.vue'
import { useSounds } from './useSounds'

/** One label at a time, at the printer: what is scanned says which, and Enter alone brings the next. To be read from two metres. */
const props = defineProps<{ runId: number }>()
const path = computed(() => ({ params: { path: { id: props.runId } } }))
const { data: run, problem, refresh } = usePolled(() => api.GET('/runs/{id}', path.value), 400)
const { data: printers } = usePolled(() => api.GET('/printers'), 10_000)

const input = ref<HTMLInputElement>()
const typed = ref('')
const said = shallowRef<{ good: boolean; big: string; small: string }>()
const waiting = ref(0)
const sounds = useSounds()
watch(input, (now) => now?.focus())

/** The label before is still being printed: then it is asked again, in the order in which things were scanned. */
const patience = 15_000
let line = Promise.resolve()
function scan() {
  const scanned = typed.value.trim()
  typed.value = ''
  input.value?.focus()
  waiting.value++
  line = line.then(() => next(scanned)).finally(() => waiting.value--)
}
async function next(scanned: string) {
  for (const since = Date.now(); ;) {
    const { data, error } = await api.POST('/runs/{id}/next', { ...path.value, body: { scanned } })
    if (data) {
      sounds.yes()
      said.value = { good: true, big: data.values[0] ?? `label ${String(data.label)}`, small: words(data) }
      break
    }
    if (error.status === 409 && Date.now() - since < patience) {
      await new Promise((resolve) => setTimeout(resolve, 150))
      continue
    }
    sounds.no()
    said.value = {
      good: false,
      big: error.text,
      small: error.text.includes(scanned) ? '' : `“${scanned}” was scanned.`,
    }
    break
  }
  await refresh()
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
        <button type="button" class="linklike" :aria-pressed="sounds.on.value" @click="sounds.toggle()">
          {{ sounds.on.value ? 'Sound is on' : 'Sound is off' }}
        </button>
        <b>{{ run.printer.name }}</b>
      </header>
      <form class="ask" @submit.prevent="scan">
        <label for="scan">Scan what stands in a record, or press Enter for the next label</label>
        <input id="scan" ref="input" v-model="typed" autocomplete="off" spellcheck="false" />
        <button type="submit" class="next">{{ typed.trim() ? 'Print its label' : 'Next label' }}</button>
      </form>
      <div class="said" :class="said && (said.good ? 'yes' : 'no')" role="status" aria-live="assertive">
        <template v-if="said">
          <p class="mark" aria-hidden="true">{{ said.good ? '✓' : '✕' }}</p>
          <div>
            <p class="big" :class="{ words: !said.good }">{{ said.big }}</p>
            <p class="small">{{ said.small }}</p>
          </div>
        </template>
        <p v-else class="small">
          {{ plural(run.labels, 'label') }}, {{ count(run.printed) }} of them printed. What comes next stands
          here, large.
        </p>
      </div>
      <p v-if="other" class="odd bad" role="alert">
        ■ {{ plural(other, 'label') }} read otherwise than meant:
        <RouterLink :to="`/runs/${run.id}`">see which</RouterLink>
      </p>
      <footer class="foot">
        <PrintNow v-if="now" :print="now" :printers="printers ?? []" :at="run.printer" @changed="refresh" />
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
.ask {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px 16px;
  padding: 18px 20px;
  border-bottom: 1px solid var(--line);
}
.ask label {
  grid-column: 1 / -1;
  font-size: 18px;
}
.ask input {
  min-height: 72px;
  padding: 0 18px;
  border: 2px solid var(--control);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font:
    32px 'IBM Plex Mono',
    monospace;
}
.next {
  min-width: 240px;
  min-height: 72px;
  border: 0;
  border-radius: 8px;
  background: var(--accent);
  color: var(--paper);
  font: 600 24px 'IBM Plex Sans';
  cursor: pointer;
}
.said {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 28px;
  min-height: 0;
  padding: 18px 40px;
  overflow: auto;
  border-left: 16px solid transparent;
}
.yes {
  border-color: var(--good);
}
.no {
  border-color: var(--bad);
}
.mark {
  font-size: 110px;
  line-height: 1;
}
.yes .mark {
  color: var(--good);
}
.no .mark {
  color: var(--bad);
}
.big {
  font-size: 84px;
  font-weight: 600;
  line-height: 1.1;
  overflow-wrap: anywhere;
}
.big.words {
  font-size: 40px;
}
.small {
  font-size: 24px;
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
@media (max-width: 1100px) {
  .big {
    font-size: 64px;
  }
}
</style>
