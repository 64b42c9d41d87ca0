import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import { onMounted, type Ref, shallowRef } from 'vue'
import type { Problem } from '@/api/client'

export interface Polled<T> {
  data: Readonly<Ref<T | undefined>>
  problem: Readonly<Ref<Problem | undefined>>
  refresh: () => Promise<void>
}

/** Asks again and again while the page can be seen. A late answer never replaces a newer one. */
export function usePolled<T>(ask: () => Promise<{ data?: T; error?: Problem }>, every: number): Polled<T> {
  const data = shallowRef<T>()
  const problem = shallowRef<Problem>()
  const visible = useDocumentVisibility()
  let asked = 0
  let answered = 0

  async function refresh() {
    const mine = ++asked
    const answer = await ask()
    if (mine < answered) return
    answered = mine
    problem.value = answer.error
    if (answer.data !== undefined) data.value = answer.data
  }

  let waiting = false
  useIntervalFn(async () => {
    if (waiting || visible.value === 'hidden') return
    waiting = true
    await refresh()
    waiting = false
  }, every)
  onMounted(refresh)
  return { data, problem, refresh }
}
