<script setup lang="ts">
import { computed } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import SpoolDrawing from '@/places/floor/SpoolDrawing.vue'

/** Which rolls the labels come off that are still to be printed, drawn to scale, with the places where the roll changes. */
const props = defineProps<{ plan: Schemas['RollPlan']; printed: number; sheets: boolean }>()
const emit = defineEmits<{ taken: [] }>()
const { problem, doing } = useDoing()

type Stretch = Schemas['RollStretch']
const size = (s: Stretch) => s.last - s.first + 1
const missing = computed(() => props.plan.stretches.find((s) => s.from === 'missing'))
const shown = 6 // stretches told one by one
const which = computed(() => (props.sheets ? 'stack' : 'roll'))
function where(s: Stretch) {
  if (s.from === 'printer') return 'in the printer'
  if (s.from === 'stockroom') return s.place ? `from ${s.place}` : 'from the Stockroom'
  return s.rolls ? `${plural(s.rolls, `full ${which.value}`)} missing` : `no ${which.value} for them`
}
const labels = (s: Stretch) =>
  props.printed ? `${count(size(s))} more labels` : `labels ${count(s.first)} to ${count(s.last)}`

async function loaded(id: number) {
  await doing(() => api.DELETE('/rolls/{id}', { params: { path: { id } } }))
  emit('taken')
}
</script>

<template>
  <section class="line" aria-labelledby="q-rolls">
    <h2 id="q-rolls">{{ sheets ? 'Stacks' : 'Rolls' }}</h2>
    <div class="plan">
      <div class="web" role="img" :aria-label="`${plural(plan.stretches.length - 1, 'change')} on the way`">
        <span v-for="s in plan.stretches" :key="s.first" :class="s.from" :style="{ flexGrow: size(s) }" />
      </div>
      <ol>
        <li v-for="s in plan.stretches.slice(0, shown)" :key="s.first">
          <SpoolDrawing
            v-if="s.from !== 'missing' && !sheets"
            :left="size(s) + s.left"
            :capacity="plan.fullRoll"
            unit="labels"
          />
          <span v-else class="gap" aria-hidden="true" />
          <b class="labels">{{ labels(s) }}</b>
          <span>
            {{ where(s)
            }}<span v-if="s.from !== 'missing'" class="quiet">{{
              s.left ? `, ${count(s.left)} left then` : ', then it is changed'
            }}</span>
          </span>
          <TextButton v-if="s.rollId !== undefined" @click="loaded(s.rollId)"> It is loaded </TextButton>
        </li>
        <li v-if="plan.stretches.length > shown" class="quiet">
          and {{ plural(plan.stretches.length - shown, which) }} more
        </li>
      </ol>
      <p v-if="plan.ribbon" class="ribbon">
        <b>{{ plan.ribbon.metres.toFixed(1) }} m of ribbon</b>
        <span class="quiet">
          <template v-if="plan.ribbon.metres <= plan.ribbon.each">
            of one with {{ plan.ribbon.each }} m</template
          >
          <template v-else>
            : {{ plural(Math.ceil(plan.ribbon.metres / plan.ribbon.each), 'ribbon') }} of
            {{ plan.ribbon.each }} m, a new one for each {{ count(plan.ribbon.labels) }} labels</template
          >
        </span>
      </p>
      <p v-if="missing" class="quiet">
        The run waits when the {{ which }} ends, and goes on by itself with a new one. Note what lies ready in
        the <RouterLink to="/stockroom">Stockroom</RouterLink>.
      </p>
      <p v-if="problem" class="bad" role="alert">{{ problem.text }}</p>
    </div>
  </section>
</template>

<style scoped>
.plan {
  grid-column: 2 / -1;
  min-width: 0;
  padding: 6px 0;
}
.web {
  display: flex;
  gap: 3px;
  margin-bottom: 6px;
}
.web span {
  flex: 1 1 0;
  min-width: 3px;
  height: 18px;
  background: var(--liner);
  border: 1px solid var(--liner-edge);
}
.web .stockroom {
  background: var(--raised);
}
.web .missing {
  background: none;
  border: 1px dashed var(--control);
}
li {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 32px;
}
li svg,
.gap {
  flex: none;
  width: 28px;
  height: 28px;
}
.labels {
  min-width: 150px;
}
li .text-button {
  margin-left: auto;
}
</style>
