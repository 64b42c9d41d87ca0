<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NInputNumber, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design, Element } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import LengthInput from '@/shared/LengthInput.vue'
import { visible } from '@/shared/visible'
import TextButton from '@/shared/TextButton.vue'
import CodeOptions from './CodeOptions.vue'
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

/** Another symbology has other options: they are chosen anew. */
function choose(symbology: string) {
  const next = guides.value.find((g) => g.id === symbology)
  const options = guides.value.flatMap((g) => g.options)
  emit('set', {
    ...Object.fromEntries(options.map((o) => [o.id, undefined])),
    symbology: symbology as Code['symbology'],
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

const bounded = (of: 'module' | 'narrower') => designBounds.CodeLooks[of]
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
  <CodeOptions
    :options="guide?.options ?? []"
    :code
    :check-digit="facts?.checkDigit"
    @set="emit('set', $event)"
  />
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
