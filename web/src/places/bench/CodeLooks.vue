<script setup lang="ts">
import { NButton, NCheckbox, NInputNumber, NModal, NSelect } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDocument, type Design, type Element } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import LengthInput from '@/shared/LengthInput.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import ModulePicture from './ModulePicture.vue'
import SheetRow from './SheetRow.vue'

/** How a code looks: its symbology with what that is for, its module in dots, and what can be chosen. */
type Code = NonNullable<Element['code']>
const props = defineProps<{
  code: Code
  facts: Schemas['CodeFacts'] | undefined
  elementId: string
  document: Design
  recordSetId: number | undefined
}>()
const emit = defineEmits<{ set: [to: Partial<Code>] }>()

const guides = shallowRef<Schemas['Symbology'][]>([])
onMounted(async () => (guides.value = (await api.GET('/symbologies')).data ?? []))
const guide = computed(() => guides.value.find((g) => g.id === props.code.symbology))
const options = computed(() => guides.value.map((g) => ({ value: g.id, label: g.name })))
const list = (...values: [string, string][]) => values.map(([value, label]) => ({ value, label }))
const aligns = list(['', 'left'], ['centre', 'centre'], ['right', 'right'])
const readables = list(['', 'below'], ['above', 'above'], ['none', 'none'])
const fits = list(['', 'nearest'], ['not smaller', 'not smaller'], ['largest', 'largest that fits'])
const shapes = list(['', 'the smaller'], ['square', 'square'], ['rectangle', 'rectangle'])
const levels = computed(() => {
  const text = guide.value?.levels ?? ''
  if (!text) return []
  const values = text.startsWith('L')
    ? text.split(' ')
    : text.endsWith('%')
      ? ['5', '10', '23', '36', '50']
      : '012345678'.split('')
  return [
    { value: '', label: 'usual' },
    ...values.map((value) => ({ value, label: text.endsWith('%') ? `${value} %` : value })),
  ]
})
const deviation = computed(() =>
  props.facts ? ((props.facts.module / props.code.module - 1) * 100).toFixed(0) : '0',
)

/** Another symbology has other choices: what the new one does not have is dropped. */
function choose(symbology: string) {
  const next = guides.value.find((g) => g.id === symbology)
  emit('set', {
    symbology: symbology as Code['symbology'],
    level: undefined,
    shape: undefined,
    check: undefined,
    ratio: undefined,
    readable: next?.is2d
      ? 'none'
      : props.code.readable === 'none' && guide.value?.is2d
        ? undefined
        : props.code.readable,
  })
}

const ranking = shallowRef<Schemas['Suit'][]>()
const open = ref(false)
const problem = shallowRef<Problem>()
async function rank() {
  open.value = true
  const { data, error } = await api.POST('/symbologies/rank', {
    body: { document: asDocument(props.document), element: props.elementId, recordSetId: props.recordSetId },
  })
  problem.value = error
  ranking.value = data
}
const nameOf = (id: string) => guides.value.find((g) => g.id === id)?.name ?? id
</script>

