import type { Language } from '../../catalog/boardSchema.ts'
import type { Machine } from '../cpp/machine.ts'
import type { StageBoard } from './board.ts'
import { openTurned } from './contactHandles.ts'
import { echoPins, type Handle, handlesOf, OUT_OF_SIGHT } from './handles.ts'
import type { LivePin } from './pins.ts'

/** Microseconds from the end of a trigger to its echo, and the longest that an echo lasts. */
const ECHO_AFTER = 450
const LONGEST_ECHO = 38_000
const LEAST_TRIGGER = 9

/** Ohms of the output of a part of which no source says them, and microseconds of a quarter of a click that is turned. */
const PART_OHMS = 100
const QUARTER_CLICK = 2500
/** An answer that somebody sets lies between this and its opposite. */
const MOST_ANSWER = 1_000_000_000

/** What happens around a board: what somebody moves, what comes back as an echo, what somebody answers. */
export class Surroundings {
  readonly handles: Map<string, Handle>
  readonly #stage: StageBoard
  readonly #machine: Machine
  readonly #language: Language
  readonly #triggered = new Map<string, number>()
  /** Handles that were moved and have not been looked at since: when. */
  readonly #unseen = new Map<Handle, { at: number; reads: number }>()

  constructor(stage: StageBoard, machine: Machine, language: Language) {
    this.#stage = stage
    this.#machine = machine
    this.#language = language
    this.handles = handlesOf(stage.wiring, stage.live)
  }

  /** A trigger that ends sends a sound; its echo comes back after the distance. */
  echo(pin: LivePin): void {
    for (const part of this.#stage.wiring.parts) {
      const pins = echoPins(part)
      if (!pins || this.#stage.wiring.netOf(`${part.ref}.${pins.trigger}`) !== pin.net) continue
      const now = this.#machine.now
      if (this.#stage.live.volts(pin.net.index)! > 1.5) {
        if (!this.#triggered.has(part.ref)) this.#triggered.set(part.ref, now)
        continue
      }
      const from = this.#triggered.get(part.ref)
      this.#triggered.delete(part.ref)
      if (from === undefined || now - from < LEAST_TRIGGER) continue
      const distance = this.handles.get(part.ref)?.value ?? 50
      const lasts = distance > OUT_OF_SIGHT ? LONGEST_ECHO : distance * pins.perCentimetre
      const end = `${part.ref}.${pins.echo}`
      const high = part.logicVolts ?? part.supplies.find(({ source }) => source)?.source?.volts ?? 5
      if (!part.supplies.some(({ source }) => source)) continue
      this.#stage.events.at(now + ECHO_AFTER, () => this.#drive(end, high))
      this.#stage.events.at(now + ECHO_AFTER + lasts, () => this.#drive(end, 0))
    }
  }

  /** Moves something outside, now. */
  move(handle: Handle, value: number): void {
    if (handle.kind === 'contact' || handle.kind === 'level') this.#notice(handle, value)
    if (handle.kind === 'turn') this.#turn(handle, value - handle.value)
    handle.value = value
    handle.set(value)
    this.#stage.moved(this.#machine.at)
  }

  /**
   * Turns an encoder by clicks, to the right where positive: its first contact leads, its second follows a quarter behind,
   * and both are open again at each click.
   */
  #turn({ part, ends: [first = '', second = ''] }: Handle, clicks: number): void {
    if (!part) return
    // Closed, a contact leads to the part's ground, if that is one.
    const grounded = part.supplies.every(({ facts }) =>
      facts.ground.some((pin) => this.#stage.wiring.netOf(`${part.ref}.${pin}`).ground),
    )
    if (!grounded) return
    const [leads, follows] = clicks > 0 ? [first, second] : [second, first]
    const put = (end: string, open: boolean): void => {
      if (open) openTurned(part, end.slice(part.ref.length + 1), this.#stage.wiring, this.#stage.live)
      else this.#drive(end, 0)
      this.#stage.moved(this.#machine.at)
    }
    let at = Math.max(this.#machine.now, this.#turnsUntil.get(part.ref) ?? 0)
    for (let click = 0; click < Math.abs(clicks); click += 1)
      for (const [end, high] of [
        [leads, false],
        [follows, false],
        [leads, true],
        [follows, true],
      ] as const) {
        this.#stage.events.at(at, () => put(end, high))
        at += QUARTER_CLICK
      }
    this.#turnsUntil.set(part.ref, at)
  }

  readonly #turnsUntil = new Map<string, number>()

  /** A part puts volts onto the line at one of its ends. */
  #drive(end: string, volts: number): void {
    this.#stage.live.drive(end, this.#stage.wiring.netOf(end).index, { volts, ohms: PART_OHMS })
    this.#stage.moved(this.#machine.at)
  }

  /** What can be touched at a pin: it is there as soon as somebody asks for it. */
  touchAt({ host }: LivePin): Handle {
    const known = this.handles.get(host.end)
    if (known) return known
    const handle: Handle = {
      name: host.end,
      part: undefined,
      kind: 'level',
      words: ['free', 'touched'],
      least: 0,
      most: 1,
      unit: '',
      value: 0,
      set: (value) => {
        if (value === 1) this.#onTouch.get(host.end)?.()
      },
      ends: [],
    }
    this.handles.set(host.end, handle)
    return handle
  }

  /** What the program does when a finger comes. */
  onTouch(pin: LivePin, run: () => void): void {
    this.#onTouch.set(pin.host.end, run)
  }

  readonly #onTouch = new Map<string, () => void>()

  answer(name: string): () => number {
    const known = this.handles.get(name)
    const handle: Handle = known ?? {
      name,
      part: undefined,
      kind: 'answer',
      words: [],
      least: -MOST_ANSWER,
      most: MOST_ANSWER,
      unit: '',
      value: 0,
      set: () => undefined,
      ends: [],
    }
    this.handles.set(name, handle)
    return () => handle.value
  }

  /** A contact that goes back before anybody has looked was not heard. */
  #notice(handle: Handle, value: number): void {
    const listens = [...this.#stage.pins.all].filter((pin) =>
      handle.ends.some((end) => this.#stage.live.around(this.#stage.wiring.netOf(end).index).includes(pin.net.index)),
    )
    const reads = listens.reduce((sum, pin) => sum + pin.reads, 0)
    const before = this.#unseen.get(handle)
    // A handler hears it, whichever edge of it it waits for.
    const isDeaf = listens.length > 0 && !listens.some((pin) => this.#stage.listens(pin))
    if (before && before.reads === reads && value !== handle.value && isDeaf) {
      const { now, at } = this.#machine
      this.#stage.say(
        'not-heard',
        at,
        [handle.name],
        `${handle.name} changed at ${(before.at / 1e6).toFixed(2)} s and went back ${Math.round((now - before.at) / 1000)} ms later, and the program never looked: it was busy here.`,
        this.#language === 'cpp'
          ? 'A program that waits is deaf while it waits. Look at the time with millis() instead of delay(), or let an interrupt wake it.'
          : 'A program that sleeps is deaf while it sleeps. Sleep for shorter times and look at the clock, or let an interrupt wake it.',
      )
    }
    if (value === handle.value) return
    if (before) this.#unseen.delete(handle)
    else this.#unseen.set(handle, { at: this.#machine.now, reads })
  }
}
