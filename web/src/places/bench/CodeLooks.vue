<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design, Element } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import LengthInput from '@/shared/LengthInput.vue'
import { visible } from '@/shared/visible'
import TextButton from '@/shared/TextButton.vue'
import CodeWords from './CodeWords.vue'
import FieldOrText from './FieldOrText.vue'
import ModulePicture from './ModulePicture.vue'
import SheetRow from './SheetRow.vue'
import SuitsPanel from './SuitsPanel.vue'
import { useSymbologies } from './useSymbologies'

/** How a code looks: its symbology with what that is for, its module in dots, and what can be chosen. */
type Code = NonNullable<Element['code']>
const props = defineProps<{
  code: Code
  facts: Schemas['CodeFacts'] | undefined
  elementId: string
  document: Design
  recordSetId: number | undefined
  typefaces: readonly string[]
  fields: readonly string[]
}>()
const emit = defineEmits<{ set: [to: Partial<Code>] }>()

const guides = useSymbologies()
const guide = computed(() => guides.value.find((g) => g.id === props.code.symbology))
const options = computed(() => guides.value.map((g) => ({ value: g.id, label: g.name })))
const list = (...values: [string, string][]) => values.map(([value, label]) => ({ value, label }))
const aligns = list(['', 'left'], ['centre', 'centre'], ['right', 'right'])
const fits = list(['', 'nearest'], ['not smaller', 'not smaller'], ['largest', 'largest that fits'])
const shapes = list(['', 'the smaller'], ['square', 'square'], ['rectangle', 'rectangle'])
const choices = (first: string, values: readonly string[] | undefined, unit = '') =>
  values?.length
    ? [{ value: '', label: first }, ...values.map((value) => ({ value, label: value + unit }))]
    : []
const levels = computed(() =>
  choices('usual', guide.value?.levels, /aztec/.test(props.code.symbology) ? ' %' : ''),
)
/** Letters such as those of 5 °C, which some readers guess unless the code says what they are. */
const westernLetters = [
  { value: '', label: 'told where there is room' },
  { value: 'told', label: 'told, if larger' },
  { value: 'plain', label: 'plain: my readers know' },
]
const versions = computed(() => choices('the smallest', guide.value?.versions))
const forms = computed(() => choices('the smaller', guide.value?.forms))
const matrices = computed(() => choices('the smallest', guide.value?.matrices))
const checkDigits = list(['', 'told by its length'], ['given', 'given'], ['missing', 'to be added'])
const deviation = computed(() => {
  const by = props.facts?.deviation ?? 0
  return by === 0 ? '' : `${by > 0 ? '+' : ''}${by} %`
})

/** Where a code is scanned, which decides how large GS1 wants it. */
const purposes = computed(() => [
  { value: '', label: 'anywhere' },
  ...(guide.value?.sizes ?? []).map((s) => ({ value: s.purpose, label: s.where })),
])
const asked = computed(() => guide.value?.sizes.find((s) => s.purpose === props.code.purpose))
/** The module that makes the symbol, with its quiet zones, as wide as wanted. */
function widen(width: number) {
  const facts = props.facts
  if (facts) emit('set', { module: Math.max(20, Math.round((width * facts.module) / facts.width)) })
}

/** Another symbology has other choices: what the new one does not have is dropped. */
function choose(symbology: string) {
  const next = guides.value.find((g) => g.id === symbology)
  emit('set', {
    symbology: symbology as Code['symbology'],
    level: undefined,
    version: undefined,
    form: undefined,
    shape: undefined,
    letters: undefined,
    size: undefined,
    checkDigit: undefined,
    check: undefined,
    ratio: undefined,
    columns: undefined,
    host: undefined,
    addOn: next?.addOn ? props.code.addOn : undefined,
    purpose: next?.sizes.some((s) => s.purpose === props.code.purpose) ? props.code.purpose : undefined,
    readable: next?.is2d
      ? 'none'
      : props.code.readable === 'none' && guide.value?.is2d
        ? undefined
        : props.code.readable,
  })
}

const ranking = ref(false)

