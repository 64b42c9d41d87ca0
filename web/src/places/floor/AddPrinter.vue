<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import PrinterForm from './PrinterForm.vue'

/** A printer is added by its address, and tells what it can do, or by hand. */
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const address = ref('')
const { problem, busy: asking, doing } = useDoing()
const found = shallowRef<Schemas['PrinterLook']>()

async function look() {
  const body = { address: address.value }
  found.value = (await doing(() => api.POST('/printers/look', { body }))).data
}
async function kept(printer: Schemas['Printer']) {
  await router.push(`/floor/${String(printer.id)}`)
}
function byHand() {
  problem.value = undefined
  const about = { name: '', resolution: '8 dots/mm', headDots: 832, inks: ['black'] }
  found.value = { about: about as unknown as Schemas['About'], loaded: '' }
}
</script>

<template>
  <section class="add" aria-label="Add a printer">
    <form class="ask" @submit.prevent="look">
      <label>
        Address
        <NInput
          v-model:value="address"
          placeholder="ipp://192.0.2.7/ipp/print"
          :input-props="{ 'aria-label': 'Address of the printer' }"
          class="address"
        />
      </label>
      <NButton type="primary" attr-type="submit" :loading="asking" :disabled="!address.trim()"
        >Ask it what it can do</NButton
      >
      <TextButton @click="byHand">It is not connected: describe it by hand</TextButton>
      <span class="room" />
      <NButton @click="emit('close')">Not now</NButton>
    </form>
    <ProblemNote v-if="problem" :problem />
    <template v-if="found">
      <p class="quiet said">
        <template v-if="found.loaded"
          >It answers, and has <b>{{ found.loaded }}</b> loaded. Look over what it can do, then add
          it.</template
        >
        <template v-else>Say what it can do; designs can be made for it at once.</template>
      </p>
      <PrinterForm :key="address" :about="found.about" :address @kept="kept" @close="emit('close')" />
    </template>
  </section>
</template>

<style scoped>
.add {
  background: var(--sunken);
  border-bottom: 1px solid var(--line);
}
.ask {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 12px 20px;
}
.ask label {
  display: flex;
  align-items: center;
  gap: 10px;
}
.address {
  width: 320px;
}
.room {
  flex: 1;
}
.said {
  padding: 0 20px;
}
</style>
