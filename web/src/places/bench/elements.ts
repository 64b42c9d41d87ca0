import type { Design, Element, Piece } from '@/api/documents'
import { around as boundsOf, cells, type Division } from './arrange'

/** The kinds that can be added, each with the key that follows A. */
export const addable = [
  { kind: 'text', name: 'Text', key: 't' },
  { kind: 'code', name: 'Bar code', key: 'c' },
  { kind: 'line', name: 'Line', key: 'l' },
  { kind: 'box', name: 'Box', key: 'b' },
  { kind: 'oval', name: 'Ellipse', key: 'e' },
  { kind: 'picture', name: 'Picture from a file', key: 'p' },
  { kind: 'symbol', name: 'Symbol', key: 's' },
  { kind: 'tag', name: 'Tag memory', key: 'm' },
] as const

/** Whole safety labels, laid out from what is true of the thing. */
export const layable = [
  { kind: 'chemical', name: 'Chemical label', key: 'h' },
  { kind: 'sign', name: 'Safety sign', key: 'g' },
  { kind: 'pipe', name: 'Pipe marker', key: 'i' },
  { kind: 'diamond', name: 'Diamond of ratings', key: 'd' },
] as const
export type Layable = (typeof layable)[number]['kind']

export type Kind = (typeof addable)[number]['kind']

function freeId(design: Design, kind: string): string {
  for (let n = 1; ; n++) {
    const id = `${kind}-${String(n)}`
    if (!design.elements.some((e) => e.id === id)) return id
  }
}

const sizes: Record<Kind, { width: number; height: number }> = {
  text: { width: 40_000, height: 6000 },
  code: { width: 55_000, height: 14_000 },
  line: { width: 40_000, height: 500 },
  box: { width: 40_000, height: 15_000 },
  oval: { width: 20_000, height: 20_000 },
  picture: { width: 20_000, height: 20_000 },
  symbol: { width: 20_000, height: 20_000 },
  tag: { width: 30_000, height: 10_000 },
}

/** A new element of a kind, near x, y where given, held on the label, whose size is given. */
export function newElement(
  design: Design,
  label: { width: number; height: number },
  kind: Kind,
  says: Piece[],
  at?: { x: number; y: number },
): Element {
  const margin = Math.min(2000, label.width / 20, label.height / 10)
  const width = Math.round(Math.min(sizes[kind].width, label.width - 2 * margin))
  const height = Math.round(Math.min(sizes[kind].height, label.height - 2 * margin))
  const clamp = (v: number, most: number) => Math.round(Math.max(margin, Math.min(v, most - margin)))
  const element: Element = {
    id: freeId(design, kind),
    kind,
    x: clamp(at?.x ?? margin, label.width - width),
    y: clamp(at?.y ?? margin, label.height - height),
    width,
    height,
  }
  if (kind === 'tag')
    return {
      ...element,
      ...inlayOf(design, element),
      says,
      tag: { scheme: 'sgtin-96', prefix: 7, filter: 1 },
    }
  if (kind === 'text') return { ...element, says, text: { typeface: 'Liberation Sans', points: 10 } }
  if (kind === 'code') return { ...element, says, code: { symbology: 'code128', module: 250, points: 8 } }
  return kind === 'box' || kind === 'oval' ? { ...element, weight: 500 } : element
}

/** Where the inlay of the stock lies on the artwork as it is read; where that is not known, in the box given. */
function inlayOf(design: Design, box: Pick<Element, 'x' | 'y' | 'width' | 'height'>) {
  const { inlay, width, length } = design.stock
  if (!inlay) return box
  switch (design.turn) {
    case 90: // of the artwork on the web, clockwise
      return { x: inlay.y, y: width - inlay.x - inlay.width, width: inlay.height, height: inlay.width }
    case 180:
      return {
        x: width - inlay.x - inlay.width,
        y: length - inlay.y - inlay.height,
        width: inlay.width,
        height: inlay.height,
      }
    case 270:
      return { x: length - inlay.y - inlay.height, y: inlay.x, width: inlay.height, height: inlay.width }
    default:
      return { x: inlay.x, y: inlay.y, width: inlay.width, height: inlay.height }
  }
}

/** What a tag says at first: what a code of the label says in GS1's own manner, or a trade item with a serial number. */
export function tagSays(design: Design): Piece[] {
  const gs1 = design.elements.find((e) => e.code?.symbology.startsWith('gs1-') && e.says?.length)
  return gs1?.says ? gs1.says.map((p) => ({ ...p })) : [{ text: '(01)09521234543213(21)1' }]
}

/** What stands in the box with an index. */
function inCell(how: Division, i: number): Piece {
  const field = how.content === 'records' ? how.fields?.[i] : undefined
  if (field !== undefined) return { field }
  return { text: how.content === 'numbers' ? String(i + 1) : 'Text' }
}

