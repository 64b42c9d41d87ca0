import type { Stock } from '@/api/documents'
import { drawing } from '@/theme'

/** One shape of a drawing, in millimetres. */
export interface Drawn {
  kind: 'web' | 'piece' | 'clear' | 'round' | 'hole' | 'mark' | 'page' | 'inlay' | 'chip'
  x: number
  y: number
  w: number
  h: number
  rx: number
  ry: number
  fill: string
}

const mm = (micrometres: number | undefined) => (micrometres ?? 0) / 1000

/** The web, or page, or plate of a stock as it hangs from the printer, so much of it. */
export function drawStock(stock: Stock, tall: number): { shapes: Drawn[]; width: number } {
  const face = stock.colour ?? drawing.face
  const shapes: Drawn[] = []
  const add = (
    kind: Drawn['kind'],
    x: number,
    y: number,
    w: number,
    h: number,
    fill: string,
    rx = 0,
    ry = rx,
  ) => shapes.push({ kind, x, y, w, h, fill, rx, ry })
  const [w, l] = [mm(stock.width), mm(stock.length)]
  const rounded = () => {
    if (stock.shape === 'circle' || stock.shape === 'ellipse') return [w / 2, l / 2] as const
    const r = stock.shape === 'rounded' ? mm(stock.cornerRadius) : 0
    return [r, r] as const
  }
  const piece = (x: number, y: number) => {
    add('piece', x, y, w, l, face, ...rounded())
    const { inlay } = stock
    if (!inlay) return
    add('inlay', x + mm(inlay.x), y + mm(inlay.y), mm(inlay.width), mm(inlay.height), 'none', 1)
    const chip = 1.6
    add(
      'chip',
      x + mm(inlay.chipX) - chip / 2,
      y + mm(inlay.chipY) - chip / 2,
      chip,
      chip,
      drawing.antenna,
      0.3,
    )
  }

  if (stock.kind === 'sheet' && stock.sheet) {
    const s = stock.sheet
    add('page', 0, 0, mm(s.width), mm(s.height), drawing.page)
    for (let row = 0; row < s.rows; row++)
      for (let column = 0; column < s.columns; column++)
        piece(mm(s.left) + column * mm(s.pitchX), mm(s.top) + row * mm(s.pitchY))
    return { shapes, width: mm(s.width) }
  }
  if (stock.kind === 'plate') {
    piece(0, 0)
    for (const hole of stock.plate?.holes ?? []) {
      const d = mm(hole.diameter)
      add('hole', mm(hole.x) - d / 2, mm(hole.y) - d / 2, d, d, drawing.page, d / 2)
    }
    return { shapes, width: w }
  }
  const lanes = Math.max(stock.lanes ?? 1, 1)
  const edge = stock.kind === 'sleeve' ? 6 : mm(stock.edgeLeft)
  const width =
    edge + lanes * w + (lanes - 1) * mm(stock.laneGap) + (stock.kind === 'sleeve' ? 6 : mm(stock.edgeRight))
  add('web', 0, 0, width, tall, stock.kind === 'tape' ? face : drawing.liner)
  const pitch = Math.max(l + mm(stock.gap), 1)
  const first = stock.gap ? 3 : 0
  for (let y = first; y < tall; y += pitch) {
    for (let lane = 0; lane < lanes; lane++) {
      const x = edge + lane * (w + mm(stock.laneGap))
      if (stock.kind === 'tape') add('mark', 0, y + l, width, 0.4, drawing.cut)
      else piece(x, y)
      if (stock.kind === 'wrap') add('clear', x, y + l, w, mm(stock.wrap?.tail), drawing.face)
      if (stock.kind === 'flag') {
        const round = mm(stock.flag?.round)
        add('round', x, y + (l - round) / 2, w, round, drawing.round)
      }
    }
    if (stock.tracking === 'mark')
      add('mark', 0, y, Math.min(8, width), mm(stock.mark?.height), drawing.black)
    if (stock.tracking === 'notch') add('hole', width / 2 - 3, y + 2, 6, 3, drawing.liner, 1.5)
  }
  return { shapes, width }
}

/** How much of a stock is worth drawing by itself: some pieces of it. */
export function drawnHeight(stock: Stock): number {
  if (stock.kind === 'sheet') return mm(stock.sheet?.height)
  if (stock.kind === 'plate') return mm(stock.length)
  return Math.max(2 * mm(stock.length + stock.gap), mm(stock.length) + 10)
}
