<script setup lang="ts">
import { NSelect } from 'naive-ui'

/** One fact of a pipe: the same on all markers, or from a field of the records, where there are some. */
defineProps<{ name: string; fields: { value: string; label: string }[] }>()
const field = defineModel<string>('field', { required: true })
</script>

<template>
  <div class="fact">
    <label
      >{{ name }}
      <slot />
    </label>
    <NSelect
      v-if="fields.length > 1"
      v-model:value="field"
      size="small"
      :options="fields"
      :aria-label="`${name}: where it comes from`"
    />
  </div>
</template>

<style scoped>
.fact {
  display: flex;
  align-items: end;
  gap: 8px;
}
.fact > * {
  flex: 1;
  min-width: 0;
}
</style>
