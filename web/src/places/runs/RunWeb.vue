<script setup lang="ts">
import { NInputNumber } from 'naive-ui'
import { computed } from 'vue'
import { api } from '@/api/client'
import type { Stock } from '@/api/documents'
import { count } from '@/shared/format'
import { useAsked } from '@/shared/useAsked'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'

/** The labels of the run as they will print; any can be looked at. */
const props = defineProps<{ runId: number; total: number; made: string; stock?: Stock }>()
const from = defineModel<number>('from', { required: true })

const most = 6
const first = 1 // label of a run
const { data: shown } = useAsked((signal) => {
  if (!props.made) return undefined
  const query = { from: from.value, most }
  return api.GET('/runs/{id}/labels', { params: { path: { id: props.runId }, query }, signal })
})
const labels = computed(() => shown.value?.labels ?? [])
function step(by: number) {
  from.value = Math.min(Math.max(from.value + by, 1), Math.max(props.total, 1))
}
</script>

<template>
  <div>
    <div class="web" @wheel.prevent="step($event.deltaY + $event.deltaX > 0 ? 1 : -1)">
      <figure v-for="label in labels" :key="label.label">
        <img
          :src="label.picture"
          :alt="`Label ${label.label}, of record ${label.record}`"
          :class="label.level"
        />
        <figcaption>
          label {{ count(label.label) }} · {{ label.design ?? `record ${count(label.record)}` }}
          <LevelText v-if="label.level === 'error'" level="error">not printed</LevelText>
          <LevelText v-else-if="label.level === 'warning'" level="warning" />
        </figcaption>
      </figure>
    </div>
    <p class="walk">
      <TextButton :disabled="from <= first" @click="step(-most)">Earlier</TextButton>
      <label>
        Label
        <NInputNumber
          :value="from"
          size="small"
          :min="first"
          :max="Math.max(total, first)"
          :show-button="false"
          class="number"
          :input-props="{ 'aria-label': 'First label shown' }"
          @update:value="$event && (from = $event)"
        />
        of {{ count(total) }}
      </label>
      <TextButton :disabled="from + most > total" @click="step(most)"> Later </TextButton>
    </p>
  </div>
</template>

<style scoped>
.web {
  display: flex;
  gap: 10px;
  padding: 9px 20px 5px;
  overflow: hidden;
  background: var(--liner);
  border-block: 1px solid var(--liner-edge);
}
figure {
  flex: none;
  margin: 0;
}
img {
  display: block;
  height: 118px;
  background: var(--label);
  border-radius: 5px;
}
img.error {
  outline: 3px solid var(--bad-mark);
}
img.warning {
  outline: 3px solid var(--warn-mark);
}
figcaption {
  padding-top: 3px;
  font-size: 12.5px;
  color: var(--on-liner);
}
figcaption .bad {
  color: var(--bad-on-liner);
}
.walk {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--line);
}
.walk label {
  display: flex;
  align-items: center;
  gap: 6px;
}
.number {
  width: 84px;
}
</style>
