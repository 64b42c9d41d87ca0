import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { untrue } from '../contract'
import type { Design, Element, Stock } from '@/api/documents'
import { aligned, alike, around, cells, spread, spreadMiddles, touched } from '@/places/bench/arrange'
import { asText, deedBetween, fromText } from '@/places/bench/clipboard'
import { codeResized, cropped, duplicates, freePlace, fromMiddle, newElement, proportioned, resized } from '@/places/bench/elements'
import { type Ground, snapped, snappedHandle } from '@/places/bench/snap'
import { useGrid } from '@/places/records/useGrid'
import { drawnHeight, drawStock, type Drawn } from '@/places/stockroom/pieces'
import { amount, bareLength, count, duration, lengthText, moment, parseLength, plural, units } from '@/shared/format'
import { controls, meant, visible } from '@/shared/visible'
import { changedRows, fillPixels } from '@/strip/dots'

// Plain functions of the interface, without a browser.

test('control characters are shown by their names, and taken back', () => {
  expect(visible('KELP\u001d104\r\n')).toBe('KELP‹GS›104‹CR›‹LF›')
  expect(visible('\u007f\u0000')).toBe('‹DEL›‹NUL›')
  expect(visible('Tång 海苔')).toBe('Tång 海苔')
  for (let code = 0; code < 0x100; code++) {
    const text = `a${String.fromCharCode(code)}b`
    expect(meant(visible(text)), `character ${String(code)}`).toBe(text)
  }
  expect(meant('\\x1d\\x1E\\xff')).toBe('\u001d\u001e\u00ff')
  expect(meant('‹ABC› ‹gs› \\xzz')).toBe('‹ABC› ‹gs› \\xzz')
  for (const { char } of controls) expect(visible(char)).toMatch(/^‹[A-Z]{2,3}›$/)
})

const box = { x: 10_000, y: 20_000, width: 40_000, height: 12_000 }

test('a box is resized by each of its handles, and never away', () => {
  expect(resized(box, 'e', 5000, 9000)).toEqual({ ...box, width: 45_000 })
  expect(resized(box, 's', 5000, 9000)).toEqual({ ...box, height: 21_000 })
  expect(resized(box, 'nw', 5000, 2000)).toEqual({ x: 15_000, y: 22_000, width: 35_000, height: 10_000 })
  expect(resized(box, 'w', 90_000, 0)).toEqual({ ...box, x: 49_750, width: 250 })
  expect(resized(box, 'n', 0, 90_000)).toEqual({ ...box, y: 31_750, height: 250 })
  expect(resized(box, 'se', -90_000, -90_000)).toEqual({ ...box, width: 250, height: 250 })
})

test('a code is resized by whole dots a module', () => {
  const linear = { width: 38_500, height: 9000, moduleDots: 2, is2d: false }
  expect(codeResized(box, 0, linear, 'e', -1500, 0)).toEqual({ dots: 2, box: { ...box, width: 38_500 } })
  expect(codeResized(box, 0, linear, 'e', 12_000, 0)).toEqual({ dots: 3, box: { ...box, width: 57_750 } })
  expect(codeResized(box, 0, linear, 'e', -39_000, 0)).toEqual({ dots: 1, box: { ...box, width: 19_250 } })
  expect(codeResized(box, 0, linear, 'w', 20_000, 0), 'the right edge stays').toEqual({
    dots: 1,
    box: { ...box, x: 30_750, width: 19_250 },
  })
  expect(codeResized(box, 0, linear, 'se', 12_000, 3000)).toEqual({ dots: 3, box: { ...box, width: 57_750, height: 15_000 } })
  expect(codeResized(box, 0, linear, 's', 0, 3000), 'bars may be of any height').toBeUndefined()
  expect(codeResized(box, 90, linear, 'e', 3000, 0), 'across the bars of a turned code').toBeUndefined()
  expect(codeResized({ ...box, width: 12_000, height: 40_000 }, 90, linear, 's', 0, 18_000)).toEqual({
    dots: 3,
    box: { x: 10_000, y: 20_000, width: 12_000, height: 57_750 },
  })

  // A matrix grows both ways, and what is written beside it keeps its room.
  const matrix = { width: 4000, height: 4000, moduleDots: 2, is2d: true }
  expect(codeResized({ ...box, width: 4000, height: 7000 }, 0, matrix, 'e', 2100, 0)).toEqual({
    dots: 3,
    box: { x: 10_000, y: 20_000, width: 6000, height: 9000 },
  })
  expect(codeResized({ ...box, width: 4000, height: 7000 }, 0, matrix, 's', 0, 4000)?.dots).toBe(4)
  expect(codeResized({ ...box, width: 4000, height: 7000 }, 0, matrix, 'n', 0, -4000)?.box).toEqual({
    x: 10_000,
    y: 16_000,
    width: 8000,
    height: 11_000,
  })
  expect(codeResized(box, 0, { ...matrix, moduleDots: 0 }, 'e', 1, 1), 'a code that cannot be made').toBeUndefined()
})

