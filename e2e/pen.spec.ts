import type { Page } from '@playwright/test'
import { expect, expectAccessible, openSample, test } from './fixture.ts'

const state = (page: Page) => page.locator('.save-state')
const title = (page: Page) => page.getByLabel('Title of the plan')

async function openOrchard(page: Page, address: string): Promise<string> {
  await page.goto(address)
  await page.getByRole('button', { name: 'Open “Orchard hive watch”' }).click()
  await expect(title(page)).toHaveValue('Orchard hive watch')
  return page.url().split('/').at(-2)!
}
const stored = async (page: Page, address: string, id: string) =>
  (await (await page.request.get(`${address}/api/plans/${id}`)).json()).plan
/** Keeps saves from arriving; `answer` lets them arrive and loses what comes back. */
const cutOff = (page: Page, how: 'request' | 'answer') =>
  page.route('**/api/plans/*', async (route) => {
    if (route.request().method() !== 'PUT') return route.continue()
    if (how === 'answer') await route.fetch()
    return route.abort()
  })
/** The server answers again; whoever does not want to wait for the next try presses. */
async function back(page: Page): Promise<void> {
  await page.unroute('**/api/plans/*')
  await page
    .getByRole('button', { name: 'Try now' })
    .click({ timeout: 500 })
    .catch(() => undefined)
}
const drafts = (page: Page) =>
  page.evaluate(() => Object.keys(localStorage).filter((key) => key.startsWith('markpost.draft.')).length)

test('while the server is away it is said aloud, kept, and sent when it is back', async ({ page, address }) => {
  await openOrchard(page, address)
  await cutOff(page, 'request')
  await title(page).fill('Hives in the rain')
  await expect(page.getByRole('alert')).toContainText('Not saved: the server does not answer.')
  await expect(page.getByRole('alert')).toContainText('kept in this browser')
  await expectAccessible(page)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Keep as a file' }).click(),
  ])
  expect(file.suggestedFilename()).toBe('Hives-in-the-rain.markpost.yaml')
  await page.unroute('**/api/plans/*')
  await page.reload()
  await expect(title(page)).toHaveValue('Hives in the rain')
  await expect(state(page)).toHaveText('saved, rev. 2')
  await expect.poll(() => drafts(page)).toBe(0)
})

