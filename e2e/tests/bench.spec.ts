import { type Page } from '@playwright/test'
import { address, documentOf, dragField, expect, find, idOf, importText, kept, looks, newDesign, pick, signIn, sound, test } from '../plant'

test('a label is laid out by hand: tray, pieces, mouse, keys, typed millimetres, undo', async ({ maren: page }) => {
  await newDesign(page, 'Tote label', /^bins\.csv ·/)
  await expect(page.getByText('Drag a field from the tray onto the label, and say')).toBeVisible()
  await sound(page)

  // As words, then as a code.
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await expect(page.getByRole('button', { name: 'text N-01-01-A' })).toBeVisible()
  await dragField(page, 'code', 5, 18)
  await page.getByText('code as a code').click()
  await expect(page.getByRole('button', { name: 'code 952N0101A' })).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByText('2 dots · 0.250 mm')).toBeVisible()

  // Dropped on an element a field joins what that says; a text piece goes before it.
  await dragField(page, 'lot', 8, 6)
  await expect(page.getByText('“N-01-01-A26K090” on this label.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a piece' }).click()
  await page.getByText('Fixed text').click()
  await page.getByLabel('Piece 3: fixed text').fill(' ok')
  await expect(page.getByText('“N-01-01-A26K090 ok” on this label.')).toBeVisible()
  await page.getByRole('button', { name: 'Take piece 2 away' }).click()
  await expect(page.getByText('“N-01-01-A ok” on this label.')).toBeVisible()

  // Typed, by keys and by mouse, always in whole dots.
  const left = page.getByLabel('From left', { exact: true })
  await left.fill('half an inch')
  await left.press('Enter')
  await expect(page.getByText('Type a length such as 12.5')).toBeVisible()
  await left.fill('99999 mm')
  await left.press('Enter')
  await expect(page.getByText('At most 10000.0 mm.')).toBeVisible()
  await left.fill('1/2 in')
  await left.press('Enter')
  await expect(left).toHaveValue('12.7')
  await page.locator('[data-element="text-1"]').click()
  await page.keyboard.press('ArrowRight')
  await expect(left).toHaveValue('13.7')
  await page.keyboard.press('Shift+ArrowLeft')
  await expect(left).toHaveValue('13.6')
  const width = page.getByLabel('Width', { exact: true })
  const before = Number(await width.inputValue())
  const handle = await page.locator('[data-handle="e"]').boundingBox()
  if (!handle) throw new Error('the chosen element has no handle')
  await page.mouse.move(handle.x + 5, handle.y + 5)
  await page.mouse.down()
  await page.mouse.move(handle.x + 85, handle.y + 25, { steps: 6 })
  await page.mouse.up()
  expect(Number(await width.inputValue())).toBeGreaterThan(before + 5)
  await page.locator('[data-element="text-1"]').hover()
  await page.mouse.down()
  await page.mouse.move(400, 300, { steps: 4 })
  await page.mouse.up()
  await expect(left).not.toHaveValue('13.6')

  // Undo goes back step by step to the empty label, redo comes forward again.
  await page.locator('h2', { hasText: 'On this label' }).click()
  for (let i = 0; i < 12; i++) await page.keyboard.press('Control+z')
  await expect(page.getByText('Nothing yet. Drag a field')).toBeVisible()
  for (let i = 0; i < 12; i++) await page.keyboard.press('Control+Shift+z')
  await expect(page.getByRole('button', { name: 'text N-01-01-A ok' })).toBeVisible()

  await kept(page)
  await page.reload()
  await expect(page.getByRole('button', { name: 'text N-01-01-A ok' })).toBeVisible()
})

