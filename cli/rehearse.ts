import { formatProblem } from '../core/base/problem.ts'
import { languageTitles } from '../core/firmware/pinNames.ts'
import { fileOf, lineOf, SourceError } from '../core/rehearse/cpp/tokens.ts'
import { keptPrograms, keptScript } from '../core/rehearse/kept.ts'
import { dialectOf } from '../core/rehearse/program.ts'
import { type RunResult, rehearse } from '../core/rehearse/run.ts'
import { readScript, type Script, ScriptError } from '../core/rehearse/script.ts'
import { type RunFinding, type RunKind, runKinds } from '../core/rehearse/stage/findings.ts'
import { writeVcd } from '../core/rehearse/stage/trace.ts'
import { asOne, type Player, PlayerError, rehearseTogether } from '../core/rehearse/together.ts'
import type { Severity } from '../core/rules/finding.ts'
import { junitOf } from '../core/rules/junit.ts'
import { type Reported, type ReportedFinding, type ReportedRule, sarifOf } from '../core/rules/sarif.ts'
import type { BoardInstance, Wiring } from '../core/wiring/model.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { readSources } from './compareSource.ts'
import { boardFor } from './firmware.ts'
import { InputError, print, printJson, readPlanFile, readTextFile, type Status, theCatalog, version } from './input.ts'

export const rehearsalFormats = ['junit', 'sarif', 'vcd'] as const

interface Options {
  readonly script?: string
  readonly seconds?: number
  readonly json?: boolean
  readonly as?: (typeof rehearsalFormats)[number]
  readonly board?: string
  readonly with?: readonly string[]
}

/** Runs a program on the wiring of a plan: 0 as expected, 1 findings of fault or expectations missed, 2 it cannot be read or run. */
export function rehearseCommand(file: string, sources: readonly string[], options: Options): Status {
  const { plan } = readPlanFile(file)
  const wiring = resolve(plan, theCatalog())
  const { own, others } =
    sources.length === 0 ? playersOf(wiring, file, options) : givenPlayers(wiring, file, sources, options)
  const { board, files } = own
  const script = options.script === undefined ? keptScript(plan) : scriptOf(options.script)
  let result: RunResult
  try {
    const given = { script, seconds: options.seconds }
    result =
      others.length === 0
        ? rehearse(wiring, board, files, given)
        : asOne(board.ref, rehearseTogether(wiring, [{ board, files }, ...others], given))
  } catch (error) {
    if (error instanceof PlayerError) throw new InputError([`${error.file}:${error.line}: ${error.message}`])
    if (error instanceof SourceError)
      throw new InputError([`${files[fileOf(error.at)]?.name ?? file}:${lineOf(error.at)}: ${error.message}`])
    if (error instanceof ScriptError) throw new InputError([`${options.script ?? file}: ${error.message}`])
    throw error
  }
  const reports = reportsOf(file, sources.length === 0 ? files.map(({ name }) => name) : sources, result)
  if (options.as === 'vcd') print(writeVcd(result.trace, result.seconds * 1e6).trimEnd())
  else if (options.as === 'sarif') printJson(sarifOf(reports, version(), reportedRules))
  else if (options.as === 'junit') print(junitOf(reports, reportedRules))
  else if (options.json) printJson(jsonOf(result))
  else print(asText(file, result))
  return result.findings.some(({ severity }) => severity === 'fault') ? 1 : 0
}

interface Players {
  readonly own: Player
  readonly others: readonly Player[]
}

/** Programs of the files that were named. */
function givenPlayers(wiring: Wiring, file: string, sources: readonly string[], options: Options): Players {
  const { files, language } = readSources(sources, undefined)
  const board = boardFor(
    wiring,
    file,
    options.board,
    (one) => dialectOf(one.board, files) !== undefined,
    `has no programs in ${languageTitles[language]}`,
  )
  return { own: { board, files }, others: othersOf(wiring, file, board, options.with ?? []) }
}

