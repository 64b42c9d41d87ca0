<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'

/** What comes out among the labels of the run: labels of further designs, blank ones, cut marks. */
const props = defineProps<{
  run: Schemas['Run']
  printers: readonly Schemas['Printer'][]
  started: boolean
  open: boolean
}>()
const emit = defineEmits<{ open: []; take: [Schemas['Beside'][]] }>()

type Beside = Schemas['Beside']
const rows = ref<Beside[]>([])
watch(
  () => props.open,
  (is) => {
    if (!is) return
    rows.value = (props.run.choice.besides ?? []).map((b) => ({ ...b }))
    if (!rows.value.length) add()
  },
  { immediate: true },
)
function add() {
  rows.value.push({
    what: 'blank',
    when: props.run.recordSetFields.length ? 'group' : 'run',
    field: props.run.recordSetFields[0],
    after: true,
    copies: 1,
  })
}

// The run is asked about again and again; menus that are open change only with what they show.
const ownDesign = computed(() => props.run.designId)
const ownPrinter = computed(() => props.run.printer.id)
const hasRecords = computed(() => props.run.recordSetId !== undefined)
const fieldNames = computed(() => JSON.stringify(props.run.recordSetFields))
const fields = computed(() =>
  (JSON.parse(fieldNames.value) as string[]).map((value) => ({ value, label: `of one ${value}` })),
)

const { data: designs } = useAsked(() => (props.open ? api.GET('/designs') : undefined))
const whats = computed(() => [
  { value: 'blank', label: 'blank labels' },
  { value: 'mark', label: 'cut marks' },
  ...(designs.value ?? [])
    .filter((d) => d.id !== ownDesign.value)
    .map((d) => ({ value: d.id, label: `labels of ${d.name}` })),
])
const whatOf = (b: Beside) => (b.what === 'design' ? (b.designId ?? 0) : b.what)
function take(b: Beside, value: string | number) {
  b.what = typeof value === 'number' ? 'design' : value === 'mark' ? 'mark' : 'blank'
  b.designId = typeof value === 'number' ? value : undefined
}

const whens = computed(() => [
  { value: 'before run', label: 'before all' },
  { value: 'after run', label: 'behind all' },
  ...(!hasRecords.value
    ? []
    : [
        { value: 'before group', label: 'before each group' },
        { value: 'after group', label: 'behind each group' },
        { value: 'before record', label: 'before each record' },
        { value: 'after record', label: 'behind each record' },
      ]),
  { value: 'before labels', label: 'before every so many' },
  { value: 'after labels', label: 'behind every so many' },
])
const whenOf = (b: Beside) => `${b.after ? 'after' : 'before'} ${b.when}`
function turn(b: Beside, value: string) {
  const [side, when] = value.split(' ')
  b.after = side === 'after'
  b.when = when as Beside['when']
  if (b.when === 'labels') b.every ??= 10
  if (b.when === 'group') b.field ??= props.run.recordSetFields[0]
}

const printerOptions = computed(() => [
  { value: 0, label: 'on the same printer' },
  ...props.printers
    .filter((p) => p.id !== ownPrinter.value)
    .map((p) => ({ value: p.id, label: `at ${p.name}` })),
])
const written = computed(() =>
  rows.value.map((b) => ({
    ...b,
    field: b.when === 'group' ? b.field : undefined,
    every: b.when === 'labels' ? b.every : undefined,
  })),
)
function says(b: Beside) {
  const stands = { run: 'all', group: `each ${b.field ?? ''}`, record: 'each record' }
  const of = b.when === 'labels' ? `every ${count(b.every ?? 0)} labels` : stands[b.when]
  return `${b.after ? 'behind' : 'before'} ${of}`
}
const where = (b: Beside) => props.printers.find((p) => p.id === b.printerId)?.name
</script>

<template>
  <section class="line" aria-labelledby="q-besides">
    <h2 id="q-besides">Labels between</h2>
    <form v-if="open" class="rows" @submit.prevent="emit('take', written)">
      <div v-for="(b, i) in rows" :key="i" class="row">
        <NInputNumber
          v-bind="requestBounds.Beside.copies"
          v-model:value="b.copies"
          size="small"
          :show-button="false"
          class="few"
          :input-props="{ 'aria-label': `How many at a time, ${i + 1}` }"
        />
        <NSelect
          size="small"
          class="what"
          filterable
          :value="whatOf(b)"
          :options="whats"
          :input-props="{ 'aria-label': `What stands between, ${i + 1}` }"
          @update:value="take(b, $event)"
        />
        <NSelect
          size="small"
          class="when"
          :value="whenOf(b)"
          :options="whens"
          :aria-label="`When, ${i + 1}`"
          @update:value="turn(b, $event)"
        />
        <NSelect
          v-if="b.when === 'group'"
          v-model:value="b.field"
          size="small"
          class="field"
          :options="fields"
          :aria-label="`Field that makes groups, ${i + 1}`"
        />
        <NInputNumber
          v-if="b.when === 'labels'"
          v-bind="requestBounds.Beside.every"
          v-model:value="b.every"
          size="small"
          :show-button="false"
          class="every"
          :input-props="{ 'aria-label': `Labels that one stands for, ${i + 1}` }"
          ><template #suffix>labels</template></NInputNumber
        >
        <NSelect
          v-if="b.what === 'design' && printerOptions.length > 1"
          size="small"
          class="printer"
          :value="b.printerId ?? 0"
          :options="printerOptions"
          :aria-label="`Printer, ${i + 1}`"
          @update:value="b.printerId = $event || undefined"
        />
        <TextButton :aria-label="`Take away ${i + 1}`" @click="rows.splice(i, 1)"> Take away </TextButton>
      </div>
      <div class="row">
        <TextButton v-if="rows.length < 8" @click="add">One more</TextButton>
        <NButton type="primary" attr-type="submit">Take this</NButton>
      </div>
    </form>
    <p v-else-if="!run.choice.besides?.length" class="quiet">
      none: no separators, blank labels or cut marks
    </p>
    <p v-else>
      <span v-for="(b, i) in run.choice.besides" :key="i"
        ><template v-if="i"> · </template><b>{{ b.name }}</b> {{ says(b) }},
        {{ plural(b.labels ?? 0, 'label') }}<template v-if="b.printerId"> at {{ where(b) }}</template></span
      >
    </p>
    <TextButton v-if="!started && !open" @click="emit('open')">Change</TextButton>
  </section>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 6px;
  padding: 4px 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.few {
  width: 52px;
}
.what {
  width: 210px;
}
.when {
  width: 176px;
}
.field,
.printer {
  width: 168px;
}
.every {
  width: 120px;
}
</style>
