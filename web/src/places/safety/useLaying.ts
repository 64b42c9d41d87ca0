import { shallowRef } from 'vue'
import type { Problem, Schemas } from '@/api/client'
import type { Design, Element } from '@/api/documents'

export type Laid = NonNullable<Design['laid']>

/** What was laid out, until it is put on the label in the place of what was laid out before. */
export function useLaying() {
  const answer = shallowRef<Schemas['LaidOut']>()
  const problem = shallowRef<Problem>()
  async function lay(call: Promise<{ data?: Schemas['LaidOut']; error?: Problem }>) {
    const { data, error } = await call
    answer.value = data
    problem.value = error
    return data
  }
  return { answer, problem, lay }
}

/** The elements of a design with those laid out in the place of what was laid out before, and with ids that nothing else has. */
export function replaced(design: Design, laid: readonly Schemas['About'][], group: string): Element[] {
  const kept = design.elements.filter((e) => e.group !== group)
  const taken = new Set(kept.map((e) => e.id))
  const made = (laid as unknown as Element[]).map((e) => {
    let id = e.id
    for (let n = 2; taken.has(id); n++) id = `${e.id} ${String(n)}`
    taken.add(id)
    return { ...e, id, group }
  })
  return [...kept, ...made]
}
