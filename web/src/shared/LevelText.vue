<script setup lang="ts">
import { type Level, levels } from './levels'

/** How grave something is, as a shape in its colour, and the words that say what. */
defineProps<{ level: Level }>()
defineSlots<{ default?(): unknown }>()
</script>

<template>
  <span :class="levels[level].tone"
    ><span aria-hidden="true">{{ levels[level].mark }}</span
    ><template v-if="$slots.default">&nbsp;<slot /></template
  ></span>
</template>
