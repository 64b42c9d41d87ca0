<script setup lang="ts">
import ReasonForm from '@/shared/ReasonForm.vue'

/** Overrules what a rule of a safety label asks, with a reason, or has it hold again. */
defineProps<{ overruled: string }>()
const emit = defineEmits<{ overrule: [reason: string] }>()
</script>

<template>
  <ReasonForm
    :reason="overruled"
    action="Overrule"
    undo="Have it hold again"
    placeholder="Why is it right as it is?"
    label="Reason to overrule it"
    @give="emit('overrule', $event)"
  />
</template>
