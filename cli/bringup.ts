import { readFileSync } from 'node:fs'
import { seeded } from '../core/base/random.ts'
import { Diagnoser } from '../core/bringup/diagnose.ts'
import { faultsOf } from '../core/bringup/faults.ts'
import { laidOf } from '../core/bringup/laid.ts'
import { readResults } from '../core/bringup/results.ts'
import { compareScan, readScan, type ScanComparison } from '../core/bringup/scan.ts'
import { StandIn } from '../core/bringup/standIn.ts'
import { stepsOf } from '../core/bringup/steps.ts'
import { stepsMarkdown } from '../core/bringup/stepsText.ts'
import { type TestLanguage, testLanguages, testProgram } from '../core/bringup/testProgram.ts'
import { hexAddress } from '../core/electrical/hexAddress.ts'
import { languagesOf } from '../core/firmware/pinNames.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { boardFor } from './firmware.ts'
import { InputError, print, printJson, readPlanFile, readTextFile, type Status, theCatalog } from './input.ts'

export const bringUpFormats = ['markdown', 'json', ...testLanguages] as const

/** Longest text of a scan that is taken from standard input, in bytes. */
const MOST_SCAN = 1_000_000

/** Holds a scan against the plan: 0 they agree, 1 they differ, 2 one of them cannot be read. */
export function scanCommand(file: string, text: string | undefined, { json }: { readonly json?: boolean }): Status {
  const wiring = resolve(readPlanFile(file).plan, theCatalog())
  const name = text === undefined || text === '-' ? 'standard input' : text
  const scanned = name === 'standard input' ? standardInput() : readTextFile(name, 'the text of a bus scan')
  const scan = readScan(scanned)
  if (!scan)
    throw new InputError([
      `${name}: no bus scan that is known; expected what a scan program prints, such as a grid, “found at 0x3C”, or [60, 118]`,
    ])
  const compared = compareScan(wiring, scan)
  if (compared.segments.length === 0 && scan.parts.some(({ found }) => found.length > 0))
    throw new InputError([`${file}: the plan has no I2C bus that is wired, and the scan found something`])
  if (json) printJson(compared)
  else print(scanText(compared))
  return compared.agrees ? 0 : 1
}

function standardInput(): string {
  const read = readFileSync(0)
  if (read.length > MOST_SCAN)
    throw new InputError([
      `standard input: ${read.length} bytes; expected the text of a bus scan, at most ${MOST_SCAN}`,
    ])
  return read.toString('utf8')
}

function scanText({ segments, ignored }: ScanComparison): string {
  const lines = segments.flatMap(({ title, expected, present, missing, unexpected }) => [
    `${title}: ${present.length} of ${expected.length} answer`,
    ...missing.flatMap(({ part, address, causes }) => [
      `  missing   ${hexAddress(address)} ${part}`,
      ...causes.map((cause) => `            - ${cause}`),
    ]),
    ...unexpected.flatMap(({ address, could, causes }) => [
      `  stranger  ${hexAddress(address)}${could.length > 0 ? `, where ${could.join(', ')} could answer` : ''}`,
      ...causes.map((cause) => `            - ${cause}`),
    ]),
  ])
  const more = ignored.length === 0 ? [] : [`${ignored.length} lines are no part of a scan and were passed over`]
  return [...lines, ...more].join('\n')
}

/** Causes of what was seen, and the next measurement: 0 nothing wrong, 1 causes, 2 one of the files cannot be read. */
export function diagnoseCommand(file: string, results: string, { json }: { readonly json?: boolean }): Status {
  const wiring = resolve(readPlanFile(file).plan, theCatalog())
  const read = readResults(readTextFile(results, 'results in JSON, or lines of the test program'), wiring)
  if (!read.ok) throw new InputError([`${results}: ${read.message}`])
  const diagnoser = new Diagnoser(wiring, laidOf(wiring, stepsOf(wiring)))
  const unknown = read.observations.filter(({ step }) => diagnoser.planned(step) === undefined)
  for (const { step } of unknown)
    process.stderr.write(`${results}: "${step}" is no measurement of this plan, and was passed over\n`)
  if (unknown.length === read.observations.length)
    throw new InputError([
      `${results}: none of its results is a measurement of this plan; expected steps such as ${diagnoser.measurements[0]?.id ?? 'in:GATE.1'}`,
    ])
  const { causes, sound, next } = diagnoser.diagnose(read.observations)
  const wrong = read.observations.some(
    ({ step, saw }) => saw === 'wrong' || (typeof saw === 'object' && saw.outcome !== diagnoser.planned(step)),
  )
  if (json)
    printJson({
      sound,
      causes: causes
        .slice(0, 10)
        .map(({ words, odds, faults }) => ({ words, odds, faults: faults.map(({ id }) => id) })),
      next: next ?? null,
    })
  else if (!wrong) print('Nothing that was seen is wrong.')
  else
    print(
      [
        ...causes.slice(0, 5).map(({ words, odds }) => `${percent(odds)}  ${words}`),
        ...(next ? [`Next: ${next.words} (${next.id})`] : ['No further measurement tells more.']),
      ].join('\n'),
    )
  return wrong ? 1 : 0
}

const percent = (odds: number): string => `${Math.round(odds * 100)}%`.padStart(4)

/** A board to practise on, over standard input and output. */
export async function practiceCommand(
  file: string,
  { fault: named, random }: { readonly fault?: string; readonly random?: number },
): Promise<Status> {
  const wiring = resolve(readPlanFile(file).plan, theCatalog())
  const laid = laidOf(wiring, stepsOf(wiring))
  const all = [...faultsOf(wiring), ...laid.rails]
  const fault =
    named !== undefined
      ? all.find(({ id }) => id === named)
      : random === undefined || all.length === 0
        ? undefined
        : all[Math.floor(seeded(random)() * all.length)]
  if (named !== undefined && !fault)
    throw new InputError([
      `--fault ${named}: no fault of this plan; expected one such as ${all[0]?.id ?? 'missing:A.1-MCU.D2'}`,
    ])
  const board = new StandIn(wiring, fault ? [fault] : [], laid.touches)
  print(board.hello())
  let rest = ''
  process.stdin.setEncoding('utf8')
  for await (const chunk of process.stdin) {
    rest += String(chunk)
    const lines = rest.split('\n')
    rest = (lines.pop() ?? '').slice(-4000)
    for (const line of lines) if (line.trim() !== '') for (const said of board.answer(line)) print(said)
  }
  return 0
}

/** The steps of bring-up, or the test program of a board. */
export function bringUpCommand(
  file: string,
  { as, board: named }: { readonly as: (typeof bringUpFormats)[number]; readonly board?: string },
): Status {
  const { plan } = readPlanFile(file)
  const wiring = resolve(plan, theCatalog())
  if (as === 'markdown') print(stepsMarkdown(plan.title, stepsOf(wiring), plan.bringup?.done))
  else if (as === 'json') printJson({ title: plan.title, steps: stepsOf(wiring), done: plan.bringup?.done ?? {} })
  else {
    const language: TestLanguage = as
    const all = [...new Set(wiring.boards.flatMap(({ board }) => languagesOf(board)))]
    const known = testLanguages.filter((one) => all.includes(one))
    const board = boardFor(
      wiring,
      file,
      named,
      (one) => languagesOf(one.board).includes(language),
      `has no test program in ${language}; expected --as ${known.join(' or ')}`,
    )
    print(testProgram(wiring, board.ref, language))
  }
  return 0
}
