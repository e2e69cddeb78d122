import { type Behaviour, behaviourPins, type Gate } from '../../catalog/behaviourSchema.ts'
import { circuitOf } from '../../circuit/circuit.ts'
import { outputOhms } from '../../circuit/elementOhms.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'
import { CharacterDisplay } from './characterDisplay.ts'
import { figures } from './figureDisplay.ts'
import { type LiveCircuit, OUTPUT_OHMS } from './live.ts'

/** Share of its supply from which an input of a chip sees a high level. */
const HALF = 0.5
/** Rounds in which chips behind chips find their levels. */
const MOST_ROUNDS = 64
/** Degrees of the electrical turn that are one full step. */
const STEP_DEGREES = 90
/** Microseconds that windings must pull one way before the shaft follows: between, pins are still being written. */
const FOLLOWS_AFTER = 150
/** Milliamperes from which a winding pulls. */
const PULLS = 5

/** What the inputs of a chip are seen at: undefined where nothing holds them. */
type Seen = ReadonlyMap<string, boolean | undefined>

/** A chip that follows the levels at its pins. */
export interface Chip {
  readonly part: PartInstance
  /** Nets whose levels move it. */
  readonly nets: readonly number[]
  readonly inputs: readonly string[]
  /** Takes what its inputs are seen at; true when it did something to its own pins. */
  readonly follow: (seen: Seen) => boolean
}

/** Where what a chip does is seen. */
export interface ChipStage {
  readonly wiring: Wiring
  readonly live: LiveCircuit
  readonly shows: (ref: string, words: string) => void
  /** Does something so many microseconds later. */
  readonly later: (microseconds: number, run: () => void) => void
  /** Lines have moved that no pin of the program moved. */
  readonly moved: () => void
  /** Place of the program that moved the lines last. */
  readonly at: () => number
}

/** The chips of a plan that do something with levels by themselves: registers, decoders, switches, motors. */
export class Chips {
  readonly #stage: ChipStage
  readonly #chips: readonly Chip[]
  readonly #heard: ReadonlySet<number>

  constructor(stage: ChipStage, more: readonly Chip[]) {
    this.#stage = stage
    const own = stage.wiring.parts.flatMap((part) => {
      const chip = part.part.behaves && chipOf(part, part.part.behaves, stage)
      return chip ? [chip] : []
    })
    this.#chips = [...own, ...more]
    this.#heard = new Set(this.#chips.flatMap(({ nets }) => nets))
    this.follow(true)
  }

