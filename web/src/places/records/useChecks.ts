import { refDebounced } from '@vueuse/core'
import { computed, ref, type Ref, type ShallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { useAsked } from '@/shared/useAsked'

type Check = NonNullable<Design['questions']>[number]

/** What the fields of records that are being written must be, and which values are something else. */
export function useChecks(
  fields: Readonly<Ref<string[]>>,
  rows: Readonly<ShallowRef<readonly (readonly string[])[]>>,
) {
  const checks = ref<Check[]>([])
  const documents = (list: readonly Check[]) => list as unknown as Schemas['FieldChecks']
  const asked = computed(() => ({
    fields: fields.value,
    checks: checks.value.filter((c) => fields.value.includes(c.name)),
    records: rows.value,
  }))
  const settled = refDebounced(asked, 250)
  const { data, problem } = useAsked((signal) => {
    const { fields, checks, records } = settled.value
    if (!checks.length) return undefined
    const body = { fields, checks: documents(checks), records: records.map((r) => [...r]) }
    return api.POST('/record-sets/check', { body, signal })
  })
  const wrong = computed(() => (checks.value.length ? (data.value?.wrong ?? []) : []))
  const texts = computed(() => new Map(wrong.value.map((w) => [`${String(w.record)} ${w.field}`, w.text])))
  return {
    problem,
    wrong,
    count: computed(() => (checks.value.length ? (data.value?.count ?? 0) : 0)),
    of: (field: string) => checks.value.find((c) => c.name === field),
    /** What is wrong with a value, by its row from 0. */
    wrongAt: (row: number, field: string) => texts.value.get(`${String(row + 1)} ${field}`),
    set: (field: string, check: Check | undefined) => {
      checks.value = [...checks.value.filter((c) => c.name !== field), ...(check ? [check] : [])]
    },
    begin: (kept: Schemas['FieldChecks'] | undefined) => {
      checks.value = (kept ?? []) as unknown as Check[]
    },
    kept: () => documents(asked.value.checks),
  }
}
