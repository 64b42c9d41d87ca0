<script setup lang="ts">
import { NButton, NCheckbox, NInput, NPagination, NRadioButton, NRadioGroup, NSelect } from 'naive-ui'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import ConnectionDialog from './ConnectionDialog.vue'
import { useConnections } from './useConnections'

/** Looks a document up at the order desk by its number, or items by words, and takes all of its lines in, or some. */
const emit = defineEmits<{ close: []; taken: [set: Schemas['RecordSet']] }>()

const {
  list,
  options,
  chosen,
  connection,
  asked,
  problem: unlisted,
  refresh,
} = useConnections((k) => k === 'desk')
const { problem, busy, doing } = useDoing()
const editing = ref<'new' | 'this'>()
type Kind = Schemas['DeskQuestion']['kind']
const kind = ref<Kind>('order')
const typed = ref('')
const field = ref<{ focus: () => void; select: () => void }>()

/** What was found, and which of its lines are ticked. */
const found = shallowRef<{
  question: Schemas['DeskQuestion']
  fields: string[]
  records: string[][]
  labels?: number[]
}>()
const ticked = ref(new Set<number>())
const at = (name: string) => found.value?.fields.indexOf(name) ?? -1

const words: Record<Kind, { label: string; hint: string }> = {
  order: { label: 'Number of the order', hint: 'SO-2607' },
  receipt: { label: 'Number of the goods-received note', hint: 'GR-0418' },
  items: { label: 'Words of the items', hint: 'kelp 250' },
}
watch([kind, chosen], async () => {
  found.value = undefined
  await nextTick()
  field.value?.focus()
})
onMounted(() => field.value?.focus())
watch(connection, async () => {
  await nextTick()
  field.value?.focus()
})

async function lookUp() {
  if (chosen.value === undefined) return
  const text = typed.value.trim()
  const question =
    kind.value === 'items' ? { kind: kind.value, words: text } : { kind: kind.value, number: text }
  const params = { path: { id: chosen.value } }
  const body = { request: { desk: question } }
  const { data } = await doing(() => api.POST('/connections/{id}/look', { params, body }))
  found.value = data && { question, fields: data.fields, records: data.records, labels: data.labels }
  ticked.value = new Set(data && kind.value !== 'items' ? data.records.keys() : [])
  field.value?.select()
}

/** What a document says besides its lines stands above them. */
const ofHead = (name: string) => /^(order|receipt|date)$|^party /.test(name)
const head = computed(() => {
  const [first] = found.value?.records ?? []
  if (!first) return undefined
  const say = (name: string) => first[at(name)] ?? ''
  const place = [say('party street'), `${say('party postcode')} ${say('party town')}`, say('party country')]
  return {
    date: say('date'),
    name: say('party name'),
    address: place
      .map((p) => p.trim())
      .filter(Boolean)
      .join(', '),
  }
})
const columns = computed(() =>
  (found.value?.fields ?? []).map((name, i) => ({ name, i })).filter((c) => !ofHead(c.name)),
)
const isNumber = (name: string) => name === 'quantity' || name === 'onHand' || name === 'price'

/** A document may have thousands of lines: some are shown at once. */
const each = 200
const page = ref(1)
const shown = computed(() =>
  (found.value?.records ?? [])
    .map((record, row) => ({ record, row }))
    .slice((page.value - 1) * each, page.value * each),
)
watch(found, () => (page.value = 1))

/** A click with Shift takes all from the last one on. */
let last = 0
function tick(row: number, on: boolean, range: boolean) {
  const set = new Set(ticked.value)
  const [from, to] = range ? [Math.min(last, row), Math.max(last, row)] : [row, row]
  for (let i = from; i <= to; i++)
    if (on) set.add(i)
    else set.delete(i)
  last = row
  ticked.value = set
}
const all = computed({
  get: () => !!found.value?.records.length && ticked.value.size === found.value.records.length,
  set: (on) => (ticked.value = new Set(on ? found.value?.records.keys() : [])),
})
const labels = computed(() => {
  const each = found.value?.labels
  return each && [...ticked.value].reduce((sum, row) => sum + (each[row] ?? 0), 0)
})

