import { expect, expectAccessible, openSample, restingBox, test } from './fixture.ts'

test('a bare plan gets its breadboards, a part is dragged and keyed about, and the others stay', async ({
  page,
  address,
}) => {
  await openSample(page, address, 'Mended by Monday', 'bench')
  await expect(page.getByText('Nothing on the bench yet')).toBeVisible()
  await page.getByRole('button', { name: 'Choose breadboards and lay it out' }).click()
  const clock = page.getByRole('button', { name: /^CLOCK, .* at BB/ })
  const radio = page.getByRole('button', { name: /^RADIO, .* at BB/ })
  await expect(clock).toBeVisible({ timeout: 30_000 })
  const [clockAt, radioAt] = [await clock.getAttribute('aria-label'), await radio.getAttribute('aria-label')]

  // Dragged on top of another part it says why not, and nothing moves.
  await page.getByRole('button', { name: 'Whole bench' }).click()
  const from = await restingBox(clock.locator('.shell'))
  const over = await restingBox(page.locator('[data-ref=MCU] .shell'))
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(over.x + over.width / 2, over.y + over.height / 2, { steps: 6 })
  await expect(page.getByTestId('ghost')).toHaveClass(/refused/)
  await page.mouse.up()
  await expect(page.getByText(/CLOCK cannot stand there:/)).toBeVisible()
  await expect(clock).toHaveAttribute('aria-label', clockAt!)

  // By keyboard it goes to the next free place, wires and the rest of the bench with it.
  await clock.focus()
  await page.keyboard.press('ArrowDown')
  await expect(clock).not.toHaveAttribute('aria-label', clockAt!)
  await expect(clock).toHaveAttribute('aria-label', /kept there$/)
  await expect(radio).toHaveAttribute('aria-label', `${radioAt}, kept there`)
  const to = await restingBox(clock.locator('.shell'))
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(clock).toHaveAttribute('aria-label', clockAt!)

  // A drop on free rows is kept, and a fresh page shows it there.
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x + from.width / 2, to.y + from.height / 2, { steps: 4 })
  await expect(page.getByTestId('under-pointer')).toContainText('puts CLOCK in BB')
  await page.mouse.up()
  await expect(clock).toHaveAttribute('aria-label', /kept there$/)
  const dropped = await clock.getAttribute('aria-label')
  expect(dropped).not.toBe(clockAt)
  await expect(page.locator('.save-state')).toContainText('saved, rev.')
  await page.reload()
  await expect(clock).toHaveAttribute('aria-label', dropped!, { timeout: 30_000 })
  await expectAccessible(page)
})

test('a place that cannot be kept is a finding with a tried fix, and a hole tells its net', async ({
  page,
  address,
}) => {
  await openSample(page, address, 'Kiln logger', 'bench')
  await expect(page.getByRole('button', { name: /^CLOCK, .* at BB/ })).toBeVisible({ timeout: 30_000 })
  const tools = page.getByLabel('Bench tools')
  await tools.getByText('BB1 half').click()
  await tools.getByLabel('Kind of BB1').selectOption('mini')
  const card = page.locator('.finding[data-rule=no-free-hole]').first()
  await expect(card).toBeVisible()
  await card.getByRole('button').first().click()
  await card.getByRole('button', { name: 'Take a full breadboard for BB1' }).click({ timeout: 20_000 })
  await expect(page.locator('.finding[data-rule=no-free-hole]')).toHaveCount(0, { timeout: 20_000 })
  await expect(tools.getByText('BB1 full')).toBeVisible()

  // The layout on the new breadboard comes from its worker in its own time; the leg is looked for until it lies still.
  await expect(async () => {
    const leg = (await page.locator('[data-ref=CLOCK] .leg').first().boundingBox())!
    await page.mouse.move(leg.x + leg.width / 2, leg.y + leg.height / 2)
    const found = page.getByTestId('under-pointer')
    await expect(found).toContainText(/BB\d\.[a-j]\d+ row \d+ .*CLOCK\./, { timeout: 1000 })
  }).toPass({ timeout: 30_000 })
})

test('the sheets print holes, drawings and strips to scale', async ({ page, address }) => {
  await openSample(page, address, 'Branch-line crossing', 'sheets')
  await expect(page.locator('.mp-page-wiring .mp-hole').first()).toBeVisible({ timeout: 30_000 })
  await expect(page.locator('.mp-page-drawing svg')).toBeVisible()
  for (const name of ['Drawing of each step', 'Strips for the posts', 'Labels for wires', 'Supplies'])
    await page.getByLabel(name).check()
  const steps = await page.locator('.mp-page-wiring .mp-step').count()
  await expect(page.locator('.mp-page-build figure')).toHaveCount(steps)
  // A wire has two flags.
  const wires = await page.locator('.mp-page-wiring .mp-no').count()
  await expect(page.locator('.mp-flag')).toHaveCount(wires * 2)
  await page.emulateMedia({ media: 'print' })
  // The ruler of the strips is 100 mm at 96 CSS pixels an inch.
  const ruler = await page
    .locator('.mp-page-strips path')
    .first()
    .evaluate((path) => path.getBoundingClientRect().width)
  expect(Math.abs(ruler - (100 * 96) / 25.4)).toBeLessThan(1)
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
  const pages = pdf.match(/\/Type\s*\/Page\b/g)?.length ?? 0
  expect(pages).toBeGreaterThan(9)
  // A4 in points.
  expect(pdf).toMatch(/\/MediaBox\s*\[0 0 59[45](?:\.\d+)? 84[12](?:\.\d+)?\]/)
})

test('on a tablet the build is followed wire by wire to the end, and ticks are kept', async ({ page, address }) => {
  await page.setViewportSize({ width: 1024, height: 768 })
  await openSample(page, address, 'Branch-line crossing', 'bench')
  await page.getByRole('button', { name: 'Build', exact: true }).click({ timeout: 30_000 })
  const count = page.getByTestId('build-count')
  await expect(count).toContainText(/^0 of \d+ done/)
  const all = Number(/of (\d+)/.exec((await count.textContent())!)![1])
  await expect(page.getByTestId('build-card')).toContainText('BB1.')
  const next = page.getByRole('button', { name: 'Done, next' })
  const box = await restingBox(next)
  expect(box.height).toBeGreaterThan(60)
  await expectAccessible(page)
  for (let done = 1; done <= 14; done += 1) {
    await next.click()
    await expect(count).toHaveText(`${done} of ${all} done`)
  }
  await expect(page.locator('.wire.now')).toHaveCount(1)
  await expect(page.locator('.save-state')).toContainText('saved, rev.')
  await page.reload()
  await page.getByRole('button', { name: 'Build', exact: true }).click({ timeout: 30_000 })
  await expect(count).toHaveText(`14 of ${all} done`)
  for (let done = 15; done <= all; done += 1) {
    await next.click()
    await expect(count).toHaveText(`${done} of ${all} done`)
  }
  await expect(page.getByText('Every part and wire is ticked.')).toBeVisible()
  await expect(page.locator('.wires .wire')).toHaveCount(
    Number(await page.locator('.wires .wire').last().getAttribute('data-wire')),
  )
})