const design = (...elements: Partial<Element>[]) => ({ elements }) as unknown as Design

test('new elements are held on the label and have ids of their own', () => {
  const label = { width: 76_000, height: 38_000 }
  const first = newElement(design(), label, 'code', [{ field: 'code' }])
  expect(first).toMatchObject({ id: 'code-1', kind: 'code', width: 55_000, height: 14_000, says: [{ field: 'code' }] })
  const second = newElement(design({ id: 'code-1' }), label, 'code', [], { x: 70_000, y: 36_000 })
  expect(second.id).toBe('code-2')
  expect(second.x + second.width).toBeLessThanOrEqual(label.width)
  expect(second.y + second.height).toBeLessThanOrEqual(label.height)
  const narrow = newElement(design(), { width: 12_000, height: 9000 }, 'text', [])
  expect(narrow.width).toBeLessThan(12_000)
  expect(narrow.height).toBeLessThan(9000)
  expect(newElement(design(), label, 'box', []).weight).toBe(500)
  expect(newElement(design(), label, 'line', []).says).toBeUndefined()

  const [copy, other] = duplicates(design(first as Element), [first as Element, first as Element])
  if (!copy) throw new Error('there is no copy')
  expect(other?.id).not.toBe(copy.id)
  expect(copy).toMatchObject({ id: 'code-2', x: first.x + 2000, y: first.y + 2000 })
  expect(copy.says).not.toBe(first.says)

  expect(freePlace(design())).toEqual({ x: 3000, y: 2000 })
  expect(freePlace(design({ kind: 'text', y: 3000, height: 6000 }, { kind: 'box', y: 0, height: 38_000 }))).toEqual({
    x: 3000,
    y: 10_000,
  })
})

test('lengths are shown and read in the units of the person', () => {
  units.value = 'mm'
  expect(lengthText(38_100)).toBe('38.1 mm')
  expect(lengthText(375, 3)).toBe('0.375 mm')
  const typed = JSON.parse(readFileSync(new URL('../../core/measure/testdata/typed.json', import.meta.url), 'utf8')) as Record<string, number | null>
  for (const [text, length] of Object.entries(typed)) expect(parseLength(text) ?? null, text).toBe(length)
  units.value = 'in'
  expect(lengthText(38_100)).toBe('1.500 in')
  expect(bareLength(25_400, 0)).toBe('1.00')
  expect(parseLength('1.5')).toBe(38_100)
  expect(parseLength('3 mm')).toBe(3000)
  units.value = 'mm'
})

test('counts, amounts and times are told as short as they can be', () => {
  expect([count(0), count(999), count(1_000), count(12_345_678)]).toEqual(['0', '999', '1,000', '12,345,678'])
  expect([plural(1, 'label'), plural(1739, 'label'), plural(2, 'entry', 'entries')]).toEqual(['1 label', '1,739 labels', '2 entries'])
  expect([amount(12_345_678, 'length'), amount(1739, 'labels'), amount(40, 'sheets')]).toEqual(['12.3 m', '1,739', '40'])
  expect([duration(59), duration(61), duration(3600), duration(7384)]).toEqual(['59 s', '1 min 1 s', '1 h 0 min', '2 h 3 min'])
  const now = new Date()
  expect(moment(now.toISOString())).toMatch(/^\d\d:\d\d$/)
  expect(moment(new Date(now.getTime() - 3 * 86_400_000).toISOString())).toMatch(/^\d{1,2} \w{3}( \d{4})? \d\d:\d\d$/)
  expect(moment('2019-03-05T10:07:00')).toBe('5 Mar 2019 10:07')
})

