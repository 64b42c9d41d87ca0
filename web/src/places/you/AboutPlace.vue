<script setup lang="ts">
import { NCollapse, NCollapseItem } from 'naive-ui'
import { api } from '@/api/client'
import { plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'

/** What the program is made of, with the licence of each part. */
const { data: about, problem } = useAsked(() => api.GET('/about'))
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>About Odd Spool</h1>
      <span v-if="about" class="quiet">
        build <span class="mono">{{ about.version }}</span>, with {{ plural(about.parts.length, 'part') }} by
        others
      </span>
    </header>
    <ProblemNote v-if="problem" :problem />
    <p class="words">
      Odd Spool designs labels and tags, proves every label of a batch, and prints them on the printers of a
      plant. It is built with the work of others, whose licences are below.
    </p>
    <NCollapse v-if="about" class="parts">
      <NCollapseItem v-for="part in about.parts" :key="part.name + part.version" :name="part.name">
        <template #header>
          <span class="strong">{{ part.name }}</span>&nbsp;<span class="quiet">{{ part.version }}</span>
        </template>
        <template #header-extra>
          <span class="quiet">{{ part.licence }}</span>
        </template>
        <pre tabindex="0">{{ part.text }}</pre>
      </NCollapseItem>
    </NCollapse>
  </div>
</template>

<style scoped>
.words {
  padding: 14px 20px 4px;
  max-width: 78ch;
}
.parts {
  padding: 10px 20px 20px;
}
pre {
  margin: 0;
  white-space: pre-wrap;
  font:
    12px/1.5 'IBM Plex Mono',
    monospace;
  max-width: 90ch;
}
</style>
