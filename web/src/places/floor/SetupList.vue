<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { asPrinter } from '@/api/documents'
import { lengthText } from '@/shared/format'
import LengthInput from '@/shared/LengthInput.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'

/** The print set-ups of a printer, and the offsets that follow from a ruled test label. */
const props = defineProps<{ printer: Schemas['Printer']; stockId?: number; stockName?: string }>()

const { problem, doing } = useDoing()
const edited = ref<{ id?: number; about: Schemas['SetupAbout'] }>()
const ruled = ref<{ setup: Schemas['Setup']; belongs: Schemas['Cross']; x: number; y: number }>()
const path = computed(() => ({ params: { path: { id: props.printer.id } } }))

const {
  data: setups,
  problem: unread,
  refresh: load,
} = useAsked(() => api.GET('/printers/{id}/setups', path.value))

const does = computed(() => asPrinter(props.printer.about))
const finishes = computed(() =>
  [
    { value: '', label: 'tear off', can: true },
    { value: 'cut', label: 'cut', can: does.value.cutter },
    { value: 'peel', label: 'peel', can: does.value.peeler },
    { value: 'rewind', label: 'rewind', can: does.value.rewinder },
    { value: 'apply', label: 'apply', can: does.value.applicator },
  ].filter((f) => f.can),
)

function words(u: Schemas['SetupAbout']): string {
  const parts = []
  if (u.darkness) parts.push(`darkness ${String(u.darkness)} %`)
  if (u.speed) parts.push(`${String(u.speed)} mm/s`)
  if (u.across)
    parts.push(`${lengthText(Math.abs(u.across))} ${u.across > 0 ? 'to the right' : 'to the left'}`)
  if (u.along) parts.push(`${lengthText(Math.abs(u.along))} ${u.along > 0 ? 'later' : 'earlier'}`)
  if (u.finish)
    parts.push(
      u.finish +
        (u.finish === 'cut'
          ? u.cutEvery
            ? ` after every ${u.cutEvery === 1 ? 'label' : String(u.cutEvery)}`
            : ' at the end'
          : ''),
    )
  return parts.join(' · ') || 'all as the printer has it'
}

async function keep() {
  const form = edited.value
  if (!form) return
  const body = { about: form.about }
  const { error } = await doing<{ error?: Problem }>(() =>
    form.id
      ? api.PUT('/setups/{id}', { params: { path: { id: form.id } }, body })
      : api.POST('/printers/{id}/setups', { ...path.value, body }),
  )
  if (!error) edited.value = undefined
  await load()
}
async function remove(id: number) {
  await doing(() => api.DELETE('/setups/{id}', { params: { path: { id } } }))
  await load()
}

async function sample(setup: Schemas['Setup']) {
  if (!props.stockId) return
  const body = { stockId: props.stockId, setupId: setup.id }
  const { data } = await doing(() => api.POST('/printers/{id}/ruled', { ...path.value, body }))
  if (data) ruled.value = { setup, belongs: data, x: data.x, y: data.y }
}
async function measured() {
  const r = ruled.value
  if (!r || !props.stockId) return
  const body = { stockId: props.stockId, x: r.x, y: r.y }
  const { error } = await doing(() =>
    api.POST('/setups/{id}/offsets', { params: { path: { id: r.setup.id } }, body }),
  )
  if (!error) ruled.value = undefined
  await load()
}
/** Moves the print a little without a measurement. */
async function nudge(setup: Schemas['Setup'], dx: number, dy: number) {
  const about = {
    ...setup.about,
    across: (setup.about.across ?? 0) + dx,
    along: (setup.about.along ?? 0) + dy,
  }
  const body = { about, stock: setup.stock }
  await doing(() => api.PUT('/setups/{id}', { params: { path: { id: setup.id } }, body }))
  await load()
}
</script>

