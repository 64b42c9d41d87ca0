<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { api } from '@/api/client'
import type { Element } from '@/api/documents'
import { useAsked } from '@/shared/useAsked'
import TextButton from '@/shared/TextButton.vue'
import SheetRow from './SheetRow.vue'

/** How a picture becomes dots of one ink. */
type Looks = NonNullable<Element['picture']>
const props = defineProps<{ picture: Looks }>()
const emit = defineEmits<{ set: [to: Partial<Looks>]; size: [to: { width: number; height: number }] }>()

type Crop = NonNullable<Looks['crop']>
const sides = ['left', 'top', 'right', 'bottom'] as const
const crop = computed<Crop>(() => props.picture.crop ?? {})
function cut(to: Crop) {
  const left = Object.fromEntries(Object.entries(to).filter(([, share]) => share)) as Crop
  emit('set', { crop: Object.keys(left).length ? left : undefined })
}
const { data: about } = useAsked((signal) =>
  api.GET('/pictures/{hash}/about', { params: { path: { hash: props.picture.hash } }, signal }),
)
function trim() {
  const white = about.value?.white
  if (white) cut(Object.fromEntries(sides.map((side) => [side, Math.floor(white[side] * 100) / 100])))
}
/** As large as its own resolution has it. */
function trueSize() {
  const { trueWidth, trueHeight } = about.value ?? {}
  if (!trueWidth || !trueHeight) return
  const left = (a = 0, b = 0) => (100 - a - b) / 100
  emit('size', {
    width: Math.round(trueWidth * left(crop.value.left, crop.value.right)),
    height: Math.round(trueHeight * left(crop.value.top, crop.value.bottom)),
  })
}

const address = computed(() => `/api/pictures/${props.picture.hash}`)
const ways = [
  { value: '', label: 'dark or bare' },
  { value: 'ordered', label: 'an even pattern' },
  { value: 'diffused', label: 'scattered dots' },
]
</script>

<template>
  <SheetRow name="Picture">
    <a :href="address" target="_blank" rel="noopener" class="name">{{
      picture.name ?? 'as it was brought in'
    }}</a>
  </SheetRow>
  <SheetRow v-if="about" name="Made of">
    <span v-if="about.lines">lines, as sharp at any size</span>
    <span v-else>{{ about.width }} × {{ about.height }} dots</span>
  </SheetRow>
  <SheetRow name="Shades become">
    <NSelect
      size="small"
      :value="picture.way ?? ''"
      :options="ways"
      aria-label="How shades become dots"
      class="wide"
      @update:value="emit('set', { way: $event || undefined })"
    />
  </SheetRow>
  <SheetRow name="Lighter by">
    <NInputNumber
      v-bind="designBounds.PictureLooks.lighter"
      size="small"
      :show-button="false"
      :value="picture.lighter ?? 0"
      :input-props="{ 'aria-label': 'Lighter by per cent' }"
      class="narrow"
      @update:value="emit('set', { lighter: $event || undefined })"
    >
      <template #suffix>%</template>
    </NInputNumber>
  </SheetRow>
  <SheetRow name="Proportions">
    <NCheckbox
      :checked="!picture.stretch"
      @update:checked="emit('set', { stretch: $event ? undefined : true })"
      >kept</NCheckbox
    >
  </SheetRow>
  <SheetRow name="Cut off">
    <span class="crop">
      <NInputNumber
        v-for="side in sides"
        v-bind="designBounds.PictureLooks['crop.left']"
        :key="side"
        size="tiny"
        :show-button="false"
        :value="crop[side] ?? 0"
        :input-props="{ 'aria-label': `Cut off ${side}, in per cent` }"
        @update:value="cut({ ...crop, [side]: $event ?? 0 })"
      >
        <template #prefix>{{ side }}</template>
        <template #suffix>%</template>
      </NInputNumber>
    </span>
  </SheetRow>
  <p class="deeds">
    <TextButton v-if="about" @click="trim">Trim the white round it</TextButton>
    <TextButton v-if="about?.trueWidth" @click="trueSize">True size</TextButton>
  </p>
</template>

<style scoped>
.crop {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
  width: 190px;
}
.deeds {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 6px 0;
}
.wide {
  width: 150px;
}
.narrow {
  width: 96px;
}
.name {
  overflow-wrap: anywhere;
}
</style>
