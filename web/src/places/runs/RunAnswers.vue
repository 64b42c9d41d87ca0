<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, nextTick, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { asKept, asTyped, count, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'

/** What is asked for each record or label: one line each, Enter (which scanners send too) goes on to the next. */
type Question = NonNullable<Design['questions']>[number]
type Row = Schemas['RunAnswerRow']
const props = defineProps<{ run: Schemas['Run']; started: boolean }>()
const emit = defineEmits<{ answered: [] }>()

const each = 25
const from = ref(1)
/** The first labels of the pages before this one. */
const before = ref<number[]>([])
const open = ref(false)
const id = computed(() => props.run.id)
const made = computed(() => `${String(props.run.labels)} ${props.run.choice.records}`)
const { data, problem, refresh } = useAsked((signal) =>
  open.value && made.value
    ? api.GET('/runs/{id}/answers', {
        params: { path: { id: id.value }, query: { from: from.value, most: each } },
        signal,
      })
    : undefined,
)
const questions = computed(() => (data.value?.questions ?? []) as unknown as Question[])
const missing = computed(() => props.run.answersWanted - props.run.answersGiven)
watch(missing, (now) => (open.value ||= now > 0 && !props.started), { immediate: true })

const typed = ref<Record<string, string>>({})
const place = (row: Row, q: Question) => `${String(row.label)} ${q.name}`
/** A question for each record is answered on the line of its first label. */
const asks = (row: Row, q: Question) => q.each === 'label' || row.copy === 1
const shown = (row: Row, q: Question) =>
  typed.value[place(row, q)] ?? asTyped(q.kind, row.answers[q.name] ?? '')
const { problem: refused, busy, doing } = useDoing()

const form = ref<HTMLFormElement>()
async function next(event: KeyboardEvent) {
  const inputs = [...(form.value?.querySelectorAll('input') ?? [])]
  const following = inputs[inputs.indexOf(event.target as HTMLInputElement) + 1]
  event.preventDefault()
  if (following) {
    following.focus()
    following.select()
    return
  }
  if ((await keep()) && more.value) {
    turn(1)
    await nextTick()
  }
}
/** Keeps what was typed on this page. */
async function keep(): Promise<boolean> {
  const answers = (data.value?.rows ?? []).flatMap((row) =>
    questions.value
      .filter((q) => asks(row, q) && place(row, q) in typed.value)
      .map((q) => ({
        record: row.record,
        copy: q.each === 'label' ? row.copy : 0,
        name: q.name,
        answer: asKept(q.kind, typed.value[place(row, q)] ?? ''),
      })),
  )
  if (!answers.length) return true
  const params = { path: { id: props.run.id } }
  const { error } = await doing(() => api.PUT('/runs/{id}/answers', { params, body: { answers } }))
  if (error) return false
  typed.value = {}
  await refresh()
  emit('answered')
  return true
}
const last = computed(() => data.value?.rows.at(-1)?.label ?? 0)
const more = computed(() => data.value?.rows.length === each && last.value < props.run.labels)
function turn(by: 1 | -1) {
  if (by < 0) from.value = before.value.pop() ?? 1
  else {
    before.value.push(from.value)
    from.value = last.value + 1
  }
}
async function done() {
  if (await keep()) open.value = false
}
</script>

<template>
  <section class="line" aria-labelledby="q-answers">
    <h2 id="q-answers">Answers for each</h2>
    <form v-if="open && !started" ref="form" class="answers" @submit.prevent="done">
      <ProblemNote :problem="refused ?? problem" />
      <div class="scroll" tabindex="0" role="region" aria-label="Answers for each record or label">
        <table v-if="data" class="plain">
          <thead>
            <tr>
              <th class="number">Label</th>
              <th v-for="field in run.recordSetFields.slice(0, 3)" :key="field">{{ field }}</th>
              <th v-for="q in questions" :key="q.name">{{ q.words || q.name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in data.rows" :key="row.label">
              <td class="number quiet">{{ row.label }}</td>
              <td v-for="(value, i) in row.values.slice(0, 3)" :key="i">{{ value }}</td>
              <td v-for="q in questions" :key="q.name">
                <input
                  v-if="asks(row, q)"
                  class="cell"
                  :value="shown(row, q)"
                  :list="q.choices ? `choices ${q.name}` : undefined"
                  :inputmode="q.kind === 'number' ? 'decimal' : 'text'"
                  :placeholder="q.default ?? (q.kind === 'date' ? '2026-11-26' : '')"
                  :aria-label="`${q.words || q.name}, label ${row.label}`"
                  @input="typed[place(row, q)] = ($event.target as HTMLInputElement).value"
                  @keydown.enter="next"
                />
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <datalist v-for="q in questions.filter((one) => one.choices)" :id="`choices ${q.name}`" :key="q.name">
        <option v-for="choice in q.choices" :key="choice" :value="choice" />
      </datalist>
      <p class="foot">
        <template v-if="before.length || more">
          <TextButton :disabled="!before.length" @click="keep().then((kept) => kept && turn(-1))">
            Earlier labels
          </TextButton>
          <TextButton :disabled="!more" @click="keep().then((kept) => kept && turn(1))">
            Later labels
          </TextButton>
        </template>
        <span class="quiet" aria-live="polite">{{ plural(missing, 'answer') }} missing</span>
        <span class="room" />
        <NButton type="primary" attr-type="submit" :loading="busy">Keep these answers</NButton>
      </p>
    </form>
    <template v-else>
      <p>
        <b>{{ count(run.answersGiven) }} of {{ count(run.answersWanted) }}</b> given<span
          v-if="missing"
          class="warn"
        >
          · ▲ {{ plural(missing, 'answer') }} missing</span
        >
      </p>
      <TextButton v-if="!started" @click="open = true">Change</TextButton>
    </template>
  </section>
</template>

<style scoped>
.answers {
  grid-column: 1 / -1;
}
.scroll {
  max-height: 320px;
  overflow: auto;
  border-block: 1px solid var(--line);
}
.scroll th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--paper);
}
.scroll td {
  padding-block: 3px;
  white-space: nowrap;
}
.cell {
  width: 100%;
  min-width: 110px;
  min-height: 28px;
  padding: 2px 8px;
  border: 1px solid var(--control);
  border-radius: 4px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
}
.foot {
  display: flex;
  align-items: center;
  gap: 14px;
  padding-top: 8px;
}
.room {
  flex: 1;
}
</style>
