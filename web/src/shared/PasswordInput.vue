<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, ref, watch } from 'vue'

/** A password of a chip, eight hexadecimal digits; what is typed counts when it is whole. */
const props = defineProps<{ label: string; placeholder?: string }>()
const model = defineModel<string | undefined>({ required: true })
const typed = ref(model.value ?? '')
watch(model, (now) => (typed.value = now ?? ''))
const whole = computed(() => /^([0-9A-Fa-f]{8})?$/.test(typed.value))
function take(text: string) {
  typed.value = text
  if (whole.value) model.value = text || undefined
}
</script>

<template>
  <NInput
    size="small"
    :value="typed"
    :maxlength="8"
    :placeholder="props.placeholder ?? ''"
    :status="whole ? undefined : 'error'"
    :input-props="{
      'aria-label': `${label}, eight hexadecimal digits`,
      'aria-invalid': !whole,
      spellcheck: 'false',
    }"
    @update:value="take"
    @blur="typed = model ?? ''"
  />
</template>
