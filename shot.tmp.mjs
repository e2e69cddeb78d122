import { chromium } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
// node shot.tmp.mjs NAME PLAN.yaml PLACE W H SCHEME
const [name, file, place, w, h, scheme, assign] = process.argv.slice(2)
const data = mkdtempSync('/tmp/mp-shot-')
const server = spawn(process.execPath, ['bin/markpost.mjs', 'serve', '--port', '0', '--data', data])
const address = await new Promise((ok) => { let s = ''; server.stdout.on('data', (c) => { s += c; const f = /http:\/\/\S+/.exec(s); if (f) ok(f[0]) }) })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
const page = await browser.newPage({ viewport: { width: +(w ?? 1280), height: +(h ?? 800) }, colorScheme: scheme ?? 'light' })
const made = await page.request.post(`${address}/api/plans`, { data: { text: readFileSync(file, 'utf8') } })
const { id } = await made.json()
if (assign === 'wire') { await page.goto(`${address}/plan/${id}/kit`); await page.waitForTimeout(1500); await page.getByRole('button', { name: 'Wire, lay out, show the sheet' }).click(); await page.waitForTimeout(4000) }
await page.goto(`${address}/plan/${id}/${place}`)
await page.waitForTimeout(2500)
await page.screenshot({ path: `.cache/shots/${name}.png` })
await browser.close(); server.kill()
