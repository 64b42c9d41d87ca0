import { type Ref, ref, shallowRef, type ShallowRef, watch } from 'vue'
import type { Problem, Schemas } from '@/api/client'
import { asDocument, type Design, type Element } from '@/api/documents'

export type Laid = NonNullable<Design['laid']>
export type Demand = NonNullable<Design['demands']>[number]

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

/**
 * Puts what was laid out in the place of what was laid out of that kind before, with ids that nothing else has, and keeps what its
 * rules ask.
 */
export function put(design: Design, made: Schemas['LaidOut'], what: Laid['what'], group: string) {
  const kept = design.elements.filter((e) => e.group !== group)
  const taken = new Set(kept.map((e) => e.id))
  const ids = new Map<string, string>()
  const elements = (made.elements as unknown as Element[]).map((e) => {
    let id = e.id
    for (let n = 2; taken.has(id); n++) id = `${e.id} ${String(n)}`
    taken.add(id)
    ids.set(e.id, id)
    return { ...e, id, group }
  })
  const demands = (made.demands as unknown as Demand[]).map((d) =>
    d.element ? { ...d, element: ids.get(d.element) ?? d.element } : d,
  )
  design.elements = [...kept, ...elements]
  design.demands = [...(design.demands ?? []).filter((d) => d.of !== what), ...demands]
}

/** What the rules ask of labels of which something is left: one that was taken off whole asks nothing. */
export function stillAsked(design: Design): Demand[] | undefined {
  const there = new Set(design.elements.map((e) => e.id))
  const left = new Set(design.demands?.filter((d) => d.element && there.has(d.element)).map((d) => d.of))
  const demands = design.demands?.filter((d) => left.has(d.of))
  return demands?.length ? demands : undefined
}
