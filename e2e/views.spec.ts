import { expect, expectAccessible, openSample, test } from './fixture.ts'

test('every view passes the accessibility scan, in both themes', async ({ page, address }) => {
  await page.goto(address)
  await expect(page.getByText('Nothing planned yet')).toBeVisible()
  await expectAccessible(page, 'both themes')
  await page.getByRole('button', { name: 'Open a copy of Mended by Monday' }).click()
  await page.locator('[data-signal="DIAL.W"]').click()
  await page.locator('.finding .say').nth(6).click()
  await page.locator('.finding .fixes button').first().focus()
  await expectAccessible(page, 'both themes')
  await page.locator('[data-signal="DIAL.W"]').click()
  await expectAccessible(page, 'both themes')
  await page.getByRole('link', { name: 'Kit' }).click()
  await page.getByLabel('Quick entry of board and parts').fill('2 bme280, nothing')
  await expectAccessible(page, 'both themes')
  await page.getByRole('link', { name: 'Sheets' }).click()
  await expect(page.locator('.mp-wiring').first()).toBeVisible()
  await expectAccessible(page, 'both themes')
  await page.getByRole('link', { name: 'Bring-up' }).click()
  await expect(page.getByTestId('step-card')).toBeVisible()
  await expectAccessible(page, 'both themes')
  await page.getByRole('link', { name: 'For the program' }).click()
  await expect(page.getByRole('region', { name: 'Which level does what' })).toBeVisible()
  await expectAccessible(page, 'both themes')
  await page.getByRole('link', { name: 'Mark Post: all plans' }).click()
  await expect(page.locator('.plan-line')).toHaveCount(1)
  await expectAccessible(page, 'both themes')
})

test('each board and each expander is drawn with all its posts', async ({ page, address }) => {
  for (const [title, ref, posts] of [
    ['Orchard hive watch', 'MCU', 30],
    ['Branch-line crossing', 'MCU', 32],
    ['Kiln logger', 'PI', 40],
  ] as const) {
    await openSample(page, address, title, 'pins')
    await expect(page.locator(`[data-post^="${ref}."]`)).toHaveCount(posts)
    await expect(page.locator('.flag').first()).toBeVisible()
  }
  await openSample(page, address, 'Orchard hive watch', 'pins')
  await page.getByRole('button', { name: 'GATES, 16 pins' }).click()
  await expect(page.locator('[data-post^="GATES."]')).toHaveCount(16)
})

test('two boards in one plan: a signal leads to its own board', async ({ page, address }) => {
  await openSample(page, address, 'Two-post rain gauge', 'pins')
  await page.locator('[data-signal="TODAY.1"]').click()
  await expect(page.locator('[data-post="HOUSE.GPIO32"]')).toBeVisible()
  await expect(page.locator('[data-post="GAUGE.GPIO32"]')).toHaveCount(0)
})

test('an empty plan teaches what to do next', async ({ page, address }) => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Empty')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Choose the board that everything hangs on')).toBeVisible()
  await page.getByRole('link', { name: 'Pins' }).click()
  await expect(page.getByRole('link', { name: 'Go to the kit' })).toBeVisible()
  await page.getByRole('link', { name: 'Sheets' }).click()
  await expect(page.getByText('No wires yet.')).toBeVisible()
})
