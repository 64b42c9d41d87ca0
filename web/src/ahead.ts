/**
 * What lies behind a link is asked for when a hand comes near it: the code of its place, and of a Bench what is on it. So it is on the way,
 * or there, before the link is followed.
 */
import type { Router } from 'vue-router'

const kept = new Map<string, { answer: Promise<Response>; since: number }>()
const nearTime = 60 // milliseconds that a hand stays; one that passes over a list asks nothing
const freshTime = 4000

/** Something was changed: what was asked before may no longer hold. */
export const forgetAhead = () => {
  kept.clear()
}

/** The answer that is on its way already. It is given away once, and only while it is fresh. */
export function askedAhead(request: Request): Promise<Response> | undefined {
  const { pathname, search } = new URL(request.url)
  const found = kept.get(pathname + search)
  if (!found) return undefined
  kept.delete(pathname + search)
  return performance.now() - found.since < freshTime ? found.answer : undefined
}

function ask(address: string) {
  const now = performance.now()
  for (const [of, { since }] of kept) if (now - since >= freshTime) kept.delete(of)
  if (kept.has(address)) return
  const answer = fetch(address)
  answer.catch(() => undefined) // who takes it is told
  kept.set(address, { answer, since: now })
}

/** Reads the code of the place at an address. */
export function readCode(router: Router, address: string) {
  const place = router.resolve(address)
  for (const { components } of place.matched)
    if (typeof components?.default === 'function')
      (components.default as () => Promise<unknown>)().catch(() => undefined) // who goes there is told
  return place
}

/** Asks what a place shows first, and reads its code. */
function askPlace(router: Router, address: string) {
  const { name, params, query } = readCode(router, address)
  if (name !== 'bench') return
  const design = `/api/designs/${String(params.id)}`
  ask(design)
  ask(`${design}/strip?record=${typeof query.record === 'string' ? query.record : '1'}`)
}

export function askWhenNear(router: Router) {
  let waiting = 0
  let near: string | undefined
  let asked = true
  function askNow() {
    clearTimeout(waiting)
    if (asked || near === undefined) return
    asked = true
    askPlace(router, near)
  }
  function come(event: Event) {
    const link = event.target instanceof Element ? event.target.closest('a[href]') : undefined
    const to =
      link instanceof HTMLAnchorElement && link.origin === location.origin
        ? link.pathname + link.search
        : undefined
    if (to === near) return
    near = to
    asked = false
    clearTimeout(waiting)
    waiting = window.setTimeout(askNow, nearTime)
  }
  for (const kind of ['pointerover', 'focusin']) addEventListener(kind, come, { passive: true })
  addEventListener('pointerdown', askNow, { passive: true }) // a finger comes and presses at once
}
