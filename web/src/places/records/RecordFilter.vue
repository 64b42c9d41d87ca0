<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import type { Schemas } from '@/api/client'
import TextButton from '@/shared/TextButton.vue'
import KeptChoices from './KeptChoices.vue'

/** Which records are looked at: by words, by their fields, the first of each kind. */
defineProps<{ fields: readonly string[]; setName?: string }>()
const choosing = defineModel<Schemas['Choosing']>({ required: true })

type Test = Schemas['FieldTest']
const tests = (
  ['contains', 'is', 'is not', 'begins with', 'between', 'one of', 'is empty', 'is filled'] as const
).map((value) => ({ value, label: value }))
const takes = (test: Test) =>
  test.is === 'between' ? 2 : test.is === 'is empty' || test.is === 'is filled' ? 0 : 1

function setTests(fields: Test[]) {
  choosing.value = { ...choosing.value, fields: fields.length ? fields : undefined }
}
const all = () => choosing.value.fields ?? []
function set(i: number, to: Partial<Test>) {
  setTests(all().map((t, j) => (j === i ? { ...t, ...to } : t)))
}
function put(i: number, at: number, text: string) {
  const test = all()[i]
  if (!test) return
  if (test.is === 'one of') {
    set(i, { values: text.split(',').map((v) => v.trim()) })
    return
  }
  const values = [...(test.values ?? [])]
  values[at] = text
  set(i, { values: Array.from(values, (v) => v ?? '') })
}
const shown = (test: Test, at: number) =>
  test.is === 'one of' ? (test.values ?? []).join(', ') : (test.values?.[at] ?? '')
</script>

<template>
  <div class="filter">
    <NInput
      size="small"
      clearable
      :value="choosing.words ?? ''"
      placeholder="words that stand in them"
      :input-props="{ 'aria-label': 'Words to find' }"
      class="words"
      @update:value="choosing = { ...choosing, words: $event || undefined }"
    />
    <span v-for="(test, i) in choosing.fields ?? []" :key="i" class="test">
      <NSelect
        size="small"
        :value="test.field"
        :options="fields.map((value) => ({ value, label: value }))"
        :aria-label="`Field ${i + 1}`"
        class="field"
        @update:value="set(i, { field: $event })"
      />
      <NSelect
        size="small"
        :value="test.is"
        :options="tests"
        :aria-label="`How field ${i + 1} is looked at`"
        class="how"
        @update:value="set(i, { is: $event, values: undefined })"
      />
      <NInput
        v-for="at in takes(test)"
        :key="at"
        size="small"
        :value="shown(test, at - 1)"
        :placeholder="test.is === 'one of' ? 'A, B, C' : at === 2 ? 'and' : ''"
        :input-props="{ 'aria-label': `Value ${at} of field ${i + 1}` }"
        class="value"
        @update:value="put(i, at - 1, $event)"
      />
      <TextButton :aria-label="`Take test ${i + 1} away`" @click="setTests(all().filter((_, j) => j !== i))">
        ×
      </TextButton>
    </span>
    <TextButton @click="setTests([...all(), { field: fields[0] ?? '', is: 'contains', values: [''] }])">
      + a field
    </TextButton>
    <NSelect
      size="small"
      clearable
      :value="choosing.firstOf ?? null"
      :options="fields.map((value) => ({ value, label: `first of each ${value}` }))"
      placeholder="all of each kind"
      aria-label="Only the first of each"
      class="first"
      @update:value="choosing = { ...choosing, firstOf: $event ?? undefined }"
    />
    <KeptChoices v-if="setName" v-model="choosing" :set="setName" />
  </div>
</template>

<style scoped>
.filter,
.test {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
}
.test {
  gap: 4px;
}
.words {
  width: 210px;
}
.field,
.how {
  width: 124px;
}
.value {
  width: 104px;
}
.first {
  width: 190px;
}
</style>
