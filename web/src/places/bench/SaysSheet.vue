<script setup lang="ts">
import { NDropdown, NSelect } from 'naive-ui'
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { type Element, fieldOf, type Piece, textOf } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import { controls, meant, visible } from '@/shared/visible'
import TextButton from '@/shared/TextButton.vue'
import Gs1Builder from './Gs1Builder.vue'
import PiecePanel from './PiecePanel.vue'
import SheetRow from './SheetRow.vue'
import { useFormulas } from './useFormulas'
import { useSymbologies } from './useSymbologies'

/** What the chosen element says: a row of pieces, each with its value on the label in hand. */
const props = defineProps<{
  element: Element
  part: Schemas['StripPart'] | undefined
  fields: readonly string[]
  /** Names of the design's questions, whose answers are fields. */
  answers: readonly string[]
  /** Names of the number series that the labels have numbers of. */
  numbers: readonly string[]
  /** The other elements that say something. */
  others: readonly Element[]
  recordSetId: number | undefined
  record: number
}>()
const emit = defineEmits<{ change: [to: Partial<Element>]; done: [] }>()

const pieces = computed(() => props.element.says ?? [])
const formulas = useFormulas()
/** What is known of a label only as its run is printed. */
const factOf = (field: string) => formulas.value.facts.find((f) => f.name === field)
const row = ref<HTMLElement>()

function put(says: Piece[]) {
  emit('change', { says })
  emit('done')
}
// Codes hold control characters, which are shown as pictures; a line's end is seen as it is.
const isCode = computed(() => props.element.kind === 'code')
const shown = (piece: Piece) => {
  const text = textOf(piece) ?? ''
  return isCode.value ? text.split('\n').map(visible).join('\n') : text
}
const type = (i: number, typed: string) => {
  const text = isCode.value ? meant(typed) : typed
  emit('change', { says: pieces.value.map((p, j) => (j === i ? { ...p, text } : p)) })
}
const guides = useSymbologies()
const isGS1 = computed(() => guides.value.some((g) => g.gs1 && g.id === props.element.code?.symbology))
const building = ref(false)
const styled = computed(() => props.element.kind === 'text')
/** A piece in bold or italic, though the text around it is not. */
function style(i: number, of: 'bold' | 'italic') {
  put(pieces.value.map((p, j) => (j === i ? { ...p, [of]: !p[of] || undefined } : p)))
}
const remove = (i: number) => {
  put(pieces.value.filter((_, j) => j !== i))
}
function shift(i: number, by: number) {
  const says = [...pieces.value]
  const [piece] = says.splice(i, 1)
  if (piece) says.splice(i + by, 0, piece)
  put(says)
}
async function add(key: string) {
  if (key.startsWith('control ')) {
    put([...pieces.value, { text: key.slice('control '.length) }])
    return
  }
  if (key === 'formula' || key === 'other') {
    put([...pieces.value, key === 'other' ? { element: props.others[0]?.id ?? '' } : { formula: '""' }])
    opened.value = pieces.value.length - 1
    return
  }
  if (key === 'date') {
    put([...pieces.value, { formula: 'formatDate(today(), "yyyy-MM-dd")' }])
    return
  }
  if (key !== 'text') {
    put([...pieces.value, { field: key.slice('field '.length) }])
    return
  }
  put([...pieces.value, { text: '' }])
  await nextTick()
  const inputs = row.value?.querySelectorAll('textarea')
  inputs?.[inputs.length - 1]?.focus()
}

const options = computed(() => [
  { key: 'text', label: 'Fixed text' },
  ...props.fields.map((name) => ({ key: `field ${name}`, label: `Field ${name}` })),
  ...props.answers.map((name) => ({ key: `field ${name}`, label: `Answer ${name}` })),
  ...props.numbers.map((name) => ({ key: `field ${name}`, label: `Number ${name}` })),
  { key: 'date', label: 'Date of printing' },
  ...formulas.value.facts.map(({ name, words }) => ({ key: `field ${name}`, label: words })),
  { key: 'formula', label: 'Formula…' },
  ...(props.others.length ? [{ key: 'other', label: 'What another element says…' }] : []),
  ...(isCode.value
    ? [
        {
          key: 'controls',
          label: 'Control character',
          children: controls.map(({ char, name }) => ({
            key: `control ${char}`,
            label: `${visible(char)} ${name}`,
          })),
        },
      ]
    : []),
])
const rules = [
  { value: '', label: 'say so' },
  { value: 'leave out', label: 'leave it out' },
]
const isGone = (piece: Piece) => {
  const field = fieldOf(piece)
  if (field === undefined || factOf(field)) return false
  return ![props.fields, props.answers, props.numbers].some((names) => names.includes(field))
}
/** The piece that is looked at more closely. */
const opened = ref<number>()
const isOpen = computed({
  get: () => opened.value !== undefined && pieces.value[opened.value] !== undefined,
  set: (now) => (opened.value = now ? opened.value : undefined),
})
const openPiece = computed(() => pieces.value[opened.value ?? -1])
const computedName = (piece: Piece) =>
  fieldOf(piece) ??
  (piece.formula !== undefined ? 'formula' : piece.element !== undefined ? `as ${piece.element}` : 'text')
const moreName = (piece: Piece) => `${computedName(piece)}${piece.changes?.length ? ' · changed' : ''} …`
const isComputed = (piece: Piece) =>
  fieldOf(piece) !== undefined || piece.formula !== undefined || piece.element !== undefined
function key(event: KeyboardEvent, i: number) {
  if (!event.altKey) return
  if (event.key === 'ArrowLeft' && i > 0) shift(i, -1)
  if (event.key === 'ArrowRight' && i < pieces.value.length - 1) shift(i, 1)
}
</script>

