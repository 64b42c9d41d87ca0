<script setup lang="ts">
import { NButton, NInput, NSelect, useMessage } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'

/** The versions of a design: who kept which when and why, two of them side by side, any of them brought back. */
const props = defineProps<{ designId: number }>()
const route = useRoute()
const router = useRouter()
const message = useMessage()
const { problem, doing } = useDoing()
const params = computed(() => ({ params: { path: { id: props.designId } } }))
const {
  data: design,
  problem: unread,
  refresh: reload,
} = useAsked((signal) => api.GET('/designs/{id}', { ...params.value, signal }))
const { data: revisions, refresh } = useAsked((signal) =>
  api.GET('/designs/{id}/revisions', { ...params.value, signal }),
)

/** The draft is version 0 here, as the server has it. */
const draft = 0
const options = computed(() => [
  ...(design.value?.draft || !revisions.value?.length ? [{ value: draft, label: 'the draft' }] : []),
  ...(revisions.value ?? []).map((r) => ({ value: r.number, label: `version ${String(r.number)}` })),
])
const number = (name: string) => {
  const value = Number(route.query[name])
  return route.query[name] !== undefined && options.value.some((o) => o.value === value) ? value : undefined
}
const after = computed(() => number('after') ?? options.value[0]?.value ?? draft)
const before = computed(() => number('before') ?? options.value[1]?.value ?? after.value)
const show = (to: { before?: number; after?: number }) =>
  router.replace({ query: { before: before.value, after: after.value, ...to } })

const { data: comparison, problem: uncompared } = useAsked((signal) =>
  revisions.value && design.value
    ? api.GET('/designs/{id}/compare', {
        params: { ...params.value.params, query: { before: before.value, after: after.value } },
        signal,
      })
    : undefined,
)
const sides = computed(() =>
  comparison.value
    ? [
        { name: 'before', number: before.value, label: comparison.value.before },
        { name: 'after', number: after.value, label: comparison.value.after },
      ]
    : [],
)
const share = (part: number, of: number) => `${String((part / of) * 100)}%`
const markStyle = (label: Schemas['ComparedLabel'], box: Schemas['DotBox']) => ({
  left: share(box.x, label.width),
  top: share(box.y, label.height),
  width: share(box.w, label.width),
  height: share(box.h, label.height),
})
const title = (n: number) => (n === draft ? 'The draft' : `Version ${String(n)}`)

const why = ref('')
async function keep() {
  const { data } = await doing(() =>
    api.POST('/designs/{id}/revisions', { ...params.value, body: { why: why.value.trim() || undefined } }),
  )
  if (!data) return
  why.value = ''
  await Promise.all([reload(), refresh()])
  await router.replace({ query: {} })
}
async function bringBack(n: number) {
  const kept = await doing(() =>
    api.GET('/designs/{id}/revisions/{number}', { params: { path: { id: props.designId, number: n } } }),
  )
  if (!kept.data || !design.value) return
  const body = {
    edit: design.value.edit,
    document: kept.data,
    recordSetId: design.value.recordSetId,
    printerId: design.value.printerId,
  }
  const { data } = await doing(() => api.PUT('/designs/{id}', { ...params.value, body }))
  if (!data) return
  message.info(
    `Version ${String(n)} is the draft again. What was the draft can be undone by bringing another back.`,
  )
  await router.push(`/bench/${String(props.designId)}`)
}
const name = computed(() => (design.value?.document as { name?: string } | undefined)?.name ?? '')
watch(name, (to) => to && (document.title = `${to}: versions`))
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Versions of {{ name }}</h1>
      <span class="room" />
      <RouterLink :to="`/bench/${designId}`">Back to the Bench</RouterLink>
    </header>
    <ProblemNote :problem="problem ?? unread ?? uncompared" />
    <div class="parts">
      <section aria-labelledby="v-list">
        <h2 id="v-list">Kept</h2>
        <form v-if="design?.draft" class="keep" @submit.prevent="keep">
          <NInput
            v-model:value="why"
            size="small"
            :maxlength="500"
            placeholder="why, in a few words"
            :input-props="{ 'aria-label': 'Why this version is kept' }"
          />
          <NButton size="small" type="primary" attr-type="submit">Keep the draft as a version</NButton>
        </form>
        <p v-else-if="revisions?.length" class="quiet">The draft is as the latest version.</p>
        <ul>
          <li v-for="r in revisions" :key="r.number">
            <span class="strong">Version {{ r.number }}</span>
            <span class="quiet">&nbsp; {{ moment(r.madeAt) }} by {{ r.madeBy }}</span>
            <p v-if="r.why">{{ r.why }}</p>
            <p class="deeds">
              <TextButton @click="show({ before: r.number, after: draft })">
                Compare with the draft
              </TextButton>
              <TextButton @click="bringBack(r.number)">Bring back</TextButton>
            </p>
          </li>
        </ul>
        <p v-if="revisions && !revisions.length" class="quiet">
          No version yet. One is kept whenever a run is prepared, or here.
        </p>
      </section>
      <section aria-labelledby="v-compare">
        <h2 id="v-compare" class="unseen">Two side by side</h2>
        <div class="choice">
          <NSelect
            size="small"
            :value="before"
            :options
            aria-label="Before"
            @update:value="show({ before: $event })"
          />
          <span>against</span>
          <NSelect
            size="small"
            :value="after"
            :options
            aria-label="After"
            @update:value="show({ after: $event })"
          />
        </div>
        <div class="two">
          <figure v-for="side in sides" :key="side.name">
            <div class="label" :style="{ aspectRatio: `${side.label.width} / ${side.label.height}` }">
              <img :src="side.label.picture" :alt="`${title(side.number)}: its first label`" />
              <span
                v-for="(mark, i) in side.label.marks"
                :key="i"
                class="mark"
                :class="side.name"
                :style="markStyle(side.label, mark)"
              />
            </div>
            <figcaption class="quiet">{{ title(side.number) }}</figcaption>
          </figure>
        </div>
        <template v-if="comparison">
          <h2>
            {{ comparison.changes.length ? plural(comparison.changes.length, 'change') : 'Nothing differs' }}
          </h2>
          <ul class="changes">
            <li v-for="change in comparison.changes" :key="change.text">{{ change.text }}</li>
          </ul>
        </template>
      </section>
    </div>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: minmax(260px, 1fr) minmax(0, 2.6fr);
  gap: 30px;
  padding: 18px 20px;
}
.keep {
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin-bottom: 12px;
}
li {
  padding: 8px 0;
  border-bottom: 1px dotted var(--control);
}
.deeds {
  display: flex;
  gap: 14px;
}
.choice {
  display: flex;
  align-items: center;
  gap: 10px;
  max-width: 420px;
}
.choice > :not(span) {
  flex: 1;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 18px;
  margin: 14px 0;
}
.label {
  position: relative;
  max-height: 52vh;
  max-width: 100%;
  margin: 0 auto;
  background: var(--label);
  outline: 1px solid var(--liner-edge);
}
.label img {
  display: block;
  width: 100%;
  height: 100%;
}
.mark {
  position: absolute;
  outline: 2px dashed var(--snap);
  outline-offset: 2px;
}
.mark.after {
  outline-style: solid;
  outline-color: var(--guide);
}
.changes li {
  padding: 5px 0;
  overflow-wrap: anywhere;
}
</style>
