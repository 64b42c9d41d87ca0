import { watchDebounced } from '@vueuse/core'
import { type MaybeRefOrGetter, toValue } from 'vue'
import { api, type Schemas } from '@/api/client'
import type { FirstStrip } from '@/strip/firstStrip'
import { keepSeen } from '@/strip/lastSeen'
import type { Bench } from './useBench'

const restTime = 2000 // milliseconds

/** Keeps in the browser what the Bench shows, when it rests as the server has it. loaded: the design is what came beside the first strip. */
export function useSeen(
  bench: Bench,
  inHand: MaybeRefOrGetter<number>,
  first: FirstStrip,
  loaded: Promise<void>,
) {
  let firstEdit: number | undefined
  void loaded.then(() => (firstEdit = bench.kept.value?.edit))

  async function labelsOf(design: Schemas['Design'], record: number) {
    if (design.id === first.designId && design.edit === firstEdit && record === first.record)
      return first.coming
    const params = { path: { id: design.id }, query: { record } }
    return (await api.GET('/designs/{id}/strip', { params })).data
  }
  watchDebounced(
    [bench.kept, bench.state, () => toValue(inHand)],
    async () => {
      const design = bench.kept.value
      if (!design || bench.state.value !== 'kept') return
      const record = toValue(inHand)
      const strip = await labelsOf(design, record)
      if (strip && design === bench.kept.value) keepSeen({ design, record, strip })
    },
    { debounce: restTime },
  )
}
