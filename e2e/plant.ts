import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import AxeBuilder from '@axe-core/playwright'
import { type Browser, expect, type Page, test as base } from '@playwright/test'
import { heldTo } from './contract'

export { expect }

/** The folder under which the server reads files where they lie. */
export const files = mkdtempSync(join(tmpdir(), 'oddspool-files-'))

/** Starts a demonstration with data of its own, and tells the tests of this worker where it is. */
async function startPlant(worker: number) {
  const project = fileURLToPath(new URL('..', import.meta.url))
  const demo = spawn('script/demo', ['--fresh', '--fast', '--port', String(18080 + 100 * worker)], {
    cwd: project,
    env: {
      ...process.env,
      ODDSPOOL_BUILT: '1',
      ODDSPOOL_DATA: `${project}.data/e2e-${String(worker)}`,
      ODDSPOOL_FILES: files,
      ODDSPOOL_REACH: '127.0.0.2/32', // another machine, as far as Odd Spool knows: a test starts MariaDB there
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  await new Promise<void>((resolve, reject) => {
    let said = ''
    demo.stdout.on('data', (data: Buffer) => {
      said += data.toString()
      const found = /Odd Spool is at (\S+)\//.exec(said)
      const plant = /own database is at (\S+)/.exec(said)
      const desk = /order desk answers at (\S+)/.exec(said)
      const printer = /Dock 2 prints at \S+ its own page is (\S+)\//.exec(said)
      if (!found?.[1] || !printer?.[1] || !plant?.[1] || !desk?.[1]) return
      process.env.PLANT = plant[1]
      process.env.DESK = desk[1]
      process.env.BASE = found[1]
      process.env.DEVICE = printer[1]
      resolve()
    })
    demo.once('exit', (code) => {
      reject(new Error(`script/demo ended with ${String(code)}: ${said}`))
    })
  })
  return demo
}

/**
 * A page on which Maren is signed in, that fails its test when the console tells of an error, or an answer is not what the contract says. Her browser stays open from one test to
 * the next, so that it reads the page's code once; what it keeps of one test is gone in the next.
 */
export const test = base.extend<{ maren: Page }, { plant: undefined; contexts: Map<boolean, Awaited<ReturnType<typeof contextOf>>> }>({
  plant: [
    async ({}, use, info) => {
      const demo = await startPlant(info.parallelIndex)
      await use(undefined)
      demo.kill('SIGTERM')
      await once(demo, 'exit')
      rmSync(files, { recursive: true })
    },
    { scope: 'worker', auto: true, timeout: 120_000 },
  ],
  contexts: [
    async ({}, use) => {
      const contexts = new Map<boolean, Awaited<ReturnType<typeof contextOf>>>()
      await use(contexts)
      for (const { context } of contexts.values()) await context.close()
    },
    { scope: 'worker' },
  ],
  maren: async ({ browser, contexts, hasTouch }, use) => {
    const browsing = contexts.get(hasTouch) ?? (await contextOf(browser, hasTouch))
    contexts.set(hasTouch, browsing)
    const page = await browsing.context.newPage()
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.message))
    page.on('console', (message) => {
      // Answers other than 2xx are told by the browser itself; the tests look at what people see.
      if (message.type() === 'error' && !message.text().startsWith('Failed to load resource')) errors.push(message.text())
    })
    await page.goto(address('/spool.svg'))
    await page.evaluate(() => localStorage.clear())
    if (!(await page.request.get(address('/api/session'))).ok()) await signIn(page)
    await use(page)
    await page.close() // a body that its page no longer reads is not waited for
    const untrue = await browsing.untrue()
    expect(errors).toEqual([])
    expect(untrue, 'every answer is what the contract says').toEqual([])
  },
})

/** A browser's memory of its own, as large as its fingers or its mouse have it. */
async function contextOf(browser: Browser, hasTouch: boolean) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, hasTouch, isMobile: hasTouch, reducedMotion: 'reduce' })
  return { context, untrue: heldTo(context) }
}

export const address = (path: string) => `${process.env.BASE ?? ''}${path}`

export async function signIn(page: Page) {
  await page.goto(address('/sign-in'))
  await page.getByRole('button', { name: 'Sign in with it' }).click()
  await page.waitForURL('**/floor')
}

/** Does something in the plant's own database, as its other systems would, and returns what that says. */
export const inPlant = (statement: string) =>
  execFileSync('psql', ['-qtA', process.env.PLANT ?? '', '-c', statement], { encoding: 'utf8' }).trim()

/** What the order desk was told, or does wrong from now on. */
export async function desk(path: 'told' | 'fault', body?: object) {
  const method = body ? 'POST' : 'GET'
  const response = await fetch(`${process.env.DESK ?? ''}/desk/${path}`, { method, body: body && JSON.stringify(body) })
  expect(response.ok).toBe(true)
  return path === 'told' ? ((await response.json()) as { printed: { line: string; labels: number } }[]) : []
}

