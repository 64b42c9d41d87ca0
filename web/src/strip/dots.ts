/** The planes of a label as the core gives them: rows of bits, the leftmost dot the highest, one plane a layer. */
export interface Dots {
  planes: Uint8Array
  face: string
  layers: readonly string[]
}

/** #RRGGBB as a canvas has it in memory: little-endian, opaque. */
function pixel(colour: string): number {
  const n = Number.parseInt(colour.slice(1), 16)
  return (0xff000000 | ((n & 0xff) << 16) | (n & 0xff00) | ((n >> 16) & 0xff)) >>> 0
}

/** Fills some rows of pixels, one a dot, with the face and the dots of each layer over it. */
export function fillPixels(
  pixels: Uint32Array,
  { planes, face, layers }: Dots,
  width: number,
  height: number,
  from = 0,
  to = height,
) {
  pixels.fill(pixel(face), from * width, to * width)
  const stride = (width + 7) >> 3
  layers.forEach((colour, layer) => {
    const ink = pixel(colour)
    const first = layer * stride * height
    for (let y = from; y < to; y++) {
      const row = first + y * stride
      const line = y * width
      for (let i = 0; i < stride; i++) {
        const bits = planes[row + i] ?? 0
        if (bits === 0) continue
        const at = line + i * 8
        for (let bit = 0; bit < 8; bit++) if (bits & (0x80 >> bit)) pixels[at + bit] = ink
      }
    }
  })
}

/** What a canvas shows, so that only what changed is painted anew. */
export interface Painted {
  dots: Dots
  image: ImageData
}

/** Paints dots, over what the canvas shows already; returns what it shows then. */
export function paintDots(
  canvas: HTMLCanvasElement,
  dots: Dots,
  width: number,
  height: number,
  before: Painted | undefined,
): Painted | undefined {
  const context = canvas.getContext('2d', { alpha: false })
  if (!context) return undefined
  let rows = { from: 0, to: height }
  let image = before?.image
  if (before && image?.width === width && image.height === height && canvas.width === width) {
    rows = changedRows(before.dots, dots, (width + 7) >> 3, height)
  } else {
    canvas.width = width
    canvas.height = height
    image = context.createImageData(width, height)
  }
  if (rows.to > rows.from) {
    fillPixels(new Uint32Array(image.data.buffer), dots, width, height, rows.from, rows.to)
    context.putImageData(image, 0, 0, 0, rows.from, width, rows.to - rows.from)
  }
  return { dots, image }
}

/** The rows between the first and the last that differ in any layer. */
export function changedRows(a: Dots, b: Dots, stride: number, height: number) {
  if (a.face !== b.face || a.layers.join() !== b.layers.join()) return { from: 0, to: height }
  const rows = { from: height, to: 0 }
  const plane = stride * height
  for (let start = 0; start < b.planes.length; start += plane) {
    let first = 0
    while (first < plane && a.planes[start + first] === b.planes[start + first]) first++
    let last = plane - 1
    while (last > first && a.planes[start + last] === b.planes[start + last]) last--
    if (first === plane) continue
    rows.from = Math.min(rows.from, Math.floor(first / stride))
    rows.to = Math.max(rows.to, Math.floor(last / stride) + 1)
  }
  return rows
}
