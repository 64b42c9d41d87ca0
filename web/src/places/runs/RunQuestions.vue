<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { asKept, asTyped } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'

/** What is asked before a run: answered by keys or by a scanner, whose Enter goes to the next. */
type Question = NonNullable<Design['questions']>[number]
const props = defineProps<{
  run: Schemas['Run']
  started: boolean
  /** Keeps answers; false: they were refused, and are corrected. */
  keep: (answers: Record<string, string>) => Promise<boolean>
}>()

const questions = computed(() => props.run.questions as unknown[] as Question[])
const given = computed(() => props.run.choice.answers ?? {})
const typed = ref<Record<string, string>>({})
watch(
  given,
  (now, before) => {
    if (JSON.stringify(now) === JSON.stringify(before)) return
    typed.value = Object.fromEntries(
      questions.value.map((q) => [q.name, asTyped(q.kind, now[q.name] ?? q.default ?? '')]),
    )
  },
  { immediate: true },
)
const open = ref(false)
const missing = computed(() => questions.value.some((q) => !(q.name in given.value)))
watch(missing, (now) => (open.value ||= now), { immediate: true })

const options = (q: Question) =>
  (q.kind === 'choice' ? (q.choices ?? []) : ['yes', 'no']).map((value) => ({ value, label: value }))
const form = ref<HTMLFormElement>()
/** Enter, which a scanner sends too, goes to the next question, and from the last one takes them all. */
function next(event: KeyboardEvent) {
  const inputs = [...(form.value?.querySelectorAll('input') ?? [])]
  const at = inputs.indexOf(event.target as HTMLInputElement)
  const following = inputs[at + 1]
  if (!following) return
  event.preventDefault()
  following.focus()
  following.select()
}
async function take() {
  const entries = questions.value.map((q) => [q.name, asKept(q.kind, typed.value[q.name] ?? '')])
  if (await props.keep(Object.fromEntries(entries) as Record<string, string>)) open.value = false
}
</script>

<template>
  <section v-if="questions.length" class="line" aria-labelledby="q-questions">
    <h2 id="q-questions">Questions</h2>
    <form v-if="open && !started" ref="form" class="ask" @submit.prevent="take">
      <label v-for="q in questions" :key="q.name">
        <span>{{ q.words || q.name }}<span v-if="!q.must" class="quiet"> (may stay empty)</span></span>
        <NSelect
          v-if="q.kind === 'choice' || q.kind === 'yes or no'"
          :value="typed[q.name] || null"
          :options="options(q)"
          :aria-label="q.words || q.name"
          @update:value="typed[q.name] = $event"
        />
        <NInput
          v-else
          :value="typed[q.name]"
          :placeholder="q.kind === 'date' ? '2026-11-26' : ''"
          :input-props="{
            'aria-label': q.words || q.name,
            inputmode: q.kind === 'number' ? 'decimal' : 'text',
            list: run.earlier[q.name] ? `earlier ${q.name}` : undefined,
          }"
          @update:value="typed[q.name] = $event"
          @keydown.enter="next"
        />
        <datalist v-if="run.earlier[q.name]" :id="`earlier ${q.name}`">
          <option v-for="answer in run.earlier[q.name]" :key="answer" :value="answer" />
        </datalist>
      </label>
      <NButton type="primary" attr-type="submit">Take these answers</NButton>
    </form>
    <template v-else>
      <p>
        <template v-for="(q, i) in questions" :key="q.name"
          ><template v-if="i"> · </template>{{ q.name }}
          <b>{{ asTyped(q.kind, given[q.name] ?? '') || 'not answered' }}</b></template
        >
      </p>
      <TextButton v-if="!started" @click="open = true">Change</TextButton>
    </template>
  </section>
</template>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  align-items: end;
  gap: 8px 14px;
  flex: 1;
}
label {
  display: grid;
  gap: 3px;
}
</style>
