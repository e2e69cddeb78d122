import type { Language } from '../catalog/boardSchema.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { Halt, Machine } from './cpp/machine.ts'
import type { SourceFile } from './cpp/preprocess.ts'
import { valuesOf } from './cpp/reachable.ts'
import { fileOf, lineOf } from './cpp/tokens.ts'
import { schedule } from './expectations.ts'
import { Idle } from './idle.ts'
import type { Shown } from './overBudget.ts'
import { platformOf } from './platform/families.ts'
import type { Platform } from './platform/platform.ts'
import { standInClasses } from './platform/standIns.ts'
import { asWritten } from './platform/writtenNames.ts'
import { dialectOf, type Program, readProgram } from './program.ts'
import { sayAfterwards, sayBefore } from './runSays.ts'
import { scaleFindings } from './scale.ts'
import type { Script } from './script.ts'
import { ranAtOnce, showOf, showsOf } from './shows.ts'
import { StageBoard, type Whereabouts } from './stage/board.ts'
import type { Conversations } from './stage/conversations.ts'
import { type RunFinding, RunFindings } from './stage/findings.ts'
import type { Handle } from './stage/handles.ts'
import type { Outside, Sent } from './stage/outside.ts'
import { Restart } from './stage/sleep.ts'
import type { Trace } from './stage/trace.ts'
import { StepKeeper } from './stepKeeper.ts'

export interface RunOptions {
  readonly script?: Script | undefined
  /** Seconds of virtual time; of the script, or 5, where left out. */
  readonly seconds?: number | undefined
  /** What other boards of the plan do meanwhile. */
  readonly outside?: Outside | undefined
  /** Keeps every statement from a moment on, in seconds, and ends the run after so many. */
  readonly statements?: { readonly from: number; readonly most: number } | undefined
  /** Runs each round of a loop, also those in which nothing happens. */
  readonly everyRound?: boolean | undefined
  /** Asked now and then; true ends the run where it is. */
  readonly shouldStop?: (() => boolean) | undefined
}

export type { Shown }

/** An expectation of the script: what came of it. */
export interface Expectation {
  readonly seconds: number
  readonly what: string
  readonly came: boolean
  /** What was there instead. */
  readonly found: string
}

export interface RunResult {
  readonly findings: readonly RunFinding[]
  readonly expectations: readonly Expectation[]
  readonly printed: Conversations['printed']
  readonly trace: Trace
  /** What other boards can see of it. */
  readonly sent: readonly Sent[]
  /** Virtual seconds that it ran. */
  readonly seconds: number
  readonly statements: number
  /** Of these, such as belong to rounds in which nothing happened, whose time passed at once. */
  readonly passed: number
  /** Rounds of `loop`. */
  readonly loops: number
  /** What parts show at the end. */
  readonly shows: Readonly<Record<string, string>>
  /** And what they show over time. */
  readonly shown: Readonly<Record<string, readonly Shown[]>>
  /** When rounds of `loop` began, in microseconds: the first so many. */
  readonly rounds: readonly number[]
  /** Statements that were kept, in the order in which they ran. */
  readonly stepped: readonly { readonly at: number; readonly file: string; readonly line: number }[]
  /** Lines of the program that wait, from when on, in microseconds. */
  readonly path: readonly { readonly at: number; readonly file: string; readonly line: number }[]
  /** Longest time in which the program heard nothing. */
  readonly longest: { readonly seconds: number; readonly file: string; readonly line: number }
  /** What can be moved. */
  readonly handles: readonly Omit<Handle, 'part' | 'set' | 'ends'>[]
}

const USUAL_SECONDS = 5

/** Rounds of `loop` of which it is kept when they began. */
const MOST_ROUNDS = 50_000

/** Microseconds between two looks at what parts show. */
const LOOK_EACH = 20_000

/** Statements without any time passing by a call, after which a program is ended: it would never end by itself. */
const MOST_STATEMENTS = 400_000_000

/**
 * Runs a program on the wiring of a plan, in virtual time: the same plan, program and script always give the same run.
 * @throws SourceError for a program whose syntax cannot be read.
 */
export function rehearse(
  wiring: Wiring,
  board: BoardInstance,
  files: readonly SourceFile[],
  options: RunOptions = {},
): RunResult {
  const one = prepared(wiring, board, files, options)
  const { machine, stage, kept, where } = one
  const { script } = options
  const last = script?.steps.at(-1)
  const seconds = options.seconds ?? script?.seconds ?? (last ? last.at + (last.within ?? 0) + 1 : USUAL_SECONDS)
  const offset = (script?.from ?? 0) * 1e6
  machine.now = offset
  // As they stand before anybody moves them.
  const handles = [...stage.handles.values()].map(plainHandle)
  if (options.outside) stage.meets(options.outside, offset)
  const expectations = schedule(script, stage, offset)
  const shown = lookAtParts(one, offset)
  if (options.shouldStop)
    stage.events.onSlice = () => {
      if (options.shouldStop?.()) throw new Halt('the rehearsal was ended: it took too long', machine.at)
    }
  stage.events.endAt(offset + seconds * 1e6)
  kept?.begin(offset)
  const { loops, rounds } = lived(one, offset, offset + seconds * 1e6)
  sayAfterwards(one, offset, expectations, shown)
  // What the program itself has brought, such as a pin that feels touch, is at rest before.
  for (const handle of stage.handles.values())
    if (!handles.some(({ name }) => name === handle.name)) handles.push({ ...plainHandle(handle), value: 0 })
  return {
    findings: one.findings.all.map((finding) => ({ ...finding, seconds: Math.max(0, finding.seconds) })),
    expectations,
    printed: stage.conversations.printed.map((line) => ({ ...line, at: line.at - offset })),
    trace: stage.trace,
    sent: stage.conversations.sent,
    seconds: (machine.now - offset) / 1e6,
    statements: machine.count + machine.passed,
    passed: machine.passed,
    loops,
    rounds,
    stepped: (kept?.steps ?? []).map(({ at, place }) => ({ at: at - offset, ...where(place) })),
    shows: showsOf(wiring, stage),
    shown: Object.fromEntries(shown),
    path: stage.waits.path.map(({ at, place }) => ({ at: at - offset, ...where(place) })),
    longest: { seconds: stage.waits.longest.microseconds / 1e6, ...where(stage.waits.longest.place) },
    handles,
  }
}

