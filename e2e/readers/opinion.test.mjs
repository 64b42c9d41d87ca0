import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { before, test } from 'node:test'
import bwip from 'bwip-js'
import { encode, randomFrom } from './symbols.mjs'

// Another encoder's opinion: codes that no reader at hand knows are held against it module by module, and
// so is which GS1 values are right, by its copy of GS1's syntax dictionary.

const count = Number(process.env.COUNT ?? 30)
const seed = Number(process.env.SEED ?? Date.now() % 1e6)
const random = randomFrom(seed)
const of = (set, n) => Array.from({ length: n }, () => random.from([...set])).join('')
const digits = '0123456789'

before(() => console.log(`second opinion: SEED=${seed} COUNT=${count}`))

function rowsOf(bcid, text, options = {}) {
  const [made] = bwip.raw({ bcid, text, ...options })
  if (made.sbs)
    return [
      made.sbs
        .map((w, i) => '#.'[i % 2].repeat(w))
        .join('')
        .replace(/\.+$/, ''),
    ]
  const rows = []
  for (let y = 0; y < made.pixy; y++) {
    const row = made.pixs.slice(y * made.pixx, (y + 1) * made.pixx)
    rows.push(row.map((dark) => (dark ? '#' : '.')).join(''))
  }
  return rows
}

function same(asked) {
  const made = encode(asked.map(({ symbology, data, options }) => ({ symbology, data, options })))
  for (const [i, symbol] of made.entries()) {
    const { symbology, data, options, bcid, text, theirs } = asked[i]
    const about = `SEED=${seed} ${symbology} ${data} ${JSON.stringify(options ?? {})}`
    assert.equal(symbol.error, undefined, about)
    assert.deepEqual(symbol.rows, rowsOf(bcid, text ?? data, theirs), about)
  }
}

test('codes without a reader are what the other encoder makes of them', () => {
  const asked = []
  for (let i = 0; i < count; i++) {
    asked.push({ symbology: 'code11', data: of(digits + '-', 1 + random.below(12)), bcid: 'code11' })
    asked.push({
      symbology: 'msi',
      data: of(digits, 1 + random.below(12)),
      bcid: 'msi',
      options: { Ratio: 2 },
    })
    asked.push({ symbology: 'pharmacode', data: String(3 + random.below(131_068)), bcid: 'pharmacode' })
  }
  same(asked)
})

test('add-ons of all retail codes', () => {
  const asked = []
  for (let i = 0; i < count; i++) {
    const add = ` ${of(digits, random.from([2, 5]))}`
    const whole = (n) => {
      const body = of(digits, n)
      const sum = [...body].reverse().reduce((all, d, j) => all + Number(d) * (j % 2 ? 1 : 3), 0)
      return body + ((10 - (sum % 10)) % 10) + add
    }
    const theirs = { addongap: 9 } // of 7 to 12, or 9 to 12 for UPC-A
    asked.push({ symbology: 'ean13', data: whole(12), bcid: 'ean13', theirs })
    asked.push({ symbology: 'ean8', data: whole(7), bcid: 'ean8', theirs: { ...theirs, permitaddon: true } })
    asked.push({ symbology: 'upca', data: whole(11), bcid: 'upca', theirs })
    asked.push({ symbology: 'upce', data: `01234565${add}`, bcid: 'upce', theirs })
  }
  same(asked)
})

const heights = { 7: [43, 59, 77, 99, 139], 9: [43, 59, 77, 99, 139], 11: [27, 43, 59, 77, 99, 139] }
for (const tall of [13, 15, 17]) heights[tall] = tall === 13 ? heights[11] : heights[9]

