<script setup lang="ts">
import { useElementSize, useScroll } from '@vueuse/core'
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, nextTick, onMounted, ref } from 'vue'
import { onBeforeRouteLeave, useRouter } from 'vue-router'
import { api } from '@/api/client'
import { plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import FieldCheck from './FieldCheck.vue'
import { useChecks } from './useChecks'
import { useGrid } from './useGrid'

/** Records are written by hand, as fast as one can type; those of a set can be gone on with. */
const props = defineProps<{ setId?: number }>()
const router = useRouter()
const { problem, busy, doing } = useDoing()

const name = ref('')
const fields = ref<string[]>(['bin', 'contents', 'lot'])
const grid = useGrid(() => fields.value)
const checks = useChecks(fields, grid.rows)
const checking = ref<string>()
const isChecking = computed({
  get: () => checking.value !== undefined,
  set: (now) => (checking.value = now ? checking.value : undefined),
})
const kept = ref(true)
const tooMany = ref(false)
/** Where the records are read from; empty: nowhere. */
const readFrom = ref('')

onMounted(async () => {
  if (props.setId !== undefined) {
    const params = { path: { id: props.setId } }
    const { data: set } = await doing(() => api.GET('/record-sets/{id}', { params }))
    if (!set) return
    name.value = set.name
    tooMany.value = !set.writable
    readFrom.value = set.source?.connection ?? ''
    if (tooMany.value) return
    const records: string[][] = []
    for (let from = 1; from <= set.count; from += 1000) {
      const query = { from, most: 1000 }
      const { data } = await doing(() =>
        api.GET('/record-sets/{id}/records', { params: { ...params, query } }),
      )
      records.push(...(data?.records.map((r) => r.values) ?? []))
    }
    fields.value = set.fields
    checks.begin(set.checks)
    grid.begin(records)
  }
  focus()
})

const sheet = ref<HTMLElement>()
/** The one input there is, in the cell that one stands in. */
const inputs = ref<HTMLInputElement[]>([])
const editor = computed(() => inputs.value[0])
const editing = ref(false)
const { y: scrolled } = useScroll(sheet)
const { height } = useElementSize(sheet)
const tall = 30
const first = computed(() => Math.max(Math.floor(scrolled.value / tall) - 5, 0))
const shown = computed(() =>
  Array.from(
    { length: Math.min(Math.ceil(height.value / tall) + 12, grid.rows.value.length + 1 - first.value) },
    (_, i) => first.value + i,
  ),
)
const isChosen = (row: number, column: number) => {
  const { top, bottom, left, right } = grid.range.value
  return row >= top && row <= bottom && column >= left && column <= right
}

const typed = ref('')
/** The cell that it was typed in: the input leaves one before it is in the next. */
let typedIn = { row: 0, column: 0 }
function focus() {
  typedIn = { ...grid.at.value }
  typed.value = grid.value(typedIn.row, typedIn.column)
  editing.value = false
  // What stands in the cell is in the input only then, and chosen, so that typing replaces it.
  void nextTick(() => {
    const top = (grid.to.value.row + 1) * tall
    if (
      sheet.value &&
      (top < sheet.value.scrollTop + tall || top > sheet.value.scrollTop + height.value - 2 * tall)
    )
      sheet.value.scrollTop = Math.max(top - height.value / 2, 0)
    editor.value?.focus()
    editor.value?.select()
  })
}
function put() {
  if (typed.value === grid.value(typedIn.row, typedIn.column)) return
  grid.write([[typed.value]], typedIn)
  kept.value = false
}
function go(row: number, column: number, choosing: boolean) {
  put()
  grid.go(row, column, choosing)
  focus()
}
/** What Enter does, which scanners send behind what they read. */
const enters = [
  { value: 'next', label: 'Enter goes to the next field' },
  { value: 'down', label: 'Enter goes down' },
]
const enter = ref('next')

function key(event: KeyboardEvent) {
  const arrows: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  }
  const arrow = arrows[event.key]
  const sideways = event.key === 'ArrowLeft' || event.key === 'ArrowRight'
  const control = event.ctrlKey || event.metaKey
  const deeds: Record<string, () => void> = { z: grid.undo, y: grid.redo, d: grid.fillDown }
  const deed = control ? deeds[event.key.toLowerCase()] : undefined
  if (arrow && !(sideways && editing.value)) {
    put()
    grid.move(...arrow, event.shiftKey)
  } else if (event.key === 'Enter') {
    put()
    if (enter.value === 'down') grid.move(event.shiftKey ? -1 : 1, 0)
    else grid.next()
  } else if (event.key === 'Tab') {
    put()
    if (event.shiftKey && grid.at.value.column === 0 && grid.at.value.row === 0) return // out of the sheet
    if (event.shiftKey) grid.move(0, -1)
    else grid.next()
  } else if (event.key === 'F2') {
    editing.value = true
    editor.value?.setSelectionRange(typed.value.length, typed.value.length)
    event.preventDefault()
    return
  } else if (event.key === 'Escape') {
    // as it was
  } else if (deed) {
    if (event.key !== 'z' && event.key !== 'y') put()
    deed()
    kept.value = false
  } else if (event.key === 'Delete' && !editing.value) {
    grid.clear()
    kept.value = false
  } else {
    if (event.key.length === 1 && !control) editing.value = true
    return
  }
  event.preventDefault()
  focus()
}
function paste(event: ClipboardEvent) {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  const block = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'))
  if (block.length === 1 && block[0]?.length === 1 && editing.value) return
  event.preventDefault()
  const { top, left } = grid.range.value
  grid.write(block, { row: top, column: left })
  kept.value = false
  focus()
}
function copy(event: ClipboardEvent) {
  const block = grid.chosen()
  if (block.length === 1 && block[0]?.length === 1 && editing.value) return
  event.preventDefault()
  event.clipboardData?.setData('text/plain', block.map((r) => r.join('\t')).join('\n'))
}

