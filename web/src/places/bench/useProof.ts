import { watchDebounced } from '@vueuse/core'
import { type MaybeRefOrGetter, type Ref, ref, shallowRef, toValue } from 'vue'
import { api, type Schemas } from '@/api/client'
import { asDocument, type Design } from '@/api/documents'

export interface Proof {
  proof: Readonly<Ref<Schemas['Proof'] | undefined>>
  looking: Readonly<Ref<boolean>>
}

/** Looks at all labels of the set whenever the design rests. An older look is broken off. */
export function useProof(
  design: MaybeRefOrGetter<Design | undefined>,
  recordSetId: MaybeRefOrGetter<number | undefined>,
): Proof {
  const proof = shallowRef<Schemas['Proof']>()
  const looking = ref(false)
  let running: AbortController | undefined

  watchDebounced(
    [() => toValue(design), () => toValue(recordSetId)],
    async () => {
      running?.abort()
      const document = toValue(design)
      const set = toValue(recordSetId)
      if (!document || set === undefined) {
        proof.value = undefined
        return
      }
      const mine = (running = new AbortController())
      looking.value = true
      try {
        const { data } = await api.POST('/proof', {
          body: { document: asDocument(document), recordSetId: set },
          signal: mine.signal,
        })
        if (data && !mine.signal.aborted) proof.value = data
      } finally {
        if (running === mine) looking.value = false
      }
    },
    { debounce: 300, deep: true, immediate: true },
  )
  return { proof, looking }
}
