<script setup lang="ts">
import { NButton, NModal } from 'naive-ui'
import { api, type Schemas } from '@/api/client'
import { asDocument, type Design } from '@/api/documents'
import { lengthText } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import LevelText from '@/shared/LevelText.vue'

/** Which symbologies hold what a code says on all records, the smallest on this label first. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{
  document: Design
  elementId: string
  recordSetId: number | undefined
  guides: readonly Schemas['Symbology'][]
}>()
const emit = defineEmits<{ take: [symbology: string] }>()

const { data: ranking, problem } = useAsked((signal) =>
  show.value
    ? api.POST('/symbologies/rank', {
        body: {
          document: asDocument(props.document),
          element: props.elementId,
          recordSetId: props.recordSetId,
        },
        signal,
      })
    : undefined,
)
const nameOf = (id: string) => props.guides.find((g) => g.id === id)?.name ?? id
function take(id: string) {
  show.value = false
  emit('take', id)
}
</script>

<template>
  <NModal v-model:show="show">
    <div class="panel" role="dialog" aria-modal="true" aria-labelledby="which-suits">
      <div class="top">
        <h2 id="which-suits">Which symbology suits</h2>
        <NButton size="small" @click="show = false">Close</NButton>
      </div>
      <ProblemNote v-if="problem" :problem />
      <div v-if="ranking" class="ranking" tabindex="0" role="region" aria-label="Symbologies">
        <table class="plain">
          <thead>
            <tr>
              <th>Symbology</th>
              <th>Largest, with quiet zones</th>
              <th>Module</th>
              <th>This data</th>
              <th><span class="unseen">Choose</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="suit in ranking" :key="suit.id">
              <td>{{ nameOf(suit.id) }}</td>
              <td>
                <template v-if="suit.width"
                  >{{ lengthText(suit.width) }} × {{ lengthText(suit.height) }}</template
                >
              </td>
              <td>{{ lengthText(suit.module, 3) }}</td>
              <td>
                <LevelText v-if="suit.fails" level="error">{{ suit.why }}</LevelText>
                <LevelText v-else-if="suit.fits" level="fine">all, and it fits the box</LevelText>
                <LevelText v-else level="warning">all, but larger than the box</LevelText>
              </td>
              <td>
                <NButton
                  v-if="!suit.fails"
                  size="small"
                  :aria-label="`Take ${nameOf(suit.id)}`"
                  @click="take(suit.id)"
                  >Take</NButton
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </div>
  </NModal>
</template>

<style scoped>
.panel {
  width: 820px;
  padding: 16px 20px;
  background: var(--paper);
  border-radius: 8px;
}
.panel .top {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 10px;
}
.ranking td:nth-child(2),
.ranking td:nth-child(3) {
  white-space: nowrap;
}
.ranking {
  max-height: 60vh;
  overflow: auto;
}
</style>
