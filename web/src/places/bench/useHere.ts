import { useEventListener } from '@vueuse/core'
import { computed, type ComputedRef, type MaybeRefOrGetter, onScopeDispose, toValue } from 'vue'
import { api } from '@/api/client'
import { usePolled } from '@/shared/usePolled'

/** Tells that this page has a design open, and who else has: their names, each once. */
export function useHere(designId: MaybeRefOrGetter<number>): ComputedRef<string[]> {
  const page = crypto.getRandomValues(new Uint32Array(4)).join('-')
  const tell = (signal: AbortSignal | undefined, leaves?: boolean) =>
    api.POST('/designs/{id}/here', {
      params: { path: { id: toValue(designId) } },
      body: { page, leaves },
      signal,
      keepalive: leaves,
    })
  const { data } = usePolled((signal) => tell(signal), 5000)
  const leave = () => void tell(undefined, true)
  useEventListener('pagehide', leave)
  onScopeDispose(leave)
  return computed(() => [...new Set(data.value ?? [])])
}
