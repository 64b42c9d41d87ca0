import { computed, type MaybeRefOrGetter, type Ref, shallowRef, toValue, watch } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDocument, type Design } from '@/api/documents'

export type StripLabel = Schemas['StripLabel']

export interface Strip {
  /** Labels by record number, as far as they are known for the design as it is now. */
  labels: Readonly<Ref<ReadonlyMap<number, StripLabel>>>
  fields: Readonly<Ref<readonly Schemas['FieldValue'][]>>
  total: Readonly<Ref<number>>
  size: Readonly<Ref<{ width: number; height: number }>>
  inks: Readonly<Ref<readonly Schemas['Ink'][]>>
  mixes: Readonly<Ref<boolean>>
  mostLegends: Readonly<Ref<number>>
  problem: Readonly<Ref<Problem | undefined>>
}

/**
 * The labels of some records, drawn anew whenever the design changes. One request is under way at
 * a time; what changes meanwhile is asked for as soon as it is back, so that the strip keeps up
 * with a hand without ever piling up work.
 */
export function useStrip(
  design: MaybeRefOrGetter<Design | undefined>,
  recordSetId: MaybeRefOrGetter<number | undefined>,
  records: MaybeRefOrGetter<readonly number[]>,
): Strip {
  const answer = shallowRef<Schemas['Strip']>()
  const labels = shallowRef<ReadonlyMap<number, StripLabel>>(new Map())
  const problem = shallowRef<Problem>()
  let asking = false
  let dirty = false

  async function ask() {
    const document = toValue(design)
    if (!document) return
    if (asking) {
      dirty = true
      return
    }
    asking = true
    do {
      dirty = false
      const begun = performance.now()
      const { data, error } = await api.POST('/strip', {
        body: {
          document: asDocument(toValue(design) as Design),
          recordSetId: toValue(recordSetId),
          records: [...toValue(records)],
        },
      })
      if (data) {
        answer.value = data
        labels.value = new Map(data.labels.map((label) => [label.record, label]))
        afterPaint(() => performance.measure('strip drawn', { start: begun }))
      }
      problem.value = error
    } while (dirty)
    asking = false
  }

  watch([() => toValue(design), () => toValue(recordSetId), () => toValue(records)], () => void ask(), {
    deep: true,
    immediate: true,
  })

  return {
    labels,
    fields: stable(() => answer.value?.fields ?? []),
    total: computed(() => answer.value?.total ?? 0),
    size: stable(() => ({ width: answer.value?.width ?? 0, height: answer.value?.height ?? 0 })),
    inks: stable(() => answer.value?.inks ?? []),
    mixes: computed(() => answer.value?.mixes ?? false),
    mostLegends: computed(() => answer.value?.mostLegends ?? 1),
    problem,
  }
}

/** A value that stays the same object as long as it says the same, so that nothing is drawn anew for it. */
function stable<T>(get: () => T) {
  let last: T
  let text = ''
  return computed(() => {
    const now = get()
    const said = JSON.stringify(now)
    if (said !== text) [last, text] = [now, said]
    return last
  })
}

/** Calls back when what was changed is on the screen: a task queued in a frame runs after its paint. */
function afterPaint(call: () => void) {
  requestAnimationFrame(() => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      call()
    }
    port2.postMessage(undefined)
  })
}
