<script setup lang="ts">
import { NProgress } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { asPrinter, asStock } from '@/api/documents'
import { amount, count, duration, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import SpoolDrawing from './SpoolDrawing.vue'
import WebOut from './WebOut.vue'

const props = defineProps<{ line: Schemas['FloorPrinter'] }>()

const stock = computed(() => (props.line.stock ? asStock(props.line.stock.about) : undefined))
const print = computed(() => props.line.print)
</script>

<template>
  <section class="line" :aria-label="line.printer.name">
    <SpoolDrawing :left="line.left" :capacity="line.capacity" :unit="line.unit" />
    <div class="about">
      <h2>
        <RouterLink :to="`/floor/${line.printer.id}`">{{ line.printer.name }}</RouterLink>
      </h2>
      <p class="quiet">
        {{ stock?.name ?? line.loaded ?? asPrinter(line.printer.about).resolution }}
        <template v-if="line.left >= 0">
          · {{ amount(line.left, line.unit) }}{{ line.unit === 'sheets' ? ' sheets' : '' }} left</template
        >
      </p>
    </div>
    <WebOut
      :printer-id="line.printer.id"
      :camera="line.printer.camera"
      :stock="stock"
      :version="line.left"
      :name="line.printer.name"
    />
    <div class="state">
      <a
        v-if="line.page"
        class="page"
        :href="line.page"
        target="_blank"
        rel="noopener"
        :aria-label="`The own page of ${line.printer.name}`"
        title="The printer’s own page"
        >↗</a
      >
      <p class="strong" role="status">
        <LevelText :level="line.level">{{ line.text }}</LevelText>
      </p>
      <p v-if="line.do" class="quiet">{{ line.do }}</p>
      <template v-if="print">
        <p>
          <RouterLink :to="`/runs/${print.runId}`">{{ print.runName }}</RouterLink>
        </p>
        <p v-if="line.queue.length">
          <RouterLink :to="`/floor/${line.printer.id}`"
            >and {{ plural(line.queue.length, 'more waits', 'more wait') }}</RouterLink
          >
        </p>
        <p class="quiet">
          {{ count(print.printed) }} of {{ count(print.labels)
          }}<template v-if="print.secondsLeft >= 0"> · {{ duration(print.secondsLeft) }} to go</template>
        </p>
        <NProgress
          type="line"
          :percentage="Math.round((100 * print.printed) / print.labels)"
          :show-indicator="false"
          :height="6"
          :aria-label="`${print.printed} of ${print.labels} labels`"
        />
      </template>
    </div>
  </section>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 60px 250px minmax(0, 1fr) 230px;
  align-items: center;
  gap: 16px;
  padding: 5px 20px;
  border-bottom: 1px solid var(--line);
}
.page {
  float: right;
  padding: 4px 8px;
  text-decoration: none;
}
.about h2 {
  font-size: 16px;
}
.about h2 a {
  color: var(--ink);
}
.state a {
  display: inline-block;
  padding: 2px 0;
}
@media (max-width: 1100px) {
  .line {
    grid-template-columns: 60px 180px minmax(0, 1fr) 210px;
    gap: 12px;
  }
}
@media (max-width: 640px) {
  .line {
    grid-template-columns: 60px minmax(0, 1fr);
    padding: 8px 12px;
  }
  .line > :nth-child(n + 3) {
    grid-column: 1 / -1;
  }
}
</style>
