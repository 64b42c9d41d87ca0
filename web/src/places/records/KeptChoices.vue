<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'

/** Choices that are kept by name for record sets of a name: each is used again on whatever records come later. */
const props = defineProps<{ set: string }>()
const choosing = defineModel<Schemas['Choosing']>({ required: true })
const { data: kept, refresh } = useAsked((signal) =>
  api.GET('/choices', { params: { query: { set: props.set } }, signal }),
)
const { problem, doing } = useDoing()
const isAll = computed(() => Object.values(choosing.value).every((v) => v === undefined))
const used = computed(() =>
  kept.value?.find((k) => JSON.stringify(k.choosing) === JSON.stringify(choosing.value)),
)
const naming = ref<string>()

async function keep() {
  const body = { set: props.set, name: naming.value ?? '', choosing: choosing.value }
  const { data } = await doing(() => api.POST('/choices', { body }))
  if (!data) return
  naming.value = undefined
  choosing.value = { ...data.choosing }
  await refresh()
}
async function forget(id: number) {
  await doing(() => api.DELETE('/choices/{id}', { params: { path: { id } } }))
  await refresh()
}
</script>

<template>
  <form v-if="naming !== undefined" class="kept" @submit.prevent="keep">
    <NInput
      v-model:value="naming"
      size="small"
      autofocus
      placeholder="late shift"
      :input-props="{ 'aria-label': 'Name of the choice' }"
    />
    <NButton size="small" attr-type="submit" :disabled="!naming.trim()">Keep it</NButton>
    <TextButton @click="naming = undefined">Not now</TextButton>
  </form>
  <span v-else class="kept">
    <NSelect
      v-if="kept?.length"
      size="small"
      :value="used?.id ?? null"
      :options="kept.map((k) => ({ value: k.id, label: k.name }))"
      placeholder="kept choices"
      aria-label="Kept choices"
      class="which"
      @update:value="choosing = { ...kept.find((k) => k.id === $event)?.choosing }"
    />
    <TextButton v-if="used" @click="forget(used.id)">Forget it</TextButton>
    <TextButton v-else-if="!isAll" @click="naming = ''">Keep the choice…</TextButton>
    <span v-if="problem" class="bad" role="alert">{{ problem.text }}</span>
  </span>
</template>

<style scoped>
.kept {
  display: flex;
  align-items: center;
  gap: 10px;
}
.which {
  width: 150px;
}
</style>