test('a part removed and brought back before it was saved is there after a reload', async ({ page, address }) => {
  await openOrchard(page, address)
  await page.getByRole('link', { name: 'Kit' }).click()
  await page.getByRole('button', { name: 'Remove BROOD' }).click()
  await expect(page.getByLabel('Reference of BROOD')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await page.reload()
  await expect(page.getByLabel('Reference of BROOD')).toBeVisible()
  await expect.poll(() => drafts(page)).toBe(0)
})

test('a title that is typed and not left counts, also when the page goes at once', async ({ page, address }) => {
  await openOrchard(page, address)
  await title(page).press('End')
  await title(page).pressSequentially(' by night')
  await page.reload()
  await expect(title(page)).toHaveValue('Orchard hive watch by night')
  await page.getByRole('link', { name: 'Kit' }).click()
  await page.getByLabel('What BROOD is for').fill('Nest climate')
  await page.reload()
  await expect(page.getByLabel('What BROOD is for')).toHaveValue('Nest climate')
  await title(page).fill('Night watch')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+z')
  // The letters of one title are one step.
  await expect(title(page)).toHaveValue('Orchard hive watch by night')
})

test('a save whose answer was cut off is no conflict with oneself', async ({ page, address }) => {
  const id = await openOrchard(page, address)
  await cutOff(page, 'answer')
  await title(page).fill('Saved unheard')
  await expect(page.getByRole('alert')).toContainText('Not saved')
  await title(page).fill('Saved unheard, and more')
  await back(page)
  await expect(state(page)).toContainText('saved, rev.')
  expect((await stored(page, address, id)).title).toBe('Saved unheard, and more')
  await expect(page.getByText('changed elsewhere')).toHaveCount(0)
})

test('an edit made while a save is under way is saved after the plan was left', async ({ page, address }) => {
  const id = await openOrchard(page, address)
  await page.route('**/api/plans/*', async (route) => {
    if (route.request().method() === 'PUT') await new Promise((done) => setTimeout(done, 700))
    await route.continue()
  })
  // Listened for before it can begin: on a slow machine it begins while the page is still being typed into.
  const saving = page.waitForRequest((request) => request.method() === 'PUT')
  await title(page).fill('First')
  await saving
  await title(page).fill('Second')
  await page.getByRole('link', { name: 'Mark Post: all plans' }).click()
  await expect.poll(async () => (await stored(page, address, id)).title).toBe('Second')
})

test('two tabs: what does not touch is joined, the tab in the back follows by itself', async ({
  page,
  address,
  context,
}) => {
  const id = await openOrchard(page, address)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(title(other)).toHaveValue('Orchard hive watch')
  await title(other).fill('From the other tab')
  await expect(state(other)).toHaveText('saved, rev. 2')
  await expect(title(page)).toHaveValue('From the other tab')
  // Cut off, both go on; then what they made goes together by itself.
  await cutOff(page, 'request')
  await page.getByRole('link', { name: 'Kit' }).click()
  await page.getByLabel('What BROOD is for').fill('Nest climate')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('Not saved')
  await title(other).fill('Again from the other tab')
  await expect(state(other)).toHaveText('saved, rev. 3')
  await back(page)
  await expect(state(page)).toHaveText('saved, rev. 4')
  await expect(title(page)).toHaveValue('Again from the other tab')
  const plan = await stored(page, address, id)
  expect([plan.title, plan.parts.BROOD.title]).toEqual(['Again from the other tab', 'Nest climate'])
  await expect(title(other)).toHaveValue('Again from the other tab')
})

test('two tabs: what touches is shown side by side, piece by piece; nothing is lost whatever one presses', async ({
  page,
  address,
  context,
}) => {
  const id = await openOrchard(page, address)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(title(other)).toHaveValue('Orchard hive watch')
  await cutOff(page, 'request')
  await title(page).fill('From this tab')
  await expect(page.getByRole('alert')).toContainText('Not saved')
  await title(other).fill('From the other tab')
  await expect(state(other)).toHaveText('saved, rev. 2')
  await back(page)
  const asked = page.getByRole('region', { name: 'This plan was changed elsewhere' })
  await expect(asked).toContainText('title "Orchard hive watch" becomes "From this tab"')
  await expect(asked).toContainText('title "Orchard hive watch" becomes "From the other tab"')
  await expect(page.getByRole('button', { name: 'Keep both' })).toBeFocused()
  await expectAccessible(page)
  // Not answered, and the page goes: it is asked again.
  await page.reload()
  await expect(asked).toBeVisible()
  await expect(page.getByRole('button', { name: /Use what is chosen/ })).toBeDisabled()
  await asked.getByRole('radio', { name: /^yours/ }).check()
  await page.getByRole('button', { name: 'Use what is chosen' }).click()
  await expect(state(page)).toHaveText('saved, rev. 3')
  expect((await stored(page, address, id)).title).toBe('From this tab')

  // The safe answer makes a plan of mine and leaves theirs as it is.
  await cutOff(page, 'request')
  await title(page).fill('Mine again')
  await expect(page.getByRole('alert')).toContainText('Not saved')
  await title(other).fill('Theirs again')
  await expect(state(other)).toHaveText('saved, rev. 4')
  await back(page)
  await page.getByRole('button', { name: 'Keep both' }).click()
  await expect(title(page)).toHaveValue('Mine again (my side)')
  await page.goto(address)
  await expect(page.locator('.plan-line h2')).toHaveText(['Mine again (my side)', 'Theirs again'])
  await expect.poll(() => drafts(page)).toBe(0)
})

test('a plan that was deleted elsewhere is kept, and comes back as a new one', async ({ page, address }) => {
  const id = await openOrchard(page, address)
  await title(page).fill('Not for the bin')
  await expect(state(page)).toHaveText('saved, rev. 2')
  await page.request.delete(`${address}/api/plans/${id}`)
  await expect(page.getByRole('alert')).toContainText('the plan was deleted elsewhere')
  await title(page).fill('Not for the bin at all')
  await page.reload()
  await expect(page.getByRole('heading', { name: 'This plan is not here' })).toBeVisible()
  await page.goto(address)
  await expect(page.getByText('“Not for the bin at all” has changes that were never saved')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('link', { name: 'Go on with it' }).click()
  await page.getByRole('button', { name: 'Bring it back as a new plan' }).click()
  await expect(title(page)).toHaveValue('Not for the bin at all')
  await expect.poll(() => drafts(page)).toBe(0)
})

test('a full store of the browser is said, and the plan goes on', async ({ page, address }) => {
  await openOrchard(page, address)
  await page.evaluate(() => {
    for (let size = 1 << 20; size > 1; size /= 2)
      try {
        for (let n = 0; ; n += 1) localStorage.setItem(`filler ${size} ${n}`, 'x'.repeat(size))
      } catch {}
  })
  await cutOff(page, 'request')
  await title(page).fill('No room')
  await expect(page.getByRole('alert')).toContainText('in this page only: this browser’s store is full')
  await back(page)
  await expect(state(page)).toHaveText('saved, rev. 2')
})

test('a damaged text is shown with what is wrong, and mended in place', async ({ page, address, data }) => {
  const id = await openOrchard(page, address)
  await page.goto(address)
  const { default: Database } = await import('better-sqlite3')
  const db = new Database(`${data}/markpost.db`)
  db.prepare("UPDATE plans SET text = replace(text, 'wires:', 'wires: ['), revision = revision + 1").run()
  db.close()
  await page.goto(`${address}/plan/${id}/pins`)
  await expect(page.getByRole('heading', { name: 'The text of this plan is damaged' })).toBeVisible()
  await expect(page.locator('.problems')).toContainText(/line \d+/)
  await expectAccessible(page)
  const editor = page.locator('.cm-content')
  await editor.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('markpost: 1\ntitle: Mended\n')
  await page.getByRole('button', { name: 'Save the mended text' }).click()
  await expect(title(page)).toHaveValue('Mended')
})

test('a place that breaks leaves the rest alive and offers the plan', async ({ page, address }) => {
  await openOrchard(page, address)
  await page.route('**/Workings-*.js*', (route) => route.abort())
  await page.getByRole('link', { name: 'Workings' }).click()
  await expect(page.getByRole('alert')).toContainText('This place cannot be shown. The workings cannot be loaded')
  await expect(page.getByRole('button', { name: 'Keep as a file' })).toBeVisible()
  await page.getByRole('link', { name: 'Pins' }).click()
  await expect(page.locator('.ledger')).toBeVisible()
  await page.getByRole('link', { name: 'Workings' }).click()
  await expect(page.getByRole('alert')).toContainText('cannot be loaded')
  // The server is back: the next try brings it.
  await page.unroute('**/Workings-*.js*')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('link', { name: 'Calculators' })).toBeVisible()
})

test('code that lacks something it needs comes with a new page, once the server gives it', async ({
  page,
  address,
}) => {
  await openOrchard(page, address)
  await page.route('**/Chart-*.js', (route) => route.abort())
  await page.getByRole('link', { name: 'Workings' }).click()
  await expect(page.getByRole('alert')).toContainText('The workings cannot be loaded')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('alert')).toContainText('The workings cannot be loaded')
  await page.unroute('**/Chart-*.js')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('link', { name: 'Calculators' })).toBeVisible()
})

