<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { moment, plural } from '@/shared/format'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import ChangeList from './ChangeList.vue'

/** The reference packs that are here: which is in use, a newer one looked for, held against it, taken in, or gone back from. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ reference: Schemas['Reference'] | undefined }>()
const emit = defineEmits<{ changed: [reference?: Schemas['Reference']] }>()

const { problem, doing } = useDoing()
const looking = ref<string>()
const text = ref('')
const told = shallowRef<NonNullable<Schemas['Reference']['told']>>([])
watch(show, () => {
  told.value = []
  looking.value = undefined
  text.value = ''
})
const {
  data: changes,
  problem: unlike,
  refresh,
} = useAsked((signal) =>
  looking.value === undefined
    ? undefined
    : api.GET('/reference/packs/{version}/changes', {
        params: { path: { version: looking.value } },
        signal,
      }),
)
const packs = computed(() => props.reference?.packs ?? [])

function came(now: Schemas['Reference'] | undefined) {
  if (!now) return
  text.value = now.text
  looking.value = now.packs.find((p) => p.newer)?.version ?? looking.value
  emit('changed', now)
}
async function check() {
  came((await doing(() => api.POST('/reference/check'))).data)
}
/** A signed pack, or the authority's own table, of which a pack is made. */
async function bringIn(event: Event, path: '/reference/packs' | '/reference/annex') {
  const field = event.target as HTMLInputElement
  const [file] = field.files ?? []
  if (!file) return
  const body = new FormData()
  body.append('file', file)
  const { data } = await doing(() => api.POST(path, { body: body as never }))
  field.value = ''
  told.value = data?.told ?? []
  came(data)
}
async function choose(version: string) {
  const { error } = await doing(() =>
    api.POST('/reference/packs/{version}/choose', { params: { path: { version } } }),
  )
  if (error) return
  text.value = `${version} is in use. Designs stay with the pack they were made with until you take this one on each.`
  emit('changed')
  await refresh()
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Reference packs" :width="860">
    <p class="quiet small">
      Symbols, hazard classes, statements, substances, groups of pipes and ready texts of signs come as one
      signed pack. A newer one is held against the one in use before it is taken.
    </p>
    <ProblemNote :problem="problem ?? unlike" />
    <p v-if="text" role="status">{{ text }}</p>
    <details v-if="told.length">
      <summary class="warn">
        ▲ {{ plural(told.length, 'row') }} of the table not taken over as they stand
      </summary>
      <ul class="told">
        <li v-for="t in told" :key="`${t.row} ${t.text}`">
          Row {{ t.row }}<template v-if="t.index"> ({{ t.index }})</template>: {{ t.text }}
        </li>
      </ul>
    </details>
    <table v-if="packs.length" class="plain packs">
      <thead>
        <tr>
          <th>Version</th>
          <th>Issued</th>
          <th>Here since</th>
          <th><span class="unseen">What to do</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in packs" :key="p.version">
          <td class="version">
            <b>{{ p.version }}</b> <span v-if="p.inUse">in use</span><span v-else-if="p.newer">newer</span>
          </td>
          <td>
            {{ p.issuedOn }} by {{ p.issuedBy }}<br /><span class="quiet">{{ p.notes }}</span>
          </td>
          <td class="quiet">{{ moment(p.takenAt) }}, {{ p.takenBy }}</td>
          <td>
            <div v-if="!p.inUse" class="ways">
              <NButton size="small" :aria-label="`What differs: ${p.version}`" @click="looking = p.version"
                >What differs</NButton
              >
              <NButton
                size="small"
                type="primary"
                :aria-label="`${p.newer ? 'Take it in' : 'Go back to it'}: ${p.version}`"
                @click="choose(p.version)"
                >{{ p.newer ? 'Take it in' : 'Go back to it' }}</NButton
              >
            </div>
          </td>
        </tr>
      </tbody>
    </table>
    <section v-if="looking !== undefined && changes" aria-labelledby="pack-differs">
      <h3 id="pack-differs">
        {{ looking }} against {{ reference?.version }}: {{ plural(changes.length, 'difference') }}
      </h3>
      <ChangeList :changes uses />
    </section>
    <template #foot>
      <label class="file"
        >A pack as a file
        <input type="file" accept=".zip,application/zip" @change="bringIn($event, '/reference/packs')"
      /></label>
      <label class="file"
        >Annex VI as a spreadsheet
        <input type="file" accept=".xlsx,.ods,.csv" @change="bringIn($event, '/reference/annex')"
      /></label>
      <span class="room" />
      <NButton v-if="reference?.asks" @click="check">Look for a newer one</NButton>
      <NButton @click="show = false">Close</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.packs {
  margin: 10px 0;
}
.version {
  white-space: nowrap;
}
.ways {
  display: flex;
  justify-content: end;
  gap: 8px;
}
.file {
  display: flex;
  align-items: center;
  gap: 8px;
}
.room {
  flex: 1;
}
h3 {
  margin: 12px 0 6px;
  font-size: 15px;
}
.told {
  max-height: 200px;
  overflow: auto;
  font-size: 13px;
}
</style>
