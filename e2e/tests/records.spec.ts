import { address, dragField, expect, importText, kept, newDesign, pick, sound, test } from '../plant'
import { workbook } from '../zip'

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

test('a workbook is read as it shows, and its labels print and read back', async ({ maren: page }) => {
  const book = workbook({ Notes: [['Brinewick'], ['one'], ['two']], Crates: [['crate', 'number'], ['C-1', 417], ['C-2', 418]] })
  await importText(page, 'crates.xlsx', book)
  await expect(page.getByText('The workbook has 2 sheets; "Notes" is read.')).toBeVisible()
  await pick(page, 'Sheet', 'Crates')
  await expect(page.getByText('00417', { exact: true })).toBeVisible()
  await expect(page.getByLabel('Separator', { exact: true })).toHaveCount(0)
  await sound(page)
  await page.getByRole('button', { name: 'Take in 2 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await newDesign(page, 'Crates from a workbook', /^crates\.xlsx ·/)
  await dragField(page, 'number', 5, 5)
  await page.getByText('number as a code').click()
  await kept(page)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByRole('button', { name: 'Print 2', exact: true }).click()
  await expect(page.getByTestId('read-back')).toContainText('2 of 2 read back as meant')
})

test('JSON, XML, fixed columns and pasted cells are read, and corrected', async ({ maren: page }) => {
  const orders = { orders: [{ no: 'A-1', lines: [{ item: 'K-1', qty: '007' }, { item: 'K-2', qty: '1E5' }] }, { no: 'A-2', lines: [{ item: 'K-3', qty: '3' }] }] }
  await importText(page, 'orders.json', JSON.stringify(orders))
  await expect(page.getByText('1E5', { exact: true })).toBeVisible()
  await pick(page, 'List', /^\/orders$/)
  await expect(page.getByText('A-2', { exact: true })).toBeVisible()
  await importText(page, 'bins.xml', '<bins><bin no="N-1"><lot>00417</lot></bin><bin no="N-2"><lot>5</lot></bin></bins>')
  await expect(page.getByText('00417', { exact: true })).toBeVisible()
  await importText(page, 'bins.txt', 'BIN   LOT     CONTENTS\nN-01  26K104  Dulse\nN-02  26K105  Sea salt\n')
  await expect(page.getByLabel('Columns begin at')).toHaveValue('1,7,15')
  await page.getByLabel('Columns begin at').fill('1,7')
  await page.keyboard.press('Enter')
  await expect(page.getByText('26K105  Sea salt')).toBeVisible()
  await sound(page)
  await page.goto(address('/records?import=1'))
  await expect(page.locator('input[type=file]')).toBeAttached()
  await page.evaluate(() => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', 'bin\tlot\nN-07\t00042\nN-08\t00043\n')
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }))
  })
  await expect(page.getByText('00042', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Take in 2 records' }).click()
  await expect(page.getByText('Pasted cells').first()).toBeVisible()
})
