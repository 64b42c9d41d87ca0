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

test('records are found by words and fields, sorted, kept as a set, and chosen for a run', async ({ maren: page }) => {
  await importText(page, 'shelves.csv', 'shelf,contents,bags\nA10,Dulse,9.5\nA2,Kombu,10\nB1,Dulse,100\nA3,,7\n')
  await page.getByRole('button', { name: 'Take in 4 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
  const cells = (column: number) => page.locator(`tbody td:nth-child(${String(column + 1)})`)
  await page.getByRole('button', { name: 'shelf', exact: true }).click()
  await expect(cells(1)).toHaveText(['A2', 'A3', 'A10', 'B1'])
  await page.getByRole('button', { name: 'bags', exact: true }).click()
  await page.getByRole('button', { name: 'bags', exact: true }).click()
  await expect(cells(3)).toHaveText(['100', '10', '9.5', '7'])
  await page.getByLabel('Words to find').fill('dulse')
  await expect(page.getByText('2 of 4')).toBeVisible()
  await page.getByLabel('Words to find').fill('')
  await page.getByRole('button', { name: '+ a field' }).click()
  await pick(page, 'Field 1', 'bags')
  await pick(page, 'How field 1 is looked at', 'between')
  await page.getByLabel('Value 1 of field 1').fill('9')
  await page.getByLabel('Value 2 of field 1').fill('10')
  await expect(cells(1)).toHaveText(['A2', 'A10'])
  await sound(page)
  await page.getByRole('button', { name: 'Keep these as a set' }).click()
  await expect(page.getByRole('heading', { name: 'shelves.csv, 2 records chosen' })).toBeVisible()
  await expect(cells(1)).toHaveText(['A2', 'A10'])

  await newDesign(page, 'Shelf labels', /^shelves\.csv ·/)
  await dragField(page, 'shelf', 5, 5)
  await page.getByText('shelf as words').click()
  await kept(page)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByRole('button', { name: 'Change' }).first().click()
  await page.getByLabel('Words to find').fill('a')
  await page.getByRole('button', { name: '+ a field' }).click()
  await pick(page, 'How field 1 is looked at', 'begins with')
  await page.getByLabel('Value 1 of field 1').fill('A')
  await expect(page.getByText('3 found')).toBeVisible()
  await sound(page)
  await page.getByRole('button', { name: 'Take exactly these' }).click()
  await page.getByLabel('Record 2', { exact: true }).click()
  await page.getByRole('button', { name: 'Take these', exact: true }).click()
  await expect(page.getByText('records 1, 4')).toBeVisible()
})
