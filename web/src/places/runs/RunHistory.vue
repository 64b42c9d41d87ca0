<script setup lang="ts">
import { NButton, NInput, NPopconfirm, NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '@/api/client'
import { count, moment, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import RunFiles from './RunFiles.vue'
import RunTags from './RunTags.vue'
import { useDoing } from '@/shared/useDoing'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'
import AuditList from '@/places/you/AuditList.vue'
import { kindWords } from './words'

/** What came out of the run so far, read back, and labels to print again. */
const props = defineProps<{ run: Schemas['Run'] }>()
const emit = defineEmits<{
  again: [labels: string]
  spoiled: [labels: string, numbers: Schemas['SpoilLabels']['numbers']]
  close: []
}>()

const sum = (of: (p: Schemas['Print']) => number) => props.run.prints.reduce((all, p) => all + of(p), 0)
const out = computed(() => sum((p) => p.printed))
const meant = computed(() => sum((p) => p.readBack))
const other = computed(() => sum((p) => p.readOther))
const seen = computed(() => meant.value + other.value)
const withoutCode = computed(() => sum((p) => p.withoutCode))
const written = computed(() => sum((p) => p.tagsWritten))
const voided = computed(() => sum((p) => p.tagsVoided))
const chips = ref(false)
const notLookedAt = computed(() => sum((p) => p.notLookedAt))
const unknown = computed(() => sum((p) => p.unknown))
const busy = computed(() => props.run.prints.some((p) => p.state === 'printing' || p.state === 'held'))
const which = ref('')
/** Labels that came out spoiled, and the numbers that they have when they are printed again. */
const spoiled = ref('')
const numbers = ref<Schemas['SpoilLabels']['numbers']>('same')
const numberOptions = [
  { value: 'same', label: 'with the same numbers' },
  { value: 'new', label: 'with new numbers' },
]
function spoil() {
  emit('spoiled', spoiled.value, numbers.value)
  spoiled.value = ''
}
/** What this run was made with, to be started from Floor with the newest records. */
const order = ref('')
const kept = ref('')
const { problem: unkept, doing } = useDoing()
async function keep() {
  const name = order.value
  const { data } = await doing(() => api.POST('/orders-of-the-day', { body: { runId: props.run.id, name } }))
  if (data) kept.value = name
}
const runId = computed(() => props.run.id)
const wrote = ref(0)
/** Asked anew whenever what is known of the prints changes, or a file was written. */
const known = computed(() =>
  JSON.stringify([props.run.id, props.run.choice, props.run.prints.map((p) => p.state), wrote.value]),
)
const { data: entries } = useAsked((signal) =>
  known.value ? api.GET('/audit', { params: { query: { run: runId.value } }, signal }) : undefined,
)

/** The labels that read otherwise, named. */
const odd = shallowRef<Schemas['Piece'][]>([])
watch(
  other,
  async () => {
    const found: Schemas['Piece'][] = []
    for (const print of props.run.prints.filter((p) => p.readOther)) {
      const { data } = await api.GET('/prints/{id}/pieces', {
        params: { path: { id: print.id }, query: { which: 'other', most: 50 } },
      })
      found.push(...(data ?? []))
    }
    odd.value = found
  },
  { immediate: true },
)
const states = { printing: 'printing', held: 'held', done: '', cancelled: 'cancelled' }
</script>

<template>
  <aside aria-label="What came out">
    <section>
      <h2>What came out</h2>
      <p v-if="!run.prints.length" class="quiet">
        Nothing yet. Print a sample first and hold it against the real thing.
      </p>
      <template v-else>
        <p class="strong">{{ plural(out, 'label') }}</p>
        <p v-if="seen" class="back" data-testid="read-back">
          <LevelText :level="other ? 'error' : 'fine'"
            >{{ count(meant) }} of {{ count(seen) }} read back as meant</LevelText
          >
        </p>
        <p v-if="written || voided" data-testid="tags">
          <LevelText level="fine">{{ plural(written, 'chip') }} written and read back</LevelText
          ><template v-if="voided"
            >, <span class="warn">{{ plural(voided, 'label') }} void</span></template
          >
          · <TextButton @click="chips = true">See each</TextButton>
          <RunTags v-model:show="chips" :run-id="run.id" :total="written + voided" />
        </p>
        <p v-if="withoutCode" class="quiet">
          {{ plural(withoutCode, 'label') }} {{ withoutCode === 1 ? 'has' : 'have' }} no code to read
        </p>
        <p v-if="notLookedAt" :class="busy ? 'quiet' : 'warn'" data-testid="not-looked-at">
          <template v-if="!busy"><span aria-hidden="true">▲</span> </template
          >{{ plural(notLookedAt, 'label') }} not looked at{{
            run.printer.camera ? '' : ': no camera sees what comes out'
          }}
        </p>
        <p v-if="unknown">
          <LevelText level="error"
            >{{ plural(unknown, 'label') }} {{ unknown === 1 ? 'is' : 'are' }} in doubt: nobody said whether
            {{ unknown === 1 ? 'it' : 'they' }} came out. Print again what is missing.</LevelText
          >
        </p>
        <p v-if="run.printer.camera">
          <RouterLink :to="`/floor/${run.printer.id}/web`">See the web that came out</RouterLink>
        </p>
        <ul v-if="odd.length" class="odd">
          <li v-for="piece in odd" :key="`${piece.label} ${piece.place}`">
            <b>label {{ piece.label }}</b
            >, record {{ piece.record }}: {{ piece.readAs }}
            <TextButton :disabled="busy" @click="emit('again', String(piece.label))">
              Print it again
            </TextButton>
          </li>
        </ul>
      </template>
    </section>
    <section v-if="run.prints.length">
      <h2>Prints</h2>
      <p class="quiet">
        What was printed as
        <a
          v-for="format in ['csv', 'xlsx']"
          :key="format"
          class="as"
          :href="`/api/runs/${run.id}/list?format=${format}`"
          >{{ format.toUpperCase() }}</a
        >
      </p>
      <ul>
        <li v-for="print in [...run.prints].reverse()" :key="print.id" class="print">
          <span>
            {{ kindWords[print.kind] }}: {{ count(print.printed) }} of {{ plural(print.labels, 'label') }}
            <span v-if="states[print.state]" :class="print.state === 'held' ? 'bad' : 'quiet'">{{
              states[print.state]
            }}</span>
          </span>
          <span class="quiet">{{ moment(print.startedAt) }}, {{ print.startedBy }}</span>
        </li>
      </ul>
    </section>
    <RunFiles v-if="!run.closedAt" :run @wrote="wrote++" />
    <section>
      <h2>Order of the day</h2>
      <p v-if="kept">
        <LevelText level="fine">“{{ kept }}” stands on <RouterLink to="/floor">Floor</RouterLink></LevelText>
      </p>
      <form v-else class="again" @submit.prevent="order && keep()">
        <NInput
          v-model:value="order"
          placeholder="such as morning bins"
          :input-props="{ 'aria-label': 'Name of the order of the day' }"
        />
        <NButton attr-type="submit" :disabled="!order">Keep it</NButton>
      </form>
      <p v-if="unkept" class="bad" role="alert">{{ unkept.text }}</p>
    </section>
    <section v-if="entries?.length">
      <h2>Audit log</h2>
      <AuditList :entries />
    </section>
    <section v-if="run.printed && !run.closedAt">
      <h2>Some came out spoiled</h2>
      <form class="spoil" @submit.prevent="spoiled && spoil()">
        <NInput
          v-model:value="spoiled"
          placeholder="label 7, or 3-5"
          :input-props="{ 'aria-label': 'Labels that came out spoiled' }"
        />
        <NSelect
          v-if="run.numbers.length"
          v-model:value="numbers"
          :options="numberOptions"
          aria-label="Their numbers"
        />
        <NButton attr-type="submit" :disabled="!spoiled">They are printed with the rest</NButton>
      </form>
    </section>
    <section v-if="run.printed">
      <h2>Print some again</h2>
      <form class="again" @submit.prevent="which && emit('again', which)">
        <NInput
          v-model:value="which"
          placeholder="label 7, or 3-5"
          :input-props="{ 'aria-label': 'Labels to print again' }"
        />
        <NButton attr-type="submit" :disabled="!which || busy">Print again</NButton>
      </form>
    </section>
    <section v-if="!run.closedAt && !busy && run.left">
      <NPopconfirm positive-text="Give it up" negative-text="Not now" @positive-click="emit('close')">
        <template #trigger
          ><TextButton>
            Give up {{ run.printed ? 'the rest of this run' : 'this run' }}
          </TextButton></template
        >
        {{ plural(run.left, 'label') }} will not be printed.<template v-if="run.numbers.length">
          Their numbers are returned or void, as each series says; those that were at a printer are
          void.</template
        >
      </NPopconfirm>
    </section>
  </aside>
</template>

<style scoped>
section {
  padding: 12px 18px;
  border-bottom: 1px solid var(--line);
}
h2 {
  margin-bottom: 6px;
}
.back {
  font-weight: 600;
  font-size: 16px;
}
.print {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 6px 0;
  border-bottom: 1px dotted var(--control);
}
.odd li {
  padding: 6px 0;
}
.as {
  margin-right: 8px;
}
.again {
  display: flex;
  gap: 8px;
}
.spoil {
  display: grid;
  gap: 8px;
}
</style>
