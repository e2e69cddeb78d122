import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { parse } from 'yaml'
import { readCatalogFolder } from '../../node/catalogFolder.ts'
import { avrCore } from './avr.ts'
import { espSource, imxrtTable, nrfTable, rpTable, samdTable, stmTables } from './chips.ts'
import { type Answer, type Comparison, judge, type Outcome } from './comparison.ts'
import { unpack } from './packages.ts'
import { kernelAddresses, libraryAddresses } from './parts.ts'
import { espBoards, gpioHeader, kernelPins } from './singleBoards.ts'

// Holds the catalogue against packages of the registries. `--quick` leaves out the large ones; without it the table of
// docs/catalogue-sources.md is written anew. Ends with 1 where something differs that no answer covers.

const comparisons: readonly Comparison[] = [
  avrCore,
  stmTables,
  rpTable,
  samdTable,
  imxrtTable,
  nrfTable,
  espSource,
  espBoards,
  gpioHeader,
  kernelPins,
  kernelAddresses,
  libraryAddresses,
]

const quick = process.argv.includes('--quick')
const cache = resolve('.cache/compare')
mkdirSync(cache, { recursive: true })
const catalog = readCatalogFolder('catalog')
if (!catalog.ok) throw new Error('the catalogue does not load: npm run catalog:check says why')
const answers = parse(readFileSync('scripts/compare/answers.yaml', 'utf8')) as Answer[]

let wrong = 0
let facts = 0
let agreed = 0
let answeredFacts = 0
const absent: string[] = []
const used = new Set<Answer>()
const lines: string[] = []
const reasons = new Map<number, string>()
for (const comparison of comparisons) {
  if (quick && !comparison.quick) continue
  const got = await unpack(comparison.from, cache)
  if (!got.ok) {
    absent.push(comparison.id)
    console.log(`not compared: ${comparison.id}, ${comparison.from.name} is not to be had here: ${got.why}`)
    continue
  }
  const outcomes = comparison.run(got.folder, catalog.value).map((one) => judge(comparison.id, one, answers))
  for (const outcome of outcomes) {
    facts += outcome.count
    agreed += outcome.agreed
    wrong += outcome.open.length
    for (const one of outcome.open) console.error(`${comparison.id}, ${outcome.entry}, ${one}`)
    for (const { answer, facts: covered } of outcome.answered) {
      used.add(answer)
      answeredFacts += covered.length
    }
  }
  lines.push(...tableRows(comparison, got.version, outcomes))
}
for (const answer of answers) {
  const ran = comparisons.some(({ id, quick: small }) => id === answer.comparison && (small || !quick))
  if (!ran || used.has(answer) || absent.includes(answer.comparison)) continue
  wrong += 1
  console.error(`${answer.comparison}: the answer "${answer.facts}" (only ${answer.only}) covers nothing any more`)
}
console.log(
  `${facts} facts compared: ${agreed} agree, ${answeredFacts} differ with a reason, ${wrong} without` +
    (absent.length === 0 ? '' : `; not compared: ${absent.join(', ')}`),
)
if (!quick && absent.length === 0) writeTable([...lines, '', ...reasonLines()])
process.exitCode = wrong === 0 ? 0 : 1

/** One row for each comparison that found the same of all its entries, else one for each entry. */
function tableRows(comparison: Comparison, version: string, outcomes: readonly Outcome[]): string[] {
  const from = `${comparison.source}: \`${comparison.from.name}\` ${version}`
  const whole = outcomes.filter(({ answered, open }) => answered.length + open.length === 0)
  const rows: string[] = []
  const count = (some: readonly Outcome[]) => some.reduce((sum, one) => sum + one.count, 0)
  if (whole.length > 0)
    rows.push(
      `| ${whole.map(({ entry }) => `\`${entry}\``).join(', ')} | ${from} | ${comparison.facts} | ${count(whole)} | all |`,
    )
  for (const outcome of outcomes.filter((one) => !whole.includes(one))) {
    const marks = outcome.answered.map(({ answer, facts: covered }) => {
      const at = answers.indexOf(answer) + 1
      const entry = answer.entry === undefined ? '' : ` (\`${answer.entry}\`)`
      reasons.set(at, `${at}. Only ${answer.only}${entry}: ${answer.because}`)
      return `${covered.length} by ${at}`
    })
    rows.push(
      `| \`${outcome.entry}\` | ${from} | ${comparison.facts} | ${outcome.count} | ${outcome.agreed}; ${marks.join(', ')}${outcome.open.length === 0 ? '' : `; open: ${outcome.open.length}`} |`,
    )
  }
  return rows
}

function reasonLines(): string[] {
  return [...reasons].sort(([one], [other]) => one - other).map(([, line]) => line)
}

function writeTable(body: readonly string[]): void {
  const file = 'docs/catalogue-sources.md'
  const text = readFileSync(file, 'utf8')
  const [start, end] = ['<!-- compared: written by npm run catalog:compare -->', '<!-- end of compared -->']
  const from = text.indexOf(start)
  const to = text.indexOf(end)
  if (from < 0 || to < from) throw new Error(`${file} has lost the marks between which the table stands`)
  const head = '| entries | compared with | what | facts | agree; differ by reason |\n| --- | --- | --- | ---: | --- |'
  writeFileSync(file, `${text.slice(0, from + start.length)}\n\n${head}\n${body.join('\n')}\n\n${text.slice(to)}`)
}
