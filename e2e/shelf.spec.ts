import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { expect, expectAccessible, openSample, test } from './fixture.ts'

const editor = (page: Page) => page.getByLabel('Entry as YAML')
const replaceText = async (page: Page, text: string): Promise<void> => {
  await editor(page).click()
  await page.keyboard.press('Control+A')
  await page.keyboard.insertText(text)
}
const textOf = async (page: Page, address: string, kind: string, id: string): Promise<string> =>
  (await page.request.get(`${address}/api/entries/${kind}/${id}/file`)).text()

test('an entry is found in spite of a slip, and its facts and sources are there', async ({ page, address }) => {
  await page.goto(`${address}/shelf`)
  await expectAccessible(page)
  await page.getByLabel('Search boards and parts').fill('thermocupl')
  await page.getByRole('navigation', { name: 'Entries' }).getByRole('link').first().click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('MAX31855 thermocouple amplifier')
  await expect(page.getByRole('img', { name: /VCC, GND/ })).toBeVisible()
  await expect(page.getByText('MAX31855 datasheet')).toBeVisible()
  await expectAccessible(page)
})

test('pins of a board are found by what they can do, in any numbering, and boards are compared', async ({
  page,
  address,
}) => {
  await page.goto(`${address}/shelf/boards/uno-r3`)
  await page.locator('.chip', { hasText: 'PWM' }).click()
  await page.locator('.chip', { hasText: 'edge interrupt' }).click()
  await expect(page.locator('.chart-pin.fits .name')).toHaveText(['~3'])
  await page.getByLabel('Numbering').selectOption('port')
  await expect(page.locator('.chart-pin.fits .name')).toHaveText(['PD3'])
  await page.locator('.chart-pin.fits').click()
  await expect(page.locator('.pin-note')).toContainText('from the')
  await expectAccessible(page)
  await page.getByLabel('Compare with').selectOption('nano-v3')
  await expect(page).toHaveURL(/compare\/uno-r3\/nano-v3/)
  await expect(page.getByRole('row', { name: /Logic/ })).toContainText('5.0 V')
  await expectAccessible(page)
})

test('a part of my own: mistakes shown at their line, then wired, carried by the plan, exported and deleted', async ({
  page,
  address,
}) => {
  await page.goto(`${address}/shelf/parts/bh1750`)
  await page.getByRole('link', { name: 'Copy as my own' }).click()
  await expect(editor(page)).toContainText('id: my-bh1750')
  const yaml = (await textOf(page, address, 'parts', 'bh1750')).replace('id: bh1750', 'id: barn-light')
  await replaceText(page, yaml.replace('pin: SDA, needs: i2c.sda', 'pin: SDA, needs: i2c.sad'))
  const wrong = page.getByRole('region', { name: 'What is wrong' })
  const line = yaml.split('\n').findIndex((text) => text.includes('pin: SDA, needs')) + 1
  await expect(wrong).toContainText(`line ${line}`)
  await expect(wrong).toContainText('i2c.sad')
  await expect(page.getByRole('button', { name: 'Put it on the shelf' })).toBeDisabled()
  await expectAccessible(page)
  await replaceText(page, yaml.replace('title: BH1750 light sensor module', 'title: Barn light sensor'))
  await expect(wrong).toContainText('Holds')
  await page.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Barn light sensor')

  await openSample(page, address, 'Orchard hive watch', 'kit')
  await page.getByLabel('Quick entry of board and parts').fill('barn light')
  await page.keyboard.press('Enter')
  await expect(page.locator('.kit-line', { hasText: 'Barn light sensor' })).toBeVisible()
  await expect(page.locator('.save-state')).toContainText('saved')
  const id = page.url().split('/').at(-2)
  const { plan } = await (await page.request.get(`${address}/api/plans/${id}`)).json()
  expect(Object.keys(plan.own.parts)).toEqual(['barn-light'])

  await page.goto(`${address}/shelf/parts/barn-light`)
  await expect(page.getByRole('link', { name: 'Orchard hive watch' })).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'File' }).click()])
  const exported = readFileSync(await file.path(), 'utf8')
  expect(exported).toContain('id: barn-light')
  await page.getByRole('link', { name: 'Change' }).click()
  await page.getByRole('button', { name: 'Take it off the shelf' }).click()
  await expect(page.getByRole('dialog')).toContainText('One plan uses it and carries a copy')
  await expect(page.getByRole('dialog')).toContainText('Orchard hive watch')
  await page.getByRole('button', { name: 'Take it off', exact: true }).click()
  await expect(page).toHaveURL(/\/shelf$/)

  // The plan still opens, since it carries the part; and the file brings the part back.
  await page.goto(`${address}/plan/${id}/kit`)
  await expect(page.locator('.kit-line', { hasText: 'Barn light sensor' })).toBeVisible()
  await page.goto(`${address}/shelf`)
  await page.getByLabel('Entry file').setInputFiles({
    name: 'barn-light.yaml',
    mimeType: 'text/yaml',
    buffer: Buffer.from(exported),
  })
  await page.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Barn light sensor')
})

