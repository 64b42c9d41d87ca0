/**
 * What a Bench showed when it last rested, kept in the browser: opened again it shows that at once, while the server is asked what is true
 * by now. It goes when who is signed in signs out.
 */
import type { Schemas } from '@/api/client'

export interface Seen {
  design: Schemas['Design']
  record: number
  strip: Schemas['Strip']
}

const prefix = 'seen '
const order = 'last seen' // designs, the last first
const most = 12 // one of 40 elements takes some 60 kB of the 5 MB that a browser gives
const longest = 300_000 // characters of one

/** What this page is made of: what an earlier one kept may be of another shape. */
const page = document.querySelector('script[type=module]')?.getAttribute('src') ?? ''
const keys = () => JSON.parse(localStorage.getItem(order) ?? '[]') as number[]

/** Undefined: it was not seen lately, or with another page. */
export function lastSeen(designId: number): Seen | undefined {
  const found = localStorage.getItem(prefix + String(designId))
  if (!found) return undefined
  const { with: other, ...seen } = JSON.parse(found) as Seen & { with: string }
  return other === page ? seen : undefined
}

export function keepSeen(seen: Seen) {
  const { id } = seen.design
  const text = JSON.stringify({ ...seen, with: page })
  const ids = [...(text.length > longest ? [] : [id]), ...keys().filter((other) => other !== id)]
  for (const gone of ids.slice(most)) localStorage.removeItem(prefix + String(gone))
  try {
    if (ids[0] === id) localStorage.setItem(prefix + String(id), text)
    else localStorage.removeItem(prefix + String(id))
    localStorage.setItem(order, JSON.stringify(ids.slice(0, most)))
  } catch {
    forgetSeen() // the browser has no more room: drafts that are not sent yet need what there is
  }
}

export function forgetSeen() {
  for (const id of keys()) localStorage.removeItem(prefix + String(id))
  localStorage.removeItem(order)
}