function rename(column: number, name: string) {
  const before = fields.value[column] ?? ''
  const check = checks.of(before)
  fields.value = fields.value.map((f, i) => (i === column ? name : f))
  checks.set(before, undefined)
  if (check) checks.set(name, { ...check, name })
  kept.value = false
}
function takeCheck(check: Parameters<typeof checks.set>[1]) {
  if (checking.value !== undefined) checks.set(checking.value, check)
  kept.value = false
}
/** Goes to the first value that is wrong. */
function goWrong() {
  const first = checks.wrong.value[0]
  if (first) go(first.record - 1, Math.max(fields.value.indexOf(first.field), 0), false)
}

function addField() {
  fields.value = [...fields.value, `field ${String(fields.value.length + 1)}`]
  grid.addColumn()
  kept.value = false
}
function removeField(column: number) {
  fields.value = fields.value.filter((_, i) => i !== column)
  grid.removeColumn(column)
  grid.go(0, 0)
  kept.value = false
}
/** Records in which something stands. */
const written = computed(() => grid.rows.value.filter((r) => r.some((v) => v.trim())))

async function keep(replaces?: number) {
  put()
  const body = {
    name: name.value.trim() || 'Written by hand',
    fields: fields.value,
    records: written.value.map((r) => [...r]),
    replaces,
    checks: checks.kept(),
  }
  const { data } = await doing(() => api.POST('/record-sets/written', { body }))
  if (!data) return
  kept.value = true
  await router.push(`/records/${String(data.id)}`)
}
onBeforeRouteLeave(() => kept.value || window.confirm('What you wrote is not kept yet. Leave it?'))
</script>

