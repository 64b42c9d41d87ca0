import { address, expect, sound, test } from '../plant'

test.use({ hasTouch: true, isMobile: true })

// A panel at the printer and a phone: what can be pressed is tall enough for a finger, and nothing lies beyond the edge.
for (const [what, viewport] of [
  ['a panel of ten inches', { width: 800, height: 1280 }],
  ['a phone', { width: 390, height: 844 }],
] as const) {
  test(`Floor and a run on ${what}`, async ({ maren: page }) => {
    await page.setViewportSize(viewport)
    const fits = async () => {
      const wide = await page.evaluate(() => document.documentElement.scrollWidth)
      expect(wide, page.url()).toBeLessThanOrEqual(viewport.width)
      const small = await page.evaluate(() =>
        Array.from(
          document.querySelectorAll<HTMLElement>('main a, main button, main input, main .n-base-selection'),
        )
          .filter((e) => e.checkVisibility({ visibilityProperty: true, opacityProperty: true }))
          .filter((e) => !e.closest('.unseen, [aria-hidden="true"]'))
          .map((e) => [e.closest('.n-input, .n-checkbox') ?? e, e] as const)
          .filter(
            ([box]) => box.getBoundingClientRect().height > 0 && box.getBoundingClientRect().height < 39.5,
          )
          .map(
            ([box, e]) =>
              `${e.tagName} ${e.textContent.trim() || e.getAttribute('aria-label') || ''} ${String(box.getBoundingClientRect().height)}`,
          ),
      )
      expect(small, page.url()).toEqual([])
    }
    await page.goto(address('/floor'))
    await expect(page.getByRole('region', { name: 'Dock 2' }).getByText('Ready')).toBeVisible()
    await fits()
    await sound(page)
    const prepared = await page.request.post(address('/api/runs'), { data: { designId: 2, recordSetId: 2 } })
    const { id } = (await prepared.json()) as { id: number }
    await page.goto(address(`/runs/${String(id)}`))
    await expect(page.getByText('240 codes read back as meant')).toBeVisible()
    await fits()
    await sound(page)
    await page.getByRole('button', { name: 'Print 3 as a sample' }).tap()
    await expect(page.getByTestId('read-back')).toContainText('3 of 3 read back as meant')
    await fits()
    await page.getByRole('link', { name: 'One at a time' }).tap()
    await page.getByRole('button', { name: 'Next label' }).tap()
    await expect(page.getByRole('status')).toContainText('label 4')
    await fits()
    await page.goBack()
    await page.getByRole('link', { name: 'Scan back' }).tap()
    await expect(page.getByLabel('Scan any code of a printed label')).toBeVisible()
    await fits()
    await sound(page)
  })
}
