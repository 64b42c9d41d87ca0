<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import { languages } from '../safety/symbols'

/** A substance of the plant's own, or what it says of one otherwise than the book. */
const props = defineProps<{ of: Schemas['Substance'] | undefined }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ kept: [substance: Schemas['Substance']] }>()
const { problem, doing } = useDoing()

const empty = (): Schemas['Substance'] => ({ cas: '', names: {}, synonyms: [], classification: '' })
const said = ref(empty())
const synonyms = ref('')
const supplemental = ref('')
watch(show, (now) => {
  if (!now) return
  problem.value = undefined
  said.value = props.of ? { ...props.of, names: { ...props.of.names } } : empty()
  synonyms.value = props.of?.synonyms.join('; ') ?? ''
  supplemental.value = props.of?.supplemental?.join(' ') ?? ''
})
async function keep() {
  const body = {
    ...said.value,
    synonyms: synonyms.value
      .split(';')
      .map((s) => s.trim())
      .filter(Boolean),
    supplemental: supplemental.value.split(/[\s,;]+/).filter(Boolean),
  }
  const { data } = await doing(() => api.PUT('/hazards/substances', { body }))
  if (!data) return
  show.value = false
  emit('kept', data)
}
const rest = [
  ['state', 'State, where it decides'],
  ['ec', 'EC number'],
  ['formula', 'Formula'],
  ['un', 'UN number'],
  ['transport', 'Transport class'],
  ['packingGroup', 'Packing group'],
] as const
</script>

<template>
  <PanelDialog v-model:show="show" title="Substance" :width="640">
    <p class="quiet small">
      What you say goes before the book. Take it from section 2 of the safety data sheet.
    </p>
    <div class="grid">
      <label
        >CAS number
        <NInput
          v-model:value="said.cas"
          size="small"
          :disabled="of !== undefined"
          placeholder="64-17-5"
          :input-props="{ 'aria-label': 'CAS number' }"
      /></label>
      <label v-for="[field, name] in rest" :key="field"
        >{{ name }}
        <NInput
          :value="said[field] ?? ''"
          size="small"
          placeholder=""
          :input-props="{ 'aria-label': name }"
          @update:value="said[field] = $event"
      /></label>
      <label v-for="l in languages" :key="l.value"
        >Name in {{ l.label }}
        <NInput
          :value="said.names[l.value] ?? ''"
          size="small"
          placeholder=""
          :input-props="{ 'aria-label': `Name in ${l.label}` }"
          @update:value="said.names[l.value] = $event"
      /></label>
    </div>
    <label
      >Also called
      <NInput
        v-model:value="synonyms"
        size="small"
        placeholder="parted by ;"
        :input-props="{ 'aria-label': 'Also called' }"
    /></label>
    <label
      >Classification
      <NInput
        v-model:value="said.classification"
        size="small"
        type="textarea"
        :autosize="{ minRows: 2 }"
        placeholder="Flam. Liq. 2; Eye Irrit. 2"
        :input-props="{ 'aria-label': 'Classification' }"
    /></label>
    <div class="grid">
      <label
        >Said besides
        <NInput
          v-model:value="supplemental"
          size="small"
          placeholder="EUH066"
          :input-props="{ 'aria-label': 'Said besides' }"
      /></label>
      <label
        >Limits of its own in mixtures, %
        <NInput
          :value="said.limits ?? ''"
          size="small"
          placeholder="Skin Corr. 1B: 2-5; M: 10"
          :input-props="{ 'aria-label': 'Limits of its own in mixtures' }"
          @update:value="said.limits = $event"
      /></label>
    </div>
    <ProblemNote v-if="problem" :problem />
    <template #foot>
      <NButton type="primary" :disabled="!said.cas || !said.names.en" @click="keep">Keep it</NButton>
      <NButton @click="show = false">Not now</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped src="../safety/panels.css"></style>
<style scoped>
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
  margin: 8px 0;
}
</style>
