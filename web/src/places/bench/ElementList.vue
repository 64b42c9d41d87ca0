<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import type { Element } from '@/api/documents'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'
import type { StripLabel } from '@/strip/useStrip'
import { addable, type Kind, type Layable, layable } from './elements'

/** The elements in reading order: kind, what it says on the label in hand, findings. */
const props = defineProps<{
  elements: readonly Element[]
  chosenIds: readonly string[]
  label: StripLabel | undefined
  groups: readonly Schemas['FindingGroup'][]
  parts: readonly Schemas['Part'][]
}>()
const emit = defineEmits<{
  part: [id: number]
  choose: [id: string, besides: boolean]
  add: [kind: Kind]
  lay: [what: Layable]
  find: [group: Schemas['FindingGroup']]
}>()

const names: Record<Element['kind'], string> = {
  text: 'text',
  code: 'code',
  line: 'line',
  box: 'box',
  oval: 'ellipse',
  picture: 'picture',
  symbol: 'symbol',
  tag: 'tag',
}
const says = (e: Element) => props.label?.parts.find((p) => p.element === e.id)?.says ?? ''
const findings = (e: Element) => props.groups.filter((g) => g.element === e.id)
const adding = ref(false)
defineExpose({ openAdd: () => (adding.value = true), closeAdd: () => (adding.value = false) })
const options = computed(() => [
  ...addable.map((a) => ({ key: a.kind, label: `${a.name}  (${a.key.toUpperCase()})` })),
  { key: 'safety', type: 'divider' },
  ...layable.map((l) => ({ key: `lay ${l.kind}`, label: `${l.name}  (${l.key.toUpperCase()})` })),
  ...(props.parts.length
    ? [
        {
          key: 'parts',
          label: 'Shared part',
          children: props.parts.map((p) => ({ key: `part ${String(p.id)}`, label: p.name })),
        },
      ]
    : []),
])
function select(key: string) {
  if (key.startsWith('part ')) emit('part', Number(key.slice('part '.length)))
  else if (key.startsWith('lay ')) emit('lay', key.slice('lay '.length) as Layable)
  else emit('add', key as Kind)
}
</script>

<template>
  <section aria-labelledby="on-label" class="panel">
    <div class="top">
      <h2 id="on-label">On this label</h2>
      <NDropdown v-model:show="adding" trigger="click" :options @select="select">
        <TextButton aria-haspopup="menu">Add <kbd>A</kbd></TextButton>
      </NDropdown>
    </div>
    <ul>
      <li v-for="element in elements" :key="element.id" :class="{ chosen: chosenIds.includes(element.id) }">
        <button
          type="button"
          class="element"
          :aria-pressed="chosenIds.includes(element.id)"
          @click="emit('choose', element.id, $event.shiftKey)"
        >
          <span class="quiet kind">{{ names[element.kind] }}</span>
          <span v-if="element.group" class="quiet group">{{ element.group }}</span>
          <span v-if="element.hidden" class="quiet" title="not printed">∅</span>
          <span class="says">{{
            says(element) ||
            (element.says ? 'says nothing here' : (element.picture?.name ?? element.symbol?.id ?? element.id))
          }}</span>
        </button>
        <TextButton
          v-for="group in findings(element)"
          :key="group.kind"
          class="mark"
          :title="`${group.text} ${group.do}`"
          :aria-label="`${group.count} records: ${group.text} Go to record ${group.records[0]}`"
          @click="emit('find', group)"
        >
          <LevelText :level="group.level">{{ group.count }}</LevelText>
        </TextButton>
      </li>
    </ul>
    <p v-if="!elements.length" class="quiet none">
      Nothing yet. Drag a field from the tray onto the label, or press <kbd>A</kbd> to add something.
    </p>
  </section>
</template>

<style scoped>
.panel {
  overflow: auto;
}
.top {
  display: flex;
  justify-content: space-between;
  margin-bottom: 6px;
}
li {
  display: flex;
  align-items: center;
  gap: 6px;
  border-radius: 6px;
  padding-right: 6px;
}
li.chosen {
  background: var(--accent-soft);
}
.element {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 10px;
  padding: 6px 8px;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.kind {
  flex: none;
  width: 46px;
}
.group {
  flex: none;
  max-width: 80px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.says {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.mark {
  flex: none;
  font-size: 13px;
  color: inherit;
}
.mark.bad {
  color: var(--bad);
}
.mark.warn {
  color: var(--warn);
}
.none {
  padding: 6px 0;
}
</style>
