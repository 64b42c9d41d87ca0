<script setup lang="ts">
import { requestBounds } from '@/api/bounds'
import { NButton, NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { asStock } from '@/api/documents'
import { count, plural } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'

/** How many labels a record gives, and in which order they come. */
const props = defineProps<{ run: Schemas['Run']; started: boolean; open: boolean }>()
const emit = defineEmits<{ open: []; take: [howMany: Schemas['HowMany']] }>()

const each = ref(1)
const field = ref<string | null>(null)
const free = ref<string | null>(null)
const pack = ref<number | null>(null)
const sets = ref(false)
const fill = ref<NonNullable<Schemas['HowMany']['fill']>>('')
watch(
  () => JSON.stringify(props.run.choice.howMany),
  () => {
    const chosen = props.run.choice.howMany
    each.value = chosen.each
    field.value = chosen.field || null
    free.value = chosen.free || null
    pack.value = chosen.pack || null
    sets.value = chosen.sets ?? false
    fill.value = chosen.fill ?? ''
  },
  { immediate: true },
)
function take() {
  emit('take', {
    each: Math.max(each.value, 1),
    field: field.value ?? '',
    free: (field.value && free.value) ?? '',
    pack: (field.value && pack.value) || 0,
    sets: sets.value,
    fill: fill.value,
    corrected: props.run.choice.howMany.corrected,
  })
}
// The run is asked about again and again; menus that are open change only with what they show.
const sheets = computed(() => !!asStock(props.run.stock).sheet)
/** In which order labels take the places of a row of lanes or a sheet. */
const fills = computed(() =>
  sheets.value
    ? [
        { value: '', label: 'along the rows of a sheet' },
        { value: 'down', label: 'down the columns of a sheet' },
        { value: 'through', label: 'down the stack of sheets' },
      ]
    : [
        { value: '', label: 'across the lanes' },
        { value: 'through', label: 'along one lane, then the next' },
      ],
)
</script>

<template>
  <section class="line" aria-labelledby="q-many">
    <h2 id="q-many">{{ run.recordSetId === undefined ? 'How many' : 'How many of each' }}</h2>
    <form v-if="open" class="edit" @submit.prevent="take">
      <NSelect
        v-if="run.recordSetFields.length"
        v-model:value="field"
        :options="run.recordSetFields.map((value) => ({ value, label: `as the field ${value} says` }))"
        clearable
        placeholder="the same number"
        aria-label="Where the number comes from"
        class="from"
      />
      <NInputNumber
        v-if="!field"
        v-bind="requestBounds.HowMany.each"
        v-model:value="each"
        :show-button="false"
        class="each"
        :input-props="{ 'aria-label': 'Labels of each record' }"
      />
      <template v-if="field">
        <NSelect
          v-model:value="free"
          :options="
            run.recordSetFields
              .filter((value) => value !== field)
              .map((value) => ({ value, label: `and ${value} besides` }))
          "
          clearable
          placeholder="nothing besides"
          aria-label="A field whose number is added"
          class="from"
        />
        <NInputNumber
          v-bind="requestBounds.HowMany.pack"
          v-model:value="pack"
          :show-button="false"
          placeholder="a label a piece"
          class="pack"
          :input-props="{ 'aria-label': 'Pieces in a pack, a label for each pack' }"
          ><template v-if="pack" #suffix>in a pack</template></NInputNumber
        >
      </template>
      <NCheckbox v-if="run.chosen > 1" v-model:checked="sets">in sets: the whole run, then again</NCheckbox>
      <NSelect
        v-if="run.perPage > 1"
        v-model:value="fill"
        :options="fills"
        aria-label="In which order places are filled"
        class="from"
      />
      <NButton type="primary" attr-type="submit">Take this</NButton>
    </form>
    <p v-else>
      <template v-if="run.choice.howMany.field"
        >as the field <b>{{ run.choice.howMany.field }}</b> says<template v-if="run.choice.howMany.free"
          >, and <b>{{ run.choice.howMany.free }}</b> besides</template
        ><template v-if="run.choice.howMany.pack"
          >, one for each pack of {{ count(run.choice.howMany.pack) }}</template
        ></template
      >
      <template v-else
        ><b>{{ count(run.choice.howMany.each) }}</b>
        {{ run.recordSetId === undefined ? 'of it' : 'of each' }}</template
      >
      <template v-if="run.choice.howMany.sets">, in sets</template
      ><template v-if="run.choice.howMany.fill"
        >, {{ fills.find((f) => f.value === run.choice.howMany.fill)?.label }}</template
      >
      · <b>{{ plural(run.labels, 'label') }}</b>
    </p>
    <TextButton v-if="!started && !open" @click="emit('open')">Change</TextButton>
  </section>
</template>

<style scoped src="./edit.css"></style>