const stock = (about: Partial<Stock>) =>
  ({ name: 'x', kind: 'die-cut', shape: 'rectangle', width: 50_000, length: 25_000, gap: 3000, ...about }) as Stock
const kindsOf = (shapes: Drawn[]) => {
  const counted: Record<string, number> = {}
  for (const { kind } of shapes) counted[kind] = (counted[kind] ?? 0) + 1
  return counted
}

test('each kind of stock is drawn in millimetres, to its own shape', () => {
  const lanes = stock({ lanes: 2, laneGap: 4000, edgeLeft: 2000, edgeRight: 1000, shape: 'rounded', cornerRadius: 1500 })
  const { shapes, width } = drawStock(lanes, drawnHeight(lanes))
  expect(width).toBe(2 + 50 + 4 + 50 + 1)
  expect(kindsOf(shapes)).toEqual({ web: 1, piece: 4 })
  expect(shapes.filter((s) => s.kind === 'piece').map(({ x, y, w, h, rx }) => [x, y, w, h, rx])).toEqual([
    [2, 3, 50, 25, 1.5],
    [56, 3, 50, 25, 1.5],
    [2, 31, 50, 25, 1.5],
    [56, 31, 50, 25, 1.5],
  ])
  const round = drawStock(stock({ shape: 'circle', width: 25_000, colour: '#F7C600' }), 40).shapes.find((s) => s.kind === 'piece')
  expect(round).toMatchObject({ rx: 12.5, ry: 12.5, fill: '#F7C600' })
  expect(kindsOf(drawStock(stock({ tracking: 'mark', mark: { height: 3000 } as Stock['mark'] }), 56).shapes).mark).toBe(2)
  expect(kindsOf(drawStock(stock({ tracking: 'notch' }), 56).shapes).hole).toBe(2)

  const tape = drawStock(stock({ kind: 'tape', gap: 0, width: 12_000, length: 40_000, colour: '#FFFFFF' }), 85)
  expect(kindsOf(tape.shapes)).toEqual({ web: 1, mark: 3 })
  expect(tape.width).toBe(12)
  const wrap = drawStock(stock({ kind: 'wrap', wrap: { tail: 60_000 } as Stock['wrap'] }), 28)
  expect(wrap.shapes.find((s) => s.kind === 'clear')).toMatchObject({ y: 28, h: 60 })
  const flag = drawStock(stock({ kind: 'flag', length: 85_000, flag: { round: 15_000 } }), 80)
  expect(flag.shapes.find((s) => s.kind === 'round')).toMatchObject({ y: 38, h: 15 })

  const plate = stock({ kind: 'plate', plate: { holes: [{ x: 5000, y: 12_500, diameter: 4000 }] } as Stock['plate'] })
  expect(drawStock(plate, 25).shapes).toMatchObject([
    { kind: 'piece', x: 0, y: 0, w: 50, h: 25 },
    { kind: 'hole', x: 3, y: 10.5, w: 4, rx: 2 },
  ])
  expect(drawnHeight(plate)).toBe(25)
  const sheet = stock({
    kind: 'sheet',
    sheet: { width: 210_000, height: 297_000, left: 5000, top: 13_000, rows: 4, columns: 2, pitchX: 100_000, pitchY: 68_000 },
  })
  expect(kindsOf(drawStock(sheet, 297).shapes)).toEqual({ page: 1, piece: 8 })
  expect(drawStock(sheet, 297).shapes.at(-1)).toMatchObject({ x: 105, y: 13 + 3 * 68 })
  expect(drawnHeight(sheet)).toBe(297)
  expect(drawnHeight(stock({}))).toBe(56)
  expect(drawnHeight(stock({ kind: 'sleeve', gap: 0, length: 4000 }))).toBe(14)
})

