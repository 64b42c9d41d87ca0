<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Piece } from '@/api/documents'
import PanelDialog from '@/shared/PanelDialog.vue'
import TextButton from '@/shared/TextButton.vue'
import FieldOrText from './FieldOrText.vue'
import { piecesOf, type Row, rowsOf } from './gs1'

/** Builds GS1 data: a row an application identifier, each with a field or a text as its value. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ pieces: readonly Piece[]; fields: readonly string[] }>()
const emit = defineEmits<{ take: [pieces: Piece[]] }>()

const identifiers = shallowRef<Schemas['Identifier'][]>([])
const rows = ref<Row[]>([])
watch(
  show,
  async (open) => {
    if (!open) return
    if (!identifiers.value.length) identifiers.value = (await api.GET('/gs1/identifiers')).data ?? []
    rows.value = rowsOf(props.pieces, new Set(identifiers.value.map((i) => i.ai)))
    if (!rows.value.length) rows.value.push({ ai: '01', value: [...props.pieces] })
  },
  { immediate: true },
)
const options = computed(() => identifiers.value.map((i) => ({ value: i.ai, label: `(${i.ai}) ${i.title}` })))
const formatOf = (ai: string) => identifiers.value.find((i) => i.ai === ai)?.format ?? ''
function add() {
  const unused = ['01', '10', '17', '21'].find((ai) => !rows.value.some((row) => row.ai === ai))
  rows.value.push({ ai: unused ?? '91', value: [] })
}
function take() {
  emit('take', piecesOf(rows.value))
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" title="GS1 data" :width="640">
    <p class="quiet">
      Each line is an application identifier with its value: a field of the records, or a text you type.
    </p>
    <div v-for="(row, i) in rows" :key="i" class="row">
      <NSelect
        size="small"
        :value="row.ai"
        :options
        filterable
        class="ai"
        :input-props="{ 'aria-label': `Identifier ${i + 1}` }"
        @update:value="row.ai = $event"
      />
      <FieldOrText
        :pieces="row.value"
        :fields
        :label="`Value ${i + 1}`"
        class="value"
        @set="row.value = $event"
      />
      <TextButton :aria-label="`Take (${row.ai}) away`" @click="rows.splice(i, 1)"> take away </TextButton>
      <p class="quiet format">{{ formatOf(row.ai) }}</p>
    </div>
    <template #foot>
      <NButton size="small" @click="add">Another identifier</NButton>
      <span class="gap" />
      <NButton size="small" @click="show = false">Cancel</NButton>
      <NButton size="small" type="primary" :disabled="!rows.length" @click="take">Take it</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 250px 1fr auto;
  gap: 2px 10px;
  align-items: center;
  margin-top: 10px;
}
.value {
  flex-wrap: nowrap;
  justify-content: flex-start;
  width: 100%;
}
.format {
  grid-column: 2;
  font-size: 13px;
}
.gap {
  flex: 1;
}
</style>
