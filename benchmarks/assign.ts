/**
 * The search against a general integer-programming solver on the same problems, side by side: equal best cost, and the
 * ratio of times: of the solver alone, and with what it takes to put the problem to it, which ours holds as well. Run with `npm run bench:assign`; `-- --quick` takes every fourth board.
 */
import loadHighs from 'highs'
import { openSignals, prepare } from '../core/assign/preparing.ts'
import { search } from '../core/assign/search.ts'
import { SearchProblem } from '../core/assign/searchProblem.ts'
import { formatProblem } from '../core/base/problem.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { readCatalogFolder } from '../node/catalogFolder.ts'
import { generatedKit } from './assignKits.ts'
import { asIntegerProgram } from './assignModel.ts'

const read = readCatalogFolder('catalog')
if (!read.ok) throw new Error(read.problems.map(formatProblem).join('\n'))
const catalog: Catalog = read.value
const quick = process.argv.includes('--quick')
const boards = [...catalog.boards.keys()].filter((_, index) => !quick || index % 4 === 0)
/** Seconds after which the general solver is left. */
const PATIENCE = Number(process.env.PATIENCE ?? 20)

interface Run {
  readonly size: number
  readonly kind: string
  readonly ours: number
  readonly theirs: number | undefined
  /** To make the problem and write it down for the general solver. */
  readonly putting: number
  readonly equal: boolean | undefined
  readonly proven: boolean
}
const runs: Run[] = []
const timed = <T>(work: () => T): { value: T; milliseconds: number } => {
  const start = performance.now()
  return { value: work(), milliseconds: performance.now() - start }
}
// Both are warm before anything is measured.
for (const board of boards)
  for (const seed of [1, 2, 3, 4, 5, 6]) {
    const { wiring } = prepare(resolve(generatedKit(catalog, board, 60, 'tight', seed), catalog))
    search(new SearchProblem(wiring, openSignals(wiring)))
  }

// All of ours first, and nothing kept of them: what one leaves in memory is none of the other's time.
const kits = [10, 30, 60, 100].flatMap((size) =>
  (['loose', 'tight', 'impossible'] as const).flatMap((kind) =>
    boards.map((board, index) => {
      const { wiring } = prepare(resolve(generatedKit(catalog, board, size, kind, size * 1000 + index), catalog))
      const own = timed(() => search(new SearchProblem(wiring, openSignals(wiring))))
      const { best, proven, steps } = own.value
      return { size, kind, board, index, milliseconds: own.milliseconds, found: { extra: best.extra, proven, steps } }
    }),
  ),
)
for (const { size, kind, board, index, milliseconds, found } of kits) {
  const { wiring } = prepare(resolve(generatedKit(catalog, board, size, kind, size * 1000 + index), catalog))
  const put = timed(() => asIntegerProgram(new SearchProblem(wiring, openSignals(wiring))))
  const highs = await loadHighs()
  const other = timed(() => {
    try {
      return highs.solve(put.value, { time_limit: PATIENCE, mip_rel_gap: 0, mip_abs_gap: 0 })
    } catch {
      return undefined
    }
  })
  const solved = other.value?.Status === 'Optimal' ? other.value.ObjectiveValue : undefined
  const equal = solved === undefined ? undefined : Math.abs(solved - found.extra) < 0.01
  if (equal === false) console.log(`  differs: ${kind} ${size} on ${board}: ours ${found.extra}, theirs ${solved}`)
  if (process.argv.includes('--each'))
    console.log(
      `${size} ${kind} ${board}: ours ${milliseconds.toFixed(0)} ms, ${found.steps} steps, theirs ${other.milliseconds.toFixed(0)} ms ${other.value?.Status}`,
    )
  runs.push({
    size,
    kind,
    ours: milliseconds,
    theirs: solved === undefined ? undefined : other.milliseconds,
    putting: put.milliseconds,
    equal,
    proven: found.proven,
  })
}

const at = (values: number[], share: number): number => {
  const sorted = values.toSorted((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? Number.NaN
}
const table = [
  [
    'signals',
    'kind',
    'runs',
    'proven',
    'median',
    '99 %',
    'general median',
    'ratio',
    'put to it',
    'ratio with it',
    'equal',
    'solved',
  ],
]
for (const size of [10, 30, 60, 100])
  for (const kind of ['loose', 'tight', 'impossible', 'all']) {
    const own = runs.filter((run) => run.size === size && (kind === 'all' || run.kind === kind))
    const both = own.filter((run) => run.theirs !== undefined)
    table.push([
      String(size),
      kind,
      String(own.length),
      String(own.filter((run) => run.proven).length),
      `${at(
        own.map((run) => run.ours),
        0.5,
      ).toFixed(1)} ms`,
      `${at(
        own.map((run) => run.ours),
        0.99,
      ).toFixed(0)} ms`,
      `${at(
        both.map((run) => run.theirs as number),
        0.5,
      ).toFixed(0)} ms`,
      at(
        both.map((run) => (run.theirs as number) / run.ours),
        0.5,
      ).toFixed(0),
      `${at(
        both.map((run) => run.putting),
        0.5,
      ).toFixed(0)} ms`,
      at(
        both.map((run) => ((run.theirs as number) + run.putting) / run.ours),
        0.5,
      ).toFixed(0),
      String(both.filter((run) => run.equal).length),
      String(both.length),
    ])
  }
const widths = table[0]!.map((_, column) => Math.max(...table.map((row) => row[column]!.length)))
for (const row of table) console.log(row.map((cell, column) => cell.padStart(widths[column]!)).join('  '))