test('an answer that comes late is joined with what was done meanwhile, or refused with a word', async ({
  page,
  address,
}) => {
  // The search takes its time: its thread is loaded late.
  await page.route('**/search.worker-*.js', async (route) => {
    await new Promise((done) => setTimeout(done, 2500))
    await route.continue()
  })
  const plan = {
    markpost: 1,
    title: 'Two keys',
    boards: { MCU: { board: 'uno-r3' } },
    parts: { A: { part: 'button' }, B: { part: 'button' } },
  }
  const make = async (): Promise<string> =>
    (await (await page.request.post(`${address}/api/plans`, { data: { plan } })).json()).id
  const joined = await make()
  await page.goto(`${address}/plan/${joined}/pins`)
  await page.getByRole('button', { name: /Place the rest/ }).click()
  await title(page).fill('Renamed meanwhile')
  await expect(page.getByText(/wires placed/)).toBeVisible()
  await expect(state(page)).toContainText('saved, rev.')
  const now = await stored(page, address, joined)
  expect([now.title, now.wires.length]).toEqual(['Renamed meanwhile', 4])
  // A part that it wires is gone meanwhile: nothing is changed, and it is said.
  const refused = await make()
  await page.goto(`${address}/plan/${refused}/pins`)
  await page.getByRole('button', { name: /Place the rest/ }).click()
  await page.request.put(`${address}/api/plans/${refused}`, {
    data: { plan: { ...plan, parts: { A: plan.parts.A } } },
    headers: { 'If-Match': '"1"' },
  })
  await expect(page.getByText('nothing was changed. Ask for it again.')).toBeVisible()
  expect((await stored(page, address, refused)).wires).toEqual([])
})

