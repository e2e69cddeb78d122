import { expect, openSample, test } from './fixture.ts'

test.use({ serviceWorkers: 'allow' })

test('while the server is away the application opens, a plan is changed, and the change arrives afterwards', async ({
  page,
  address,
  context,
}) => {
  await openSample(page, address, 'Orchard hive watch', 'pins')
  const title = page.getByLabel('Title of the plan')
  await expect(title).toHaveValue('Orchard hive watch')
  const id = page.url().split('/').at(-2)!
  await page.evaluate(() => navigator.serviceWorker.ready)
  // What the first page asked for before the worker was there is asked for once more, and kept.
  await page.reload()
  await expect(title).toHaveValue('Orchard hive watch')
  await expect
    .poll(() => page.evaluate(async () => (await (await caches.open('markpost-answers')).keys()).length))
    .toBeGreaterThan(1)

  await context.setOffline(true)
  await page.reload()
  await expect(title).toHaveValue('Orchard hive watch')
  // Places that were never opened are there too.
  await page.getByRole('link', { name: /^Workings/ }).click()
  await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible()
  await title.fill('Hives without a net')
  await expect(page.getByRole('alert')).toContainText('Not saved: the server does not answer.')
  await page.reload()
  await expect(title).toHaveValue('Hives without a net')

  await context.setOffline(false)
  await expect(page.locator('.save-state')).toHaveText(/^saved, rev\. \d+$/, { timeout: 40_000 })
  const kept = await (await page.request.get(`${address}/api/plans/${id}`)).json()
  expect(kept.plan.title).toBe('Hives without a net')
})