test('everything can be done from the keyboard', async ({ maren: page }) => {
  await newDesign(page, 'Keys only', /^bins\.csv ·/)
  await page.locator('h2', { hasText: 'On this label' }).click()
  await page.keyboard.press('a')
  await page.keyboard.press('t')
  await expect(page.getByRole('button', { name: 'text Text' })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('a')
  await page.keyboard.press('c')
  await expect(page.getByRole('button', { name: 'code 0001' })).toBeVisible()
  await page.keyboard.press('Control+d')
  await expect(page.getByRole('button', { name: 'code 0001' })).toHaveCount(2)
  await page.keyboard.press('Delete')
  await expect(page.getByRole('button', { name: 'code 0001' })).toHaveCount(1)
  await page.keyboard.press('Escape')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('PageDown')
  await expect(page.getByLabel('Record in hand').first()).toHaveValue('3')
  const thread = page.getByRole('slider', { name: 'Record in hand' })
  await page.locator('[data-element]').first().click() // with an element chosen, the thread's arrows still walk
  await thread.focus()
  await page.keyboard.press('End')
  await expect(thread).toHaveAttribute('aria-valuetext', 'record 240 of 240')
  await page.keyboard.press('PageUp')
  await page.keyboard.press('ArrowLeft')
  await expect(thread).toHaveAttribute('aria-valuenow', '229')
  await page.keyboard.press('Home')
  await expect(thread).toHaveAttribute('aria-valuenow', '1')
  await page.keyboard.press('Escape')
  await page.keyboard.press('?')
  await expect(page.getByText('move the chosen element by one dot')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await page.getByLabel('Find anything', { exact: true }).last().fill('bin north')
  await expect(page.getByRole('button', { name: 'Bin label, north shed design' })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Name of the design')).toHaveValue('Bin label, north shed')
  await page.keyboard.press('Control+k')
  await page.getByLabel('Find anything', { exact: true }).last().fill('acetone')
  await page.getByRole('button', { name: 'acetone substance' }).click()
  await expect(page.getByLabel('Look for anything in the reference')).toHaveValue('67-64-1')
  await expect(page.getByRole('heading', { name: 'acetone' })).toBeVisible()
})

test('findings stand on the right labels and are gone to', async ({ maren: page }) => {
  await page.goto(address('/bench/1'))
  await expect(page.getByRole('button', { name: '4 findings' })).toBeVisible()
  await page.getByRole('button', { name: /2 records: Text is .* too long/ }).click()
  await expect(page.getByLabel('Record in hand').first()).toHaveValue('9')
  await expect(page.getByText('9 · in hand')).toBeVisible()
  await expect(page.locator('.caption', { hasText: '9 · in hand' })).toContainText('too long for its box')
  await page.getByRole('button', { name: /1 records: lot is empty/ }).click()
  await expect(page.getByLabel('Record in hand').first()).toHaveValue('14')
  // What a record says is looked for where its number is typed.
  const which = page.getByLabel('Record in hand: a number, or words of it')
  await which.fill('no such kelp')
  await page.keyboard.press('Enter')
  await expect(page.getByText('No record has “no such kelp” in it.')).toBeVisible()
  await which.fill('r-03')
  await page.keyboard.press('Enter')
  await expect(page.locator('.hand .which')).toContainText('3 · in hand')
  await which.fill('14')
  await page.keyboard.press('Enter')
  await expect(page.locator('.hand .which')).toContainText('14 · in hand')

  await page.getByRole('button', { name: 'With findings' }).click()
  await page.keyboard.press('Escape')
  await page.locator('h2').first().click()
  await page.keyboard.press('PageDown')
  await expect(page.getByText('22 · in hand')).toBeVisible()
  await sound(page)
  await page.getByRole('button', { name: 'Extremes' }).click()
  await expect(page.getByText(/widest|shortest|densest|stands here only/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Contact sheet' }).click()
  await expect(page.getByRole('button', { name: 'Take the label of record 9 in hand' })).toBeVisible()
  await sound(page)
})

test('two people on one design lose nothing', async ({ maren: page, browser }) => {
  await newDesign(page, 'Shared label', /^bins\.csv ·/)
  const other = await (await browser.newContext()).newPage()
  await signIn(other)
  await other.goto(address(`/bench/${String(idOf(page))}`))
  await expect(other.getByTestId('in-hand')).toBeVisible()
  await page.getByLabel('Name of the design').fill('Shared label, first')
  await kept(page)
  await expect(other.getByText('here too: Maren')).toBeVisible({ timeout: 12_000 })

  // What each changed alone is put together by itself.
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await kept(page)
  await dragField(other, 'lot', 5, 14)
  await other.getByText('lot as words').click()
  await expect(other.getByRole('button', { name: 'text N-01-01-A' }), 'what the first one added').toBeVisible()
  await kept(other)
  await page.reload()
  await expect(page.getByRole('button', { name: 'text 26K090' })).toBeVisible()

  // What both changed is asked about, and one or the other taken.
  const move = async (of: Page, to: string) => {
    await of.getByRole('button', { name: 'text N-01-01-A' }).click()
    await of.getByLabel('From left', { exact: true }).fill(to)
    await of.keyboard.press('Enter')
  }
  await move(page, '11')
  await kept(page)
  await move(other, '22')
  await expect(other.getByText('changed this design at')).toBeVisible()
  await sound(other)
  await other.getByText(/^mine: from left/).click()
  await other.getByRole('button', { name: 'Put both together so' }).click()
  await kept(other)
  await page.reload()
  await page.getByRole('button', { name: 'text N-01-01-A' }).click()
  await expect(page.getByLabel('From left', { exact: true })).toHaveValue('22.0')
  await page.getByLabel('Name of the design').fill('Shared label, third')
  await kept(page)
  await other.getByLabel('Name of the design').fill('Shared label, second')
  await expect(other.getByText('changed this design at')).toBeVisible()
  await other.getByRole('button', { name: 'Keep mine as a copy' }).click()
  await expect(other.getByLabel('Name of the design')).toHaveValue('Shared label, second, my copy')
  await page.reload()
  await expect(page.getByLabel('Name of the design')).toHaveValue('Shared label, third')
})

test('a draft that could not be kept comes back', async ({ maren: page }) => {
  await newDesign(page, 'Cut off', /^bins\.csv ·/)
  await kept(page)
  await page.route('**/api/designs/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()))
  await page.getByLabel('Name of the design').fill('Cut off, changed')
  await expect(page.getByText('The server does not answer.')).toBeVisible()
  await page.unroute('**/api/designs/*')
  await page.reload()
  await expect(page.getByLabel('Name of the design')).toHaveValue('Cut off, changed')
  await expect.poll(async () => ((await documentOf(page)) as { name?: string }).name).toBe('Cut off, changed')
  await expect.poll(() => page.evaluate((draft) => localStorage.getItem(draft), `draft ${String(idOf(page))}`)).toBeNull()

  // Somebody changed the design before the page came back: both changes count, and what a hand does while they are joined.
  await page.route('**/api/designs/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()))
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await expect(page.getByText('The server does not answer.')).toBeVisible()
  const change = await renamed(page, 'Cut off, by another')
  await page.unroute('**/api/designs/*')
  let join: () => void = () => undefined
  const held = new Promise<void>((resolve) => (join = resolve))
  await page.route('**/api/designs/merge', async (route) => (await held, route.continue()))
  const asked = page.waitForRequest('**/api/designs/merge')
  await page.reload()
  await asked
  await page.getByRole('button', { name: 'text N-01-01-A' }).click()
  await page.getByLabel('From left', { exact: true }).fill('9')
  await page.keyboard.press('Enter')
  join()
  await expect(page.getByLabel('Name of the design')).toHaveValue('Cut off, by another')
  await kept(page)
  await expect.poll(async () => (await documentOf(page)).elements.map((e) => e.x).at(-1)).toBe(9000)
  expect((await documentOf(page)).elements.length).toBe(change.elements + 1)
})

/** Somebody else gives the design another name. */
async function renamed(page: Page, name: string) {
  const there = address(`/api/designs/${String(idOf(page))}`)
  const { edit, document, recordSetId } = await (await page.request.get(there)).json() as { edit: number; document: { elements: unknown[] }; recordSetId: number }
  expect((await page.request.put(there, { data: { edit, document: { ...document, name }, recordSetId } })).ok()).toBe(true)
  return { elements: document.elements.length }
}

/** How many elements the browser keeps of the design as it was last seen. */
const elementsSeen = (page: Page) =>
  page.evaluate((key) => {
    const seen = JSON.parse(localStorage.getItem(key) ?? 'null') as { design: { document: { elements: unknown[] } } } | null
    return seen?.design.document.elements.length
  }, `seen ${String(idOf(page))}`)

test('opened again, a Bench shows what was last seen until the server has answered', async ({ maren: page }) => {
  await newDesign(page, 'Seen again', /^bins\.csv ·/)
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await kept(page)
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  await expect.poll(() => elementsSeen(page)).toBe(1)

  let answer: () => void = () => undefined
  const hold = async () => {
    const held = new Promise<void>((resolve) => (answer = resolve))
    await page.route(/api\/designs\/\d+(\/strip.*)?$/, async (route) => (route.request().method() === 'GET' && (await held), route.continue()))
  }
  await hold()
  await page.reload()
  const name = page.getByLabel('Name of the design')
  await expect(name).toHaveValue('Seen again')
  await expect(page.locator('.strip .hand').locator('canvas, img')).toBeVisible()
  await renamed(page, 'Seen anew')
  answer()
  await expect(name).toHaveValue('Seen anew')
  await page.unroute(/api/)

  // What is changed before the answer is joined with what it brings.
  await hold()
  await page.reload()
  await expect(name).toHaveValue('Seen again')
  await page.getByRole('button', { name: 'text N-01-01-A' }).click()
  await page.getByLabel('From left', { exact: true }).fill('9')
  await page.keyboard.press('Enter')
  answer()
  await expect(name).toHaveValue('Seen anew')
  await expect.poll(async () => (await documentOf(page)).elements[0]?.x).toBe(9000)

  // Of a design that is no more nothing is left on the screen; who signs out leaves nothing behind.
  await page.unrouteAll()
  await page.route(/api\/designs\/\d+$/, (route) => route.fulfill({ status: 404, json: { status: 404, text: 'There is no such design.' } }))
  await page.reload()
  await expect(page.getByText('There is no such design.')).toBeVisible()
  await expect(name).toBeHidden()
  await page.unrouteAll()
  await page.getByRole('button', { name: 'Maren' }).click()
  await page.getByText('Sign out').click()
  await page.waitForURL('**/sign-in')
  expect(await page.evaluate(() => Object.keys(localStorage).filter((key) => key.includes('seen')))).toEqual([])
})

test('a lying strip, and a small screen', async ({ maren: page }) => {
  await newDesign(page, 'Lying label', /^bins\.csv ·/, true)
  await page.getByRole('button', { name: 'bin', exact: false }).filter({ hasText: 'N-01-01-A' }).click()
  await page.getByText('Put it on the label as words').click()
  await expect(page.getByRole('button', { name: 'text N-01-01-A' })).toBeVisible()
  await sound(page)
  await page.setViewportSize({ width: 1024, height: 700 })
  await sound(page)
  for (const path of ['/bench/2', '/floor', '/records', '/runs', '/bench', '/records?import=1']) {
    await page.goto(address(path))
    await page.waitForLoadState('networkidle')
    await sound(page)
  }
})

test('design files go out and come in, and bad ones are refused in words', async ({ maren: page }) => {
  await page.goto(address('/bench'))
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'More with Bin label, north shed' }).click()
  await page.getByText('Save as a file').click()
  const file = await (await download).path()
  const { readFile } = await import('node:fs/promises')
  const zip = await readFile(file)
  const text = await readFile('../examples/bin-label.json', 'utf8')
  const open = (name: string, content: string | Buffer) =>
    page.locator('input[type=file]').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(content as string) })

  await open('future.json', text.replace('oddspool.design/1', 'oddspool.design/9'))
  await expect(page.getByRole('alert')).toContainText('made by a newer Odd Spool')
  await open('odd.json', text.replace('"name":', '"colour": "red", "name":'))
  await expect(page.getByRole('alert')).toContainText('colour: there is no such field')
  await open('picture.json', '\x89PNG')
  await expect(page.getByRole('alert')).toContainText('is not a design file')
  await open('half.zip', zip.subarray(0, zip.length / 2))
  await expect(page.getByRole('alert')).toContainText('a broken zip')
  await open('bin.zip', zip)
  await page.waitForURL(/\/bench\/\d+/)
  await expect(page.getByLabel('Name of the design')).toHaveValue('Bin label, north shed')
  await page.goto(address('/bench'))
  await sound(page)
})

/** Prints how long it took from the hand's doing to the dots on the screen. */
async function tell(page: Page, what: string, name: string) {
  const times = await page.evaluate((of) => performance.getEntriesByName(of).map((e) => e.duration), name)
  times.sort((a, b) => a - b)
  const at = (share: number) => (times[Math.min(Math.floor(times.length * share), times.length - 1)] ?? 0).toFixed(1)
  console.log(`${what}: median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms of ${String(times.length)}`)
  return times.length
}

test('the dots follow the hand, with 40 elements and a slow network', async ({ maren: page }) => {
  const kept = await (await page.request.get(address('/api/designs/2'))).json() as { document: { elements: { id: string }[] }; recordSetId: number; printerId?: number }
  const elements = Array.from({ length: 40 }, (_, i) => ({ ...kept.document.elements[i % kept.document.elements.length], id: `e${String(i)}` }))
  const made = await page.request.post(address('/api/designs'), {
    data: { name: 'Forty elements', document: { ...kept.document, elements }, recordSetId: kept.recordSetId, printerId: kept.printerId },
  })
  const { id } = (await made.json()) as { id: number }
  const cdp = await page.context().newCDPSession(page)
  await cdp.send('Network.emulateNetworkConditions', { offline: false, latency: 160, downloadThroughput: -1, uploadThroughput: -1 })
  await page.goto(address(`/bench/${String(id)}`))
  await expect(page.getByTestId('in-hand')).toBeVisible()
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  await expect.poll(() => elementsSeen(page)).toBe(40)
  const first = () => page.evaluate(() => performance.getEntriesByName('hand drawn').map((e) => e.startTime + e.duration)[0] ?? 0)
  const times: number[] = []
  for (let i = 0; i < 3; i++) {
    await page.goto(address(`/bench/${String(id)}`)) // with what was fetched at hand
    await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
    times.push(Math.round(await first()))
  }
  console.log(`the Bench opened by its address, to the first dots drawn in the page: ${times.join(', ')} ms`)
  await page.goto(address('/bench'))
  await page.evaluate(() => {
    performance.clearMeasures()
    addEventListener('pointerdown', (e) => ((window as unknown as { pressed: number }).pressed = e.timeStamp), true)
  })
  const link = page.getByRole('link', { name: 'Forty elements' }).last()
  await link.hover()
  await page.waitForTimeout(150) // as a hand needs from reaching it to pressing
  await link.click()
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  await expect.poll(first).toBeGreaterThan(0)
  const pressed = await page.evaluate(() => (window as unknown as { pressed: number }).pressed)
  console.log(`the Bench opened from the list of designs, likewise: ${((await first()) - pressed).toFixed(0)} ms`)

  await page.locator('[data-element="e39"]').click()
  const box = await page.getByTestId('in-hand').boundingBox()
  if (!box) throw new Error('no label is in hand')
  const element = await page.locator('[data-element="e39"]').boundingBox()
  if (!element) throw new Error('the element is not on the label')
  await page.mouse.move(element.x + element.width / 2, element.y + element.height / 2)
  await page.mouse.down()
  await page.evaluate(() => performance.clearMeasures())
  for (let i = 1; i <= 120; i++) {
    await page.mouse.move(element.x + element.width / 2 + (i % 40), element.y + element.height / 2 + (i % 13))
    await page.waitForTimeout(12)
  }
  await page.mouse.up()
  expect(await tell(page, 'pointer move to the dots of the label in hand', 'hand drawn')).toBeGreaterThan(60)
  await tell(page, 'and of a neighbour', 'neighbour drawn')

  await page.evaluate(() => performance.clearMeasures())
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight')
    await page.waitForTimeout(15)
  }
  expect(await tell(page, 'key to the dots of the label in hand', 'hand drawn')).toBeGreaterThan(30)
  await cdp.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: -1, uploadThroughput: -1 })
})

