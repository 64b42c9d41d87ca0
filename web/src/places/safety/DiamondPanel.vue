<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui'
import { ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { asDocument, type Design } from '@/api/documents'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { type Laid, useLaying } from './useLaying'

/** A diamond of four fields: how bad a thing is for health and in a fire, from 0 to 4. */
const props = defineProps<{ design: Design }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [laid: Schemas['LaidOut'], how: Laid] }>()

const begin = { health: 0, fire: 0, instability: 0, special: '', name: '' }
const spec = ref({ ...begin })
watch(show, (now) => {
  if (!now) return
  const kept = props.design.laid?.what === 'diamond' ? (props.design.laid.with as Partial<typeof begin>) : {}
  spec.value = { ...begin, ...kept }
})
const says = ['none', 'slight', 'moderate', 'serious', 'severe']
const ratings = says.map((word, value) => ({ value, label: `${String(value)} · ${word}` }))
const specials = [
  { value: '', label: 'none' },
  { value: 'OX', label: 'OX · oxidiser' },
  { value: 'W', label: 'W · reacts with water' },
  { value: 'SA', label: 'SA · asphyxiant gas' },
]
const fields = [
  ['health', 'Health (blue)'],
  ['fire', 'Fire (red)'],
  ['instability', 'Instability (yellow)'],
] as const
const { answer: laid, problem, lay } = useLaying()
watch([show, spec], () => (laid.value = undefined), { deep: true })
async function take() {
  const body = { document: asDocument({ ...props.design, elements: [] }), ...spec.value }
  const made = await lay(api.POST('/safety/diamond', { body }))
  if (!made) return
  if (made.elements.length) emit('take', made, { what: 'diamond', with: { ...spec.value } })
  if (made.fits) show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Diamond of ratings" :width="420">
    <div class="form">
      <p class="quiet small">NFPA 704: for those who come to a fire, from 0 to 4.</p>
      <label v-for="[field, name] in fields" :key="field"
        >{{ name }}
        <NSelect v-model:value="spec[field]" size="small" :options="ratings" :aria-label="name" />
      </label>
      <label
        >Special hazard (white)
        <NSelect
          v-model:value="spec.special"
          size="small"
          :options="specials"
          aria-label="Special hazard (white)"
        />
      </label>
      <label
        >Name below
        <NInput
          v-model:value="spec.name"
          size="small"
          placeholder="what it is"
          :input-props="{ 'aria-label': 'Name below' }"
        />
      </label>
    </div>
    <ProblemNote v-if="problem" :problem />
    <div v-if="laid?.notes.length" class="warn" role="status">
      <p v-for="note in laid.notes" :key="note">▲ {{ note }}</p>
      <p v-if="laid.larger">The smallest stock here that takes all of it: {{ laid.larger }}.</p>
    </div>
    <template #foot>
      <NButton type="primary" @click="take">Put it on the label</NButton>
      <NButton @click="show = false">Close</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped src="./panels.css"></style>
