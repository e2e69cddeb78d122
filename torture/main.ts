import { projectFolder } from '../node/builtCatalog.ts'
import { tortureByFuzzing } from './fuzz.ts'
import { tortureByHour } from './hour.ts'
import { tortureKeeping } from './keeping.ts'
import { tortureByKills } from './kills.ts'
import { tortureByLoad } from './load.ts'
import { tortureByPowerLoss } from './powerLoss.ts'

/**
 * `npm run torture [-- --quick] [--only kills|power|fuzz|load|keeping|hour] [--checkout DIR]`: what the application bears, in figures.
 * Everything runs on this machine, in folders of its own, and ends by itself.
 */
const args = process.argv.slice(2)
const value = (name: string): string | undefined => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined)
const quick = args.includes('--quick')
const only = value('--only')
const checkout = value('--checkout') ?? projectFolder()

const kinds: readonly (readonly [name: string, run: () => Promise<string[]>])[] = [
  ['kills', () => tortureByKills(checkout, quick ? 4 : 1000)],
  ['power', () => tortureByPowerLoss(checkout, quick ? 2 : 20)],
  ['fuzz', () => tortureByFuzzing(checkout, quick ? 1200 : 201_000)],
  ['keeping', () => tortureKeeping(checkout, quick ? 2 : 60, quick ? 5 : 300)],
  ['hour', () => tortureByHour(checkout, quick ? 150 : 9000)],
  [
    'load',
    () =>
      tortureByLoad(
        checkout,
        quick
          ? { plans: 1000, clients: 10, seconds: 4, entries: 20 }
          : { plans: 10_000, clients: 50, seconds: 60, entries: 600 },
      ),
  ],
]
let failed = false
for (const [name, run] of kinds) {
  if (only !== undefined && only !== name) continue
  const start = performance.now()
  const lines = await run()
  console.log(`${lines.join('\n')}\n  (${Math.round((performance.now() - start) / 1000)} s)`)
  failed ||= lines.some((line) => line.startsWith('FAILED'))
}
process.exitCode = failed ? 1 : 0
