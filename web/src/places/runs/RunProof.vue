<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'

/** What became of looking at every label. */
const emit = defineEmits<{ see: [label: number]; stop: []; again: [] }>()
const props = defineProps<{
  runId: number
  proof: Schemas['RunProof'] | undefined
  labels: number
  /** Somebody does not want to wait for it. */
  stopped: boolean
}>()
/** How many labels were looked at; asked for while that goes on. */
const looked = ref(0)
useIntervalFn(async () => {
  if (props.proof || props.stopped) return
  const { data } = await api.GET('/runs/{id}/proof/progress', { params: { path: { id: props.runId } } })
  looked.value = Math.min(data?.looked ?? 0, props.labels)
}, 500)
</script>

<template>
  <section class="line" aria-labelledby="q-proof">
    <h2 id="q-proof">Proof</h2>
    <p v-if="!proof && stopped">
      Not looked at
      <TextButton @click="emit('again')">Look at every label</TextButton>
    </p>
    <p v-else-if="!proof" class="quiet">
      Looking at {{ plural(labels, 'label') }}<template v-if="looked">: {{ count(looked) }} so far</template>
      <TextButton @click="emit('stop')">Stop</TextButton>
    </p>
    <p v-else>
      <b>{{ plural(proof.labels, 'label') }} looked at</b> ·
      <LevelText v-if="proof.codes" level="fine"
        >{{ plural(proof.codes, 'code') }} read back as meant</LevelText
      ><span v-else class="quiet">none has a code to read back</span>
    </p>
    <p v-if="proof?.leftOut">
      <LevelText level="error">{{ plural(proof.leftOut, 'label') }} with errors</LevelText>
    </p>
    <p v-if="proof?.worth.length" class="worth">
      <span class="quiet">Worth a look:</span>
      <TextButton
        v-for="w in proof.worth.slice(0, 6)"
        :key="w.label"
        :title="w.why"
        @click="emit('see', w.label)"
      >
        label {{ count(w.label) }}
        <span class="quiet">{{ w.why }}</span>
      </TextButton>
    </p>
  </section>
</template>

<style scoped>
.worth {
  grid-column: 2 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
</style>
