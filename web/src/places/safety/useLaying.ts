import { type Ref, ref, shallowRef, type ShallowRef, watch } from 'vue'
import type { Problem, Schemas } from '@/api/client'
import { asDocument, type Design, type Element } from '@/api/documents'

export type Laid = NonNullable<Design['laid']>

/** What a layout came to: what was left out and is too small, or why there is none. */
export interface Laying {
  answer: Readonly<ShallowRef<Schemas['LaidOut'] | undefined>>
  problem: Readonly<ShallowRef<Problem | undefined>>
}

/**
 * What a panel is told, begun with what the design was laid out from before; and what was laid out from it, until it is put on the
 * label. A panel that has nothing to say of that closes.
 */
export function useLaying<Spec extends object>(
  show: Ref<boolean>,
  design: () => Design,
  what: Laid['what'],
  begin: Spec,
  take: (laid: Schemas['LaidOut'], how: Laid) => void,
) {
  const spec = ref({ ...begin }) as Ref<Spec>
  const answer = shallowRef<Schemas['LaidOut']>()
  const problem = shallowRef<Problem>()
  watch(show, (now) => {
    if (!now) return
    const { laid } = design()
    spec.value = { ...begin, ...(laid?.what === what ? (laid.with as Partial<Spec>) : {}) }
    problem.value = undefined
  })
  watch([show, spec], () => (answer.value = undefined), { deep: true })

  /** The stock that it is laid out on. */
  const document = () => asDocument({ ...design(), elements: [] })
  async function lay(call: Promise<{ data?: Schemas['LaidOut']; error?: Problem }>) {
    const { data, error } = await call
    problem.value = error
    answer.value = data
    if (!data) return
    if (data.elements.length) take(data, { what, with: { ...spec.value } })
    if (data.fits && !data.notes.length) show.value = false
  }
  return { spec, document, lay, laying: { answer, problem } satisfies Laying }
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
