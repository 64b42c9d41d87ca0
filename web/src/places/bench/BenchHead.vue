<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { moment, plural } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'

const props = defineProps<{
  design: Design
  kept: Schemas['Design'] | undefined
  state: 'kept' | 'waits' | 'conflict'
  sets: readonly Schemas['RecordSet'][]
  recordSetId: number | undefined
  proof: Schemas['Proof'] | undefined
  looking: boolean
  undoes: string | undefined
  redoes: string | undefined
  /** Who else has the design open. */
  others: readonly string[]
}>()
const emit = defineEmits<{
  rename: [name: string]
  records: [id: number | undefined]
  findings: []
  carry: []
  run: []
  undo: []
  redo: []
}>()

const options = computed(() =>
  props.sets.map((s) => ({ value: s.id, label: `${s.name} · ${String(s.count)}` })),
)
/** A set that is retired, or not told of yet. */
const notListed = (id: string | number) => ({
  value: id,
  label: props.sets.length ? 'no longer in the list' : '…',
})
const draft = computed(() => {
  const version = props.kept?.version ? `version ${String(props.kept.version)} · ` : ''
  if (props.state === 'waits') return `${version}keeping the draft`
  if (props.state === 'conflict') return `${version}draft not kept`
  return `${version}draft kept ${props.kept ? moment(props.kept.updatedAt) : ''}`
})
const found = computed(() => (props.proof ? props.proof.errors + props.proof.warnings : 0))
</script>

<template>
  <header class="head">
    <div class="title">
      <h1 class="unseen">{{ design.name }}</h1>
      <NInput
        :value="design.name"
        size="small"
        class="name"
        :maxlength="200"
        placeholder=""
        :input-props="{ 'aria-label': 'Name of the design' }"
        @update:value="$event && emit('rename', $event)"
      />
      <span class="quiet draft" role="status"
        >{{ draft }}<template v-if="others.length"> · here too: {{ others.join(', ') }}</template></span
      >
    </div>
    <dl>
      <div>
        <dt>stock</dt>
        <dd>
          <TextButton :title="design.stock.name" @click="emit('carry')">
            {{ design.stock.name }}
          </TextButton>
        </dd>
      </div>
      <div>
        <dt>printer</dt>
        <dd>
          <TextButton :title="`${design.printer.name} · ${design.printer.resolution}`" @click="emit('carry')">
            {{ design.printer.name }}</TextButton><span class="resolution">
            · {{ design.printer.resolution }}</span
          >
        </dd>
      </div>
      <div>
        <dt id="b-records">records</dt>
        <dd>
          <NSelect
            size="small"
            class="sets"
            :value="recordSetId ?? null"
            :options
            :fallback-option="notListed"
            clearable
            placeholder="none chosen"
            aria-labelledby="b-records"
            @update:value="emit('records', $event ?? undefined)"
          />
        </dd>
      </div>
    </dl>
    <span class="room" />
    <RouterLink v-if="kept" :to="`/bench/${kept.id}/versions`" class="versions">Versions</RouterLink>
    <span class="undo">
      <TextButton
        :disabled="undoes === undefined"
        :title="undoes && `Undo ${undoes}`"
        :aria-label="`Undo ${undoes ?? ''}`"
        @click="emit('undo')"
      >
        Undo
      </TextButton>
      <TextButton
        :disabled="redoes === undefined"
        :title="redoes && `Redo ${redoes}`"
        :aria-label="`Redo ${redoes ?? ''}`"
        @click="emit('redo')"
      >
        Redo
      </TextButton>
    </span>
    <TextButton v-if="found" class="findings warn" @click="emit('findings')">
      <span aria-hidden="true">▲</span> {{ plural(found, 'finding') }}
    </TextButton>
    <span v-else-if="looking" class="quiet findings">looking</span>
    <span v-else-if="proof" class="good findings">✓ all {{ proof.records }} well</span>
    <NButton type="primary" @click="emit('run')">Prepare a run</NButton>
  </header>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 50px;
  padding: 4px 20px;
  border-bottom: 1px solid var(--line);
}
.title {
  min-width: 150px;
  flex: 0 1 250px;
}
.name {
  font-weight: 600;
  margin-left: -10px;
}
.name:not(:hover, :focus-within) {
  --n-color: transparent !important;
}
.name:deep(.n-input__border) {
  border-color: transparent;
}
.name:deep(.n-input__input-el) {
  font-size: 16px;
}
.draft {
  display: block;
  font-size: 12px;
  line-height: 14px;
  white-space: nowrap;
}
dl {
  display: flex;
}
dl > div {
  padding: 0 14px;
  border-left: 1px solid var(--line);
}
dt {
  font-size: 12px;
  line-height: 14px;
  color: var(--quiet);
}
dd {
  font-weight: 500;
  white-space: nowrap;
  min-height: 22px;
}
.sets {
  width: 150px;
}
.sets:deep(.n-base-selection) {
  --n-height: 24px !important;
}
.room {
  flex: 1;
}
.versions {
  color: var(--ink);
  font-weight: 400;
  text-decoration: none;
}
.undo {
  display: flex;
  gap: 10px;
}
.findings {
  white-space: nowrap;
  font-weight: 500;
}
.findings.warn {
  color: var(--warn);
}
dl,
dl > div {
  min-width: 0;
}
dl dd:has(button),
dl dd button {
  overflow: hidden;
  max-width: 100%;
  text-overflow: ellipsis;
  vertical-align: bottom;
}
@media (max-width: 1200px) {
  dl > div {
    padding: 0 8px;
  }
  .head {
    gap: 8px;
    padding-inline: 14px;
  }
  .title {
    min-width: 130px;
    flex: 0 3 200px;
  }
  .sets {
    width: 150px;
  }
  /* The label's own sheet says it too. */
  .resolution {
    display: none;
  }
}
</style>
