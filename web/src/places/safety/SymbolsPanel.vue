<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import SymbolGrid from './SymbolGrid.vue'

/** A symbol of the library for the label, or one's own, brought in. */
const show = defineModel<boolean>('show', { required: true })
defineProps<{ reference?: string }>()
const emit = defineEmits<{ take: [symbol: Schemas['Symbol']] }>()
function pick(symbol: Schemas['Symbol']) {
  show.value = false
  emit('take', symbol)
}

const { problem, doing } = useDoing()
const bringing = ref(false)
const own = ref({ svg: '', name: '', means: '', words: '' })
watch(show, () => {
  bringing.value = false
  own.value = { svg: '', name: '', means: '', words: '' }
})
async function read(event: Event) {
  const [file] = (event.target as HTMLInputElement).files ?? []
  if (!file) return
  own.value.svg = await file.text()
  own.value.name ||= file.name.replace(/\.svg$/i, '')
}
async function bringIn() {
  const { data } = await doing(() => api.POST('/symbols', { body: own.value }))
  if (data) pick(data)
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Symbol" :width="860">
    <form v-if="bringing" class="form own" @submit.prevent="bringIn">
      <p class="quiet small">
        An SVG of a square, its shapes black #000000, white #FFFFFF, red #C8102E, yellow #F7C600, blue
        #1D5FA8, green #1F7A4D or orange #E87722: they become the inks of those names.
      </p>
      <label>Drawing <input type="file" accept=".svg,image/svg+xml" @change="read" /></label>
      <label
        >Name
        <NInput v-model:value="own.name" size="small" :input-props="{ 'aria-label': 'Name of the symbol' }"
      /></label>
      <label
        >Meaning
        <NInput
          v-model:value="own.means"
          size="small"
          placeholder=""
          :input-props="{ 'aria-label': 'Meaning' }"
      /></label>
      <label
        >Words to find it by
        <NInput
          v-model:value="own.words"
          size="small"
          placeholder=""
          :input-props="{ 'aria-label': 'Words to find it by' }"
      /></label>
      <ProblemNote v-if="problem" :problem />
    </form>
    <SymbolGrid v-else-if="show" :chosen="[]" :reference @pick="pick" />
    <template #foot>
      <template v-if="bringing">
        <NButton type="primary" :disabled="!own.svg || !own.name.trim()" @click="bringIn"
          >Bring it in</NButton
        >
        <NButton @click="bringing = false">Back</NButton>
      </template>
      <template v-else>
        <NButton @click="bringing = true">Bring your own in</NButton>
        <NButton @click="show = false">Not now</NButton>
      </template>
    </template>
  </PanelDialog>
</template>

<style scoped src="./panels.css"></style>
<style scoped>
.own {
  max-width: 460px;
}
</style>