test('a notice is made of shapes, with words bare out of a filled box', async ({ maren: page }) => {
  await newDesign(page, 'Wet floor notice')
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  const add = async (key: string) => {
    await page.locator('h2', { hasText: 'On this label' }).click()
    await page.keyboard.press('a')
    await page.keyboard.press(key)
  }
  await add('b')
  await pick(page, 'What it is filled with', 'black')
  await page.getByLabel('Radius of the corners').fill('2')
  await page.keyboard.press('Enter')
  await page.getByText('drawn', { exact: true }).click()
  const filled = await looks(page, 1)
  await add('t')
  await page.getByLabel('From top', { exact: true }).fill('2.5')
  await page.keyboard.press('Enter')
  await pick(page, 'Ink', 'none: bare out of a box')
  await expect.poll(() => looks(page, 1)).not.toBe(filled)
  await add('e')
  await add('l')
  await pick(page, 'How the line lies', 'down to the right')
  await page.getByLabel('Weight of the line').fill('0.5')
  await page.keyboard.press('Enter')
  await sound(page)
  await expect.poll(async () => (await documentOf(page)).elements.map((e) => [e.kind, e.ink, e.shape])).toEqual([
    ['box', undefined, { fill: 'black', corner: 2000, noOutline: true }],
    ['text', 'bare', undefined],
    ['oval', undefined, undefined],
    ['line', undefined, { slope: 'down' }],
  ])
})

