<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import type { Design } from '@/api/documents'
import { designBounds } from '@/api/bounds'
import { plural } from '@/shared/format'
import PanelDialog from '@/shared/PanelDialog.vue'

/** In which language the fixed words of a design stand on a label, and what they are called in each. */
type Languages = NonNullable<Design['languages']>
const props = defineProps<{ design: Design; fields: readonly string[]; answers: readonly string[] }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [languages: Languages | undefined] }>()

const field = ref<string | null>(null)
const own = ref('')
const others = ref('')
const words = ref<Record<string, Record<string, string>>>({})
watch(show, (now) => {
  if (!now) return
  const kept = props.design.languages
  field.value = kept?.field ?? null
  own.value = kept?.own ?? 'en'
  words.value = Object.fromEntries((kept?.words ?? []).map((w) => [w.text.trim(), { ...w.in }]))
  others.value = [...new Set((kept?.words ?? []).flatMap((w) => Object.keys(w.in)))].join(', ')
})

const names = computed(() => [...new Set(others.value.split(/[\s,;]+/).filter(Boolean))])
/** Fixed words that have a letter, each once; the spaces and lines around them stand in all languages. */
const texts = computed(() => {
  const said = props.design.elements
    .filter((e) => e.kind === 'text')
    .flatMap((e) => e.says ?? [])
    .map((p) => (p.field || p.formula || p.element ? '' : (p.text ?? '').trim()))
  return [...new Set(said.filter((text) => /\p{L}/u.test(text)))]
})
const missing = computed(
  () => texts.value.flatMap((text) => names.value.filter((name) => !words.value[text]?.[name])).length,
)
const options = computed(() => [
  ...props.fields.map((value) => ({ value, label: value })),
  ...props.answers.map((value) => ({ value, label: `${value} (a question)` })),
])
function write(text: string, name: string, said: string) {
  words.value = { ...words.value, [text]: { ...words.value[text], [name]: said } }
}
function take() {
  if (!field.value) return
  const list = texts.value.map((text) => ({
    text,
    in: Object.fromEntries(names.value.map((name) => [name, words.value[text]?.[name] ?? ''])),
  }))
  emit('take', { field: field.value, own: own.value.trim(), words: list })
  show.value = false
}
function end() {
  emit('take', undefined)
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Languages" :width="880">
    <p class="quiet">
      The words of a label stand in the language that its record names, or that is answered before a run. What
      records say stays as it is; codes say the same in all.
    </p>
    <div class="top">
      <label
        >The language is in
        <NSelect
          v-model:value="field"
          size="small"
          :options
          placeholder="a field, or a question"
          aria-label="The language is in"
      /></label>
      <label
        >They are written in
        <NInput
          v-model:value="own"
          :maxlength="designBounds.Design['languages.own'].maxlength"
          size="small"
          :input-props="{ 'aria-label': 'They are written in' }"
      /></label>
      <label
        >Other languages
        <NInput
          v-model:value="others"
          size="small"
          placeholder="de, fr"
          :input-props="{ 'aria-label': 'Other languages' }"
      /></label>
    </div>
    <p v-if="!texts.length" class="quiet">There are no fixed words on this label yet.</p>
    <table v-else-if="names.length" class="plain">
      <thead>
        <tr>
          <th>{{ own }}</th>
          <th v-for="name in names" :key="name">{{ name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="text in texts" :key="text">
          <td>{{ text }}</td>
          <td v-for="name in names" :key="name">
            <NInput
              size="small"
              :value="words[text]?.[name] ?? ''"
              :maxlength="designBounds.Design['languages.words.in'].maxlength"
              :status="words[text]?.[name] ? undefined : 'warning'"
              placeholder=""
              :input-props="{ 'aria-label': `${text} in ${name}` }"
              @update:value="write(text, name, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="names.length && texts.length" role="status">
      <span v-if="missing" class="warn"
        >▲ {{ plural(missing, 'text') }} missing: a label in that language is not printed.</span
      >
      <span v-else class="good">✓ all are there</span>
    </p>
    <template #foot>
      <NButton type="primary" :disabled="!field || !own.trim()" @click="take">Take them so</NButton>
      <NButton @click="show = false">Not now</NButton>
      <NButton v-if="design.languages" @click="end">One language only</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: 2fr 1fr 2fr;
  gap: 12px;
  margin: 10px 0;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
td:first-child {
  max-width: 260px;
  white-space: pre-wrap;
}
</style>
