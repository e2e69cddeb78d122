// Takes the pictures of docs/screenshots anew from the sample plans: node scripts/pictures.mjs (after npm run build).
// Those of a part of one's own and of a plan from a program are taken by hand.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'

const root = join(import.meta.dirname, '..')
const data = mkdtempSync(join(tmpdir(), 'markpost-pictures-'))
const server = spawn(process.execPath, ['bin/markpost.mjs', 'serve', '--port', '0', '--data', data, '--demo'], {
  cwd: root,
})
const address = await new Promise((resolve) => {
  server.stdout.on('data', (chunk) => {
    const found = /http:\/\/\S+/.exec(String(chunk))
    if (found) resolve(found[0])
  })
})
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
const context = await browser.newContext({ reducedMotion: 'reduce', viewport: { width: 1280, height: 800 } })
const page = await context.newPage()
const plans = await (await fetch(`${address}/api/plans`)).json()
const open = async (title, place) => {
  await page.goto(`${address}/plan/${plans.find((one) => one.title === title).id}/${place}`)
  await page.locator('h1').first().waitFor({ state: 'attached' })
}
/** A layout comes from its worker in its own time. */
const settle = () => page.waitForTimeout(2500)
const take = async (name) => {
  await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) })
  console.log(name)
}

await page.goto(address)
await page.locator('.plan-line').first().waitFor()
await settle()
await take('plans')
await open('Orchard hive watch', 'kit')
await page.getByLabel('Quick entry of board and parts').fill('2 soil sensors, oled, 4 digit display, fluxcap')
await settle()
await take('kit')
await open('Orchard hive watch', 'pins')
await page.locator('[data-signal="FAN.-"], [data-signal="SCALE.DT"]').first().click()
await settle()
await take('pins')
await open('Branch-line crossing', 'pins')
await page.getByRole('button', { name: 'Enter by hand' }).click()
await page.locator('[data-hand]').nth(2).focus()
await settle()
await take('by-hand')
await open('Orchard hive watch', 'bench')
await settle()
await take('bench')
await page.getByRole('button', { name: 'Build', exact: true }).click()
await settle()
await take('build')
await open('Orchard hive watch', 'workings')
await settle()
await take('workings')
await open('Branch-line crossing', 'workings/pins')
await settle()
await take('volts')
await open('Branch-line crossing', 'sheets')
await page.locator('.mp-wiring tbody tr').first().waitFor()
await settle()
await take('sheets')
await open('Branch-line crossing', 'bring-up')
await settle()
await take('bring-up')
await open('Branch-line crossing', 'rehearse')
await page
  .getByLabel('Files of the program, or a script')
  .setInputFiles(['crossing.ino', 'crossing.rehearsal.yaml'].map((name) => join(root, 'demo/programs', name)))
await page.getByRole('list', { name: 'Lines over time' }).waitFor()
await settle()
await page.getByLabel('Moment').fill('4000000')
await settle()
await take('rehearse')
await page.goto(`${address}/shelf/boards/esp32-devkit-30`)
await settle()
await take('shelf')
await open('Mended by Monday', 'pins')
await page.getByRole('button', { name: 'Switch to the dark theme' }).click()
await page.locator('.finding .say').nth(2).click()
await page.locator('.finding .fixes button').first().focus()
await settle()
await take('findings-dark')
await page.getByRole('button', { name: 'Switch to the light theme' }).click()

// Another window has written to the plan meanwhile.
const other = plans.find((one) => one.title === 'Two-post rain gauge')
await open(other.title, 'kit')
await page.route('**/api/plans/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()))
await page.getByLabel('Title of the plan').fill('Rain gauge at the south fence')
await page.getByText('Not saved: the server does not answer.').waitFor()
const kept = await fetch(`${address}/api/plans/${other.id}`)
const { plan } = await kept.json()
await fetch(`${address}/api/plans/${other.id}`, {
  method: 'PUT',
  headers: { 'content-type': 'application/json', 'if-match': kept.headers.get('etag') },
  body: JSON.stringify({ plan: { ...plan, title: 'Rain gauge, two posts' } }),
})
await page.unroute('**/api/plans/*')
await page.getByText('This plan was changed elsewhere').waitFor()
await settle()
await take('conflict')

await browser.close()
server.kill('SIGTERM')
rmSync(data, { recursive: true, force: true })
