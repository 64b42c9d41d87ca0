import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inflateSync } from 'node:zlib'
import assert from 'node:assert/strict'
import { before, test } from 'node:test'
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader'

// Codes that Debian's readers do not know, or know only in part, are read by a newer one, in all the
// sizes that they have. This is plain JavaScript, since Node runs it as it is.

const root = join(import.meta.dirname, '..', '..')
const wasm = join(import.meta.dirname, '..', 'node_modules/zxing-wasm/dist/reader/zxing_reader.wasm')
const picture = join(mkdtempSync(join(tmpdir(), 'oddspool-')), 'code.png')

before(() => {
  const binary = readFileSync(wasm)
  prepareZXingModule({
    overrides: {
      wasmBinary: binary.buffer.slice(binary.byteOffset, binary.byteOffset + binary.length),
    },
  })
})

/** The dots of a one-bit picture of the command line, with a margin: a reader wants some light around. */
function withMargin(png) {
  const margin = 20
  const [wide, tall] = [png.readUInt32BE(16), png.readUInt32BE(20)]
  const data = []
  for (let at = 8; at < png.length; at += 12 + png.readUInt32BE(at)) {
    if (png.toString('latin1', at + 4, at + 8) === 'IDAT')
      data.push(png.subarray(at + 8, at + 8 + png.readUInt32BE(at)))
  }
  const rows = inflateSync(Buffer.concat(data))
  const stride = 1 + Math.ceil(wide / 8)
  const [width, height] = [wide + 2 * margin, tall + 2 * margin]
  const pixels = new Uint32Array(width * height).fill(0xffffffff)
  const dark = png.toString('latin1', 0, 200).includes('PLTE') ? 1 : 0
  for (let y = 0; y < tall; y++) {
    assert.equal(rows[y * stride], 0, 'rows are not filtered')
    for (let x = 0; x < wide; x++) {
      const bit = ((rows[y * stride + 1 + (x >> 3)] ?? 0) >> (7 - (x & 7))) & 1
      if (bit === dark) pixels[(y + margin) * width + x + margin] = 0xff000000
    }
  }
  return { data: new Uint8ClampedArray(pixels.buffer), width, height, colorSpace: 'srgb' }
}

/** Makes a code with the command line and returns its size in modules. */
function make(asked) {
  const { symbology, data, options = [], dots = 8, turn = 0 } = asked
  const made = execFileSync(
    join(root, 'bin/oddspool'),
    [
      ...[
        'code',
        '-symbology',
        symbology,
        '-data',
        data,
        '-module',
        `${4 / dots}mm`,
        '-height',
        '27mm',
        '-out',
        picture,
      ],
      ...['-dots-per-mm', dots, '-turn', turn, ...options.flatMap((o) => ['-option', o])],
    ],
    { stdio: 'pipe' },
  )
  const facts = JSON.parse(made.toString())
  return `${facts.widthDots / facts.moduleDots} × ${facts.heightDots / facts.moduleDots}`
}

/** Makes a code and returns what is read. */
async function read(asked) {
  make(asked)
  return readPicture(asked.format)
}

async function readPicture(format) {
  const [result] = await readBarcodes(withMargin(readFileSync(picture)), {
    formats: format ? [format] : [],
    tryHarder: true,
  })
  return { text: result ? Buffer.from(result.bytes).toString() : '', shown: result?.text }
}

const gtin = '(01)09521234543213'
const weighed = '(01)99521234543216(3103)001750'
const each = [
  ['databar', gtin, gtin],
  ['databar-stacked', gtin, gtin],
  ['databar-limited', gtin, gtin],
  ['databar-expanded', weighed, weighed],
  ['databar-expanded-stacked', `${weighed}(17)270331(10)26K104`, `${weighed}(17)270331(10)26K104`],
  ['gs1-aztec', `${gtin}(10)26K104(21)7`, `${gtin}(10)26K104(21)7`],
  ['gs1-128', `${gtin}(10)26K104`, `${gtin}(10)26K104`],
  ['gs1-datamatrix', `${gtin}(10)26K104(21)7`, `${gtin}(10)26K104(21)7`],
  ['gs1-qr', `${gtin}(10)26K104(21)7`, `${gtin}(10)26K104(21)7`],
  ['gs1-link-qr', `${gtin}(10)26K104`, 'HTTPS://ID.GS1.ORG/01/09521234543213/10/26K104'],
  ['gs1-link-datamatrix', `${gtin}(10)26K104`, 'HTTPS://ID.GS1.ORG/01/09521234543213/10/26K104'],
  ['aztec', 'Tång, 海苔 & kelp', 'Tång, 海苔 & kelp'],
  ['pdf417', 'Tång, 海苔 & kelp', 'Tång, 海苔 & kelp'],
  ['micro-pdf417', 'Tång 104', 'Tång 104'],
]

for (const [symbology, data, want] of each) {
  test(`${symbology} is read at every resolution, in every turn`, async () => {
    for (const dots of [8, 12, 24]) {
      for (const turn of [0, 90, 180, 270]) {
        const { shown } = await read({ symbology, data, dots, turn })
        assert.equal(shown, want, `${dots} dots/mm, turned ${turn}`)
      }
    }
  })
}

const mixed = 'Kelp 104; dulse & 0123456789 berth=7, '
const sized = [
  [
    'micro-pdf417',
    34,
    (n) => mixed.repeat(9).slice(0, n * 2),
    [1, 2, 3, 4].map((c) => [`columns=${c}`]),
    140,
  ],
  ['aztec', 33, (n) => mixed.repeat(99).slice(0, n * n), [['level=23']], 56],
  [
    'pdf417',
    25,
    (n) => mixed.repeat(40).slice(0, n * n + 1),
    [['columns=3'], ['columns=9', 'level=4'], ['level=0']],
    32,
  ],
]
for (const [symbology, sizes, data, choices, most] of sized) {
  test(`${symbology} is read in its sizes, filled with a mixture`, async () => {
    const seen = new Set()
    for (const options of choices) {
      for (let n = 1; n < most; n++) {
        const asked = {
          symbology,
          data: data(n),
          options,
          format: symbology === 'micro-pdf417' ? 'MicroPDF417' : undefined,
        }
        let size
        try {
          size = make(asked)
        } catch (problem) {
          assert.match(String(problem.stderr), /too much for one/)
          break
        }
        if (!seen.has(size)) assert.equal((await readPicture(asked.format)).text, asked.data, size)
        seen.add(size)
      }
    }
    assert.ok(seen.size >= sizes, `only ${seen.size} sizes`)
  })
}

test('GS1 DataBar Expanded packs each kind of item its own way', async () => {
  for (const data of [
    '(01)99521234543216(3103)001750',
    '(01)99521234543216(3202)001750',
    '(01)99521234543216(3203)001750',
    '(01)99521234543216(3101)001750(11)261125',
    '(01)99521234543216(3205)001750(17)270331',
    '(01)99521234543216(3922)1250',
    '(01)99521234543216(3932)9781250(10)K104',
    '(01)09521234543213(10)kelp+Dulse.7(21)0042',
    '(8004)952/CRATE-00417',
    '(00)095212345432123453',
  ]) {
    for (const [symbology, options] of [
      ['databar-expanded', []],
      ['databar-expanded-stacked', ['columns=1']],
      ['databar-expanded-stacked', ['columns=2']],
      ['databar-expanded-stacked', ['columns=3']],
    ]) {
      const { shown } = await read({ symbology, data, options })
      assert.equal(shown, data, `${symbology} ${options.join()}`)
    }
  }
})
