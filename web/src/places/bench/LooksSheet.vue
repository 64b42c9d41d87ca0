<script setup lang="ts">
import { NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design, Element } from '@/api/documents'
import LevelText from '@/shared/LevelText.vue'
import CodeLooks from './CodeLooks.vue'
import OverruleForm from './OverruleForm.vue'
import PictureLooks from './PictureLooks.vue'
import ShapeLooks from './ShapeLooks.vue'
import SymbolLooks from './SymbolLooks.vue'
import SheetRow from './SheetRow.vue'
import TagLooks from './TagLooks.vue'
import TextLooks from './TextLooks.vue'

/** Type settings of a text, or code settings of a code. */
const props = defineProps<{
  element: Element
  facts: Schemas['CodeFacts'] | undefined
  tagFacts: Schemas['TagFacts'] | undefined
  typefaces: readonly string[]
  inks: readonly Schemas['Ink'][]
  mixes: boolean
  document: Design
  recordSetId: number | undefined
  fields: readonly string[]
  findings: readonly Schemas['Finding'][]
}>()
const emit = defineEmits<{
  change: [to: Partial<Element>]
  done: []
  brought: []
  overrule: [demand: number, reason: string]
}>()

const text = computed(() => props.element.text)
const code = computed(() => props.element.code)

function set(to: Partial<NonNullable<Element['text']>>) {
  if (text.value) emit('change', { text: { ...text.value, ...to } })
  emit('done')
}
function setPicture(to: Partial<NonNullable<Element['picture']>>) {
  if (props.element.picture) emit('change', { picture: { ...props.element.picture, ...to } })
  emit('done')
}
function setCode(to: Partial<NonNullable<Element['code']>>) {
  if (code.value) emit('change', { code: { ...code.value, ...to } })
  emit('done')
}
/** Fields of the records, and what else labels know by a name. */
const known = computed(() => [
  ...props.fields,
  ...(props.document.questions ?? []).map((q) => q.name),
  ...(props.document.series ?? []).map((s) => s.name),
])
/** The inks that can be shown, and the one the element has though it cannot. */
const inkOptions = computed(() => {
  const names = props.mixes
    ? ['black', 'red', 'green', 'blue', 'yellow', 'orange', 'violet', 'brown', 'grey', 'white']
    : props.inks.map((ink) => ink.name)
  const has = props.element.ink
  if (has && !names.includes(has) && has !== bare) names.push(has)
  return names.map((value) => ({ value, label: value }))
})
/** Words and shapes can lay the face bare: white out of a filled box. A code is no code without an ink. */
const bare = 'bare'
const chosenInks = computed(() =>
  code.value ? inkOptions.value : [...inkOptions.value, { value: bare, label: 'none: bare out of a box' }],
)
const ink = computed(() => props.element.ink ?? inkOptions.value[0]?.value)
function setInk(value: string) {
  const text = value.trim()
  if (!text) return
  emit('change', { ink: text === inkOptions.value[0]?.value ? undefined : text })
  emit('done')
}
</script>

<template>
  <section aria-labelledby="looks">
    <h2 id="looks">Looks</h2>
    <div v-for="f in findings" :key="f.kind + f.text" class="found">
      <LevelText :level="f.level">{{ f.text }}</LevelText>
      <span class="quiet">&nbsp;{{ f.do }}</span>
      <OverruleForm
        v-if="f.demand"
        :overruled="document.demands?.[f.demand - 1]?.overruled ?? ''"
        @overrule="(reason: string) => emit('overrule', f.demand ?? 0, reason)"
      />
    </div>
    <TextLooks v-if="text" :text :typefaces @set="set" @brought="emit('brought')" />
    <CodeLooks
      v-else-if="code"
      :code
      :facts
      :element-id="element.id"
      :document="document"
      :record-set-id="recordSetId"
      :typefaces
      :fields
      @set="setCode"
    />
    <PictureLooks
      v-else-if="element.picture"
      :picture="element.picture"
      @set="setPicture"
      @size="(emit('change', $event), emit('done'))"
    />
    <SymbolLooks
      v-else-if="element.symbol"
      :symbol="element.symbol"
      :reference="document.reference"
      @set="(emit('change', { symbol: $event }), emit('done'))"
    />
    <TagLooks
      v-else-if="element.tag"
      :tag="element.tag"
      :facts="tagFacts"
      :fields="known"
      @set="(emit('change', { tag: $event }), emit('done'))"
    />
    <ShapeLooks v-else :element :inks="inkOptions" @change="emit('change', $event)" @done="emit('done')" />
    <SheetRow v-if="chosenInks.length > 1 && !element.tag" name="Ink">
      <NSelect
        size="small"
        :value="ink"
        :options="chosenInks"
        :tag="mixes"
        :filterable="mixes"
        aria-label="Ink"
        :input-props="mixes ? { 'aria-label': 'Type an ink' } : undefined"
        class="wide"
        @update:value="setInk"
      />
    </SheetRow>
  </section>
</template>

<style scoped>
.found {
  margin-bottom: 6px;
  font-size: 13px;
}
.wide {
  width: 156px;
  max-width: 100%;
}
section :deep(.value) {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: flex-end;
}
section :deep(.n-checkbox__label) {
  white-space: nowrap;
}
</style>