/** A box as rows and columns of equal ones, in the order they are read, each with what is to stand in it. */
export function divided(design: Design, box: Element, how: Division): Element[] {
  const taken = { ...design, elements: [...design.elements] }
  const add = (made: Omit<Element, 'id'>) => {
    const element: Element = { ...made, id: freeId(taken, made.kind) }
    taken.elements.push(element)
    return element
  }
  const inset = Math.max(box.weight ?? 0, 250)
  // Boxes without a gap share the line between them.
  const gap = how.gap > 0 ? how.gap : -(box.weight ?? 0)
  return cells(box, how.rows, how.columns, gap).flatMap((cell, i) => {
    const outline = add({ ...box, ...cell })
    if (how.content === 'nothing') return [outline]
    const text = add({
      kind: 'text',
      x: cell.x + inset,
      y: cell.y + inset,
      width: Math.max(cell.width - 2 * inset, 100),
      height: Math.max(cell.height - 2 * inset, 100),
      says: [inCell(how, i)],
      ...(how.content === 'records' && { ifEmpty: 'leave out' as const }), // of the last label boxes may be left over
      text: { typeface: 'Liberation Sans', points: 10, align: 'centre', stand: 'middle', shrinkTo: 5 },
    })
    return [outline, text]
  })
}

/** A picture as large as its file says, or else at its own dots in the printer's, made smaller until it fits the label. */
export function newPicture(
  design: Design,
  label: { width: number; height: number },
  kept: {
    hash: string
    name: string
    width: number
    height: number
    trueWidth?: number
    trueHeight?: number
  },
  dot: number,
  at?: { x: number; y: number },
): Element {
  const element = newElement(design, label, 'picture', [], at ?? freePlace(design))
  const width = kept.trueWidth ?? kept.width * dot
  const height = kept.trueHeight ?? kept.height * dot
  const least = Math.min(label.width - 2 * Math.min(element.x, 2000), label.height - 4000)
  const share = Math.min(1, least / width, least / height)
  return {
    ...element,
    x: Math.min(element.x, Math.max(0, label.width - Math.round(width * share))),
    y: Math.min(element.y, Math.max(2000, label.height - 2000 - Math.round(height * share))),
    width: Math.max(Math.round(width * share), 1000),
    height: Math.max(Math.round(height * share), 1000),
    picture: { hash: kept.hash, name: kept.name },
  }
}

/** The free place below what stands on the label already. */
export function freePlace(design: Design): { x: number; y: number } {
  const below = design.elements
    .filter((e) => e.kind !== 'box' && e.kind !== 'oval')
    .map((e) => e.y + e.height)
  return { x: 3000, y: Math.max(1000, ...below) + 1000 }
}

/** Copies of elements, a little beside them, each with an id of its own, grouped and framed as they are. */
export function duplicates(design: Design, elements: readonly Element[], by = 2000): Element[] {
  const taken = { ...design, elements: [...design.elements] }
  const groups = new Set(design.elements.map((e) => e.group))
  const ids = new Map<string, string>()
  const copies = elements.map((element) => {
    const copy = JSON.parse(JSON.stringify(element)) as Element
    const made: Element = { ...copy, id: freeId(taken, element.kind), x: copy.x + by, y: copy.y + by }
    if (made.group && groups.has(made.group)) made.group = freeName(made.group, groups)
    taken.elements.push(made)
    ids.set(element.id, made.id)
    return made
  })
  for (const copy of copies) if (copy.around) copy.around = copy.around.map((id) => ids.get(id) ?? id)
  return copies
}

function freeName(name: string, taken: ReadonlySet<string | undefined>): string {
  for (let n = 2; ; n++) if (!taken.has(`${name} ${String(n)}`)) return `${name} ${String(n)}`
}

/** A box that stands round elements, a little off, wherever they are. */
export function newFrame(design: Design, elements: readonly Element[]): Element {
  const { x, y, width, height } = boundsOf(elements)
  return {
    id: freeId(design, 'frame'),
    kind: 'box',
    x,
    y,
    width,
    height,
    weight: 500,
    around: elements.filter((e) => !e.around).map((e) => e.id),
    distance: 1500,
  }
}
/** The box after one of its eight handles was moved, never thinner than a dot or so. */
export function resized(
  box: Pick<Element, 'x' | 'y' | 'width' | 'height'>,
  handle: string,
  dx: number,
  dy: number,
): Pick<Element, 'x' | 'y' | 'width' | 'height'> {
  const least = 250
  let { x, y, width, height } = box
  if (handle.includes('e')) width = Math.max(width + dx, least)
  if (handle.includes('s')) height = Math.max(height + dy, least)
  if (handle.includes('w')) {
    const moved = Math.min(dx, width - least)
    x += moved
    width -= moved
  }
  if (handle.includes('n')) {
    const moved = Math.min(dy, height - least)
    y += moved
    height -= moved
  }
  return { x, y, width, height }
}

