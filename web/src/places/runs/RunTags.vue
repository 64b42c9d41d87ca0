<script setup lang="ts">
import { NButton } from 'naive-ui'
import { ref } from 'vue'
import { api } from '@/api/client'
import { count, moment } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'

/** What became of the chips of a run's labels: each as it came under the head. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ runId: number; total: number }>()
const skip = ref(0)
const most = 100
const { data: tags, problem } = useAsked((signal) =>
  show.value
    ? api.GET('/runs/{id}/tags', {
        params: { path: { id: props.runId }, query: { skip: skip.value, most } },
        signal,
      })
    : undefined,
)
</script>

<template>
  <PanelDialog v-model:show="show" title="Chips of this run" :width="960">
    <ProblemNote v-if="problem" :problem />
    <div v-if="tags?.length" class="each" tabindex="0" role="region" aria-label="Chips, one by one">
      <table class="plain">
        <thead>
          <tr>
            <th>Label</th>
            <th>What became of it</th>
            <th>Identifier</th>
            <th>Chip</th>
            <th>When</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(t, i) in tags" :key="i">
            <td>{{ count(t.label) }}</td>
            <td>
              <LevelText v-if="t.outcome === 'written'" level="fine">written and read back</LevelText>
              <LevelText v-else level="warning">void. {{ t.why }}</LevelText>
            </td>
            <td>
              <code>{{ t.outcome === 'written' ? t.epc : '—' }}</code>
            </td>
            <td>
              <code>{{ t.tid || '—' }}</code>
            </td>
            <td class="quiet">{{ moment(t.at) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <template #foot>
      <NButton v-if="skip" @click="skip -= most">Earlier</NButton>
      <NButton v-if="skip + most < total" @click="skip += most">Later</NButton>
      <NButton @click="show = false">Close</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.each {
  max-height: 62vh;
  overflow: auto;
}
code {
  overflow-wrap: anywhere;
  font-size: 12.5px;
}
</style>
