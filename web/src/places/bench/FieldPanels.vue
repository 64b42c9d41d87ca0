<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import LanguagesPanel from './LanguagesPanel.vue'
import NumbersPanel from './NumbersPanel.vue'
import QuestionsPanel from './QuestionsPanel.vue'

/** What a label says besides its records: numbers of series, what is asked for each, and in which languages. */
const props = defineProps<{
  design: Design
  sets: readonly Schemas['RecordSet'][]
  recordSetId: number | undefined
  fieldNames: readonly string[]
}>()
const emit = defineEmits<{ change: [to: Partial<Design>] }>()
const shown = ref<'numbers' | 'questions' | 'languages'>()
defineExpose({ open: (panel: NonNullable<typeof shown.value>) => (shown.value = panel) })

const showing = (panel: typeof shown.value) =>
  computed({ get: () => shown.value === panel, set: (to) => (shown.value = to ? panel : undefined) })
const counting = showing('numbers')
const asking = showing('questions')
const speaking = showing('languages')
const recordFields = computed(() => (props.recordSetId === undefined ? [] : props.fieldNames))
const answers = computed(() => props.design.questions?.map((q) => q.name) ?? [])
</script>

<template>
  <LanguagesPanel
    v-model:show="speaking"
    :design
    :fields="recordFields"
    :answers
    @take="emit('change', { languages: $event })"
  />
  <NumbersPanel
    v-model:show="counting"
    :design
    :fields="recordFields"
    @take="emit('change', { series: $event.length ? ($event as Design['series']) : undefined })"
  />
  <QuestionsPanel
    v-model:show="asking"
    :questions="design.questions ?? []"
    :sets
    :fields="fieldNames"
    @take="emit('change', { questions: $event.length ? $event : undefined })"
  />
</template>