test('rMQR Code in all versions and levels, Micro QR Code with half words', () => {
  const asked = []
  for (const [tall, widths] of Object.entries(heights)) {
    for (const wide of widths) {
      for (const Level of ['M', 'H']) {
        const Version = `R${tall}x${wide}`
        const theirs = { version: Version, eclevel: Level, fixedeclevel: true }
        const data = of(digits, 1 + random.below(4))
        asked.push({
          symbology: 'rmqr',
          data,
          options: { Version, Level },
          bcid: 'rectangularmicroqrcode',
          theirs,
        })
      }
    }
  }
  for (let i = 0; i < count; i++) {
    asked.push({
      symbology: 'micro-qr',
      data: of(digits, 1 + random.below(5)),
      options: { Version: 'M1' },
      bcid: 'microqrcode',
      theirs: { version: 'M1' },
    })
    asked.push({
      symbology: 'micro-qr',
      data: of(digits, 1 + random.below(23)),
      options: { Version: 'M3', Level: 'L' },
      bcid: 'microqrcode',
      theirs: { version: 'M3', eclevel: 'L', fixedeclevel: true },
    })
  }
  same(asked)
})

test('Aztec Code of every size, to the last dot of its grid', () => {
  const asked = []
  for (let layers = 1; layers <= 32; layers++) {
    const bits = (112 + 16 * layers) * layers
    const data = of([...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'], Math.floor((bits * 0.93) / 5) - 6) // five bits a letter: what fills it
    const options = { Level: '5', Form: 'full' }
    asked.push({
      symbology: 'aztec',
      data,
      options,
      bcid: 'azteccode',
      theirs: { format: 'full', layers, eclevel: 5 },
    })
  }
  same(asked)
})

test('GS1 DataBar stacked, both forms', () => {
  const asked = []
  for (let i = 0; i < count; i++) {
    const body = of(digits, 13)
    const sum = [...body].reverse().reduce((all, d, j) => all + Number(d) * (j % 2 ? 1 : 3), 0)
    const data = body + ((10 - (sum % 10)) % 10)
    asked.push({ symbology: 'databar-stacked-low', data, bcid: 'databarstacked', text: `(01)${data}` })
  }
  // The other encoder tells rows and their heights apart. The row between the halves may begin in two ways where
  // they differ at its beginning; readers do not look at it.
  const halves = (rows) => [rows[0], rows.at(-1)]
  const made = encode(asked.map(({ symbology, data }) => ({ symbology, data })))
  for (const [i, symbol] of made.entries()) {
    assert.equal(symbol.rows.length, 13)
    const theirs = rowsOf(asked[i].bcid, asked[i].text).filter((row) => row !== '')
    assert.deepEqual(halves(symbol.rows), halves(theirs), asked[i].data)
  }
})

const set82 = '!"%&\'*+,-./0123456789:;<=>?ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz'
const sets = { N: digits, X: set82, Y: '#-/' + digits + 'ABCDEFGHIJ', Z: digits + 'ABCabc-_' }
const words = [
  '1',
  '0',
  '00',
  '01',
  '2359',
  '2400',
  '261231',
  '270229',
  '280229',
  '990230',
  '008',
  '040',
  '978',
  '999',
  'DE',
  'XX',
  'GB33BUKB20201555555555',
  '-',
  '%2F',
  '%',
  '1/2',
  '3/2',
  '0102',
  '0302',
  '20261231',
  '19000229',
  'BE',
  'PAL',
  '1800000000',
  '1800000001',
  '3600000000',
]

/** A value that an identifier's components may have, and nearly as often may not. */
function value(components) {
  let made = ''
  for (const { set, least, most, optional, checked } of components) {
    if (optional && random.below(2)) break
    const n = random.below(12) === 0 ? random.below(most + 3) : least + random.below(most - least + 1)
    let part = random.below(4) === 0 ? random.from(words) : of(sets[set], n)
    if (random.below(25) === 0) part = part.slice(1) + random.from([...' a~#'])
    if (checked && random.below(5) > 0 && /^[0-9]{2,}$/.test(part)) {
      const body = part.slice(0, -1)
      const sum = [...body].reverse().reduce((all, d, j) => all + Number(d) * (j % 2 ? 1 : 3), 0)
      part = body + ((10 - (sum % 10)) % 10)
    }
    made += part
  }
  return made
}

test('GS1 values are judged as the dictionary says', () => {
  const lines = readFileSync(join(import.meta.dirname, '../../core/gs1/syntax.txt'), 'utf8')
    .trim()
    .split('\n')
  const asked = []
  for (const line of lines) {
    const [ids, ...rest] = line.split(' # ')[0].split(' ')
    const components = rest
      .filter((word) => /^\[?[NXYZ]/.test(word))
      .map((word) => {
        const [, set, least, most] = /^\[?([NXYZ])(\d*)(?:\.\.(\d+))?/.exec(word)
        const upper = Number(most ?? least)
        return {
          set,
          least: most ? Number(least || 1) : upper,
          most: upper,
          optional: word.startsWith('['),
          checked: /csum\b/.test(word),
        }
      })
    const id = ids.split('-')[0]
    for (let i = 0; i < Math.ceil(count / 3); i++) {
      const data = value(components)
      if (!/[()\\]/.test(data) && data !== '') asked.push({ id, data })
    }
  }
  const made = encode(asked.map(({ id, data }) => ({ symbology: 'gs1-datamatrix', data: `(${id})${data}` })))
  let taken = 0
  for (const [i, symbol] of made.entries()) {
    const { id, data } = asked[i]
    let theirs = ''
    try {
      bwip.raw({ bcid: 'gs1datamatrix', text: `(${id})${data}`, dontlint: false })
    } catch (problem) {
      theirs = String(problem)
      if (/missingAIs|MissingAIs|requires|datamatrix/i.test(theirs)) theirs = ''
    }
    taken += theirs === '' ? 1 : 0
    assert.equal(
      symbol.error === undefined,
      theirs === '',
      `SEED=${seed} (${id})${data}: ours ${symbol.error}, theirs ${theirs}`,
    )
  }
  console.log(`${made.length} values judged, ${taken} of them right`)
})

test('codes of single trades, with the check characters that they have', () => {
  const asked = []
  const add = (symbology, bcid, data, more = {}) => asked.push({ symbology, bcid, data, ...more })
  for (let i = 0; i < count; i++) {
    for (const bcid of ['industrial2of5', 'iata2of5', 'matrix2of5'])
      add(bcid, bcid, of(digits, 1 + random.below(12)))
    add('matrix2of5', 'matrix2of5', of(digits, 2 + random.below(9)), {
      options: { Check: true },
      theirs: { includecheck: true },
    })
    add('identcode', 'identcode', of(digits, 11), { options: { Ratio: 2 } })
    add('leitcode', 'leitcode', of(digits, 13), { options: { Ratio: 2 } })
    add('code32', 'code32', `0${of(digits, 7)}`)
    add('telepen', 'telepen', of(ascii, 1 + random.below(12)))
    add('telepen-numeric', 'telepennumeric', of(digits, 2 * (1 + random.below(8))))
    const supplies = `A${of(capitals, 3)}${of(capitals, 1 + random.below(12))}${of(digits, 1)}`
    add('hibc-code39', 'hibccode39', supplies)
    for (const [CheckRule, checktype] of [
      ['', 'mod10'],
      ['mod10-mod10', 'mod1010'],
      ['mod11', 'mod11'],
      ['mod11-mod10', 'mod1110'],
    ])
      add('msi', 'msi', of(digits, 1 + random.below(9)), {
        options: { Check: true, CheckRule, Ratio: 2 },
        theirs: { includecheck: true, checktype },
      })
  }
  for (const data of ['1234567', '2758089', '0000001']) add('pzn', 'pzn', data, { theirs: { pzn8: true } })
  add('pzn', 'pzn', '123456', { options: { Version: '7' } })
  // Where a rule gives ten, no digit says so: the other encoder writes two, which no reader takes.
  const made = encode(asked.map(({ symbology, data, options }) => ({ symbology, data, options })))
  const tens = made.map((symbol) => /would be 10/.test(symbol.error ?? ''))
  assert.ok(tens.filter(Boolean).length < count)
  same(asked.filter((_, i) => !tens[i]))
})

const capitals = `${digits}ABCDEFGHIJKLMNOPQRSTUVWXYZ`
const ascii = Array.from({ length: 95 }, (_, i) => String.fromCodePoint(32 + i)).join('')