  /** Lets all chips follow whose levels have moved, until they stand still. All see the same moment, as a clock line asks. */
  follow(all = false): void {
    const { live } = this.#stage
    let due = this.#chips.filter(({ nets }) => all || nets.some((net) => !live.isStill(net)))
    for (let round = 0; due.length > 0 && round < MOST_ROUNDS; round += 1) {
      const seen = due.map((chip) => new Map(chip.inputs.map((pin) => [pin, this.#sees(chip.part, pin)])))
      const moved = due.filter((chip, at) => chip.follow(seen[at]!)).length > 0
      if (!moved) return
      live.settle()
      due = this.#chips.filter(({ nets }) => nets.some((net) => !live.isStill(net)))
    }
  }

  /** A chip listens on this net, or behind a resistor of it. */
  isHeard(net: number): boolean {
    return this.#stage.live.around(net).some((one) => this.#heard.has(one))
  }

  #sees(part: PartInstance, pin: string): boolean | undefined {
    const volts = this.#stage.live.volts(this.#stage.wiring.netOf(`${part.ref}.${pin}`).index)
    return volts === undefined ? undefined : volts > HALF * (part.logicVolts ?? 3.3)
  }
}

/** Pins of a part that its supply does not bring to life do nothing. */
export const isAlive = ({ supplies }: PartInstance): boolean =>
  supplies.length === 0 || supplies.some(({ source, ground, facts }) => source && (ground || facts.ground.length === 0))

const opens = ({ pin, active, held }: Gate, seen: Seen): boolean => {
  const level = seen.get(pin)
  return level === undefined ? held : level === (active === 'high')
}

function chipOf(part: PartInstance, behaviour: Behaviour, stage: ChipStage): Chip | undefined {
  if (!isAlive(part)) return undefined
  if (behaviour.as === 'quadrature') return undefined
  const inputs = behaviourPins(behaviour)
  const netOf = (pin: string): number => stage.wiring.netOf(`${part.ref}.${pin}`).index
  const nets = [...new Set(inputs.map(netOf))]
  return { part, nets, inputs, follow: followerOf(part, behaviour, stage) }
}

function followerOf(part: PartInstance, behaviour: Behaviour, stage: ChipStage): Chip['follow'] {
  const put = outputsOf(part, stage)
  const rises = edges()
  switch (behaviour.as) {
    case 'shift-out': {
      const { data, clock, latch, outputs, carry, enables, clear } = behaviour
      let shifted = outputs.map(() => false)
      let shown = [...shifted]
      return (seen) => {
        const rose = rises(clock, seen)
        const took = latch === undefined || rises(latch, seen)
        // What stood in the register before this rise is what a latch that rises together with it takes.
        const before = shifted
        if (clear && opens(clear, seen)) shifted = outputs.map(() => false)
        else if (rose) shifted = [seen.get(data) ?? false, ...shifted.slice(0, -1)]
        if (took) shown = rose && latch !== undefined ? before : [...shifted]
        const on = enables.every((gate) => opens(gate, seen))
        const moved = outputs.map((pin, at) => put(pin, on ? shown[at]! : undefined))
        const carried = carry !== undefined && put(carry, shifted.at(-1)!)
        return carried || moved.includes(true)
      }
    }
    case 'shift-in': {
      const { load, clock, inputs, out, inverse, chain, enables } = behaviour
      let bits = inputs.map(() => false)
      return (seen) => {
        const rose = rises(clock, seen)
        if (opens(load, seen)) bits = inputs.map((pin) => seen.get(pin) ?? false)
        else if (rose && enables.every((gate) => opens(gate, seen)))
          bits = [...bits.slice(1), (chain !== undefined && seen.get(chain)) || false]
        const moved = put(out, bits[0]!)
        return (inverse !== undefined && put(inverse, !bits[0]!)) || moved
      }
    }
    case 'decode': {
      const { bits, outputs, active, enables } = behaviour
      return (seen) => {
        const chosen = enables.every((gate) => opens(gate, seen)) ? numberOf(bits, seen) : -1
        return outputs.map((pin, at) => put(pin, (at === chosen) === (active === 'high'))).includes(true)
      }
    }
    case 'count': {
      const { clock, outputs, reset, carry, enables } = behaviour
      let count = 0
      return (seen) => {
        const rose = rises(clock, seen)
        if (reset && opens(reset, seen)) count = 0
        else if (rose && enables.every((gate) => opens(gate, seen))) count = (count + 1) % outputs.length
        const moved = outputs.map((pin, at) => put(pin, at === count))
        return (carry !== undefined && put(carry, count < outputs.length / 2)) || moved.includes(true)
      }
    }
    case 'choose': {
      const { bits, enables } = behaviour
      return (seen) =>
        stage.live.choose(part, enables.every((gate) => opens(gate, seen)) ? numberOf(bits, seen) : undefined)
    }
    case 'step':
      return stepper(part, behaviour, stage, rises)
    case 'coils':
      return shaft(part, behaviour, stage)
    case 'characters':
      return letters(part, behaviour, stage)
    case 'figures':
      return figures(part, behaviour, stage)
    default:
      return () => false
  }
}

/** A display of letters takes over what stands at its lines when the enable falls; an open data line is pulled up inside. */
function letters(
  part: PartInstance,
  { select, readWrite, enable, data, size }: Extract<Behaviour, { as: 'characters' }>,
  { shows }: ChipStage,
): Chip['follow'] {
  const written = /^(\d\d)(\d\d)$/.exec(String(part.options[size]))
  const display = new CharacterDisplay(
    (words) => shows(part.ref, words),
    written ? { columns: Number(written[1]), rows: Number(written[2]) } : undefined,
  )
  let wasHigh = false
  return (seen) => {
    const high = seen.get(enable) === true
    const fell = wasHigh && !high
    wasHigh = high
    if (fell && seen.get(readWrite) !== true)
      display.take(
        seen.get(select) === true,
        data.reduce((sum, pin, at) => sum + (seen.get(pin) === false ? 0 : 2 ** at), 0),
      )
    return false
  }
}

/** The number that bits make, the lowest first; one that nothing holds counts as low. */
const numberOf = (bits: readonly string[], seen: Seen): number =>
  bits.reduce((sum, pin, at) => sum + (seen.get(pin) ? 2 ** at : 0), 0)

/** Tells of each pin whether it has risen since it was asked last. */
function edges(): (pin: string, seen: Seen) => boolean {
  const before = new Map<string, boolean>()
  return (pin, seen) => {
    const now = seen.get(pin)
    const was = before.get(pin)
    if (now !== undefined) before.set(pin, now)
    return now === true && was === false
  }
}

/** Puts levels at pins of a part, undefined lets go; true where that is new. */
export function outputsOf(
  part: PartInstance,
  { wiring, live }: ChipStage,
): (pin: string, high: boolean | undefined) => boolean {
  const { ports } = circuitOf(wiring)
  const now = new Map<string, boolean | undefined>()
  return (pin, high) => {
    if (now.has(pin) && now.get(pin) === high) return false
    now.set(pin, high)
    const end = `${part.ref}.${pin}`
    const port = ports.get(end)
    const ohms = port ? outputOhms(port) : 0
    const volts = high ? (port?.high ?? part.logicVolts ?? 3.3) : 0
    live.drive(
      end,
      wiring.netOf(end).index,
      high === undefined ? undefined : { volts, ohms: ohms < 1 ? OUTPUT_OHMS : ohms },
    )
    return true
  }
}

/** Turns and steps in words: `turned 512 steps, 90°`. */
function turnedWords(steps: number, aTurn: number): string {
  const degrees = Math.round((steps / aTurn) * 3600) / 10
  return `turned ${Number(steps.toFixed(3))} steps, ${degrees}°`
}

function stepper(
  part: PartInstance,
  behaviour: Extract<Behaviour, { as: 'step' }>,
  { wiring, shows }: ChipStage,
  rises: ReturnType<typeof edges>,
): Chip['follow'] {
  const { step, direction, outputs, microsteps, enables } = behaviour
  const nets = new Set(outputs.map((pin) => wiring.netOf(`${part.ref}.${pin}`).index))
  const motor = wiring.parts.find(
    (other) =>
      other.part.behaves?.as === 'coils' &&
      other.part.behaves.windings.every(({ between }) =>
        between.every((pin) => nets.has(wiring.netOf(`${other.ref}.${pin}`).index)),
      ),
  )
  const aTurn = motor?.part.behaves?.as === 'coils' ? motor.part.behaves.steps : 200
  const each = 1 / Number(microsteps === undefined ? 1 : (part.options[microsteps] ?? 1))
  let turned = 0
  const tell = (): void => {
    shows(part.ref, turnedWords(turned, aTurn))
    if (motor) shows(motor.ref, turnedWords(turned, aTurn))
  }
  tell()
  return (seen) => {
    if (rises(step, seen) && enables.every((gate) => opens(gate, seen))) {
      turned += seen.get(direction) ? each : -each
      tell()
    }
    return false
  }
}

/**
 * A shaft follows the sum of what its windings pull at. Where that turns by more than a quarter of the electrical turn at
 * once, no one can say which way: it stays, and trembles.
 */
function shaft(
  part: PartInstance,
  { windings, steps }: Extract<Behaviour, { as: 'coils' }>,
  { wiring, live, shows, later }: ChipStage,
): Chip['follow'] {
  const end = (pin: string): string => `${part.ref}.${pin}`
  const own = windings.flatMap(({ between: [a, b], degrees }) => {
    const element = circuitOf(wiring).elements.find(
      (one) => one.part === part && one.kind === 'winding' && one.a === end(a) && one.b === end(b),
    )
    return element ? [{ element, radians: (degrees / 180) * Math.PI }] : []
  })
  // A driver that goes by steps tells its motor itself.
  const driven = wiring.parts.some(
    (other) =>
      other.part.behaves?.as === 'step' &&
      other.part.behaves.outputs.some((pin) =>
        windings.some(({ between }) => wiring.netOf(end(between[0])) === wiring.netOf(`${other.ref}.${pin}`)),
      ),
  )
  if (driven || own.length === 0) return () => false
  let at: number | undefined
  let turned = 0
  shows(part.ref, turnedWords(0, steps))
  const pull = (): number | undefined => {
    let [x, y] = [0, 0]
    for (const { element, radians } of own) {
      const milliamps = live.milliamps(element)
      x += milliamps * Math.cos(radians)
      y += milliamps * Math.sin(radians)
    }
    return Math.hypot(x, y) < PULLS ? undefined : (Math.atan2(y, x) / Math.PI) * 180
  }
  let pulls = 0
  const go = (): void => {
    const degrees = pull()
    if (degrees === undefined) return
    const by = at === undefined ? 0 : ((((degrees - at + 180) % 360) + 360) % 360) - 180
    at = degrees
    if (Math.abs(by) < 1 || Math.abs(by) > 179) return
    turned += by / STEP_DEGREES
    shows(part.ref, turnedWords(Math.round(turned * 100) / 100, steps))
  }
  return () => {
    pulls += 1
    const now = pulls
    later(FOLLOWS_AFTER, () => {
      if (now === pulls) go()
    })
    return false
  }
}
