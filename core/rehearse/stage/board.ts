import type { Language } from '../../catalog/boardSchema.ts'
import type { BoardInstance, Wiring } from '../../wiring/model.ts'
import type { Machine } from '../cpp/machine.ts'
import type { Callable } from '../cpp/values.ts'
import type { Edge, Hardware, PinState, SerialLine, Spi, StartCause, TwoWire } from '../platform/hardware.ts'
import type { Platform } from '../platform/platform.ts'
import { AskedPins } from './askedPins.ts'
import { RanAtOnce } from './atOnce.ts'
import { BusBytes } from './busBytes.ts'
import { BusDevices } from './busDevices.ts'
import { Channels } from './channels.ts'
import { type ChipStage, Chips } from './chips.ts'
import { clockedDevices } from './clockedDevices.ts'
import { Conversations } from './conversations.ts'
import { Events } from './events.ts'
import type { RunFindings, RunKind } from './findings.ts'
import { Handlers } from './handlers.ts'
import type { Handle } from './handles.ts'
import { LiveCircuit } from './live.ts'
import { oneWireAt } from './oneWire.ts'
import type { Outside } from './outside.ts'
import { PinJudge } from './pinJudge.ts'
import { PinReads } from './pinReads.ts'
import { type LivePin, LivePins } from './pins.ts'
import { PinWrites } from './pinWrites.ts'
import { Pulses } from './pulses.ts'
import { Reference } from './reference.ts'
import { SerialSpeakers } from './serialSpeakers.ts'
import { BoardSleep } from './sleep.ts'
import { spiDevices } from './spiDevices.ts'
import { SpiMaster } from './spiMaster.ts'
import { Surroundings } from './surroundings.ts'
import { ToldParts } from './toldParts.ts'
import { Trace } from './trace.ts'
import { Waits } from './waits.ts'

/** Microseconds from a reset to the first line of the program. */
const START = 300_000

/** Where in the program something happens: file and line. */
export type Whereabouts = (at: number) => { readonly file: string; readonly line: number }

/** A board on its wiring: what a program does to its pins, and what the wiring makes of it. */
export class StageBoard implements Hardware {
  readonly live: LiveCircuit
  readonly pins: LivePins
  readonly events: Events
  readonly trace = new Trace()
  readonly waits = new Waits()
  readonly atOnce = new RanAtOnce()
  readonly chips: Chips
  readonly handles: Map<string, Handle>
  readonly conversations: Conversations
  readonly devices: BusDevices
  readonly kept = new Uint8Array(4096).fill(255)
  readonly bus: TwoWire
  readonly spi: Spi
  readonly sleep: BoardSleep
  readonly #wiring: Wiring
  readonly #board: BoardInstance
  readonly #machine: Machine
  readonly #findings: RunFindings
  readonly #where: Whereabouts
  readonly #handlers = new Handlers()
  readonly #asked: AskedPins
  readonly #pulses: Pulses
  readonly #reference: Reference
  readonly #wired: readonly LivePin[]
  readonly #around: Surroundings
  readonly #judge: PinJudge
  readonly #reads: PinReads
  readonly #writes: PinWrites
  /** Place of the program that moved the lines last. */
  #at = 0
  /** How often the program has begun anew. */
  #starts = 0

