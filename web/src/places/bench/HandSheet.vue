<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { lengthText, plural } from '@/shared/format'
import LevelText from '@/shared/LevelText.vue'
import TextButton from '@/shared/TextButton.vue'
import OverruleForm from './OverruleForm.vue'
import PrinterNote from './PrinterNote.vue'
import ReferenceNote from './ReferenceNote.vue'

/** The label in hand while no element is chosen: what it is, what is wrong with it, and which labels are worth a look. */
const props = defineProps<{
  record: number
  design: Design
  /** The artwork, in micrometres and in dots. */
  art: { width: number; height: number }
  dots: { width: number; height: number }
  findings: readonly Schemas['Finding'][]
  proof: Schemas['Proof'] | undefined
  printerId: number | undefined
}>()
const emit = defineEmits<{
  choose: [element: string]
  find: [group: Schemas['FindingGroup']]
  go: [record: number]
  reference: [design: Design]
  overrule: [demand: number, reason: string]
}>()

const facts = computed(() => {
  const { stock, printer } = props.design
  const made: [string, string][] = [
    ['Label', `${lengthText(props.art.width)} × ${lengthText(props.art.height)}`],
    ['In dots', `${String(props.dots.width)} × ${String(props.dots.height)} at ${printer.resolution}`],
    ['Stock', `${stock.name}, ${stock.material || stock.kind}`],
  ]
  if (stock.keep) made.push(['Kept free at the edges', lengthText(stock.keep)])
  return made
})
const elsewhere = computed(() =>
  (props.proof?.groups ?? []).filter(
    (g) => !props.findings.some((f) => f.element === g.element && f.kind === g.kind),
  ),
)
const worth = computed(() => (props.proof?.extremes ?? []).slice(0, 8))
</script>

<template>
  <section aria-labelledby="in-hand">
    <h2 id="in-hand">Record {{ record }}</h2>
    <ul v-if="findings.length">
      <li v-for="finding in findings" :key="finding.element + finding.rule + String(finding.demand)">
        <TextButton @click="emit('choose', finding.element)">
          <LevelText :level="finding.level" /> {{ finding.text }}
        </TextButton>
        <span class="quiet"> {{ finding.do }}</span>
        <OverruleForm
          v-if="finding.demand"
          :overruled="design.demands?.[finding.demand - 1]?.overruled ?? ''"
          @overrule="(reason: string) => emit('overrule', finding.demand ?? 0, reason)"
        />
      </li>
    </ul>
    <p v-else-if="!design.elements.length" class="quiet">
      Drag a field from the tray onto the label, and say whether it stands there as words or as a code.
    </p>
    <p v-else class="quiet">
      All is well on this label. Choose an element to see what it says, how it looks and where it sits.
    </p>
    <PrinterNote :design :printer-id @take="emit('reference', $event)" />
    <ReferenceNote :design @take="emit('reference', $event)" />
    <dl>
      <div v-for="[name, value] in facts" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ value }}</dd>
      </div>
    </dl>
    <template v-if="elsewhere.length">
      <h2>On other labels</h2>
      <ul>
        <li v-for="group in elsewhere.slice(0, 6)" :key="group.element + group.rule">
          <TextButton @click="emit('find', group)">
            <LevelText :level="group.level" /> {{ group.element }}: {{ group.text }}
          </TextButton>
          <span class="quiet"> {{ plural(group.count, 'record') }}</span>
        </li>
      </ul>
    </template>
    <template v-if="worth.length">
      <h2>Worth a look</h2>
      <ul>
        <li v-for="extreme in worth" :key="extreme.record">
          <TextButton @click="emit('go', extreme.record)"> Record {{ extreme.record }} </TextButton>
          <span class="quiet"> {{ extreme.why }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
li {
  padding: 4px 0;
}
.text-button {
  text-align: left;
}
dl {
  margin: 10px 0;
}
dl div {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 4px 0;
  border-bottom: 1px dotted var(--control);
}
dd {
  text-align: right;
  font-weight: 500;
}
dl ~ h2 {
  margin-top: 12px;
}
dt {
  flex: none;
}
li .quiet {
  margin-left: 6px;
}
</style>
