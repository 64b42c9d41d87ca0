<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import { useDoing } from '@/shared/useDoing'

/** The labels of a run as files: saved, put into a folder, sent by mail; and how far the one is that is written. */
const props = defineProps<{ run: Schemas['Run'] }>()
const emit = defineEmits<{ wrote: [] }>()

type Format = 'pdf' | 'png' | 'svg' | 'pwg'
const formats: readonly Format[] = ['pdf', 'png', 'svg', 'pwg']
const options = formats.map((value) => ({ value, label: value.toUpperCase() }))
const format = ref<Format>('pwg')
const mailTo = ref('')
const done = ref('')
const { problem, busy, doing } = useDoing()
/** Labels of other designs that come out of a printer of their own: they are in none of these files. */
const elsewhere = computed(() =>
  (props.run.choice.besides ?? []).filter((b) => b.printerId).reduce((sum, b) => sum + (b.labels ?? 0), 0),
)
const params = { path: { id: props.run.id } }

/** How far the file under way is; asked for while one may be. */
const far = ref<{ written: number; of: number }>()
const beginsWithin = 3000
let begun = 0
const { pause, resume } = useIntervalFn(
  async () => {
    const { data } = await api
      .GET('/runs/{id}/labels/progress', { params })
      .catch(() => ({ data: undefined }))
    far.value = data?.of ? data : undefined
    if (!far.value && !busy.value && Date.now() - begun > beginsWithin) pause()
  },
  500,
  { immediate: false },
)
function watchIt() {
  done.value = ''
  begun = Date.now()
  resume()
}
async function put() {
  watchIt()
  const { data } = await doing(() =>
    api.POST('/runs/{id}/labels/folder', { params, body: { format: format.value } }),
  )
  if (!data) return
  done.value = `${plural(data.labels, 'label')} put into the folder as ${data.name}`
  emit('wrote')
}
async function send() {
  watchIt()
  const to = mailTo.value
  const { error } = await doing(() =>
    api.POST('/runs/{id}/labels/mail', { params, body: { to, format: 'pdf' } }),
  )
  if (error) return
  done.value = `sent to ${to}`
  emit('wrote')
}
</script>

<template>
  <section>
    <h2>Its labels as files</h2>
    <p>
      <a
        v-for="f in formats"
        :key="f"
        class="as"
        :href="`/api/runs/${run.id}/labels/file?format=${f}`"
        @click="watchIt"
        >{{ f.toUpperCase() }}</a
      >
    </p>
    <p class="quiet">
      For a printer off the network, PWG is what leaves the printer.<template v-if="run.numbers.length">
        Their numbers are then given to no other label.</template
      >
    </p>
    <p v-if="elsewhere" class="quiet">
      {{ plural(elsewhere, 'label') }} for another printer {{ elsewhere === 1 ? 'is' : 'are' }} not in these
      files.
    </p>
    <form class="row" @submit.prevent="put">
      <NSelect v-model:value="format" :options aria-label="Form of the file" />
      <NButton attr-type="submit" :disabled="busy">Put it into the folder</NButton>
    </form>
    <form class="row" @submit.prevent="mailTo && send()">
      <NInput
        v-model:value="mailTo"
        placeholder="to an address"
        :input-props="{ 'aria-label': 'Send them to', type: 'text', autocomplete: 'email' }"
      />
      <NButton attr-type="submit" :disabled="!mailTo || busy">Mail the PDF</NButton>
    </form>
    <p v-if="far" role="status" class="quiet">
      {{ count(far.written) }} of {{ plural(far.of, 'label') }} written
    </p>
    <p v-else-if="done" role="status">
      <LevelText level="fine">{{ done }}</LevelText>
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem.text }}</p>
  </section>
</template>

<style scoped>
.as {
  margin-right: 12px;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  margin-top: 6px;
}
</style>
