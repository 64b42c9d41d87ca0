<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { fieldOf, type Piece, textOf } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import { meant, visible } from '@/shared/visible'

/**
 * What one place says: a field of the records, or a text that is typed. What is made of several pieces
 * is shown joined, with its fields in ‹ ›, until it is replaced.
 */
const props = defineProps<{ pieces: readonly Piece[]; fields: readonly string[]; label: string }>()
const emit = defineEmits<{ set: [pieces: Piece[]] }>()

const typing = ref(false)
const input = ref<InstanceType<typeof NInput>>()
const [none, text, several] = ['none', 'text', 'several']
const chosen = computed(() => {
  const [only, more] = props.pieces
  if (!only) return typing.value ? text : none
  if (more) return several
  const field = fieldOf(only)
  if (field !== undefined) return `field ${field}`
  return textOf(only) === undefined ? several : text
})
const words = computed(() => visible(props.pieces.map((p) => textOf(p) ?? `‹${fieldOf(p) ?? '…'}›`).join('')))
const options = computed(() => [
  { value: none, label: 'nothing' },
  { value: text, label: 'text' },
  ...(chosen.value === several ? [{ value: several, label: words.value }] : []),
  ...props.fields.map((name) => ({ value: `field ${name}`, label: `Field ${name}` })),
])
function choose(value: string) {
  if (value === several) return
  typing.value = value === text
  if (value === text) {
    emit('set', [])
    requestAnimationFrame(() => input.value?.focus()) // when the menu has given the focus back
  } else if (value === none) emit('set', [])
  else emit('set', [{ field: value.slice('field '.length) }])
}
</script>

<template>
  <span class="both">
    <NSelect
      size="small"
      :value="chosen"
      :options
      :consistent-menu-width="false"
      :aria-label="label"
      class="which"
      @update:value="choose"
    />
    <NInput
      v-if="chosen === text"
      ref="input"
      size="small"
      :value="words"
      :maxlength="designBounds.Piece.text.maxlength"
      :input-props="{ 'aria-label': `${label}: text`, spellcheck: false }"
      placeholder="type it"
      @update:value="emit('set', $event ? [{ text: meant($event) }] : [])"
    />
  </span>
</template>

<style scoped>
.both {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  justify-content: flex-end;
  width: 150px;
}
.which {
  width: 150px;
}
</style>
