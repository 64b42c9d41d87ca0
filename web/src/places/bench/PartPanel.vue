<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed } from 'vue'
import type { Design, Element } from '@/api/documents'
import { plural } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'
import { type Part, sharedOf } from './parts'

/** A group as a part that several designs share: where else it is used, its newer version, and giving a change to all. */
const props = defineProps<{ design: Design; elements: readonly Element[]; parts: readonly Part[] }>()
const emit = defineEmits<{ share: []; take: [part: Part]; give: [part: Part] }>()

const group = computed(() => {
  const names = new Set(props.elements.map((e) => e.group ?? ''))
  return names.size === 1 ? ([...names][0] ?? '') : ''
})
const shared = computed(() => (group.value ? sharedOf(props.design, group.value) : undefined))
const part = computed(() => props.parts.find((p) => p.id === shared.value?.part))
const elsewhere = computed(() => (part.value?.uses ?? []).filter((u) => u.name !== props.design.name))
</script>

<template>
  <p v-if="group && !shared" class="row">
    <TextButton @click="emit('share')">Share it with other designs</TextButton>
  </p>
  <div v-else-if="shared && part" class="part">
    <p>
      Shared part “{{ part.name }}”, version {{ shared.version }}
      <span class="quiet">· in {{ plural(elsewhere.length, 'other design') }}</span>
    </p>
    <p v-if="part.version > shared.version" class="row">
      <NButton size="small" type="primary" @click="emit('take', part)"
        >Take version {{ part.version }}</NButton
      >
      <span class="quiet">by {{ part.updatedBy }}</span>
    </p>
    <p v-else class="row">
      <TextButton @click="emit('give', part)">Offer it as it is now to all</TextButton>
    </p>
    <ul v-if="elsewhere.length">
      <li v-for="use in elsewhere" :key="use.id">
        <RouterLink :to="`/bench/${use.id}`">{{ use.name }}</RouterLink>
        <span class="quiet"> has version {{ use.version }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
</style>
