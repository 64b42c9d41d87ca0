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

/** Fills pixels, one a dot, with the face and the dots of each layer over it. */
export function fillPixels(
  pixels: Uint32Array,
  { planes, face, layers }: Dots,
  width: number,
  height: number,
) {
  pixels.fill(pixel(face))
  const stride = (width + 7) >> 3
  layers.forEach((colour, layer) => {
    const ink = pixel(colour)
    const first = layer * stride * height
    for (let y = 0; y < height; y++) {
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

export function paintDots(canvas: HTMLCanvasElement, dots: Dots, width: number, height: number) {
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
  const context = canvas.getContext('2d', { alpha: false })
  if (!context) return
  const image = context.createImageData(width, height)
  fillPixels(new Uint32Array(image.data.buffer), dots, width, height)
  context.putImageData(image, 0, 0)
}
