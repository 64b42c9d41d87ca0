import { readFileSync } from 'node:fs'
import { address, device, expect, idOf, pick, signIn, sound, test } from '../plant'

const goBar = 'footer.go'

async function prepare(page: import('@playwright/test').Page, design: number) {
  await page.goto(address(`/bench/${String(design)}`))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await expect(page.getByText('looked at')).toBeVisible()
}

test.beforeEach(async () => {
  await device({ fault: '', speed: 0, labels: 2000 })
})

test('240 labels come out of the printer and read back as meant', async ({ maren: page }) => {
  const { out } = await device({})
  await prepare(page, 2)
  await expect(page.getByText('240 codes read back as meant')).toBeVisible()
  await sound(page)
  await page.getByRole('button', { name: 'Print 3 as a sample' }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3 read back as meant')
  await page.getByRole('button', { name: 'Print the other 237' }).click()
  await expect(page.getByTestId('read-back')).toContainText('240 of 240 read back as meant', {
    timeout: 30_000,
  })
  await expect(page.getByText('All 240 are printed')).toBeVisible()
  expect((await device({})).out).toBe(out + 240)
  await sound(page)

  // The web that came out, label by label.
  await page.getByRole('link', { name: 'See the web that came out' }).click()
  await expect(page.getByRole('img', { name: `Label ${String(out + 240)} as printed` })).toBeVisible()
  await sound(page)

  // One label again, then the whole run.
  await page.goBack()
  await page.getByLabel('Labels to print again').fill('7')
  await page.getByRole('button', { name: 'Print again' }).click()
  await expect(page.getByTestId('read-back')).toContainText('241 of 241')
  await page.getByRole('button', { name: 'Print all 240 again' }).click()
  await expect(page.getByTestId('read-back')).toContainText('481 of 481', { timeout: 30_000 })
  await page.goto(address('/floor'))
  await expect(page.getByText('Bin label, north shed').first()).toBeVisible()
  await sound(page)
})

test('which records and how many, and labels with errors are left out', async ({ maren: page }) => {
  await prepare(page, 1)
  await expect(page.getByText('4 labels with errors').first()).toBeVisible()
  await page.getByRole('button', { name: 'Change' }).first().click()
  await page.getByRole('textbox', { name: 'Range of records' }).fill('1-99')
  await page.getByRole('button', { name: 'Take these' }).click()
  await expect(page.getByRole('alert')).toContainText('numbers from 1 to 48')
  // None, then ticked by hand.
  await page.getByRole('button', { name: 'None' }).click()
  for (const record of [8, 9, 10, 12])
    await page.getByLabel(`Record ${String(record)}`, { exact: true }).click()
  await page.getByLabel('Record 12', { exact: true }).click()
  await sound(page)
  await page.getByRole('button', { name: 'Take these' }).click()
  await expect(page.getByText('records 8-10')).toBeVisible()
  await page.getByRole('button', { name: 'Change' }).nth(1).click()
  await pick(page, 'Where the number comes from', 'field bags')
  await page.getByRole('button', { name: 'Take this' }).click()
  // Records 8, 9 and 10 have 2, 8 and 4 bags, and 9 has an error.
  await expect(page.getByText('14 labels', { exact: true })).toBeVisible()
  await expect(page.getByText('leaves out the 8 labels with errors')).toBeVisible()
  // Corrected by hand for one record.
  await page.getByRole('button', { name: 'Change' }).first().click()
  await page.getByLabel('Labels of record 10', { exact: true }).fill('5')
  await page.getByRole('button', { name: 'Take these' }).click()
  await expect(page.getByText('15 labels', { exact: true })).toBeVisible()
  const { out } = await device({})
  await page.getByRole('button', { name: 'Print 7', exact: true }).click()
  await expect(page.getByText('All 7 are printed')).toBeVisible()
  expect((await device({})).out).toBe(out + 7)
})

test('a run waits for the roll and goes on; cancel stops it', async ({ maren: page }) => {
  await device({ labels: 20, speed: 4000 })
  await prepare(page, 2)
  const rolls = page.getByRole('region', { name: 'Rolls' })
  await expect(rolls).toContainText('labels 1 to 20')
  await expect(rolls).toContainText('labels 21 to 240')
  await expect(rolls).toContainText('1 full roll missing')
  await page.getByRole('button', { name: 'Print 240' }).click()
  await expect(page.locator(goBar)).toContainText('Roll is empty')
  await expect(page.locator(goBar)).toContainText('Printing 20 of 240')
  const run = idOf(page)
  await page.goto(address('/floor'))
  await expect(page.getByText('label 20 of 240: Roll is empty')).toBeVisible()
  await sound(page)
  await device({ fault: '', speed: 400 })
  await page.goto(address(`/runs/${String(run)}`))
  await expect(page.locator(goBar)).toContainText(/Printing (2[1-9]|[3-9]\d) of 240/)
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('button', { name: /Print the other/ })).toBeVisible()
  await expect(page.getByText('cancelled', { exact: true })).toBeVisible()
})

