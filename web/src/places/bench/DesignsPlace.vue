<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { type DropdownOption, NButton, NCheckbox, NDropdown, NInput, useMessage } from 'naive-ui'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, asForm, type Schemas } from '@/api/client'
import { moment } from '@/shared/format'
import AsReadNote from '@/shared/AsReadNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import NewDesign from './NewDesign.vue'

const route = useRoute()
const router = useRouter()
const message = useMessage()
const find = ref('')
const retired = ref(false)
const sought = refDebounced(find, 200)
const {
  data: designs,
  problem: unread,
  refresh: load,
} = useAsked((signal) =>
  api.GET('/designs', {
    params: { query: { find: sought.value.trim() || undefined, retired: retired.value || undefined } },
    signal,
  }),
)
const { problem, doing } = useDoing()

async function openFile(event: Event) {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  input.value = ''
  if (!file) return
  const { data } = await doing(() => api.POST('/designs/file', asForm(file)))
  if (data) await router.push(`/bench/${data.id}`)
}

const labelling = ref<{ id: number; of: 'name' | 'tags'; text: string }>()
async function label() {
  const now = labelling.value
  labelling.value = undefined
  if (!now) return
  const tags = now.text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean)
  const body = now.of === 'tags' ? { tags } : { name: now.text.trim() || undefined }
  await doing(() => api.PATCH('/designs/{id}', { params: { path: { id: now.id } }, body }))
  await load()
}

/** The design that could not be printed with records of now. */
const unreadOf = ref<Schemas['DesignEntry']>()
async function print(design: Schemas['DesignEntry'], asRead?: true) {
  const body = { designId: design.id, recordSetId: design.recordSetId, asRead }
  const { data, error } = await doing(() => api.POST('/runs', { body }))
  unreadOf.value = error?.asRead ? design : undefined
  if (data) await router.push(`/runs/${data.id}`)
}
async function act(key: string, design: Schemas['DesignEntry']) {
  const params = { params: { path: { id: design.id } } }
  if (key === 'print') {
    await print(design)
  } else if (key === 'versions') {
    await router.push(`/bench/${design.id}/versions`)
  } else if (key === 'name') {
    labelling.value = { id: design.id, of: 'name', text: design.name }
  } else if (key === 'tags') {
    labelling.value = { id: design.id, of: 'tags', text: design.tags.join(', ') }
  } else if (key === 'back') {
    await doing(() => api.POST('/designs/{id}/return', params))
    await load()
  } else if (key === 'file') {
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
const actions = computed<DropdownOption[]>(() =>
  retired.value
    ? [{ key: 'back', label: 'Bring back' }]
    : [
        { key: 'print', label: 'Print' },
        { key: 'name', label: 'Rename' },
        { key: 'tags', label: 'Tags' },
        { key: 'versions', label: 'Versions' },
        { key: 'copy', label: 'Copy' },
        { key: 'file', label: 'Save as a file' },
        { key: 'retire', label: 'Retire' },
      ],
)
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Designs</h1>
      <NInput
        v-model:value="find"
        size="small"
        clearable
        class="find"
        placeholder="name, tag, stock, field, words on it"
        :input-props="{ 'aria-label': 'Find designs' }"
      />
      <NCheckbox v-model:checked="retired">retired ones</NCheckbox>
      <span class="room" />
      <label class="open"
        ><span>Open a design file</span
        ><input type="file" accept=".zip,.json,application/zip,application/json" @change="openFile"
      /></label>
      <NButton type="primary" @click="router.replace({ query: { new: '1' } })">New design</NButton>
    </header>
    <AsReadNote :problem="problem ?? unread" @as-read="unreadOf && print(unreadOf, true)" />
    <NewDesign v-if="route.query.new !== undefined" @close="router.replace({ query: {} })" />
    <div v-if="designs && !designs.length" class="empty">
      <p v-if="sought || retired">No design is like that.</p>
      <p v-else>There is no design yet. Start one for a printer and the stock that is in it.</p>
    </div>
    <ul v-else class="designs">
      <li v-for="design in designs" :key="design.id">
        <component
          :is="retired ? 'div' : 'RouterLink'"
          :to="retired ? undefined : `/bench/${design.id}`"
          class="picture"
        >
          <img v-if="!retired" :src="design.picture" :alt="`First label of ${design.name}`" loading="lazy" />
        </component>
        <form v-if="labelling?.id === design.id" class="labelling" @submit.prevent="label">
          <NInput
            v-model:value="labelling.text"
            size="small"
            autofocus
            :maxlength="400"
            :placeholder="labelling.of === 'tags' ? 'tags, with commas between' : 'name'"
            :input-props="{
              'aria-label': labelling.of === 'tags' ? 'Tags, with commas between' : 'New name',
            }"
            @keydown.esc="labelling = undefined"
          />
          <NButton size="small" attr-type="submit">Take it</NButton>
        </form>
        <div class="words">
          <span v-if="retired" class="strong">{{ design.name }}</span>
          <RouterLink v-else :to="`/bench/${design.id}`" class="strong">{{ design.name }}</RouterLink>
          <NDropdown trigger="click" :options="actions" @select="(key: string) => act(key, design)">
            <TextButton :aria-label="`More with ${design.name}`" aria-haspopup="menu"> More </TextButton>
          </NDropdown>
        </div>
        <p class="quiet">{{ design.stock }} · {{ design.printer }}</p>
        <p v-if="design.tags.length" class="tags">
          <button v-for="tag in design.tags" :key="tag" type="button" @click="find = tag">{{ tag }}</button>
        </p>
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
  background: var(--label);
}
.words {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  margin-top: 8px;
}
.find {
  width: 280px;
}
.labelling {
  display: flex;
  gap: 6px;
  margin-top: 6px;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
}
.tags button {
  padding: 0 8px;
  border: 1px solid var(--control);
  border-radius: 9px;
  background: none;
  color: var(--ink);
  font: inherit;
  font-size: 12.5px;
  cursor: pointer;
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
