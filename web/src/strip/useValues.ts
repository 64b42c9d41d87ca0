import { type MaybeRefOrGetter, shallowRef, type ShallowRef, toValue, watch } from 'vue'
import { api } from '@/api/client'

export interface Values {
  fields: Readonly<ShallowRef<readonly string[]>>
  count: Readonly<ShallowRef<number>>
  /** Changes whenever more is known. */
  known: Readonly<ShallowRef<ReadonlyMap<number, readonly string[]>>>
  /** Has the values of some records come, and those beside them. */
  want: (records: readonly number[]) => void
}

/** How many records beside those in sight are had as well, so that walking waits for nothing. */
const beside = 60
/** How many are kept: they are let go all at once, and asked for anew. */
const mostKept = 20_000

/** The values of the records of a set, as far as they were in sight. They never change. */
export function useValues(recordSetId: MaybeRefOrGetter<number | undefined>): Values {
  const fields = shallowRef<readonly string[]>([])
  const count = shallowRef(1)
  const known = shallowRef<ReadonlyMap<number, readonly string[]>>(new Map())
  let asked = new Set<number>()

  watch(
    () => toValue(recordSetId),
    (set) => {
      asked = new Set()
      fields.value = []
      count.value = set === undefined ? 1 : 0
      known.value = set === undefined ? new Map([[1, []]]) : new Map()
    },
    { immediate: true, flush: 'sync' },
  )

  async function fetchSome(set: number, records: number[]) {
    const { data } = await api.POST('/record-sets/{id}/values', {
      params: { path: { id: set } },
      body: { records },
    })
    if (toValue(recordSetId) !== set) return
    if (!data) {
      for (const n of records) asked.delete(n)
      return
    }
    fields.value = data.fields
    count.value = data.count
    const all = new Map(known.value.size > mostKept ? [] : known.value)
    for (const { number, values } of data.records) all.set(number, values)
    known.value = all
  }

  function want(records: readonly number[]) {
    const set = toValue(recordSetId)
    if (set === undefined) return
    const hand = records[0] ?? 1
    const near = Array.from({ length: 2 * beside }, (_, i) => hand - beside + i).filter(
      (n) => n >= 1 && (count.value === 0 || n <= count.value),
    )
    const lacking = [...new Set([...records, ...near])].filter((n) => !known.value.has(n) && !asked.has(n))
    // What is in sight is asked for at once; what lies beside it, when half of that is used up.
    const urgent = records.some((n) => lacking.includes(n))
    if (!urgent && lacking.length < beside) return
    for (const n of lacking) asked.add(n)
    void fetchSome(set, lacking)
  }
  return { fields, count, known, want }
}
