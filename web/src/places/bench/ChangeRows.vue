<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Piece } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import TextButton from '@/shared/TextButton.vue'
import { useFormulas } from './useFormulas'

/** What is done to a value, one thing after the other. */
type Change = NonNullable<Piece['changes']>[number]
const changes = defineModel<Change[]>({ required: true })
const formulas = useFormulas()
const options = computed(() => formulas.value.changes.map((c) => ({ value: c.do, label: c.words })))
const kindOf = (change: Change) => formulas.value.changes.find((c) => c.do === change.do)

function set(i: number, to: Change) {
  changes.value = changes.value.map((c, j) => (j === i ? to : c))
}
function put(i: number, at: number, text: string) {
  const change = changes.value[i]
  if (change) set(i, { ...change, with: (change.with ?? []).map((w, j) => (j === at ? text : w)) })
}
function add(to: string) {
  const kind = formulas.value.changes.find((c) => c.do === to)
  if (kind)
    changes.value = [...changes.value, { do: to, with: kind.with.length ? [...kind.with] : undefined }]
}
/** A small table has as many pairs as it needs. */
const goesOn = (change: Change) => kindOf(change)?.takes.at(-1)?.endsWith('…')
function more(i: number) {
  const change = changes.value[i]
  if (change) set(i, { ...change, with: [...(change.with ?? []), '', ''] })
}
const nameOf = (change: Change, at: number) => {
  const takes = kindOf(change)?.takes ?? []
  return (takes[at] ?? takes[at % 2] ?? '').replace(' …', '')
}
</script>

<template>
  <ol class="changes">
    <li v-for="(change, i) in changes" :key="i">
      <span class="what">{{ kindOf(change)?.words ?? change.do }}</span>
      <label v-for="(value, at) in change.with ?? []" :key="at">
        <span class="quiet">{{ nameOf(change, at) }}</span>
        <NInput
          size="small"
          :value="value"
          :maxlength="designBounds.Change.with.maxlength"
          :input-props="{ 'aria-label': `Change ${i + 1}: ${nameOf(change, at)}` }"
          class="with"
          @update:value="put(i, at, $event)"
        />
      </label>
      <TextButton v-if="goesOn(change)" @click="more(i)">more</TextButton>
      <span class="room" />
      <TextButton
        :aria-label="`Take change ${i + 1} away`"
        @click="changes = changes.filter((_, j) => j !== i)"
      >
        ×
      </TextButton>
    </li>
    <li>
      <NSelect
        size="small"
        :value="null"
        :options
        filterable
        placeholder="Change it: capitals, filled up, rounded, another date form …"
        :input-props="{ 'aria-label': 'Add a change' }"
        @update:value="add"
      />
    </li>
  </ol>
</template>

<style scoped>
.changes {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}
.what {
  min-width: 170px;
  font-weight: 500;
}
label {
  display: flex;
  align-items: center;
  gap: 6px;
}
.with {
  width: 110px;
}
.room {
  flex: 1;
}
</style>