test('a part of six pins made with the form, by keyboard alone', async ({ page, address }) => {
  await page.goto(`${address}/shelf`)
  await page.getByLabel('Search boards and parts').fill('qqxqq')
  await page.getByRole('link', { name: 'make it yourself' }).click()
  const form = page.getByRole('form', { name: 'Part as a form' })
  await expect(form).toBeVisible()
  await expectAccessible(page)
  await page.getByLabel('Name').focus()
  await page.keyboard.type('Silo gauge')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.type('VCC GND SCL SDA INT PROBE')
  await expect(form.getByLabel('What SCL does')).toHaveValue('scl')
  // An address is missing, and the message says what one looks like.
  await expect(form).toContainText('expected an address such as 0x3C')
  await expect(page.getByRole('button', { name: 'Put it on the shelf' })).toBeDisabled()
  // Three pins on: past VCC, GND, SCL with its mark, SDA with its mark, INT with its mark, to PROBE.
  await form.getByLabel('What PROBE does').focus()
  await page.keyboard.type('volt')
  await expect(form.getByLabel('What PROBE does')).toHaveValue('analog')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Space')
  await page.keyboard.press('Tab')
  for (const figure of ['3', '5,5', '0.4', '2']) {
    await page.keyboard.press('Control+A')
    await page.keyboard.type(figure)
    await page.keyboard.press('Tab')
  }
  await page.keyboard.press('Tab')
  await page.keyboard.type('0x2a 2b')
  await expect(page.getByRole('region', { name: 'What is wrong' })).toContainText('Holds')
  await expect(editor(page)).toContainText('least: 3, most: 5.5')
  await expectAccessible(page)

  // A list of pins that was wiped out and typed again means the same.
  const names = page.getByLabel('Pins as printed, in their order')
  await names.fill('')
  await names.fill('VCC GND SCL SDA INT PROBE')
  await expect(form.getByLabel('What PROBE does')).toHaveValue('analog')
  await expect(page.getByLabel('I2C addresses, the usual one first')).toHaveValue('0x2A 0x2B')

  // Nothing is lost by going away, and text and form are one.
  await page.reload()
  await expect(page.getByText('Taken up where you left it')).toBeVisible()
  await expect(page.getByLabel('Name')).toHaveValue('Silo gauge')
  const yaml = (await page.evaluate(() => localStorage.getItem('markpost entry parts new '))) ?? ''
  await replaceText(page, `${yaml.replace('title: Silo gauge', 'title: Silo level gauge')}notes: [dusty]\n`)
  await expect(page.getByLabel('Name')).toHaveValue('Silo level gauge')
  await replaceText(page, 'pins: [')
  await expect(page.getByText('The text is no entry at the moment')).toBeVisible()
  await replaceText(page, `${yaml}notes: [dusty]\n`)
  await page.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Silo gauge')
  await expect(page.getByText('0x2a')).toBeVisible()
  await expect(page.getByText('dusty')).toBeVisible()
  await page.goto(`${address}/shelf/new/parts`)
  await expect(page.getByLabel('Name')).toHaveValue('')
})

test('nothing that is typed as an entry breaks the page', async ({ page, address }) => {
  await page.goto(`${address}/shelf/new/boards/uno-r3`)
  await expect(editor(page)).toContainText('id: my-uno-r3')
  for (const text of [
    '',
    '- : [',
    'a: &x [*x]',
    `id: ${'x'.repeat(5000)}`,
    'headers: 3\npins: {}',
    '!!js/function 1',
  ]) {
    await replaceText(page, text === '' ? ' ' : text)
    await expect(page.getByRole('heading', { name: /to mend/ })).toBeVisible()
  }
})
