<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { moment } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import { fateWords, labelsText } from './words'

/** What became of one number, from when it was taken on. */
const props = defineProps<{ life: Schemas['NumberLife'] }>()
const emit = defineEmits<{ changed: [] }>()

const readBack = { meant: 'read back as meant', other: 'read back otherwise', none: 'no code to read' }
const came = {
  waiting: 'was to come out',
  printed: 'came out',
  cancelled: 'did not come out: cancelled',
  unknown: 'nobody said whether it came out',
  spoiled: 'came out spoiled',
}
const why = ref('')
const voiding = ref(false)
const { problem, busy, doing } = useDoing()
async function voidIt() {
  const params = { path: { id: props.life.number.id } }
  const { error } = await doing(() => api.POST('/numbers/{id}/void', { params, body: { why: why.value } }))
  if (!error) emit('changed')
}
</script>

<template>
  <article class="life">
    <p class="which">
      <span class="mono big">{{ life.number.number }}</span>
      <span class="fate" :class="life.number.state">{{ fateWords[life.number.state] }}</span>
      <span
        >of
        <RouterLink :to="`/records/series/${life.number.seriesId}`">{{
          life.number.series
        }}</RouterLink><template v-if="life.number.key">, counted for {{ life.number.key }}</template></span
      >
    </p>
    <ol>
      <li>
        <span class="quiet">{{ moment(life.number.takenAt) }}</span>
        <span
          >taken by {{ life.number.takenBy }} for
          <RouterLink :to="`/runs/${life.number.runId}`"
            >run {{ life.number.runId }} of {{ life.number.design }}</RouterLink
          >, {{ labelsText(life.number) }}, record {{ life.number.record }}</span
        >
      </li>
      <li v-for="label in life.labels" :key="`${label.printId} ${label.label}`">
        <span class="quiet">{{ moment(label.endedAt ?? label.startedAt) }}</span>
        <span
          >label {{ label.label }} {{ came[label.state] }}, at {{ label.printer }}, by {{ label.startedBy
          }}<b v-if="label.readBack" :class="label.readBack === 'other' ? 'bad' : ''"
            >, {{ readBack[label.readBack] }}<template v-if="label.readAs">: {{ label.readAs }}</template></b
          ><template v-if="label.epc">, chip {{ label.tid }} says {{ label.epc }}</template></span
        >
      </li>
      <li v-if="life.number.changedAt && life.number.changedBy">
        <span class="quiet">{{ moment(life.number.changedAt) }}</span>
        <span
          >{{ fateWords[life.number.state] }} by {{ life.number.changedBy
          }}<template v-if="life.number.why">: {{ life.number.why }}</template></span
        >
      </li>
    </ol>
    <ProblemNote :problem />
    <form v-if="life.number.state === 'open' && voiding" class="void" @submit.prevent="voidIt">
      <NInput
        v-model:value="why"
        placeholder="Why; its label has another number then"
        :input-props="{ 'aria-label': 'Why' }"
      />
      <NButton attr-type="submit" :disabled="!why.trim()" :loading="busy">Make it void</NButton>
    </form>
    <TextButton v-else-if="life.number.state === 'open'" @click="voiding = true">
      No label is to have it
    </TextButton>
  </article>
</template>

<style scoped>
.life {
  padding: 12px 20px;
  border-bottom: 1px solid var(--line);
}
.which {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 6px 14px;
}
.big {
  font-size: 19px;
}
.fate {
  padding: 1px 9px;
  border: 1px solid var(--control);
  border-radius: 10px;
}
.fate.spoiled,
.fate.voided {
  border-style: dashed;
}
ol {
  margin: 8px 0 6px;
}
li {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  padding: 2px 0;
}
.void {
  display: flex;
  gap: 10px;
  max-width: 560px;
}
</style>
