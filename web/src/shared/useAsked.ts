import { onScopeDispose, shallowRef, type ShallowRef, watchEffect } from 'vue'
import type { Problem } from '@/api/client'

export interface Answered<T> {
  data?: T
  error?: Problem
}
export type Answer<T> = Promise<Answered<T>>

export interface Asked<T> {
  data: Readonly<ShallowRef<T | undefined>> // the last that there was; stays while the next is awaited
  problem: Readonly<ShallowRef<Problem | undefined>>
  refresh: () => Promise<void>
}

/** Only the newest answer counts: an earlier question is let go when the next is asked, or the page left. */
export function useNewest<T>(ask: (signal: AbortSignal) => Answer<T> | undefined): Asked<T> {
  const data = shallowRef<T>()
  const problem = shallowRef<Problem>()
  let running: AbortController | undefined

  async function take(answer: Answer<T>, mine: AbortController) {
    const { data: got, error } = await answer
    if (mine.signal.aborted) return
    problem.value = error
    if (got !== undefined) data.value = got
  }
  function refresh() {
    running?.abort()
    const mine = (running = new AbortController())
    const answer = ask(mine.signal)
    return answer ? take(answer, mine) : Promise.resolve()
  }
  onScopeDispose(() => running?.abort())
  return { data, problem, refresh }
}

/** Asks at once, and again whenever what the question is made of changes; undefined: there is nothing to ask. */
export function useAsked<T>(ask: (signal: AbortSignal) => Answer<T> | undefined): Asked<T> {
  const asked = useNewest(ask)
  watchEffect(() => void asked.refresh())
  return asked
}