<template>
  <div class="place page">
    <header class="place-head">
      <h1>Write records</h1>
      <NInput
        v-model:value="name"
        size="small"
        placeholder="Name of the set"
        class="name"
        :input-props="{ 'aria-label': 'Name of the set' }"
      />
      <span class="quiet" aria-live="polite">{{ plural(written.length, 'record') }}</span>
      <span class="room" />
      <NButton v-if="setId !== undefined" :loading="busy" @click="keep()">Keep as another set</NButton>
      <NButton type="primary" :loading="busy" :disabled="!written.length" @click="keep(setId)"
        >Keep them</NButton
      >
    </header>
    <ProblemNote :problem="problem ?? checks.problem.value" />
    <p v-if="tooMany" class="note">
      This set has too many records to be changed by hand: change the file it came from, and take that in.
    </p>
    <template v-else>
      <p v-if="readFrom" class="note">
        These records are read from {{ readFrom }}, and go on being so. What you change stays until they are
        read again, which asks first; or keep it as another set.
      </p>
      <div class="bar">
        <NSelect
          v-model:value="enter"
          size="small"
          :options="enters"
          aria-label="What Enter does"
          class="enter"
        />
        <TextButton :disabled="!grid.undoable.value" @click="(grid.undo(), focus())"> Undo </TextButton>
        <TextButton :disabled="!grid.redoable.value" @click="(grid.redo(), focus())"> Redo </TextButton>
        <TextButton @click="(grid.fillDown(), focus())">Fill down</TextButton>
        <TextButton @click="(grid.removeRows(), (kept = false), focus())"> Take records away </TextButton>
        <TextButton @click="addField">Add a field</TextButton>
        <span class="quiet"
          >Arrows move, Shift chooses, F2 changes, Ctrl+D fills down; paste rows from a spreadsheet.</span
        >
      </div>
      <p v-if="checks.count.value" class="wrongs" role="status">
        <TextButton class="warn" @click="goWrong">
          ▲ {{ plural(checks.count.value, 'value is', 'values are') }} not what
          {{ checks.count.value === 1 ? 'its field' : 'their fields' }} must be
        </TextButton>
        <span class="quiet"
          >record {{ checks.wrong.value[0]?.record }} · {{ checks.wrong.value[0]?.text }}</span
        >
      </p>
      <FieldCheck
        v-model:show="isChecking"
        :field="checking ?? ''"
        :check="checking === undefined ? undefined : checks.of(checking)"
        @take="takeCheck"
      />
      <div
        ref="sheet"
        class="sheet"
        role="grid"
        aria-label="Records"
        :aria-rowcount="grid.rows.value.length + 2"
      >
        <div class="row head" role="row" :style="{ '--columns': fields.length }">
          <span class="no" role="columnheader">No.</span>
          <span v-for="(field, i) in fields" :key="i" class="cell" role="columnheader">
            <input
              :value="field"
              :aria-label="`Name of field ${i + 1}`"
              @change="rename(i, ($event.target as HTMLInputElement).value)"
            />
            <TextButton
              class="check"
              :class="{ on: checks.of(field) }"
              :aria-label="`check what ${field} must be`"
              @click="checking = field"
            >
              check
            </TextButton>
            <TextButton
              v-if="fields.length > 1"
              :aria-label="`Take field ${field} away`"
              @click="removeField(i)"
            >
              ×
            </TextButton>
          </span>
        </div>
        <div :style="{ height: `${first * tall}px` }" />
        <div
          v-for="row in shown"
          :key="row"
          class="row"
          role="row"
          :aria-rowindex="row + 2"
          :style="{ '--columns': fields.length }"
        >
          <span class="no quiet" role="rowheader">{{ row < grid.rows.value.length ? row + 1 : '+' }}</span>
          <span
            v-for="(field, column) in fields"
            :key="column"
            class="cell mono"
            :class="{ chosen: isChosen(row, column), wrong: checks.wrongAt(row, field) }"
            :title="checks.wrongAt(row, field)"
            :aria-invalid="checks.wrongAt(row, field) ? true : undefined"
            role="gridcell"
            :aria-selected="isChosen(row, column)"
            @mousedown.prevent="go(row, column, $event.shiftKey)"
          >
            <input
              v-if="row === grid.at.value.row && column === grid.at.value.column"
              ref="inputs"
              v-model="typed"
              spellcheck="false"
              :aria-label="`${field}, record ${row + 1}`"
              @keydown="key"
              @paste="paste"
              @copy="copy"
              @blur="put"
              @mousedown.stop
              @dblclick="editing = true"
            />
            <template v-else>{{ grid.value(row, column) }}</template>
          </span>
        </div>
        <div
          :style="{ height: `${Math.max(grid.rows.value.length + 1 - first - shown.length, 0) * tall}px` }"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.wrongs {
  display: flex;
  gap: 14px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--line);
}
.wrongs .text-button {
  color: var(--warn);
}
.check {
  padding: 0 6px;
  font-size: 12.5px;
  font-weight: 400;
}
.check.on {
  font-weight: 600;
}
.cell.wrong {
  box-shadow: inset 0 -3px 0 var(--bad);
}
.page {
  display: flex;
  flex-direction: column;
  overflow: hidden;
}
.name {
  width: 260px;
}
.note {
  padding: 12px 20px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 16px;
  padding: 8px 20px;
  border-bottom: 1px solid var(--line);
}
.enter {
  width: 230px;
}
.sheet {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.row {
  display: grid;
  grid-template-columns: 62px repeat(var(--columns), minmax(130px, 1fr));
  height: 30px;
  border-bottom: 1px solid var(--line);
}
.head {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--sunken);
  font-weight: 600;
}
.no {
  padding: 5px 12px 0 0;
  text-align: right;
}
.cell {
  line-height: 29px; /* of the row, in its middle */
  overflow: hidden;
  text-overflow: ellipsis;
  padding: 0 8px;
  border-left: 1px solid var(--line);
  white-space: pre;
}
.head .cell {
  display: flex;
  align-items: center;
}
.chosen {
  background: var(--accent-soft);
}
.cell input {
  flex: none;
  width: calc(100% + 16px);
  height: 100%;
  margin: 0 -8px;
  padding: 0 8px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
}
.head .cell input {
  flex: 1;
  width: 100%;
}
.cell.mono input {
  background: var(--raised);
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
</style>
