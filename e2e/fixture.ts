import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import AxeBuilder from '@axe-core/playwright'
import { test as base, expect, type Page } from '@playwright/test'

/** The real server on a folder of its own for each test. */
export const test = base.extend<{ data: string; address: string }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the first argument's pattern
  data: async ({}, use) => {
    const data = mkdtempSync(join(tmpdir(), 'markpost-e2e-'))
    await use(data)
    rmSync(data, { recursive: true, force: true })
  },
  address: async ({ data }, use) => {
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
  page: async ({ page }, use) => {
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.message))
    await use(page)
    expect(errors, 'errors in the page').toEqual([])
  },
})

export { expect }

/** No violation of WCAG 2.2 AA that a machine can find. */
export async function expectAccessible(page: Page): Promise<void> {
  // A page that is still loading has nothing to look at.
  for (const mark of ['main', 'h1']) await page.locator(mark).first().waitFor({ state: 'attached' })
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .analyze()
  expect(
    violations.map(
      (one) =>
        `${one.id}: ${one.nodes
          .map((node) => node.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([])
}

/** Rows of the printed wiring table as `from > to`. */
export async function wiringTable(page: Page): Promise<string[]> {
  const rows = page.locator('.mp-wiring tbody tr')
  await rows.first().waitFor()
  return rows.evaluateAll((all) =>
    all.map((row) => [...row.querySelectorAll('.mp-end b')].map((end) => end.textContent).join(' > ')),
  )
}

/** Opens a copy of a sample in one of its places. */
export async function openSample(page: Page, address: string, title: string, place: string): Promise<void> {
  await page.goto(address)
  await page.getByRole('button', { name: `Open a copy of ${title}` }).click()
  await page.waitForURL(/\/plan\/[^/]+\/pins$/)
  await page.goto(page.url().replace(/pins$/, place))
}
