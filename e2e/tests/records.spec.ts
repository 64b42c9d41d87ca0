import { gunzipSync } from 'node:zlib'
import { address, dragField, expect, importText, kept, newDesign, pick, sound, test } from '../plant'
import { workbook, zip } from '../zip'

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

test('the same file again replaces what is here, after a look at what is different, or stands beside it', async ({
  maren: page,
}) => {
  await importText(page, 'weeds.csv', 'bin,contents\nN-1,Dulse\nN-2,Kelp\n')
  await page.getByRole('button', { name: 'Take in 2 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
  const first = page.url()
  await importText(page, 'weeds.csv', 'bin,contents\nN-1,Dulse\nN-2,Sugar kelp\nN-3,Laver\n')
  await expect(page.getByText(/weeds.csv is here already, taken in .* by Maren. In this file: 1 new · 1 changed/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'What changed' }).getByText('Sugar kelp')).toBeVisible()
  await sound(page)
  await page.setViewportSize({ width: 1024, height: 700 })
  await sound(page)
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.getByLabel('Keep both, this one as a second set').check()
  await expect(page.getByRole('button', { name: 'Take in 3 records' })).toBeVisible()
  await page.getByLabel('Replace it; designs go over').check()
  await page.getByRole('button', { name: 'Replace with 3 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
  expect(page.url()).not.toBe(first)
  await page.goto(address('/records'))
  await expect(page.getByRole('link', { name: 'weeds.csv' })).toHaveCount(1)
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
  await page.getByRole('button', { name: 'Keep the choice…' }).click()
  await page.getByLabel('Name of the choice').fill('nine or ten')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Forget it' })).toBeVisible()
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

test('ordered quantities become packs, and what is no number is told', async ({ maren: page }) => {
  await importText(page, 'order.csv', 'item,qty,gift\nK-1,50,2\nK-2,2.5,\nK-3,many,\n')
  await page.getByRole('button', { name: 'Take in 3 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await newDesign(page, 'Pack labels', /^order\.csv ·/)
  await dragField(page, 'item', 5, 5)
  await page.getByText('item as a code').click()
  await kept(page)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByRole('button', { name: 'Change' }).nth(1).click()
  await pick(page, 'Where the number comes from', 'as the field qty says')
  await pick(page, 'A field whose number is added', 'and gift besides')
  await page.getByLabel('Pieces in a pack, a label for each pack').fill('12')
  await page.keyboard.press('Tab')
  await expect(page.locator('.n-base-select-menu:visible')).toHaveCount(0)
  await sound(page)
  await page.getByRole('button', { name: 'Take this', exact: true }).click()
  await expect(page.getByText('2 quantities are no whole numbers')).toBeVisible()
  await expect(page.getByText('record 2 says “2.5”, taken as 3')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Print 6', exact: true })).toBeVisible()

  await page.goto(address('/records'))
  await page.getByText('order.csv').first().click()
  await page.getByRole('button', { name: 'Packs…' }).click()
  await pick(page, 'The ordered quantity', 'qty')
  await page.getByLabel('The size of a pack').click()
  await page.keyboard.type('12')
  await page.keyboard.press('Enter')
  await expect(page.locator('.n-base-select-menu:visible')).toHaveCount(0)
  await sound(page)
  await page.getByRole('button', { name: 'Make a set of packs' }).click()
  await expect(page.getByRole('heading', { name: 'order.csv, in packs' })).toBeVisible()
  await expect(page.locator('tbody tr').nth(1)).toContainText('K-1')
  await expect(page.locator('tbody tr')).toHaveCount(4)
})

test('records are written by keys, filled down, pasted, undone, and changed later', async ({ maren: page }) => {
  await page.goto(address('/records'))
  await page.getByRole('button', { name: 'Write records' }).click()
  await page.getByLabel('Name of the set').fill('Hand list')
  await page.getByLabel('bin, record 1').click()
  const cell = (row: number, column: number) => page.getByRole('row').nth(row).getByRole('gridcell').nth(column)
  // A scanner types and sends Enter: from field to field, from record to record.
  for (const value of ['H-1', 'Dulse', '007', 'H-2', 'Kombu', '1E5']) {
    await page.keyboard.type(value)
    await page.keyboard.press('Enter')
  }
  await expect(cell(1, 2)).toHaveText('007')
  await expect(cell(2, 2)).toHaveText('1E5')
  // Pasted from a spreadsheet.
  await page.evaluate(() => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', 'H-3\tSea salt\t26K1\nH-4\t\t26K2\n')
    document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  })
  await expect(cell(4, 0)).toHaveText('H-4')
  // The contents of the third record go into the fourth.
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('Control+d')
  await expect(cell(4, 1)).toHaveText('Sea salt')
  await page.keyboard.press('Control+z')
  await expect(cell(4, 1)).toHaveText('')
  await page.keyboard.press('Control+y')
  await expect(page.getByText('4 records')).toBeVisible()
  // Checked as it is typed.
  await page.getByRole('button', { name: 'check what lot must be' }).click()
  await page.getByLabel('Pattern').fill('\\d.*')
  await page.getByRole('dialog').getByText('it must be there').click()
  await sound(page)
  await page.getByRole('button', { name: 'Check it so' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await cell(3, 2).click()
  await page.keyboard.type('K1')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status').filter({ hasText: '1 value is not what its field must be' })).toContainText('record 3 · lot: “K1” does not look as it should')
  await expect(cell(3, 2)).toHaveAttribute('aria-invalid', 'true')
  await page.getByRole('button', { name: /1 value is not what/ }).click()
  await page.keyboard.type('26K1')
  await page.keyboard.press('Enter')
  await expect(page.getByText('not what its field must be')).toHaveCount(0)
  await sound(page)
  await page.getByRole('button', { name: 'Keep them' }).click()
  await page.waitForURL(/\/records\/\d+$/)
  await expect(page.getByText('1E5')).toBeVisible()
  await newDesign(page, 'Hand labels', /^Hand list ·/)

  // Changed later, the design goes over to the new ones.
  await page.goto(address('/records'))
  await page.getByText('Hand list').first().click()
  await page.getByRole('button', { name: 'Change by hand' }).click()
  await page.getByLabel('bin, record 1').click()
  await expect(page.getByRole('button', { name: 'check what lot must be' })).toHaveClass(/on/) // kept with the set
  await page.keyboard.type('H-01')
  await page.keyboard.press('ArrowDown')
  await page.getByRole('button', { name: 'Keep them' }).click()
  await page.waitForURL(/\/records\/\d+$/)
  await expect(page.getByText('H-01')).toBeVisible()
  await page.goto(address('/bench'))
  await page.getByText('Hand labels').first().click()
  await expect(page.locator('[data-field="bin"]')).toContainText('H-01')
})

test('a choice is kept by name, and used again on fresh records', async ({ maren: page }) => {
  for (const rows of ['T1,ready\nT2,empty\n', 'T3,ready\nT4,ready\nT5,empty\n']) {
    await importText(page, 'tanks.csv', `tank,state\n${rows}`)
    await page.getByRole('button', { name: /^(Take in|Replace with)/ }).click()
    await page.waitForURL(/\/records\/\d+/)
    if (rows.startsWith('T1')) {
      await page.getByLabel('Words to find').fill('ready')
      await page.getByRole('button', { name: 'Keep the choice…' }).click()
      await page.getByLabel('Name of the choice').fill('to label')
      await page.keyboard.press('Enter')
      await expect(page.getByLabel('Kept choices', { exact: true })).toBeVisible()
      await expect(page.getByText('1 of 2')).toBeVisible()
    }
  }
  await expect(page.getByText('3 of 3')).toBeVisible()
  await pick(page, 'Kept choices', 'to label')
  await expect(page.getByText('2 of 3')).toBeVisible()
  await sound(page)
  await page.getByRole('button', { name: 'Forget it' }).click()
  await expect(page.getByLabel('Kept choices')).toHaveCount(0)
})

/** Two totes as a dBASE table of texts (levels 3 and later). */
function dbf(fields: string[], rows: string[][], width = 10): Buffer {
  const head = Buffer.alloc(32)
  head.set([3, 126, 11, 26])
  head.writeUInt32LE(rows.length, 4)
  head.writeUInt16LE(33 + 32 * fields.length, 8)
  head.writeUInt16LE(1 + width * fields.length, 10)
  const columns = fields.map((name) => {
    const column = Buffer.alloc(32)
    column.write(name)
    column.write('C', 11)
    column[16] = width
    return column
  })
  const records = rows.map((row) => ' ' + row.map((value) => value.padEnd(width)).join(''))
  return Buffer.concat([head, ...columns, Buffer.from('\r' + records.join('') + '\x1a')])
}
const cells = (row: string[]) => row.map((value) => `<table:table-cell office:value-type="string"><text:p>${value}</text:p></table:table-cell>`).join('')
const totes = [['T-1', '00417'], ['T-2', '1E5']]
const office = 'urn:oasis:names:tc:opendocument:xmlns'
const files: Record<string, string | Buffer> = {
  'totes.ods': zip({
    mimetype: 'application/vnd.oasis.opendocument.spreadsheet',
    'content.xml': `<?xml version="1.0"?><office:document-content xmlns:office="${office}:office:1.0" xmlns:table="${office}:table:1.0" xmlns:text="${office}:text:1.0"><office:body><office:spreadsheet><table:table table:name="Totes">${[['tote', 'code'], ...totes].map((row) => `<table:table-row>${cells(row)}</table:table-row>`).join('')}</table:table></office:spreadsheet></office:body></office:document-content>`,
  }),
  'totes.json': JSON.stringify(totes.map(([tote, code]) => ({ tote, code }))),
  'totes.xml': `<totes>${totes.map(([tote, code]) => `<one><tote>${tote ?? ''}</tote><code>${code ?? ''}</code></one>`).join('')}</totes>`,
  'totes.txt': 'tote  code \nT-1   00417\nT-2   1E5  \n',
  'totes.dbf': dbf(['tote', 'code'], totes),
  // create table totes(tote text, code text), with both rows
  'totes.sqlite': gunzipSync(Buffer.from('H4sIAN4uCGsC/wsO9MksSVVIyy/KTSxRMGZgYmBkZHBQUGBgADIhGAYYgZgFjU8IMDHoJTPyghQzHmQAolFAbWDLyCYuLs4YXZKYlJNakl+SWgwmmJyDXB1DXBVCHJ18XBXAQhogUqEktaJEJzk/BcLSBMUNE+MLBsbPQGIUDFvAycQsLByia2ToasrNyCwsHqJraGBgYmgOAJCsNaAABAAA', 'base64')),
}
for (const [name, content] of Object.entries(files))
  test(`${name} becomes labels that read back`, async ({ maren: page }) => {
    await importText(page, name, content)
    await page.getByRole('button', { name: 'Take in 2 records' }).click()
    await page.waitForURL(/\/records\/\d+/)
    for (const [, code] of totes) await expect(page.getByText(code ?? '', { exact: true })).toBeVisible()
    await newDesign(page, `Labels of ${name}`, new RegExp(`^${name.replace('.', '\\.')} ·`))
    await dragField(page, 'code', 5, 5)
    await page.getByText('code as a code').click()
    await kept(page)
    await page.getByRole('button', { name: 'Prepare a run' }).click()
    await page.getByRole('button', { name: 'Print 2', exact: true }).click()
    await expect(page.getByTestId('read-back')).toContainText('2 of 2 read back as meant')
  })
