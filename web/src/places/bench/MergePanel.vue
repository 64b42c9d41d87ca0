<script setup lang="ts">
import { NButton, NRadio, NRadioGroup } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'

/** What two people changed at the same time, each in their own way: element by element, one or the other. */
const props = defineProps<{ clashes: readonly Schemas['Clash'][]; who: string }>()
const emit = defineEmits<{ take: [whose: Record<string, 'mine' | 'theirs'>] }>()

const chosen = ref<Record<string, 'mine' | 'theirs'>>({})
const all = computed(() => props.clashes.every((c) => chosen.value[c.element]))
</script>

<template>
  <form class="merge" aria-label="Put both together" @submit.prevent="emit('take', chosen)">
    <div v-for="clash in clashes" :key="clash.element" class="clash">
      <span class="strong">{{ clash.element || 'The whole' }}</span>
      <NRadioGroup v-model:value="chosen[clash.element]" :name="`clash ${clash.element}`">
        <NRadio value="mine">mine: {{ clash.mine }}</NRadio>
        <NRadio value="theirs">{{ who }}’s: {{ clash.theirs }}</NRadio>
      </NRadioGroup>
    </div>
    <NButton size="small" type="primary" attr-type="submit" :disabled="!all">Put both together so</NButton>
  </form>
</template>

<style scoped>
.merge {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
  margin-top: 8px;
  max-height: 40vh;
  overflow: auto;
}
.clash :deep(.n-radio) {
  display: flex;
  align-items: flex-start;
  white-space: normal;
}
</style>
