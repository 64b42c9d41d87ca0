<script setup lang="ts">
import { NButton, NPopconfirm } from 'naive-ui'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'

/** What is printed day after day, started with one gesture. */
const router = useRouter()
const { data: orders, refresh } = useAsked(() => api.GET('/orders-of-the-day'))
const { problem, busy, doing } = useDoing()

async function start(order: Schemas['DayOrder']) {
  const path = { params: { path: { id: order.id } } }
  const { data } = await doing(() => api.POST('/orders-of-the-day/{id}/start', path))
  if (data) await router.push({ path: `/runs/${String(data.id)}`, query: data.why ? { why: data.why } : {} })
}
async function forget(order: Schemas['DayOrder']) {
  await doing(() => api.DELETE('/orders-of-the-day/{id}', { params: { path: { id: order.id } } }))
  await refresh()
}
</script>

<template>
  <section v-if="orders?.length" class="list" aria-labelledby="orders">
    <h2 id="orders">Orders of the day</h2>
    <ProblemNote :problem />
    <ul>
      <li v-for="o in orders" :key="o.id">
        <span class="picture"><img :src="o.picture" alt="" loading="lazy" /></span>
        <span class="what">
          <b>{{ o.name }}</b>
          <span class="quiet block">
            <RouterLink :to="`/bench/${o.designId}`">{{ o.design }}</RouterLink><template v-if="o.recordSet">
              · newest {{ o.recordSet }}, {{ o.records ? `records ${o.records}` : 'all' }}</template
            >
            <template v-if="o.printer"> · {{ o.printer }}</template>
          </span>
        </span>
        <NPopconfirm positive-text="Forget it" negative-text="Not now" @positive-click="forget(o)">
          <template #trigger><TextButton :aria-label="`Forget ${o.name}`">Forget</TextButton></template>
          “{{ o.name }}” is no longer offered here. Its runs stay.
        </NPopconfirm>
        <NButton
          size="large"
          type="primary"
          :disabled="busy"
          :aria-label="`Print ${o.name}`"
          @click="start(o)"
          >Print</NButton
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.list {
  padding: 12px 20px;
  border-bottom: 1px solid var(--line);
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 28px;
}
li {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 0;
}
.block {
  display: block;
}
.picture {
  flex: none;
  padding: 4px;
  background: var(--liner);
}
.picture img {
  display: block;
  width: 64px;
  max-height: 44px;
  object-fit: contain;
  border-radius: 2px;
}
</style>
