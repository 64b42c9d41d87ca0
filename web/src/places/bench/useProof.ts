import { watchDebounced } from '@vueuse/core'
import { computed, type MaybeRefOrGetter, type Ref, ref, toValue } from 'vue'
import { api, type Schemas } from '@/api/client'
import { asDocument, type Design } from '@/api/documents'
import { useNewest } from '@/shared/useAsked'

export interface Proof {
  proof: Readonly<Ref<Schemas['Proof'] | undefined>>
  looking: Readonly<Ref<boolean>>
}

/** Looks at all labels of the set whenever the design rests. An older look is broken off. */
export function useProof(
  design: MaybeRefOrGetter<Design | undefined>,
  recordSetId: MaybeRefOrGetter<number | undefined>,
  version: MaybeRefOrGetter<number>,
): Proof {
  const looking = ref(false)
  let looks = 0
  const { data, refresh } = useNewest((signal) => {
    const document = toValue(design)
    const set = toValue(recordSetId)
    if (!document || set === undefined) return
    return api.POST('/proof', { body: { document: asDocument(document), recordSetId: set }, signal })
  })
  const proof = computed(() => (toValue(recordSetId) === undefined ? undefined : data.value))

  watchDebounced(
    [() => toValue(version), () => toValue(recordSetId)],
    async () => {
      const mine = ++looks
      looking.value = true
      await refresh()
      if (mine === looks) looking.value = false
    },
    { debounce: 300, immediate: true },
  )
  return { proof, looking }
}
