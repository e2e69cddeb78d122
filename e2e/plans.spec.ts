import { readFileSync } from 'node:fs'
import { expect, test } from './fixture.ts'

test('a plan saves itself and comes back after a reload', async ({ page, address }) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Open “Orchard hive watch”' }).click()
  await page.getByRole('link', { name: 'Kit' }).click()
  await page.getByLabel('Reference of BROOD').fill('NEST')
  await page.keyboard.press('Enter')
  await expect(page.locator('.save-state')).toContainText('rev. 2')
  await page.reload()
  await expect(page.getByLabel('Reference of NEST')).toBeVisible()
  await page.getByRole('link', { name: 'Mark Post: all plans' }).click()
  await expect(page.locator('.plan-line')).toContainText(['Orchard hive watch'])
  await expect(page.locator('.plan-line')).toContainText(['ESP32 development board'])
  await expect(page.locator('.plan-line')).toContainText(['signals placed'])
  await expect(page.locator('.plan-line')).toContainText(['nothing stands in the way'])
})

test('a bad file is refused with one message and nothing is stored; a good one opens', async ({ page, address }) => {
  await page.goto(address)
  const chooser = page.locator('input[type=file]')
  await chooser.setInputFiles({
    name: 'bad.yaml',
    mimeType: 'text/yaml',
    buffer: Buffer.from('markpost: 1\ntitle: T\nparts:\n  A: { part: bme208 }\n'),
  })
  await expect(page.getByRole('alert')).toContainText(
    'bad.yaml:4:14: parts.A.part: the catalogue has no part "bme208"; did you mean bme280?',
  )
  await chooser.setInputFiles({ name: 'big.yaml', mimeType: 'text/yaml', buffer: Buffer.alloc(3_000_000, 'x') })
  await expect(page.getByText('3,000,000 bytes; expected at most 1,000,000')).toBeVisible()
  expect(await (await page.request.get(`${address}/api/plans`)).json()).toEqual([])
  await chooser.setInputFiles('demo/5-mended-by-monday.markpost.yaml')
  await expect(page.getByTestId('finding-counts')).toContainText('12 faults, 6 cautions')
})

test('a plan is duplicated, saved as a file and deleted', async ({ page, address }) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Open a copy of Kiln logger' }).click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Kiln logger')
  await page.getByRole('link', { name: 'Mark Post: all plans' }).click()
  await page.getByRole('button', { name: 'More for Kiln logger' }).click()
  const download = page.waitForEvent('download')
  await page.locator('.dropdown-menu.show').getByText('Save as a file').click()
  expect(readFileSync(await (await download).path(), 'utf8')).toBe(
    readFileSync('demo/3-kiln-logger.markpost.yaml', 'utf8'),
  )
  await page.getByRole('button', { name: 'More for Kiln logger' }).click()
  await page.locator('.dropdown-menu.show').getByText('Duplicate').click()
  await expect(page.locator('.plan-line')).toHaveCount(2)
  await page.getByRole('button', { name: 'More for Kiln logger (copy)' }).click()
  await page.locator('.dropdown-menu.show').getByText('Delete …').click()
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click()
  await expect(page.locator('.plan-line')).toHaveCount(1)
})

test('“Mended by Monday” is mended by one press each, and an acceptance prints', async ({ page, address }) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Open a copy of Mended by Monday' }).click()
  await expect(page.getByTestId('finding-counts')).toContainText('12 faults, 6 cautions')
  const level = page.locator('[data-rule="level-logic"]')
  await level.locator('.say').click()
  await level.getByRole('button', { name: 'Accept …' }).click()
  await level.getByLabel('Why it is all right').fill('tried on the bench')
  await page.keyboard.press('Enter')
  // A fix may mend two at once: a servo on a supply of its own.
  const findings = page.locator('.finding.fault, .finding.caution')
  for (let left = await findings.count(); left > 0; left = await findings.count()) {
    const [rule] = await Promise.all([
      findings.first().getAttribute('data-rule'),
      findings.first().locator('.say').click(),
    ])
    await findings.first().locator('.fixes button').first().click()
    await expect.poll(() => findings.count(), `after mending ${rule}`).toBeLessThan(left)
  }
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults, 0 cautions')
  await page.getByRole('link', { name: 'Sheets' }).click()
  await expect(page.locator('.mp-accepted')).toContainText('tried on the bench')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('finding-counts')).not.toContainText('0 faults, 0 cautions')
})
