<script setup lang="ts">
import { NButton } from 'naive-ui'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import type { Laying } from './useLaying'

/** A panel that lays a label out: what is asked, what stands against the layout, and the button that puts it on the label. */
defineProps<{ title: string; width: number; laying: Laying; ready?: boolean }>()
const show = defineModel<boolean>('show', { required: true })
defineEmits<{ take: [] }>()
</script>

<template>
  <PanelDialog v-model:show="show" :title :width>
    <slot />
    <template #foot>
      <div class="said">
        <ProblemNote v-if="laying.problem.value" :problem="laying.problem.value" />
        <div
          v-if="laying.answer.value && (laying.answer.value.notes.length || !laying.answer.value.fits)"
          class="warn"
          role="status"
        >
          <p v-for="note in laying.answer.value.notes" :key="note">▲ {{ note }}</p>
          <p v-if="laying.answer.value.larger">
            The smallest stock here that takes all of it: {{ laying.answer.value.larger }}.
          </p>
        </div>
      </div>
      <NButton type="primary" :disabled="!ready" @click="$emit('take')">Put it on the label</NButton>
      <NButton @click="show = false">Close</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.said {
  flex: 1 0 100%;
}
.said:empty {
  display: none;
}
.warn {
  color: var(--warn);
}
</style>
