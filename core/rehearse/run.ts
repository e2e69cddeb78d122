import { circuitOf } from '../circuit/circuit.ts'
import { parseOptionAmount } from '../electrical/quantity.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { Halt, Machine } from './cpp/machine.ts'
import type { SourceFile } from './cpp/preprocess.ts'
import { fileOf, lineOf } from './cpp/tokens.ts'
import { overBudget, type Shown } from './overBudget.ts'
import { platformOf } from './platform/families.ts'
import { standInClasses } from './platform/standIns.ts'
import { asWritten } from './platform/writtenNames.ts'
import { BEYOND, dialectOf, readProgram } from './program.ts'
import { scaleFindings } from './scale.ts'
import type { Script, ScriptStep } from './script.ts'
import { StageBoard } from './stage/board.ts'
import type { Conversations } from './stage/conversations.ts'
import { type RunFinding, RunFindings } from './stage/findings.ts'
import { type Handle, handleValue } from './stage/handles.ts'
import type { Outside, Sent } from './stage/outside.ts'
import { pulseDegrees } from './stage/servo.ts'
import { Restart } from './stage/sleep.ts'
import type { Trace } from './stage/trace.ts'

export interface RunOptions {
  readonly script?: Script | undefined
  /** Seconds of virtual time; of the script, or 5, where left out. */
  readonly seconds?: number | undefined
  /** What other boards of the plan do meanwhile. */
  readonly outside?: Outside | undefined
  /** Keeps every statement from a moment on, in seconds, and ends the run after so many. */
  readonly statements?: { readonly from: number; readonly most: number } | undefined
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
  const kept = options.statements && new StepKeeper(options.statements)
  const machine = kept ?? new Machine()
  const findings = new RunFindings()
  const where = (at: number): { file: string; line: number } => {
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
  machine.cost = platform.costs.statement
  const stage: StageBoard = new StageBoard(wiring, board, machine, platform, findings, where, language)
  const program = readProgram(language, files, stage, machine, platform, drivers)
  for (const { at, message } of program.refusals)
    findings.add(
      {
        kind: 'not-understood',
        message: `${message}.`,
        why: 'The program runs up to here and is ended when it comes to this line.',
        seconds: 0,
        at: [],
        ...where(at),
      },
      `refused ${at} ${message}`,
    )
  for (const { at, feature } of program.notices)
    if (feature !== undefined && !board.board.features.some(({ id }) => id === feature))
      findings.add({
        kind: 'not-able',
        message: `${board.title} has no ${feature}, which this library works with.`,
        why: 'On the board nothing is joined: the program waits for ever, or does not compile. Take a board that has it.',
        seconds: 0,
        at: [board.ref],
        ...where(at),
      })
  for (const { at, text } of program.notices)
    findings.add(
      {
        kind: 'made-up',
        message: text,
        why: BEYOND,
        seconds: 0,
        at: [],
        ...where(at),
      },
      `made up ${text}`,
    )
  stage.seen = (ref) => {
    const part = wiring.parts.find((one) => one.ref === ref)
    return part && showOf(wiring, stage, part)
  }
  stage.ranAtOnce = ranAtOnce(wiring, stage)
  for (const finding of scaleFindings(files, language, platform.readBits, board)) findings.add(finding)
  const { script } = options
  const last = script?.steps.at(-1)
  const seconds = options.seconds ?? script?.seconds ?? (last ? last.at + (last.within ?? 0) + 1 : USUAL_SECONDS)
  const offset = (script?.from ?? 0) * 1e6
  machine.now = offset
  // As they stand before anybody moves them.
  const handles = [...stage.handles.values()].map(({ name, kind, words, least, most, unit, value }) => ({
    name,
    kind,
    words,
    least,
    most,
    unit,
    value,
  }))
  if (options.outside) stage.meets(options.outside, offset)
  const expectations = schedule(script, stage, offset)
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
  if (options.shouldStop)
    stage.events.onSlice = () => {
      if (options.shouldStop?.()) throw new Halt('the rehearsal was ended: it took too long', machine.at)
    }
  stage.events.endAt(offset + seconds * 1e6)
  let loops = 0
  const rounds: number[] = []
  kept?.begin(offset)
  const live = (): never => {
    program.begin()
    for (;;) {
      stage.wait(platform.costs.loop, machine.at)
      const before = machine.now
      if (program.round) {
        if (rounds.length < MOST_ROUNDS) rounds.push(machine.now - offset)
        program.round()
        loops += 1
      } else stage.events.reach(offset + seconds * 1e6)
      if (machine.now <= before) stage.wait(platform.costs.clock, machine.at)
      if (machine.now >= stage.sleep.bites) stage.bite(machine.at)
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
  for (const [name, at] of program.unknown())
    findings.add({
      kind: 'unknown-class',
      message: language === 'cpp' ? `${name} is a class that is not described here.` : `${name} is not described here.`,
      why: answersWords(stage, name),
      seconds: 0,
      at: [],
      ...where(at),
    })
  stage.finish()
  stage.devices.sayNobody()
  const lineAt = (at: number): number => stage.path.findLast((one) => one.at - offset <= at)?.place ?? 0
  overBudget(wiring, shown, (at) => where(lineAt(at)), findings)
  for (const { kind, at, now, message } of machine.notices)
    findings.add({
      kind: kind === 'bounds' || kind === 'null-pointer' ? 'wrong-place' : 'number-lost',
      message: `${message[0]!.toUpperCase()}${message.slice(1)}.`,
      why:
        kind === 'overflow' || kind === 'lost-value'
          ? 'On the board the number begins anew at the other end of its range. A suffix (1000UL), a wider type or another order of the calculation keeps it.'
          : 'The compiler does not warn of it, and the board does something, but not this.',
      seconds: (now - offset) / 1e6,
      at: [],
      ...where(at),
    })
  const ran = machine.now - offset
  // What the run did not live to see, its end explains.
  for (const one of expectations)
    if (!one.came && one.seconds * 1e6 <= ran)
      findings.add(
        {
          kind: 'missed',
          message: `Expected ${one.what} at ${one.seconds} s, and there was ${one.found}.`,
          why: one.why ?? 'The script of the rehearsal asks for it.',
          seconds: one.seconds,
          at: [one.end],
          ...where(0),
        },
        `missed ${one.seconds} ${one.what}`,
      )
  return {
    findings: findings.all.map((one) => ({ ...one, seconds: Math.max(0, one.seconds) })),
    expectations,
    printed: stage.conversations.printed.map((one) => ({ ...one, at: one.at - offset })),
    trace: stage.trace,
    sent: stage.conversations.sent,
    seconds: (machine.now - offset) / 1e6,
    statements: machine.count,
    loops,
    rounds,
    stepped: (kept?.steps ?? []).map(({ at, place }) => ({ at: at - offset, ...where(place) })),
    shows: showsOf(wiring, stage),
    shown: Object.fromEntries(shown),
    path: stage.path.map(({ at, place }) => ({ at: at - offset, ...where(place) })),
    longest: { seconds: stage.longest.microseconds / 1e6, ...where(stage.longest.place) },
    handles,
  }
}

/** A machine that keeps its statements from a moment on, each time that another line is run. */
class StepKeeper extends Machine {
  readonly steps: { at: number; place: number }[] = []
  readonly #most: number
  #from: number

  constructor({ from, most }: { readonly from: number; readonly most: number }) {
    super()
    this.#from = from * 1e6
    this.#most = most
  }

  begin(offset: number): void {
    this.#from += offset
  }

  override step(at: number): void {
    super.step(at)
    if (this.now < this.#from || at >= this.ownBelow) return
    this.steps.push({ at: this.now, place: at })
    if (this.steps.length >= this.#most) throw new Halt('', at)
  }
}

interface Waiting {
  readonly seconds: number
  readonly what: string
  readonly end: string
  readonly why: string | undefined
  came: boolean
  found: string
}

/** Puts the steps of a script into the time of a run. */
function schedule(script: Script | undefined, stage: StageBoard, offset: number): Waiting[] {
  const waiting: Waiting[] = []
  for (const step of script?.steps ?? []) {
    const at = offset + step.at * 1e6
    for (const [name, written] of Object.entries(step.set ?? {})) {
      const handle = stage.handles.get(name)
      if (!handle)
        throw new ScriptError(
          `${name} cannot be moved; expected one of ${[...stage.handles.keys()].join(', ') || 'nothing: no part of this plan can'}`,
        )
      const value = handleValue(handle, written, (text) => parseOptionAmount(text, 'ohm'))
      if (typeof value === 'string') throw new ScriptError(`${name}: "${written}": ${value}`)
      stage.events.at(at, () => stage.move(handle, value))
    }
    if (step.type !== undefined)
      stage.events.at(at, () => {
        for (const byte of new TextEncoder().encode(`${step.type}\n`)) stage.serial('Serial').waiting.push(byte)
      })
    for (const [end, wanted] of Object.entries(step.expect ?? {}))
      waiting.push(expectation(step, end, String(wanted), stage, offset))
  }
  return waiting
}

/** A script that asks for what the plan does not have. */
export class ScriptError extends Error {
  override name = 'ScriptError'
}

/** Microseconds between two looks at what may still come. */
const LOOK = 1000

function expectation(step: ScriptStep, end: string, wanted: string, stage: StageBoard, offset: number): Waiting {
  const one: Waiting = { seconds: step.at, what: `${end} ${wanted}`, end, why: step.why, came: false, found: 'nothing' }
  const at = offset + step.at * 1e6
  const until = at + (step.within ?? 0) * 1e6
  const look = (): void => {
    const found = stateOf(stage, end, wanted)
    one.found = found.words
    one.came = found.holds
    if (!one.came && stage.now + LOOK <= until) stage.events.at(stage.now + LOOK, look)
  }
  // What the plan does not have is said before it runs.
  stateOf(stage, end, wanted)
  stage.events.at(at, look)
  return one
}

/** What is seen at a part or a pin now, and whether it is what is wanted. */
function stateOf(stage: StageBoard, end: string, wanted: string): { readonly holds: boolean; readonly words: string } {
  if (end === 'serial') {
    const lines = stage.conversations.printed.map(({ text }) => text)
    const found = lines.some((text) => text.includes(wanted))
    return { holds: found, words: lines.length === 0 ? 'nothing printed' : `"${lines.at(-1)}" as the last line` }
  }
  const part = stage.wiring.parts.find(({ ref }) => ref === end)
  if (part) {
    const words = showOf(stage.wiring, stage, part)
    const isOn = words !== undefined && words !== 'off' && words !== 'rests'
    if (wanted === 'on' || wanted === 'true') return { holds: isOn, words: words ?? 'nothing to see' }
    if (wanted === 'off' || wanted === 'false') return { holds: !isOn, words: words ?? 'nothing to see' }
    return { holds: words?.includes(wanted) ?? false, words: words ?? 'nothing to see' }
  }
  if (!stage.wiring.terminal(end)) throw new ScriptError(`${end} is no part and no pin of this plan`)
  const at = stage.live.volts(stage.wiring.netOf(end).index)
  const words = at === undefined ? 'a floating line' : at > 1.4 ? 'high' : 'low'
  if (wanted !== 'high' && wanted !== 'low') throw new ScriptError(`${end}: expected high or low, not "${wanted}"`)
  return { holds: words === wanted, words }
}

/** What every part shows that shows anything. */
function showsOf(wiring: Wiring, stage: StageBoard): Record<string, string> {
  return Object.fromEntries(
    wiring.parts.flatMap((part) => {
      const words = showOf(wiring, stage, part)
      return words === undefined ? [] : [[part.ref, words]]
    }),
  )
}

/** How a person helps where a class is not described. */
function answersWords(stage: StageBoard, name: string): string {
  const asked = [...stage.handles.keys()].filter((one) => one.startsWith(`${name}.`))
  return `What it does is not seen on the pins.${asked.length === 0 ? '' : ` What it answers is yours to set: ${asked.join(', ')}.`}`
}

/** What moves or switches by itself before any program has said anything; lamps do no harm. */
function ranAtOnce(wiring: Wiring, stage: StageBoard): Map<string, string> {
  const lamps = new Set(circuitOf(wiring).elements.flatMap(({ lights, part }) => (lights ? [part] : [])))
  return new Map(
    wiring.parts.flatMap((part) => {
      const words = lamps.has(part) ? undefined : showOf(wiring, stage, part)
      return words?.startsWith('runs') ? [[part.ref, words]] : words === 'on' ? [[part.ref, 'is on']] : []
    }),
  )
}

/** Milliamperes from which a lamp is seen to light. */
const LIT = 0.2

function showOf(wiring: Wiring, stage: StageBoard, part: PartInstance): string | undefined {
  const { live } = stage
  const told = stage.told.get(part.ref)
  if (told !== undefined) return told
  const own = circuitOf(wiring).elements.filter((element) => element.part === part)
  const lamps = own.filter(({ lights }) => lights)
  if (lamps.length > 0) {
    const lit = lamps
      .map((element) => ({ element, milliamps: live.milliamps(element) }))
      .filter(({ milliamps }) => milliamps > LIT)
    if (lit.length === 0) return 'off'
    const words = (milliamps: number): string => `${milliamps.toFixed(1)} mA`
    return lamps.length === 1
      ? `on, ${words(lit[0]!.milliamps)}`
      : lit
          .map(({ element, milliamps }) => `${element.a.slice(part.ref.length + 1)} on, ${words(milliamps)}`)
          .join('; ')
  }
  const angle = pulseDegrees(wiring, part, (net) => live.pulseAt(net))
  if (angle !== undefined) return angle
  const loads = own.filter(({ kind, runs }) => (kind === 'load' || kind === 'winding') && (runs ?? 0) > 0)
  if (loads.length > 0) {
    const runs = loads.filter((element) => Math.abs(live.milliamps(element)) > 0.3 * (element.runs ?? 1))
    if (runs.length === 0) return 'rests'
    return runs
      .map(
        (element) =>
          `runs ${live.milliamps(element) > 0 ? 'forwards' : 'backwards'}, ${Math.abs(live.milliamps(element)).toFixed(0)} mA`,
      )
      .join('; ')
  }
  const actuator = wiring.signals.find((use) => use.part === part && use.facts.actuator)
  if (actuator) {
    const net = wiring.netOf(actuator.end)
    const pulse = live.pulseAt(net.index)
    if (pulse) return `${Math.round(pulse.hertz ?? 0)} Hz, ${Math.round(pulse.duty * 100)} %`
    const at = live.volts(net.index)
    if (at === undefined) return 'floats'
    return at > 1.4 === (actuator.facts.activeLevel !== 'low') ? 'on' : 'off'
  }
  return undefined
}
