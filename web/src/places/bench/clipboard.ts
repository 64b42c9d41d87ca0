import type { Design, Element } from '@/api/documents'

/** Elements as text, which any tab of any design takes: the system's clipboard carries it. */
const kind = 'oddspool.elements/1'

export function asText(elements: readonly Element[]): string {
  return JSON.stringify({ kind, elements })
}

/** The elements in a text, with the fields of these records where a name differs in letters' case alone; else undefined. */
export function fromText(text: string, fields: readonly string[]): Element[] | undefined {
  if (!text.startsWith(`{"kind":"${kind}"`)) return undefined
  let read: { elements?: Element[] }
  try {
    read = JSON.parse(text) as { elements?: Element[] }
  } catch {
    return undefined
  }
  const elements = read.elements
  if (!Array.isArray(elements) || !elements.every((e) => typeof e.id === 'string' && typeof e.x === 'number'))
    return undefined
  const own = (name: string) =>
    fields.includes(name) ? name : (fields.find((f) => f.toLowerCase() === name.toLowerCase()) ?? name)
  return elements.map((e) => ({
    ...e,
    ...(e.says && { says: e.says.map((p) => ('field' in p && p.field ? { ...p, field: own(p.field) } : p)) }),
    ...(e.when && { when: { ...e.when, field: own(e.when.field) } }),
  }))
}

/** What was done between two states of a design, in a few words: "move of 3". */
export function deedBetween(before: Design | undefined, after: Design | undefined): string {
  if (!before || !after) return ''
  const old = new Map(before.elements.map((e) => [e.id, e]))
  const now = new Map(after.elements.map((e) => [e.id, e]))
  const many = (list: readonly Element[]) => (list.length === 1 ? (list[0]?.id ?? '') : String(list.length))
  const added = after.elements.filter((e) => !old.has(e.id))
  const gone = before.elements.filter((e) => !now.has(e.id))
  if (
    JSON.stringify([before.stock, before.printer, before.turn]) !==
    JSON.stringify([after.stock, after.printer, after.turn])
  )
    return 'another stock or printer'
  if (added.length && gone.length) return `replacing of ${many(gone)}`
  if (added.length) return `adding of ${many(added)}`
  if (gone.length) return `deletion of ${many(gone)}`
  const differ = after.elements.filter((e) => JSON.stringify(e) !== JSON.stringify(old.get(e.id)))
  const only = (keys: readonly string[]) =>
    differ.every((e) => {
      const was = old.get(e.id) as Record<string, unknown> | undefined
      const is = e as unknown as Record<string, unknown>
      return [...new Set([...Object.keys(was ?? {}), ...Object.keys(is)])].every(
        (k) => keys.includes(k) || JSON.stringify(was?.[k]) === JSON.stringify(is[k]),
      )
    })
  if (differ.length) {
    if (only(['x', 'y'])) return `move of ${many(differ)}`
    if (only(['x', 'y', 'width', 'height'])) return `new size of ${many(differ)}`
    if (only(['group'])) return `grouping of ${many(differ)}`
    return `change of ${many(differ)}`
  }
  if (before.name !== after.name) return 'new name'
  if (after.elements.some((e, i) => e.id !== before.elements[i]?.id)) return 'new order'
  return 'change'
}
