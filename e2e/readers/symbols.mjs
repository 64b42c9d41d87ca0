import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader'

// Codes in bulk: written by our encoders in one go, drawn here, and read by a reader that shares nothing
// with them.

const root = join(import.meta.dirname, '..', '..')

export function prepareReader() {
  const file = 'node_modules/zxing-wasm/dist/reader/zxing_reader.wasm'
  const binary = readFileSync(join(root, 'e2e', file))
  prepareZXingModule({
    overrides: {
      wasmBinary: binary.buffer.slice(binary.byteOffset, binary.byteOffset + binary.length),
    },
  })
}

/** Writes all requests, each { symbology, data: string or bytes, options }. */
export function encode(requests) {
  const input = requests
    .map(({ symbology, data, options = {} }) =>
      JSON.stringify({ symbology, data: Buffer.from(data).toString('base64'), options }),
    )
    .join('\n')
  const output = execFileSync('go', ['run', './e2e/readers/symbols'], {
    cwd: root,
    input,
    maxBuffer: 2 ** 31,
  })
  return output
    .toString()
    .trim()
    .split('\n')
    .map((line) => {
      const answer = JSON.parse(line)
      if (answer.reads) answer.reads = Buffer.from(answer.reads, 'base64')
      return answer
    })
}

/** The picture of a symbol, so many dots a module, with light around it. */
function draw(symbol, module) {
  const margin = 12 * module
  const tall = symbol.tall * module
  const [width, height] = [
    symbol.rows[0].length * module + 2 * margin,
    symbol.rows.length * tall + 2 * margin,
  ]
  const pixels = new Uint32Array(width * height).fill(0xffffffff)
  symbol.rows.forEach((row, y) => {
    for (let x = 0; x < row.length; x++) {
      if (row[x] !== '#') continue
      for (let dy = 0; dy < tall; dy++) {
        const at = (margin + y * tall + dy) * width + margin + x * module
        pixels.fill(0xff000000, at, at + module)
      }
    }
  })
  return { data: new Uint8ClampedArray(pixels.buffer), width, height, colorSpace: 'srgb' }
}

/** What is read: { format, text, bytes }; undefined: nothing. */
export async function read(symbol, options = {}) {
  for (const module of [3, 4]) {
    const [result] = await readBarcodes(draw(symbol, module), { tryHarder: true, ...options })
    if (result && !result.error) return result
  }
  return undefined
}

/** Random numbers that a seed gives again. */
export function randomFrom(seed) {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
  return {
    below: (n) => Math.floor(next() * n),
    from: (list) => list[Math.floor(next() * list.length)],
  }
}