test('elements are brought into line, spread and made alike', () => {
  const places = [
    { id: 'a', x: 1000, y: 1000, width: 4000, height: 2000 },
    { id: 'b', x: 9000, y: 5000, width: 2000, height: 1000 },
    { id: 'c', x: 20_000, y: 2500, width: 6000, height: 3000 },
  ]
  const frame = around(places)
  expect(frame).toEqual({ x: 1000, y: 1000, width: 25_000, height: 5000 })
  const xs = (moves: ReadonlyMap<string, Partial<Element>>) => ['a', 'b', 'c'].map((id) => moves.get(id)?.x)
  expect(xs(aligned(places, 'left', frame))).toEqual([1000, 1000, 1000])
  expect(xs(aligned(places, 'right', frame))).toEqual([22_000, 24_000, 20_000])
  expect(xs(aligned(places, 'centre', { x: 0, y: 0, width: 30_000, height: 9000 }))).toEqual([13_000, 14_000, 12_000])
  expect(aligned(places, 'bottom', frame).get('b')).toEqual({ y: 5000 })
  // The gaps are alike: 25 mm less 12 mm of elements, shared by two.
  expect(xs(spread(places, 'across'))).toEqual([1000, 11_500, 20_000])
  expect(spread(places, 'down').get('a')).toEqual({ y: 1000 })
  expect([...alike(places, 'width').values()]).toEqual([{ width: 4000 }, { width: 4000 }, { width: 4000 }])
  expect(touched(places, { x: 0, y: 0, width: 9001, height: 5001 })).toEqual(['a', 'b'])
  expect(touched(places, { x: 30_000, y: 0, width: 10, height: 10 })).toEqual([])

  const grid = cells({ x: 1000, y: 2000, width: 31_000, height: 20_500 }, 2, 3, 500)
  expect(grid).toHaveLength(6)
  expect(grid[0]).toEqual({ x: 1000, y: 2000, width: 10_000, height: 10_000 })
  expect(grid[5]).toEqual({ x: 22_000, y: 12_500, width: 10_000, height: 10_000 })
  expect(cells({ x: 0, y: 0, width: 100, height: 100 }, 1, 300, 10)).toEqual([])
})

test('what is moved comes to lie on lines, and gaps as large as others', () => {
  const ground: Ground = {
    width: 100_000,
    height: 50_000,
    keep: 2000,
    guides: { x: [33_000], y: [] },
    others: [
      { x: 10_000, y: 10_000, width: 10_000, height: 6000 },
      { x: 60_000, y: 10_000, width: 10_000, height: 6000 },
    ],
    baselines: [14_500],
  }
  const at = (x: number, y: number, width = 10_000, height = 6000) => {
    const { dx, dy, lines } = snapped({ x, y, width, height }, ground, 1000)
    return { x: x + dx, y: y + dy, lines }
  }
  expect(at(33_400, 30_000)).toMatchObject({ x: 33_000, y: 30_000 })
  expect(at(10_600, 30_000), 'in line with the left edge of another').toMatchObject({ x: 10_000 })
  expect(at(45_500, 22_300), 'in the middle of the label').toMatchObject({ x: 45_000, y: 22_000 })
  expect(at(2300, 41_900), 'on the safe margin').toMatchObject({ x: 2000, y: 42_000 })
  const between = at(35_400, 11_000)
  expect(between, 'as far from both').toMatchObject({ x: 35_000, y: 10_000 })
  expect(between.lines.find((l) => l.axis === 'x')).toMatchObject({ told: 15_000 })
  expect(at(53_000, 27_300, 3000, 3000).lines, 'nothing near').toEqual([])
  const words = snapped({ x: 83_000, y: 11_700, width: 5000, height: 3700 }, ground, 1000, [2700])
  expect(words, 'its words stand where others stand').toMatchObject({ dx: 0, dy: 100, lines: [{ axis: 'y', at: 14_500 }] })
  expect(snapped({ x: 79_000, y: 12_000, width: 10_000, height: 6000 }, { ...ground, others: [...ground.others, { x: 40_000, y: 9000, width: 10_000, height: 8000 }] }, 1500).dx, 'the gap that two before it have').toBe(1000)
  expect(snappedHandle({ x: 20_000, y: 20_000, width: 13_300, height: 5000 }, 'e', ground, 1000)).toMatchObject({ dx: -300, dy: 0 })
  expect(snappedHandle({ x: 20_000, y: 20_000, width: 13_300, height: 5000 }, 's', ground, 100)).toMatchObject({ dx: 0, dy: 0 })
})

