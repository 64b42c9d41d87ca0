<script setup lang="ts">
import { NButton, NPopconfirm } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'

/** Goes: a sample, the rest, or all again. */
const props = defineProps<{
  printed: number
  printable: number
  leftOut: number
  loaded: boolean
  askFrom: number
}>()
const emit = defineEmits<{ print: [kind: Schemas['StartPrint']['kind'], labels?: string] }>()

const rest = computed(() => props.printable - props.printed)
const sampleSize = computed(() => Math.min(3, props.printable + props.leftOut))
</script>

<template>
  <NButton
    v-if="printed === 0"
    size="large"
    ghost
    type="primary"
    :disabled="!printable || !loaded"
    @click="emit('print', 'sample', `1-${sampleSize}`)"
  >
    Print {{ sampleSize }} as a sample
  </NButton>
  <NButton
    v-else
    size="large"
    ghost
    type="primary"
    :disabled="!printable || !loaded"
    @click="emit('print', 'all')"
    >Print all {{ count(printable) }} again</NButton
  >
  <span class="room" />
  <span v-if="leftOut" class="quiet">leaves out the {{ plural(leftOut, 'label') }} with errors</span>
  <LevelText v-if="rest <= 0 && printable" level="fine" class="strong"
    >All {{ count(printable) }} are printed</LevelText
  >
  <NPopconfirm
    v-else-if="rest >= askFrom && loaded"
    positive-text="Print them"
    negative-text="Not now"
    @positive-click="emit('print', 'rest')"
  >
    <template #trigger>
      <NButton size="large" type="primary" class="main"
        >Print {{ printed ? `the other ${count(rest)}` : count(rest) }}</NButton
      >
    </template>
    {{ plural(rest, 'label') }} will be printed. Is that the number you want?
  </NPopconfirm>
  <NButton
    v-else
    size="large"
    type="primary"
    class="main"
    :disabled="rest <= 0 || !loaded"
    @click="emit('print', 'rest')"
  >
    Print {{ printed ? `the other ${count(rest)}` : count(rest) }}
  </NButton>
</template>

<style scoped>
.room {
  flex: 1;
}
.main {
  font-size: 16px;
  padding: 0 24px;
}
</style>
