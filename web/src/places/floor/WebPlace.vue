<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '@/api/client'
import { plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { usePolled } from '@/shared/usePolled'

/** The web that came out of a printer, each label as printed, the latest first. */
const props = defineProps<{ printerId: number }>()
const router = useRouter()

const each = 24
const page = ref(0)
const {
  data: web,
  problem,
  refresh,
} = usePolled(
  () =>
    api.GET('/printers/{id}/web', {
      params: { path: { id: props.printerId }, query: { skip: -each * (page.value + 1), most: each } },
    }),
  1500,
)
const { data: printers } = usePolled(() => api.GET('/printers'), 60_000)
const printer = computed(() => printers.value?.find((p) => p.id === props.printerId))
const shown = computed(() => (web.value?.places ?? []).toReversed())

function turn(by: number) {
  page.value += by
  void refresh()
}
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>What came out of {{ printer?.name ?? 'the printer' }}</h1>
      <span v-if="web" class="quiet">{{ plural(web.total, 'label') }}, the latest first</span>
      <span class="room" />
      <NButton size="large" @click="router.push('/floor')">Back to the floor</NButton>
    </header>
    <ProblemNote v-if="problem" :problem />
    <div v-if="web && !web.total" class="empty"><p>Nothing came out yet.</p></div>
    <div v-else class="web">
      <figure v-for="place in shown" :key="place">
        <img :src="`/api/printers/${printerId}/web/${place}`" :alt="`Label ${place} as printed`" />
        <figcaption class="quiet number">{{ place }}</figcaption>
      </figure>
    </div>
    <nav v-if="web && web.total > each" class="pages" aria-label="Pages">
      <NButton :disabled="page === 0" @click="turn(-1)">Later labels</NButton>
      <NButton :disabled="(page + 1) * each >= web.total" @click="turn(1)">Earlier labels</NButton>
    </nav>
  </div>
</template>

<style scoped>
.web {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 10px 14px;
  padding: 14px 20px;
  background: var(--liner);
}
figure {
  margin: 0;
}
img {
  display: block;
  width: 100%;
  background: var(--label);
  border-radius: 8px;
}
figcaption {
  color: var(--on-liner);
  font-size: 13px;
}
.pages {
  display: flex;
  gap: 10px;
  padding: 14px 20px;
}
</style>