/** A program on its board, before its first line. */
export interface Prepared {
  readonly wiring: Wiring
  readonly language: Language
  readonly platform: Platform
  readonly machine: Machine
  /** The machine, where statements are kept. */
  readonly kept: StepKeeper | undefined
  readonly stage: StageBoard
  readonly program: Program
  readonly findings: RunFindings
  readonly where: Whereabouts
}

function prepared(
  wiring: Wiring,
  board: BoardInstance,
  files: readonly SourceFile[],
  { statements, everyRound }: RunOptions,
): Prepared {
  const kept = statements && new StepKeeper(statements)
  const machine = kept ?? new Machine()
  const findings = new RunFindings()
  const where: Whereabouts = (at) => {
    const own = machine.own(at)
    return { file: files[fileOf(own)]?.name ?? files[0]?.name ?? '', line: lineOf(own) }
  }
  const language = dialectOf(board.board, files) ?? 'cpp'
  const drivers = asWritten(wiring.catalog.drivers, files)
  const sketches = drivers.filter(({ python }) => !python)
  const platform = platformOf(
    board,
    () => stage.pins,
    (hardware, on, given) => standInClasses(sketches, hardware, on, stage.standIns, given),
    new Map(sketches.flatMap(({ constants }) => Object.entries(constants))),
    language,
  )
  if (everyRound) machine.passesUntil = Number.NEGATIVE_INFINITY
  machine.cost = platform.costs.statement
  const stage: StageBoard = new StageBoard(wiring, board, machine, platform, findings, where, language)
  const program = readProgram(language, files, stage, machine, platform, drivers)
  sayBefore(program, board, findings, where)
  stage.atOnce.seen = (ref) => {
    const part = wiring.parts.find((one) => one.ref === ref)
    return part && showOf(wiring, stage, part)
  }
  stage.atOnce.parts = ranAtOnce(wiring, stage)
  for (const finding of scaleFindings(files, language, platform.readBits, board)) findings.add(finding)
  return { wiring, language, platform, machine, kept, stage, program, findings, where }
}

const plainHandle = ({ name, kind, words, least, most, unit, value }: Handle): RunResult['handles'][number] => ({
  name,
  kind,
  words,
  least,
  most,
  unit,
  value,
})

/** What every part shows, looked at again and again while the program runs. */
function lookAtParts({ wiring, stage, machine }: Prepared, offset: number): Map<string, Shown[]> {
  const shown = new Map<string, Shown[]>()
  const look = (): void => {
    for (const [ref, words] of Object.entries(showsOf(wiring, stage))) {
      const own = shown.get(ref) ?? []
      const share = stage.shares.get(ref)
      const last = own.at(-1)
      if (last?.words !== words || last.share !== share)
        own.push({ at: machine.now - offset, words, ...(share === undefined ? {} : { share }) })
      shown.set(ref, own)
    }
    stage.events.at(machine.now + LOOK_EACH, look)
  }
  look()
  return shown
}

/** Lets the program run to the end of the time, or to its own; it may begin anew on the way. */
function lived(
  { program, stage, platform, machine, findings, where }: Prepared,
  offset: number,
  until: number,
): Pick<RunResult, 'loops' | 'rounds'> {
  let loops = 0
  const rounds: number[] = []
  const live = (): never => {
    program.begin()
    const idle = new Idle(machine, () => valuesOf([machine.globals]))
    for (;;) {
      stage.wait(platform.costs.loop, machine.at)
      const before = machine.now
      if (program.round) {
        if (rounds.length < MOST_ROUNDS) rounds.push(machine.now - offset)
        program.round()
        loops += 1
      } else stage.events.reach(until)
      if (machine.now <= before) stage.wait(platform.costs.clock, machine.at)
      else if (program.round) {
        const from = machine.now
        const more = idle.round()
        const each = (machine.now - from) / more
        for (let at = 0; at < more && rounds.length < MOST_ROUNDS; at += 1)
          rounds.push(from + at * each + platform.costs.loop - offset)
        loops += more
      }
      if (machine.count > MOST_STATEMENTS)
        throw new Halt(`${MOST_STATEMENTS} statements were run and the time is not over`, machine.at)
    }
  }
  try {
    for (;;) {
      try {
        live()
      } catch (error) {
        if (!(error instanceof Restart)) throw error
        stage.restart(error.by)
      }
    }
  } catch (error) {
    if (!(error instanceof Halt)) throw error
    if (error.message !== '')
      findings.add({
        kind: 'stopped',
        message: `${error.message}.`,
        why: 'On the board it would hang here, or begin anew.',
        seconds: (machine.now - offset) / 1e6,
        at: [],
        ...where(error.at),
      })
  }
  return { loops, rounds }
}
