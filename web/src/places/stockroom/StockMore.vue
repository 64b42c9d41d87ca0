<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NButton, NCheckbox, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Stock } from '@/api/documents'
import { drawing } from '@/theme'
import LengthInput from '@/shared/LengthInput.vue'
import TextButton from '@/shared/TextButton.vue'

/** What a stock has beside its sizes: colours, coating, how it is found, what it is torn and cut by, holes, its roll. */
const stock = defineModel<Stock>({ required: true })
defineProps<{ wrong: (field: string) => string | undefined }>()

const tracking = [
  { value: '', label: 'as is usual for it' },
  { value: 'gap', label: 'the gap between pieces' },
  { value: 'mark', label: 'a mark on the back' },
  { value: 'notch', label: 'a notch or slot' },
  { value: 'continuous', label: 'nothing: it is continuous' },
]
const coatings = ['black', 'red', 'blue'].map((value) => ({ value, label: value }))

function found(by: Stock['tracking'] | '') {
  const s = stock.value
  if (by) s.tracking = by
  else delete s.tracking
  if (by === 'mark') s.mark ??= { offset: 0, height: 3000 }
  else delete s.mark
}
function coat(inks: string[]) {
  if (inks.length) stock.value.reacts = inks as Stock['reacts']
  else delete stock.value.reacts
}
const rolled = computed({
  get: () => stock.value.roll !== undefined,
  set: (is) => {
    if (is) stock.value.roll = { core: 25_400, outside: 127_000, thickness: 150 }
    else delete stock.value.roll
  },
})
/** A chip in the middle of each piece, its inlay round it. */
function embed(has: boolean) {
  const { width, length } = stock.value
  stock.value.inlay = has
    ? {
        x: Math.round(width * 0.1),
        y: Math.round(length * 0.3),
        width: Math.round(width * 0.8),
        height: Math.round(length * 0.4),
        chipX: Math.round(width / 2),
        chipY: Math.round(length / 2),
        epcBits: 128,
      }
    : undefined
}
const holes = computed(() => stock.value.plate?.holes ?? [])
function drill() {
  const s = stock.value
  if (!s.plate) return
  s.plate.holes = [...holes.value, { x: 5000, y: Math.round(s.length / 2), diameter: 3200 }]
}
function fill(at: number) {
  if (stock.value.plate) stock.value.plate.holes = holes.value.filter((_, i) => i !== at)
}
</script>

