<script setup lang="ts">
import { computed } from 'vue'
import type { Design } from '@/api/documents'
import type { useLaidOut } from '../bench/useLaidOut'
import ChemicalPanel from './ChemicalPanel.vue'
import DiamondPanel from './DiamondPanel.vue'
import PipePanel from './PipePanel.vue'
import SignPanel from './SignPanel.vue'

/** What lays out whole labels by the rules of hazards, signs and pipes. */
const props = defineProps<{
  design: Design
  laid: ReturnType<typeof useLaidOut>
  recordSetId: number | undefined
  fieldNames: readonly string[]
}>()
const recordFields = computed(() => (props.recordSetId === undefined ? [] : props.fieldNames))
const { showing, layOut } = props.laid
</script>

<template>
  <ChemicalPanel
    v-model:show="showing.chemical"
    :design
    :fields="fieldNames"
    :record-set="recordSetId"
    @take="layOut"
  />
  <SignPanel v-model:show="showing.sign" :design @take="layOut" />
  <DiamondPanel v-model:show="showing.diamond" :design @take="layOut" />
  <PipePanel
    v-model:show="showing.pipe"
    :design
    :fields="recordFields"
    :record-set="recordSetId"
    @take="layOut"
  />
</template>
