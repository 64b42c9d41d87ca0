<script setup lang="ts">
import { NCheckbox, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { asPrinter, asStock } from '@/api/documents'
import { duration, plural } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'

/** On which printer a run prints, and which others take a share. */
const props = defineProps<{
  run: Schemas['Run']
  printers: readonly Schemas['Printer'][]
  printing: boolean
  /** What the labels take of the web, in millimetres. */
  web: number
  open: boolean
}>()
const emit = defineEmits<{ open: []; take: [printer: number] }>()
/** On whichever printer is free next and can print it. */
const anywhere = defineModel<boolean>('anywhere', { required: true })
/** Printers that share the labels with the run's own. */
const shared = defineModel<number[]>('shared', { required: true })

const stock = computed(() => asStock(props.run.stock))
const speed = computed(() => asPrinter(props.run.printer.about).speed)
// The run is asked about again and again; menus that are open change only with what they show.
const own = computed(() => props.run.printer.id)
const resolution = computed(() => asPrinter(props.run.printer.about).resolution)
/** Printers that print in the same dots. */
const alike = computed(() =>
  props.printers
    .filter((p) => p.id !== own.value && p.address && asPrinter(p.about).resolution === resolution.value)
    .map((p) => ({ value: p.id, label: `and ${p.name}` })),
)
</script>

<template>
  <section class="line" aria-labelledby="q-printer">
    <h2 id="q-printer">Printer</h2>
    <form v-if="open" class="edit" @submit.prevent>
      <NSelect
        :value="run.printer.id"
        :options="printers.map((p) => ({ value: p.id, label: p.name }))"
        aria-label="Printer"
        class="from"
        @update:value="emit('take', $event)"
      />
    </form>
    <p v-else>
      <RouterLink :to="`/floor/${run.printer.id}`">{{ run.printer.name }}</RouterLink> · {{ stock.name }} ·
      <template v-if="stock.sheet">{{ plural(Math.ceil(run.labels / run.perPage), 'sheet') }}</template>
      <template v-else-if="stock.plate">{{ plural(run.labels, 'plate') }}</template>
      <template v-else>{{ (web / 1000).toFixed(1) }} m of web</template>
      <template v-if="run.seconds && speed"> · {{ duration(run.seconds) }} at {{ speed }} mm/s</template>
      <NCheckbox
        v-if="!printing && printers.length > 1 && !shared.length"
        v-model:checked="anywhere"
        class="anywhere"
      >
        or the next free one that fits
      </NCheckbox>
      <NSelect
        v-if="!printing && !run.choice.besides?.length && alike.length"
        v-model:value="shared"
        multiple
        size="small"
        class="shared"
        :options="alike"
        placeholder="share it with others"
        aria-label="Printers that share the labels"
      />
    </p>
    <TextButton v-if="!printing && !open" @click="emit('open')">Change</TextButton>
  </section>
</template>

<style scoped>
.edit {
  padding: 4px 0;
}
.from {
  width: 230px;
}
.shared {
  display: inline-block;
  width: 190px;
  margin-right: 14px;
  vertical-align: middle;
}
.anywhere {
  margin-left: 14px;
}
</style>
