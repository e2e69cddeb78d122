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
  // Its program came along.
  await page.getByRole('link', { name: /^Rehearse/ }).click()
  await expect(page.getByRole('heading', { name: 'pupil-03.ino' }).first()).toBeVisible()
  await page.goto(address)
  await expect(page.getByText('29 plans')).toBeVisible()
})

test('a plan is handed out as a task without hints, and what is said of it stays where it was pinned', async ({
  page,
  address,
  request,
}) => {
  await request.post(`${address}/api/plans`, { data: { text: plan('MCU.D2', 'MCU.D5') } })
  await page.goto(address)
  await page.getByRole('button', { name: 'More for Gate' }).click()
  await page.getByRole('button', { name: 'Make a task of it …' }).click()
  await page.getByLabel(/The tool may help/).uncheck()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Make the task' }).click()
  await page.getByRole('link', { name: 'Gate (task)' }).click()

  // Nothing is offered: pins are found by hand, and a wrong one is said without its fix.
  await expect(page.getByText('A task to be solved by oneself')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Place the rest' })).toHaveCount(0)
  await page.keyboard.press('*')
  await expect(page.getByTestId('open-count')).toHaveText('2 of 2 open')
  await page.locator('[data-signal="KEY.1"]').click()
  await page.getByLabel('Pin for KEY.1').fill('D0')
  await page.keyboard.press('Enter')
  const findings = page.getByLabel('Findings', { exact: true })
  const console_ = findings.locator('article').filter({ hasText: 'D0' }).first()
  await console_.getByRole('button').first().click()
  await expect(console_.getByText('fixes are not offered')).toBeVisible()
  await expectAccessible(page)

  // A comment on the finding, one on the pin that is in hand, one on a part.
  await console_.getByRole('button', { name: 'Comment …' }).click()
  await console_.getByLabel('Comment').fill('What else speaks on D0?')
  await console_.getByLabel('Your name').fill('The teacher')
  await console_.getByRole('button', { name: 'Say it' }).click()
  await expect(page.locator('[data-signal="LAMP.A"]')).toHaveAttribute('aria-pressed', 'true')
  await findings.getByRole('button', { name: 'Comment …' }).first().click()
  await expect(findings.getByLabel('Comment on')).toHaveValue('LAMP.A')
  await findings.getByLabel('Comment', { exact: true }).fill('Which side of the lamp is this?')
  await expect(findings.getByLabel('Your name')).toHaveValue('The teacher')
  await findings.getByRole('button', { name: 'Say it' }).click()
  const comments = findings.getByLabel('Comments')
  await expect(comments.locator('article')).toHaveCount(2)
  await expect(page.getByText(/^saved, rev/)).toBeVisible()
  await page.reload()
  await expect(comments.locator('article')).toHaveCount(2)
  await expect(comments).toContainText('The teacher')
  await comments.getByRole('button', { name: 'LAMP.A' }).click()
  await expect(page.locator('[data-signal="LAMP.A"]')).toHaveAttribute('aria-pressed', 'true')
  await expectAccessible(page, 'both themes')
  await comments.getByRole('button', { name: 'Settle' }).first().click()
  await expect(comments.locator('article')).toHaveCount(1)
  await comments.getByRole('button', { name: 'Show 1 settled comment' }).click()
  await expect(comments.locator('article')).toHaveCount(2)

  // The finding goes with its wire; what was said of it says so.
  await page.locator('[data-signal="KEY.1"]').click()
  await page.getByLabel('Pin for KEY.1').fill('D2')
  await page.keyboard.press('Enter')
  await expect(comments.getByText('(no longer found)')).toBeVisible()
})
