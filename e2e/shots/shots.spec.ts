import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { address, device, dragField, expect, find, kept, newDesign, pick, test } from '../plant'

const file = (name: string) => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url))
const shoot = async (page: Page, name: string) => {
  await page.mouse.move(0, 0)
  await page.evaluate(() => document.fonts.ready)
  await page.waitForFunction(() => [...document.images].every((image) => image.complete))
  await page.screenshot({ path: file(name), animations: 'disabled' })
}

test('pictures of each place', async ({ maren: page }) => {
  test.setTimeout(240_000)
  await page.goto(address('/bench/2?record=47'))
  await page.locator('[data-element="code"]').click()
  await expect(page.getByText('all 240 well')).toBeVisible()
  await shoot(page, 'bench')

  await page.goto(address('/bench/1?record=9&strip=findings'))
  await expect(page.getByText('9 · in hand')).toBeVisible()
  await shoot(page, 'bench-findings')

  await page.goto(address('/bench/10?record=33'))
  await page.locator('[data-element="unit"]').click()
  await expect(page.getByText('GS1 asks for a module')).toBeVisible()
  await expect(page.getByText('all 36 well')).toBeVisible()
  await page.locator('.looks').evaluate((sheet) => (sheet.scrollTop = 170))
  await shoot(page, 'bench-code')

  await newDesign(page, 'Crate end, brine hall', /bins\.csv/, true)
  await dragField(page, 'contents', 3, 3)
  await page.getByText('contents as words').click()
  await dragField(page, 'lot', 3, 14)
  await page.getByText('lot as a code').click()
  await kept(page)
  await shoot(page, 'bench-lying')
  await page.goto(address('/bench'))
  await shoot(page, 'designs')

  await newDesign(page, 'Pump plate, brine hall', /circuits/)
  const add = async (key: string) => {
    await page.locator('h2', { hasText: 'On this label' }).click()
    await page.keyboard.press('a')
    await page.keyboard.press(key)
  }
  const put = async (box: Record<string, string>) => {
    for (const [name, value] of Object.entries(box)) {
      await page.getByLabel(name, { exact: true }).fill(value)
      await page.keyboard.press('Enter')
    }
  }
  await add('b')
  await pick(page, 'What it is filled with', 'black')
  await put({ 'From left': '2', 'From top': '2', Width: '72', Height: '9', 'Radius of the corners': '2' })
  await dragField(page, 'leads to', 6, 3)
  await page.getByText('leads to as words').click()
  await put({ 'From left': '5', 'From top': '3', Width: '66', Height: '7' })
  await pick(page, 'Ink', 'none: bare out of a box')
  await add('e')
  await put({ 'From left': '3', 'From top': '14', Width: '20', Height: '20' })
  await add('b')
  await put({ 'From left': '28', 'From top': '14', Width: '45', Height: '20' })
  await page.getByRole('button', { name: 'Divide into equal boxes' }).click()
  await page.getByLabel('Columns of boxes').fill('4')
  await pick(page, 'What stands in each box', 'numbered from 1')
  await page.getByRole('button', { name: 'Divide', exact: true }).click()
  await kept(page)
  await shoot(page, 'bench-shapes')

  await page.goto(address('/bench/4?record=3'))
  await page.locator('[data-element="circuit"]').click()
  await shoot(page, 'bench-sleeve')
  await page.goto(address('/bench/2?record=47'))
  await page.getByRole('button', { name: '76 × 38 paper' }).click()
  await find(page, 'Stock', 'S-087')
  await expect(page.getByText('labels with errors').first()).toBeVisible()
  await shoot(page, 'carry')

  await page.goto(address('/stockroom?cable=6.2&stock=S-137'))
  await expect(page.getByText('4.0 mm to 8.1 mm')).toBeVisible()
  await shoot(page, 'stockroom')

  await page.goto(address('/records?import=1'))
  await page.locator('input[type=file]').setInputFiles(fileURLToPath(new URL('../../examples/racks.csv', import.meta.url)))
  await expect(page.getByText('Take in 48 records')).toBeVisible()
  await shoot(page, 'records-import')

  await page.goto(address('/bench/9'))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await page.getByRole('button', { name: 'Print 40' }).click()
  await expect(page.getByText('All 40 are printed')).toBeVisible({ timeout: 30_000 })
  await page.getByRole('link', { name: 'See the web that came out' }).click()
  await expect(page.getByText('40 labels')).toBeVisible()
  await shoot(page, 'web-colours')

  await page.goto(address('/floor/1'))
  for (const [name, darkness] of [['cold hall', '70'], ['warm hall', '45']] as const) {
    await page.getByRole('button', { name: 'New set-up' }).click()
    await page.getByLabel('Name of the set-up').fill(name)
    await page.getByLabel('Darkness in per cent').fill(darkness)
    await page.getByRole('button', { name: 'Keep it' }).click()
    await expect(page.getByText(name, { exact: true })).toBeVisible()
  }
  await page.getByRole('button', { name: 'Print a ruled label' }).first().click()
  await expect(page.getByText('Where did it come out?')).toBeVisible()
  await shoot(page, 'printer')

  await page.goto(address('/bench/1'))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await expect(page.getByText('44 labels', { exact: false }).or(page.getByText('Print 44'))).toBeVisible()
  await page.getByRole('button', { name: 'Print 3 as a sample' }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3')
  await shoot(page, 'run')

  await page.goto(address('/bench/2'))
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.waitForURL(/\/runs\/\d+/)
  await device({ speed: 400 })
  await page.getByRole('button', { name: 'Print 240' }).click()
  await expect(page.locator('footer.go')).toContainText(/Printing (2\d|3\d) of 240/)
  await page.goto(address('/floor'))
  await expect(page.getByRole('link', { name: /came out of Dock 2/ })).toHaveCount(3)
  await shoot(page, 'floor')
  await device({ speed: 0 })
  await page.goto(address('/floor/1/web'))
  await expect(page.getByText('244 labels')).toBeVisible()
  await shoot(page, 'web')
  await page.goto(address('/deeds'))
  await expect(page.getByText('began to print the run of').first()).toBeVisible()
  await shoot(page, 'deeds')
})
