<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NInput, NInputNumber, NRadio, NRadioGroup } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { moment, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import TextButton from '@/shared/TextButton.vue'
import { useDoing } from '@/shared/useDoing'

/** From where a series goes on: it is held when its database was put back, and can be put ahead at any time. */
const props = defineProps<{ series: Schemas['NumberSeries'] }>()
const emit = defineEmits<{ changed: [] }>()

const opened = ref(false)
const open = computed(() => opened.value || !!props.series.heldAt)
const one = computed(() => props.series.keys.every((k) => !k.key))
const by = ref<'last' | 'ahead' | 'none'>(one.value ? 'last' : 'ahead')
const last = ref('')
const ahead = ref<number | null>(null)
const why = ref('')
const ready = computed(() =>
  by.value === 'last' ? last.value.trim() !== '' : by.value === 'none' || ahead.value !== null,
)

const { problem, doing } = useDoing()
async function goOn() {
  const body =
    by.value === 'last'
      ? { last: last.value.trim(), why: why.value }
      : { ahead: by.value === 'none' ? 0 : (ahead.value ?? 0), why: why.value }
  const { error } = await doing(() =>
    api.POST('/series/{id}/ahead', { params: { path: { id: props.series.id } }, body }),
  )
  if (error) return
  opened.value = false
  last.value = why.value = ''
  emit('changed')
}
</script>

<template>
  <section aria-labelledby="ahead">
    <h2 id="ahead">Where it goes on</h2>
    <p v-if="series.heldAt">
      <LevelText level="stopped">It gives no numbers now.</LevelText> Its database was put back from a copy
      ({{ moment(series.heldAt) }}). Numbers that were given since may be on labels. Look at the last labels,
      and say here.
    </p>
    <p v-else-if="!open" class="quiet">
      It goes on by itself. <TextButton @click="opened = true">Put it ahead</TextButton>
    </p>
    <form v-if="open" @submit.prevent="goOn">
      <NRadioGroup v-model:value="by" name="by">
        <NRadio v-if="one" value="last">behind the highest number on a label</NRadio>
        <NRadio value="ahead">ahead by so many numbers</NRadio>
        <NRadio v-if="series.heldAt" value="none">where it stands: none was given since</NRadio>
      </NRadioGroup>
      <NInput
        v-if="by === 'last'"
        v-model:value="last"
        :maxlength="300"
        placeholder="Type or scan it"
        :input-props="{ 'aria-label': 'The highest number on a label' }"
      />
      <NInputNumber
        v-if="by === 'ahead'"
        v-bind="requestBounds.AdvanceSeries.ahead"
        v-model:value="ahead"
        :precision="0"
        placeholder="more than were given"
        :input-props="{ 'aria-label': 'Numbers to skip' }"
      />
      <NInput
        v-model:value="why"
        :maxlength="500"
        placeholder="Why, for who asks later"
        :input-props="{ 'aria-label': 'Why' }"
      />
      <p>
        <NButton attr-type="submit" type="primary" :disabled="!ready">Go on from there</NButton>
        <TextButton v-if="!series.heldAt" @click="opened = false">Not now</TextButton>
      </p>
      <p class="quiet">What is skipped goes to no label, and is kept below.</p>
    </form>
    <ProblemNote :problem />
    <ul v-if="series.skipped.length">
      <li v-for="skip in series.skipped" :key="skip.at + skip.key">
        <b class="mono">{{ skip.first }}</b><template v-if="skip.count > 1">
          to <b class="mono">{{ skip.last || '…' }}</b></template
        ><template v-if="skip.key"> for {{ skip.key }}</template>
        <span class="quiet">
          · {{ plural(skip.count, 'number') }} skipped {{ moment(skip.at) }} by {{ skip.by
          }}<template v-if="skip.why">: {{ skip.why }}</template></span
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
form {
  display: grid;
  gap: 6px;
}
li {
  padding: 4px 0;
  border-top: 1px dotted var(--control);
}
</style>
