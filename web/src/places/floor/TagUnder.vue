<script setup lang="ts">
import { NButton } from 'naive-ui'
import { shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, moment } from '@/shared/format'
import { useDoing } from '@/shared/useDoing'

/** The tag under the head of a printer: what is in it, in words, and which label it was. */
const props = defineProps<{ printerId: number }>()
const { problem, busy, doing } = useDoing()
const tag = shallowRef<Schemas['TagRead']>()
async function read() {
  tag.value = undefined
  const { data } = await doing(() =>
    api.POST('/printers/{id}/tag', { params: { path: { id: props.printerId } } }),
  )
  tag.value = data
}
</script>

<template>
  <section aria-labelledby="p-tag">
    <h2 id="p-tag">Tag under the head</h2>
    <NButton size="small" :loading="busy" @click="read">Read it</NButton>
    <p v-if="problem" class="bad" role="alert">{{ problem.text }}</p>
    <dl v-if="tag">
      <div>
        <dt>Identifier</dt>
        <dd>
          <code>{{ tag.epc }}</code>
        </dd>
      </div>
      <div>
        <dt>That is</dt>
        <dd>{{ tag.words }}</dd>
      </div>
      <div v-if="tag.elements">
        <dt>In GS1 elements</dt>
        <dd>{{ tag.elements }}</dd>
      </div>
      <div v-if="tag.link">
        <dt>As a link</dt>
        <dd>{{ tag.link }}</dd>
      </div>
      <div>
        <dt>User memory</dt>
        <dd>{{ tag.user || 'empty' }}</dd>
      </div>
      <div>
        <dt>Chip</dt>
        <dd>
          <code>{{ tag.tid || 'does not tell' }}</code>
        </dd>
      </div>
      <div>
        <dt>It was</dt>
        <dd>
          <p v-for="(s, i) in tag.seen" :key="i">
            <RouterLink :to="`/runs/${s.runId}`">label {{ count(s.label) }} of run {{ s.runId }}</RouterLink
            >, {{ s.outcome === 'written' ? 'written' : 'void' }} {{ moment(s.at) }}
          </p>
          <template v-if="!tag.seen.length">no label of this plant</template>
        </dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
dl div {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  padding: 4px 0;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
