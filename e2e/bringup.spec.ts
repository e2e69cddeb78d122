import { readFileSync } from 'node:fs'
import { expect, expectAccessible, openSample, test } from './fixture.ts'

const sketch = (roadSide: number, fieldSide: number): string => `const int north = 2, south = 3, release = 5;
const int redLeft = 8, redRight = 7, white = 4;
const int ROAD_SIDE = ${roadSide};
const int FIELD_SIDE = ${fieldSide};
Servo road, field;
void setup() {
  pinMode(north, INPUT_PULLUP); pinMode(south, INPUT_PULLUP); pinMode(release, INPUT_PULLUP);
  pinMode(redLeft, OUTPUT); pinMode(redRight, OUTPUT); pinMode(white, OUTPUT);
  road.attach(ROAD_SIDE); field.attach(FIELD_SIDE);
  Wire.begin();
}
void loop() {}
`

test('constants are named in place, kept, and taken away as a file', async ({ page, address }) => {
  await openSample(page, address, 'Branch-line crossing', 'bring-up/program')
  const name = page.getByLabel('Name of BARRIER1.SIG')
  await expect(name).toHaveValue('BARRIER1_SIG')
  await name.fill('2nd')
  await expect(page.getByText('not beginning with a digit')).toBeVisible()
  await name.fill('roadSide')
  await name.press('Enter')
  await expect(page.getByRole('button', { name: 'Give BARRIER1.SIG its usual name' })).toBeVisible()
  await expect(page.locator('.save-state')).toContainText('saved, rev.')
  await page.reload()
  await expect(page.getByLabel('Name of BARRIER1.SIG')).toHaveValue('roadSide')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save branch_line_crossing_pins.h' }).click(),
  ])
  expect(readFileSync(await file.path(), 'utf8')).toMatch(/constexpr uint8_t roadSide = 9; /)
  await expect(page.getByRole('region', { name: 'Which level does what' })).toContainText('MCU.D8 high')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Give BARRIER1.SIG its usual name' }).click()
  await expect(page.getByLabel('Name of BARRIER1.SIG')).toHaveValue('BARRIER1_SIG')
})

test('a sketch with two pins exchanged is found, shown at its line and on the board, and agrees when mended', async ({
  page,
  address,
}) => {
  await openSample(page, address, 'Branch-line crossing', 'bring-up/compare')
  const choose = page.getByLabel('Files of the program')
  const give = (name: string, text: string): Promise<void> =>
    choose.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await give('notes.txt', 'hello')
  await expect(page.getByRole('alert')).toContainText('expected files ending in .ino')
  await give('crossing.ino', sketch(6, 9))
  await expect(page.locator('.compare-sum')).toContainText('Program and plan differ')
  const found = page.locator('.difference[data-kind=exchanged]')
  await expect(found).toContainText('BARRIER1.SIG on 9 and BARRIER2.SIG on 6')
  await found.getByRole('button').click()
  await expect(page.locator('.source-line.now')).toContainText('const int ROAD_SIDE = 6;')
  await expect(page.locator('.compare-board .flag.lit')).toHaveCount(2)
  await expectAccessible(page)
  await give('crossing.ino', sketch(9, 6))
  await expect(page.locator('.compare-sum')).toContainText('Program and plan agree')
})

