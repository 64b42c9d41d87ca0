import { kept, address, documentOf, expect, find, load, looks, newDesign, pick, sound, test } from '../plant'

// Each kind of stock: loaded into the printer, designed for, laid out from the tray, printed, looked at.
for (const kind of [
  { name: 'tape cut by content', printer: 'Drawer cart', load: 'S-115', stock: '24 mm tape, white', along: true, says: /m of web/ },
  { name: 'tape of one length, two inks', printer: 'Sign bench', load: 'S-121', stock: '101 mm tape, yellow', along: true, says: /8\.1 m of web/ },
  { name: 'sleeve', printer: 'Cable bench', load: 'S-131', stock: 'Sleeve 12.7, white', along: true, says: /2\.2 m of web/ },
  { name: 'wrap', printer: 'Cable bench', load: 'S-139', stock: 'Wrap 38 × 101.4', along: false, says: /m of web/ },
  { name: 'flag', printer: 'Cable bench', load: 'S-144', stock: 'Flag 25 × 35', along: true, says: /m of web/ },
  { name: 'plate', printer: 'Plate bench', load: 'S-146', stock: 'Plate 80 × 40, 2 holes', along: false, says: /40 plates/ },
  { name: 'sheet', printer: 'Drum store', load: 'S-156', stock: 'Sheet of 8, 99.1 × 67.7', along: false, says: /5 sheets/ },
  { name: 'die-cut in colours', printer: 'Drum store', load: 'S-092', stock: '105 × 148 polypropylene', along: false, says: /6\.0 m of web/ },
]) {
  test(`${kind.name}: from the stock to the printed piece`, async ({ maren: page }) => {
    await page.goto(address('/floor'))
    await page.getByRole('link', { name: kind.printer, exact: true }).click()
    await find(page, 'Stock to load', kind.load)
    await page.getByRole('button', { name: 'Load it' }).click()
    await expect(page.getByText(`${kind.stock} ·`)).toBeVisible()

    await page.goto(address('/bench?new=1'))
    await page.getByLabel('Name', { exact: true }).fill(`A ${kind.name}`)
    await pick(page, 'Printer', kind.printer)
    await expect(page.getByText(`${kind.stock} · in the printer now`)).toBeVisible()
    await pick(page, 'Records', /circuits/)
    if (kind.along) await page.getByText('Reads along the feed').click()
    await page.getByRole('button', { name: 'Start the design' }).click()
    await page.waitForURL(/\/bench\/\d+/)
    await page.locator('[data-field="circuit"]').click()
    await page.getByText('Put it on the label as words').click()
    if (kind.name === 'plate') {
      for (const [name, value] of [['From left', '15'], ['From top', '5']] as const) {
        await page.getByLabel(name).fill(value)
        await page.keyboard.press('Enter')
      }
    } else if (kind.name.includes('sleeve') || kind.name === 'wrap') {
      await page.getByLabel('Size of type in points').fill('6')
      await page.keyboard.press('Enter')
    } else if (kind.name.includes('inks') || kind.name.includes('colours')) {
      await pick(page, 'Ink', 'red')
    }
    for (const [name, value] of kind.name === 'plate' ? [] : ([['From left', '2'], ['From top', '1.5'], ['Height', '5']] as const)) {
      await page.getByLabel(name, { exact: true }).fill(value)
      await page.keyboard.press('Enter')
    }
    await expect(page.getByText('✓ all 40 well')).toBeVisible()
    await page.getByRole('button', { name: 'Prepare a run' }).click()
    await page.waitForURL(/\/runs\/\d+/)
    await expect(page.locator('.line', { hasText: 'Printer' }).getByText(kind.says)).toBeVisible()
    await page.getByRole('button', { name: 'Print 40', exact: true }).click()
    await expect(page.getByText('All 40 are printed')).toBeVisible({ timeout: 60_000 })
    await page.getByRole('link', { name: 'See the web that came out' }).click()
    await expect(page.locator('img').first()).toBeVisible()
  })
}

