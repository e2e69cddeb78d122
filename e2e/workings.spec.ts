import { expect, expectAccessible, openSample, test } from './fixture.ts'

test('buses, supplies and calculators are filled from the plan and write back to it', async ({ page, address }) => {
  await openSample(page, address, 'Orchard hive watch', 'pins')
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Orchard hive watch')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: /^Workings/ }).click()
  const i2c = page.getByRole('region', { name: 'I2C 0 of MCU' })
  await expect(i2c).toContainText('2.42 kΩ')
  await expect(i2c.getByRole('img')).toHaveAccessibleName(/this bus stands at 2.42 kΩ/)
  await expectAccessible(page)

  // A clock that a device does not bear is found, and mended where it was set.
  await page.getByLabel('Clock of I2C 0 of MCU').selectOption('1000000')
  await expect(page.locator('[data-rule="i2c-speed"]')).toContainText('1 MHz are asked')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('[data-rule="i2c-speed"]')).toHaveCount(0)

  await page.getByRole('link', { name: 'Supplies' }).click()
  await expect(page.getByRole('region', { name: 'MCU.3V3' })).toContainText('of 300 mA')
  await expectAccessible(page)

  await page.getByRole('navigation', { name: 'Workings' }).getByRole('link', { name: 'Pins' }).click()
  await page.getByLabel('Pin', { exact: true }).fill('MCU.3V3')
  await expect(page.getByRole('list', { name: 'States of MCU.3V3' })).toContainText('MCU.3V3 holds it at 3.3 V.')
  await page.getByLabel('Pin', { exact: true }).fill('MCU.D99')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/has no pin "D99"/)).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('list', { name: 'States of MCU.3V3' })).toBeVisible()
  await expectAccessible(page)

  await page.getByRole('link', { name: 'Start', exact: true }).click()
  await expect(page.getByRole('row', { name: /FAN|GATE|VENT/ }).first()).toContainText('at reset')
  await expectAccessible(page)

  await page.getByRole('link', { name: 'Calculators' }).click()
  const led = page.getByRole('region', { name: 'Resistor of an LED' })
  await led.getByLabel('Current').fill('4m')
  await led.getByRole('button', { name: 'Put 330 Ω into' }).or(led.getByText('Now 363 Ω')).first().waitFor()
  await led.getByLabel('Current').fill('2m')
  await led.getByRole('button', { name: /^Put 560 Ω into R/ }).click()
  await expect(led).toContainText('Now 593 Ω')
  await led.getByLabel('Current').fill('lots')
  await expect(led).toContainText('expected a number such as 20m or 1.5')
  await page.getByRole('region', { name: 'Key matrix' }).getByLabel('Keys').fill('12')
  await page.getByRole('button', { name: 'Add it to the kit' }).click()
  await expect(page.locator('.save-state')).toContainText('saved, rev.')
  const id = page.url().split('/plan/')[1]?.split('/')[0]
  await expect
    .poll(async () => {
      const { plan } = await (await page.request.get(`${address}/api/plans/${id}`)).json()
      return Object.values(plan.parts as Record<string, { part: string; options?: object }>).find(
        (entry) => entry.part === 'key-matrix',
      )?.options
    })
    .toEqual({ rows: 3, columns: 4 })
  await expectAccessible(page)
})

test('findings are filtered by part, and all that is safe is mended in one step', async ({ page, address }) => {
  await openSample(page, address, 'Mended by Monday', 'pins')
  await page.getByLabel('Only findings about').selectOption('FLAP')
  await expect(page.locator('.finding')).toHaveCount(2)
  await page.getByLabel('Only findings about').selectOption('')
  await page.getByRole('button', { name: 'Fix all that is safe' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('listitem').first()).toBeVisible()
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Fix them' }).click()
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults, 0 cautions')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByTestId('finding-counts')).toContainText('12 faults, 6 cautions')
})
