<script setup lang="ts">
import { NButton } from 'naive-ui'
import type { Schemas } from '@/api/client'
import PanelDialog from '@/shared/PanelDialog.vue'
import SymbolGrid from './SymbolGrid.vue'

/** A symbol of the library for the label. */
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [symbol: Schemas['Symbol']] }>()
function pick(symbol: Schemas['Symbol']) {
  show.value = false
  emit('take', symbol)
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Symbol" :width="860">
    <SymbolGrid :chosen="[]" @pick="pick" />
    <template #foot><NButton @click="show = false">Not now</NButton></template>
  </PanelDialog>
</template>
