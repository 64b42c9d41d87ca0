import { api, type Schemas } from '@/api/client'
import type { Answered } from '@/shared/useAsked'

/** The labels of a design as it is kept, asked for beside the design, so that both are shown at once. */
export interface FirstStrip {
  record: number
  /** It came, or takes longer than a design should wait for it. */
  soon: Promise<unknown>
  /** What came, as far as it did. */
  answer: () => Answered<Schemas['Strip']> | undefined
}

const waitTime = 300 // milliseconds

export function askFirstStrip(designId: number, record: number): FirstStrip {
  let came: Answered<Schemas['Strip']> | undefined
  const params = { path: { id: designId }, query: { record } }
  const coming = api.GET('/designs/{id}/strip', { params }).then((answer) => (came = answer))
  return {
    record,
    soon: Promise.race([coming, new Promise((resolve) => setTimeout(resolve, waitTime))]),
    answer: () => came,
  }
}
