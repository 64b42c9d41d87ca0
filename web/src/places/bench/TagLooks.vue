<script setup lang="ts">
import { NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Element } from '@/api/documents'
import PasswordInput from '@/shared/PasswordInput.vue'
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

const schemes = [
  { value: 'sgtin-96', label: 'SGTIN-96 · trade item' },
  { value: 'sgtin-198', label: 'SGTIN-198 · trade item' },
  { value: 'sscc-96', label: 'SSCC-96 · logistic unit' },
  { value: 'sgln-96', label: 'SGLN-96 · location' },
  { value: 'sgln-195', label: 'SGLN-195 · location' },
  { value: 'grai-96', label: 'GRAI-96 · returnable asset' },
  { value: 'grai-170', label: 'GRAI-170 · returnable asset' },
  { value: 'giai-96', label: 'GIAI-96 · asset' },
  { value: 'giai-202', label: 'GIAI-202 · asset' },
  { value: 'gsrn-96', label: 'GSRN-96 · service recipient' },
  { value: 'gsrnp-96', label: 'GSRNP-96 · service provider' },
  { value: 'gdti-96', label: 'GDTI-96 · document' },
  { value: 'gdti-174', label: 'GDTI-174 · document' },
  { value: 'cpi-96', label: 'CPI-96 · part' },
  { value: 'cpi-var', label: 'CPI-var · part' },
  { value: 'adi-var', label: 'ADI-var · aerospace and defence' },
  { value: 'sgtin+', label: 'SGTIN+ · trade item' },
  { value: 'sscc+', label: 'SSCC+ · logistic unit' },
  { value: 'sgln+', label: 'SGLN+ · location' },
  { value: 'gsrn+', label: 'GSRN+ · service recipient' },
  { value: 'gsrnp+', label: 'GSRNP+ · service provider' },
  { value: 'gdti+', label: 'GDTI+ · document' },
  { value: '', label: 'Hexadecimal digits' },
]
const prefixes = [6, 7, 8, 9, 10, 11, 12].map((n) => ({ value: n, label: `${String(n)} digits` }))
const filters = [0, 1, 2, 3, 4, 5, 6, 7].map((n) => ({ value: n, label: String(n) }))
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
      :options="schemes"
      :consistent-menu-width="false"
      aria-label="Form of the identifier"
      @update:value="set({ scheme: $event, afi: $event ? undefined : tag.afi })"
    />
  </SheetRow>
  <template v-if="scheme && scheme !== 'adi-var'">
    <SheetRow v-if="!scheme.endsWith('+')" name="Company prefix">
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
      size="small"
      class="wide"
      :value="tag.afi ?? null"
      :min="0"
      :max="255"
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
          access: $event === 'password' ? (tag.access ?? '00000001') : tag.access,
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