  constructor(
    wiring: Wiring,
    board: BoardInstance,
    machine: Machine,
    platform: Platform,
    findings: RunFindings,
    where: Whereabouts,
    language: Language = 'cpp',
  ) {
    this.#wiring = wiring
    this.#board = board
    this.#machine = machine
    this.#findings = findings
    this.#where = where
    this.live = new LiveCircuit(wiring)
    this.pins = new LivePins(wiring, board, this.live, language)
    this.events = new Events(machine)
    this.#asked = new AskedPins({ board, pins: this.pins, language, say: (...said) => this.say(...said) })
    this.#pulses = new Pulses({
      board,
      machine,
      pulseHertz: platform.pulseHertz,
      pin: (number) => this.pins.pin(number, 'pin'),
      pinOf: (...asked) => this.pinOf(...asked),
      able: (...asked) => this.#able(...asked),
      apply: (pin, at) => this.#apply(pin, at),
      isHigh: (pin) => this.#isHigh(pin),
      tooHigh: (pin, at) => this.#judge.tooHigh(pin, at),
      reach: (until) => this.events.reach(until),
      afterwards: (...asked) => this.afterwards(...asked),
      say: (...said) => this.say(...said),
    })
    this.#reference = new Reference(wiring, board, (...said) => this.say(...said))
    this.#around = new Surroundings(this, machine, language)
    this.handles = this.#around.handles
    this.#judge = new PinJudge({
      wiring,
      live: this.live,
      handles: this.handles,
      language,
      listens: (pin) => this.#handlers.listens(pin),
      say: (...said) => this.say(...said),
    })
    this.#reads = new PinReads({
      pins: this.pins,
      live: this.live,
      judge: this.#judge,
      reference: this.#reference,
      readBits: platform.readBits,
      pinOf: (...asked) => this.pinOf(...asked),
      able: (...asked) => this.#able(...asked),
      isHigh: (pin) => this.#isHigh(pin),
      byChance: () => {
        machine.acts += 1
      },
      say: (...said) => this.say(...said),
    })
    this.#writes = new PinWrites({
      pins: this.pins,
      live: this.live,
      language,
      pullsByWriting: platform.widths.int === 16,
      pinOf: (...asked) => this.pinOf(...asked),
      able: (...asked) => this.#able(...asked),
      apply: (pin, at) => this.#apply(pin, at),
      changed: (at, by) => this.#changed(at, by),
      say: (...said) => this.say(...said),
    })
    const bytes = new BusBytes(this)
    const chips: ChipStage = {
      wiring,
      live: this.live,
      shows: this.standIns.shows,
      later: (microseconds, run) => this.events.at(machine.now + microseconds, run),
      moved: () => this.moved(this.#at),
      at: () => this.#at,
    }
    this.chips = new Chips(chips, [...spiDevices(chips, bytes), ...clockedDevices(chips, bytes)])
    this.conversations = new Conversations(this, board, machine, language)
    const speakers = new SerialSpeakers({
      wiring,
      events: this.events,
      now: () => machine.now,
      sensed: (ref, what) => this.standIns.sensed(ref, what),
      hears: (net, byte, baud) => this.conversations.hears({ net, byte, baud }),
      isJoined: (one, two) => one === two || this.live.around(one).includes(two),
    })
    this.conversations.onSpoken = (net, byte) => speakers.hear(net, byte)
    this.devices = new BusDevices(this, board, language, this.conversations.boards, bytes)
    this.bus = this.devices.bus
    this.spi = new SpiMaster(
      {
        pinOf: (...asked) => this.pinOf(...asked),
        pinNamed: (id) => [...this.pins.all].find((pin) => pin.facts.id === id),
        put: (pin, high, at) => this.#writes.drive(pin, high, at),
        isHigh: (pin) => this.#isHigh(pin) ?? false,
        pass: (microseconds, at) => this.wait(microseconds, at),
        isHeard: (net) => this.chips.isHeard(net),
        say: (...said) => this.say(...said),
      },
      board,
      language,
    )
    this.sleep = new BoardSleep({
      now: () => machine.now,
      reach: (until) => this.events.reach(until),
      due: () => machine.due,
      at: (moment, run) => this.events.at(moment, run),
      served: () => this.#handlers.served,
      pinOf: (number, at, call) => this.pinOf(number, 'pin', at, call),
      isHigh: (pin) => this.#isHigh(pin),
      stands: (microseconds) => {
        machine.born += microseconds
      },
      release: (kept) => this.#release(kept),
      unjoined: () => this.#unjoined(),
      say: (kind, ends, ...words) => this.say(kind, machine.at, ends.length > 0 ? ends : [board.ref], ...words),
    })
    this.#wired = [...this.pins.all].filter(({ net }) => net.wired)
    this.#noteAll()
  }

  get wiring(): Wiring {
    return this.#wiring
  }

  /** Microseconds from power-on. */
  get now(): number {
    return this.#machine.now
  }

  get masked(): boolean {
    return this.#handlers.masked
  }

  set masked(to: boolean) {
    this.#handlers.masked = to
  }

  /** Something calls the program from outside. */
  readonly interrupt = (run: () => void): void => this.#handlers.interrupt(run)

  say(kind: RunKind, at: number, ends: readonly string[], message: string, why: string): void {
    this.#findings.add({ kind, message, why, seconds: this.#machine.now / 1e6, at: ends, ...this.#where(at) })
  }

  pinOf(...asked: Parameters<AskedPins['pinOf']>): LivePin | undefined {
    return this.#asked.pinOf(...asked)
  }

  sayNoPin(written: string, at: number): void {
    this.#asked.sayNoPin(written, at)
  }

  #able(...asked: Parameters<AskedPins['able']>): boolean {
    return this.#asked.able(...asked)
  }

  setting(...asked: Parameters<PinWrites['setting']>): void {
    this.#writes.setting(...asked)
  }

  write(...asked: Parameters<PinWrites['write']>): void {
    this.#writes.write(...asked)
  }

  writeAnalog(...asked: Parameters<PinWrites['analog']>): void {
    this.#writes.analog(...asked)
  }

  /** Puts a pin onto its line, and looks at what comes of it. */
  #apply(pin: LivePin, at: number): void {
    this.#machine.acts += 1
    this.pins.apply(pin)
    this.#changed(at, pin)
  }

  moved(at: number): void {
    this.#changed(at)
  }

  /** Something on the lines has changed: who works against whom, who waits for an edge, what is drawn. */
  #changed(at: number, by?: LivePin): void {
    this.#at = at
    this.live.settle()
    this.chips.follow()
    const near = by && this.live.around(by.net.index)
    for (const pin of this.#wired) {
      // What hangs together with nothing that moved has not changed.
      if (near && pin !== by && !near.includes(pin.net.index) && this.live.isStill(pin.net.index)) continue
      this.pins.note(pin, this.trace, this.#machine.now)
      this.#handlers.watch(pin, this.#isHigh(pin))
      this.#judge.pin(pin, at)
    }
    this.live.rest()
    if (by) this.atOnce.say(by, at, (...said) => this.say(...said))
    if (by) this.#around.echo(by)
    this.#handlers.serve()
  }

  #noteAll(): void {
    this.live.settle()
    this.chips.follow(true)
    for (const pin of this.#wired) {
      this.pins.note(pin, this.trace, 0)
      pin.seen = this.#isHigh(pin)
    }
  }

  #isHigh(pin: LivePin): boolean | undefined {
    const { is } = this.pins.level(pin)
    return is === 'floating' ? undefined : is === 'high' ? true : is === 'low' ? false : pin.seen
  }

  later(microseconds: number, run: () => void): void {
    this.afterwards(microseconds, () => this.interrupt(run))
  }

  aside(microseconds: number, run: () => void): void {
    this.afterwards(microseconds, run)
  }

  /** Does something for the program after a time, unless it has begun anew meanwhile. */
  afterwards(microseconds: number, run: () => void): void {
    const starts = this.#starts
    this.events.at(this.#machine.now + microseconds, () => {
      if (this.#starts === starts) run()
    })
  }

  /** Lets pins go, but for some, and forgets what was to happen for the program. */
  #release(kept: ReadonlySet<LivePin>): void {
    this.#starts += 1
    this.#handlers.clear()
    this.#pulses.clear()
    for (const pin of this.pins.all) {
      if (pin.setting === undefined || kept.has(pin)) continue
      Object.assign(pin, { setting: undefined, high: false, pulse: undefined })
      this.#apply(pin, this.#machine.at)
    }
  }

  /** The program begins anew, once the board has started. */
  restart(cause: StartCause): void {
    this.#release(new Set())
    this.#reference.forget()
    this.sleep.begin(cause)
    this.events.reach(this.#machine.now + START)
    this.#machine.restart()
  }

  /** Ends of the wire by which the board's clock reaches its reset, where it needs one and has none. */
  #unjoined(): readonly string[] | undefined {
    const { wakes } = this.#board.board
    if (!wakes) return undefined
    const ends = wakes.join.map((pin) => `${this.#board.ref}.${pin}`)
    const [one, two] = ends.map((end) => this.#wiring.netOf(end))
    return one === two ? undefined : ends
  }

  read(...asked: Parameters<PinReads['read']>): boolean {
    return this.#reads.read(...asked)
  }

  level(number: number): boolean {
    return this.#reads.level(number)
  }

  /** An edge of a pin calls a handler of the program. */
  listens(pin: LivePin): boolean {
    return this.#handlers.listens(pin)
  }

  neverComes(at: number, message: string, why: string): void {
    this.say('never-comes', at, [], message, why)
  }

  state(number: number): PinState {
    return this.pins.pin(number, 'pin') ?? { setting: undefined, high: false }
  }

  readAnalog(number: number, at: number, taken?: number | 'outside' | 'supply'): number {
    return this.#reads.analog(number, at, taken)
  }

  touched(number: number, at: number, then?: () => void): boolean {
    // A piece of bare wire is enough: the plan need not have it.
    const pin = this.pins.pin(number, 'pin') ?? this.pinOf(number, 'pin', at, 'touchRead')
    if (!pin || !this.#able(pin, 'touch', at, 'touchRead', 'feels no touch')) return false
    const handle = this.#around.touchAt(pin)
    if (then) this.#around.onTouch(pin, () => this.interrupt(then))
    this.say(
      'made-up',
      at,
      [pin.host.end],
      `What ${pin.host.end} counts at rest and under a finger is made up: it is yours to touch.`,
      'The count depends on the wire and on what is touched. Print it on the board first, and set the limit halfway.',
    )
    return handle.value === 1
  }

  /** What a script can move at an end of the board that feels touch, before any program has asked for it. */
  touchable(end: string): Handle | undefined {
    const pin = [...this.pins.all].find(({ host }) => host.end === end && host.functions.has('touch'))
    return pin && this.#around.touchAt(pin)
  }

  reference(chosen: Parameters<Hardware['reference']>[0]): void {
    this.#reference.choose(chosen)
  }

  pulse(...asked: Parameters<Hardware['pulse']>): void {
    this.#pulses.pulse(...asked)
  }

  takesTimers(...asked: Parameters<Hardware['takesTimers']>): void {
    this.#pulses.takesTimers(...asked)
  }

  tone(...asked: Parameters<Hardware['tone']>): void {
    this.#pulses.tone(...asked)
  }

  noTone(...asked: Parameters<Hardware['noTone']>): void {
    this.#pulses.noTone(...asked)
  }

  pulseIn(...asked: Parameters<Hardware['pulseIn']>): number {
    return this.#pulses.pulseIn(...asked)
  }

  onEdge(
    number: number,
    edge: Edge | undefined,
    handler: Callable | undefined,
    at: number,
    by: 'call' | 'port' = 'call',
  ): void {
    const pin = this.pinOf(number, 'pin', at, 'attachInterrupt')
    if (!pin) return
    if (!edge || !handler) {
      this.#handlers.forget(pin)
      return
    }
    if (by === 'call' && !this.#able(pin, 'interrupt', at, 'attachInterrupt', 'wakes no handler')) return
    this.#handlers.listen(pin, edge, handler)
    pin.seen = this.#isHigh(pin)
    if (this.pins.level(pin).is === 'floating') this.#reads.floats(pin, at)
  }

  wait(microseconds: number, by: number): void {
    const from = this.#machine.now
    const at = this.#machine.own(by)
    if (!this.#handlers.isRunning) this.waits.note(microseconds, from, at)
    this.events.reach(from + microseconds)
  }

  /** Moves something outside, now. */
  move(handle: Handle, value: number): void {
    this.#around.move(handle, value)
  }

  answer(name: string): () => number {
    return this.#around.answer(name)
  }

  /** What other boards do is done to this one's lines, and what this one does is kept for them. */
  meets(outside: Outside, offset: number): void {
    this.conversations.meets(outside, offset)
  }

  serial(name: string): SerialLine {
    return this.conversations.serial(name)
  }

  /** What was printed without an end of its line. */
  finish(): void {
    this.conversations.finish()
    this.#writes.sayNeverOutput()
  }

  readonly #told = new ToldParts()
  readonly #channels = new Channels(this)
  /** What classes of drivers ask for. */
  readonly standIns = this.#told.stage(() => ({
    handles: this.handles,
    devices: this.devices,
    conversations: this.conversations,
    channels: this.#channels,
    line: (pin) => oneWireAt(this, this.#machine, pin),
    say: (...said) => this.say(...said),
  }))
  /** What parts show by what programs have told them. */
  readonly told = this.#told.words
  /** Share of its most current that a part takes by what programs have told it. */
  readonly shares = this.#told.shares
}
