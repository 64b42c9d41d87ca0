<script setup lang="ts">
import { NButton, NPopconfirm, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '@/api/client'
import { asPrinter, asStock } from '@/api/documents'
import { amount, lengthText, moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import { usePolled } from '@/shared/usePolled'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'
import PrinterForm from './PrinterForm.vue'
import SayLoaded from './SayLoaded.vue'
import SetupList from './SetupList.vue'
import TagUnder from './TagUnder.vue'

/** One printer: what it can do, what is in it, and its print set-ups. */
const props = defineProps<{ printerId: number }>()
const router = useRouter()
const path = computed(() => ({ params: { path: { id: props.printerId } } }))
const { data: line, problem, refresh } = usePolled(() => api.GET('/printers/{id}', path.value), 1000)
const { data: stocks } = useAsked(() => api.GET('/stocks'))
const { problem: refused, doing } = useDoing()
const changing = ref(false)
const wanted = ref<number | null>(null)

const does = computed(() => (line.value ? asPrinter(line.value.printer.about) : undefined))
const loaded = computed(() => (line.value?.stock ? asStock(line.value.stock.about) : undefined))
const takes = computed<readonly string[]>(() => does.value?.takes ?? ['die-cut', 'tape'])
const options = computed(() =>
  (stocks.value ?? [])
    .filter((s) => takes.value.includes(asStock(s.about).kind))
    .map((s) => ({ value: s.id, label: `${s.number} · ${asStock(s.about).name}` })),
)
const facts = computed(() => {
  const d = does.value
  if (!d) return []
  const can = [
    d.cutter && 'cuts',
    d.peeler && 'peels',
    d.rewinder && 'rewinds',
    d.applicator && 'applies',
    d.encoder && 'writes tags',
  ].filter(Boolean)
  const made: [string, string][] = [
    ['Resolution', d.resolution],
    [
      'Head',
      `${String(d.headDots)} dots, ${lengthText(line.value?.printer.headWidth ?? 0)}${d.alignment === 'left' ? ', web at the left' : ', web centred'}`,
    ],
    ['Takes', takes.value.join(', ')],
    ['Finds pieces by', (d.sensors ?? ['gap', 'mark']).join(', ')],
    [
      'Prints with',
      d.vector
        ? 'vectors'
        : (d.inks ?? ['heat']).join(', ') + (d.heats ? `, heat brings out ${d.heats.join(', ')}` : ''),
    ],
  ]
  if (d.speed) made.push(['Speed', `${String(d.slowSpeed ?? 0)} to ${String(d.speed)} mm/s`])
  if (d.mostWeb) made.push(['Widest web', lengthText(d.mostWeb)])
  if (d.maxLength) made.push(['Longest label', lengthText(d.maxLength, 0)])
  if (can.length) made.push(['Also', can.join(', ')])
  made.push(['Address', line.value?.printer.address || 'not connected'])
  return made
})

async function believe() {
  await doing(() => api.DELETE('/printers/{id}/loaded', path.value))
  await refresh()
}
async function load() {
  const body = { stockId: wanted.value ?? 0 }
  const { error } = await doing(() => api.POST('/printers/{id}/load', { ...path.value, body }))
  if (!error) wanted.value = null
  await refresh()
}
async function forward(id: number) {
  await doing(() => api.POST('/prints/{id}/forward', { params: { path: { id } } }))
  await refresh()
}
async function retire() {
  const { error } = await doing(() => api.DELETE('/printers/{id}', path.value))
  if (!error) await router.push('/floor')
}
</script>

<template>
  <div class="printer">
    <ProblemNote v-if="problem" :problem />
    <template v-if="line && does">
      <header class="place-head">
        <h1>{{ line.printer.name }}</h1>
        <LevelText :level="line.level" role="status">{{ line.text }}</LevelText>
        <span class="room" />
        <RouterLink v-if="line.printer.camera" :to="`/floor/${printerId}/web`">What came out</RouterLink>
        <NButton @click="changing = !changing">Change</NButton>
        <NPopconfirm :positive-text="'Take it off'" :negative-text="'Keep it'" @positive-click="retire">
          <template #trigger><NButton>Take off the floor</NButton></template>
          Its runs and what was printed stay; nothing more can be printed on it.
        </NPopconfirm>
      </header>
      <ProblemNote v-if="refused" :problem="refused" />
      <PrinterForm
        v-if="changing"
        :id="printerId"
        :about="line.printer.about"
        :address="line.printer.address"
        :encoder="line.printer.encoder"
        @kept="((changing = false), refresh())"
        @close="changing = false"
      />
      <div v-else class="halves">
        <div>
          <section aria-labelledby="p-in">
            <h2 id="p-in">In it</h2>
            <p>
              <b>{{ loaded?.name ?? line.loaded ?? 'not known' }}</b>
              <template v-if="line.left >= 0">
                · {{ amount(line.left, line.unit)
                }}{{ line.unit === 'length' ? ' of tape' : ` ${line.unit}` }} left</template
              >
            </p>
            <p v-if="line.said" :class="line.said.counts ? 'quiet' : 'warn'">
              <template v-if="line.said.counts"
                >{{ line.said.by }} says so, {{ moment(line.said.at) }}: “{{ line.said.reason }}”. The printer
                says {{ line.loaded ?? 'something else' }}.</template
              >
              <template v-else
                >▲ {{ line.said.by }} said {{ moment(line.said.at) }} that {{ line.said.name }} is loaded. The
                printer says something else now, so that this does not count any more.</template
              >
              <TextButton @click="believe">Believe the printer</TextButton>
            </p>
            <form v-if="line.loadable" class="load" @submit.prevent="load">
              <NSelect
                v-model:value="wanted"
                filterable
                :options
                placeholder="another stock"
                :input-props="{ 'aria-label': 'Stock to load' }"
                class="stock"
              />
              <NButton attr-type="submit" :disabled="!wanted">Load it</NButton>
            </form>
            <div v-else-if="line.loaded" class="load">
              <NSelect
                v-model:value="wanted"
                filterable
                :options
                placeholder="another stock is in it"
                :input-props="{ 'aria-label': 'Stock that is in it' }"
                class="stock"
              />
              <SayLoaded
                v-if="wanted"
                :printer-id="printerId"
                :which="{ stockId: wanted }"
                words="It is loaded, and the printer does not know…"
                @said="((wanted = null), refresh())"
              />
            </div>
            <p v-else-if="line.printer.address" class="quiet">Load it by hand; it tells what is in it.</p>
          </section>
          <section v-if="line.queue.length" aria-labelledby="p-queue">
            <h2 id="p-queue">Wait for their turn</h2>
            <ol class="queue">
              <li v-for="(p, i) in line.queue" :key="p.id">
                <RouterLink :to="`/runs/${p.runId}`">{{ p.runName }}</RouterLink>
                <span class="quiet">{{ plural(p.labels - p.printed, 'label') }} · {{ p.startedBy }}</span>
                <span v-if="p.state === 'held'" class="quiet">held</span>
                <NButton v-else-if="i > 0" size="small" @click="forward(p.id)">Let it go first</NButton>
                <span v-else class="quiet">next</span>
              </li>
            </ol>
          </section>
          <TagUnder v-if="line.printer.encoder" :printer-id="printerId" />
          <section aria-labelledby="p-can">
            <h2 id="p-can">What it can do</h2>
            <dl>
              <div v-for="[name, value] in facts" :key="name">
                <dt>{{ name }}</dt>
                <dd>{{ value }}</dd>
              </div>
            </dl>
          </section>
        </div>
        <SetupList :printer="line.printer" :stock-id="line.stock?.id" :stock-name="loaded?.name" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.queue li {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 34px;
}
.queue li > :first-child {
  flex: 1;
}
.printer {
  height: 100%;
  overflow: auto;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
}
.halves > * + * {
  border-left: 1px solid var(--line);
}
section {
  padding: 14px 20px;
}
.load {
  display: flex;
  gap: 10px;
  margin-top: 8px;
}
.stock {
  width: 290px;
}
dl > div {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  padding: 6px 0;
  border-bottom: 1px dotted var(--control);
}
dt {
  color: var(--quiet);
}
dd {
  font-weight: 500;
  overflow-wrap: anywhere;
}
.room {
  flex: 1;
}
</style>
