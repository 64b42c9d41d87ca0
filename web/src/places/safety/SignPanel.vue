<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import SymbolGrid from './SymbolGrid.vue'
import { drawingOf, languages, signalWords } from './symbols'
import LayingDialog from './LayingDialog.vue'
import { type Laid, useLaying } from './useLaying'

/** A safety sign: its signal word, symbols and message, in type as large as the stock takes. */
const props = defineProps<{ design: Design }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [laid: Schemas['LaidOut'], how: Laid] }>()

const begin = {
  kind: 'danger',
  symbols: [] as string[],
  message: '',
  second: '',
  language: 'en',
  distance: null as number | null,
  light: 'lit',
}
const { spec, document, lay, laying } = useLaying(
  show,
  () => props.design,
  'sign',
  begin,
  (made, how) => {
    emit('take', made, how)
  },
)
const start = ref<string | null>(null)
const { problem: refused, doing } = useDoing()
const { data: texts, refresh } = useAsked((signal) =>
  show.value ? api.GET('/signs/texts', { signal }) : undefined,
)
const starts = computed(
  () =>
    texts.value?.map((t) => ({ value: t.message, label: t.id ? `${t.message} (ours)` : t.message })) ?? [],
)
/** The message that is said just now, where it is one of the plant's own. */
const ours = computed(() => texts.value?.find((t) => t.id && t.message === spec.value.message.trim()))
async function keep() {
  const { kind, symbols, message } = spec.value
  const { error } = await doing(() => api.POST('/signs/texts', { body: { kind, symbols, message } }))
  if (!error) await refresh()
}
async function forget(id: number) {
  await doing(() => api.DELETE('/signs/texts/{id}', { params: { path: { id } } }))
  await refresh()
}
function startWith(message: string | null) {
  const text = texts.value?.find((t) => t.message === message)
  if (text) spec.value = { ...spec.value, kind: text.kind, symbols: [...text.symbols], message: text.message }
}
function toggle(symbol: Schemas['Symbol']) {
  const has = spec.value.symbols.includes(symbol.id)
  spec.value.symbols = has
    ? spec.value.symbols.filter((id) => id !== symbol.id)
    : [...spec.value.symbols, symbol.id].slice(-3)
}
const lights = [
  { value: 'lit', label: 'lit' },
  { value: 'poor', label: 'dim' },
  { value: 'inside', label: 'lit from inside' },
]
async function take() {
  const { distance, ...rest } = spec.value
  await lay(api.POST('/safety/sign', { body: { document: document(), ...rest, distance: distance ?? 0 } }))
}
</script>

<template>
  <LayingDialog
    v-model:show="show"
    title="Safety sign"
    :width="980"
    :laying
    :ready="spec.message.trim() !== '' || spec.symbols.length > 0 || spec.kind !== ''"
    @take="take"
  >
    <div class="two">
      <div class="form">
        <label
          >Begin with
          <NSelect
            v-model:value="start"
            size="small"
            filterable
            clearable
            :options="starts"
            placeholder="a ready text"
            aria-label="Begin with"
            :input-props="{ 'aria-label': 'Look for a ready text' }"
            @update:value="startWith"
          />
        </label>
        <div class="pair">
          <label
            >Signal word
            <NSelect v-model:value="spec.kind" size="small" :options="signalWords" aria-label="Signal word" />
          </label>
          <label
            >in
            <NSelect
              v-model:value="spec.language"
              size="small"
              :options="languages"
              aria-label="Language of the signal word"
            />
          </label>
        </div>
        <label
          >Message
          <NInput
            v-model:value="spec.message"
            size="small"
            type="textarea"
            :autosize="{ minRows: 2 }"
            placeholder="what to do, or not to do"
            :input-props="{ 'aria-label': 'Message' }"
          />
        </label>
        <p v-if="spec.message.trim()" class="keep">
          <TextButton v-if="ours?.id" @click="forget(ours.id)"> Forget it as a ready text </TextButton>
          <TextButton v-else @click="keep">Keep it as a ready text</TextButton>
        </p>
        <p v-if="refused" class="bad" role="alert">{{ refused.text }}</p>
        <label
          >In another language
          <NInput
            v-model:value="spec.second"
            size="small"
            type="textarea"
            :autosize="{ minRows: 2 }"
            placeholder=""
            :input-props="{ 'aria-label': 'In another language' }"
          />
        </label>
        <div class="pair">
          <label
            >Read from
            <NInputNumber
              v-bind="requestBounds.SignRequest.distance"
              v-model:value="spec.distance"
              size="small"
              :show-button="false"
              placeholder="anywhere"
              :input-props="{ 'aria-label': 'Read from metres' }"
              ><template #suffix>m</template></NInputNumber
            >
          </label>
          <label
            >Light
            <NSelect v-model:value="spec.light" size="small" :options="lights" aria-label="Light" />
          </label>
        </div>
        <div v-if="spec.symbols.length" class="picked">
          <button
            v-for="id in spec.symbols"
            :key="id"
            type="button"
            :aria-label="`Leave ${id} out`"
            :title="`Leave ${id} out`"
            @click="spec.symbols = spec.symbols.filter((other) => other !== id)"
          >
            <img :src="drawingOf(id, design.reference)" alt="" width="48" height="48" />
          </button>
        </div>
      </div>
      <div><SymbolGrid :chosen="spec.symbols" :reference="design.reference" @pick="toggle" /></div>
    </div>
  </LayingDialog>
</template>

<style scoped src="./panels.css"></style>
<style scoped>
.picked {
  display: flex;
  gap: 8px;
}
.picked button {
  padding: 4px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--label);
  cursor: pointer;
}
</style>
