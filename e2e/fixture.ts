import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type BrowserContext, test as base, expect, type Locator, type Page } from '@playwright/test'
import axe from 'axe-core'

interface OfWorker {
  data: string
  server: string
  /** What the tests of one worker share, a page and scripts that are compiled already: most of the time of opening one. */
  kept: { context?: BrowserContext; page?: Page }
}

/** The real server, started once a worker and emptied before each test; so is what the browser stores. */
export const test = base.extend<{ address: string }, OfWorker>({
  data: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the first argument's pattern
    async ({}, use) => {
      const data = mkdtempSync(join(tmpdir(), 'markpost-e2e-'))
      await use(data)
      rmSync(data, { recursive: true, force: true })
    },
    { scope: 'worker' },
  ],
  server: [
    async ({ data }, use) => {
      const server = spawn(process.execPath, ['bin/markpost.mjs', 'serve', '--port', '0', '--data', data])
      const address = await new Promise<string>((resolve, reject) => {
        let said = ''
        server.stdout.on('data', (chunk) => {
          said += String(chunk)
          const found = /http:\/\/\S+/.exec(said)
          if (found) resolve(found[0])
        })
        server.on('exit', () => reject(new Error(`the server ended: ${said}`)))
      })
      await use(address)
      server.kill('SIGTERM')
    },
    { scope: 'worker' },
  ],
  address: async ({ server }, use) => {
    await empty(server)
    await use(server)
  },
  kept: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the first argument's pattern
    async ({}, use) => {
      const kept: OfWorker['kept'] = {}
      await use(kept)
      await kept.context?.close()
    },
    { scope: 'worker' },
  ],
  context: async ({ browser, kept, serviceWorkers }, use) => {
    if (serviceWorkers !== 'block') {
      const own = await browser.newContext()
      await use(own)
      await own.close()
      return
    }
    kept.context ??= await browser.newContext()
    await use(kept.context)
    for (const page of kept.context.pages()) if (page !== kept.page) await page.close()
  },
  page: async ({ context, kept, server, viewport }, use) => {
    const isShared = context === kept.context
    const page = (isShared ? kept.page : undefined) ?? (await watched(await context.newPage()))
    if (isShared) kept.page = page
    const errors: string[] = []
    const broken = (error: Error): void => void errors.push(error.message)
    page.on('pageerror', broken)
    brokenPolicies.set(page, errors)
    await use(page)
    page.off('pageerror', broken)
    expect(errors, 'errors in the page').toEqual([])
    if (!isShared) return
    // As a new one would be: to open a page takes longer than many a test.
    await page.unrouteAll({ behavior: 'ignoreErrors' })
    // Of the same origin, so that it stays in its process.
    await page.goto(`${server}/api/bin`)
    if (viewport) await page.setViewportSize(viewport)
    await page.emulateMedia({ media: null, colorScheme: null })
    const storage = await context.newCDPSession(page)
    const storageTypes = 'cookies,local_storage,indexeddb,cache_storage'
    await storage.send('Storage.clearDataForOrigin', { origin: new URL(server).origin, storageTypes })
    await storage.detach()
  },
})

/** Where what a page's policy forbade is told, test by test. */
const brokenPolicies = new Map<Page, string[]>()

/** A page that tells when its policy is broken. */
async function watched(page: Page): Promise<Page> {
  await page.exposeFunction('policyBroken', (what: string) => void brokenPolicies.get(page)?.push(what))
  await page.addInitScript(() =>
    document.addEventListener('securitypolicyviolation', ({ effectiveDirective, sample, sourceFile, target }) => {
      // What the browser itself keeps of a style while text in an editor is replaced, and then does not apply.
      if (target instanceof Element && target.closest('.yaml-field')) return
      const tell = (window as unknown as { policyBroken: (what: string) => void }).policyBroken
      tell(`${effectiveDirective} broken by ${sourceFile || 'the page'}: ${sample}`)
    }),
  )
  return page
}

export { expect }

interface Kept {
  readonly id: string
  readonly kind?: string
  readonly revision?: number
}

