import { expect, expectAccessible, test } from './fixture.ts'

const plan = (pin: string, lamp: string): string => `markpost: 1
title: Gate
boards: { MCU: { board: uno-r3 } }
parts:
  KEY: { part: button }
  LAMP: { part: led }
  R1: { part: resistor, options: { ohms: 330 } }
wires:
  - [KEY.1, ${pin}]
  - [KEY.2, MCU.GND]
  - [LAMP.A, R1.1]
  - [R1.2, ${lamp}]
  - [LAMP.K, MCU.GND]
`
const sketch = (key: number, lamp: number): string =>
  `void setup() { pinMode(${lamp}, OUTPUT); pinMode(${key}, INPUT_PULLUP); }
void loop() { digitalWrite(${lamp}, !digitalRead(${key})); delay(10); }`
const script = `rehearsal: 1
steps:
  - { at: 0.5, expect: { LAMP: off } }
  - { at: 1, set: { KEY: pressed } }
  - { at: 1.5, expect: { LAMP: on } }
`

test('thirty plans and their programs come in at once, are held against what was asked, and go out as a table', async ({
  page,
  address,
}) => {
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  const pupil = (n: number): string => `pupil-${String(n).padStart(2, '0')}`
  const files = [
    file('asked.markpost.yaml', plan('MCU.D2', 'MCU.D5')),
    file('gate.rehearsal.yaml', script),
    ...Array.from({ length: 30 }, (_, n) => [
      // The third has another pin and says so in its program, the fifth does not, the seventh cannot be read.
      file(
        `${pupil(n + 1)}.yaml`,
        n === 6 ? 'markpost: 1\ntitle: [' : plan(n === 2 || n === 4 ? 'MCU.D7' : 'MCU.D2', 'MCU.D5'),
      ),
      file(`${pupil(n + 1)}.ino`, sketch(n === 2 ? 7 : 2, 5)),
    ]).flat(),
  ]
  await page.goto(address)
  await page.getByRole('link', { name: 'Class' }).click()
  await page.getByLabel('Files of plans').setInputFiles(files)
  await page.getByLabel('Plan that was asked for').selectOption('asked.markpost.yaml')
  await expect(
    page.getByText('30 of 30 plans looked at; 28 as they should be; rehearsed by gate.rehearsal.yaml'),
  ).toBeVisible({
    timeout: 30_000,
  })
  const row = (n: number) => page.getByRole('row').filter({ has: page.getByRole('rowheader', { name: pupil(n) }) })
  await expect(row(1)).toContainText('passed, 2 of 2')
  await expect(row(3)).toContainText('KEY.1: D7, asked D2')
  await expect(row(3)).toContainText('passed, 2 of 2')
  await expect(row(5)).toContainText('not passed')
  await expect(row(7)).toContainText('cannot be read: pupil-07.yaml')
  await expectAccessible(page, 'both themes')

  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Table as CSV' }).click(),
  ])
  expect(table.suggestedFilename()).toBe('class.csv')
  await page.getByRole('button', { name: 'Bring them all in' }).click()
  await expect(row(30).getByRole('link')).toBeVisible({ timeout: 30_000 })
  await row(3).getByRole('link').click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Gate')
  await page.goto(address)
  await expect(page.getByText('29 plans')).toBeVisible()
})
