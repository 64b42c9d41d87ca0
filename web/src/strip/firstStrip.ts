import { api, type Schemas } from '@/api/client'
import type { Answered } from '@/shared/useAsked'
import { lastSeen, type Seen } from './lastSeen'

/** The labels of a design as it is kept, asked for beside the design, so that both are shown at once. */
export interface FirstStrip {
  designId: number
  record: number
  coming: Promise<Schemas['Strip'] | undefined>
  /** It came, or takes longer than a design should wait for it. */
  soon: Promise<unknown>
  /** What was there when it was last seen. */
  seen: Seen | undefined
  /** Hands over what came; what was last seen while nothing has; each once. */
  take: () => Answered<Schemas['Strip']> | undefined
}

const waitTime = 300 // milliseconds

export function askFirstStrip(designId: number, record: number): FirstStrip {
  const last = lastSeen(designId)
  const seen = last?.record === record ? last : undefined
  let next: Answered<Schemas['Strip']> | undefined = seen && { data: seen.strip }
  const params = { path: { id: designId }, query: { record } }
  const coming = api.GET('/designs/{id}/strip', { params }).then((answer) => {
    next = answer
    return answer.data
  })
  return {
    designId,
    record,
    coming,
    soon: Promise.race([coming, new Promise((resolve) => setTimeout(resolve, waitTime))]),
    seen,
    take() {
      const given = next
      next = undefined
      return given
    },
  }
}
