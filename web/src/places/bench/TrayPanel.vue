<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import TextButton from '@/shared/TextButton.vue'

/** The fields of the records with their values on the label in hand, to be dragged onto it. */
const props = defineProps<{
  fields: readonly Schemas['FieldValue'][]
  record: number
  canJoin: boolean
  linked: boolean
  /** What is asked before a run: their answers lie here beside the fields. */
  answers: readonly string[]
  /** Number series, whose numbers lie here too. */
  numbers: readonly string[]
}>()
const emit = defineEmits<{
  put: [field: string, how: 'text' | 'code' | 'join']
  ask: []
  numbers: []
  languages: []
}>()
const lying = computed(() => [
  ...(props.linked ? props.fields : []),
  ...props.answers.map((name) => ({ name, value: `‹${name}›` })),
  ...props.numbers.map((name) => ({ name, value: 'a number' })),
])

function start(event: DragEvent, field: string) {
  event.dataTransfer?.setData('application/x-oddspool-field', field)
  event.dataTransfer?.setData('text/plain', field)
}
const options = (canJoin: boolean) => [
  { key: 'text', label: 'Put it on the label as words' },
  { key: 'code', label: 'Put it on the label as a code' },
  { key: 'join', label: 'Add it to what is chosen', disabled: !canJoin },
]
</script>

<template>
  <section aria-labelledby="tray" class="panel">
    <h2 id="tray">
      <span>{{ linked ? `Tray · record ${String(record)}` : 'Tray' }}</span>
      <TextButton class="ask" @click="emit('ask')">
        {{ answers.length ? 'Questions…' : 'Ask before a run…' }}
      </TextButton>
      <TextButton class="ask" @click="emit('numbers')">Numbers…</TextButton>
      <TextButton class="ask" @click="emit('languages')">Languages…</TextButton>
    </h2>
    <ul v-if="lying.length">
      <li v-for="field in lying" :key="field.name">
        <NDropdown
          trigger="click"
          :options="options(canJoin)"
          @select="(how: 'text' | 'code' | 'join') => emit('put', field.name, how)"
        >
          <button
            type="button"
            class="field"
            draggable="true"
            aria-haspopup="menu"
            :data-field="field.name"
            @dragstart="start($event, field.name)"
          >
            <span class="value">{{ field.value || 'empty' }}</span>
            <span class="name quiet">{{ field.name }}</span>
          </button>
        </NDropdown>
      </li>
    </ul>
    <p v-if="!linked" class="quiet none">
      Choose records above, and their fields lie here to be dragged onto the label.
    </p>
  </section>
</template>

<style scoped>
.panel {
  overflow: auto;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
  gap: 6px;
  margin-top: 8px;
}
.field {
  display: block;
  width: 100%;
  padding: 4px 9px;
  border: 1px solid color-mix(in srgb, var(--accent) 35%, var(--paper));
  border-radius: 6px;
  background: var(--accent-soft);
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: grab;
}
.field span {
  display: block;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.value {
  font-weight: 500;
}
h2 {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.ask {
  font-size: 13px;
  font-weight: 400;
}
.name {
  font-size: 12.5px;
}
.none {
  margin-top: 8px;
}
</style>