/** Programs that the plan keeps: of the board that was asked for, or the first, and of the others beside it. */
function playersOf(wiring: Wiring, file: string, options: Options): Players {
  const kept = keptPrograms(wiring.plan)
  if (Object.keys(kept).length === 0)
    throw new InputError([`${file}: the plan keeps no program; name the files of one behind it`])
  if (options.with) throw new InputError(['--with: expected the files of a program before it'])
  const board = boardFor(
    wiring,
    file,
    options.board,
    ({ ref }) => kept[ref] !== undefined,
    'has no program in the plan',
  )
  const all = wiring.boards.flatMap((one): Player[] => {
    const files = kept[one.ref]
    return files ? [{ board: one, files }] : []
  })
  return { own: { board, files: kept[board.ref] ?? [] }, others: all.filter((one) => one.board !== board) }
}

/** The other boards and their programs: `--with THERE=there.ino`. */
function othersOf(wiring: Wiring, plan: string, own: BoardInstance, given: readonly string[]): Player[] {
  const byRef = new Map<string, string[]>()
  for (const text of given) {
    const cut = text.indexOf('=')
    if (cut <= 0) throw new InputError([`--with ${text}: expected a board and a file, as in --with THERE=there.ino`])
    const ref = text.slice(0, cut)
    byRef.set(ref, [...(byRef.get(ref) ?? []), text.slice(cut + 1)])
  }
  return [...byRef].map(([ref, names]) => {
    const board = wiring.boards.find((one) => one.ref === ref)
    if (!board || board === own)
      throw new InputError([
        `--with ${ref}: ${plan} has no other board of that name; expected one of ${
          wiring.boards
            .filter((one) => one !== own)
            .map((one) => one.ref)
            .join(', ') || 'none: it has one board'
        }`,
      ])
    return { board, files: readSources(names, undefined).files }
  })
}

/** A script of a rehearsal; any trouble becomes one {@link InputError}. */
export function scriptOf(name: string): Script {
  const read = readScript(readTextFile(name, 'a script of a rehearsal'), name)
  if (!read.ok) throw new InputError(read.problems.map(formatProblem))
  return read.value
}

const reportedRules: readonly ReportedRule[] = (Object.keys(runKinds) as RunKind[]).map((id) => ({
  id,
  about: runKinds[id].about,
  severities: [runKinds[id].severity as Severity],
}))

function reportsOf(plan: string, sources: readonly string[], { findings }: RunResult): Reported[] {
  return [...sources, plan].map(
    (file): Reported => ({
      file,
      findings: findings
        .filter((one) => (one.line === 0 ? plan : one.file) === file)
        .map(
          ({ kind, severity, message, why, at, line }): ReportedFinding => ({
            rule: kind,
            severity,
            message,
            why,
            at,
            place: { line: Math.max(1, line), column: 1 },
          }),
        ),
    }),
  )
}

const jsonOf = ({ trace, printed, shown: _, path: __, ...rest }: RunResult): object => ({
  ...rest,
  printed: printed.map(({ at, line, text }) => ({ seconds: at / 1e6, line, text })),
  lines: Object.fromEntries(
    [...trace.lines].map(([end, changes]) => [end, changes.map(({ at, is }) => ({ seconds: at / 1e6, is }))]),
  ),
})

function asText(file: string, { findings, expectations, printed, seconds, loops, shows }: RunResult): string {
  const finding = ({ severity, message, file: source, line, seconds: at, times }: RunFinding): string =>
    `  ${severity.padEnd(8)}${line > 0 ? `${source}:${line}: ` : ''}${message}${at > 0 ? ` (${at.toFixed(3)} s)` : ''}${times > 1 ? ` (${times} times)` : ''}`
  const said = printed.slice(-20).map(({ at, text }) => `  ${(at / 1e6).toFixed(3).padStart(9)}  ${text}`)
  const came = expectations.filter((one) => one.came).length
  const faults = findings.filter(({ severity }) => severity === 'fault').length
  return [
    ...findings.map(finding),
    ...(said.length > 0 ? [`Serial${printed.length > said.length ? ', last lines' : ''}:`, ...said] : []),
    ...Object.entries(shows).map(([ref, words]) => `  ${ref}: ${words}`),
    `${file}: ${seconds.toFixed(2)} s, ${loops > 0 ? `${loops} rounds of loop; ` : ''}${expectations.length > 0 ? `${came} of ${expectations.length} expectations came; ` : ''}${faults === 0 ? 'nothing wrong' : `${faults} to mend`}`,
  ].join('\n')
}