test('on a tablet a build is proven from the first step, what the board says is taken, and all is kept', async ({
  page,
  address,
}) => {
  await page.setViewportSize({ width: 1024, height: 768 })
  await openSample(page, address, 'Branch-line crossing', 'bring-up')
  const card = page.getByTestId('step-card')
  await expect(card).toBeVisible({ timeout: 30_000 })
  await expect(card).toHaveAttribute('data-step', 'look:RED1')
  const right = page.getByRole('button', { name: 'As it should be' })
  expect((await right.boundingBox())!.height).toBeGreaterThan(50)
  await right.click()
  await expect(card).toHaveAttribute('data-step', 'look:RED2')
  await page.keyboard.press('y')
  await expect(card).toHaveAttribute('data-step', 'look:WHITE')
  await page.keyboard.press('ArrowUp')
  await expect(card.getByText('As it should be,')).toBeVisible()
  // A supply that reads too little is not as it should be.
  await page.locator('summary', { hasText: 'First power' }).click()
  await page.getByRole('button', { name: /5\.0 V from MCU\.5V/ }).click()
  await page.getByLabel('What you read').fill('4.2')
  await expect(card.getByText('outside')).toBeVisible()
  await page.getByRole('button', { name: 'Write it down' }).click()
  await expect(page.getByRole('button', { name: /wrong: 5\.0 V from MCU\.5V/ })).toBeVisible()
  await expectAccessible(page)
  // What the board says, pasted.
  await page.locator('summary', { hasText: 'Signal by signal' }).click()
  await page.getByRole('button', { name: /RELEASE\.1 at MCU\.D5/ }).click()
  await page
    .getByLabel('Answers of the board')
    .fill(
      'boot\n{"step":"in:RELEASE.1","value":1}\n{"step":"i2c:i2c0","found":[60]}\n{"step":"out:RED1.A","state":"high"}\n',
    )
  await page.getByRole('button', { name: 'Take 3 answers' }).click()
  await expect(page.getByRole('button', { name: /right: RELEASE\.1 at MCU\.D5/ })).toBeVisible()
  await expect(page.locator('.save-state')).toContainText('saved, rev.')
  await page.reload()
  await expect(page.locator('.prove-list').getByRole('status')).toContainText(/^4 of \d+ done/, { timeout: 30_000 })
  // The scan is there with what it found, and so is its page.
  await page.getByRole('link', { name: 'Bus scan' }).click()
  await page.getByLabel('Text of a bus scan').fill('I2C device found at address 0x3D !')
  await expect(page.getByText('COUNT does not answer')).toBeVisible()
  await expect(page.getByText('its strap says 0x3D, not 0x3C')).toBeVisible()
  await expectAccessible(page)
})

test('on a stand-in board a planted fault is led from the first step to the wire', async ({ page, address }) => {
  await page.setViewportSize({ width: 1024, height: 768 })
  await openSample(page, address, 'Branch-line crossing', 'bring-up')
  const card = page.getByTestId('step-card')
  await expect(card).toBeVisible({ timeout: 30_000 })
  await page.getByText('Practise on a stand-in board').click()
  await page.getByLabel('Fault to plant').selectOption('missing:WHITE.K-MCU.GND')
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByText('Nothing is kept with the plan.')).toBeVisible()
  // Step by step, as somebody would who believes the meter.
  let heard = false
  for (let at = 0; at < 60 && !heard; at += 1) {
    const step = (await card.getAttribute('data-step'))!
    const words = (await card.textContent())!
    heard = words.includes('It sounds.') && words.includes('it stays silent.')
    await page.getByRole('button', { name: heard ? 'Otherwise' : 'As it should be' }).click()
    if (!heard) await expect(card).not.toHaveAttribute('data-step', step)
  }
  expect(heard).toBe(true)
  await expectAccessible(page)
  await page.getByRole('link', { name: 'What is wrong' }).click()
  const next = page.getByRole('region', { name: 'The next measurement' })
  const causes = page.locator('.causes li')
  await expect(causes.first()).toBeVisible({ timeout: 30_000 })
  for (let asked = 0; asked < 12; asked += 1) {
    if (Number.parseInt((await causes.first().textContent())!, 10) >= 80) break
    const shows = (await next.locator('.step-shows').textContent())!
    await next.getByRole('button', { name: shows.includes('not as planned') ? 'Otherwise' : 'As it should be' }).click()
    await expect(next.locator('.measured li')).toHaveCount(asked + 1)
    await expect(next.getByRole('button', { name: 'As it should be' })).toBeEnabled({ timeout: 20_000 })
  }
  await expect(causes.first()).toContainText(/WHITE\.K to MCU\.GND.* is missing or loose/)
  await page.getByRole('button', { name: 'Tell me the fault' }).click()
  await expect(page.getByText('Planted: the wire WHITE.K to MCU.GND is missing or loose.')).toBeVisible()
  await page.getByRole('button', { name: 'End practice' }).click()
  await page.getByRole('link', { name: 'Prove the build' }).click()
  await expect(page.locator('.prove-list').getByRole('status')).toContainText(/^0 of \d+ done/)
})