/** Takes away the plans and own entries that a test left. */
async function empty(address: string): Promise<void> {
  const read = async (path: string) => (await fetch(`${address}/api/${path}`)).json()
  const forget = async (path: string, { revision }: Kept): Promise<void> => {
    const headers = { 'If-Match': `"${revision}"` }
    const { ok, status } = await fetch(`${address}/api/${path}`, { method: 'DELETE', headers })
    if (!ok) throw new Error(`DELETE ${path} answered ${status}`)
  }
  const plans = (): Promise<Kept[]> => read('plans')
  for (let left = await plans(); left.length > 0; left = await plans())
    for (const plan of left) await forget(`plans/${plan.id}`, plan)
  for (const { id } of await read('bin')) await fetch(`${address}/api/bin/${id}`, { method: 'DELETE' })
  const { entries }: { entries: Kept[] } = await read('entries')
  for (const entry of entries) await forget(`entries/${entry.kind}/${entry.id}?used=known`, entry)
}

/** Where an element is once it has stayed there for a third of a second: a layout comes from its worker in its own time. */
export async function restingBox(locator: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  let before = ''
  let box = await locator.boundingBox()
  await expect(async () => {
    box = await locator.boundingBox()
    const now = JSON.stringify(box)
    const rests = box !== null && now === before
    before = now
    expect(rests, `${locator} rests`).toBe(true)
  }).toPass({ intervals: [350], timeout: 30_000 })
  return box!
}

/**
 * No violation of WCAG 2.2 AA that a machine can find. Themes differ in colours alone: the other one is scanned for
 * contrast.
 */
export async function expectAccessible(page: Page, themes: 'this theme' | 'both themes' = 'this theme'): Promise<void> {
  // A page that is still loading has nothing to look at.
  for (const mark of ['main', 'h1']) await page.locator(mark).first().waitFor({ state: 'attached' })
  expect(await violationsOf(page, ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'])).toEqual([])
  if (themes === 'this theme') return
  const put = (theme: string | undefined): Promise<void> =>
    page.evaluate((wanted) => {
      document.documentElement.dataset.bsTheme = wanted
    }, theme)
  const theme = await page.evaluate(() => document.documentElement.dataset.bsTheme)
  await put(theme === 'dark' ? 'light' : 'dark')
  expect(await violationsOf(page, { type: 'rule', values: ['color-contrast'] }), 'in the other theme').toEqual([])
  await put(theme)
}

/** Violations only: to describe what passes, node by node, takes most of the time. */
async function violationsOf(page: Page, runOnly: NonNullable<axe.RunOptions['runOnly']>): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  return page.evaluate(async (only) => {
    const scanner = (window as unknown as { axe: typeof axe }).axe
    const { violations } = await scanner.run({ runOnly: only, resultTypes: ['violations'] })
    return violations.map(
      (one) =>
        `${one.id}: ${one.nodes
          .map((node) => node.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    )
  }, runOnly)
}

/** Rows of the printed wiring table as `from > to`. */
export async function wiringTable(page: Page): Promise<string[]> {
  const rows = page.locator('.mp-wiring tbody tr')
  await rows.first().waitFor()
  return rows.evaluateAll((all) =>
    all.map((row) => [...row.querySelectorAll('.mp-end b')].map((end) => end.textContent).join(' > ')),
  )
}

/** Opens a copy of a sample in one of its places, and gives its id; by way of the first page it takes two pages more. */
export async function openSample(page: Page, address: string, title: string, place: string): Promise<string> {
  const samples: { id: string; title: string }[] = await (await page.request.get(`${address}/api/samples`)).json()
  const sample = samples.find((one) => one.title === title)
  if (!sample) throw new Error(`no sample is called ${title}`)
  const made = await page.request.post(`${address}/api/plans`, { data: { sample: sample.id } })
  expect(made.status()).toBe(201)
  const { id } = await made.json()
  await page.goto(`${address}/plan/${id}/${place}`)
  return id
}

/** Takes an entry of a menu of actions by its id; the first one when left out. */
export async function pickAction(page: Page, menu: string, id?: string): Promise<void> {
  await page.getByRole('button', { name: menu, exact: true }).click()
  const entries = page.locator('.action-menu.show .dropdown-item')
  await (id === undefined ? entries.first() : entries.and(page.locator(`[data-action="${id}"]`))).click()
}