<template>
  <div class="more">
    <label
      >Colour of the face
      <span class="colour">
        <input
          type="color"
          :value="stock.colour || drawing.face"
          aria-label="Colour of the face"
          @input="stock.colour = ($event.target as HTMLInputElement).value.toUpperCase()"
        />
        {{ stock.colour || drawing.face }}</span
      ></label
    >
    <label v-if="stock.plate"
      >Colour of the core
      <span class="colour">
        <input
          type="color"
          :value="stock.plate.core || drawing.core"
          aria-label="Colour of the core"
          @input="stock.plate.core = ($event.target as HTMLInputElement).value.toUpperCase()"
        />
        {{ stock.plate.core || drawing.core }}</span
      ></label
    >
    <div>
      <span>Heat brings out</span>
      <NSelect
        :value="stock.reacts ?? []"
        size="small"
        multiple
        tag
        filterable
        :options="coatings"
        placeholder="nothing: no coating"
        aria-label="Inks that heat brings out"
        @update:value="coat"
      />
    </div>
    <template v-if="stock.kind !== 'plate' && stock.kind !== 'sheet'">
      <div>
        <span>Found by</span>
        <NSelect
          :value="stock.tracking ?? ''"
          size="small"
          :options="tracking"
          aria-label="How a printer finds it"
          @update:value="found"
        />
        <p v-if="wrong('tracking')" class="bad" role="alert">{{ wrong('tracking') }}</p>
      </div>
      <template v-if="stock.mark">
        <div>
          <span>Mark from the edge</span>
          <LengthInput
            :model-value="stock.mark.offset"
            label="Mark from the edge"
            @update:model-value="stock.mark.offset = $event"
          />
        </div>
        <div>
          <span>Height of the mark</span>
          <LengthInput
            :model-value="stock.mark.height"
            label="Height of the mark"
            @update:model-value="stock.mark.height = $event"
          />
        </div>
      </template>
      <div>
        <span>Pieces on a full roll</span>
        <NInputNumber
          v-bind="designBounds.Stock.perRoll"
          :value="stock.perRoll ?? null"
          size="small"
          clearable
          :show-button="false"
          placeholder="by its size"
          :input-props="{ 'aria-label': 'Pieces on a full roll' }"
          @update:value="stock.perRoll = $event ?? undefined"
        />
      </div>
      <div class="ticks">
        <NCheckbox v-model:checked="rolled">on a roll</NCheckbox>
        <NCheckbox
          :checked="stock.perforated ?? false"
          @update:checked="stock.perforated = $event || undefined"
          >perforated</NCheckbox
        >
        <NCheckbox v-if="stock.tape" v-model:checked="stock.tape.byContent">cut by content</NCheckbox>
      </div>
    </template>
    <fieldset v-if="stock.kind === 'die-cut' || stock.inlay" class="holes">
      <legend>Chip</legend>
      <NCheckbox :checked="!!stock.inlay" @update:checked="embed">each piece has one</NCheckbox>
      <template v-if="stock.inlay">
        <p class="hole">
          <LengthInput v-model="stock.inlay.x" label="Inlay from left" />
          <LengthInput v-model="stock.inlay.y" label="Inlay from top" />
          <LengthInput v-model="stock.inlay.width" label="Inlay width" />
          <LengthInput v-model="stock.inlay.height" label="Inlay height" />
        </p>
        <span class="quiet">the inlay from left, from top, its width and height, as it lies on the web</span>
        <p class="hole">
          <LengthInput v-model="stock.inlay.chipX" label="Chip from left" />
          <LengthInput v-model="stock.inlay.chipY" label="Chip from top" />
          <NInputNumber
            v-bind="designBounds.Stock['inlay.epcBits']"
            v-model:value="stock.inlay.epcBits"
            size="small"
            :show-button="false"
            :input-props="{ 'aria-label': 'Bits for the identifier' }"
          />
          <NInputNumber
            v-bind="designBounds.Stock['inlay.userBits']"
            :value="stock.inlay.userBits ?? 0"
            size="small"
            :show-button="false"
            :input-props="{ 'aria-label': 'Bits of user memory' }"
            @update:value="stock.inlay && (stock.inlay.userBits = $event ?? undefined)"
          />
        </p>
        <span class="quiet">the chip from left, from top; bits for the identifier, and of user memory</span>
        <p v-if="wrong('inlay')" class="bad" role="alert">{{ wrong('inlay') }}</p>
        <p v-if="wrong('inlay.chipX')" class="bad" role="alert">{{ wrong('inlay.chipX') }}</p>
        <p v-if="wrong('inlay.epcBits')" class="bad" role="alert">{{ wrong('inlay.epcBits') }}</p>
      </template>
    </fieldset>
    <fieldset v-if="stock.plate" class="holes">
      <legend>Holes, by their middles</legend>
      <p v-for="(hole, i) in holes" :key="i" class="hole">
        <LengthInput
          :model-value="hole.x"
          :label="`Hole ${i + 1} from left`"
          @update:model-value="hole.x = $event"
        />
        <LengthInput
          :model-value="hole.y"
          :label="`Hole ${i + 1} from top`"
          @update:model-value="hole.y = $event"
        />
        <LengthInput
          :model-value="hole.diameter"
          :label="`Hole ${i + 1} diameter`"
          @update:model-value="hole.diameter = $event"
        />
        <TextButton :aria-label="`Take hole ${i + 1} away`" @click="fill(i)"> Take away </TextButton>
      </p>
      <p v-if="wrong('plate.holes')" class="bad" role="alert">{{ wrong('plate.holes') }}</p>
      <NButton size="small" @click="drill">Add a hole</NButton>
      <span class="quiet">from left, from top, diameter</span>
    </fieldset>
  </div>
</template>

<style scoped>
.more {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 10px 16px;
  align-items: start;
  margin-bottom: 10px;
}
label,
.more span {
  font-size: 13px;
  color: var(--quiet);
}
.colour {
  display: flex;
  align-items: center;
  gap: 8px;
}
input[type='color'] {
  width: 44px;
  height: 28px;
  padding: 2px;
  border: 1px solid var(--control);
  border-radius: 4px;
  background: none;
}
.ticks {
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding-top: 16px;
}
.holes {
  grid-column: 1 / -1;
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 8px 12px;
}
.hole {
  display: grid;
  grid-template-columns: repeat(3, minmax(90px, 130px)) auto;
  gap: 8px;
  margin-bottom: 6px;
}
</style>
