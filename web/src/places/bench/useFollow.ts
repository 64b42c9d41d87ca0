import { toRaw } from 'vue'
import type { Element } from '@/api/documents'
import { afterPaint } from '@/shared/afterPaint'
import type { Strip } from '@/strip/useStrip'
import type { Bench } from './useBench'

/**
 * What a hand moves is drawn in the frame in which it moves; the design itself, and the page around the dots, follow when
 * that is on the screen.
 */
export function useFollow(bench: Bench, strip: Strip) {
  const ahead = new Map<string, Partial<Element>>()
  let waits = false
  let done = false

  /** Makes the design what was drawn ahead of it, and ends the gesture where that was its end. */
  function settle() {
    if (ahead.size) bench.changeAll(ahead)
    ahead.clear()
    if (done) bench.commit()
    done = false
  }
  /** Ends the gesture as soon as the design has followed. */
  function commit() {
    done = true
    if (!waits) settle()
  }
  function follow(moves: ReadonlyMap<string, Partial<Element>>) {
    const design = toRaw(bench.design.value)
    if (!design) return
    for (const [id, to] of moves) ahead.set(id, { ...ahead.get(id), ...to })
    strip.hurry({
      ...design,
      elements: design.elements.map((e) => ({ ...toRaw(e), ...ahead.get(e.id) })),
    })
    if (waits) return
    waits = true
    afterPaint(() => {
      waits = false
      settle()
    })
  }
  /** An element as the hand has it. */
  const asMoved = (e: Element): Element => ({ ...e, ...ahead.get(e.id) })
  return { follow, settle, commit, asMoved }
}
