<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ReasonForm from '@/shared/ReasonForm.vue'
import { plural } from '@/shared/format'
import { drawingOf } from './symbols'

/** What stands on the label of a chemical, each with what asks for it. */
const props = defineProps<{
  answer: Schemas['HazardAnswer']
  choices?: readonly Schemas['PrecautionChoice'][] // undefined: nothing is chosen here
}>()
const emit = defineEmits<{ choose: [code: string, keep: boolean, reason: string] }>()
/** What a person said of a precautionary statement; undefined: nothing, or it is none. */
function chosen(code: string) {
  return props.choices?.find((c) => c.code === code)
}
</script>

<template>
  <section class="reasons" aria-label="What stands on the label, and why">
    <p v-if="answer.open?.length" class="bad" role="status">
      ■ This is not the whole label: {{ plural(answer.open.length, 'question') }}
      {{ answer.open.length === 1 ? 'is' : 'are' }} open. It can be laid out when
      {{ answer.open.length === 1 ? 'it is' : 'they are' }} answered.
    </p>
    <ul class="pictograms">
      <li v-for="p in answer.pictograms" :key="p.code" :title="p.because.join(', ')">
        <img :src="drawingOf(p.code)" :alt="`${p.code} ${p.text}`" width="56" height="56" />
        <span class="quiet">{{ p.code }}</span>
      </li>
      <li v-if="answer.signalWord" class="signal">{{ answer.signalWord }}</li>
      <li v-if="!answer.pictograms.length && !answer.signalWord" class="quiet">
        No pictogram and no signal word.
      </li>
    </ul>
    <table class="plain">
      <tbody>
        <tr v-for="h in [...answer.hazards, ...answer.supplemental, ...answer.precautions]" :key="h.code">
          <th scope="row">{{ h.code }}</th>
          <td>
            {{ h.text }}
            <span class="quiet why"
              >{{ h.because.join(', ') }}<template v-if="h.why"> · {{ h.why }}</template>
              <ReasonForm
                v-if="choices && h.code.startsWith('P')"
                :reason="chosen(h.code)?.reason ?? ''"
                action="Leave it out"
                undo="As it was chosen here"
                placeholder="Why is it not needed?"
                :label="`Reason to leave ${h.code} out`"
                @give="emit('choose', h.code, false, $event)"
            /></span>
          </td>
        </tr>
      </tbody>
    </table>
    <details v-if="answer.steps.length" open>
      <summary>How the mixture is classified: {{ answer.classification || 'not at all' }}</summary>
      <ol>
        <li v-for="step in answer.steps" :key="step">{{ step }}</li>
      </ol>
    </details>
    <p v-for="note in answer.notes ?? []" :key="note" class="warn">▲ {{ note }}</p>
    <details v-if="answer.limits?.length">
      <summary>Limits of the parts, and where they are said</summary>
      <table class="plain">
        <tbody>
          <tr v-for="of in answer.limits" :key="of.part">
            <th scope="row">{{ of.part }}</th>
            <td>
              {{ of.says }} <span class="quiet why">{{ of.source }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </details>
    <details v-if="answer.leftOut.length">
      <summary>{{ answer.leftOut.length }} left out, and why</summary>
      <table class="plain">
        <tbody>
          <tr v-for="h in answer.leftOut" :key="h.code + (h.why ?? '')">
            <th scope="row">{{ h.code }}</th>
            <td>
              {{ h.text }}
              <span class="quiet why"
                >{{ h.why }}
                <ReasonForm
                  v-if="choices && /^P\d/.test(h.code)"
                  :reason="chosen(h.code)?.reason ?? ''"
                  action="Keep it"
                  undo="As it was chosen here"
                  placeholder="Why is it needed?"
                  :label="`Reason to keep ${h.code}`"
                  @give="emit('choose', h.code, true, $event)"
              /></span>
            </td>
          </tr>
        </tbody>
      </table>
    </details>
    <p v-if="answer.size" class="quiet">
      For this container: a label of {{ answer.size.width }} × {{ answer.size.height }} mm, pictograms of
      {{ answer.size.pictogram }} mm, if possible; never below {{ answer.size.smallest }} mm ({{
        answer.size.clause
      }}). Letters with a small x of at least {{ answer.size.letters }} mm ((EU) 2024/2865, once it applies).
    </p>
    <p v-if="answer.small" class="quiet">{{ answer.small }}</p>
  </section>
</template>

<style scoped>
.pictograms {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  margin: 8px 0;
}
.pictograms li:not(.signal) {
  display: grid;
  justify-items: center;
  font-size: 12px;
}
.pictograms img {
  background: var(--label);
  border-radius: 4px;
}
.signal {
  font-size: 20px;
  font-weight: 700;
}
th {
  white-space: nowrap;
  vertical-align: top;
}
td {
  vertical-align: top;
}
.reasons :is(th, td) {
  padding: 4px 8px;
  font-size: 13px;
}
.why {
  display: block;
}
summary {
  margin: 8px 0;
  cursor: pointer;
}
ol {
  padding-left: 20px;
  list-style: decimal;
  font-size: 13px;
}
</style>
