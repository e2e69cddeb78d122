// node shot.mjs OUTDIR WIDTH HEIGHT THEME [title|place|action ...]
import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { chromium } from '@playwright/test'
const [out, w, h, theme, ...jobs] = process.argv.slice(2)
const data = mkdtempSync('/tmp/shot-')
const server = spawn(process.execPath, ['bin/markpost.mjs', 'serve', '--port', '0', '--data', data, '--demo'], { cwd: import.meta.dirname })
const address = await new Promise((r) => server.stdout.on('data', (c) => { const f = /http:\/\/\S+/.exec(String(c)); if (f) r(f[0]) }))
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
const context = await browser.newContext({ reducedMotion: 'reduce', serviceWorkers: 'block', viewport: { width: +w, height: +h }, colorScheme: theme })
const page = await context.newPage()
const plans = await (await fetch(`${address}/api/plans`)).json()
let n = 0
for (const job of jobs) {
  const [title, place, ...acts] = job.split('|')
  await page.goto(`${address}/plan/${plans.find((one) => one.title === title).id}/${place}`)
  await page.locator('h1').first().waitFor({ state: 'attached' })
  await page.waitForTimeout(2500)
  for (const a of acts) {
    if (a.startsWith('pdf')) { await page.pdf({ path: `${out}/${a}.pdf`, preferCSSPageSize: true, printBackground: true }); continue }
    if (a.startsWith('zoom')) { const [x, y, k] = a.slice(4).split(',').map(Number); await page.mouse.move(x, y); for (let i = 0; i < Math.abs(k); i++) { await page.mouse.wheel(0, k > 0 ? -100 : 100); await page.waitForTimeout(80) } continue }
    await page.getByRole('button', { name: a, exact: true }).first().click(); await page.waitForTimeout(1200)
  }
  n++
  await page.screenshot({ path: `${out}/s${n}.png` })
}
await browser.close(); server.kill()
