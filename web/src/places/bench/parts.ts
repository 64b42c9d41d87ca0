import type { Schemas } from '@/api/client'
import type { Design, Element } from '@/api/documents'
import { around } from './arrange'
import { duplicates } from './elements'

export type Part = Schemas['Part']
type Shared = NonNullable<Design['parts']>[number]

/** Which shared part a group of a design is; undefined: none. */
export const sharedOf = (design: Design, group: string | undefined): Shared | undefined =>
  design.parts?.find((p) => p.group === group)

/** Elements as a part keeps them: from their own top left corner, in no group. */
export function asPart(elements: readonly Element[]): Element[] {
  const { x, y } = around(elements)
  const copies = JSON.parse(JSON.stringify(elements)) as Element[]
  return copies.map((e) => ({ ...e, group: undefined, x: e.x - x, y: e.y - y }))
}

const elementsOf = (part: Part) => part.elements as unknown as Element[]

/** A design with a part put on it, as a group of its own. */
export function withPart(
  design: Design,
  part: Part,
  at: { x: number; y: number },
): { design: Design; ids: string[] } {
  const groups = new Set(design.elements.map((e) => e.group))
  let group = part.name
  for (let n = 2; groups.has(group); n++) group = `${part.name} ${String(n)}`
  const made = duplicates(design, elementsOf(part), 0).map((e) => ({
    ...e,
    group,
    x: e.x + at.x,
    y: e.y + at.y,
  }))
  const shared = { group, part: part.id, version: part.version }
  return {
    design: { ...design, elements: [...design.elements, ...made], parts: [...(design.parts ?? []), shared] },
    ids: made.map((e) => e.id),
  }
}

/** A design whose group is the newest version of its part, in the place where it was. */
export function withNewest(design: Design, group: string, part: Part): { design: Design; ids: string[] } {
  const old = design.elements.filter((e) => e.group === group)
  const { x, y } = around(old)
  const first = design.elements.findIndex((e) => e.group === group)
  const rest = { ...design, elements: design.elements.filter((e) => e.group !== group) }
  const made = duplicates(rest, elementsOf(part), 0).map((e) => ({ ...e, group, x: e.x + x, y: e.y + y }))
  const elements = [...rest.elements]
  elements.splice(first, 0, ...made)
  const parts = (design.parts ?? []).map((p) => (p.group === group ? { ...p, version: part.version } : p))
  return { design: { ...design, elements, parts }, ids: made.map((e) => e.id) }
}
