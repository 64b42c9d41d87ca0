<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NButton, NCheckbox, NCheckboxGroup, NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref, shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'
import { asPrinter, type Printer } from '@/api/documents'
import LengthInput from '@/shared/LengthInput.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'

/** What a printer can do, typed by hand or looked over after the printer told it. */
const props = defineProps<{ about: Schemas['About']; address: string; encoder?: string; id?: number }>()
const emit = defineEmits<{ kept: [printer: Schemas['Printer']]; close: [] }>()

/** The lists of a printer grow and shrink while it is described. */
type Draft = Omit<Printer, 'takes' | 'sensors' | 'inks' | 'heats'> & {
  takes?: string[]
  sensors?: string[]
  inks?: string[]
  heats?: string[]
}
const does = ref(JSON.parse(JSON.stringify(asPrinter(props.about))) as Draft)
const at = shallowRef(props.address)
const reader = shallowRef(props.encoder ?? '')
const { problem, doing } = useDoing()

const kinds = ['die-cut', 'tape', 'sleeve', 'wrap', 'flag', 'plate', 'sheet'] as const
const sensors = ['gap', 'mark', 'notch', 'continuous'] as const
const resolutions = [
  ...['6 dots/mm', '8 dots/mm', '10 dots/mm', '12 dots/mm', '24 dots/mm'],
  ...['180 dpi', '200 dpi', '300 dpi', '360 dpi', '600 dpi'],
].map((value) => ({ value, label: value }))
const takes = computed({
  get: () => does.value.takes ?? ['die-cut', 'tape'],
  set: (value) => (does.value.takes = value),
})
const finds = computed({
  get: () => does.value.sensors ?? ['gap', 'mark'],
  set: (value) => (does.value.sensors = value),
})
/** Inks are typed as a list. */
const listed = (key: 'inks' | 'heats') =>
  computed({
    get: () => (does.value[key] ?? []).join(', '),
    set: (text) => {
      const list = text
        .split(',')
        .map((ink) => ink.trim())
        .filter(Boolean)
      does.value[key] = list.length ? list : undefined
    },
  })
const inks = listed('inks')
const heats = listed('heats')
const alignments = [
  { value: '', label: 'in the middle' },
  { value: 'left', label: 'at the left' },
]
const speeds = [
  { key: 'slowSpeed', name: 'Slowest' },
  { key: 'speed', name: 'Fastest' },
] as const
const lengths = [
  { key: 'leastWeb', name: 'Narrowest web' },
  { key: 'mostWeb', name: 'Widest web' },
  { key: 'minLength', name: 'Shortest label' },
  { key: 'maxLength', name: 'Longest label' },
] as const
const flags = [
  { key: 'cutter', name: 'cuts' },
  { key: 'peeler', name: 'peels' },
  { key: 'rewinder', name: 'rewinds' },
  { key: 'applicator', name: 'applies' },
  { key: 'encoder', name: 'writes tags' },
  { key: 'vector', name: 'marks with vectors' },
] as const

async function keep() {
  const body = {
    about: does.value as unknown as Schemas['About'],
    address: at.value,
    encoder: does.value.encoder ? reader.value : '',
  }
  const { data } = await doing(() =>
    props.id
      ? api.PUT('/printers/{id}', { params: { path: { id: props.id } }, body })
      : api.POST('/printers', { body }),
  )
  if (data) emit('kept', data)
}

const bounded = (of: 'headDots' | 'ribbon' | 'speed' | 'slowSpeed') => designBounds.Printer[of]
</script>

