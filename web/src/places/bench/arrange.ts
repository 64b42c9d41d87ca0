import type { Element } from '@/api/documents'

/** Where an element sits. */
export type Place = Pick<Element, 'id' | 'x' | 'y' | 'width' | 'height'>
/** What of some elements becomes something else, by their ids. */
export type Moves = Map<string, Partial<Element>>
export type Edge = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom'

/** How a box is divided into equal ones, and what stands in each. */
export interface Division {
  rows: number
  columns: number
  gap: number
  content: 'nothing' | 'numbers' | 'text' | 'records'
  /** The field of consecutive records that stands in the boxes, and what it is called in each once they are gathered. */
  field?: string
  fields?: readonly string[]
}

interface Span {
  at: 'x' | 'y'
  size: 'width' | 'height'
}
const across: Span = { at: 'x', size: 'width' }
const down: Span = { at: 'y', size: 'height' }
const spanOf = (edge: Edge) => (edge === 'left' || edge === 'centre' || edge === 'right' ? across : down)

/** The box round all of them. */
export function around(places: readonly Place[]): Omit<Place, 'id'> {
  const x = Math.min(...places.map((p) => p.x))
  const y = Math.min(...places.map((p) => p.y))
  return {
    x,
    y,
    width: Math.max(...places.map((p) => p.x + p.width)) - x,
    height: Math.max(...places.map((p) => p.y + p.height)) - y,
  }
}

/** Brings an edge of each to that edge of the frame, or the middle to its middle. */
export function aligned(places: readonly Place[], edge: Edge, frame: Omit<Place, 'id'>): Moves {
  const { at, size } = spanOf(edge)
  const share = { left: 0, top: 0, centre: 0.5, middle: 0.5, right: 1, bottom: 1 }[edge]
  return new Map(
    places.map((p) => [p.id, { [at]: Math.round(frame[at] + (frame[size] - p[size]) * share) }] as const),
  )
}

/** Moves those between the first and the last so that all gaps are as large. */
export function spread(places: readonly Place[], way: 'across' | 'down'): Moves {
  const { at, size } = way === 'across' ? across : down
  const sorted = [...places].sort((a, b) => a[at] - b[at])
  const frame = around(sorted)
  const gap = (frame[size] - sorted.reduce((sum, p) => sum + p[size], 0)) / (sorted.length - 1)
  let next = frame[at]
  return new Map(
    sorted.map((p) => {
      const to = Math.round(next)
      next += p[size] + gap
      return [p.id, { [at]: to }] as const
    }),
  )
}

/** Moves those between the first and the last so that their middles are as far apart. */
export function spreadMiddles(places: readonly Place[], way: 'across' | 'down'): Moves {
  const { at, size } = way === 'across' ? across : down
  const middle = (p: Place) => p[at] + p[size] / 2
  const sorted = [...places].sort((a, b) => middle(a) - middle(b))
  const [first, last] = [sorted[0], sorted[sorted.length - 1]]
  if (!first || !last) return new Map()
  const step = (middle(last) - middle(first)) / (sorted.length - 1)
  return new Map(
    sorted.map((p, i) => [p.id, { [at]: Math.round(middle(first) + i * step - p[size] / 2) }] as const),
  )
}

/** Gives all the size of the first, which was chosen first. */
export function alike(places: readonly Place[], size: 'width' | 'height'): Moves {
  const [first] = places
  return new Map(first ? places.map((p) => [p.id, { [size]: first[size] }] as const) : [])
}

/** Those that a rectangle touches. */
export function touched(places: readonly Place[], frame: Omit<Place, 'id'>): string[] {
  return places
    .filter(
      (p) =>
        p.x < frame.x + frame.width &&
        p.x + p.width > frame.x &&
        p.y < frame.y + frame.height &&
        p.y + p.height > frame.y,
    )
    .map((p) => p.id)
}

/** So many boxes in rows and columns over a frame, with gaps between them. */
export function cells(
  frame: Omit<Place, 'id'>,
  rows: number,
  columns: number,
  gap: number,
): Omit<Place, 'id'>[] {
  const width = Math.floor((frame.width - gap * (columns - 1)) / columns)
  const height = Math.floor((frame.height - gap * (rows - 1)) / rows)
  if (width < 1 || height < 1) return []
  return Array.from({ length: rows * columns }, (_, i) => ({
    x: frame.x + (i % columns) * (width + gap),
    y: frame.y + Math.floor(i / columns) * (height + gap),
    width,
    height,
  }))
}
