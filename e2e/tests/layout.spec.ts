import { type Page } from '@playwright/test'
import { address, documentOf, dragField, expect, idOf, kept, looks, newDesign, pick, sound, test } from '../plant'

const list = (page: Page) => page.getByRole('region', { name: 'On this label' })
async function add(page: Page, key: string) {
  await page.locator('h2', { hasText: 'On this label' }).click()
  await page.keyboard.press('a')
  await page.keyboard.press(key)
}
async function type(page: Page, name: string, value: string) {
  await page.getByLabel(name, { exact: true }).fill(value)
  await page.keyboard.press('Enter')
}

test('words have styles, sizes by their capitals, angles, and boxes that they are stretched to', async ({ maren: page }) => {
  await newDesign(page, 'Rack sign', /bins\.csv/)
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  let last = await looks(page, 1)
  const changed = async () => {
    await expect.poll(() => looks(page, 1)).not.toBe(last)
    last = await looks(page, 1)
  }
  await page.locator('.piece').hover()
  await page.getByRole('button', { name: 'Piece 1 bold' }).click()
  await changed()
  await pick(page, 'What the size is told by', 'height of capitals')
  await type(page, 'Height of capitals', '4')
  await changed()
  await page.getByLabel('More room between letters, in per cent of the size').fill('20')
  await page.keyboard.press('Enter')
  await changed()
  await pick(page, 'What is done with too many words', 'stretch to the box')
  await changed()
  await page.getByLabel('Angle in degrees besides').fill('-15')
  await page.keyboard.press('Enter')
  await changed()
  await sound(page)
  await expect
    .poll(async () => (await documentOf(page)).elements[0])
    .toMatchObject({
      angle: -15,
      says: [{ field: 'bin', bold: true }],
      text: { capitals: 4000, tracking: 20, stretch: true },
    })
  await page.setViewportSize({ width: 1024, height: 700 })
  await sound(page)
})

test('elements are grouped, framed, shown under a condition, and undone by name', async ({ maren: page }) => {
  await newDesign(page, 'Tote label', /bins\.csv/)
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await dragField(page, 'lot', 5, 14)
  await page.getByText('lot as words').click()
  await list(page).getByRole('button', { name: 'text N-01-01-A' }).click({ modifiers: ['Shift'] })
  await page.getByLabel('Name of the group').fill('head')
  await page.getByRole('button', { name: 'Group them' }).click()
  await expect(page.getByText('Group “head”')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('[data-element="text-1"]').click()
  await expect(page.getByRole('heading', { name: '2 elements chosen' }), 'one of a group chooses all').toBeVisible()
  await page.getByRole('button', { name: 'Frame round them' }).click()
  const frame = page.locator('[data-element="frame-1"]')
  const before = await frame.boundingBox()
  await expect(page.getByRole('button', { name: 'Undo adding of frame-1' })).toBeEnabled()
  await sound(page)

  // The frame follows what it stands round.
  await page.keyboard.press('Escape')
  await page.locator('[data-element="text-1"]').click()
  await page.locator('h2', { hasText: 'chosen' }).click()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('button', { name: 'Undo move of 2' })).toBeEnabled()
  await expect.poll(async () => ((await frame.boundingBox())?.y ?? 0) - (before?.y ?? 0)).toBeGreaterThan(10)

  // It stands only on labels of some bins.
  await list(page).getByRole('button', { name: 'frame-1' }).click()
  const [first, second] = [await looks(page, 1), await looks(page, 2)]
  await pick(page, 'On which labels it stands', 'some labels')
  await pick(page, 'What the field must be', /^is not$/)
  await page.getByLabel('Values of the field').click()
  await page.keyboard.type('N-01-01-B')
  await page.keyboard.press('Enter')
  await expect.poll(() => looks(page, 2)).not.toBe(second)
  await expect.poll(() => looks(page, 1)).toBe(first)
  await sound(page)
  await kept(page)
  await expect
    .poll(async () => (await documentOf(page)).elements.find((e) => e.id === 'frame-1'))
    .toMatchObject({ around: ['text-1', 'text-2'], when: { field: 'bin', is: 'none of', values: ['N-01-01-B'] } })
})

test('what is dragged snaps to others, and Ctrl keeps it from it; guides come out of the rulers', async ({ maren: page }) => {
  await newDesign(page, 'Crate plate')
  await expect(page.locator('.strip .hand canvas')).toBeVisible({ timeout: 20_000 })
  await add(page, 'b')
  await type(page, 'From left', '20')
  await type(page, 'From top', '4')
  await type(page, 'Width', '20')
  await type(page, 'Height', '8')
  await add(page, 'e')
  await type(page, 'From left', '45')
  await type(page, 'From top', '20')
  await type(page, 'Width', '10')
  await type(page, 'Height', '10')
  const x = () => page.getByLabel('From left', { exact: true })
  const drag = async (toMM: number, control = false) => {
    const at = await page.locator('[data-element="oval-1"]').boundingBox()
    const hand = await page.getByTestId('in-hand').boundingBox()
    if (!at || !hand) throw new Error('nothing to drag')
    const scale = hand.width / 76
    await page.mouse.move(at.x + 20, at.y + 20)
    await page.mouse.down()
    if (control) await page.keyboard.down('Control')
    await page.mouse.move(hand.x + toMM * scale + 20, at.y + 20, { steps: 5 })
    if (!control) await expect(page.locator('.snap').first()).toBeVisible()
    await page.mouse.up()
    if (control) await page.keyboard.up('Control')
  }
  await drag(20.4)
  await expect(x()).toHaveValue('20.0')
  await drag(20.4, true)
  await expect(x()).not.toHaveValue('20.0')

  await page.getByRole('button', { name: 'Rulers' }).click()
  const ruler = await page.getByTestId('ruler-left').boundingBox()
  const hand = await page.getByTestId('in-hand').boundingBox()
  if (!ruler || !hand) throw new Error('no ruler')
  await page.mouse.move(ruler.x + 5, ruler.y + 60)
  await page.mouse.down()
  await page.mouse.move(hand.x + (hand.width * 31) / 76, ruler.y + 60, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByTitle(/^Guide at 3[01]\.\d mm/)).toBeVisible()
  await drag(31.2)
  await expect(x()).toHaveValue(/^3[01]\.\d$/)
  await sound(page)
  await page.getByRole('button', { name: 'Rulers' }).click()
})

test('elements are copied from one design into another, with the fields of its records', async ({ maren: page }) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'])
  await newDesign(page, 'From here', /bins\.csv/)
  await dragField(page, 'bin', 5, 4)
  await page.getByText('bin as words').click()
  await add(page, 'b')
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+c')
  await page.keyboard.press('Control+v')
  await expect(list(page).locator('.element')).toHaveCount(4)
  await kept(page)
  const from = idOf(page)
  await newDesign(page, 'To there', /bins\.csv/)
  await page.locator('h2', { hasText: 'On this label' }).click()
  await page.keyboard.press('Control+v')
  await expect(list(page).locator('.element')).toHaveCount(2)
  await expect(page.getByRole('button', { name: 'text N-01-01-A' })).toBeVisible()
  await page.keyboard.press('Control+x')
  await expect(page.getByText('Nothing yet.')).toBeVisible()
  await page.goto(address(`/bench/${String(from)}`))
  await expect(list(page).locator('.element'), 'it stays where it was copied').toHaveCount(4)
})
