<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Element } from '@/api/documents'
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
  { value: 'sgtin-96', label: 'Trade item, SGTIN-96' },
  { value: 'sgtin-198', label: 'Trade item, SGTIN-198' },
  { value: 'sscc-96', label: 'Logistic unit, SSCC-96' },
  { value: 'sgln-96', label: 'Location, SGLN-96' },
  { value: 'sgln-195', label: 'Location, SGLN-195' },
  { value: 'grai-96', label: 'Returnable asset, GRAI-96' },
  { value: 'grai-170', label: 'Returnable asset, GRAI-170' },
  { value: 'giai-96', label: 'Asset, GIAI-96' },
  { value: 'giai-202', label: 'Asset, GIAI-202' },
  { value: 'gsrn-96', label: 'Service recipient, GSRN-96' },
  { value: 'gsrnp-96', label: 'Service provider, GSRNP-96' },
  { value: 'gdti-96', label: 'Document, GDTI-96' },
  { value: 'gdti-174', label: 'Document, GDTI-174' },
  { value: 'cpi-96', label: 'Part, CPI-96' },
  { value: 'cpi-var', label: 'Part, CPI-var' },
  { value: 'adi-var', label: 'Aerospace and defence, ADI-var' },
  { value: 'sgtin+', label: 'Trade item, SGTIN+' },
  { value: 'sscc+', label: 'Logistic unit, SSCC+' },
  { value: 'sgln+', label: 'Location, SGLN+' },
  { value: 'gsrn+', label: 'Service recipient, GSRN+' },
  { value: 'gsrnp+', label: 'Service provider, GSRNP+' },
  { value: 'gdti+', label: 'Document, GDTI+' },
  { value: '', label: 'Hexadecimal digits' },
]
const prefixes = [6, 7, 8, 9, 10, 11, 12].map((n) => ({ value: n, label: `${String(n)} digits` }))
const filters = [0, 1, 2, 3, 4, 5, 6, 7].map((n) => ({ value: n, label: String(n) }))
const locks = [
  { value: '', label: 'none' },
  { value: 'password', label: 'with a password' },
  { value: 'for good', label: 'for good' },
]
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
      @update:value="set({ scheme: $event })"
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
    <NInput
      size="small"
      class="wide"
      :value="tag.access ?? ''"
      :maxlength="8"
      :input-props="{ 'aria-label': 'Access password, eight hexadecimal digits' }"
      @update:value="/^[0-9A-Fa-f]{8}$/.test($event) && set({ access: $event })"
    />
  </SheetRow>
  <SheetRow name="Kill password">
    <NInput
      size="small"
      class="wide"
      :value="tag.kill ?? ''"
      :maxlength="8"
      placeholder="left as it is"
      :input-props="{ 'aria-label': 'Kill password, eight hexadecimal digits' }"
      @update:value="/^([0-9A-Fa-f]{8})?$/.test($event) && set({ kill: $event || undefined })"
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
