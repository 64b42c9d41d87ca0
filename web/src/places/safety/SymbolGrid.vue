<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { NInput, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'

/** The symbols of the library, looked for by words and family; those used last come first. */
const props = defineProps<{
  chosen: readonly string[]
  /** Of which pack; the one in use where it is not said. */
  reference?: string
}>()
const emit = defineEmits<{ pick: [symbol: Schemas['Symbol']] }>()

const words = ref('')
const family = ref('')
const lately = useLocalStorage<string[]>('symbols', [])
const { data, problem } = useAsked((signal) =>
  api.GET('/symbols', {
    params: { query: { search: words.value || undefined, reference: props.reference } },
    signal,
  }),
)
const options = computed(() => [
  { value: '', label: 'all families' },
  ...[...new Set(data.value?.map((s) => s.family))].map((f) => ({ value: f, label: f })),
])
const shown = computed(() => {
  const all = (data.value ?? []).filter((s) => !family.value || s.family === family.value)
  if (words.value || family.value) return all
  const last = lately.value.flatMap((id) => all.find((s) => s.id === id) ?? [])
  return [...last, ...all.filter((s) => !lately.value.includes(s.id))]
})
function pick(symbol: Schemas['Symbol']) {
  lately.value = [symbol.id, ...lately.value.filter((id) => id !== symbol.id)].slice(0, 12)
  emit('pick', symbol)
}
</script>

<template>
  <div class="find">
    <NInput
      v-model:value="words"
      size="small"
      clearable
      placeholder="slippery, eye wash, W012"
      :input-props="{ 'aria-label': 'Look for a symbol' }"
    />
    <NSelect v-model:value="family" size="small" :options aria-label="Family" class="family" />
  </div>
  <ProblemNote v-if="problem" :problem />
  <ul class="grid">
    <li v-for="symbol in shown" :key="symbol.id">
      <button
        type="button"
        class="symbol"
        :class="{ chosen: props.chosen.includes(symbol.id) }"
        :aria-pressed="props.chosen.includes(symbol.id)"
        :title="`${symbol.means}. ${symbol.standard}`"
        @click="pick(symbol)"
      >
        <img :src="symbol.drawing" alt="" width="56" height="56" loading="lazy" />
        <span class="number">{{ symbol.number }}</span>
        <span class="name">{{ symbol.name }}</span>
      </button>
    </li>
  </ul>
  <p v-if="data && !shown.length" class="quiet">No symbol answers that. Try another word for it.</p>
</template>

<style scoped>
.find {
  display: flex;
  gap: 10px;
  margin-bottom: 10px;
}
.family {
  width: 170px;
  flex: none;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 8px;
}
.symbol {
  display: grid;
  justify-items: center;
  gap: 2px;
  width: 100%;
  height: 100%;
  align-content: start;
  padding: 8px 4px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.symbol.chosen {
  border-color: var(--accent);
  background: var(--accent-soft);
}
.symbol img {
  padding: 4px;
  background: var(--label);
  border-radius: 4px;
}
.number {
  font-size: 12px;
  color: var(--quiet);
}
.name {
  font-size: 12px;
  line-height: 15px;
  text-align: center;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
}
</style>
