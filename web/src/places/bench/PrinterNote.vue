<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { asPrinter, type Design } from '@/api/documents'
import TextButton from '@/shared/TextButton.vue'
import { useAsked } from '@/shared/useAsked'

/** That the printer of a design was corrected since: what the design is drawn for is no longer what the printer has. */
const props = defineProps<{ design: Design; printerId: number | undefined }>()
const emit = defineEmits<{ take: [design: Design] }>()

const { data: printers } = useAsked((signal) =>
  props.printerId === undefined ? undefined : api.GET('/printers', { signal }),
)
const now = computed(() => {
  const about = printers.value?.find((p) => p.id === props.printerId)?.about
  return about && asPrinter(about)
})
/** What decides how labels are drawn, in words, where it is another now. */
const changes = computed(() => {
  const made = props.design.printer
  const has = now.value
  if (!has) return []
  const words = (list: readonly string[] | undefined) => [...(list ?? [])].join(', ') || 'none'
  const facts: [string, string, string][] = [
    ['inks', words(made.inks), words(has.inks)],
    ['colours by heat', words(made.heats), words(has.heats)],
    ['resolution', made.resolution, has.resolution],
    ['dots of the head', String(made.headDots ?? 0), String(has.headDots ?? 0)],
  ]
  return facts.filter(([, before, after]) => before !== after)
})
</script>

<template>
  <p v-if="now && changes.length" class="note">
    <span class="warn" aria-hidden="true">▲</span> {{ now.name }} was corrected since:
    <template v-for="([what, before, after], i) in changes" :key="what"
      ><template v-if="i">; </template>{{ what }} {{ after }} ({{ before }} in this design)</template
    >.
    <TextButton @click="emit('take', { ...design, printer: now })"
      >Draw it for the printer as it is</TextButton
    >
  </p>
</template>

<style scoped>
.note {
  padding: 8px 0;
}
</style>
