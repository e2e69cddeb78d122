/**
 * Random kits on every board, modes and addresses left open: how many answers are proven, and how long whole answers of
 * 60 signals take, with supplies and ties. Run with `npm run bench:prove -- KITS`, a number a board (100 when left out).
 */

import { assignChoosing } from '../core/assign/choosing.ts'
import { prepare } from '../core/assign/preparing.ts'
import { formatProblem } from '../core/base/problem.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { readCatalogFolder } from '../node/catalogFolder.ts'
import { generatedKit } from './assignKits.ts'

const read = readCatalogFolder('catalog')
if (!read.ok) throw new Error(read.problems.map(formatProblem).join('\n'))
const catalog = read.value
const kits = Number(process.argv[2] ?? 100)
const sizes = [10, 20, 30, 60]
const kinds = ['loose', 'tight', 'impossible'] as const
const whole = { loose: [] as number[], tight: [] as number[], impossible: [] as number[] }
const before: number[] = []
const timed = <T>(list: number[] | undefined, work: () => T): T => {
  const start = performance.now()
  const value = work()
  list?.push(performance.now() - start)
  return value
}
const at = (list: readonly number[], share: number): string =>
  `${([...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * share)] ?? 0).toFixed(0)} ms`

let unproven = 0
for (const [index, board] of [...catalog.boards.keys()].entries()) {
  const open: string[] = []
  for (let seed = 0; seed < kits; seed += 1) {
    const size = sizes[seed % sizes.length] as number
    const kind = kinds[Math.floor(seed / sizes.length) % kinds.length] as (typeof kinds)[number]
    const plan = generatedKit(catalog, board, size, kind, 7_000_000 + index * 10_000 + seed)
    const wiring = resolve(plan, catalog)
    // The first ones of a board warm up.
    const isCounted = size === 60 && seed >= 12
    const result = timed(isCounted ? whole[kind] : undefined, () => assignChoosing(wiring))
    if (isCounted) {
      const fresh = resolve(plan, catalog)
      timed(before, () => prepare(fresh))
    }
    if (!result.optimal) open.push(`${kind} ${size}, seed ${seed}, ${result.cost} against ${result.bound}`)
  }
  unproven += open.length
  console.log(
    `${board}: ${kits - open.length} of ${kits} proven${open
      .slice(0, 3)
      .map((one) => `; ${one}`)
      .join('')}`,
  )
}
console.log(
  `${unproven} unproven. Supplies and ties of 60 signals: ${at(before, 0.5)} median, ${at(before, 0.99)} at 99 %`,
)
for (const kind of kinds)
  console.log(`whole answers of 60 signals, ${kind}: ${at(whole[kind], 0.5)} median, ${at(whole[kind], 0.99)} at 99 %`)