test('elements go as text from one design to another, fields by their names', () => {
  const elements = [
    { id: 'a', kind: 'text', x: 0, y: 0, width: 10, height: 10, says: [{ text: 'Lot ' }, { field: 'LOT', bold: true }] },
    { id: 'b', kind: 'box', x: 0, y: 0, width: 10, height: 10, around: ['a'], when: { field: 'Grade', is: 'filled' } },
  ] as Element[]
  const read = fromText(asText(elements), ['lot', 'grade'])
  expect(read?.[0]?.says).toEqual([{ text: 'Lot ' }, { field: 'lot', bold: true }])
  expect(read?.[1]?.when?.field).toBe('grade')
  expect(fromText(asText(elements), [])?.[0]?.says).toEqual(elements[0]?.says)
  for (const text of ['', 'kelp', '{"kind":"oddspool.elements/1"', '{"kind":"oddspool.elements/1","elements":7}', '{"kind":"oddspool.elements/1","elements":[{}]}'])
    expect(fromText(text, []), text).toBeUndefined()
  const design = { elements: [{ ...elements[0], group: 'lot' }] } as Design
  const made = duplicates(design, [{ ...elements[0], group: 'lot' }, elements[1]] as Element[])
  expect(made.map((e) => [e.id, e.group, e.around])).toEqual([['text-1', 'lot 2', undefined], ['box-1', undefined, ['text-1']]])
})

test('what was done is told in a few words', () => {
  const e = (id: string, to: Partial<Element> = {}) => ({ id, kind: 'box', x: 0, y: 0, width: 10, height: 10, ...to }) as Element
  const d = (...elements: Element[]) => ({ name: 'Tote', elements }) as unknown as Design
  const a = e('a')
  const b = e('b')
  for (const [after, told] of [
    [d(a, b, e('c')), 'adding of c'],
    [d(), 'deletion of 2'],
    [d(e('a', { x: 5 }), b), 'move of a'],
    [d(e('a', { x: 5 }), e('b', { y: 1 })), 'move of 2'],
    [d(e('a', { x: 5, width: 20 }), b), 'new size of a'],
    [d(e('a', { ink: 'red' }), b), 'change of a'],
    [d(e('a', { group: 'g' }), e('b', { group: 'g' })), 'grouping of 2'],
    [d(b, a), 'new order'],
    [{ ...d(a, b), name: 'Crate' } as Design, 'new name'],
    [d(a, e('c'), e('d')), 'replacing of b'],
  ] as const)
    expect(deedBetween(d(a, b), after)).toBe(told)
})

test('a picture is cut by its handles, and what is left keeps its size', () => {
  const looks = { hash: 'x', crop: { left: 20 } }
  const begun = { x: 1000, y: 1000, width: 8000, height: 5000 }
  expect(cropped(begun, looks, 'e', -1000, 0)).toEqual({ ...begun, width: 7000, picture: { hash: 'x', crop: { left: 20, right: 10 } } })
  expect(cropped(begun, looks, 'w', -9000, 0), 'no more than there is').toEqual({ x: -1000, y: 1000, width: 10_000, height: 5000, picture: { hash: 'x', crop: {} } })
  expect(cropped(begun, looks, 'n', 0, 2500)).toMatchObject({ y: 3500, height: 2500, picture: { crop: { left: 20, top: 50 } } })
})

test('corners keep proportions, the middle stays where it should, and middles are spread', () => {
  const begun = { x: 1000, y: 1000, width: 4000, height: 2000 }
  expect(proportioned(begun, resized(begun, 'se', 4000, 0), 'se')).toEqual({ ...begun, width: 8000, height: 4000 })
  expect(proportioned(begun, resized(begun, 'nw', 0, -2000), 'nw')).toEqual({ x: -3000, y: -1000, width: 8000, height: 4000 })
  expect(proportioned(begun, resized(begun, 'e', 4000, 0), 'e'), 'a side alone').toEqual({ ...begun, width: 8000 })
  expect(fromMiddle(begun, resized(begun, 'se', 500, 250))).toEqual({ x: 500, y: 750, width: 5000, height: 2500 })
  expect(fromMiddle(begun, resized(begun, 'w', 3600, 0)), 'never away').toEqual(begun)
  const places = [
    { id: 'a', x: 0, y: 0, width: 10, height: 10 },
    { id: 'b', x: 12, y: 0, width: 40, height: 10 },
    { id: 'c', x: 100, y: 0, width: 20, height: 10 },
  ]
  expect([...spreadMiddles(places, 'across')]).toEqual([['a', { x: 0 }], ['b', { x: 38 }], ['c', { x: 100 }]])
})