test('a planted fault is led from the first step to the wire: the next measurement is asked, answered and found', async ({
  page,
  address,
}) => {
  await page.setViewportSize({ width: 1024, height: 768 })
  await openSample(page, address, 'Branch-line crossing', 'bring-up')
  const card = page.getByTestId('step-card')
  await expect(card).toBeVisible({ timeout: 30_000 })
  await page.locator('summary', { hasText: 'Signal by signal' }).click()
  await page.getByRole('button', { name: /WHITE\.A at MCU\.D4/ }).click()
  await page.getByRole('button', { name: 'Otherwise' }).click()
  await expect(page.getByRole('button', { name: /wrong: WHITE\.A at MCU\.D4/ })).toBeVisible()
  await page.getByRole('link', { name: 'What is wrong' }).click()
  const next = page.getByRole('region', { name: 'The next measurement' })
  const causes = page.locator('.causes li')
  await expect(causes.first()).toBeVisible({ timeout: 30_000 })
  // What is noticed without a step counts too, and can be taken back.
  await page.getByLabel('What do you notice?').selectOption('COUNT has power, but shows nothing or rubbish')
  await expect(next.locator('.measured li')).toHaveText('✗ COUNT has power, but shows nothing or rubbish')
  await page.getByRole('button', { name: 'Take the last one back' }).click()
  await expect(next.locator('.measured li')).toHaveCount(0)
  await expect(next.getByRole('button', { name: 'As it should be' })).toBeEnabled({ timeout: 20_000 })
  // The wire from the lamp to ground is missing: what touches it stays silent, everything else is right.
  for (let asked = 0; asked < 12; asked += 1) {
    const odds = await causes.first().textContent()
    if (Number.parseInt(odds!, 10) >= 80) break
    const words = (await next.locator('.step-do').textContent())!
    const hears = /touch/i.test(words) && /must sound/.test(words) && words.includes('WHITE.K')
    await next.getByRole('button', { name: hears ? 'Otherwise' : 'As it should be' }).click()
    await expect(next.locator('.measured li')).toHaveCount(asked + 1)
    await expect(next.getByRole('button', { name: 'As it should be' })).toBeEnabled({ timeout: 20_000 })
  }
  await expect(causes.first()).toContainText(/WHITE\.K to MCU\.GND.* is missing or loose/)
  await expectAccessible(page)
})

test('what a single-board computer says is sent to the server, and ticks its steps on the page', async ({
  page,
  address,
}) => {
  await openSample(page, address, 'Kiln logger', 'bring-up/prove')
  const id = /plan\/([^/]+)\//.exec(page.url())?.[1] ?? ''
  await expect(page.locator('.prove-list p[role=status]')).toContainText('0 of')
  const lines = '{"hello":"markpost","plan":"x","steps":9}\n{"step":"i2c:i2c1","found":[]}\nnoise\n'
  const send = (body: string) =>
    page.request.post(`${address}/api/plans/${id}/answers`, {
      data: Buffer.from(body),
      headers: { 'Content-Type': 'application/x-ndjson' },
    })
  const sent = await send(lines)
  expect(await sent.json()).toEqual({ lines: 3, pages: 1 })
  const scan = page.locator('.prove-list button', { hasText: /i2c1|I2C 1/ })
  await page.getByText('Who is on the bus').click()
  await expect(scan.first()).toHaveClass(/wrong/)
  await scan.first().click()
  await page.getByText('Run it on the board and send what it says here').click()
  await expect(page.locator('.board-line')).toContainText(`/api/plans/${id}/answers`)
  await expect(page.locator('.board-log').last()).toContainText('noise')
  await expect(page.locator('.save-state')).toContainText('saved')
})
