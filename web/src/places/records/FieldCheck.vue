<script setup lang="ts">
import { NButton, NCheckbox, NInput, NSelect } from 'naive-ui'
import { ref, watch } from 'vue'
import type { Design } from '@/api/documents'
import PanelDialog from '@/shared/PanelDialog.vue'

/** What the values of one field must be. */
type Check = NonNullable<Design['questions']>[number]
const props = defineProps<{ field: string; check: Check | undefined }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [check: Check | undefined] }>()

const made = ref<Check>({ name: '', kind: 'text' })
watch(show, (now) => now && (made.value = { kind: 'text', ...props.check, name: props.field }), {
  immediate: true,
})
const kinds = (['text', 'number', 'date', 'choice', 'yes or no'] as const).map((value) => ({
  value,
  label: value,
}))
const words = (kind: Check['kind']) => (kind === 'text' ? 'letters' : kind === 'date' ? 'day' : 'number')
function take(check?: Check) {
  emit('take', check)
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" :title="`What ${field} must be`" :width="520">
    <div class="form">
      <label
        >A value is a
        <NSelect v-model:value="made.kind" size="small" :options="kinds" aria-label="A value is a" />
      </label>
      <NCheckbox v-model:checked="made.must">it must be there</NCheckbox>
      <label v-if="made.kind === 'choice'" class="all"
        >One of, with commas between
        <NInput
          size="small"
          :value="(made.choices ?? []).join(', ')"
          placeholder="North, South"
          :input-props="{ 'aria-label': 'One of' }"
          @update:value="
            made.choices = $event
              .split(',')
              .map((c) => c.trim())
              .filter(Boolean)
          "
      /></label>
      <template v-else-if="made.kind !== 'yes or no'">
        <label
          >Least {{ words(made.kind) }}
          <NInput
            v-model:value="made.least"
            size="small"
            placeholder=""
            :input-props="{ 'aria-label': 'Least' }"
        /></label>
        <label
          >Most {{ words(made.kind) }}
          <NInput
            v-model:value="made.most"
            size="small"
            placeholder=""
            :input-props="{ 'aria-label': 'Most' }"
        /></label>
      </template>
      <label v-if="made.kind === 'text'" class="all"
        >Pattern
        <NInput
          v-model:value="made.pattern"
          size="small"
          placeholder="\d\d[A-Z]\d+"
          :input-props="{ 'aria-label': 'Pattern' }"
      /></label>
    </div>
    <template #foot>
      <NButton type="primary" @click="take(made)">Check it so</NButton>
      <NButton @click="show = false">Not now</NButton>
      <NButton v-if="check" @click="take()">Check nothing</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: end;
  gap: 10px 14px;
}
.all {
  grid-column: 1 / -1;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
</style>
