<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { asDesign, asDocument, type Design } from '@/api/documents'
import { plural } from '@/shared/format'
import PanelDialog from '@/shared/PanelDialog.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'
import ChangeList from '../reference/ChangeList.vue'

/** That a label was made with another reference pack than the one in use, and what that one would change on it before it is taken. */
const props = defineProps<{ design: Design }>()
const emit = defineEmits<{ take: [design: Design] }>()

const needs = computed(() => !!props.design.laid || props.design.elements.some((e) => e.symbol))
const { data: reference } = useAsked((signal) =>
  needs.value ? api.GET('/reference', { signal }) : undefined,
)
const made = computed(() => props.design.reference)
const other = computed(
  () => needs.value && made.value !== undefined && reference.value && made.value !== reference.value.version,
)
const show = ref(false)
const { data: on, problem } = useAsked((signal) =>
  show.value
    ? api.POST('/reference/on-label', { body: { document: asDocument(props.design) }, signal })
    : undefined,
)
function take() {
  if (!on.value) return
  show.value = false
  emit('take', asDesign(on.value.document))
}
</script>

<template>
  <p v-if="other" class="note">
    Made with reference {{ made }}; {{ reference?.version }} is in use.
    <TextButton @click="show = true">See what it would change</TextButton>
  </p>
  <PanelDialog
    v-model:show="show"
    :title="`Reference ${reference?.version ?? ''} on this label`"
    :width="820"
  >
    <ProblemNote v-if="problem" :problem />
    <template v-if="on">
      <div v-if="on.before" class="two">
        <figure>
          <img :src="on.before" :alt="`The label with ${on.reference}`" />
          <figcaption>with {{ on.reference }}, as it is</figcaption>
        </figure>
        <figure>
          <img :src="on.after" :alt="`The label with ${on.version}`" />
          <figcaption>with {{ on.version }}</figcaption>
        </figure>
      </div>
      <h3>{{ plural(on.changes.length, 'difference') }} on this label</h3>
      <ChangeList :changes="on.changes" />
      <p v-if="on.changes.some((c) => c.kind === 'substance' || c.kind === 'class')" class="quiet">
        What follows from a substance or a class is laid out anew: take this one, then open the chemical label
        once more.
      </p>
    </template>
    <template #foot>
      <NButton @click="show = false">Leave it as it is</NButton>
      <NButton type="primary" :disabled="!on" @click="take">Take it on this label</NButton>
    </template>
  </PanelDialog>
</template>

<style scoped>
.note {
  padding: 8px 0;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  padding: 12px;
  border-radius: 6px;
  background: var(--liner);
}
figure {
  margin: 0;
}
figcaption {
  color: var(--on-liner);
}
figure img {
  max-width: 100%;
  max-height: 240px;
  background: var(--label);
}
h3 {
  margin: 12px 0 6px;
  font-size: 15px;
}
</style>
