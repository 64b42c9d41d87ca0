<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInput, NInputNumber, NPopconfirm, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import { kinds, usualPorts } from './connections'

/** Where records are kept outside, and as whom they are asked for; without one, a new connection. */
const props = defineProps<{ connection?: Schemas['Connection']; kind: Schemas['ConnectionKind'] }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ kept: [connection: Schemas['Connection']]; closed: [] }>()

const { problem, busy, doing } = useDoing()
const name = ref('')
const place = ref<Schemas['Place']>({ kind: 'postgresql' })
const password = ref('')
watch(
  show,
  (now) => {
    if (!now) return
    problem.value = undefined
    name.value = props.connection?.name ?? ''
    place.value = { tls: 'checked', ...(props.connection?.place ?? { kind: props.kind }) }
    password.value = ''
  },
  { immediate: true },
)

const isServer = computed(() => place.value.kind in usualPorts)
const network = [
  { value: 'checked', label: 'encrypted, and its certificate checked' },
  { value: 'encrypted', label: 'encrypted, whoever answers' },
  { value: 'plain', label: 'as it is, readable on the way' },
]

async function keep(untried?: true) {
  const body: Schemas['PutConnection'] = { name: name.value, place: place.value, untried }
  if (password.value) body.password = password.value
  const id = props.connection?.id
  const { data } = await doing(() =>
    id === undefined
      ? api.POST('/connections', { body })
      : api.PUT('/connections/{id}', { params: { path: { id } }, body }),
  )
  if (!data) return
  show.value = false
  emit('kept', data)
}
async function close() {
  const id = props.connection?.id ?? 0
  const { error } = await doing(() => api.DELETE('/connections/{id}', { params: { path: { id } } }))
  if (error) return
  show.value = false
  emit('closed')
}
</script>

<template>
  <PanelDialog
    v-model:show="show"
    :title="connection ? 'Change the connection' : 'A new connection'"
    :width="640"
  >
    <ProblemNote :problem />
    <form id="connection" class="fields" @submit.prevent="keep()">
      <label
        >Name
        <NInput v-model:value="name" placeholder="Shed database" :input-props="{ 'aria-label': 'Name' }"
      /></label>
      <label
        >What it is <NSelect v-model:value="place.kind" :options="kinds" aria-label="What it is"
      /></label>
      <template v-if="isServer">
        <label
          >Machine
          <NInput
            :input-props="{ 'aria-label': 'Machine' }"
            :value="place.host"
            placeholder="db.plant.example"
            @update:value="place.host = $event"
        /></label>
        <label
          >Port
          <NInputNumber
            v-bind="requestBounds.Place.port"
            :input-props="{ 'aria-label': 'Port' }"
            :value="place.port || null"
            :show-button="false"
            :placeholder="String(usualPorts[place.kind])"
            @update:value="place.port = $event ?? undefined"
        /></label>
        <label
          >Database
          <NInput
            :input-props="{ 'aria-label': 'Database' }"
            :value="place.database"
            placeholder="plant"
            @update:value="place.database = $event"
        /></label>
        <label
          >Its name for Odd Spool
          <NInput
            :input-props="{ 'aria-label': 'Its name for Odd Spool' }"
            :value="place.user"
            placeholder="oddspool_reader"
            @update:value="place.user = $event"
        /></label>
      </template>
      <label v-if="place.kind === 'desk'" class="wide"
        >Address
        <NInput
          :input-props="{ 'aria-label': 'Address' }"
          :value="place.address"
          placeholder="https://desk.plant.example/api"
          @update:value="place.address = $event"
      /></label>
      <label v-if="place.kind === 'sqlite' || place.kind === 'files'" class="wide"
        >{{ place.kind === 'files' ? 'Folder' : 'File' }}, under the server’s folder of files
        <NInput
          :input-props="{ 'aria-label': place.kind === 'files' ? 'Folder' : 'File' }"
          :value="place.path"
          :placeholder="place.kind === 'files' ? 'all of it' : 'shed/plant.db'"
          @update:value="place.path = $event"
      /></label>
      <label v-if="isServer || place.kind === 'desk'"
        >{{ place.kind === 'desk' ? 'Token' : 'Password' }}
        <NInput
          v-model:value="password"
          type="password"
          :placeholder="connection?.secret ? 'as it was' : ''"
          :input-props="{
            autocomplete: 'new-password',
            'aria-label': place.kind === 'desk' ? 'Token' : 'Password',
          }"
      /></label>
      <label v-if="isServer"
        >Over the network <NSelect v-model:value="place.tls" :options="network" aria-label="Over the network"
      /></label>
    </form>
    <p v-if="isServer" class="quiet">
      Odd Spool only reads. Have it known by a name that may do no more; its password is kept encrypted and
      never shown.
    </p>
    <template #foot>
      <NButton type="primary" attr-type="submit" form="connection" :loading="busy"
        >Try it and keep it</NButton
      >
      <NButton v-if="problem" @click="keep(true)">Keep it untried</NButton>
      <NButton @click="show = false">Not now</NButton>
      <span class="room" />
      <NPopconfirm v-if="connection" positive-text="Close it" negative-text="Keep it" @positive-click="close">
        <template #trigger><NButton>Close the connection</NButton></template>
        Its password is forgotten. Records that were read there stay.
      </NPopconfirm>
    </template>
  </PanelDialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 16px;
  margin: 10px 0;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.wide {
  grid-column: span 2;
}
.room {
  flex: 1;
}
</style>