test('several are chosen together, brought into line, moved and divided as one', async ({ maren: page }) => {
  await newDesign(page, 'Pump plate')
  const list = page.getByRole('region', { name: 'On this label' })
  const add = async (key: string) => {
    await page.locator('h2', { hasText: 'On this label' }).click()
    await page.keyboard.press('a')
    await page.keyboard.press(key)
  }
  for (const key of ['t', 'e', 'l']) await add(key)
  await page.keyboard.press('Escape')
  await list.getByRole('button', { name: 'text Text' }).click()
  await list.getByRole('button', { name: 'ellipse' }).click({ modifiers: ['Shift'] })
  await list.getByRole('button', { name: 'line' }).click({ modifiers: ['Shift'] })
  await expect(page.getByRole('heading', { name: '3 elements chosen' })).toBeVisible()
  await page.getByText('in line with the label').click()
  await page.getByRole('button', { name: 'Centres' }).click()
  await page.getByRole('button', { name: 'Same width' }).click()
  await sound(page)
  await expect.poll(async () => new Set((await documentOf(page)).elements.map((e) => e.width)).size).toBe(1)
  const before = (await documentOf(page)).elements.map((e) => e.x as number)
  await page.locator('h2', { hasText: 'chosen' }).click()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect.poll(async () => (await documentOf(page)).elements.map((e) => e.x)).toEqual(before.map((x) => x + 2000))
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await expect(page.getByText('Nothing yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(list.getByRole('button', { name: 'ellipse' })).toBeVisible()

  // A drag over the bare label chooses what it touches.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await add('b')
  await page.getByRole('button', { name: 'Divide into equal boxes' }).click()
  await page.getByLabel('Rows', { exact: true }).fill('2')
  await page.getByLabel('Columns of boxes').fill('4')
  await pick(page, 'What stands in each box', 'numbered from 1')
  await page.getByRole('button', { name: 'Divide', exact: true }).click()
  await expect(page.getByRole('heading', { name: '16 elements chosen' })).toBeVisible()
  const hand = await page.getByTestId('in-hand').boundingBox()
  if (!hand) throw new Error('no label is in hand')
  await page.mouse.move(hand.x + hand.width - 3, hand.y + hand.height - 3)
  await page.mouse.down()
  await page.mouse.move(hand.x + hand.width * 0.2, hand.y + hand.height * 0.2, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByRole('heading', { name: /^([2-9]|1[0-9]) elements chosen$/ })).toBeVisible()
  await kept(page)
})

test('an asset tag has a logo, a frame and a Data Matrix', async ({ maren: page }) => {
  await newDesign(page, 'Asset tag', /^bins\.csv ·/)
  const name = page.getByLabel('Picture file')
  const logo = await page.evaluate(() => {
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = 96
    const context = canvas.getContext('2d')
    if (!context) throw new Error('no canvas')
    context.fillStyle = '#fff'
    context.fillRect(0, 0, 96, 96)
    context.fillStyle = '#124'
    context.beginPath()
    context.arc(48, 48, 40, 0, 7)
    context.fill()
    return canvas.toDataURL('image/png').split(',')[1] ?? ''
  })
  await name.setInputFiles({ name: 'mark.png', mimeType: 'image/png', buffer: Buffer.from(logo, 'base64') })
  await expect(page.getByRole('button', { name: 'picture mark.png' })).toHaveAttribute('aria-pressed', 'true')
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  const plain = await looks(page, 1)
  await page.getByLabel('Lighter by per cent').fill('30')
  await page.keyboard.press('Enter')
  await pick(page, 'How shades become dots', 'scattered dots')
  await expect.poll(() => looks(page, 1)).not.toBe(plain)
  await page.locator('h2', { hasText: 'On this label' }).click()
  await page.keyboard.press('a')
  await page.keyboard.press('b')
  await page.keyboard.press('Escape')
  await dragField(page, 'code', 40, 24)
  await page.getByText('code as a code').click()
  await find(page, 'Symbology', 'Data Matrix')
  await sound(page)
  await kept(page)
  await name.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') })
  await expect(page.getByText('This is no picture that is read')).toBeVisible()
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await page.getByRole('button', { name: 'Print 3 as a sample' }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3')
})

test('what was dragged, walked to and undone shows its own dots', async ({ maren: page }) => {
  await newDesign(page, 'Walked through', /^bins\.csv ·/)
  await expect(page.locator('.strip .hand canvas, .strip .hand img').first()).toBeVisible({ timeout: 20_000 })
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await expect(page.getByRole('button', { name: 'text N-01-01-A' })).toBeVisible()
  await expect(page.locator('.strip .hand canvas')).toBeVisible()
  const before = await looks(page, 1)
  const box = await page.locator('[data-element]').first().boundingBox()
  if (!box) throw new Error('nothing is on the label')
  const drag = async (by: number) => {
    await page.mouse.move(box.x + 20, box.y + 10)
    await page.mouse.down()
    for (let i = 1; i <= 8; i++) await page.mouse.move(box.x + 20 + (by * i) / 8, box.y + 10)
    await page.mouse.up()
  }
  await drag(60)
  await expect.poll(() => looks(page, 1)).not.toBe(before)
  const dragged = await looks(page, 1)
  // A record that was not in sight is drawn, though the page drew the label in hand itself.
  await page.getByLabel('Record in hand: a number, or words of it').fill('200')
  await page.keyboard.press('Enter')
  await expect(page.getByText('200 · in hand')).toBeVisible()
  await expect.poll(() => looks(page, 200)).not.toBe(dragged)
  await page.getByLabel('Record in hand: a number, or words of it').fill('1')
  await page.keyboard.press('Enter')
  await expect.poll(() => looks(page, 1)).toBe(dragged)
  // What the page drew last is gone back to by undo, and again.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => looks(page, 1)).toBe(before)
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect.poll(() => looks(page, 1)).toBe(dragged)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => looks(page, 1)).toBe(before)
})

test('another set with the same fields shows its own values', async ({ maren: page }) => {
  for (const [name, bin] of [['first.csv', 'F-1'], ['second.csv', 'S-22']] as const) {
    await importText(page, name, `bin,lot\n${bin},7\n`)
    await page.getByRole('button', { name: 'Take in 1 record' }).click()
    await page.waitForURL(/\/records\/\d+/)
  }
  await newDesign(page, 'Either of two', /^first\.csv ·/)
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  await expect(page.getByRole('button', { name: 'text F-1' })).toBeVisible()
  const first = await looks(page, 1)
  await pick(page, 'records', /^second\.csv ·/)
  await expect(page.getByRole('button', { name: 'text S-22' })).toBeVisible()
  await expect.poll(() => looks(page, 1)).not.toBe(first)
})

test('a text with a border round it is taken hold of, and the border by its line', async ({ maren: page }) => {
  await newDesign(page, 'Bordered')
  const add = async (key: string) => {
    await page.locator('h2', { hasText: 'On this label' }).click()
    await page.keyboard.press('a')
    await page.keyboard.press(key)
  }
  await add('t')
  await add('b')
  const set = async (name: string, to: string) => {
    await page.getByLabel(name, { exact: true }).fill(to)
    await page.keyboard.press('Enter')
  }
  await set('From left', '2')
  await set('From top', '2')
  await set('Width', '60')
  await set('Height', '20')
  await page.keyboard.press('Escape')
  const [text, box] = [page.locator('[data-element="text-1"]'), page.locator('[data-element="box-1"]')]
  const middle = async () => {
    const at = await text.boundingBox()
    if (!at) throw new Error('no text is in hand')
    return { x: at.x + at.width / 2, y: at.y + at.height / 2 }
  }
  // The box lies over the text, and has nothing but its outline.
  const from = await middle()
  await page.mouse.click(from.x, from.y)
  const chosen = page.getByRole('region', { name: 'On this label' }).locator('[aria-pressed="true"]')
  await expect(chosen).toContainText('text')
  await expect.poll(async () => (await documentOf(page)).elements[1]?.height).toBe(20_000)
  const before = (await documentOf(page)).elements.map((e) => [e.x, e.y])
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x + 40, from.y + 20, { steps: 5 })
  await page.mouse.up()
  await expect.poll(async () => (await documentOf(page)).elements[0]?.x).not.toBe(before[0]?.[0])
  expect((await documentOf(page)).elements.map((e) => [e.x, e.y])[1], 'the box stays').toEqual(before[1])
  // Its outline takes hold of the box.
  const edge = await box.boundingBox()
  if (!edge) throw new Error('no box is in hand')
  await page.mouse.move(edge.x + edge.width / 2, edge.y)
  await page.mouse.down()
  await page.mouse.move(edge.x + edge.width / 2, edge.y + 25, { steps: 5 })
  await page.mouse.up()
  await expect.poll(async () => (await documentOf(page)).elements[1]?.y).not.toBe(before[1]?.[1])
  // A second click takes what lies below: here a text under a text.
  await page.locator('h2', { hasText: 'On this label' }).click()
  await page.keyboard.press('a')
  await page.keyboard.press('t')
  const over = await text.boundingBox()
  const { x, y } = (await documentOf(page)).elements[0] ?? {}
  await set('From left', String(Number(x) / 1000))
  await set('From top', String(Number(y) / 1000))
  if (!over) throw new Error('no text is in hand')
  await page.keyboard.press('Escape')
  await page.mouse.click(over.x + 8, over.y + 8)
  const which = () =>
    page
      .getByRole('region', { name: 'On this label' })
      .locator('[aria-pressed]')
      .evaluateAll((all) => all.findIndex((e) => e.getAttribute('aria-pressed') === 'true'))
  const first = await which()
  await page.mouse.click(over.x + 8, over.y + 8)
  await expect.poll(which).not.toBe(first)
  await kept(page)
})
