import { type Page } from '@playwright/test'
import { address, expect, kept, pick, sound, test } from '../plant'

/** Asks the server as the page does. */
const ask = (page: Page, method: string, path: string, body?: object) =>
  page.evaluate(
    async ([method, path, body]) => {
      const response = await fetch(path!, { method: method!, headers: { 'Content-Type': 'application/json' }, body: body || undefined })
      return response.status === 204 ? undefined : ((await response.json()) as unknown)
    },
    [method, path, body ? JSON.stringify(body) : ''] as const,
  )

/** Takes SGTIN-96 apart by the tables of the GS1 EPC Tag Data Standard (14.5.1), which shares nothing with the program. */
function serialOf(hex: string) {
  const bits = [...hex].map((d) => parseInt(d, 16).toString(2).padStart(4, '0')).join('')
  expect(bits.length).toBe(96)
  expect(bits.slice(0, 8)).toBe('00110000')
  expect(parseInt(bits.slice(11, 14), 2)).toBe(5) // a company prefix of seven digits
  expect(parseInt(bits.slice(14, 38), 2)).toBe(9521234)
  return parseInt(bits.slice(58), 2)
}

test('crates have their number in chip, code and words; bad tags are void, and none is lost', async ({ maren: page }) => {
  test.setTimeout(240_000)
  await page.goto(address('/floor'))
  const printers = (await ask(page, 'GET', '/api/printers')) as { id: number; name: string; address: string; encoder: string }[]
  const line = printers.find((p) => p.name === 'Crate line')
  if (!line) throw new Error('there is no Crate line')
  expect(line.encoder).toMatch(/^llrp:\/\//)
  const device = line.address.replace('ipp:', 'http:').replace('/ipp/print', '')
  await ask(page, 'POST', '/api/series', { name: 'crate tags', counts: { start: '4001', step: 1 }, unused: 'void' })

  await page.goto(address('/bench?new=1'))
  await page.getByLabel('Name', { exact: true }).fill('Crate with chip')
  await pick(page, 'Printer', 'Crate line')
  await page.getByRole('button', { name: 'Start the design' }).click()
  await page.waitForURL(/\/bench\/\d+/)
  await expect(page.getByTestId('in-hand')).toBeVisible()
  const id = Number(/bench\/(\d+)/.exec(page.url())?.[1])
  const made = (await ask(page, 'GET', `/api/designs/${String(id)}`)) as { document: { elements: object[] }; edit: number }
  const says = [{ text: '(01)09521234543213(21)' }, { field: 'crate tags' }]
  const document = {
    ...made.document,
    series: [{ name: 'crate tags', counts: { start: '4001', step: 1 } }],
    elements: [
      { id: 'code', kind: 'code', x: 4000, y: 4000, width: 60000, height: 20000, says, code: { symbology: 'gs1-datamatrix', module: 625 } },
      { id: 'words', kind: 'text', x: 66000, y: 6000, width: 30000, height: 12000, says: [{ text: 'Crate ' }, { field: 'crate tags' }], text: { typeface: 'Liberation Sans', points: 14 } },
    ],
  }
  await ask(page, 'PUT', `/api/designs/${String(id)}`, { document, edit: made.edit })
  await page.reload()
  await expect(page.getByTestId('in-hand')).toBeVisible()
  await page.locator('h2', { hasText: 'On this label' }).click()
  await page.keyboard.press('a')
  await page.keyboard.press('m')
  await expect(page.getByTestId('epc')).toHaveText(/^30[0-9A-F]{22}$/)
  expect(serialOf((await page.getByTestId('epc').textContent()) ?? '')).toBe(4001)
  await expect(page.getByText('urn:epc:tag:sgtin-96:1.9521234.054321.4001')).toBeVisible()
  await pick(page, 'What stands in user memory', 'Field crate tags')
  await expect(page.getByText('96 bits, and 32 bits of user memory')).toBeVisible()
  await sound(page)
  await page.setViewportSize({ width: 1024, height: 700 })
  await sound(page)
  await page.setViewportSize({ width: 1280, height: 800 })
  await kept(page)

  await fetch(`${device}/tags`, { method: 'POST', body: JSON.stringify({ 3: 'dead', 50: 'weak', 51: 'locked', 120: 'two', 160: 'dead' }) })
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await page.getByRole('button', { name: 'Change' }).first().click()
  await page.getByLabel('Labels of each record').fill('200')
  await page.getByRole('button', { name: 'Take this', exact: true }).click()
  await expect(page.getByText('200 labels looked at')).toBeVisible()
  await page.getByRole('button', { name: 'Print 200', exact: true }).click()
  await expect(page.getByText('All 200 are printed')).toBeVisible({ timeout: 120_000 })
  await expect(page.getByTestId('tags')).toContainText('200 chips written and read back, 5 labels void')
  await expect(page.getByTestId('read-back')).toContainText('200 of 200 read back as meant')
  await page.getByRole('button', { name: 'See each' }).click()
  const panel = page.getByRole('dialog', { name: 'Chips of this run' })
  await expect(panel.getByRole('row', { name: /void. No tag answers under the head/ })).toBeVisible()
  await sound(page)
  await panel.getByRole('button', { name: 'Close' }).click()
  // What the chips themselves say, taken apart here.
  const tags = (await (await fetch(`${device}/tags`)).json()) as { epc: string; user: string; kind: string }[]
  const good = tags.filter((t) => !t.kind).map((t) => serialOf(t.epc))
  expect(good).toEqual(Array.from({ length: 200 }, (_, i) => 4001 + i))
  expect(tags.filter((t) => !t.kind).every((t, i) => t.user === String(4001 + i))).toBe(true)
  expect(tags.length).toBe(205)

  // A number's life tells its chip; no number is without an account.
  const all = (await ask(page, 'GET', '/api/series')) as { name: string; account: Record<string, number> }[]
  expect(all.find((s) => s.name === 'crate tags')?.account).toMatchObject({ taken: 200, printed: 200, open: 0 })
  const [life] = (await ask(page, 'GET', '/api/numbers?number=4003')) as { labels: { epc: string }[] }[]
  expect(serialOf(life?.labels[0]?.epc ?? '')).toBe(4003)

  await page.goto(address(`/floor/${String(line.id)}`))
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('no label of this plant')).toBeVisible()
  await sound(page)
})