<template>
  <SheetRow name="Symbology">
    <NSelect
      size="small"
      :value="code.symbology"
      :options
      filterable
      :input-props="{ 'aria-label': 'Symbology' }"
      class="wide"
      @update:value="choose"
    />
  </SheetRow>
  <p v-if="guide" class="quiet guide">
    Holds {{ guide.holds }}; {{ guide.most }}. Read by {{ guide.readers }}. For {{ guide.uses }}.
    <button type="button" class="linklike" @click="rank">Which suits my data?</button>
  </p>
  <SheetRow name="Module wanted">
    <LengthInput
      :model-value="code.module"
      label="Module wanted"
      :decimals="3"
      :least="20"
      class="narrow"
      @update:model-value="emit('set', { module: $event })"
    />
  </SheetRow>
  <SheetRow name="In dots">
    <NSelect
      size="small"
      :value="code.fit ?? ''"
      :options="fits"
      aria-label="How the module becomes dots"
      class="wide"
      @update:value="emit('set', { fit: $event })"
    />
  </SheetRow>
  <template v-if="facts">
    <SheetRow name="Module printed">
      {{ plural(facts.moduleDots, 'dot') }} · {{ lengthText(facts.module, 3) }}
      <span v-if="deviation !== '0'" class="quiet"
        >{{ deviation.startsWith('-') ? '' : '+' }}{{ deviation }} %</span
      >
    </SheetRow>
    <ModulePicture :widths="facts.widths" />
    <SheetRow name="With quiet zones">
      {{ lengthText(facts.width) }}<template v-if="facts.is2d"> × {{ lengthText(facts.height) }}</template>
    </SheetRow>
    <SheetRow name="Quiet zone"
      >{{ plural(facts.quietModules, 'module') }} ·
      {{ lengthText(facts.quietModules * facts.module, 2) }}</SheetRow
    >
  </template>
  <SheetRow v-if="levels.length" name="Correction">
    <NSelect
      size="small"
      :value="code.level ?? ''"
      :options="levels"
      aria-label="Error correction"
      class="half"
      @update:value="emit('set', { level: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="code.symbology.endsWith('datamatrix')" name="Shape">
    <NSelect
      size="small"
      :value="code.shape ?? ''"
      :options="shapes"
      aria-label="Shape"
      class="half"
      @update:value="emit('set', { shape: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="guide?.check" name="Check character">
    <NCheckbox :checked="code.check ?? false" @update:checked="emit('set', { check: $event || undefined })"
      >append it</NCheckbox
    >
  </SheetRow>
  <SheetRow v-if="guide?.ratio" name="Wide to narrow">
    <NInputNumber
      size="small"
      :show-button="false"
      :value="code.ratio || null"
      :min="2"
      :max="3"
      :step="0.1"
      placeholder="usual"
      class="tiny"
      :input-props="{ 'aria-label': 'Wide to narrow' }"
      @update:value="emit('set', { ratio: $event ?? undefined })"
    />
  </SheetRow>
  <SheetRow v-if="guide && !guide.is2d" name="Bars narrower by">
    <NInputNumber
      size="small"
      :show-button="false"
      :value="code.narrower ?? 0"
      :min="0"
      :max="20"
      class="tiny"
      :input-props="{ 'aria-label': 'Dots by which bars are narrower' }"
      @update:value="emit('set', { narrower: $event || undefined })"
    >
      <template #suffix>dots</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow name="Stands">
    <NSelect
      size="small"
      :value="code.align ?? ''"
      :options="aligns"
      aria-label="Alignment of the code"
      class="half"
      @update:value="emit('set', { align: $event })"
    />
  </SheetRow>
  <SheetRow name="Readable text">
    <NSelect
      size="small"
      :value="code.readable ?? ''"
      :options="readables"
      aria-label="Readable text"
      class="half"
      @update:value="emit('set', { readable: $event })"
    />
    <NInputNumber
      v-if="code.readable !== 'none'"
      size="small"
      :show-button="false"
      :value="code.points || 8"
      :min="1"
      :max="200"
      :input-props="{ 'aria-label': 'Size of readable text in points' }"
      class="tiny"
      @update:value="$event && emit('set', { points: $event })"
    >
      <template #suffix>pt</template>
    </NInputNumber>
  </SheetRow>
  <NModal v-model:show="open">
    <section class="panel" role="dialog" aria-modal="true" aria-labelledby="which-suits">
      <div class="top">
        <h2 id="which-suits">Which symbology suits</h2>
        <NButton size="small" @click="open = false">Close</NButton>
      </div>
      <ProblemNote v-if="problem" :problem />
      <div v-if="ranking" class="ranking" tabindex="0" role="region" aria-label="Symbologies">
        <table class="plain">
          <thead>
            <tr>
              <th>Symbology</th>
              <th>Largest, with quiet zones</th>
              <th>Module</th>
              <th>This data</th>
              <th><span class="unseen">Choose</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="suit in ranking" :key="suit.id">
              <td>{{ nameOf(suit.id) }}</td>
              <td>
                <template v-if="suit.width"
                  >{{ lengthText(suit.width) }} × {{ lengthText(suit.height) }}</template
                >
              </td>
              <td>{{ lengthText(suit.module, 3) }}</td>
              <td>
                <span v-if="suit.fails" class="bad">■ {{ suit.why }}</span>
                <span v-else-if="suit.fits" class="good">✓ all, and it fits the box</span>
                <span v-else class="warn">▲ all, but larger than the box</span>
              </td>
              <td>
                <NButton
                  v-if="!suit.fails"
                  size="small"
                  :aria-label="`Take ${nameOf(suit.id)}`"
                  @click="((open = false), choose(suit.id))"
                  >Take</NButton
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </NModal>
</template>

<style scoped>
.wide {
  width: 150px;
}
.narrow {
  width: 116px;
}
.tiny {
  width: 76px;
}
.half {
  width: 100px;
}
.guide {
  padding: 4px 0;
  font-size: 13px;
}
.panel {
  width: 780px;
  padding: 16px 20px;
  background: var(--paper);
  border-radius: 8px;
}
.panel .top {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 10px;
}
.ranking td:nth-child(2),
.ranking td:nth-child(3) {
  white-space: nowrap;
}
.ranking {
  max-height: 60vh;
  overflow: auto;
}
</style>