/** The box after a corner was moved, in the proportions it had: as large as the longer side was dragged. */
export function proportioned(begun: Box, to: Box, handle: string): Box {
  if (handle.length !== 2) return to
  const scale = Math.max(to.width / begun.width, to.height / begun.height)
  const width = Math.round(begun.width * scale)
  const height = Math.round(begun.height * scale)
  return {
    x: handle.includes('w') ? begun.x + begun.width - width : begun.x,
    y: handle.includes('n') ? begun.y + begun.height - height : begun.y,
    width,
    height,
  }
}

/** The box as much larger on the other side as well, so that its middle stays. */
export function fromMiddle(begun: Box, to: Box): Box {
  const wider = to.width - begun.width
  const taller = to.height - begun.height
  const width = begun.width + 2 * wider
  const height = begun.height + 2 * taller
  if (width < 250 || height < 250) return begun
  return { x: begun.x - wider, y: begun.y - taller, width, height }
}

/** A picture of which a drag of a handle cuts off a part, or gives it back; what is left keeps its size. */
export function cropped(
  begun: Box,
  looks: NonNullable<Element['picture']> | undefined,
  handle: string,
  dx: number,
  dy: number,
): Partial<Element> {
  if (!looks) return {}
  const was = { left: 0, top: 0, right: 0, bottom: 0, ...looks.crop }
  const full = {
    width: begun.width / (1 - (was.left + was.right) / 100),
    height: begun.height / (1 - (was.top + was.bottom) / 100),
  }
  const crop = { ...was }
  const cut = (side: keyof typeof was, by: number, of: number, other: number) => {
    crop[side] = Math.min(Math.max(was[side] + (by / of) * 100, 0), 98 - other)
  }
  if (handle.includes('w')) cut('left', dx, full.width, was.right)
  if (handle.includes('e')) cut('right', -dx, full.width, was.left)
  if (handle.includes('n')) cut('top', dy, full.height, was.bottom)
  if (handle.includes('s')) cut('bottom', -dy, full.height, was.top)
  const share = (side: keyof typeof was, of: number) => ((crop[side] - was[side]) / 100) * of
  return {
    x: Math.round(begun.x + share('left', full.width)),
    y: Math.round(begun.y + share('top', full.height)),
    width: Math.round(begun.width - share('left', full.width) - share('right', full.width)),
    height: Math.round(begun.height - share('top', full.height) - share('bottom', full.height)),
    picture: { ...looks, crop: Object.fromEntries(Object.entries(crop).filter(([, v]) => v > 0)) },
  }
}

type Box = Pick<Element, 'x' | 'y' | 'width' | 'height'>

/**
 * The box of a code after one of its handles was moved: as large as a whole number of dots a module
 * makes the symbol, and what else stands in the box. Of linear codes only the width goes in steps.
 * What is undefined keeps to the ordinary way.
 */
export function codeResized(
  begun: Box,
  turn: number,
  facts: { width: number; height: number; moduleDots: number; is2d: boolean },
  handle: string,
  dx: number,
  dy: number,
): { box: Box; dots: number } | undefined {
  const sideways = turn === 90 || turn === 270
  const along = sideways ? /[ns]/ : /[ew]/
  const across = sideways ? /[ew]/ : /[ns]/
  if (!facts.moduleDots || !(along.test(handle) || facts.is2d)) return undefined
  const free = resized(begun, handle, dx, dy)
  const [long, tall, wasTall] = sideways
    ? [free.height, free.width, begun.width]
    : [free.width, free.height, begun.height]
  const beside = Math.max(wasTall - facts.height, 0)
  const dots = Math.max(
    1,
    along.test(handle)
      ? Math.round((long / facts.width) * facts.moduleDots)
      : Math.round(((tall - beside) / facts.height) * facts.moduleDots),
  )
  const symbol = (length: number) => Math.ceil((length * dots) / facts.moduleDots)
  const newLong = symbol(facts.width)
  const newTall = facts.is2d ? symbol(facts.height) + beside : across.test(handle) ? tall : wasTall
  const [width, height] = sideways ? [newTall, newLong] : [newLong, newTall]
  return {
    dots,
    box: {
      x: handle.includes('w') ? begun.x + begun.width - width : begun.x,
      y: handle.includes('n') ? begun.y + begun.height - height : begun.y,
      width,
      height,
    },
  }
}

/** Whether there is nothing of an element but its outline, so that what lies within is taken hold of through it. */
export function isHollow(element: Element): boolean {
  return (element.kind === 'box' || element.kind === 'oval') && !element.shape?.fill
}
