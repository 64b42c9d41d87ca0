<script setup lang="ts">
import { type DropdownOption, NButton, NDropdown, useMessage } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { moment } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import NewDesign from './NewDesign.vue'

const route = useRoute()
const router = useRouter()
const message = useMessage()
const { data: designs, problem: unread, refresh: load } = useAsked(() => api.GET('/designs'))
const { problem, doing } = useDoing()

async function openFile(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  let document: Schemas['Document']
  try {
    document = JSON.parse(await file.text()) as Schemas['Document']
  } catch {
    problem.value = {
      status: 422,
      text: `${file.name} is not a design file: it is no JSON. Choose one that was saved by Odd Spool.`,
    }
    return
  }
  const { data } = await doing(() => api.POST('/designs', { body: { document } }))
  if (data) await router.push(`/bench/${data.id}`)
}

async function act(key: string, design: Schemas['DesignEntry']) {
  const params = { params: { path: { id: design.id } } }
  if (key === 'file') {
    window.location.href = `/api/designs/${design.id}/file`
  } else if (key === 'copy') {
    const { data } = await doing(() => api.GET('/designs/{id}', params))
    if (!data) return
    const body = {
      name: `${design.name}, copy`,
      document: data.document,
      recordSetId: data.recordSetId,
      printerId: data.printerId,
    }
    await doing(() => api.POST('/designs', { body }))
    await load()
  } else {
    const { error } = await doing(() => api.DELETE('/designs/{id}', params))
    if (!error) message.info(`${design.name} was retired. What was printed of it stays.`)
    await load()
  }
}
const actions: DropdownOption[] = [
  { key: 'copy', label: 'Copy' },
  { key: 'file', label: 'Save as a file' },
  { key: 'retire', label: 'Retire' },
]
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Designs</h1>
      <span class="room" />
      <label class="open"
        ><span>Open a design file</span><input type="file" accept=".json,application/json" @change="openFile"
      /></label>
      <NButton type="primary" @click="router.replace({ query: { new: '1' } })">New design</NButton>
    </header>
    <ProblemNote :problem="problem ?? unread" />
    <NewDesign v-if="route.query.new !== undefined" @close="router.replace({ query: {} })" />
    <div v-if="designs && !designs.length" class="empty">
      <p>There is no design yet. Start one for a printer and the stock that is in it.</p>
    </div>
    <ul v-else class="designs">
      <li v-for="design in designs" :key="design.id">
        <RouterLink :to="`/bench/${design.id}`" class="picture">
          <img :src="design.picture" :alt="`First label of ${design.name}`" loading="lazy" />
        </RouterLink>
        <div class="words">
          <RouterLink :to="`/bench/${design.id}`" class="strong">{{ design.name }}</RouterLink>
          <NDropdown trigger="click" :options="actions" @select="(key: string) => act(key, design)">
            <button
              type="button"
              class="linklike"
              :aria-label="`More with ${design.name}`"
              aria-haspopup="menu"
            >
              More
            </button>
          </NDropdown>
        </div>
        <p class="quiet">{{ design.stock }} · {{ design.printer }}</p>
        <p class="quiet">
          {{ design.version ? `version ${design.version} · ` : '' }}{{ moment(design.updatedAt) }} by
          {{ design.updatedBy }}
        </p>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.designs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 22px;
  padding: 20px;
}
.picture {
  display: grid;
  place-items: center;
  height: 168px;
  padding: 10px;
  background: var(--liner);
  border: 1px solid var(--liner-edge);
}
.picture img {
  max-width: 100%;
  max-height: 146px;
  border-radius: 5px;
  background: #fff;
}
.words {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  margin-top: 8px;
}
.open span {
  color: var(--accent);
  font-weight: 500;
  cursor: pointer;
}
.open input {
  position: absolute;
  width: 1px;
  opacity: 0;
}
.open:focus-within span {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
</style>
