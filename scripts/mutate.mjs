// Plants faults in the code and sees whether a test notices: `npm run mutate -- [SHARE] [FOLDER…]`. Of the lines of each
// folder a share is taken, the same ones every time (2 in 100 when left out; `0.02-0.03` takes others than `0.02`); every
// fault that the mutation tester knows on these lines is planted by itself. Survivors are printed and kept in `.cache/mutation.json`; the scores of the last
// runs stand in docs/quality.md.
import { spawnSync } from 'node:child_process'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const root = join(import.meta.dirname, '..')
const [first, ...rest] = process.argv.slice(2)
const [from, to] = /-/.test(first ?? '') ? first.split('-').map(Number) : [0, Number(first ?? 0.02)]
if (!(from >= 0 && to > from && to <= 1)) {
  console.error(`${first} is no share of the lines; expected a number above 0 and up to 1, such as 0.02, or 0.02-0.03`)
  process.exit(2)
}
const folders =
  rest.length > 0 ? rest : ['circuit', 'rules', 'plan', 'wiring', 'assign', 'sheets'].map((one) => `core/${one}`)

/** A number from 0 to 1 for a text, always the same (FNV-1a, 32 bits). */
function chance(text) {
  let hash = 0x811c9dc5
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193)
  // The last bits of a short text are the ones well mixed.
  return ((hash >>> 0) % 65_521) / 65_521
}

const isTaken = (at) => at >= from && at < to
const isCode = (line) => /\S/.test(line) && !/^\s*(\/\/|\/?\*|import\b)/.test(line)
const mutate = folders.flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true })
    .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
    .map((file) => `${folder}/${file}`)
    .sort()
    .flatMap((file) =>
      readFileSync(join(root, file), 'utf8')
        .split('\n')
        .flatMap((line, at) =>
          isCode(line) && isTaken(chance(`${file}:${line}`)) ? [`${file}:${at + 1}-${at + 1}`] : [],
        ),
    ),
)
console.log(`${mutate.length} lines of ${folders.join(', ')}`)

const cache = join(root, '.cache')
mkdirSync(cache, { recursive: true })
const report = join(cache, 'mutation.json')
const settings = join(cache, 'mutate.json')
writeFileSync(
  settings,
  JSON.stringify({
    testRunner: 'vitest',
    plugins: ['@stryker-mutator/vitest-runner'],
    vitest: { configFile: 'vitest.mutate.ts' },
    mutate,
    // Words are held by tables of exact messages; what counts here is what the code decides.
    mutator: { excludedMutations: ['StringLiteral'] },
    coverageAnalysis: 'perTest',
    // What is worked out once when a file is loaded is not seen anew for each fault.
    ignoreStatic: true,
    concurrency: Number(process.env.MUTATE_AT_ONCE ?? 2),
    // A machine that is busy beside it may not make a slow test look like a fault that was noticed.
    timeoutMS: 90_000,
    // The whole of the tests, once, with all faults in their places.
    dryRunTimeoutMinutes: 30,
    reporters: ['json', 'progress-append-only'],
    jsonReporter: { fileName: report },
    tempDirName: join(cache, 'mutate'),
    // The tester reads settings of the compiler in a way that the present one does not offer; it needs none.
    tsconfigFile: 'none.json',
  }),
)
const done = spawnSync(join(root, 'node_modules/.bin/stryker'), ['run', settings], { cwd: root, stdio: 'inherit' })
if (done.status !== 0) process.exit(done.status ?? 1)

const { files } = JSON.parse(readFileSync(report, 'utf8'))
const noticed = new Set(['Killed', 'Timeout'])
const missed = new Set(['Survived', 'NoCoverage'])
for (const folder of folders) {
  const all = Object.entries(files).flatMap(([file, { mutants, source }]) =>
    file.startsWith(`${folder}/`)
      ? mutants.map((one) => ({ file, line: source.split('\n')[one.location.start.line - 1], ...one }))
      : [],
  )
  const killed = all.filter((one) => noticed.has(one.status)).length
  const survived = all.filter((one) => missed.has(one.status))
  console.log(`\n${folder}: ${killed} of ${killed + survived.length} noticed`)
  for (const { file, location, line, replacement, status, mutatorName } of survived) {
    const { start, end } = location
    const was = line.slice(start.column - 1, start.line === end.line ? end.column - 1 : undefined)
    console.log(
      `  ${file}:${start.line} ${mutatorName}${status === 'NoCoverage' ? ', reached by no test' : ''}\n    ${was}  →  ${replacement?.split('\n')[0]}`,
    )
  }
}
