<script setup lang="ts">
import { ref, shallowRef, watch } from 'vue'
import { plural } from '@/shared/format'
import TextButton from '@/shared/TextButton.vue'
import { readPicture } from './readPicture'
import { useSounds } from './useSounds'

/** Large words about one scan: yes or no, heard too. */
export interface Said {
  good: boolean
  big: string
  small: string
}

/** A line for a hand scanner, and what came of the last scan in words to be read from two metres. Scans are answered in their order. */
const props = defineProps<{
  label: string
  button: string
  act: (scanned: string) => Promise<Said>
  /** A picture that a camera took may be given too. */
  pictures?: boolean
}>()

const input = ref<HTMLInputElement>()
const typed = ref('')
const said = shallowRef<Said>()
const waiting = defineModel<number>('waiting', { default: 0 })
const sounds = useSounds()
watch(input, (now) => now?.focus())

let line = Promise.resolve()
function say(make: () => Promise<Said>) {
  waiting.value++
  line = line
    .then(async () => {
      said.value = await make()
      if (said.value.good) sounds.yes()
      else sounds.no()
    })
    .finally(() => waiting.value--)
}
function scan() {
  const scanned = typed.value.trim()
  typed.value = ''
  input.value?.focus()
  say(() => props.act(scanned))
}

/** All codes of a picture are scanned, one after the other. */
async function scanPicture(file: File): Promise<Said> {
  let codes: string[]
  try {
    codes = await readPicture(file)
  } catch {
    return {
      good: false,
      big: `${file.name} cannot be read as a picture.`,
      small: 'Give a PNG or JPEG picture of a label.',
    }
  }
  if (!codes.length)
    return {
      good: false,
      big: 'No code can be read in this picture.',
      small: 'Come nearer, hold the camera straight over the label, without glare.',
    }
  const all: Said[] = []
  for (const code of codes) all.push(await props.act(code))
  const wrong = all.find((one) => !one.good)
  if (codes.length === 1 || wrong) return wrong ?? (all[0] as Said)
  return {
    good: true,
    big: `${plural(codes.length, 'code')} are as meant.`,
    small: all.map((one) => one.big).join(' · '),
  }
}
function picture(event: Event) {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (file) say(() => scanPicture(file))
}
</script>

<template>
  <form class="ask" @submit.prevent="scan">
    <label for="scan">{{ label }}</label>
    <input id="scan" ref="input" v-model="typed" autocomplete="off" spellcheck="false" />
    <button type="submit" class="next">
      <slot name="button" :typed="typed.trim()">{{ button }}</slot>
    </button>
    <label v-if="pictures" class="picture text-button">
      Read a picture
      <input type="file" accept="image/*" capture="environment" @change="picture" />
    </label>
    <TextButton class="sound" :aria-pressed="sounds.on.value" @click="sounds.toggle()">
      {{ sounds.on.value ? 'Sound is on' : 'Sound is off' }}
    </TextButton>
  </form>
  <div class="said" :class="said && (said.good ? 'yes' : 'no')" role="status" aria-live="assertive">
    <template v-if="said">
      <p class="mark" aria-hidden="true">{{ said.good ? '✓' : '✕' }}</p>
      <div>
        <p class="big" :class="{ words: !said.good }">{{ said.big }}</p>
        <p class="small">{{ said.small }}</p>
      </div>
    </template>
    <p v-else class="small"><slot /></p>
  </div>
</template>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px 16px;
  padding: 18px 20px;
  border-bottom: 1px solid var(--line);
}
.ask label {
  grid-column: 1 / -1;
  font-size: 18px;
}
.ask .picture {
  position: relative;
  grid-column: 1;
  justify-self: start;
  font-size: inherit;
  cursor: pointer;
}
.picture:focus-within {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.ask .picture input {
  position: absolute;
  inset: 0;
  width: 100%;
  min-height: 0;
  opacity: 0;
}
.ask input {
  min-height: 72px;
  padding: 0 18px;
  border: 2px solid var(--control);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font:
    32px 'IBM Plex Mono',
    monospace;
}
.next {
  min-width: 240px;
  min-height: 72px;
  border: 0;
  border-radius: 8px;
  background: var(--accent);
  color: var(--paper);
  font: 600 24px 'IBM Plex Sans';
  cursor: pointer;
}
.sound {
  grid-column: -2;
  justify-self: end;
}
.said {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 28px;
  min-height: 0;
  padding: 18px 40px;
  overflow: auto;
  border-left: 16px solid transparent;
}
.yes {
  border-color: var(--good);
}
.no {
  border-color: var(--bad);
}
.mark {
  font-size: 110px;
  line-height: 1;
}
.yes .mark {
  color: var(--good);
}
.no .mark {
  color: var(--bad);
}
.big {
  font-size: 84px;
  font-weight: 600;
  line-height: 1.1;
  overflow-wrap: anywhere;
}
.big.words {
  font-size: 40px;
}
.small {
  font-size: 24px;
}
@media (max-width: 640px) {
  .ask {
    grid-template-columns: minmax(0, 1fr);
    padding: 10px 12px;
  }
  .said {
    gap: 12px;
    padding: 10px 12px;
    border-left-width: 8px;
  }
}
@media (max-width: 1100px) {
  .big {
    font-size: 64px;
  }
}
@media (max-width: 640px) {
  .big,
  .mark {
    font-size: 44px;
  }
}
</style>