test('a printer that does not answer is said so, and a stranger sees nothing', async ({
  maren: page,
  browser,
}) => {
  await device({ fault: 'cover-open' })
  await page.goto(address('/floor'))
  await expect(page.getByText('Cover is open')).toBeVisible()
  await expect(page.getByText('Close the cover; the run goes on by itself.')).toBeVisible()
  await device({ fault: '' })
  await expect(page.getByRole('region', { name: 'Dock 2' }).getByText('Ready')).toBeVisible()

  const stranger = await (await browser.newContext()).newPage()
  await stranger.goto(address('/runs/1'))
  await stranger.waitForURL('**/sign-in?to=/runs/1')
  await sound(stranger)
  await stranger.getByLabel('Name').fill('Maren')
  await stranger.getByLabel('Password').fill('wrong')
  await stranger.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(stranger.getByRole('alert')).toContainText('do not belong together')
  await signIn(stranger)
  await stranger.getByRole('button', { name: 'Maren' }).click()
  await stranger.getByText('Shop floor (dark)').click()
  await expect(stranger.locator('.n-dropdown-menu')).toHaveCount(0)
  await sound(stranger)
  await stranger.getByRole('button', { name: 'Maren' }).click()
  await stranger.getByText('Sign out').click()
  await stranger.waitForURL('**/sign-in')
})

test('where it is in doubt which label came out last, a person says it before anything goes on', async ({
  maren: page,
}) => {
  await page.goto(address('/bench/2'))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await page.getByRole('button', { name: 'as a sample' }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3')
  // A printer that was reset, as the server tells of it; what is answered to it is looked at.
  const said: unknown[] = []
  const path = /\/runs\/\d+$/.exec(page.url())?.[0] ?? ''
  const run = (await (await page.request.get(address(`/api${path}`))).json()) as { prints: object[] }
  const doubt = {
    state: 'held',
    kind: 'rest',
    labels: 237,
    printed: 41,
    firstLabel: 4,
    lastLabel: 240,
    lastOut: 44,
  }
  run.prints.push({
    ...run.prints[0],
    ...doubt,
    id: 99,
    inDoubt: true,
    text: 'The printer was reset.',
    do: 'Look.',
  })
  await page.route(/\/api\/runs\/\d+$/, (route) => route.fulfill({ json: run }))
  await page.route(/\/api\/prints\/99\//, async (route) => {
    said.push([route.request().url().split('/').pop(), route.request().postDataJSON()])
    await route.fulfill({ status: 204 })
  })
  const goOn = page.getByRole('button', { name: 'Go on after it' })
  await expect(goOn).toBeDisabled()
  await sound(page)
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect.poll(() => said).toEqual([['cancel', {}]])
  await page.getByLabel(/Last label of the run that came out, 4 to 240/).fill('51')
  await page.keyboard.press('Tab')
  await goOn.click()
  await expect.poll(() => said.at(-1)).toEqual(['go-on', { lastLabel: 51 }])
})

