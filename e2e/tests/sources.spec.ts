import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir, userInfo } from 'node:os'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import type { Page } from '@playwright/test'
import { address, desk, dragField, expect, files, importText, inPlant, kept, newDesign, pick, sound, test } from '../plant'

test('a table is read, its labels print, what changed is told, and so is what was printed', async ({ maren: page }) => {
  inPlant(`create table shed.pumps (pump text primary key, serial text, labels int, labelled_by text);
    insert into shed.pumps values ('P-01', '00417'), ('P-02', '1E5'); grant select, update on shed.pumps to oddspool_reader`)
  await page.goto(address('/records'))
  await page.getByRole('button', { name: 'From a database' }).click()
  await pick(page, 'The table', 'shed.pumps')
  await expect(page.getByText('1E5', { exact: true })).toBeVisible()
  await sound(page)
  await page.locator('.columns').click()
  for (const column of ['pump', 'serial']) await page.locator('.n-base-select-option:visible', { hasText: column }).first().click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('columnheader', { name: 'labels' })).toHaveCount(0)
  await page.getByLabel('Name', { exact: true }).fill('Pumps')
  await pick(page, 'Read again', 'when asked, and before every run')
  await page.getByRole('button', { name: 'Take them in' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await expect(page.getByText('Shed database')).toBeVisible()
  await page.getByRole('button', { name: 'Write back…' }).click()
  await pick(page, 'How many', 'labels')
  await pick(page, 'By whom', 'labelled_by')
  await page.getByRole('button', { name: 'Tell it so' }).click()
  await expect(page.getByText('it is told what is printed')).toBeVisible()
  await sound(page)

  await newDesign(page, 'Serial plate', /^Pumps ·/)
  await dragField(page, 'serial', 5, 5)
  await page.getByText('serial as a code').click()
  await kept(page)
  // Before the run it is read again: a pump that came meanwhile is there.
  inPlant(`insert into shed.pumps values ('P-03', '00419')`)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByRole('button', { name: 'Print 3', exact: true }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3 read back as meant')
  await expect.poll(() => inPlant(`select string_agg(pump || labels || labelled_by, ' ' order by pump) from shed.pumps`), { timeout: 20_000 }).toBe('P-011Maren P-021Maren P-031Maren')

  await page.goto(address('/records'))
  await page.getByRole('link', { name: 'Pumps' }).click()
  await expect(page.getByText('told of 3 labels')).toBeVisible()
  inPlant(`update shed.pumps set serial = '00999' where pump = 'P-02'; delete from shed.pumps where pump = 'P-01'`)
  await page.getByRole('button', { name: 'Read again' }).click()
  await expect(page.getByRole('region', { name: 'What changed' })).toContainText('serial 1E5 → 00999')
  await expect(page.getByRole('button', { name: '1 gone · 1 changed' })).toBeVisible()
  await sound(page)
  // What labels say is gone: nothing is taken in, unless it is to be.
  inPlant(`alter table shed.pumps rename serial to number`)
  await page.getByRole('button', { name: 'Read again' }).click()
  await expect(page.getByRole('alert').first()).toContainText('has no column serial any more')
  await expect(page.getByText('00999').last()).toBeVisible()
  await page.goto(address('/bench'))
  await page.getByRole('button', { name: 'More with Serial plate' }).click()
  await page.getByText('Print', { exact: true }).click()
  await page.getByRole('button', { name: 'Use the records as they were read last' }).click()
  await page.waitForURL(/\/runs\/\d+/)
})

test('a question in SQL asks for what it needs, and one that writes is refused', async ({ maren: page }) => {
  await page.goto(address('/records?from=connection'))
  await page.getByText('A question in SQL').click()
  const question = page.getByLabel('The question in SQL')
  await question.fill('delete from shed.bins')
  await expect(page.getByRole('alert')).toContainText('Only questions that read are sent')
  await question.fill('select bin, bags from shed.bins where bin like :shelf order by bin')
  await page.getByLabel('shelf', { exact: true }).fill('N-01-0_-A')
  await expect(page.getByText('N-01-08-A')).toBeVisible()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await sound(page)
  await page.getByLabel('Name', { exact: true }).fill('One shelf')
  await page.getByRole('button', { name: 'Take them in' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await page.getByRole('button', { name: 'Read again' }).click()
  await page.getByLabel('shelf', { exact: true }).fill('N-02-0_-A')
  await page.getByRole('button', { name: 'Read with these' }).click()
  await expect(page.getByRole('region', { name: 'Records', exact: true })).toContainText('N-02-01-A')
})

test('a connection is tried before it is kept, and its password never shown', async ({ maren: page }) => {
  await page.goto(address('/records?from=connection'))
  await page.getByRole('button', { name: 'New connection…' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name', { exact: true }).fill('Far shed')
  await dialog.getByLabel('Machine').fill('192.0.2.1')
  await dialog.getByLabel('Database').fill('far')
  await dialog.getByLabel('Its name for Odd Spool').fill('reader')
  await dialog.getByLabel('Password').fill('tide-pool')
  await sound(page)
  await dialog.getByRole('button', { name: 'Try it and keep it' }).click()
  await expect(dialog.getByRole('alert')).toContainText('192.0.2.1 is not in a network')
  await dialog.getByRole('button', { name: 'Keep it untried' }).click()
  await expect(page.getByRole('alert')).toContainText('192.0.2.1')
  await page.getByRole('button', { name: 'Change it…' }).click()
  await expect(dialog.getByLabel('Password')).toHaveValue('')
  await dialog.getByRole('button', { name: 'Close the connection' }).click()
  await page.getByRole('button', { name: 'Close it' }).click()
  await expect(page.getByText('Far shed')).toHaveCount(0)
})

test('an order is looked up, some of its lines become labels, and the desk is told', async ({ maren: page }) => {
  await page.goto(address('/records'))
  await page.getByRole('button', { name: 'Look up an order' }).click()
  await expect(page.getByLabel('Number of the order')).toBeFocused()
  await page.keyboard.type('SO-9') // the field is there to be typed or scanned into
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('has no order SO-9')
  await page.keyboard.type('SO-2611')
  await page.keyboard.press('Enter')
  await expect(page.getByText('2 of 2 lines · 8 labels')).toBeVisible()
  await expect(page.getByText('Larkhollow Provisions')).toBeVisible()
  await page.getByRole('checkbox', { name: 'Line 2' }).click()
  await expect(page.getByText('1 of 2 lines · 3 labels')).toBeVisible()
  await sound(page)
  await page.getByRole('button', { name: 'Take 1 line' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await page.getByRole('button', { name: 'Write back…' }).click()
  await page.getByRole('button', { name: 'Tell it so' }).click()
  await expect(page.getByText('it is told what is printed')).toBeVisible()
  await desk('fault', { broken: true })
  await newDesign(page, 'Packing label', /^SO-2611 ·/)
  await dragField(page, 'gtin', 5, 5)
  await page.getByText('gtin as a code').click()
  await kept(page)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByRole('button', { name: 'Print 3', exact: true }).click()
  await expect(page.getByTestId('read-back')).toContainText('3 of 3 read back as meant')
  await expect.poll(async () => (await desk('told')).length).toBe(1) // its answer was lost
  await desk('fault', {})
  await page.goto(address('/records'))
  await page.getByRole('link', { name: 'SO-2611' }).click()
  await expect(page.getByText('What was printed waits to be told')).toBeVisible()
  await page.getByRole('button', { name: 'Write back…' }).click()
  await page.getByRole('button', { name: 'Tell it so, and try again' }).click()
  await expect.poll(async () => (await page.reload(), page.getByText('told of 3 labels').count()), { timeout: 20_000 }).toBe(1)
  expect((await desk('told')).map((t) => [t.printed.line, t.printed.labels])).toEqual([['1', 3]])
})

test('items are searched and ticked, and a SQLite file is read', async ({ maren: page }) => {
  await page.goto(address('/records?from=desk'))
  await page.getByText('Items', { exact: true }).click()
  await page.getByLabel('Words of the items').fill('kelp bag')
  await page.keyboard.press('Enter')
  await expect(page.getByText('0 of 3 lines')).toBeVisible()
  await page.getByRole('checkbox', { name: 'Line SK-250' }).click()
  await page.getByRole('checkbox', { name: 'Line WK-250' }).click({ modifiers: ['Shift'] })
  await expect(page.getByText('3 of 3 lines')).toBeVisible()
  await page.getByRole('button', { name: 'Take all' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await expect(page.getByText('21.50')).toBeVisible()
  const file =
    'H4sIAAAAAAAC/+yUwUrDQBCGZ3ZLrcWcJOx1jg1a2VjQk2CV3OohmnuIuEIwTTRZoUXwPXwMH8TX6LXgqUfZARG9eE/zHWaYPz9h2X/Ym3iWW0P3VT3PLE1AACKcEwGABIAe/CD+zAj/I+Ho7d3DDUiMAV/xA2NoNweyr5TCU5vdFqasrGm49C6vo2kSUTK9mEXE0qgMrpDNL2y2TuQifplZopFrZM3C0mOdz7N6SQ9meUhFbmvT8IcgEH11phDy8s4smqcitybNnm3Fc8r/SUNuLtuBO67ngsUV4CeuoKOlDIX095OxPg6jyR5KXyVjHWp9ovWQ818DbnDd3VPrGUgf3R6IHenvuiXwvl/2jq3kKwAA///Uj/EaAAgAAA=='
  await importText(page, 'totes.db', gunzipSync(Buffer.from(file, 'base64')))
  await expect(page.getByText('00600', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Take in 2 records' }).click()
  await page.waitForURL(/\/records\/\d+/)
})

/** Starts MariaDB as a machine of its own, with a table of totes; ends with the test. */
async function mariadb(port: number): Promise<ChildProcess> {
  const folder = mkdtempSync(join(tmpdir(), 'oddspool-mariadb-'))
  const as = `--user=${userInfo().username}`
  execFileSync('mariadb-install-db', ['--no-defaults', as, `--datadir=${folder}/data`, '--auth-root-authentication-method=normal', '--skip-test-db'], { stdio: 'ignore' })
  const server = spawn(
    'mariadbd',
    ['--no-defaults', as, `--datadir=${folder}/data`, '--bind-address=127.0.0.2', `--port=${String(port)}`, `--socket=${folder}/socket`],
    { stdio: 'ignore' },
  )
  const statement = `create database plant character set utf8mb4; create user reader@'%' identified by 'tide-pool'; grant select on plant.* to reader@'%';
    create table plant.totes (tote varchar(20) primary key, brine decimal(9,4) zerofill); insert into plant.totes values ('T-007', 1.5), ('T-008', 20)`
  await expect(() => execFileSync('mariadb', ['--no-defaults', '-u', 'root', `--socket=${folder}/socket`, '-e', statement], { stdio: 'ignore' })).toPass({ timeout: 30_000 })
  return server
}

/** Makes a connection, and goes on with it. */
async function connect(page: Page, name: string, kind: string, fill: Record<string, string>) {
  await page.goto(address('/records?from=connection'))
  await page.getByRole('button', { name: 'New connection…' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name', { exact: true }).fill(name)
  await pick(page, 'What it is', kind)
  for (const [label, value] of Object.entries(fill)) await dialog.getByLabel(label, { exact: true }).fill(value)
  return dialog
}

/** Takes in what is shown, and prints the values of a field as codes that read back. */
async function printTwo(page: Page, set: string, field: string) {
  await page.getByLabel('Name', { exact: true }).fill(set)
  await page.getByRole('button', { name: 'Take them in' }).click()
  await page.waitForURL(/\/records\/\d+/)
  await newDesign(page, `${set} label`, new RegExp(`^${set} ·`))
  await dragField(page, field, 5, 5)
  await page.getByText(`${field} as a code`).click()
  await kept(page)
  await page.getByRole('button', { name: 'Prepare a run' }).click()
  await page.getByRole('button', { name: 'Print 2', exact: true }).click()
  await expect(page.getByTestId('read-back')).toContainText('2 of 2 read back as meant')
}

test('a table of MariaDB becomes labels, digits as it writes them', async ({ maren: page }, info) => {
  const port = 23306 + info.parallelIndex
  const server = await mariadb(port)
  try {
    const dialog = await connect(page, 'Brine house', 'MySQL or MariaDB', { Machine: '127.0.0.2', Port: String(port), Database: 'plant', 'Its name for Odd Spool': 'reader', Password: 'tide-pool' })
    await pick(page, 'Over the network', 'as it is, readable on the way')
    await dialog.getByRole('button', { name: 'Try it and keep it' }).click()
    await pick(page, 'The table', 'totes')
    await expect(page.getByText('00020.0000')).toBeVisible()
    await printTwo(page, 'Totes', 'brine')
  } finally {
    server.kill('SIGKILL')
  }
})

test('a file in a folder of the server becomes labels', async ({ maren: page }) => {
  mkdirSync(join(files, 'scales'))
  writeFileSync(join(files, 'scales', 'scale.csv'), 'scale;code\nS-1;00417\nS-2;1E5\n')
  const dialog = await connect(page, 'Scales', 'a folder of files', { Folder: 'scales' })
  await dialog.getByRole('button', { name: 'Try it and keep it' }).click()
  await pick(page, 'The file', 'scale.csv')
  await expect(page.getByText('1E5', { exact: true })).toBeVisible()
  await pick(page, 'Names', 'no row of names')
  await expect(page.getByRole('columnheader', { name: 'column 1' })).toBeVisible()
  await pick(page, 'Names', 'first row names the fields')
  await expect(page.getByRole('columnheader', { name: 'scale' })).toBeVisible()
  await printTwo(page, 'Scales', 'code')
})