test('a search thread that cannot be loaded is said', async ({ page, address }) => {
  await page.route('**/search.worker-*.js', (route) => route.abort())
  await openSample(page, address, 'Mended by Monday', 'pins')
  await page.getByRole('button', { name: 'Fix all that is safe' }).click()
  await expect(page.getByText('the search could not be started')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Fix all that is safe' })).toBeEnabled()
})

test('the second of two plans that are opened at once is the one that is shown', async ({ page, address }) => {
  const make = async (name: string): Promise<string> =>
    (await (await page.request.post(`${address}/api/plans`, { data: { title: name } })).json()).id
  const [slow, quick] = [await make('Slow'), await make('Quick')]
  await page.route(`**/api/plans/${slow}`, async (route) => {
    await new Promise((done) => setTimeout(done, 1200))
    await route.continue()
  })
  await page.goto(address)
  await page.getByRole('link', { name: 'Slow' }).click()
  await page.goBack()
  await page.getByRole('link', { name: 'Quick' }).click()
  await expect(title(page)).toHaveValue('Quick')
  await page.waitForTimeout(1500)
  await expect(title(page)).toHaveValue('Quick')
  expect(page.url()).toContain(quick)
})

test('a list of hundreds is paged, searched and sorted', async ({ page, address }) => {
  for (let n = 0; n < 240; n += 1)
    await page.request.post(`${address}/api/plans`, { data: { title: `Plan ${String(n).padStart(3, '0')}` } })
  await page.goto(address)
  await expect(page.getByText('240 plans')).toBeVisible()
  expect(await page.locator('.plan-line').count()).toBeLessThan(60)
  await page.getByLabel('Order of the plans').selectOption('title')
  await expect(page.locator('.plan-line h2').first()).toHaveText('Plan 000')
  await page.evaluate(() => window.scrollTo(0, document.body.scrollHeight * 0.55))
  await expect(
    page
      .locator('.plan-line h2')
      .filter({ hasText: /Plan 1[2-9]/ })
      .first(),
  ).toBeVisible()
  await page.evaluate(() => window.scrollTo(0, 0))
  await page.getByLabel('Find a plan by title or board').fill('plan 23')
  await expect(page.getByText('13 plans')).toBeVisible()
  await expect(page.locator('.plan-line h2').first()).toHaveText('Plan 023')
  await expectAccessible(page)
})
