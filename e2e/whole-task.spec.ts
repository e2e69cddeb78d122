import { expect, pickAction, test, wiringTable } from './fixture.ts'

const kit = 'bme280, oled, led, button, hall, pot'

test('from an empty folder to a printed table, by mouse', async ({ page, address }) => {
  await page.goto(address)
  await expect(page.getByText('Nothing planned yet')).toBeVisible()
  await page.getByLabel('Name of a new plan').fill('Shed door')
  await page.getByRole('button', { name: 'Start a plan' }).click()
  await pickAction(page, 'Add a board', 'uno-r3')
  await expect(page.getByText('Uno R3').first()).toBeVisible()
  await page.getByLabel('Quick entry of board and parts').fill(kit)
  await page.getByRole('button', { name: /^Add .*Enter/ }).click()
  await expect(page.locator('[data-part]')).toHaveCount(7) // six, and the resistor of the lamp
  const counts = page.getByTestId('finding-counts')
  await expect(counts).toContainText('0 faults, 0 cautions')

  await page.getByRole('link', { name: 'Pins' }).click()
  await page.locator('[data-signal="HALL.OUT"]').click()
  await expect(page.locator('[data-post="MCU.D7"]')).toContainText('no interrupt')
  await page.locator('[data-post="MCU.D2"]').click()
  await expect(page.locator('[data-post="MCU.D2"]')).toContainText('HALL')
  // Two mistakes by hand: a knob on a digital pin, and a lamp on the upload line.
  await page.getByLabel('Pin for KNOB.W').fill('8')
  await page.keyboard.press('Enter')
  await page.locator('[data-signal="LED.A"]').click()
  await page.getByLabel('Pin for LED.A').fill('PD1')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-rule="pin-function"]')).toBeVisible()
  await expect(page.locator('[data-rule="serial-console"]')).toBeVisible()

  // Each is mended with one press.
  await page.locator('[data-rule="pin-function"] .say').click()
  await page.locator('[data-rule="pin-function"] .fixes button').first().hover()
  await expect(page.getByLabel('What this changes')).toContainText('KNOB.W to MCU.D8 removed')
  await page.locator('[data-rule="pin-function"] .fixes button').first().click()
  await expect(page.locator('[data-rule="pin-function"]')).toHaveCount(0)
  await page.locator('[data-rule="serial-console"] .say').click()
  await page.locator('[data-rule="serial-console"] .fixes button').first().click()
  await expect(page.locator('[data-rule="serial-console"]')).toHaveCount(0)

  await page.getByRole('button', { name: 'Place the rest' }).click()
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  await expect(counts).toContainText('0 faults, 0 cautions')
  await expect(page.locator('.save-state')).toContainText('saved, rev.')

  await page.getByRole('link', { name: 'Sheets' }).click()
  const table = await wiringTable(page)
  expect(table).toContain('HALL OUT > MCU D2')
  expect(table).toContain('CLIMATE SDA > MCU A4')
  expect(new Set(table).size).toBe(table.length)
  const pdf = await page.pdf({ preferCSSPageSize: true })
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')

  // The command line's table is the same one.
  const id = page.url().split('/').at(-2)
  const sheet = await (await page.request.get(`${address}/api/plans/${id}/sheet?as=json`)).json()
  expect(
    sheet.wiring.map(
      (row: { from: { ref: string; pin: string }; to: { ref: string; pin: string } }) =>
        `${row.from.ref} ${row.from.pin} > ${row.to.ref} ${row.to.pin}`,
    ),
  ).toEqual(table)
})

