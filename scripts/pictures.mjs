// Takes the pictures of docs/screenshots anew from the sample plans: node scripts/pictures.mjs (after npm run build).
// Those of a part of one's own and of a plan from a program are taken by hand.
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { parse, stringify } from 'yaml'

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
const context = await browser.newContext({
  reducedMotion: 'reduce',
  serviceWorkers: 'block',
  viewport: { width: 1280, height: 800 },
})
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
await page.getByRole('list', { name: 'Lines over time' }).waitFor()
await settle()
await page.getByLabel('Moment').fill('4000000')
await settle()
await take('rehearse')
// A plan that was changed twice since it began.
const changed = plans.find((one) => one.title === 'Kiln logger')
const save = async (change) => {
  const now = await fetch(`${address}/api/plans/${changed.id}`)
  const { plan } = await now.json()
  await fetch(`${address}/api/plans/${changed.id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', 'if-match': now.headers.get('etag') },
    body: JSON.stringify({ plan: change(plan) }),
  })
}
await save((plan) => ({ ...plan, parts: { ...plan.parts, BELL: { part: 'buzzer-active' } } }))
await save((plan) => ({ ...plan, wires: plan.wires.slice(0, -3), notes: 'The door got a bell.' }))
await open('Kiln logger', 'history')
await page.getByRole('button', { name: /as it began/ }).click()
await page.getByLabel('Name of this revision').fill('before the bell')
await page.getByRole('button', { name: 'Keep the name' }).click()
await settle()
await take('history')
// A class of eight: the demo plan as asked, and what becomes of it in eight hands.
const plan2 = readFileSync(join(root, 'demo/2-branch-line-crossing.markpost.yaml'), 'utf8')
const { programs, ...script } = parse(plan2).rehearsal
const sketch = programs.MCU['crossing.ino']
const handed = (name, text) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
await page.goto(`${address}/class`)
await page
  .getByLabel('Files of plans')
  .setInputFiles([
    handed('asked.markpost.yaml', plan2),
    handed('crossing.rehearsal.yaml', stringify({ rehearsal: 1, ...script })),
    ...['ada', 'bela', 'cem', 'dora', 'emil', 'finn', 'greta', 'hana'].flatMap((name, at) => [
      handed(`${name}.yaml`, at === 1 ? plan2.replace('MCU.D8', 'MCU.D12') : at === 5 ? plan2.slice(0, 900) : plan2),
      handed(
        `${name}.ino`,
        at === 2
          ? sketch.replace('millis()', 'milis()')
          : at === 4
            ? sketch.replaceAll('INPUT_PULLUP', 'INPUT')
            : sketch,
      ),
    ]),
  ])
await page.getByLabel('Plan that was asked for').selectOption('asked.markpost.yaml')
await page.getByText('8 of 8 plans looked at').waitFor({ timeout: 60_000 })
await take('class')
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
