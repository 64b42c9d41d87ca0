/** Lines that what is moved comes to lie on: of the label, of its safe margin, of guides, of other elements and of their words. */
export interface Box {
  x: number
  y: number
  width: number
  height: number
}
export interface Ground {
  width: number
  height: number
  /** Margin at each edge that stays free of print. */
  keep: number
  guides: { x: readonly number[]; y: readonly number[] }
  others: readonly Box[]
  /** What the words of others stand on, from the top. */
  baselines: readonly number[]
}
/** A line that something snapped to, across the other axis, and what is told at it. */
export interface SnapLine {
  axis: 'x' | 'y'
  at: number
  from: number
  to: number
  told?: number
}

interface Span {
  from: number
  size: number
}
type Axis = 'x' | 'y'
const span = (b: Box, axis: Axis): Span =>
  axis === 'x' ? { from: b.x, size: b.width } : { from: b.y, size: b.height }
const crosses = (a: Box, b: Box, axis: Axis) => {
  const p = span(a, axis)
  const q = span(b, axis)
  return p.from < q.from + q.size && q.from < p.from + p.size
}

/** Where along an axis there is something to snap to. */
function lines(ground: Ground, axis: Axis): number[] {
  const size = axis === 'x' ? ground.width : ground.height
  const at = [0, size / 2, size, ...ground.guides[axis]]
  if (ground.keep > 0) at.push(ground.keep, size - ground.keep)
  for (const other of ground.others) {
    const { from, size } = span(other, axis)
    at.push(from, from + size / 2, from + size)
  }
  return at
}

interface Offer {
  by: number
  at: number
  told?: number
}

/** Gaps that are as large as another: to the neighbour on the other side, or as between two before it. */
function gaps(box: Box, ground: Ground, axis: Axis): Offer[] {
  const across = axis === 'x' ? 'y' : 'x'
  const row = ground.others.filter((o) => crosses(o, box, across)).map((o) => span(o, axis))
  const { from, size } = span(box, axis)
  const end = (s: Span) => s.from + s.size
  const before = row.filter((s) => end(s) <= from + size / 2).sort((a, b) => end(b) - end(a))
  const after = row.filter((s) => s.from >= from + size / 2).sort((a, b) => a.from - b.from)
  const made: Offer[] = []
  const offer = (to: number, gap: number) => gap > 0 && made.push({ by: to - from, at: to, told: gap })
  const [left, beforeLeft] = before
  const [right, afterRight] = after
  if (left && right) {
    const gap = (right.from - end(left) - size) / 2
    offer(end(left) + gap, gap)
  }
  if (left && beforeLeft) offer(end(left) + left.from - end(beforeLeft), left.from - end(beforeLeft))
  if (right && afterRight) {
    const gap = afterRight.from - end(right)
    offer(right.from - gap - size, gap)
  }
  return made
}

/** The nearest place within reach along one axis, for those edges of the box that are moved. */
function nearest(
  box: Box,
  edges: readonly number[],
  ground: Ground,
  axis: Axis,
  reach: number,
  withGaps: boolean,
  before: readonly Offer[] = [],
) {
  const { from, size } = span(box, axis)
  const offers: Offer[] = [
    ...before,
    ...lines(ground, axis).flatMap((at) => edges.map((share) => ({ by: at - (from + size * share), at }))),
  ]
  if (withGaps) offers.push(...gaps(box, ground, axis))
  return offers
    .filter((o) => Math.abs(o.by) <= reach)
    .sort((a, b) => Math.abs(a.by) - Math.abs(b.by) || (a.told ?? 0) - (b.told ?? 0))[0]
}

/** The distance to the nearest of the others, or to the edge of the label, as it is told beside a line. */
function line(axis: Axis, offer: Offer, box: Box, ground: Ground): SnapLine {
  const across = axis === 'x' ? 'y' : 'x'
  const touching = ground.others.filter((o) => {
    const { from, size } = span(o, axis)
    return [from, from + size / 2, from + size].some((at) => Math.abs(at - offer.at) < 1)
  })
  const spans = [box, ...touching].map((b) => span(b, across))
  const whole = { from: 0, size: axis === 'x' ? ground.height : ground.width }
  const all = touching.length ? spans : [whole]
  return {
    axis,
    at: offer.at,
    from: Math.min(...all.map((s) => s.from)),
    to: Math.max(...all.map((s) => s.from + s.size)),
    told: offer.told,
  }
}

/** Where a box that is moved comes to lie, and the lines that it lies on; its words stand so far below its top. */
export function snapped(
  box: Box,
  ground: Ground,
  reach: number,
  stands: readonly number[] = [],
): { dx: number; dy: number; lines: SnapLine[] } {
  const x = nearest(box, [0, 0.5, 1], ground, 'x', reach, true)
  const beside = stands.flatMap((below) => ground.baselines.map((at) => ({ by: at - (box.y + below), at })))
  const y = nearest(box, [0, 0.5, 1], ground, 'y', reach, true, beside)
  const moved = { ...box, x: box.x + (x?.by ?? 0), y: box.y + (y?.by ?? 0) }
  return {
    dx: x?.by ?? 0,
    dy: y?.by ?? 0,
    lines: [...(x ? [line('x', x, moved, ground)] : []), ...(y ? [line('y', y, moved, ground)] : [])],
  }
}

/** By how much more a handle is to be moved, so that its edges come to lie on a line. */
export function snappedHandle(
  box: Box,
  handle: string,
  ground: Ground,
  reach: number,
): { dx: number; dy: number; lines: SnapLine[] } {
  const acrossEdge = handle.includes('e') ? [1] : handle.includes('w') ? [0] : []
  const downEdge = handle.includes('s') ? [1] : handle.includes('n') ? [0] : []
  const x = nearest(box, acrossEdge, ground, 'x', reach, false)
  const y = nearest(box, downEdge, ground, 'y', reach, false)
  return {
    dx: x?.by ?? 0,
    dy: y?.by ?? 0,
    lines: [...(x ? [line('x', x, box, ground)] : []), ...(y ? [line('y', y, box, ground)] : [])],
  }
}
