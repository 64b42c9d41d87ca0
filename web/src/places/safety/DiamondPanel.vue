<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { api, type Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import LayingDialog from './LayingDialog.vue'
import { type Laid, useLaying } from './useLaying'

/** A diamond of four fields: how bad a thing is for health and in a fire, from 0 to 4. */
const props = defineProps<{ design: Design }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [laid: Schemas['LaidOut'], how: Laid] }>()

const begin = { health: 0, fire: 0, instability: 0, special: '', name: '' }
const { spec, document, lay, laying } = useLaying(
  show,
  () => props.design,
  'diamond',
  begin,
  (made, how) => {
    emit('take', made, how)
  },
)
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
async function take() {
  await lay(api.POST('/safety/diamond', { body: { document: document(), ...spec.value } }))
}
</script>

<template>
  <LayingDialog v-model:show="show" title="Diamond of ratings" :width="420" :laying ready @take="take">
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
  </LayingDialog>
</template>

<style scoped src="./panels.css"></style>
