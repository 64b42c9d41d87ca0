<script setup lang="ts">
import { NButton, NCheckbox, NInput, NSelect } from 'naive-ui'
import { ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import PanelDialog from '@/shared/PanelDialog.vue'
import TextButton from '@/shared/TextButton.vue'

/** The questions that a design puts to whoever prints it. */
type Question = NonNullable<Design['questions']>[number]
const props = defineProps<{
  questions: readonly Question[]
  fields: readonly string[]
  /** Record sets, the newest first: what their fields say can be chosen. */
  sets: readonly Schemas['RecordSet'][]
}>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [questions: Question[]] }>()

const list = ref<Question[]>([])
const problem = ref('')
watch(show, (now) => now && (list.value = props.questions.map((q) => ({ ...q }))), { immediate: true })

const kinds = (['text', 'number', 'date', 'choice', 'yes or no'] as const).map((value) => ({
  value,
  label: value,
}))
const each = [
  { value: '', label: 'once, for the run' },
  { value: 'record', label: 'for each record' },
  { value: 'label', label: 'for each label' },
]
const measured = (kind: Question['kind']) =>
  kind === 'text' ? 'letters' : kind === 'date' ? 'day' : 'number'
const fieldsOf = (set: string) => props.sets.find((s) => s.name === set)?.fields ?? []
const add = () => list.value.push({ name: '', kind: 'text', must: true })

function take() {
  const names = list.value.map((q) => q.name.trim())
  const twice = names.find((n, i) => n && (names.indexOf(n) !== i || props.fields.includes(n)))
  problem.value = names.includes('')
    ? 'Each question needs a name.'
    : twice
      ? `“${twice}” is the name of another question, or of a field of the records.`
      : ''
  if (problem.value) return
  emit(
    'take',
    list.value.map((q) => ({ ...q, name: q.name.trim() })),
  )
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Asked before a run" :width="820">
    <p class="quiet">
      What no system knows is asked before printing, once or for each label: a batch, a weight, who packed it.
      The answer is a field like those of the records.
    </p>
    <fieldset v-for="(q, i) in list" :key="i">
      <legend>Question {{ i + 1 }}</legend>
      <label
        >Name
        <NInput
          v-model:value="q.name"
          :maxlength="designBounds.Question.name.maxlength"
          size="small"
          placeholder="batch"
      /></label>
      <label class="wide"
        >Asked as
        <NInput
          v-model:value="q.words"
          :maxlength="designBounds.Question.words.maxlength"
          size="small"
          :placeholder="`Which ${q.name || 'batch'}?`"
      /></label>
      <label
        >An answer is a
        <NSelect
          v-model:value="q.kind"
          size="small"
          :options="kinds"
          :aria-label="`Kind of question ${i + 1}`"
      /></label>
      <label class="wide"
        >Asked
        <NSelect
          size="small"
          :value="q.each ?? ''"
          :options="each"
          :aria-label="`How often question ${i + 1} is asked`"
          @update:value="q.each = $event || undefined"
      /></label>
      <label v-if="q.kind === 'choice'" class="wide"
        >One of, with commas between
        <NInput
          size="small"
          :value="(q.choices ?? []).join(', ')"
          placeholder="North, South"
          @update:value="
            q.choices = $event
              .split(',')
              .map((c) => c.trim())
              .filter(Boolean)
          "
      /></label>
      <template v-if="q.kind === 'choice'">
        <label
          >and what records say
          <NSelect
            size="small"
            :value="q.from?.set ?? null"
            :options="[...new Set(sets.map((s) => s.name))].map((value) => ({ value, label: value }))"
            clearable
            filterable
            placeholder="no record set"
            :aria-label="`Record set with choices of question ${i + 1}`"
            @update:value="q.from = $event ? { set: $event, field: fieldsOf($event)[0] ?? '' } : undefined"
        /></label>
        <label v-if="q.from"
          >in the field
          <NSelect
            v-model:value="q.from.field"
            size="small"
            :options="fieldsOf(q.from.set).map((value) => ({ value, label: value }))"
            :aria-label="`Field with choices of question ${i + 1}`"
        /></label>
      </template>
      <template v-if="q.kind !== 'choice' && q.kind !== 'yes or no'">
        <label
          >Least {{ measured(q.kind) }}
          <NInput
            v-model:value="q.least"
            :maxlength="designBounds.Question.least.maxlength"
            size="small"
            placeholder=""
        /></label>
        <label
          >Most {{ measured(q.kind) }}
          <NInput
            v-model:value="q.most"
            :maxlength="designBounds.Question.most.maxlength"
            size="small"
            placeholder=""
        /></label>
      </template>
      <label v-if="q.kind === 'text'"
        >Pattern
        <NInput
          v-model:value="q.pattern"
          :maxlength="designBounds.Question.pattern.maxlength"
          size="small"
          placeholder="\d\d[A-Z]\d+"
      /></label>
      <label
        >Answer at first
        <NInput
          v-model:value="q.default"
          :maxlength="designBounds.Question.default.maxlength"
          size="small"
          placeholder=""
      /></label>
      <NCheckbox v-model:checked="q.must">must be answered</NCheckbox>
      <TextButton @click="list.splice(i, 1)">Take it away</TextButton>
    </fieldset>
    <p><TextButton @click="add">Add a question</TextButton></p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <template #foot>
      <NButton type="primary" @click="take">Take them so</NButton>
      <NButton @click="show = false">Not now</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
fieldset {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  align-items: end;
  gap: 8px 12px;
  margin: 10px 0;
  padding: 8px 12px 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.wide {
  grid-column: span 2;
}
.bad {
  color: var(--bad);
}
</style>