<template>
  <section aria-labelledby="says">
    <h2 id="says">Says</h2>
    <div ref="row" class="pieces">
      <span
        v-for="(piece, i) in pieces"
        :key="i"
        class="piece"
        :class="{
          field: isComputed(piece),
          gone: isGone(piece),
          bold: styled && piece.bold,
          italic: styled && piece.italic,
        }"
        @keydown="key($event, i)"
      >
        <template v-if="isComputed(piece)">
          <span class="value">{{
            isGone(piece) ? 'not in these records' : part?.pieces?.[i] || 'empty'
          }}</span>
          <span class="name">
            <button
              type="button"
              class="more"
              :aria-label="`Piece ${i + 1}: ${moreName(piece)}`"
              title="Its formula, and what is done to its value"
              @click="opened = i"
            >
              {{ moreName(piece) }}
            </button>
          </span>
        </template>
        <template v-else>
          <textarea
            :value="shown(piece)"
            :maxlength="designBounds.Piece.text.maxlength"
            :rows="shown(piece).split('\n').length"
            :cols="
              Math.min(
                Math.max(
                  ...shown(piece)
                    .split('\n')
                    .map((l) => l.length),
                  3,
                ) + 1,
                22,
              )
            "
            :aria-label="`Piece ${i + 1}: fixed text`"
            spellcheck="false"
            @input="type(i, ($event.target as HTMLTextAreaElement).value)"
            @blur="emit('done')"
          />
          <span class="name">text</span>
        </template>
        <span v-if="styled" class="styles">
          <button
            type="button"
            :aria-pressed="piece.bold ?? false"
            :aria-label="`Piece ${i + 1} bold`"
            title="bold"
            @click="style(i, 'bold')"
          >
            <b>b</b>
          </button>
          <button
            type="button"
            :aria-pressed="piece.italic ?? false"
            :aria-label="`Piece ${i + 1} italic`"
            title="italic"
            @click="style(i, 'italic')"
          >
            <i>i</i>
          </button>
        </span>
        <button type="button" class="away" :aria-label="`Take piece ${i + 1} away`" @click="remove(i)">
          ×
        </button>
      </span>
      <NDropdown trigger="click" :options @select="add">
        <button type="button" class="plus" aria-label="Add a piece" aria-haspopup="menu">+</button>
      </NDropdown>
    </div>
    <p class="quiet whole" aria-live="polite">
      <template v-if="part?.says">“{{ isCode ? visible(part.says) : part.says }}” on this label.</template>
      <template v-else>Says nothing on this label.</template>
    </p>
    <PiecePanel
      v-if="openPiece"
      v-model:show="isOpen"
      :piece="openPiece"
      :value="part?.pieces?.[opened ?? 0]"
      :fields
      :answers="[...answers, ...numbers]"
      :others
      :record-set-id="recordSetId"
      :record
      @take="(made) => put(pieces.map((p, j) => (j === opened ? made : p)))"
    />
    <p v-if="isGS1" class="whole">
      <TextButton @click="building = true">Build it from GS1 identifiers…</TextButton>
      <Gs1Builder
        v-model:show="building"
        :pieces
        :fields="[...fields, ...answers, ...numbers]"
        :record-set-id="recordSetId"
        :record
        @take="put"
      />
    </p>
    <SheetRow name="If empty">
      <NSelect
        size="small"
        :value="element.ifEmpty ?? ''"
        :options="rules"
        :consistent-menu-width="false"
        aria-label="If it is empty"
        style="width: 118px"
        @update:value="(emit('change', { ifEmpty: $event }), emit('done'))"
      />
    </SheetRow>
  </section>
</template>

<style scoped>
.pieces {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 8px 0;
}
.piece {
  position: relative;
  max-width: 100%;
  padding: 4px 22px 3px 9px;
  border: 1px solid var(--control);
  border-radius: 6px;
  background: var(--raised);
}
.piece.field {
  background: var(--accent-soft);
  border-color: color-mix(in srgb, var(--accent) 35%, var(--paper));
}
.piece.gone {
  border-color: var(--bad);
  color: var(--bad);
}
.value {
  display: block;
  font-weight: 500;
  overflow-wrap: anywhere;
}
.name {
  display: block;
  font-size: 12px;
  color: var(--quiet);
}
textarea {
  display: block;
  max-width: 100%;
  padding: 0;
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 500;
  resize: none;
  overflow: hidden;
  field-sizing: content;
}
.piece.bold :is(.value, textarea) {
  font-weight: 800;
}
.piece.italic :is(.value, textarea) {
  font-style: italic;
}
.styles {
  position: absolute;
  right: 2px;
  bottom: 1px;
  display: none;
}
.piece:is(:hover, :focus-within) .styles,
.piece:is(.bold, .italic) .styles {
  display: flex;
}
.styles button {
  width: 20px;
  height: 20px;
  padding: 0;
  border: 0;
  border-radius: 4px;
  background: var(--raised);
  color: var(--quiet);
  font-size: 13px;
  line-height: 1;
  cursor: pointer;
}
.styles button[aria-pressed='true'] {
  background: var(--accent);
  color: var(--paper);
}
.more {
  padding: 0;
  border: 0;
  background: none;
  color: var(--accent);
  font: inherit;
  cursor: pointer;
}
.away {
  position: absolute;
  top: 1px;
  right: 2px;
  width: 18px;
  height: 18px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--quiet);
  font-size: 15px;
  line-height: 1;
  cursor: pointer;
}
.plus {
  width: 32px;
  min-height: 40px;
  border: 1px dashed var(--control);
  border-radius: 6px;
  background: none;
  color: var(--accent);
  font-size: 18px;
  cursor: pointer;
}
.whole {
  margin-bottom: 6px;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
</style>