test('a sample of what is worth a look, files, and an order of the day', async ({ maren: page }) => {
  await page.goto(address('/bench/2'))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await expect(page.getByText('240 codes read back as meant')).toBeVisible()
  const proof = page.getByRole('region', { name: 'Proof' })
  const worth = proof.getByRole('button', { name: /^label \d+ / })
  await worth.first().click()
  const first = /\d+/.exec((await worth.first().textContent()) ?? '')?.[0] ?? ''
  await expect(page.getByText(`label ${first} ·`)).toBeVisible()
  await pick(page, 'Which labels the sample has', 'labels I name')
  await page.getByLabel('Labels of the sample').fill('5, 8-9')
  await sound(page)
  await page.getByRole('button', { name: 'Print them as a sample' }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3 read back as meant')
  await pick(page, 'Which labels the sample has', /worth a look/)
  await page.getByRole('button', { name: /Print \d+ as a sample/ }).click()
  await expect(page.getByTestId('read-back')).not.toContainText('3 of 3')
  const coming = page.waitForEvent('download')
  await page.getByRole('link', { name: 'PDF', exact: true }).click()
  const file = await coming
  expect(file.suggestedFilename()).toMatch(/^run-\d+-pdf\.pdf$/)
  expect(
    readFileSync(await file.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-')
  await pick(page, 'Form of the file', 'SVG')
  await page.getByRole('button', { name: 'Put it into the folder' }).click()
  await expect(page.getByRole('status').filter({ hasText: /240 labels put into the folder as run-\d+-svg\.zip/ })).toBeVisible()
  await page.getByRole('button', { name: 'Put it into the folder' }).click()
  await expect(page.getByRole('status').filter({ hasText: /as run-\d+-svg-2\.zip/ })).toBeVisible()
  await page.getByLabel('Name of the order of the day').fill('All the bins')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await page.getByRole('link', { name: 'Floor' }).last().click()
  const orders = page.getByRole('region', { name: 'Orders of the day' })
  await expect(orders).toContainText('newest bins.csv, all')
  await sound(page)
  await orders.getByRole('button', { name: 'Print Bins of the morning' }).click()
  await expect(page.getByTestId('read-back')).toContainText('24 of 24 read back as meant')
  await page.goto(address('/floor'))
  await orders.getByRole('button', { name: 'Forget All the bins' }).click()
  await page.getByRole('button', { name: 'Forget it' }).click()
  await expect(orders).not.toContainText('All the bins')
})

test('rolls that lie ready are in the plan of a run', async ({ maren: page }) => {
  await device({ labels: 20, speed: 4000 })
  await page.goto(address('/stockroom?stock=S-076'))
  const ready = page.getByRole('region', { name: 'Rolls that lie ready' })
  await expect(ready.getByLabel('What is on each')).toHaveValue('1739')
  await ready.getByLabel('What is on each').fill('100')
  await ready.getByLabel('How many').fill('2')
  await ready.getByLabel('Where they lie').fill('shelf 3')
  await ready.getByRole('button', { name: 'Note' }).click()
  await expect(ready).toContainText('2 of 100 pieces')
  await sound(page)
  await prepare(page, 2)
  const rolls = page.getByRole('region', { name: 'Rolls' })
  await expect(rolls.getByRole('listitem').nth(1)).toContainText(/labels 21 to 120 ?from shelf 3, then it is changed/)
  await expect(rolls.getByRole('listitem').nth(3)).toContainText(/labels 221 to 240 ?1 full roll missing/)
  await sound(page)
  await rolls.getByRole('button', { name: 'It is loaded' }).first().click()
  await expect(rolls.getByRole('listitem')).toHaveCount(3)
  await page.goto(address('/stockroom?stock=S-076'))
  await ready.getByRole('button', { name: 'Take one away' }).click()
  await expect(ready.getByRole('listitem')).toHaveCount(0)
})

test('runs are found by a value, a person and the day', async ({ maren: page }) => {
  await prepare(page, 2)
  const id = idOf(page)
  await prepare(page, 1)
  await page.goto(address('/runs'))
  const mine = page.getByRole('cell', { name: String(id), exact: true })
  const rack = page.getByRole('cell', { name: /Rack label/ })
  await expect(mine).toBeVisible()
  await expect(rack.first()).toBeVisible()
  await page.getByLabel('Find runs').fill('N-02-03-B')
  await expect(rack).toHaveCount(0)
  await expect(mine).toBeVisible()
  await sound(page)
  await page.reload()
  await expect(page.getByLabel('Find runs')).toHaveValue('N-02-03-B')
  await page.getByLabel('Find runs').fill('maren rack')
  await expect(rack.first()).toBeVisible()
  await expect(mine).toHaveCount(0)
  await page.getByLabel('Find runs').fill('no such run')
  await expect(page.getByText('No run is like that.')).toBeVisible()
})

test('what was used is drawn by printer, stock and day', async ({ maren: page }) => {
  await prepare(page, 2)
  await page.getByRole('button', { name: 'Print 3 as a sample' }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3')
  await page.goto(address('/runs'))
  await page.getByRole('link', { name: 'What was used' }).click()
  await page.waitForURL('**/runs/used')
  const row = page.getByRole('row', { name: /Dock 2/ })
  await expect(row).toContainText('76 × 38 paper')
  await expect(row.getByRole('img')).toHaveAccessibleName(/76 × 38 paper at Dock 2: [\d,]+ in 30 days/)
  await page.getByText('metres of web').click()
  await expect(row).toContainText(/\d+\.\d m/)
  await pick(page, 'How many days', '7 days')
  await expect(row.getByRole('img')).toHaveAccessibleName(/in 7 days/)
  await sound(page)
})

test('the labels of a run go by mail, and a refusal is told', async ({ maren: page }) => {
  const prepared = await page.request.post(address('/api/runs'), { data: { designId: 2, recordSetId: 2 } })
  const { id } = (await prepared.json()) as { id: number }
  await page.goto(address(`/runs/${String(id)}`))
  await page.getByLabel('Send them to').fill('nobody@brinewick.example')
  await page.getByRole('button', { name: 'Mail the PDF' }).click()
  await expect(page.getByText(/There is no mailbox nobody@brinewick.example. Nothing was sent/)).toBeVisible()
  await page.getByLabel('Send them to').fill('dock2@brinewick.example')
  await page.getByRole('button', { name: 'Mail the PDF' }).click()
  await expect(page.getByText('sent to dock2@brinewick.example')).toBeVisible()
  await sound(page)
})

test('labels between the groups of a run: cut marks, and labels of another design', async ({ maren: page }) => {
  await prepare(page, 2)
  const records = page.locator('section', { hasText: 'Which records' })
  await records.getByRole('button', { name: 'Change' }).click()
  await page.getByRole('textbox', { name: 'Range of records' }).fill('1-6')
  await page.getByRole('button', { name: 'Take these' }).click()
  await expect(page.getByText('records 1-6')).toBeVisible()
  const between = page.locator('section', { hasText: 'Labels between' })
  await between.getByRole('button', { name: 'Change' }).click()
  await pick(page, 'What stands between, 1', 'cut marks')
  await pick(page, 'When, 1', 'behind every so many')
  await page.getByLabel('Labels that one stands for, 1').fill('2')
  await between.getByRole('button', { name: 'One more' }).click()
  await pick(page, 'What stands between, 2', 'labels of Rack label')
  await pick(page, 'When, 2', 'before all')
  await sound(page)
  await between.getByRole('button', { name: 'Take this' }).click()
  await expect(between).toContainText('Cut mark behind every 2 labels, 3 labels')
  await expect(between).toContainText('before all, 1 label')
  await expect(page.getByText('10 labels looked at')).toBeVisible()
  await expect(page.getByRole('img', { name: 'Label 4, of record 2' })).toBeVisible()
  await expect(page.getByText('label 4 · Cut mark')).toBeVisible()
  await sound(page)
  const { out } = await device({})
  await page.getByRole('button', { name: 'Print 10', exact: true }).click()
  await expect(page.getByText('All 10 are printed')).toBeVisible({ timeout: 30_000 })
  expect((await device({})).out).toBe(out + 10)
})

test('prints that wait at a printer change places', async ({ maren: page }) => {
  await device({ fault: 'paused' })
  const runs: string[] = []
  for (const labels of ['1', '2', '3']) {
    await prepare(page, 2)
    await pick(page, 'Which labels the sample has', 'labels I name')
    await page.getByLabel('Labels of the sample').fill(`1-${labels}`)
    await page.getByRole('button', { name: 'Print them as a sample' }).click()
    await expect(page.getByRole('button', { name: 'Cancel' })).toBeVisible()
    runs.push(String(idOf(page)))
  }
  await page.goto(address('/floor'))
  await page.getByRole('link', { name: 'and 2 more wait' }).click()
  const queue = page.locator('section', { hasText: 'Wait for their turn' }).getByRole('listitem')
  await expect(queue.first()).toContainText('2 labels')
  await page.getByRole('button', { name: 'Let it go first' }).click()
  await expect(queue.first()).toContainText('3 labels')
  await sound(page)
  await device({ fault: '' })
  await expect(queue).toHaveCount(0, { timeout: 30_000 })
  await page.goto(address(`/runs/${runs[1] ?? ''}`))
  await expect(page.getByTestId('read-back')).toContainText('2 of 2 read back as meant')
})

test('a look at all labels can be stopped and begun again', async ({ maren: page }) => {
  const late = async (route: import('@playwright/test').Route) => {
    await new Promise((resolve) => setTimeout(resolve, 20_000))
    await route.continue().catch(() => undefined) // nobody waits for it any more
  }
  await page.route('**/api/runs/*/proof', late)
  await page.goto(address('/bench/2'))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await expect(page.getByText('Looking at 240 labels')).toBeVisible()
  await page.getByRole('button', { name: 'Stop', exact: true }).click()
  await expect(page.getByText('Not looked at')).toBeVisible()
  await sound(page)
  await page.unroute('**/api/runs/*/proof')
  await page.getByRole('button', { name: 'Look at every label' }).click()
  await expect(page.getByText('240 codes read back as meant')).toBeVisible()
})

test('a run that is shared with a printer that has other labels in it is refused in words', async ({ maren: page }) => {
  await prepare(page, 2)
  await page.getByLabel('Printers that share the labels').click()
  await page.locator('.n-base-select-option:visible', { hasText: 'and Shelf cart' }).click()
  await page.keyboard.press('Escape')
  await sound(page)
  await page.getByRole('button', { name: 'Print 240', exact: true }).click()
  await expect(page.getByRole('alert').first()).toContainText('Shelf cart')
  await expect(page.getByText('Nothing yet. Print a sample first')).toBeVisible()
})