async function take() {
  if (!found.value || chosen.value === undefined) return
  const { question, records } = found.value
  const line = at(question.kind === 'items' ? 'item' : 'line')
  const some = [...ticked.value].sort((a, b) => a - b).map((row) => records[row]?.[line] ?? '')
  const desk = { ...question, lines: all.value ? undefined : some }
  const name =
    question.kind === 'items' ? `Items with ${question.words || 'anything'}` : (question.number ?? '')
  const params = { path: { id: chosen.value } }
  const { data } = await doing(() =>
    api.POST('/connections/{id}/records', { params, body: { name, request: { desk } } }),
  )
  if (data) emit('taken', data)
}
async function kept(connection: Schemas['Connection']) {
  await refresh()
  chosen.value = connection.id
}
</script>

<template>
  <div>
    <form class="top" @submit.prevent="lookUp">
      <NSelect
        v-if="list.length > 1"
        v-model:value="chosen"
        size="small"
        class="desk"
        :options
        aria-label="The order desk"
      />
      <template v-if="connection">
        <NRadioGroup v-model:value="kind" size="small" aria-label="What is looked up">
          <NRadioButton value="order" label="Order" />
          <NRadioButton value="receipt" label="Goods-received note" />
          <NRadioButton value="items" label="Items" />
        </NRadioGroup>
        <NInput
          ref="field"
          v-model:value="typed"
          size="small"
          class="number-of"
          :placeholder="words[kind].hint"
          :input-props="{ 'aria-label': words[kind].label }"
        />
        <NButton size="small" type="primary" attr-type="submit" :loading="busy">Look up</NButton>
      </template>
      <span class="room" />
      <TextButton v-if="connection" @click="editing = 'this'"> Change the connection… </TextButton>
      <TextButton v-else @click="editing = 'new'"> Connect to an order desk… </TextButton>
      <TextButton @click="emit('close')">Not now</TextButton>
    </form>
    <ProblemNote :problem="problem ?? unlisted" />
    <p v-if="asked && !connection" class="empty">
      An order desk is the business system that knows items, customer orders and goods received. Whoever looks
      after it answers a few addresses; docs/order-desk.yaml says which.
    </p>
    <p v-else-if="connection && !found && !problem" class="empty">
      Type or scan a number. All lines are taken, or those that are ticked, and their quantities become the
      labels.
    </p>
    <template v-if="found">
      <div class="head">
        <div v-if="found.question.kind !== 'items'">
          <p>
            <b>{{ found.question.number }}</b> <span class="quiet">{{ head?.date }}</span>
          </p>
          <p>
            {{ head?.name }} <span class="quiet">{{ head?.address }}</span>
          </p>
        </div>
        <p v-else>
          <b>{{ plural(found.records.length, 'item') }}</b>
        </p>
        <span class="room" />
        <span aria-live="polite"
          >{{ count(ticked.size) }} of {{ plural(found.records.length, 'line')
          }}<template v-if="labels !== undefined"> · {{ plural(labels, 'label') }}</template></span
        >
        <NButton type="primary" :loading="busy" :disabled="!ticked.size" @click="take"
          >Take {{ all ? 'all' : plural(ticked.size, 'line') }}</NButton
        >
      </div>
      <table class="plain">
        <thead>
          <tr>
            <th><NCheckbox v-model:checked="all" aria-label="All lines" /></th>
            <th v-for="column in columns" :key="column.name" :class="{ number: isNumber(column.name) }">
              {{ column.name }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ record, row } in shown" :key="row">
            <td @click="tick(row, !ticked.has(row), $event.shiftKey)">
              <NCheckbox
                :checked="ticked.has(row)"
                :aria-label="`Line ${record[at('line')] ?? record[at('item')] ?? row + 1}`"
                @click.stop="tick(row, !ticked.has(row), $event.shiftKey)"
              />
            </td>
            <td v-for="column in columns" :key="column.name" :class="{ number: isNumber(column.name) }">
              {{ record[column.i] }}
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <NPagination
      v-if="found && found.records.length > each"
      v-model:page="page"
      class="pages"
      :page-count="Math.ceil(found.records.length / each)"
    />
    <ConnectionDialog
      :show="!!editing"
      :connection="editing === 'this' ? connection : undefined"
      kind="desk"
      @update:show="editing = undefined"
      @kept="kept"
      @closed="refresh"
    />
  </div>
</template>

<style scoped>
.top,
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 10px 20px;
  border-bottom: 1px solid var(--line);
}
.desk {
  width: 180px;
}
.number-of {
  width: 200px;
}
.room {
  flex: 1;
}
.head {
  background: var(--sunken);
}
.pages {
  padding: 10px 20px;
}
table.plain th:first-child,
table.plain td:first-child {
  padding-left: 20px;
  width: 48px;
}
</style>
