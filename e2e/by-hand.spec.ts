import { expect, expectAccessible, test } from './fixture.ts'

/** The wiring of a car as one reads it out: part by part, pin by pin in the part's own order. */
const car: readonly (readonly [end: string, to: string])[] = [
  ['ECHO.VCC', '5V'],
  ['ECHO.TRIG', '12'],
  ['ECHO.ECHO', '13'],
  ['ECHO.GND', 'GND'],
  ['SERVO.GND', 'GND'],
  ['SERVO.VCC', '5V'],
  ['SERVO.SIG', '9'],
  ['DRIVERB.12V', 'BATTERY +'],
  ['DRIVERB.GND', 'battery.-'],
  ['DRIVERB.5V', '-'],
  ['DRIVERB.ENA', '5'],
  ['DRIVERB.IN1', '4'],
  ['DRIVERB.IN2', '7'],
  ['DRIVERB.IN3', '8'],
  ['DRIVERB.IN4', '2'],
  ['DRIVERB.ENB', '6'],
  ['DRIVERB.OUT1', 'MOTOR1 M1'],
  ['DRIVERB.OUT2', 'MOTOR1 M2'],
  ['DRIVERB.OUT3', 'MOTOR2 M1'],
  ['DRIVERB.OUT4', 'MOTOR2 M2'],
  ['OLED.GND', 'GND'],
  ['OLED.VCC', '5V'],
  ['OLED.SCL', 'A5'],
  ['OLED.SDA', 'A4'],
  ['REMOTE.OUT', '3'],
  ['REMOTE.GND', 'GND'],
  ['REMOTE.VS', '5V'],
  ['LED.A', '10'],
  ['LED.K', 'GND'],
]

test('a car that is wired already is entered by hand at the speed of reading it out', async ({ page, address }) => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Car')
  await page.keyboard.press('Enter')
  await page
    .getByLabel('Quick entry of board and parts')
    .fill('uno, hc-sr04, servo, l298n, 2 motors, oled, ir receiver, led, hc-05, 3 buttons, 9v battery')
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'Pins' }).click()
  await page.getByRole('button', { name: 'Enter by hand' }).click()
  const faults = page.getByTestId('finding-counts')
  let presses = 0
  const at = (): Promise<string | undefined> =>
    page.evaluate(() => (document.activeElement as HTMLElement | null)?.dataset.hand)
  for (const [end, to] of car) {
    // Rows that nobody speaks of are passed by.
    for (let passed = 0; (await at()) !== end; passed += 1) {
      expect(passed, `from ${await at()} to ${end}`).toBeLessThan(6)
      presses += 1
      await page.keyboard.press('ArrowDown')
    }
    await page.keyboard.type(to)
    presses += 1
    await page.keyboard.press('Enter')
    // Half-way through nothing is scolded.
    await expect(faults).toContainText('0 faults')
  }
  expect(presses / car.length).toBeLessThanOrEqual(1.5)
  await expect(page.locator('[data-hand="DRIVERB.IN1"]')).toHaveValue('4')
  await expectAccessible(page, 'both themes')

  // A name that is no pin is said, and nothing is lost.
  const field = page.locator('[data-hand="BLUE.GND"]')
  await field.fill('99')
  await field.press('Enter')
  await expect(page.getByRole('alert')).toContainText('uno-r3 has no pin "99"')
  await expect(field).toHaveValue('99')
  await field.fill('gnd')
  await field.press('Enter')
  await expect(page.locator('[data-hand="BLUE.VCC"]')).toBeFocused()
  // A rail is pressed on the board like any other post.
  await page.locator('[data-post="MCU.5V"]').click()
  await expect(page.locator('[data-hand="BLUE.VCC"]')).toHaveValue('5V')

  // What is typed counts, however the field is left.
  await page.locator('[data-hand="BUTTON3.1"]').fill('A2')
  await page.keyboard.press('Tab')
  await expect(page.locator('[data-hand="BUTTON3.1"]')).toHaveValue('A2')
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', 'Undo: Wire BUTTON3.1 to A2')

  // Two columns at once, with a line that does not fit.
  await page.locator('[data-hand="BUTTON1.1"]').focus()
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.setData('text/plain', 'part\tpin\tto\nBUTTON1\t1\tA0\nBUTTON1\t2\tGND\nBUTTON2\t1\tA1\nHORN\t+\t3')
    document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
  })
  await expect(page.getByText('3 wires entered from the table.')).toBeVisible()
  await expect(page.locator('.pasted')).toContainText('line 5')
  await expect(page.locator('[data-hand="BUTTON2.1"]')).toHaveValue('A1')
  // A table as a file is looked at before it is taken in.
  const dropped = await page.evaluateHandle(() => {
    const data = new DataTransfer()
    data.items.add(
      new File(['from,to,colour\nBUTTON2.2,GND,black\nBUTTON1.1,A0,\nWHISTLE.+,3,red\n'], 'wires.csv', {
        type: 'text/csv',
      }),
    )
    return data
  })
  await page.locator('.by-hand').dispatchEvent('drop', { dataTransfer: dropped })
  const table = page.getByRole('dialog')
  await expect(table.getByRole('heading', { name: '1 wire to enter' })).toBeVisible()
  await expect(table.getByRole('row').nth(1)).toContainText('black')
  await expect(table.getByRole('row').nth(2)).toContainText('there already')
  await expect(table.getByRole('row').nth(3)).toContainText('this plan has nothing called "WHISTLE"')
  await expectAccessible(page)
  await table.getByRole('button', { name: 'Enter 1 wire' }).click()
  await expect(page.getByText('2 wires entered from the table.')).toBeVisible()
  await expect(page.locator('[data-hand="BUTTON2.2"]')).toHaveValue('GND')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.locator('[data-signal="DRIVERB.IN1"]')).toContainText('4')
})

test('a pin that does not suit says why when it is pressed, and takes the signal at the second press', async ({
  page,
  address,
}) => {
  await page.goto(address)
  await page.getByLabel('Name of a new plan').fill('Refused')
  await page.keyboard.press('Enter')
  await page.getByLabel('Quick entry of board and parts').fill('uno, pot')
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'Pins' }).click()
  await page.locator('[data-signal="KNOB.W"]').click()
  await page.locator('[data-post="MCU.D8"]').click()
  await expect(page.locator('.toast')).toContainText('Press it again to put it there all the same.')
  await expect(page.locator('[data-signal="KNOB.W"]')).not.toContainText('D8')
  await page.locator('[data-post="MCU.D8"]').click()
  await expect(page.locator('[data-signal="KNOB.W"]')).toContainText('D8')
})
