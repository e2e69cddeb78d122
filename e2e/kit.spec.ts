import type { Page } from '@playwright/test'
import { expect, openSample, test } from './fixture.ts'

const savedPlan = async (page: Page, address: string) => {
  await expect(page.locator('.save-state')).toContainText('saved')
  const id = page.url().split('/').at(-2)
  return (await (await page.request.get(`${address}/api/plans/${id}`)).json()).plan
}

test('a new address brings its strap along, and undo brings both back', async ({ page, address }) => {
  await openSample(page, address, 'Orchard hive watch', 'kit')
  await page.getByLabel('I2C address of ATTIC').selectOption('118')
  await expect(page.locator('[data-rule="i2c-address"]')).toContainText('BROOD and ATTIC both answer to 0x76')
  const changed = await savedPlan(page, address)
  expect(changed.parts.ATTIC.options.address).toBe(0x76)
  expect(changed.wires).toContainEqual(['ATTIC.SDO', 'MCU.GND'])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('[data-rule="i2c-address"]')).toHaveCount(0)
  const back = await savedPlan(page, address)
  expect(back.wires).toContainEqual(['ATTIC.SDO', 'MCU.3V3'])
})

test('amounts are read as makers write them, and refused with what was expected', async ({ page, address }) => {
  await openSample(page, address, 'Orchard hive watch', 'kit')
  const ohms = page.getByLabel('Resistance of R2')
  await ohms.fill('4k7')
  await ohms.press('Enter')
  await expect(ohms).toHaveValue('4.7 kΩ')
  expect((await savedPlan(page, address)).parts.R2.options.ohms).toBe(4700)
  await ohms.fill('plenty')
  await ohms.press('Enter')
  await expect(page.getByRole('alert')).toContainText(
    '"plenty" is not an amount; expected a number such as 330, 4k7 or 1M',
  )
  await expect(ohms).toHaveValue('4.7 kΩ')
  await page.getByLabel('Volts of PACK').fill('500')
  await page.keyboard.press('Enter')
  await expect(page.getByText('expected a number from 0.5 to 60')).toBeVisible()
})

test('a reference is renamed everywhere, and a taken one is refused', async ({ page, address }) => {
  await openSample(page, address, 'Branch-line crossing', 'kit')
  await page.getByLabel('Reference of MCU').fill('CONTROL')
  await page.keyboard.press('Enter')
  const plan = await savedPlan(page, address)
  expect(Object.keys(plan.boards)).toEqual(['CONTROL'])
  expect(plan.wires.flat().filter((end: unknown) => typeof end === 'string' && end.startsWith('MCU.'))).toEqual([])
  await page.getByLabel('Reference of NORTH').fill('SOUTH')
  await page.keyboard.press('Enter')
  await expect(page.getByText('the reference SOUTH is taken')).toBeVisible()
  await page.getByLabel('Reference of NORTH').fill('2nd')
  await page.keyboard.press('Enter')
  await expect(page.getByText('expected a reference: a letter, then')).toBeVisible()
})

test('features change what the findings say', async ({ page, address }) => {
  await openSample(page, address, 'Kiln logger', 'kit')
  await page.getByRole('link', { name: 'Pins' }).click()
  await page.locator('[data-signal="CONE.1"]').click()
  await page.getByLabel('Pin for CONE.1').fill('TXD')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-signal="CONE.1"]')).toContainText('GPIO14')
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults, 0 cautions')
  await page.getByRole('link', { name: 'Kit' }).click()
  await page.getByRole('checkbox', { name: 'Serial console' }).check()
  await expect(page.locator('[data-rule="serial-console"]')).toContainText('CONE.1 hangs on PI.GPIO14')
})

test('a part is removed with its wires, and comes back with them', async ({ page, address }) => {
  await openSample(page, address, 'Two-post rain gauge', 'kit')
  const before = await savedPlan(page, address)
  await page.getByRole('button', { name: 'Remove SENDER' }).click()
  const after = await savedPlan(page, address)
  expect(after.parts.SENDER).toBeUndefined()
  expect(JSON.stringify(after)).not.toContain('SENDER.')
  await page.getByRole('button', { name: 'Undo' }).click()
  expect(await savedPlan(page, address)).toEqual(before)
})

test('the kit counts pins, offers companions and duplicates a part with its options', async ({ page, address }) => {
  await openSample(page, address, 'Orchard hive watch', 'kit')
  const resistors = async (): Promise<number> =>
    Object.values((await savedPlan(page, address)).parts as Record<string, { part: string }>).filter(
      (entry) => entry.part === 'resistor',
    ).length
  const before = await resistors()
  await expect(page.getByRole('region', { name: /Need against have/ })).toContainText(/analog inputs1 of 6/)
  await page.getByLabel('Quick entry of board and parts').fill('dht22')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /^Add .*10 kΩ.* to DHT$/ }).click()
  await expect(page.locator('.companion', { has: page.getByLabel(/^Resistance of/) })).not.toHaveCount(0)
  await expect.poll(resistors).toBe(before + 1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(resistors).toBe(before)
  await page.getByLabel('Resistance of R2').fill('390')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Add another like R2' }).click()
  await expect
    .poll(async () => {
      const parts: { options?: { ohms?: number } }[] = Object.values((await savedPlan(page, address)).parts)
      return parts.filter((entry) => entry.options?.ohms === 390).length
    })
    .toBe(2)
})