/** Somebody puts a stock into a printer, each by its name. */
export async function load(page: Page, printer: string, stock: string) {
  const named = async (path: string, name: string) => {
    const all = (await (await page.request.get(address(path))).json()) as { id: number; name?: string; about: { name?: string } }[]
    const found = all.find((one) => (one.name ?? one.about.name) === name)
    if (!found) throw new Error(`there is no ${name}`)
    return found.id
  }
  const stockId = await named('/api/stocks', stock)
  const loaded = await page.request.post(address(`/api/printers/${String(await named('/api/printers', printer))}/load`), { data: { stockId } })
  expect(loaded.ok()).toBe(true)
}

/** Presses a button of the printer itself. */
export async function device(change: { fault?: string; speed?: number; labels?: number }) {
  const response = await fetch(`${process.env.DEVICE ?? ''}/device`, { method: 'POST', body: JSON.stringify(change) })
  expect(response.ok).toBe(true)
  return (await response.json()) as { left: number; out: number }
}

/** Nothing that the accessibility checker knows is wrong, and nothing is wider than the screen. */
export async function sound(page: Page) {
  // A menu that is still closing is nobody's; one that stays open is looked at too.
  await page.locator('.n-base-select-menu:visible').first().waitFor({ state: 'hidden', timeout: 2000 }).catch(() => undefined)
  // Without frames of others there is nothing to gather on a page of its own.
  const { violations } = await new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] }).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)).toEqual([])
  const sideways = await page.evaluate(() => document.documentElement.scrollWidth > document.documentElement.clientWidth)
  expect(sideways).toBe(false)
}

export async function importText(page: Page, name: string, content: string | Buffer) {
  await page.goto(address('/records?import=1'))
  await page.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(content as string) })
}

/** The number at the end of an address such as /bench/7. */
export const idOf = (page: Page) => Number(/\/(\d+)(\?|$)/.exec(page.url())?.[1])

/** A menu that is still closing has options too, which are not meant. */
const noMenu = (page: Page) => expect(page.locator('.n-base-select-menu:visible')).toHaveCount(0)

/** Opens one of Naive UI's selects by its name and takes an option. */
export async function pick(page: Page, name: string, option: string | RegExp) {
  await noMenu(page)
  const menu = page.locator('.n-base-select-menu:visible')
  const wanted = page.locator('.n-base-select-option:visible', { hasText: option }).first()
  // A long list has only what is in sight: it is scrolled until the option is, from its end to its beginning again.
  const onward = (list: Element) => {
    const atEnd = list.scrollTop + list.clientHeight >= list.scrollHeight - 1
    list.scrollTop = atEnd ? 0 : list.scrollTop + 120
  }
  await expect(async () => {
    if ((await menu.count()) === 0) await page.getByLabel(name, { exact: true }).click() // the page may have closed it, as it does when it changes
    try {
      await expect(wanted).toBeVisible({ timeout: 400 })
      await wanted.click({ timeout: 2000 })
    } catch (late) {
      await menu.locator('.v-vl').first().evaluate(onward, undefined, { timeout: 500 })
      throw late
    }
  }).toPass({ timeout: 30_000 })
}

/** Opens a select that can be searched, types, and takes the first option that has the text. */
export async function find(page: Page, name: string, text: string) {
  await noMenu(page)
  await page.getByLabel(name, { exact: true }).click()
  await page.keyboard.type(text)
  await page.locator('.n-base-select-option:visible', { hasText: text }).first().click()
}

export async function newDesign(page: Page, name: string, records?: string | RegExp, along = false) {
  await page.goto(address('/bench?new=1'))
  await page.getByLabel('Name', { exact: true }).fill(name)
  await expect(page.getByRole('button', { name: 'Start the design' })).toBeEnabled()
  if (records) await pick(page, 'Records', records)
  if (along) await page.getByText('Reads along the feed').click()
  await page.getByRole('button', { name: 'Start the design' }).click()
  await page.waitForURL(/\/bench\/\d+/)
  await expect(page.getByTestId('in-hand')).toBeVisible()
}

/** Drags a field from the tray to a point of the label in hand, in millimetres. */
export async function dragField(page: Page, field: string, x: number, y: number) {
  const hand = page.getByTestId('in-hand')
  const box = await hand.boundingBox()
  if (!box) throw new Error('no label is in hand')
  const scale = Math.max(box.width, box.height) / 76
  await page.locator(`[data-field="${field}"]`).dragTo(hand, { targetPosition: { x: x * scale, y: y * scale } })
}

/** What a label on the strip looks like, drawn here or by the server. */
export const looks = (page: Page, record: number) =>
  page
    .getByRole('img', { name: `Label of record ${String(record)}`, exact: true })
    .evaluate((shown) => (shown instanceof HTMLCanvasElement ? shown.toDataURL() : (shown as HTMLImageElement).src))

/** The draft as the server has it. */
export async function documentOf(page: Page) {
  const answer = await page.request.get(address(`/api/designs/${String(idOf(page))}`))
  return ((await answer.json()) as { document: { turn?: number; reference?: string; elements: Record<string, unknown>[]; demands?: { overruled?: string }[]; printer: { inks?: string[] } } }).document
}

/** The draft is at the server. */
export const kept = (page: Page) => expect(page.locator('.draft')).toContainText('draft kept')
