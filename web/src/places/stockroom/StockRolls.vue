<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInput, NInputNumber } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import { amount, count } from '@/shared/format'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'

/** The rolls of a stock that lie in the Stockroom, with what is left on each. */
const props = defineProps<{ stock: string; unit: 'labels' | 'sheets' | 'length'; full: number }>()
const { problem, doing } = useDoing()
const { data: rolls, refresh } = useAsked((signal) =>
  api.GET('/rolls', { params: { query: { stock: props.stock } }, signal }),
)
/** A tape is told in metres and kept in micrometres. */
const per = computed(() => (props.unit === 'length' ? 1_000_000 : 1))
const words = computed(() => ({ labels: 'pieces', sheets: 'sheets', length: 'm' })[props.unit])
const how = ref<number | null>(1)
const left = ref<number | null>(null)
const place = ref('')
watch(
  () => [props.stock, props.full],
  () => (left.value = props.full ? Math.round((props.full / per.value) * 10) / 10 : null),
  { immediate: true },
)
const alike = computed(() => {
  const groups = new Map<string, { ids: number[]; left: number; place: string }>()
  for (const r of rolls.value ?? []) {
    const key = `${String(r.left)} ${r.place}`
    const group = groups.get(key) ?? { ids: [], left: r.left, place: r.place }
    group.ids.push(r.id)
    groups.set(key, group)
  }
  return [...groups.values()]
})
async function add() {
  const body = {
    stock: props.stock,
    rolls: how.value ?? 1,
    left: Math.round((left.value ?? 0) * per.value),
    place: place.value,
  }
  const { error } = await doing(() => api.POST('/rolls', { body }))
  if (!error) place.value = ''
  await refresh()
}
async function take(id: number) {
  await doing(() => api.DELETE('/rolls/{id}', { params: { path: { id } } }))
  await refresh()
}
</script>

<template>
  <section aria-labelledby="on-hand">
    <h3 id="on-hand">{{ unit === 'sheets' ? 'Stacks' : 'Rolls' }} that lie ready</h3>
    <ul>
      <li v-for="g in alike" :key="g.ids[0]">
        <span
          >{{ count(g.ids.length) }} of {{ amount(g.left, unit)
          }}{{ unit === 'length' ? '' : ` ${words}` }}</span
        >
        <span class="quiet">{{ g.place }}</span>
        <TextButton @click="take(g.ids[0]!)">Take one away</TextButton>
      </li>
    </ul>
    <form @submit.prevent="left && add()">
      <NInputNumber
        v-bind="requestBounds.AddRolls.rolls"
        v-model:value="how"
        size="small"
        class="how"
        :show-button="false"
        :input-props="{ 'aria-label': 'How many' }"
      />
      of
      <NInputNumber
        v-model:value="left"
        size="small"
        class="left"
        :min="requestBounds.AddRolls.left.min / per"
        :show-button="false"
        :input-props="{ 'aria-label': 'What is on each' }"
        ><template #suffix>{{ words }}</template></NInputNumber
      >
      <NInput
        v-model:value="place"
        size="small"
        class="where"
        placeholder="where"
        :input-props="{ 'aria-label': 'Where they lie', maxlength: 200 }"
      />
      <NButton size="small" attr-type="submit" :disabled="!left || !how">Note</NButton>
    </form>
    <p v-if="problem" class="bad" role="alert">{{ problem.text }}</p>
  </section>
</template>

<style scoped>
h3 {
  margin: 14px 0 4px;
  font-size: 13px;
  color: var(--quiet);
}
li {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  padding: 5px 0;
  border-bottom: 1px dotted var(--control);
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  margin-top: 6px;
}
.how {
  flex: none;
  width: 44px;
}
.left {
  flex: none;
  width: 108px;
}
.where {
  flex: 1 1 90px;
  width: auto;
}
</style>
