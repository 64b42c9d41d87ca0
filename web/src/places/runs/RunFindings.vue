<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'

/** What was found on the labels of a run, each to be gone to on the Bench. */
defineProps<{ groups: readonly Schemas['FindingGroup'][]; designId: number }>()
</script>

<template>
  <ul>
    <li v-for="group in groups" :key="`${group.design ?? ''}${group.element}${group.rule}`">
      <LevelText :level="group.level" />
      <span class="which"
        >record {{ group.records[0]
        }}<template v-if="group.count > 1"> and {{ group.count - 1 }} more</template></span
      >
      <span class="what"
        ><b v-if="group.design">{{ group.design }}: </b>{{ group.text }}
        <span class="quiet">{{ plural(group.labels ?? 0, 'label') }}</span></span
      >
      <RouterLink v-if="!group.design" :to="`/bench/${designId}?record=${group.records[0]}`"
        >Go to it</RouterLink
      >
    </li>
  </ul>
</template>

<style scoped>
li {
  display: flex;
  gap: 10px;
  padding: 8px 20px;
  border-bottom: 1px dotted var(--control);
}
.which {
  flex: none;
  width: 170px;
}
.what {
  flex: 1;
}
</style>
