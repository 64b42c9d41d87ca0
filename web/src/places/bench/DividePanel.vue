<script setup lang="ts">
import { NButton, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import LengthInput from '@/shared/LengthInput.vue'
import TextButton from '@/shared/TextButton.vue'
import type { Division } from './arrange'

/** Divides a box into equal ones. */
const props = defineProps<{ fields: readonly string[] }>()
const emit = defineEmits<{ divide: [how: Division] }>()

const side = { min: 1, max: 100 } // of a row, or a column; all boxes together are bounded below
const open = ref(false)
const rows = ref(2)
const columns = ref(3)
const gap = ref(0)
const content = ref<Division['content']>('nothing')
const field = ref<string>()
const contents = computed(() => [
  { value: 'nothing', label: 'empty boxes' },
  { value: 'numbers', label: 'numbered from 1' },
  { value: 'text', label: 'a text to be typed' },
  { value: 'records', label: 'a field of consecutive records', disabled: !props.fields.length },
])
const chosenField = computed(() => field.value ?? props.fields[0])
const wrong = computed(() => rows.value * columns.value > 200)
function divide() {
  emit('divide', {
    rows: rows.value,
    columns: columns.value,
    gap: gap.value,
    content: content.value,
    field: chosenField.value,
  })
  open.value = false
}
</script>

<template>
  <TextButton v-if="!open" @click="open = true">Divide into equal boxes…</TextButton>
  <form v-else class="divide" aria-label="Equal boxes" @submit.prevent="divide">
    <div class="two">
      <NInputNumber
        v-model:value="rows"
        size="small"
        v-bind="side"
        :show-button="false"
        :input-props="{ 'aria-label': 'Rows' }"
        ><template #suffix>rows</template></NInputNumber
      >
      <NInputNumber
        v-model:value="columns"
        size="small"
        v-bind="side"
        :show-button="false"
        :input-props="{ 'aria-label': 'Columns of boxes' }"
        ><template #suffix>columns</template></NInputNumber
      >
    </div>
    <div class="two">
      <span>Gap</span>
      <LengthInput v-model="gap" label="Gap between the boxes" :least="0" />
    </div>
    <NSelect v-model:value="content" size="small" :options="contents" aria-label="What stands in each box" />
    <NSelect
      v-if="content === 'records'"
      size="small"
      :value="chosenField"
      :options="fields.map((value) => ({ value, label: value }))"
      aria-label="Field of the records"
      @update:value="field = $event"
    />
    <p v-if="wrong" class="bad">More than 200 boxes are too many for a label. Take fewer rows or columns.</p>
    <p class="two">
      <NButton size="small" @click="open = false">Not now</NButton>
      <NButton size="small" type="primary" attr-type="submit" :disabled="wrong">Divide</NButton>
    </p>
  </form>
</template>

<style scoped>
.divide {
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin-top: 8px;
}
.two {
  display: flex;
  align-items: center;
  gap: 8px;
}
.two > * {
  flex: 1;
}
</style>