test('the same with the keyboard alone', async ({ page, address }) => {
  await page.goto(address)
  await expect(page.getByText('Nothing planned yet')).toBeVisible()
  const tabTo = async (name: string): Promise<void> => {
    for (let count = 0; count < 40; count += 1) {
      await page.keyboard.press('Tab')
      const label = await page.evaluate(
        () => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent ?? '',
      )
      if (label.trim().startsWith(name)) return
    }
    throw new Error(`Tab never reaches ${name}`)
  }
  await tabTo('Name of a new plan')
  await page.keyboard.type('Shed door')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Quick entry of board and parts')).toBeFocused()
  await page.keyboard.type(kit)
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-part]')).toHaveCount(7)
  await tabTo('Add a board')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Uno')
  await page.keyboard.press('Enter')
  await expect(page.locator('.kit-line').first()).toContainText('Uno R3')
  await page.locator(':focus').evaluate((element) => (element as HTMLElement).blur())
  await page.keyboard.press('p')
  await expect(page).toHaveURL(/\/pins$/)
  const picked = page.locator('.signal.picked')
  await expect(page.locator('.signal').first()).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await expect(picked).toHaveAttribute('data-signal', 'CLIMATE.SCL')
  await page.keyboard.press('q')
  await expect(page.locator('[data-signal="CLIMATE.SCL"]')).toContainText('A5')
  await expect(picked).toHaveAttribute('data-signal', 'CLIMATE.SDA')
  await page.keyboard.press('q')
  for (let press = 0; press < 20 && (await picked.getAttribute('data-signal')) !== 'HALL.OUT'; press += 1)
    await page.keyboard.press('ArrowDown')
  await page.keyboard.type('D3')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-signal="HALL.OUT"]')).toContainText('D3')
  for (let press = 0; press < 20 && (await picked.getAttribute('data-signal')) !== 'HALL.OUT'; press += 1)
    await page.keyboard.press('ArrowUp')
  await page.keyboard.press('!')
  await expect(page.locator('[data-signal="HALL.OUT"]')).toContainText('locked')
  await page.keyboard.press('Delete')
  await expect(page.getByText('is locked; unlock it first')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.locator('[data-signal="HALL.OUT"]')).not.toContainText('locked')
  await page.keyboard.press('Control+Shift+z')
  await expect(page.locator('[data-signal="HALL.OUT"]')).toContainText('locked')
  await page.keyboard.press('*')
  await expect(page.getByTestId('open-count')).toHaveText('all placed')
  await expect(page.locator('[data-signal="HALL.OUT"]')).toContainText('D3')
  await expect(page.getByTestId('finding-counts')).toContainText('0 faults, 0 cautions')
  await page.keyboard.press('s')
  await expect(page).toHaveURL(/\/sheets$/)
  const table = await wiringTable(page)
  expect(table).toContain('HALL OUT > MCU D3')
  expect(table).toContain('CLIMATE SCL > MCU A5')
  await tabTo('Print')
  await expect(page.getByRole('button', { name: 'Print' })).toBeFocused()
})

for (const board of ['uno-r3', 'micro-32u4', 'esp32-devkit-38', 'pi-40', 'pico']) {
  test(`a plan is made, checked and printed on ${board}`, async ({ page, address }) => {
    await page.goto(address)
    await page.getByLabel('Name of a new plan').fill(`On ${board}`)
    await page.keyboard.press('Enter')
    await pickAction(page, 'Add a board', board)
    await page.getByLabel('Quick entry of board and parts').fill('bme280, oled, 2 led, button, dht22')
    await page.keyboard.press('Enter')
    await page.getByRole('link', { name: 'Pins' }).click()
    await page.getByRole('button', { name: 'Place the rest' }).click()
    await expect(page.getByTestId('open-count')).toHaveText('all placed')
    // Linux cannot time the humidity sensor's pulses, and says so.
    const cautions = board === 'pi-40' ? '1 caution' : '0 cautions'
    await expect(page.getByTestId('finding-counts')).toContainText(`0 faults, ${cautions}`)
    await page.getByRole('link', { name: 'Sheets' }).click()
    const table = await wiringTable(page)
    // The module holds the straps for bus and address itself.
    expect(table.filter((row) => row.startsWith('CLIMATE '))).toHaveLength(4)
    expect(table.every((row) => row.includes(' > '))).toBe(true)
  })
}
