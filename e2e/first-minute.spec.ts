import { expect, expectAccessible, test, wiringTable } from './fixture.ts'

test('a first plan: one line of typing and four presses to paper', async ({ page, address }) => {
  let presses = 0
  const press = async (key: string): Promise<void> => {
    presses += 1
    await page.keyboard.press(key)
  }
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Cellar watch')
  await press('Enter')
  const entry = page.getByLabel('Quick entry of board and parts')
  await expect(entry).toBeFocused()
  await expect(page.getByRole('region', { name: 'What to do next' })).toContainText('Name the board')
  await page.keyboard.type('uno, hc-sr04, oled, red led, button, ds18b20, 4 digit display, fluxcap')
  // What is understood stands there while one types, and what is not, too.
  const slips = page.locator('.slip')
  await expect(slips).toHaveCount(8)
  await expect(slips.nth(0)).toContainText('Uno R3')
  await expect(slips.nth(3)).toContainText('1 ×')
  await expect(slips.nth(3)).toContainText('red')
  await expect(slips.nth(6)).toContainText('TM1637')
  await expect(slips.nth(7)).toContainText('nothing answers to “fluxcap”')
  await expectAccessible(page, 'both themes')
  await press('Enter')
  // What is not known stays, to be said otherwise.
  await expect(entry).toHaveValue('fluxcap')
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults, 0 cautions')
  await expect(page.getByRole('button', { name: /Not wired yet: \d+ pins/ })).toBeVisible()

  presses += 1
  await page.getByRole('button', { name: 'Wire, lay out, show the sheet' }).click()
  const account = page.getByRole('region', { name: 'What was done' })
  await expect(account).toContainText(/\d+ wires placed, laid out on 1 half breadboard/)
  await expect(account).toContainText('Added, and to buy: R2 Resistor 4.7 kΩ')
  await expect(account).toContainText('Nothing is left open, and no check speaks.')
  expect((await wiringTable(page)).filter((row) => row.startsWith('OLED SCL > '))).toHaveLength(1)
  await expectAccessible(page)
  await page.evaluate(() => {
    window.print = () => document.body.setAttribute('data-printed', 'yes')
  })
  presses += 1
  await page.getByRole('button', { name: 'Print' }).click()
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes')
  expect(presses).toBe(4)
  // One undo takes it all back, and the kit is there.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('region', { name: 'What to do next' })).toContainText('have no wire yet')
  await expect(account).toHaveCount(0)
})

test('a list is pasted, another meaning is pressed, and the shelf is browsed by what a thing does', async ({
  page,
  address,
}) => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Pasted')
  await page.keyboard.press('Enter')
  const entry = page.getByLabel('Quick entry of board and parts')
  await entry.fill('Qty,Part\n2,BME280\n1,oled\n3,fluxcap\nbreadboard, jumper wires')
  const slips = page.locator('.slip')
  await expect(slips).toHaveCount(5)
  await expect(slips.nth(0)).toContainText('2 ×')
  await expect(slips.nth(3)).toContainText('nothing to add')
  await slips.nth(1).getByRole('button', { name: 'sh1106' }).click()
  await expect(entry).toHaveValue('Qty,Part\n2,BME280\n1,sh1106\n3,fluxcap\nbreadboard, jumper wires')
  await entry.press('Enter')
  await expect(page.locator('[data-part]')).toHaveCount(3)
  // What is not known stays with its amount.
  await expect(entry).toHaveValue('3 fluxcap')

  await page.getByRole('button', { name: 'Browse' }).click()
  const dialog = page.getByRole('dialog', { name: 'Browse by what it does' })
  await dialog.getByRole('button', { name: 'Add Uno R3' }).click()
  await dialog.getByRole('button', { name: 'Moves, pumps or sounds' }).click()
  await dialog.getByRole('button', { name: 'Add SG90 servo' }).click()
  await expect(dialog.getByRole('button', { name: 'Add SG90 servo' })).toHaveText('Add another (1)')
  await expectAccessible(page, 'both themes')
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect(page.locator('[data-part="SERVO"]')).toBeVisible()
  // The board is changed where it stands.
  await page.getByRole('button', { name: 'Change the board MCU' }).click()
  await page.locator('.action-menu.show [data-action="nano-v3"]').click()
  await expect(page.locator('.kit-line').first()).toContainText('Nano')
})

test('who knows the way is not led, in any plan, until they want it', async ({ page, address }) => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Led')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'I know the way' }).click()
  await expect(page.getByRole('region', { name: 'What to do next' })).toHaveCount(0)
  await page.reload()
  await expect(page.getByLabel('Quick entry of board and parts')).toBeVisible()
  await expect(page.getByRole('region', { name: 'What to do next' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Keys and words' }).click()
  const dialog = page.getByRole('dialog', { name: 'Keys and words' })
  await expect(dialog).toContainText('a small part that another one needs')
  await dialog.getByLabel('Say what to do next').check()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('region', { name: 'What to do next' })).toBeVisible()
})

test('a part that the catalogue lacks is made with the form, on a tablet, and comes back into the plan', async ({
  page,
  address,
}) => {
  await page.setViewportSize({ width: 1024, height: 768 })
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Barn')
  await page.keyboard.press('Enter')
  const entry = page.getByLabel('Quick entry of board and parts')
  await entry.fill('uno, hay gauge')
  await entry.press('Enter')
  await page.getByRole('link', { name: 'make it a part of your own' }).click()
  await expect(page.getByLabel('Name')).toHaveValue('hay gauge')
  await page.getByLabel('Pins as printed, in their order').fill('VCC GND OUT')
  await page.getByRole('button', { name: 'Put it on the shelf and into the plan' }).click()
  await expect(page).toHaveURL(/\/kit$/)
  await expect(page.locator('[data-part]')).toHaveCount(1)
  await expect(page.locator('[data-part]')).toContainText('hay gauge')
  // Once, also when the page is loaded again.
  await page.reload()
  await expect(page.locator('[data-part]')).toHaveCount(1)
  await page.getByRole('button', { name: 'Wire, lay out, show the sheet' }).click()
  await expect(page.getByRole('region', { name: 'What was done' })).toContainText('wires placed')
})
