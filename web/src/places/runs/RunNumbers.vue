<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { plural } from '@/shared/format'

/** The numbers of series that the labels of the run have: they are taken, and nobody else has them. */
defineProps<{ numbers: readonly Schemas['RunNumbers'][] }>()
</script>

<template>
  <section class="line" aria-labelledby="q-numbers">
    <h2 id="q-numbers">Numbers</h2>
    <p>
      <span v-for="n in numbers" :key="n.seriesId" class="of">
        <RouterLink :to="`/records/series/${n.seriesId}`">{{ n.series }}</RouterLink>
        <span class="mono number">{{ n.first }}</span><template v-if="n.last !== n.first">
          to <span class="mono number">{{ n.last }}</span></template
        ><span class="quiet"> · {{ plural(n.count, 'number') }} taken for this run</span>
      </span>
    </p>
  </section>
</template>

<style scoped>
.of {
  display: block;
}
.of .number {
  margin-left: 6px;
}
</style>
