import { readFileSync } from 'node:fs'
import { expect, expectAccessible, openSample, test } from './fixture.ts'

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
  // As it was written, but for the line that names its schema.
  expect(readFileSync(await (await download).path(), 'utf8')).toBe(
    `# yaml-language-server: $schema=${address}/plan.schema.json\n${readFileSync('demo/3-kiln-logger.markpost.yaml', 'utf8')}`,
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
  await openSample(page, address, 'Mended by Monday', 'pins')
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

const yardGate = `#include <Servo.h>
const int trigPin = 7, echoPin = 8;
const int redLamp = 4; // barrier is down
Servo barrier;
void setup() {
  pinMode(trigPin, OUTPUT); pinMode(echoPin, INPUT);
  pinMode(redLamp, OUTPUT);
  barrier.attach(9);
  pinMode(3, OUTPUT);
}
void loop() { digitalWrite(3, analogRead(A3) > 500); }
`

test('a program that is dropped becomes a plan: what it tells is taken, the rest is asked', async ({
  page,
  address,
}) => {
  await page.goto(address)
  await page.getByText('Nothing planned yet').waitFor()
  const dropped = await page.evaluateHandle((text) => {
    const data = new DataTransfer()
    data.items.add(new File([text], 'yard_gate.ino', { type: 'text/plain' }))
    return data
  }, yardGate)
  await page.locator('main').dispatchEvent('drop', { dataTransfer: dropped })
  await expect(page.getByRole('heading', { name: 'A plan from yard_gate.ino' })).toBeVisible()
  await expect(page.getByLabel('Board', { exact: true })).toHaveValue('uno-r3')
  await expect(page.getByLabel('What trigPin, echoPin is')).toHaveValue('hc-sr04')
  await expect(page.getByLabel('What 3 is')).toHaveValue('')
  await expect(page.locator('.from-end')).toContainText('3 parts, 2 not said and left out')
  await expectAccessible(page)
  // Of the two that are asked one is no part of the plan.
  await page.getByLabel('What A3 is').selectOption('-')
  await page.getByLabel('What 3 is').selectOption('relay-1')
  await expect(page.getByLabel(/Pin of .* on 3/)).toHaveValue('IN')
  // A pin that is moved by hand changes places with the other.
  await page.getByLabel(/Pin of .* on 7/).selectOption('ECHO')
  await expect(page.getByLabel(/Pin of .* on 8/)).toHaveValue('TRIG')
  await page.getByLabel(/Pin of .* on 7/).selectOption('TRIG')
  await page.getByRole('button', { name: 'Make the plan' }).click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Yard gate')
  await expect(page.locator('.flag', { hasText: 'BARRIER' })).toBeVisible()
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults')
  // The program agrees with the plan that was made of it, but for the pin that is none of it.
  await page.goto(`${page.url().replace(/pins.*/, '')}bring-up/compare`)
  await page
    .getByLabel('Files of the program')
    .setInputFiles({ name: 'yard_gate.ino', mimeType: 'text/plain', buffer: Buffer.from(yardGate) })
  await expect(page.locator('.difference:not(.same)')).toHaveCount(1)
  await expect(page.locator('.difference:not(.same)')).toContainText('A3')
})

test('a program for another board is asked again, and what is no program is refused', async ({ page, address }) => {
  await page.goto(address)
  const give = (name: string, text: string): Promise<void> =>
    page.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await give('lamp.py', 'from machine import Pin\nlamp = Pin(28, Pin.OUT)\n')
  await expect(page.getByLabel('Board', { exact: true })).toHaveValue('pico')
  await page.getByLabel('Board', { exact: true }).selectOption('esp32-devkit-30')
  await expect(page.getByRole('alert')).toContainText('28 is no pin of this board')
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(page.getByRole('heading', { name: 'Plans', exact: true })).toBeVisible()
  await give('a.ino', '')
  await expect(page.getByText('sets no pin and begins no bus')).toBeVisible()
  await page.getByRole('button', { name: 'Leave it' }).click()
  await page.locator('input[type=file]').setInputFiles([
    { name: 'a.ino', mimeType: 'text/plain', buffer: Buffer.from('') },
    { name: 'b.py', mimeType: 'text/plain', buffer: Buffer.from('') },
  ])
  await expect(
    page.getByText('a.ino, b.py: expected files ending in .ino, .cpp, .h or .py, of one language'),
  ).toBeVisible()
})
