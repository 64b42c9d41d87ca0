<script setup lang="ts">
import { NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Element } from '@/api/documents'
import SheetRow from './SheetRow.vue'

/** On which labels an element stands: all, none, or those of some records. */
const props = defineProps<{ element: Element; fields: readonly string[] }>()
const emit = defineEmits<{ set: [to: Partial<Element>] }>()

type Condition = NonNullable<Element['when']>
const when = computed(() => props.element.when)
const where = computed(() => (props.element.hidden ? 'none' : when.value ? 'some' : 'all'))
const wheres = computed(() => [
  { value: 'all', label: 'every label' },
  { value: 'some', label: 'some labels, by a field', disabled: !props.fields.length && !when.value },
  { value: 'none', label: 'no label: not printed' },
])
const fieldOptions = computed(() =>
  [...new Set([...props.fields, ...(when.value ? [when.value.field] : [])])].map((value) => ({
    value,
    label: value,
  })),
)
const tests: { value: Condition['is']; label: string }[] = [
  { value: 'one of', label: 'is' },
  { value: 'none of', label: 'is not' },
  { value: 'filled', label: 'is filled' },
  { value: 'empty', label: 'is empty' },
]
const asksValues = computed(() => when.value?.is === 'one of' || when.value?.is === 'none of')

function choose(to: string) {
  const field = props.fields[0]
  emit('set', {
    hidden: to === 'none' || undefined,
    when: to === 'some' ? (when.value ?? { field: field ?? '', is: 'filled' }) : undefined,
  })
}
function set(to: Partial<Condition>) {
  if (when.value) emit('set', { when: { ...when.value, ...to } })
}
</script>

<template>
  <SheetRow name="Stands on">
    <NSelect
      size="small"
      :value="where"
      :options="wheres"
      :consistent-menu-width="false"
      aria-label="On which labels it stands"
      class="where"
      @update:value="choose"
    />
  </SheetRow>
  <template v-if="when">
    <div class="when">
      <NSelect
        size="small"
        :value="when.field"
        :options="fieldOptions"
        :consistent-menu-width="false"
        aria-label="Field of the condition"
        @update:value="set({ field: $event })"
      />
      <NSelect
        size="small"
        :value="when.is"
        :options="tests"
        :consistent-menu-width="false"
        aria-label="What the field must be"
        @update:value="set({ is: $event, values: undefined })"
      />
    </div>
    <NSelect
      v-if="asksValues"
      size="small"
      multiple
      filterable
      tag
      :show-arrow="false"
      :show="false"
      :value="when.values ?? []"
      :options="[]"
      placeholder="Type a value, then Enter"
      aria-label="Values of the field"
      :input-props="{ 'aria-label': 'Type a value of the field' }"
      @update:value="set({ values: $event })"
    />
  </template>
</template>

<style scoped>
.where {
  width: 150px;
}
.when {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  padding: 6px 0;
}
</style>
