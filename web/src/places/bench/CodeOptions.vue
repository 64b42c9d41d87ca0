<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInput, NInputNumber, NSelect } from 'naive-ui'
import type { Schemas } from '@/api/client'
import type { Element } from '@/api/documents'
import { chosen, toDesign } from './codeOptions'
import SheetRow from './SheetRow.vue'

/** What can be chosen about a code, as its symbology lists it. */
type Code = NonNullable<Element['code']>
type Option = Schemas['CodeOption']
const props = defineProps<{ options: readonly Option[]; code: Code; checkDigit: string | undefined }>()
const emit = defineEmits<{ set: [to: Partial<Code>] }>()

const set = (option: Option, value: string | number | boolean | null) => emit('set', toDesign(option, value))
const choices = (option: Option) => [
  { value: '', label: option.unset },
  ...option.choices.map((c) => ({ value: c.value, label: c.name })),
]
const text = (option: Option) => (chosen(props.code, option) as string | undefined) ?? ''
const figure = (option: Option) => Number(chosen(props.code, option)) || null
</script>

<template>
  <SheetRow v-for="option in options" :key="option.id" :name="option.name">
    <NSelect
      v-if="option.kind === 'choice'"
      size="small"
      :value="text(option)"
      :options="choices(option)"
      :filterable="option.choices.length > 8"
      :aria-label="option.name"
      :input-props="{ 'aria-label': option.name }"
      class="wide"
      @update:value="set(option, $event)"
    />
    <NInputNumber
      v-else-if="option.kind === 'number' || option.kind === 'percent'"
      size="small"
      :show-button="false"
      :value="figure(option)"
      :min="option.least"
      :max="option.most"
      :step="option.step"
      :placeholder="option.unset"
      class="narrow"
      :input-props="{ 'aria-label': option.name }"
      @update:value="set(option, $event)"
    >
      <template v-if="option.kind === 'percent'" #suffix>%</template>
    </NInputNumber>
    <NCheckbox
      v-else-if="option.kind === 'switch'"
      :checked="chosen(code, option) === true"
      @update:checked="set(option, $event)"
      >append it</NCheckbox
    >
    <NInput
      v-else
      :key="text(option)"
      size="small"
      :default-value="text(option)"
      :placeholder="option.unset"
      :maxlength="designBounds.CodeLooks.host.maxlength"
      class="wide"
      :input-props="{ 'aria-label': option.name }"
      @change="set(option, $event.trim())"
    />
    <template v-if="option.id === 'checkDigit' && checkDigit">&nbsp;{{ checkDigit }}</template>
  </SheetRow>
</template>

<style scoped>
.wide {
  width: 150px;
}
.narrow {
  width: 100px;
}
</style>
