<script setup lang="ts">
import { NModal } from 'naive-ui'
import { ref, useId, watchEffect } from 'vue'

/** A panel before the page: its title, what it has, and its buttons below. */
defineProps<{ title: string; width: number }>()
const show = defineModel<boolean>('show', { required: true })
const id = useId()
/** One that is never opened costs the page nothing. */
const opened = ref(false)
watchEffect(() => {
  if (show.value) opened.value = true
})
</script>

<template>
  <NModal v-if="opened" v-model:show="show">
    <div
      class="panel"
      role="dialog"
      aria-modal="true"
      :aria-labelledby="id"
      :style="{ width: `min(${String(width)}px, 94vw)` }"
    >
      <h2 :id="id">{{ title }}</h2>
      <div class="inside"><slot /></div>
      <div class="foot"><slot name="foot" /></div>
    </div>
  </NModal>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  max-height: 96vh;
  padding: 16px 20px;
  border-radius: 8px;
  background: var(--paper);
}
.inside {
  flex: 0 1 auto;
  min-height: 0;
  margin: 0 -20px;
  padding: 2px 20px;
  overflow: auto;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 14px;
}
</style>