const bounded = (of: 'module' | 'columns' | 'narrower' | 'ratio') => designBounds.CodeLooks[of]
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
    <template v-if="facts"
      >Its smallest module at this printer: {{ plural(facts.leastModuleDots, 'dot') }} ({{
        lengthText(facts.leastModule, 3)
      }}).&nbsp;</template
    >
    <TextButton @click="ranking = true">Which suits my data?</TextButton>
  </p>
  <SheetRow name="Module wanted">
    <LengthInput
      :model-value="code.module"
      label="Module wanted"
      :decimals="3"
      :least="bounded('module').min"
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
      <span v-if="deviation" class="quiet">{{ deviation }}</span>
    </SheetRow>
    <ModulePicture :widths="facts.widths" />
    <SheetRow name="With quiet zones">
      <LengthInput
        :model-value="facts.width"
        label="Width with quiet zones"
        :decimals="1"
        :least="bounded('module').min"
        class="narrow"
        @update:model-value="widen"
      />
      <template v-if="facts.is2d">× {{ lengthText(facts.height) }}</template>
    </SheetRow>
    <SheetRow v-if="facts.magnification" name="Magnification">{{ facts.magnification }} %</SheetRow>
    <SheetRow name="Quiet zone"
      >{{ plural(facts.quietModules, 'module') }} · {{ lengthText(facts.quietZone, 2) }}</SheetRow
    >
  </template>
  <SheetRow v-if="facts" name="A reader says">
    <span class="says">{{ visible(facts.reads) }}</span>
  </SheetRow>
  <SheetRow v-if="guide?.checkDigit" name="Check digit">
    <NSelect
      size="small"
      :value="code.checkDigit ?? ''"
      :options="checkDigits"
      aria-label="How the check digit is given"
      class="wide"
      @update:value="emit('set', { checkDigit: $event || undefined })"
    />
    <template v-if="facts?.checkDigit">&nbsp;{{ facts.checkDigit }}</template>
  </SheetRow>
  <SheetRow v-if="guide?.addOn" name="Add-on">
    <FieldOrText
      :pieces="code.addOn ?? []"
      :fields
      label="Add-on of 2 or 5 digits"
      @set="emit('set', { addOn: $event.length ? $event : undefined })"
    />
  </SheetRow>
  <SheetRow v-if="purposes.length > 1" name="Scanned">
    <NSelect
      size="small"
      :value="code.purpose ?? ''"
      :options="purposes"
      aria-label="Where it is scanned"
      class="wider"
      @update:value="emit('set', { purpose: $event || undefined })"
    />
  </SheetRow>
  <p v-if="asked" class="quiet guide">
    GS1 asks for a module of {{ lengthText(asked.leastModule, 3) }} to {{ lengthText(asked.mostModule, 3) }},
    usually {{ lengthText(asked.usualModule, 3)
    }}<template v-if="asked.leastHeight"> and bars of {{ lengthText(asked.leastHeight, 2) }} or more</template
    >.
  </p>
  <SheetRow v-if="guide?.link" name="Link begins">
    <NInput
      :key="code.host"
      size="small"
      :default-value="code.host ?? ''"
      placeholder="https://id.gs1.org"
      :maxlength="designBounds.CodeLooks.host.maxlength"
      class="wide"
      :input-props="{ 'aria-label': 'Where the link begins' }"
      @change="emit('set', { host: $event.trim() || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="guide?.columns" name="Columns">
    <NInputNumber
      :min="bounded('columns').min"
      size="small"
      :show-button="false"
      :value="code.columns || null"
      :max="guide.columns"
      placeholder="as suits"
      class="tiny"
      :input-props="{ 'aria-label': 'Columns' }"
      @update:value="emit('set', { columns: $event ?? undefined })"
    />
  </SheetRow>
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
  <SheetRow v-if="versions.length" name="Version">
    <NSelect
      size="small"
      :value="code.version ?? ''"
      :options="versions"
      filterable
      :input-props="{ 'aria-label': 'Version' }"
      class="wide"
      @update:value="emit('set', { version: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="forms.length" name="Form">
    <NSelect
      size="small"
      :value="code.form ?? ''"
      :options="forms"
      aria-label="Form"
      class="wide"
      @update:value="emit('set', { form: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="matrices.length" name="Size">
    <NSelect
      size="small"
      :value="code.size ?? ''"
      :options="matrices"
      filterable
      :input-props="{ 'aria-label': 'Size in modules' }"
      class="wide"
      @update:value="emit('set', { size: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="matrices.length" name="Shape">
    <NSelect
      size="small"
      :value="code.shape ?? ''"
      :options="shapes"
      aria-label="Shape"
      class="wide"
      @update:value="emit('set', { shape: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="guide?.western" name="Western letters">
    <NSelect
      size="small"
      :value="code.letters ?? ''"
      :options="westernLetters"
      aria-label="Western letters"
      class="wide"
      @update:value="emit('set', { letters: $event || undefined })"
    />
  </SheetRow>
  <SheetRow v-if="guide?.check" name="Check character">
    <NCheckbox :checked="code.check ?? false" @update:checked="emit('set', { check: $event || undefined })"
      >append it</NCheckbox
    >
  </SheetRow>
  <SheetRow v-if="guide?.ratio" name="Wide to narrow">
    <NInputNumber
      v-bind="bounded('ratio')"
      size="small"
      :show-button="false"
      :value="code.ratio || null"
      :step="0.1"
      placeholder="usual"
      class="tiny"
      :input-props="{ 'aria-label': 'Wide to narrow' }"
      @update:value="emit('set', { ratio: $event ?? undefined })"
    />
  </SheetRow>
  <SheetRow v-if="guide && !guide.is2d" name="Bars narrower by">
    <NInputNumber
      v-bind="bounded('narrower')"
      size="small"
      :show-button="false"
      :value="code.narrower ?? 0"
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
  <CodeWords :code :typefaces :fields @set="emit('set', $event)" />
  <SuitsPanel v-model:show="ranking" :document :element-id :record-set-id :guides @take="choose" />
</template>

<style scoped>
.wide {
  width: 150px;
}
.wider {
  width: 205px;
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
.says {
  overflow-wrap: anywhere;
}
</style>
