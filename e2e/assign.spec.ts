import type { Page } from '@playwright/test'
import { expect, expectAccessible, test } from './fixture.ts'

const start = async (page: Page, address: string, board: string, kit: string): Promise<void> => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Ferry landing')
  await page.keyboard.press('Enter')
  await page.getByLabel('Add a board').selectOption(board)
  await page.getByLabel('Quick entry of parts').fill(kit)
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-part]').first()).toBeVisible()
}

test('an impossible kit says what collides, and a remedy mends it', async ({ page, address }) => {
  await start(page, address, 'esp32-devkit-30', 'gps, hc12, pms5003, led')
  await page.getByRole('link', { name: /^Pins/ }).click()
  await page.getByRole('button', { name: 'Place the rest' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('need a UART each, and MCU has 2 UART controllers left')
  const remedy = dialog.getByRole('button', { name: /^Add one more part: SC16IS752/ })
  await remedy.hover()
  await expect(dialog.getByLabel('What this changes')).toContainText('part BRIDGE')
  await expectAccessible(page)
  await remedy.click()
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByTestId('open-count')).not.toHaveText('all placed')
  // What can be placed is placed, and the rest stays open.
  await page.getByRole('button', { name: 'Place the rest' }).click()
  await dialog.getByRole('button', { name: 'Place what can be placed' }).click()
  await expect(page.getByTestId('open-count')).toContainText('1 ')
})

test('boards are ranked for a kit, and a plan moves to another with its re-plug list printed', async ({
  page,
  address,
}) => {
  await start(page, address, 'uno-r3', 'bme280, oled, led, button, pot')
  await page.getByRole('link', { name: /^Pins/ }).click()
  await page.getByRole('button', { name: 'Place the rest' }).click()
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  await page.getByRole('link', { name: /^Kit/ }).click()
  await page.getByRole('button', { name: 'Which boards carry this?' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('boards carry everything')
  await expect(dialog.getByRole('row', { name: /^Single-board computer/ })).toContainText('1 without a pin')
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Move to Pico', exact: true }).click()
  await expect(dialog).toContainText(/\d+ wires move/)
  await expect(dialog.getByRole('row', { name: /CLIMATE.SDA/ })).toContainText('from MCU.A4')
  await page.emulateMedia({ media: 'print' })
  await expect(page.locator('.kit')).toBeHidden()
  await expect(dialog.getByRole('row', { name: /CLIMATE.SDA/ })).toBeVisible()
  await page.emulateMedia({ media: 'screen' })
  await dialog.getByRole('button', { name: 'Move the plan' }).click()
  await expect(page.getByText('Pico').first()).toBeVisible()
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
  await expect(page.locator('.save-state')).toContainText('saved, rev.')
  const id = page.url().split('/plan/')[1]?.split('/')[0]
  await expect
    .poll(async () => (await (await page.request.get(`${address}/api/plans/${id}`)).json()).plan.boards.MCU.board)
    .toBe('pico')
})

test('two signals change places, and a part is locked whole', async ({ page, address }) => {
  await start(page, address, 'esp32-devkit-30', 'led, button')
  await page.getByRole('link', { name: /^Pins/ }).click()
  await page.getByRole('button', { name: 'Place the rest' }).click()
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  const where = async (end: string) => page.locator(`[data-signal="${end}"] .where`).textContent()
  const before = [await where('LED.A'), await where('BUTTON.1')]
  await page.locator('[data-signal="BUTTON.1"]').click()
  await page.getByLabel('Swap BUTTON.1 with').selectOption('LED.A')
  await expect(page.locator('[data-signal="BUTTON.1"] .where')).toHaveText((before[0] ?? '').replace(/ via .*/, ''))
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Lock all wires of BUTTON' }).click()
  await expect(page.locator('[data-signal="BUTTON.1"]')).toContainText('locked')
  await page.getByRole('button', { name: 'Unlock all wires of BUTTON' }).click()
  await expect(page.locator('[data-signal="BUTTON.1"]')).not.toContainText('locked')
})