test('a sheet is written cell by cell, in blocks, and undone', () => {
  const fields = ['bin', 'contents', 'lot']
  const grid = useGrid(() => fields)
  grid.begin([['N-1', 'Dulse', '007']])
  grid.write([['N-2', 'Kombu'], ['N-3']], { row: 1, column: 0 })
  expect(grid.rows.value).toEqual([['N-1', 'Dulse', '007'], ['N-2', 'Kombu', ''], ['N-3', '', '']])
  grid.write([['a', 'b', 'c']], { row: 0, column: 2 }) // what goes beyond the last field is left out
  expect(grid.rows.value[0]).toEqual(['N-1', 'Dulse', 'a'])
  grid.undo()
  expect(grid.rows.value[0]).toEqual(['N-1', 'Dulse', '007'])
  grid.redo()
  grid.undo()
  expect(grid.undoable.value).toBe(1)
  grid.go(1, 1)
  grid.move(1, 1, true)
  expect(grid.chosen()).toEqual([['Kombu', ''], ['', '']])
  grid.fillDown()
  expect(grid.rows.value.map((r) => r[1])).toEqual(['Dulse', 'Kombu', 'Kombu'])
  expect(grid.redoable.value, 'what was written since cannot be done again').toBe(0)
  grid.clear()
  expect(grid.rows.value.map((r) => r[1])).toEqual(['Dulse', '', ''])
  grid.removeRows()
  expect(grid.rows.value).toHaveLength(1)
  expect(grid.at.value).toEqual({ row: 1, column: 1 })
})

test('one goes through a sheet field by field, and not out of it', () => {
  const grid = useGrid(() => ['bin', 'lot'])
  grid.begin([['N-1', '1'], ['N-2', '2']])
  for (const want of [[0, 1], [1, 0], [1, 1], [2, 0]]) {
    grid.next()
    expect([grid.at.value.row, grid.at.value.column]).toEqual(want)
  }
  grid.move(5, 0)
  expect(grid.at.value, 'the row for a new record is the last').toEqual({ row: 2, column: 0 })
  grid.move(-9, -9)
  expect(grid.at.value).toEqual({ row: 0, column: 0 })
  grid.move(0, 9)
  expect(grid.at.value).toEqual({ row: 0, column: 1 })
  expect(grid.value(7, 7)).toBe('')
})

test('only rows that differ are painted anew, and the picture is that of painting all', () => {
  let state = 417
  const random = (n: number) => (state = (state * 1103515245 + 12345) % 2147483648) % n
  for (let round = 0; round < 60; round++) {
    const [width, height] = [9 + random(40), 5 + random(30)]
    const plane = ((width + 7) >> 3) * height
    const layers = round % 3 ? ['#000000'] : ['#000000', '#C1121F']
    const before = { planes: new Uint8Array(plane * layers.length).map(() => random(256)), face: '#FFFFFF', layers }
    const after = { ...before, planes: before.planes.slice() }
    for (let n = 0; n < random(4); n++) after.planes[random(after.planes.length)] = random(256)
    const rows = changedRows(before, after, (width + 7) >> 3, height)
    const pixels = new Uint32Array(width * height)
    const whole = new Uint32Array(width * height)
    fillPixels(pixels, before, width, height)
    fillPixels(pixels, after, width, height, rows.from, Math.max(rows.to, rows.from))
    fillPixels(whole, after, width, height)
    expect(pixels).toEqual(whole)
  }
  const dots = { planes: new Uint8Array(4), face: '#FFFFFF', layers: ['#000000'] }
  expect(changedRows(dots, { ...dots, face: '#FFEE00' }, 1, 4), 'another face is another picture').toEqual({ from: 0, to: 4 })
  expect(changedRows(dots, dots, 1, 4).to).toBe(0)
})

test('an answer that is not what the contract says is told', () => {
  expect(untrue('GET', '/api/session', 200, { name: 'maren' })).toContain('GET /api/session, 200: answer must have required property')
  expect(untrue('GET', '/api/designs/7/nothing', 200, {})).toContain('the contract has no such path')
  expect(untrue('PUT', '/api/session', 200, {})).toContain('the contract has no such operation')
  expect(untrue('GET', '/api/session', 401, { text: 7 })).toContain('GET /api/session, 401: answer')
})
