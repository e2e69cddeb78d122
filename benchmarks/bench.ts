/**
 * Measures what a maker feels: checking, placing, opening, and the time from a change to its findings on screen.
 * Numbers only: nothing here passes or fails. Run with `npm run bench`; `-- --no-browser` leaves the browser out.
 */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { checkPlan } from '../core/advice/checkPlan.ts'
import { assign } from '../core/assign/assign.ts'
import { formatProblem } from '../core/base/problem.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import { applyEdits } from '../core/plan/edit.ts'
import type { Plan } from '../core/plan/planSchema.ts'
import { allRules, check } from '../core/rules/index.ts'
import { recheck } from '../core/rules/recheck.ts'
import { wiringOf } from '../core/testing/plans.ts'
import { mistaken, sound } from '../core/testing/wiringSuite.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { readCatalogFolder } from '../node/catalogFolder.ts'
import { listen } from '../server/listen.ts'
import { largeKit } from './largeKit.ts'

const read = readCatalogFolder('catalog')
if (!read.ok) throw new Error(read.problems.map(formatProblem).join('\n'))
const catalog: Catalog = read.value

const rows: string[][] = [['what', 'median', '90 %', 'runs']]
const note = (what: string, times: number[]): void => {
  const sorted = times.toSorted((a, b) => a - b)
  const at = (share: number): string =>
    `${sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!.toFixed(2)} ms`
  rows.push([what, at(0.5), at(0.9), String(times.length)])
}
const measure = (what: string, runs: number, run: () => unknown): void => {
  for (let warm = 0; warm < Math.min(60, runs); warm += 1) run()
  const times = Array.from({ length: runs }, () => {
    const start = performance.now()
    run()
    return performance.now() - start
  })
  note(what, times)
}

// What the checks find, miss and cry out falsely in the wirings made by hand.
const judged = mistaken.map((one) => ({ one, found: check(wiringOf(one), allRules) }))
const missed = judged.filter(({ one, found }) => !found.some((finding) => finding.rule === one.rule))
const wrongly = judged.flatMap(({ one, found }) =>
  found.filter((two) => two.severity === 'fault' && two.rule !== one.rule),
)
const alarms = sound.flatMap((one) => check(wiringOf(one), allRules).filter((finding) => finding.severity === 'fault'))
console.log(`Mistaken wirings: ${mistaken.length}, found ${mistaken.length - missed.length}, missed ${missed.length}`)
console.log(
  `Sound wirings: ${sound.length}, false alarms ${alarms.length}; faults beside the mistake: ${wrongly.length}`,
)
for (const { one } of missed) console.log(`  missed ${one.rule}: ${one.title}`)
for (const finding of [...alarms, ...wrongly]) console.log(`  false ${finding.rule}: ${finding.message}`)

const kit = largeKit(catalog)
const solved = assign(resolve(kit, catalog))
const plan: Plan = applyEdits(kit, solved.edits)
const size = `${Object.keys(plan.parts).length} parts, ${plan.wires.length} wires`
console.log(
  `Plan: ${size}; placing it: ${solved.status}, cost ${solved.cost}, bound ${solved.bound}, optimal ${solved.optimal}`,
)

measure(`resolve, ${size}`, 200, () => resolve(plan, catalog))
measure(`resolve and check, ${size}`, 200, () => check(resolve(plan, catalog)))
measure(`check with all fixes, ${size}`, 20, () => checkPlan(plan, catalog, { fixes: Number.POSITIVE_INFINITY }))
const wide = largeKit(catalog, 60)
const wider = applyEdits(wide, assign(resolve(wide, catalog)).edits)
measure(`resolve and check, ${Object.keys(wider.parts).length} parts, ${wider.wires.length} wires`, 200, () =>
  check(resolve(wider, catalog)),
)
const wide60 = `${Object.keys(wider.parts).length} parts, ${wider.wires.length} wires`
const first = recheck(undefined, wider, catalog)
// Each wire in turn, in and out of rails and buses.
const without = wider.wires.map(([from, to]) => applyEdits(wider, [{ do: 'disconnect', from, to }]))
let turn = 0
const worded = applyEdits(wider, [{ do: 'set-notes', notes: 'seen again' }])
measure(`a wire taken out, checked again, ${wide60}`, 2 * without.length, () =>
  recheck(first, without[turn++ % without.length]!, catalog),
)
measure(`words or an acceptance changed, ${wide60}`, 200, () => recheck(first, worded, catalog))
measure(`place everything, ${size}`, 10, () => assign(resolve(kit, catalog)))

if (!process.argv.includes('--no-browser')) await browser()

const widths = rows[0]!.map((_, column) => Math.max(...rows.map((row) => row[column]!.length)))
for (const row of rows)
  console.log(
    row
      .map((cell, column) => (column === 0 ? cell.padEnd(widths[column]!) : cell.padStart(widths[column]!)))
      .join('  '),
  )

async function browser(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'markpost-bench-'))
  const server = await listen({ port: 0, data, logLevel: 'silent' })
  const chrome = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  })
  try {
    const made = await fetch(`${server.address}/api/plans`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ plan }),
    })
    const { id } = (await made.json()) as { id: string }
    const page = await chrome.newPage({ viewport: { width: 1280, height: 800 } })
    const opening: number[] = []
    for (let run = 0; run < 8; run += 1) {
      const start = performance.now()
      await page.goto(`${server.address}/plan/${id}/pins`)
      await page.locator('.flag').first().waitFor()
      opening.push(performance.now() - start)
    }
    note('open the plan in the browser until its flags stand', opening)
    // In the page itself, so that only the application is timed: from the key to the painted change.
    await page.locator('[data-signal]').first().click()
    const changes: number[] = []
    for (let run = 0; run < 30; run += 1) {
      changes.push(
        await page.evaluate(async () => {
          const counts = document.querySelector('[data-testid="finding-counts"]') as HTMLElement
          const before = counts.textContent
          const picked = document.querySelector('.signal.picked') as HTMLElement
          const start = performance.now()
          const key = /rail|open|optional/.test(picked.querySelector('.where')?.className ?? '') ? '1' : 'Delete'
          window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
          while (counts.textContent === before && performance.now() - start < 2000)
            await new Promise((done) => setTimeout(done, 0))
          await new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)))
          const time = performance.now() - start
          window.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }))
          await new Promise((done) => setTimeout(done, 150))
          return time
        }),
      )
    }
    note('a change until its findings are painted', changes)
  } finally {
    await chrome.close()
    await server.close()
    rmSync(data, { recursive: true })
  }
}
