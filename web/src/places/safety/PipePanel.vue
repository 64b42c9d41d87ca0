<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NCheckbox, NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { useAsked } from '@/shared/useAsked'
import LayingDialog from './LayingDialog.vue'
import PipeFact from './PipeFact.vue'
import { type Laid, useLaying } from './useLaying'

/** A pipe marker: what is in the pipe gives its colours, how thick it is the sizes. */
const props = defineProps<{ design: Design; fields: readonly string[]; recordSet: number | undefined }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [laid: Schemas['LaidOut'], how: Laid] }>()

const begin = {
  rules: 'iso',
  contents: '',
  group: '',
  field: '',
  diameter: 60 as number | null,
  flow: 'right',
  symbols: [] as string[],
  rows: false,
  groupField: '',
  diameterField: '',
  flowField: '',
}
const { spec, document, lay, laying } = useLaying(
  show,
  () => props.design,
  'pipe',
  begin,
  (made, how) => {
    emit('take', made, how)
  },
)
const { data: groups } = useAsked((signal) => (show.value ? api.GET('/pipes/groups', { signal }) : undefined))
const ofRules = computed(() => groups.value?.filter((g) => g.rules === spec.value.rules) ?? [])
const ruleOptions = computed(() => {
  const seen = new Map(groups.value?.map((g) => [g.rules, g.standard]))
  return [...seen].map(([value, label]) => ({ value, label }))
})
const groupOptions = computed(() => [
  { value: '', label: 'by what it is' },
  ...ofRules.value.map((g) => ({ value: g.id, label: `${g.name}: ${g.letters} on ${g.field}` })),
])
const flows = [
  { value: '', label: 'not shown' },
  { value: 'right', label: '→ to the right' },
  { value: 'left', label: '← to the left' },
  { value: 'both', label: '↔ both ways' },
]
const { data: symbols } = useAsked((signal) => (show.value ? api.GET('/symbols', { signal }) : undefined))
const symbolOptions = computed(() =>
  ['ghs', 'warning'].flatMap((family) =>
    (symbols.value ?? [])
      .filter((s) => s.family === family)
      .map((s) => ({ value: s.id, label: `${s.number} · ${s.name}` })),
  ),
)
const fieldOptions = computed(() => [
  { value: '', label: 'the same on all' },
  ...props.fields.map((value) => ({ value, label: `from ${value}` })),
])
const ready = computed(
  () =>
    (spec.value.contents.trim() !== '' || spec.value.field !== '') &&
    ((spec.value.diameter ?? 0) > 0 || spec.value.diameterField !== ''),
)
async function take() {
  const { diameter, ...rest } = spec.value
  await lay(
    api.POST('/safety/pipe', {
      body: { document: document(), ...rest, diameter: diameter ?? 0, recordSet: props.recordSet },
    }),
  )
}
</script>

<template>
  <LayingDialog v-model:show="show" title="Pipe marker" :width="820" :laying :ready @take="take">
    <div class="two">
      <div class="form">
        <label
          >Rules
          <NSelect v-model:value="spec.rules" size="small" :options="ruleOptions" aria-label="Rules" />
        </label>
        <PipeFact v-model:field="spec.field" name="Contents" :fields="fieldOptions">
          <NInput
            v-model:value="spec.contents"
            size="small"
            placeholder="Cooling water"
            :disabled="spec.field !== ''"
            :input-props="{ 'aria-label': 'Contents' }"
          />
        </PipeFact>
        <PipeFact v-model:field="spec.groupField" name="Group" :fields="fieldOptions">
          <NSelect
            v-model:value="spec.group"
            size="small"
            :options="groupOptions"
            :disabled="spec.groupField !== ''"
            aria-label="Group"
          />
        </PipeFact>
        <PipeFact v-model:field="spec.diameterField" name="Outside diameter" :fields="fieldOptions">
          <NInputNumber
            v-bind="requestBounds.PipeRequest.diameter"
            v-model:value="spec.diameter"
            size="small"
            :show-button="false"
            :disabled="spec.diameterField !== ''"
            :input-props="{ 'aria-label': 'Outside diameter' }"
            ><template #suffix>mm</template></NInputNumber
          >
        </PipeFact>
        <PipeFact v-model:field="spec.flowField" name="Flow" :fields="fieldOptions">
          <NSelect
            v-model:value="spec.flow"
            size="small"
            :options="flows"
            :disabled="spec.flowField !== ''"
            aria-label="Flow"
          />
        </PipeFact>
        <label
          >Hazards
          <NSelect
            v-model:value="spec.symbols"
            size="small"
            multiple
            filterable
            :options="symbolOptions"
            placeholder="none"
            aria-label="Hazards"
            :input-props="{ 'aria-label': 'Look for a hazard' }"
          />
        </label>
        <NCheckbox v-model:checked="spec.rows">again and again round the pipe</NCheckbox>
      </div>
      <table class="plain groups">
        <thead>
          <tr>
            <th>Group</th>
            <th>Colours</th>
            <th>Holds</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="g in ofRules" :key="g.id">
            <td>{{ g.name }}</td>
            <td>{{ g.letters }} on {{ g.field }}{{ g.stripe && `, ${g.stripe} band` }}</td>
            <td class="quiet">{{ g.holds }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </LayingDialog>
</template>

<style scoped src="./panels.css"></style>
<style scoped>
.groups :is(th, td) {
  padding: 4px 8px;
  font-size: 13px;
}
</style>
