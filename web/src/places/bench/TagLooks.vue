<script setup lang="ts">
import { designBounds } from '@/api/bounds'
import { NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Element } from '@/api/documents'
import PasswordInput from '@/shared/PasswordInput.vue'
import { useAsked } from '@/shared/useAsked'
import FieldOrText from './FieldOrText.vue'
import SheetRow from './SheetRow.vue'

/** In which form what a tag says is written into the chip of the label, and what that comes to. */
type Looks = NonNullable<Element['tag']>
const props = defineProps<{
  tag: Looks
  facts: Schemas['TagFacts'] | undefined
  fields: readonly string[]
}>()
const emit = defineEmits<{ set: [to: Looks] }>()

const { data: schemes } = useAsked((signal) => api.GET('/tags/schemes', { signal }))
const options = computed(() => [
  ...(schemes.value ?? []).map((s) => ({ value: s.id, label: `${s.name} · ${s.of}` })),
  { value: '', label: 'Hexadecimal digits' },
])
const needsPrefix = computed(() => schemes.value?.some((s) => s.id === scheme.value && s.prefix) ?? false)
const prefixes = [6, 7, 8, 9, 10, 11, 12].map((n) => ({ value: n, label: `${String(n)} digits` }))
const filters = [0, 1, 2, 3, 4, 5, 6, 7].map((n) => ({ value: n, label: String(n) }))
/** A password that nobody guesses, for a chip that is locked with one. */
const anyPassword = () => Array.from(crypto.getRandomValues(new Uint8Array(4)), hex).join('')
const locks = [
  { value: '', label: 'none' },
  { value: 'password', label: 'with a password' },
  { value: 'for good', label: 'for good' },
]
const hex = (n: number | null) => n?.toString(16).toUpperCase().padStart(2, '0') ?? ''
const fromHex = (text: string) => (/^[0-9A-Fa-f]{1,2}$/.test(text) ? parseInt(text, 16) : null)
const scheme = computed(() => props.tag.scheme ?? '')
const set = (to: Partial<Looks>) => {
  emit('set', { ...props.tag, ...to })
}
</script>

<template>
  <SheetRow name="Identifier">
    <NSelect
      size="small"
      class="wide"
      :value="scheme"
      :options
      :consistent-menu-width="false"
      aria-label="Form of the identifier"
      @update:value="set({ scheme: $event, afi: $event ? undefined : tag.afi })"
    />
  </SheetRow>
  <template v-if="scheme">
    <SheetRow v-if="needsPrefix" name="Company prefix">
      <NSelect
        size="small"
        class="wide"
        :value="tag.prefix ?? null"
        :options="prefixes"
        placeholder="how long"
        aria-label="Digits of the company prefix"
        @update:value="set({ prefix: $event })"
      />
    </SheetRow>
    <SheetRow name="Filter">
      <NSelect
        size="small"
        class="wide"
        :value="tag.filter ?? 0"
        :options="filters"
        aria-label="Filter value"
        @update:value="set({ filter: $event || undefined })"
      />
    </SheetRow>
  </template>
  <SheetRow v-if="!scheme" name="Application family">
    <NInputNumber
      v-bind="designBounds.TagLooks.afi"
      size="small"
      class="wide"
      :value="tag.afi ?? null"
      :precision="0"
      clearable
      placeholder="none: an EPC"
      :format="hex"
      :parse="fromHex"
      :input-props="{ 'aria-label': 'Application family identifier, hexadecimal' }"
      @update:value="set({ afi: $event ?? undefined })"
    />
  </SheetRow>
  <SheetRow name="User memory">
    <FieldOrText
      :pieces="tag.user ?? []"
      :fields
      label="What stands in user memory"
      @set="set({ user: $event.length ? $event : undefined })"
    />
  </SheetRow>
  <SheetRow name="Lock">
    <NSelect
      size="small"
      class="wide"
      :value="tag.lock ?? ''"
      :options="locks"
      aria-label="How the chip is locked"
      @update:value="
        set({
          lock: $event || undefined,
          access: $event === 'password' ? (tag.access ?? anyPassword()) : tag.access,
        })
      "
    />
  </SheetRow>
  <SheetRow v-if="tag.lock === 'password' || tag.access" name="Access password">
    <PasswordInput
      class="wide"
      :model-value="tag.access"
      label="Access password"
      @update:model-value="set({ access: $event ?? (tag.lock === 'password' ? tag.access : undefined) })"
    />
  </SheetRow>
  <SheetRow name="Kill password">
    <PasswordInput
      class="wide"
      :model-value="tag.kill"
      label="Kill password"
      placeholder="left as it is"
      @update:model-value="set({ kill: $event })"
    />
  </SheetRow>
  <div v-if="facts" class="written">
    <p class="quiet">Written into the chip of this label</p>
    <p>
      <code data-testid="epc">{{ facts.hex }}</code>
    </p>
    <p>{{ facts.words }}</p>
    <p class="quiet">
      {{ facts.bits }} bits<template v-if="facts.userBits"
        >, and {{ facts.userBits }} bits of user memory</template
      >
    </p>
  </div>
</template>

<style scoped>
.wide {
  width: 156px;
  max-width: 100%;
}
.written {
  margin-top: 8px;
  font-size: 13px;
}
code {
  overflow-wrap: anywhere;
}
</style>