<template>
  <form class="form" aria-label="What the printer can do" @submit.prevent="keep">
    <ProblemNote v-if="problem" :problem />
    <div class="fields">
      <label>
        <span>Name</span>
        <NInput
          v-model:value="does.name"
          placeholder=""
          :input-props="{ 'aria-label': 'Name of the printer' }"
        />
      </label>
      <label class="two">
        <span>Address, empty when it is not connected</span>
        <NInput
          v-model:value="at"
          placeholder="ipp://192.0.2.7/ipp/print"
          :input-props="{ 'aria-label': 'Address' }"
        />
      </label>
      <label>
        <span>Resolution</span>
        <NSelect
          v-model:value="does.resolution"
          tag
          filterable
          :options="resolutions"
          :input-props="{ 'aria-label': 'Resolution' }"
        />
      </label>
      <label>
        <span>Dots across the head</span>
        <NInputNumber
          v-model:value="does.headDots"
          v-bind="bounded('headDots')"
          :show-button="false"
          :input-props="{ 'aria-label': 'Dots across the head' }"
        />
      </label>
      <label>
        <span>Inks, empty for heat alone</span>
        <NInput v-model:value="inks" placeholder="black, red" :input-props="{ 'aria-label': 'Inks' }" />
      </label>
      <label>
        <span>A new ribbon has, in metres</span>
        <NInputNumber
          v-model:value="does.ribbon"
          v-bind="bounded('ribbon')"
          :show-button="false"
          placeholder="not told"
          :input-props="{ 'aria-label': 'Metres on a new ribbon' }"
        />
      </label>
      <label>
        <span>Inks that heat brings out, beside black</span>
        <NInput
          v-model:value="heats"
          placeholder="red"
          :input-props="{ 'aria-label': 'Inks that heat brings out' }"
        />
      </label>
      <label v-if="does.encoder" class="two">
        <span>Address of its encoder, which writes tags</span>
        <NInput
          v-model:value="reader"
          placeholder="llrp://192.0.2.7:5084"
          :input-props="{ 'aria-label': 'Address of the encoder' }"
        />
      </label>
      <label>
        <span>The web runs under the head</span>
        <NSelect
          :value="does.alignment === 'left' ? 'left' : ''"
          :options="alignments"
          aria-label="Where the web runs under the head"
          @update:value="does.alignment = $event || undefined"
        />
      </label>
      <label v-for="speed in speeds" :key="speed.key">
        <span>{{ speed.name }} speed, mm/s</span>
        <NInputNumber
          v-bind="bounded(speed.key)"
          :value="does[speed.key] ?? null"
          placeholder="not known"
          :show-button="false"
          :input-props="{ 'aria-label': `${speed.name} speed in mm/s` }"
          @update:value="does[speed.key] = $event ?? undefined"
        />
      </label>
      <div v-for="length in lengths" :key="length.key">
        <span>{{ length.name }}, 0: not known</span>
        <LengthInput
          :model-value="does[length.key] ?? 0"
          :label="length.name"
          size="medium"
          :least="0"
          @update:model-value="does[length.key] = $event || undefined"
        />
      </div>
    </div>
    <fieldset>
      <legend>Takes</legend>
      <NCheckboxGroup v-model:value="takes"
        ><NCheckbox v-for="kind in kinds" :key="kind" :value="kind" :label="kind"
      /></NCheckboxGroup>
    </fieldset>
    <fieldset>
      <legend>Finds pieces by</legend>
      <NCheckboxGroup v-model:value="finds"
        ><NCheckbox v-for="sensor in sensors" :key="sensor" :value="sensor" :label="sensor"
      /></NCheckboxGroup>
    </fieldset>
    <fieldset>
      <legend>And</legend>
      <NCheckbox
        v-for="flag in flags"
        :key="flag.key"
        :checked="does[flag.key] ?? false"
        @update:checked="does[flag.key] = $event || undefined"
        >{{ flag.name }}</NCheckbox
      >
    </fieldset>
    <p class="go">
      <NButton @click="emit('close')">Not now</NButton>
      <NButton type="primary" attr-type="submit">{{ id ? 'Keep it' : 'Add this printer' }}</NButton>
    </p>
  </form>
</template>

<style scoped>
.form {
  padding: 14px 20px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 12px 16px;
}
.fields span:first-child,
legend {
  font-size: 13px;
  color: var(--quiet);
}
.fields :deep(.n-input-number) {
  width: 100%;
}
.two {
  grid-column: span 2;
}
fieldset {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  margin: 12px 0 0;
  padding: 0;
  border: 0;
}
fieldset :deep(.n-checkbox-group) {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
}
legend {
  float: left;
  width: 120px;
}
.go {
  display: flex;
  justify-content: flex-end;
  gap: 12px;
  margin-top: 14px;
}
</style>
