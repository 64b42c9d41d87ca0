import assert from 'node:assert/strict'
import { before, test } from 'node:test'
import { encode, prepareReader, randomFrom, read } from './symbols.mjs'

// Random data of every script and length in every symbology that the reader knows. COUNT says how many
// codes of each (script/prove takes many), SEED which.

const count = Number(process.env.COUNT ?? 30)
const seed = Number(process.env.SEED ?? Date.now() % 1e6)
const random = randomFrom(seed)

before(() => {
  prepareReader()
  console.log(`random codes: SEED=${seed} COUNT=${count}`)
})

const range = (from, to) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i))
const digits = range(0x30, 0x39)
const capitals = [...digits, ...range(0x41, 0x5a), ...' $%*+-./:']
const ascii = range(0x20, 0x7e)
const scripts = {
  digits,
  capitals,
  ascii,
  control: [...range(0x01, 0x1f), ...range(0x41, 0x45)],
  latin: [...range(0xa1, 0xff), ...range(0x61, 0x7a)],
  greek: range(0x3b1, 0x3c9),
  cyrillic: range(0x410, 0x44f),
  hebrew: range(0x5d0, 0x5ea),
  arabic: range(0x621, 0x64a),
  thai: range(0xe01, 0xe30),
  kana: [...range(0x3041, 0x3093), ...range(0x30a1, 0x30f6)],
  kanji: [
    ...'昆布海苔塩水日本語漢字一二三丁七万丈上下不与丑且世丘丙両並中串丸丹主丼久乏乗乙九乞也乱乳乾亀了予争事',
  ],
  signs: [...'±×÷§¶°´¨…‥←→↑↓≠≦≧∞♂♀℃○●◎◇'],
  ambiguous: [...'—―‖∥～〜−－¢£¬￠￡￢＼\\~'],
  hangul: range(0xac00, 0xac40),
  emoji: range(0x1f400, 0x1f43f),
}

/** A text of runs in one script or several. */
function text(names, most) {
  const runs = 1 + random.below(4)
  let made = ''
  for (let i = 0; i < runs; i++) {
    const script = scripts[random.from(names)]
    const n = 1 + random.below(Math.max(1, Math.ceil(most / runs)))
    for (let j = 0; j < n; j++) made += random.from(script)
  }
  return made
}

const every = Object.keys(scripts)
const of = (set, n) => Array.from({ length: n }, () => random.from(set)).join('')

/** The GS1 check digit, worked out here as the standard has it. */
function checked(body) {
  const sum = [...body].reverse().reduce((all, d, i) => all + Number(d) * (i % 2 ? 1 : 3), 0)
  return body + ((10 - (sum % 10)) % 10)
}

const gs1Letters = [...'!"%&\'*+,-./0123456789:;<=>?ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz']
function elements() {
  let made = `(01)${checked(of(digits, 13))}`
  if (random.below(2)) made += `(17)2${random.below(10)}0${1 + random.below(9)}1${random.below(9)}`
  if (random.below(2)) made += `(310${random.below(6)})${of(digits, 6)}`
  made += `(10)${of(random.below(2) ? digits : gs1Letters, 1 + random.below(12))}`
  if (random.below(2))
    made += `(21)${of(random.below(2) ? gs1Letters : capitals.slice(0, 36), 1 + random.below(12))}`
  return made
}

const levels = (...list) => ({ Level: random.from(['', ...list]) })
const kinds = {
  qr: [() => text(every, random.from([6, 40, 300])), () => levels('L', 'M', 'Q', 'H')],
  'micro-qr': [() => text(['digits', 'capitals', 'ascii', 'kanji', 'kana', 'latin'], 7), () => ({})],
  rmqr: [() => text(every, random.from([6, 30])), () => levels('M', 'H')],
  datamatrix: [
    () => text(every, random.from([6, 40, 200])),
    () => ({ Shape: random.from(['', 'square', 'rectangle']) }),
  ],
  aztec: [
    () => text(every, random.from([6, 40, 200])),
    () => ({ ...levels('10', '50'), Form: random.from(['', 'compact', 'full']) }),
  ],
  pdf417: [() => text(every, random.from([6, 40, 200])), () => levels('2', '5')],
  'micro-pdf417': [() => text(every, 20), () => ({})],
  code128: [() => text(['digits', 'capitals', 'ascii', 'control', 'latin'], 16), () => ({})],
  code39: [
    () =>
      of(
        capitals.filter((c) => !'*:'.includes(c)),
        1 + random.below(20),
      ),
    () => ({ Ratio: 2.5 }),
  ],
  'code39-full': [() => text(['ascii', 'digits'], 12), () => ({})],
  code93: [() => text(['ascii', 'capitals', 'control'], 16), () => ({})],
  codabar: [() => of([...digits, ...'-$:/.+'], 4 + random.below(16)), () => ({})],
  interleaved2of5: [() => of(digits, 6 + 2 * random.below(10)), () => ({})],
  itf14: [() => checked(of(digits, 13)), () => ({})],
  ean13: [() => checked(of(digits, 12)), () => ({})],
  ean8: [() => checked(of(digits, 7)), () => ({})],
  upca: [() => checked(of(digits, 11)), () => ({})],
  databar: [() => checked(of(digits, 13)), () => ({})],
  'databar-stacked': [() => checked(of(digits, 13)), () => ({})],
  'databar-stacked-low': [() => checked(of(digits, 13)), () => ({})],
  'databar-limited': [() => checked(of(['0', '1'], 1) + of(digits, 12)), () => ({})],
  'databar-expanded': [elements, () => ({})],
  'databar-expanded-stacked': [elements, () => ({ Columns: random.below(5) })],
  'gs1-128': [elements, () => ({})],
  'gs1-qr': [elements, () => levels('L', 'H')],
  'gs1-datamatrix': [elements, () => ({})],
  'gs1-aztec': [elements, () => ({})],
}

