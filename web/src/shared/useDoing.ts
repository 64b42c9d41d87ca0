import { readonly, ref, type Ref, shallowRef, type ShallowRef } from 'vue'
import type { Problem } from '@/api/client'

export interface Doing {
  busy: Readonly<Ref<boolean>>
  problem: ShallowRef<Problem | undefined> // of the last thing done; cleared when the next begins well
  doing: <A extends { error?: Problem }>(call: () => Promise<A>) => Promise<A>
}

/** Does what a person asked for, and keeps what stood against it. */
export function useDoing(): Doing {
  const under = ref(0)
  const busy = ref(false)
  const problem = shallowRef<Problem>()

  async function doing<A extends { error?: Problem }>(call: () => Promise<A>): Promise<A> {
    busy.value = ++under.value > 0
    try {
      const answer = await call()
      problem.value = answer.error
      return answer
    } finally {
      busy.value = --under.value > 0
    }
  }
  return { busy: readonly(busy), problem, doing }
}
