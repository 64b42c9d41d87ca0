<script setup lang="ts">
import { NButton, NCheckbox } from 'naive-ui'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import type { Element } from '@/api/documents'
import { useAsked } from '@/shared/useAsked'
import SymbolsPanel from '../safety/SymbolsPanel.vue'
import { drawingOf } from '../safety/symbols'
import SheetRow from './SheetRow.vue'

/** Which symbol of the library it is, and what that means. */
type Looks = NonNullable<Element['symbol']>
const props = defineProps<{ symbol: Looks; reference?: string }>()
const emit = defineEmits<{ set: [to: Looks] }>()
const { data } = useAsked((signal) =>
  api.GET('/symbols', { params: { query: { search: props.symbol.id, reference: props.reference } }, signal }),
)
const about = computed(() => data.value?.find((s) => s.id === props.symbol.id))
const choosing = ref(false)
</script>

<template>
  <div class="which">
    <img :src="drawingOf(symbol.id, reference)" alt="" width="64" height="64" />
    <p v-if="about">
      <strong>{{ about.number }}</strong> {{ about.name }}<br />
      <span class="quiet">{{ about.means }}. {{ about.standard }}</span>
    </p>
  </div>
  <SheetRow name="Symbol">
    <NButton size="small" @click="choosing = true">Choose another</NButton>
  </SheetRow>
  <SheetRow name="Frame">
    <NCheckbox
      :checked="!symbol.noFrame"
      @update:checked="emit('set', { ...symbol, noFrame: $event ? undefined : true })"
      >printed too</NCheckbox
    >
  </SheetRow>
  <SymbolsPanel v-model:show="choosing" :reference @take="emit('set', { ...symbol, id: $event.id })" />
</template>

<style scoped>
.which {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-bottom: 8px;
  font-size: 13px;
}
.which img {
  flex: none;
  padding: 3px;
  background: var(--label);
  border-radius: 4px;
}
</style>
