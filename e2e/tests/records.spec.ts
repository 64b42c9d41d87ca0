import { address, expect, importText, pick, sound, test } from '../plant'

test('a spreadsheet is read, corrected and taken in as text', async ({ maren: page }) => {
  // Windows-1252, semicolons, leading zeros, a twenty-digit number.
  const rows = 'vat;contents;number\nB-1;R\xf8dalge;00417\nB-2;"Salt; fine";12345678901234567890\n'
  await importText(page, 'vats.csv', Buffer.from(rows, 'latin1'))
  await expect(page.getByText('2 records')).toHaveCount(2)
  for (const value of ['Rødalge', 'Salt; fine', '00417', '12345678901234567890', 'Windows-1252, western', 'semicolon'])
    await expect(page.getByText(value, { exact: true }).first()).toBeVisible()
  await sound(page)
  await pick(page, 'Separator', 'comma')
  await expect(page.getByText('B-1;Rødalge;00417')).toBeVisible()
  await pick(page, 'Separator', 'semicolon')
  await pick(page, 'Names', 'no row of names')
  await expect(page.getByText('column 1')).toBeVisible()
  await pick(page, 'Names', 'first row names')
  await page.getByRole('button', { name: 'Take in 2 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await expect(page.getByText('12345678901234567890')).toBeVisible()
  await sound(page)
  await page.getByRole('button', { name: 'Retire' }).click()
  await page.getByRole('button', { name: 'Retire it' }).click()
  await page.waitForURL(/\/records$/)
  await expect(page.getByText('vats.csv')).toHaveCount(0)
})

test('what is put right is said', async ({ maren: page }) => {
  await importText(page, 'ragged.csv', 'bin,lot,lot,\nN-1,a\nN-2,a,b,c\n')
  await expect(page.getByText('Two columns are called "lot"; column 3 is called "lot 2".')).toBeVisible()
  await expect(page.getByText('Column 4 has no name')).toBeVisible()
  await expect(page.getByText('1 row has fewer values')).toBeVisible()
})

test('bad files are refused in words', async ({ maren: page }) => {
  const png = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex')
  for (const [name, content, words] of [
    ['empty.csv', '', 'The file is empty.'],
    ['header.csv', 'bin,lot\n', 'names of fields but no records'],
    ['logo.csv', png, 'This is a picture (image/png)'],
  ] as const) {
    await importText(page, name, content)
    await expect(page.getByRole('alert')).toContainText(words)
  }
  // 200 MB, refused by its size before it is sent.
  await page.goto(address('/records?import=1'))
  await expect(page.locator('input[type=file]')).toBeAttached()
  await page.evaluate(() => {
    const input = document.querySelector<HTMLInputElement>('input[type=file]')
    const files = new DataTransfer()
    files.items.add(new File([new Uint8Array(200 * 1024 * 1024).fill(65)], 'huge.csv'))
    if (!input) return
    input.files = files.files
    input.dispatchEvent(new Event('change'))
  })
  await expect(page.getByRole('alert')).toContainText('200 MB')
})
