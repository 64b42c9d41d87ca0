import { reactive } from 'vue'
import type { Schemas } from '@/api/client'
import type { Design } from '@/api/documents'
import { type Laid, put } from '../safety/useLaying'
import type { Layable } from './elements'
import type { Bench } from './useBench'

const groups: Record<Laid['what'], string> = {
  chemical: 'chemical label',
  sign: 'sign',
  pipe: 'pipe marker',
  diamond: 'diamond',
}

/** Whole safety labels: which panel is open, and what was laid out coming onto the label in one step. */
export function useLaidOut(bench: Bench) {
  const showing = reactive<Record<Layable, boolean>>({
    chemical: false,
    sign: false,
    pipe: false,
    diamond: false,
  })
  function layOut(laid: Schemas['LaidOut'], how: Laid) {
    const design = bench.design.value
    if (!design) return
    put(design, laid, how.what, groups[how.what])
    design.laid = how
    design.reference = laid.reference
    bench.choose(undefined)
    bench.commit()
  }
  /** The label as it is with another reference pack, in one step too. */
  function takeReference(made: Design) {
    const design = bench.design.value
    if (!design) return
    design.elements = made.elements
    design.demands = made.demands
    design.reference = made.reference
    design.printer = made.printer
    bench.commit()
  }
  /** Has a rule not be kept to, for a reason; without one it holds again. */
  function overrule(demand: number, reason: string) {
    const asked = bench.design.value?.demands?.[demand - 1]
    if (!asked) return
    asked.overruled = reason || undefined
    bench.commit()
  }
  return { showing, overrule, layOut, takeReference }
}
