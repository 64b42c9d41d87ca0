import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import { onMounted } from 'vue'
import { type Answer, type Asked, useNewest } from './useAsked'

/** Asks again and again while the page can be seen, one question at a time. */
export function usePolled<T>(ask: (signal: AbortSignal) => Answer<T>, every: number): Asked<T> {
  const asked = useNewest(ask)
  const visible = useDocumentVisibility()
  let waiting = false
  useIntervalFn(async () => {
    if (waiting || visible.value === 'hidden') return
    waiting = true
    await asked.refresh()
    waiting = false
  }, every)
  onMounted(asked.refresh)
  return asked
}
