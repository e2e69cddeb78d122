import type { Page } from '@playwright/test'
import { generatedKit } from '../benchmarks/assignKits.ts'
import { catalog } from '../core/testing/plans.ts'
import { expect, expectAccessible, pickAction, test } from './fixture.ts'

const start = async (page: Page, address: string, board: string, kit: string): Promise<void> => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Ferry landing')
  await page.keyboard.press('Enter')
  await pickAction(page, 'Add a board', board)
  await page.getByLabel('Quick entry of board and parts').fill(kit)
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-part]').first()).toBeVisible()
}

test('an impossible kit says what collides, and a way out helps', async ({ page, address }) => {
  await start(page, address, 'esp32-devkit-30', 'gps, hc12, pms5003, led')
  await page.getByRole('link', { name: /^Pins/ }).click()
  await page.getByRole('button', { name: 'Place the rest' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('need a UART each, and MCU has 2 UART controllers left')
  const way = dialog.getByRole('button', { name: /^Add one more part: SC16IS752/ })
  await way.hover()
  await expect(dialog.getByLabel('What this changes')).toContainText('part BRIDGE')
  await expectAccessible(page)
  await way.click()
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
  await pickAction(page, 'Swap BUTTON.1 with', 'LED.A')
  await expect(page.locator('[data-signal="BUTTON.1"] .where')).toHaveText((before[0] ?? '').replace(/ via .*/, ''))
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Lock all wires of BUTTON' }).click()
  await expect(page.locator('[data-signal="BUTTON.1"]')).toContainText('locked')
  await page.getByRole('button', { name: 'Unlock all wires of BUTTON' }).click()
  await expect(page.locator('[data-signal="BUTTON.1"]')).not.toContainText('locked')
})

test('a long search is stopped half-way and gives its best so far', async ({ page, address }) => {
  // A board with eight UARTs whose pins are those of its other buses: proving it takes longer than anybody waits.
  const plan = generatedKit(catalog, 'teensy-4-1', 85, 'impossible', 1)
  const made = await page.request.post(`${address}/api/plans`, { data: { plan } })
  const { id } = await made.json()
  await page.goto(`${address}/plan/${id}/pins`)
  await page.getByRole('button', { name: 'Place the rest' }).click()
  const stop = page.getByRole('button', { name: /^Stop \([1-9]\d* tried\)/ })
  await stop.click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Not everything was tried: this is the best so far')
  await dialog.getByRole('button', { name: 'Place what can be placed' }).click()
  await expect(page.getByTestId('open-count')).toHaveText(/^[1-9] of \d+ open/)
})

test('a bus moves as a whole, what counts is said in words, and what still goes is added', async ({
  page,
  address,
}) => {
  await start(page, address, 'pico', 'bme280, oled, led, button')
  await page.getByRole('link', { name: /^Pins/ }).click()
  await page.getByRole('button', { name: 'What counts …' }).click()
  await page.getByLabel('keep PWM pins free').selectOption('more')
  await expectAccessible(page)
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).last().click()
  await expect(page.getByRole('button', { name: 'What counts (1 changed) …' })).toBeVisible()
  await page.getByRole('button', { name: 'Place the rest' }).click()
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  const sda = page.locator('[data-signal="CLIMATE.SDA"]')
  const before = await sda.locator('.where').textContent()
  await sda.click()
  await pickAction(page, 'Move the whole bus to')
  await expect(sda.locator('.where')).not.toHaveText(before!)
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
  await pickAction(page, 'Lock or unlock all signals of a kind', 'I2C')
  await expect(sda).toContainText('locked')
  await page.getByRole('link', { name: /^Kit/ }).click()
  await page.getByRole('button', { name: 'What can still be added?' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/\d+ of \d+ parts still go/, { timeout: 60_000 })
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Add Rotary encoder' }).click()
  await expect(page.locator('[data-part]')).toHaveCount(6)
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
})

test('two outputs on one pin: what clashes moves, the rest stays', async ({ page, address }) => {
  await start(page, address, 'esp32-devkit-30', '2 hc-sr04p, led')
  await page.getByRole('link', { name: /^Pins/ }).click()
  await page.getByRole('button', { name: 'Place the rest' }).click()
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  const echoes = page.locator('[data-signal$=".ECHO"]')
  const lamp = page.locator('[data-signal="LED.A"] .where')
  const [first, light] = [await echoes.first().locator('.where').textContent(), await lamp.textContent()]
  await echoes.nth(1).click()
  await page.getByPlaceholder('pin …').fill(/GPIO\d+/.exec(first!)![0])
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('finding-counts')).not.toContainText('0 faults')
  await page.getByRole('button', { name: 'Move what clashes' }).click()
  await expect(page.getByText(/^Moved \w+\.ECHO to MCU\.GPIO\d+/)).toBeVisible()
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
  await expect(lamp).toHaveText(light!)
})

test('what was added is to buy, a pin answers why not, and a question moves what its answer needs', async ({
  page,
  address,
}) => {
  const plan = {
    markpost: 1,
    title: 'Signal arm',
    boards: { MCU: { board: 'esp32-devkit-30' } },
    parts: {
      ARM: { part: 'servo-sg90' },
      REACH: { part: 'potentiometer' },
      LAMP: { part: 'led' },
      B: { part: 'button' },
    },
    wires: [['REACH.W', 'MCU.GPIO25']],
  }
  const made = await page.request.post(`${address}/api/plans`, { data: { plan } })
  const { id } = await made.json()
  const stored = async () => (await (await page.request.get(`${address}/api/plans/${id}`)).json()).plan
  await page.goto(`${address}/plan/${id}/pins`)
  await page.getByRole('button', { name: 'Place the rest' }).click()
  await expect(page.getByText('added R1 (Resistor 330 Ω)')).toBeVisible()
  const questions = page.getByRole('region', { name: 'Questions' })
  await expect(questions).toContainText('Will MCU use WiFi?')
  await expect(questions).toContainText('Is ARM fed from a supply of its own?')
  await expectAccessible(page)
  await questions.getByRole('button', { name: 'Yes: move what clashes' }).click()
  await expect(questions).not.toContainText('Will MCU use WiFi?')
  await expect.poll(async () => JSON.stringify((await stored()).wires)).not.toContain('MCU.GPIO25')
  await questions.getByRole('button', { name: 'Yes, from one of 5 V' }).click()
  await expect(questions).toBeHidden()
  await expect.poll(async () => (await stored()).supplies.PACK?.volts).toBe(5)
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
  // A question mark asks instead of placing.
  await page.locator('[data-signal="LAMP.A"]').click()
  await page.getByLabel('Pin for LAMP.A').fill('d34?')
  await page.keyboard.press('Enter')
  await expect(page.getByText('does not go on MCU.GPIO34: input only')).toBeVisible()
  // The resistor is marked until it is at hand.
  await page.getByRole('link', { name: /^Kit/ }).click()
  await page
    .locator('[data-part="R1"]')
    .getByRole('button', { name: /to buy/ })
    .click()
  await expect.poll(async () => (await stored()).parts.R1.buy).toBeUndefined()
  await expect(page.locator('[data-part="R1"]')).not.toContainText('to buy')
})

test('keys are listed and can be switched off; letters after the last signal open no place', async ({
  page,
  address,
}) => {
  await start(page, address, 'uno-r3', 'button')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Pins' }).click()
  await page.locator('[data-signal="BUTTON.1"]').click()
  await page.keyboard.type('D4')
  await page.keyboard.press('Enter')
  await expect(page.locator('.signal.picked')).toHaveCount(0)
  // Two letters too many: they are the rest of a name, not the keys of Workings and Sheets.
  await page.keyboard.press('w')
  await page.keyboard.press('s')
  await expect(page).toHaveURL(/\/pins$/)
  await page.waitForTimeout(2100)
  await page.keyboard.press('w')
  await expect(page).toHaveURL(/\/workings/)
  await page.keyboard.press('?')
  const keys = page.getByRole('dialog', { name: 'Keys' })
  await expect(keys).toContainText('place the rest')
  await expectAccessible(page)
  await keys.getByLabel('Keys of one letter or sign').uncheck()
  await keys.getByLabel('Close').click()
  await expect(keys).toBeHidden()
  for (const key of ['p', '?']) await page.keyboard.press(key)
  await expect(keys).toBeHidden()
  await expect(page).toHaveURL(/\/workings/)
  await page.reload()
  await page.keyboard.press('p')
  await expect(page).toHaveURL(/\/workings/)
  await page.getByRole('button', { name: 'Keys' }).click()
  await keys.getByLabel('Keys of one letter or sign').check()
  await keys.getByLabel('Close').click()
  await expect(keys).toBeHidden()
  await page.keyboard.press('p')
  await expect(page).toHaveURL(/\/pins$/)
})

test('a menu of actions does nothing until an entry is pressed', async ({ page, address }) => {
  await start(page, address, 'uno-r3', 'button, led')
  await page.getByRole('button', { name: 'Add a board' }).focus()
  await page.keyboard.press('Enter')
  for (const key of ['ArrowDown', 'ArrowDown', 'Escape']) await page.keyboard.press(key)
  await expect(page.locator('.action-menu.show')).toHaveCount(0)
  await expect(page.locator('.kit-line').filter({ hasText: 'Uno R3' })).toHaveCount(1)
  await page.keyboard.press('Enter')
  await page.keyboard.type('nano')
  await expect(page.locator('.action-menu .dropdown-item:focus')).toContainText('Nano')
  await page.keyboard.press('Escape')
  // In Pins the arrow opens the menu that has the focus, and leaves the picked signal alone.
  await page.getByRole('link', { name: 'Pins' }).click()
  await expect(page.locator('.signal').first()).toBeVisible()
  await page.keyboard.press('*')
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  await page.locator('[data-signal="BUTTON.1"]').click()
  const swap = page.getByRole('button', { name: 'Swap BUTTON.1 with' })
  await swap.focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.locator('.action-menu.show .dropdown-item').first()).toBeFocused()
  await expect(page.locator('.signal.picked')).toHaveAttribute('data-signal', 'BUTTON.1')
})
