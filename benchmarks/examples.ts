import { readdirSync, readFileSync, statSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { fileOf, lineOf, SourceError } from '../core/rehearse/cpp/tokens.ts'
import { rehearse } from '../core/rehearse/run.ts'
import { catalog, planOf } from '../core/testing/plans.ts'
import { resolve } from '../core/wiring/resolve.ts'

/**
 * Sketches of a folder, run as they are for ten seconds of their own time on a bare board: which of them are read and
 * run to the end without anything that is not understood, and how fast. For the examples that a firmware environment
 * brings along: `npm run bench:examples -- FOLDER [BOARD]`.
 */
const [folder, board = 'uno-r3'] = process.argv.slice(2)
if (folder === undefined) throw new Error('expected a folder with sketches')

function* sketchesIn(path: string): Generator<string> {
  for (const name of readdirSync(path)) {
    const at = join(path, name)
    if (statSync(at, { throwIfNoEntry: false })?.isDirectory()) yield* sketchesIn(at)
    else if (/\.(ino|pde)$/.test(name) && basename(dirname(at)) === name.replace(/\.\w+$/, '')) yield at
  }
}

const wiring = resolve(planOf({ mcu: board }), catalog)
let whole = 0
let statements = 0
let milliseconds = 0
const refused: string[] = []
const unknown = new Map<string, number>()
const all = [...sketchesIn(folder)].sort()
for (const path of all) {
  const beside = readdirSync(dirname(path)).filter(
    (name) => /\.(ino|pde|h|hpp|cpp|c)$/.test(name) && join(dirname(path), name) !== path,
  )
  const files = [path, ...beside.map((name) => join(dirname(path), name))].map((name) => ({
    name: basename(name),
    text: readFileSync(name, 'utf8'),
  }))
  const from = performance.now()
  try {
    const run = rehearse(wiring, wiring.boards[0]!, files, { seconds: 10 })
    statements += run.statements
    milliseconds += performance.now() - from
    const not = run.findings.filter(({ kind }) => kind === 'not-understood')
    for (const { kind, message } of run.findings)
      if (kind === 'unknown-class') unknown.set(message.split(' ')[0]!, (unknown.get(message.split(' ')[0]!) ?? 0) + 1)
    if (not.length === 0) whole += 1
    else refused.push(`${basename(path)}:${not[0]!.line}: ${not[0]!.message}`)
  } catch (error) {
    if (!(error instanceof SourceError)) throw error
    refused.push(`${files[fileOf(error.at)]?.name}:${lineOf(error.at)}: ${error.message}`)
  }
}
for (const one of refused) console.log(`  ${one}`)
console.log(
  `classes that nobody has described: ${[...unknown].map(([name, count]) => `${name} ${count}`).join(', ') || 'none'}`,
)
console.log(
  `${whole} of ${all.length} sketches without a refusal (${((100 * whole) / Math.max(1, all.length)).toFixed(0)} %); ${(statements / 1e6).toFixed(1)} million statements in ${(milliseconds / 1000).toFixed(1)} s`,
)