test('a legend stands as often as is chosen', async ({ maren: page }) => {
  await page.goto(address('/bench/5'))
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 }) // drawn here from now on
  const before = await looks(page, 1)
  await pick(page, 'How often the legend stands on a piece', '2 ×')
  await expect.poll(() => looks(page, 1)).not.toBe(before)
  await expect(page.locator('.n-base-select-menu:visible')).toHaveCount(0)
  await kept(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => looks(page, 1)).toBe(before)
  await sound(page)
})

test('a part-used sheet is gone on with', async ({ maren: page }) => {
  await load(page, 'Drum store', 'Sheet of 8, 99.1 × 67.7')
  await page.goto(address('/bench?new=1'))
  await page.getByLabel('Name', { exact: true }).fill('On a part-used sheet')
  await pick(page, 'Printer', 'Drum store')
  await pick(page, 'Records', /circuits/)
  await page.getByRole('button', { name: 'Start the design' }).click()
  await page.waitForURL(/\/bench\/\d+/)
  await page.locator('[data-field="circuit"]').click()
  await page.getByText('Put it on the label as words').click()
  await kept(page)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByLabel('First place of the first sheet').fill('6')
  await page.getByRole('button', { name: 'Print 3 as a sample' }).click()
  await expect(page.getByText('sample: 3 of 3 labels')).toBeVisible()
})

test('a size that is typed finds a stock or makes one', async ({ maren: page }) => {
  await page.goto(address('/bench?new=1'))
  await page.getByLabel('Name', { exact: true }).fill('Typed size')
  await page.getByLabel('Stock', { exact: true }).click()
  await page.keyboard.type('90x45')
  await page.locator('.n-base-select-option', { hasText: 'Make a label of 90x45' }).click()
  await expect(page.locator('form').getByText('90 × 45 label')).toBeVisible()
  await page.getByRole('button', { name: 'Start the design' }).click()
  await page.waitForURL(/\/bench\/\d+/)
  await expect(page.getByRole('button', { name: '90 × 45 label' })).toBeVisible()
})

test('a design is carried to another stock and printer, with what breaks', async ({ maren: page }) => {
  await newDesign(page, 'To be carried', /^bins\.csv ·/)
  await page.locator('[data-field="code"]').click()
  await page.getByText('Put it on the label as a code').click()
  await expect(page.getByText('✓ all 240 well')).toBeVisible()
  await page.getByRole('button', { name: '76 × 38 paper' }).click()
  const panel = page.getByRole('region', { name: 'Another stock or printer' })
  await find(page, 'Stock', 'S-087')
  await expect(panel.getByText('240 labels with errors').first()).toBeVisible()
  await sound(page)
  await find(page, 'Stock', 'S-094')
  await expect(panel.getByText('Nothing breaks').first()).toBeVisible()
  await pick(page, 'Printer', 'Sign bench')
  await expect(panel.getByText('Sign bench takes tape, not die-cut.')).toBeVisible()
  await pick(page, 'Printer', 'Shelf cart')
  await panel.getByRole('listitem').filter({ hasText: 'Keep margins' }).getByRole('button', { name: 'Take this' }).click()
  await expect(page.getByRole('button', { name: 'Shelf cart' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Dock 2' })).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.getByRole('button', { name: 'Shelf cart' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('button', { name: 'Shelf cart' })).toBeVisible()
  // The artwork lies as is asked for, in each of the four turns.
  await page.getByRole('button', { name: 'Shelf cart' }).click()
  await pick(page, 'How the artwork lies', 'Along, upside down')
  await panel.getByRole('listitem').filter({ hasText: 'Scale' }).getByRole('button', { name: 'Take this' }).click()
  await expect.poll(async () => (await documentOf(page)).turn).toBe(270)
})
