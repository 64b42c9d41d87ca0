<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Design } from '@/api/documents'
import PanelDialog from '@/shared/PanelDialog.vue'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'

/** Of which number series the labels have numbers, and what has one of its own. */
type Numbered = NonNullable<Design['series']>[number]
const props = defineProps<{ design: Design; fields: readonly string[] }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ take: [numbers: Numbered[]] }>()

const list = ref<Numbered[]>([])
watch(show, (now) => now && (list.value = (props.design.series ?? []).map((n) => ({ ...n }))), {
  immediate: true,
})
const { data: kept } = useAsked((signal) => (show.value ? api.GET('/series', { signal }) : undefined))
const free = computed(() => (kept.value ?? []).filter((s) => !list.value.some((n) => n.name === s.name)))
const gone = (n: Numbered) => kept.value && !kept.value.some((s) => s.name === n.name)

function add(name: string) {
  const series = kept.value?.find((s) => s.name === name)
  if (series) list.value.push({ name, counts: { ...series.counts } })
}
const per = [
  { value: '', label: 'each label' },
  { value: 'record', label: 'each record, on all its labels' },
  { value: 'group', label: 'records that follow one another with the same' },
  { value: 'run', label: 'the whole run' },
]
/** A field as a formula says it. */
const fieldFormula = (name: string) => (/^[\p{L}_]\w*$/u.test(name) ? name : `field(${JSON.stringify(name)})`)
const fieldOptions = computed(() => props.fields.map((f) => ({ value: fieldFormula(f), label: f })))
const dates = [
  { value: 'formatDate(today(), "yyyy-MM-dd")', label: 'each day' },
  { value: 'formatDate(today(), "yyyy-MM")', label: 'each month' },
  { value: 'formatDate(today(), "yyyy")', label: 'each year' },
]
const anew = computed(() => [
  { value: '', label: 'never' },
  ...dates,
  ...fieldOptions.value.map((f) => ({ value: f.value, label: `for each ${f.label}` })),
])
const incomplete = computed(() => list.value.some((n) => n.per === 'group' && !n.group))
const clash = computed(() => list.value.find((n) => props.fields.includes(n.name)))

function take() {
  const tidy = list.value.map((n) => ({
    ...n,
    per: n.per || undefined,
    group: n.per === 'group' ? n.group : undefined,
    anew: n.anew || undefined,
  }))
  emit('take', tidy)
  show.value = false
}
</script>

<template>
  <PanelDialog v-model:show="show" title="Numbers on the labels" :width="760">
    <p class="quiet">
      A number of a series is a field under the name of the series. It is taken when a run is prepared, and
      nobody else has it.
    </p>
    <fieldset v-for="(n, i) in list" :key="n.name">
      <legend>{{ n.name }}</legend>
      <label
        >One for
        <NSelect
          size="small"
          :value="n.per ?? ''"
          :options="per"
          :aria-label="`What has a number of ${n.name}`"
          @update:value="n.per = $event"
      /></label>
      <label v-if="n.per === 'group'"
        >The same
        <NSelect
          size="small"
          :value="n.group || null"
          :options="fieldOptions"
          filterable
          tag
          placeholder="a field, or a formula"
          :aria-label="`By what records are a group for ${n.name}`"
          @update:value="n.group = $event"
      /></label>
      <label
        >Begins anew
        <NSelect
          size="small"
          :value="n.anew ?? ''"
          :options="anew"
          filterable
          tag
          :aria-label="`When ${n.name} begins anew`"
          @update:value="n.anew = $event"
      /></label>
      <TextButton @click="list.splice(i, 1)">Take it away</TextButton>
      <p v-if="gone(n)" class="warn all">
        ▲ There is no series of this name here any more. Make it, or take it away: a run cannot be prepared.
      </p>
    </fieldset>
    <p v-if="free.length" class="add">
      <NSelect
        size="small"
        :value="null"
        :options="free.map((s) => ({ value: s.name, label: s.name }))"
        placeholder="Add numbers of a series"
        aria-label="Add numbers of a series"
        @update:value="add"
      />
    </p>
    <p>
      <RouterLink to="/records/series?new=1">Make a new series</RouterLink>
    </p>
    <p v-if="clash" class="bad" role="alert">
      “{{ clash.name }}” is also a field of the records. One of them needs another name.
    </p>
    <template #foot>
      <NButton type="primary" :disabled="incomplete || !!clash" @click="take">Take them so</NButton>
      <NButton @click="show = false">Not now</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
fieldset {
  display: grid;
  grid-template-columns: repeat(2, 1fr);
  align-items: end;
  gap: 8px 12px;
  margin: 10px 0;
  padding: 8px 12px 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
fieldset .text-button {
  justify-self: start;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.all {
  grid-column: 1 / -1;
}
.add {
  width: 260px;
  margin: 10px 0;
}
</style>