<template>
  <section aria-labelledby="p-setups">
    <header>
      <h2 id="p-setups">Print set-ups</h2>
      <span class="room" />
      <NButton size="small" @click="edited = { about: { name: '' } }">New set-up</NButton>
    </header>
    <ProblemNote :problem="problem ?? unread" />
    <form v-if="edited" class="edit" aria-label="Print set-up" @submit.prevent="keep">
      <label>
        <span>Name</span>
        <NInput
          v-model:value="edited.about.name"
          size="small"
          placeholder="cold hall"
          :input-props="{ 'aria-label': 'Name of the set-up' }"
        />
      </label>
      <label>
        <span>Darkness</span>
        <NInputNumber
          v-bind="requestBounds.SetupAbout.darkness"
          :value="edited.about.darkness ?? null"
          size="small"
          :show-button="false"
          placeholder="its own"
          :input-props="{ 'aria-label': 'Darkness in per cent' }"
          @update:value="edited.about.darkness = $event ?? 0"
        >
          <template #suffix>%</template>
        </NInputNumber>
      </label>
      <label>
        <span>Speed</span>
        <NInputNumber
          v-bind="requestBounds.SetupAbout.speed"
          :value="edited.about.speed || null"
          size="small"
          :show-button="false"
          placeholder="its own"
          :input-props="{ 'aria-label': 'Speed in mm/s' }"
          @update:value="edited.about.speed = $event ?? 0"
        >
          <template #suffix>mm/s</template>
        </NInputNumber>
      </label>
      <label>
        <span>Then</span>
        <NSelect
          size="small"
          :value="edited.about.finish ?? ''"
          :options="finishes"
          aria-label="What happens to a label then"
          @update:value="edited.about.finish = $event"
        />
      </label>
      <label v-if="edited.about.finish === 'cut'">
        <span>Cut after every</span>
        <NInputNumber
          v-bind="requestBounds.SetupAbout.cutEvery"
          size="small"
          :show-button="false"
          :value="edited.about.cutEvery || null"
          placeholder="at the end"
          :input-props="{ 'aria-label': 'Labels between two cuts' }"
          @update:value="edited.about.cutEvery = $event ?? 0"
        />
      </label>
      <div>
        <span>Print to the right by</span>
        <LengthInput
          :model-value="edited.about.across ?? 0"
          label="Print to the right by"
          :decimals="2"
          @update:model-value="edited.about.across = $event"
        />
      </div>
      <div>
        <span>Print later by</span>
        <LengthInput
          :model-value="edited.about.along ?? 0"
          label="Print later by"
          :decimals="2"
          @update:model-value="edited.about.along = $event"
        />
      </div>
      <p class="go">
        <NButton size="small" @click="edited = undefined">Not now</NButton>
        <NButton size="small" type="primary" attr-type="submit">Keep it</NButton>
      </p>
    </form>
    <ul>
      <li v-for="setup in setups" :key="setup.id">
        <span class="what">
          <b>{{ setup.about.name }}</b>
          <span class="quiet block">{{ words(setup.about) }}</span>
        </span>
        <span class="nudge" role="group" :aria-label="`Nudge the print of ${setup.about.name}`">
          <button type="button" aria-label="0.1 mm to the left" @click="nudge(setup, -100, 0)">←</button>
          <button type="button" aria-label="0.1 mm to the right" @click="nudge(setup, 100, 0)">→</button>
          <button type="button" aria-label="0.1 mm earlier" @click="nudge(setup, 0, -100)">↑</button>
          <button type="button" aria-label="0.1 mm later" @click="nudge(setup, 0, 100)">↓</button>
        </span>
        <TextButton v-if="stockId && printer.address" @click="sample(setup)">
          Print a ruled label
        </TextButton>
        <TextButton @click="edited = { id: setup.id, about: { ...setup.about } }"> Change </TextButton>
        <TextButton @click="remove(setup.id)">Delete</TextButton>
      </li>
    </ul>
    <p v-if="!setups?.length && !edited" class="quiet">
      None yet: labels are printed as the printer itself is set. A set-up keeps darkness, speed and offsets,
      to be chosen when printing.
    </p>
    <form v-if="ruled" class="ruled" aria-label="Offsets from the ruled label" @submit.prevent="measured">
      <p>
        A ruled label was printed on {{ stockName }} with “{{ ruled.setup.about.name }}”. Its cross belongs
        {{ lengthText(ruled.belongs.x) }} from the left edge and {{ lengthText(ruled.belongs.y) }} from the
        leading edge. Where did it come out?
      </p>
      <div class="row">
        <span>From the left</span>
        <LengthInput v-model="ruled.x" label="Cross from the left" :decimals="2" :least="0" />
        <span>from the leading edge</span>
        <LengthInput v-model="ruled.y" label="Cross from the leading edge" :decimals="2" :least="0" />
        <NButton size="small" type="primary" attr-type="submit">Keep the offsets</NButton>
        <NButton size="small" @click="ruled = undefined">Not now</NButton>
      </div>
    </form>
  </section>
</template>

<style scoped>
section {
  padding: 14px 20px;
}
header {
  display: flex;
  align-items: center;
}
.room {
  flex: 1;
}
.edit {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 10px 14px;
  padding: 10px 0;
}
.edit span:first-child {
  font-size: 13px;
  color: var(--quiet);
}
.edit :deep(.n-input-number) {
  width: 100%;
}
.go {
  grid-column: 1 / -1;
  display: flex;
  justify-content: flex-end;
  gap: 10px;
}
li {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 8px 0;
  border-bottom: 1px dotted var(--control);
}
.what {
  flex: 1;
  min-width: 0;
}
.block {
  display: block;
}
.nudge {
  display: flex;
}
.nudge button {
  width: 28px;
  height: 28px;
  border: 1px solid var(--control);
  background: var(--raised);
  color: var(--ink);
  cursor: pointer;
}
.nudge button + button {
  border-left: 0;
}
.ruled {
  margin-top: 12px;
  padding: 12px;
  background: var(--sunken);
}
.row {
  white-space: nowrap;
  display: flex;
  align-items: center;
  gap: 10px;
  margin-top: 10px;
}
.row > div {
  width: 110px;
}
</style>
