<script setup lang="ts">
import { NInput } from 'naive-ui'
import { ref, watch } from 'vue'
import { designBounds } from '@/api/bounds'
import { bareLength, parseLength, units } from './format'

/** A length in micrometres, typed in millimetres or with its unit. */
const value = defineModel<number>({ required: true })
const props = defineProps<{
  label: string
  least?: number
  most?: number // else as long as any length in a design document can be
  decimals?: number
  size?: 'small' | 'medium'
}>()

const shown = (length: number) => bareLength(length, props.decimals ?? 1)
const text = ref(shown(value.value))
const wrong = ref('')
watch([value, units], ([length]) => {
  if (parseLength(text.value) !== length) text.value = shown(length)
  wrong.value = ''
})

function take() {
  const length = parseLength(text.value)
  if (length === undefined) {
    wrong.value = 'Type a length such as 12.5, 1.2 cm or 1/2 in.'
    return
  }
  if (props.least !== undefined && length < props.least) {
    wrong.value = `At least ${shown(props.least)} ${units.value}.`
    return
  }
  const most = props.most ?? designBounds.Length.value.max
  if (Math.abs(length) > most) {
    wrong.value = `At most ${shown(most)} ${units.value}.`
    return
  }
  wrong.value = ''
  if (text.value !== shown(value.value)) value.value = length // what is shown may be rounded
  text.value = shown(length)
}
</script>

<template>
  <div>
    <NInput
      v-model:value="text"
      :size="size ?? 'small'"
      class="length"
      :status="wrong ? 'error' : undefined"
      :input-props="{ 'aria-label': label, inputmode: 'decimal' }"
      @blur="take"
      @keydown.enter.prevent="take"
    >
      <template #suffix>{{ units }}</template>
    </NInput>
    <p v-if="wrong" class="bad wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.length :deep(input) {
  text-align: right;
}
.wrong {
  font-size: 12px;
}
</style>