/** Which formats a symbology may be taken for: some codes can be read as others. */
const formats = {
  codabar: ['Codabar'],
  interleaved2of5: ['ITF'],
  itf14: ['ITF'],
  'micro-pdf417': ['MicroPDF417'],
  // Asked for any format, the reader now and then sees a linear code in the rows of a small matrix.
  'micro-qr': ['MicroQRCode'],
  rmqr: ['rMQRCode'],
  code39: ['Code39Std'],
  'code39-full': ['Code39Ext', 'Code39Std'],
}

/** Those that take bytes for ISO/IEC 8859-1 where nothing else is told, and what they can say so. */
const taken = ['datamatrix', 'aztec', 'pdf417', 'micro-pdf417', 'micro-qr']
const latinOnly = /^[\0-\x7f\xa0-\xff]*$/

for (const [symbology, [make, choose]] of Object.entries(kinds)) {
  test(`${symbology} says what was meant, whatever it is`, async () => {
    const requests = Array.from({ length: count }, () => ({ symbology, data: make(), options: choose() }))
    let held = 0
    for (const [i, symbol] of encode(requests).entries()) {
      const { data, options } = requests[i]
      const about = `SEED=${seed} ${symbology} ${JSON.stringify(data)} ${JSON.stringify(options)}`
      if (symbol.error) {
        assert.match(symbol.error, /too much for one|too many for|takes the characters of/, about)
        continue
      }
      held++
      const result = await read(symbol, { formats: formats[symbology] ?? [], textMode: 'Plain' })
      assert.ok(result, `${about}: nothing is read`)
      if (symbology.startsWith('gs1-') || symbology.startsWith('databar'))
        assert.deepEqual(Buffer.from(result.bytes).toString(), symbol.reads.toString(), about)
      else if (symbology === 'code39-full')
        // Read as plain Code 39 where that is what it looks like too.
        assert.ok([data, symbol.reads.toString()].includes(result.text), about)
      else if (symbology === 'upca') assert.equal(result.text.slice(-12), data, about)
      else if (latinOnly.test(data) && !/^[\0-\x7f]*$/.test(data) && taken.includes(symbology) && symbol.guessed)
        // The standards take bytes for ISO/IEC 8859-1; where a code has no room to say so, some readers guess, so the bytes are compared.
        assert.deepEqual(Buffer.from(result.bytes), Buffer.from(data, 'latin1'), about)
      else if (symbology === 'codabar') assert.equal(result.text.slice(1, -1), data, about)
      else assert.equal(result.text, data, about)
    }
    assert.ok(held > count / 4, `only ${held} of ${count} were taken`)
  })
}

test('bytes are bytes, in every code that holds them', async () => {
  const bytes = () => of(range(0, 255), 1 + random.below(40))
  for (const symbology of ['qr', 'rmqr', 'datamatrix', 'aztec', 'pdf417', 'micro-pdf417', 'code128']) {
    const requests = Array.from({ length: count }, () => ({
      symbology,
      data: bytes(),
      options: { Bytes: true },
    }))
    for (const [i, symbol] of encode(requests).entries()) {
      const meant = Buffer.from(requests[i].data, 'latin1')
      const about = `SEED=${seed} ${symbology} ${meant.toString('hex')}`
      if (symbol.error) {
        assert.match(symbol.error, /too much for one|too many for/, about)
        continue
      }
      const result = await read(symbol, { formats: formats[symbology] ?? [] })
      assert.ok(result, `${about}: nothing is read`)
      assert.deepEqual(Buffer.from(result.bytes), meant, about)
    }
  }
})

test('versions, sizes and forms that are asked for are made', async () => {
  const asked = []
  for (let version = 1; version <= 40; version++)
    asked.push(['qr', { Version: String(version) }, 17 + 4 * version])
  for (let version = 1; version <= 4; version++)
    asked.push(['micro-qr', { Version: `M${version}` }, 9 + 2 * version])
  for (const size of ['10x10', '24x24', '144x144', '12x36', '8x18', '16x48'])
    asked.push(['datamatrix', { Size: size }, Math.max(...size.split('x').map(Number))])
  for (const form of ['compact', 'full']) asked.push(['aztec', { Form: form }, form === 'full' ? 19 : 15])
  const requests = asked.map(([symbology, options]) => ({ symbology, data: '417', options }))
  for (const [i, symbol] of encode(requests).entries()) {
    const [symbology, options, width] = asked[i]
    assert.equal(symbol.error, undefined, JSON.stringify(asked[i]))
    assert.equal(symbol.rows[0].length, width, `${symbology} ${JSON.stringify(options)}`)
    assert.equal((await read(symbol))?.text, '417', `${symbology} ${JSON.stringify(options)}`)
  }
  const runes = Array.from({ length: 256 }, (_, n) => ({
    symbology: 'aztec',
    data: String(n),
    options: { Form: 'rune' },
  }))
  for (const [n, symbol] of encode(runes).entries()) {
    assert.equal(symbol.rows.length, 11)
    assert.equal((await read(symbol))?.text, symbol.reads.toString(), `rune ${n}`)
  }
})
