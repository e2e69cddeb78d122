import { solve } from '../electrical/network.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { type Circuit, circuitOf, type Element, type Port } from './circuit.ts'
import { type Actor, type Island, islandsOf, type Position, type Strand } from './island.ts'

/**
 * What every net and element gets in the states of its island. Islands with few states are tried in all of them; of a
 * large one each thing is tried by itself and against all others, and its figures are `bounds`: the true worst may be
 * less, for voltages never more, since a voltage rises with everything that rises.
 */
export interface Verdicts {
  readonly islands: readonly IslandVerdict[]
  readonly of: (net: Net) => NetVerdict | undefined
  readonly through: (element: Element) => Flow | undefined
}

export interface IslandVerdict {
  readonly island: Island
  readonly states: readonly State[]
  /** False when only some of the states were tried. */
  readonly enumerated: boolean
  /** What was worked out of islands of this form besides, by state and strand. */
  readonly memo: Map<string, unknown>
}

/** One state of an island, with the solved voltages and currents. */
export interface State {
  /** Position of each actor, in the order of the island's actors. */
  readonly positions: readonly Position[]
  readonly strands: readonly Strand[]
  readonly index: number
  /** Volts of a node; undefined where nothing holds it. */
  readonly volts: (node: number) => number | undefined
  /** Amperes from `a` to `b` of each strand. */
  readonly amps: readonly number[]
}

export interface NetVerdict {
  readonly verdict: IslandVerdict
  /** Highest and lowest volts with their states; undefined while nothing ever holds the net. */
  readonly most: { readonly volts: number; readonly state: State } | undefined
  readonly least: { readonly volts: number; readonly state: State } | undefined
}

/** Current through an element, in milliamperes. */
export interface Flow {
  readonly verdict: IslandVerdict
  /** Most from its first leg to its second, and back; 0 where none flows. */
  readonly forward: number
  readonly back: number
  readonly state: State
  /** Most volts of its first leg over its second, and of its second over its first. */
  readonly over: number
  readonly under: number
}

/** Most states of one island that are all tried. */
const MOST_STATES = 256

const made = new WeakMap<Circuit, Verdicts>()

export function verdictsOf(wiring: Wiring): Verdicts {
  const circuit = circuitOf(wiring)
  let verdicts = made.get(circuit)
  if (!verdicts) {
    verdicts = judge(circuit)
    made.set(circuit, verdicts)
  }
  return verdicts
}

function judge(circuit: Circuit): Verdicts {
  const islands = islandsOf(circuit).map(judgeIsland)
  const byNet = new Map<Net, IslandVerdict>()
  const byElement = new Map<Element, IslandVerdict>()
  for (const verdict of islands) {
    for (const net of verdict.island.nets) byNet.set(net, verdict)
    for (const { strands } of verdict.states)
      for (const { element } of strands) if (element) byElement.set(element, verdict)
  }
  const nets = new Map<Net, NetVerdict>()
  const flows = new Map<Element, Flow>()
  return {
    islands,
    of: (net) => {
      const verdict = byNet.get(net)
      if (!verdict) return undefined
      let known = nets.get(net)
      if (!known) {
        known = netVerdict(verdict, net)
        nets.set(net, known)
      }
      return known
    },
    through: (element) => {
      const verdict = byElement.get(element)
      if (!verdict) return undefined
      let known = flows.get(element)
      if (!known) {
        known = flowOf(verdict, element)
        flows.set(element, known)
      }
      return known
    },
  }
}

/** An island of a form that is known: which states it has, and what they come to. */
interface Shape {
  readonly enumerated: boolean
  /** For each state the position of each actor; -1 where it lets go and has no such position. */
  readonly choices: readonly (readonly number[])[]
  /** Volts by number of the node, not a number where nothing holds it; and amperes by strand. */
  readonly solved: readonly { readonly volts: readonly number[]; readonly amps: readonly number[] }[]
  readonly memo: Map<string, unknown>
}

/** By what an island is made of, its nodes numbered as they come: an edit leaves most islands as they were. */
const shapes = new Map<string, Shape>()
const MOST_KEPT = 4000

function judgeIsland(island: Island): IslandVerdict {
  const { numbers, form } = formOf(island)
  let shape = shapes.get(form)
  if (!shape) {
    shape = shapeOf(island, numbers)
    const [oldest] = shapes.keys()
    if (shapes.size >= MOST_KEPT && oldest !== undefined) shapes.delete(oldest)
    shapes.set(form, shape)
  }
  const { enumerated, memo, choices } = shape
  const states = choices.map((_, index) => new SolvedState(island, numbers, shape as Shape, index))
  return { island, enumerated, memo, states }
}

function shapeOf(island: Island, numbers: ReadonlyMap<number, number>): Shape {
  const { positions, enumerated } = statesOf(island.actors)
  return {
    enumerated,
    choices: positions.map((chosen) => chosen.map((one, at) => island.actors[at]?.positions.indexOf(one) ?? -1)),
    solved: positions.map((chosen) => {
      const { volts, amps } = solve(strandsOf(island, chosen), island.held)
      return { volts: [...numbers.keys()].map((node) => volts.get(node) ?? Number.NaN), amps }
    }),
    memo: new Map(),
  }
}

class SolvedState implements State {
  readonly #island: Island
  readonly #numbers: ReadonlyMap<number, number>
  readonly #shape: Shape
  readonly index: number
  #strands: readonly Strand[] | undefined

  constructor(island: Island, numbers: ReadonlyMap<number, number>, shape: Shape, index: number) {
    this.#island = island
    this.#numbers = numbers
    this.#shape = shape
    this.index = index
  }

  get positions(): readonly Position[] {
    const choice = this.#shape.choices[this.index] ?? []
    return choice.map((one, at) => this.#island.actors[at]?.positions[one] ?? nothing)
  }

  get strands(): readonly Strand[] {
    this.#strands ??= strandsOf(this.#island, this.positions)
    return this.#strands
  }

  get amps(): readonly number[] {
    return this.#shape.solved[this.index]?.amps ?? []
  }

  volts(node: number): number | undefined {
    const at = this.#shape.solved[this.index]?.volts[this.#numbers.get(node) ?? -1]
    return at === undefined || Number.isNaN(at) ? undefined : at
  }
}

const strandsOf = (island: Island, chosen: readonly Position[]): Strand[] => [
  ...island.strands,
  ...chosen.flatMap((one) => one.strands),
]

/** An island written down with its nodes numbered in the order in which they come, and these numbers. */
function formOf({ held, strands, actors }: Island): { numbers: Map<number, number>; form: string } {
  const numbers = new Map<number, number>()
  let form = ''
  const name = (node: number): string => {
    const known = numbers.get(node)
    if (known !== undefined) return String(known)
    numbers.set(node, numbers.size)
    const at = held.get(node)
    return at === undefined ? String(numbers.size - 1) : `${numbers.size - 1}@${at}`
  }
  const write = ({ a, b, ohms, drop }: Strand): void => {
    form += `${name(a)}-${name(b)}:${ohms}${drop === undefined ? '' : `>${drop}`};`
  }
  strands.forEach(write)
  for (const { what, rests, positions } of actors) {
    form += `${'port' in what ? 'p' : 'e'}${rests ? 'r' : ''}[`
    for (const { is, strands: own } of positions) {
      form += `${is}|`
      own.forEach(write)
    }
    form += ']'
  }
  return { numbers, form }
}

/** The states to try. Of pins that take turns at most one drives in any of them. */
function statesOf(actors: readonly Actor[]): { positions: Position[][]; enumerated: boolean } {
  const turns = actors.map(takesTurns)
  const resting = actors.map(restOf)
  const steady = (states: number, { positions }: Actor, index: number): number =>
    turns[index] ? states : states * positions.length
  const turning = actors.reduce((sum, { positions }, index) => (turns[index] ? sum + positions.length - 1 : sum), 1)
  if (actors.reduce(steady, 1) * turning <= MOST_STATES) {
    const all = combined(actors, turns, ({ positions }) => positions)
    // At reset the pins of boards have let go, and a finger may lie on a button all the same.
    const starts = combined(actors, turns, (one) => (one.rests && 'port' in one.what ? [restOf(one)] : one.positions))
    return { positions: [resting, ...starts, ...all], enumerated: true }
  }
  const legal = (chosen: readonly Position[]): boolean =>
    chosen.filter((one, index) => turns[index] && one.is !== 'off').length <= 1
  const base = actors.map(({ positions }) => positions[0] as Position)
  const all = (is: readonly Position['is'][]): Position[] =>
    actors.map(({ positions }, index) =>
      turns[index]
        ? (base[index] as Position)
        : (positions.find((one) => is.includes(one.is)) ?? (base[index] as Position)),
    )
  const grounds = [resting, base, all(['high', 'closed', 'least']), all(['low', 'open', 'most'])]
  const single = grounds
    .slice(1)
    .flatMap((ground) =>
      actors.flatMap(({ positions }, index) =>
        positions
          .filter((one) => one !== ground[index])
          .map((one) => ground.map((other, at) => (at === index ? one : other))),
      ),
    )
  return { positions: [...grounds, ...single].filter(legal), enumerated: false }
}

/** Every choice of one position for each actor, with at most one of those that take turns driving. */
function combined(
  actors: readonly Actor[],
  turns: readonly boolean[],
  choices: (actor: Actor) => readonly Position[],
): Position[][] {
  let all: { readonly chosen: Position[]; readonly taken: boolean }[] = [{ chosen: [], taken: false }]
  actors.forEach((actor, index) => {
    const positions = choices(actor)
    all = all.flatMap(({ chosen, taken }) =>
      positions.flatMap((one) => {
        const takes = turns[index] === true && one.is !== 'off'
        return takes && taken ? [] : [{ chosen: [...chosen, one], taken: taken || takes }]
      }),
    )
  })
  return all.map(({ chosen }) => chosen)
}

const nothing: Position = { is: 'off', strands: [] }

/** An actor while the board starts. */
const restOf = ({ rests, positions }: Actor): Position =>
  rests ? (positions.find((one) => one.strands.length === 0) ?? nothing) : (positions[0] as Position)

const takesTurns = ({ what, positions }: Actor): boolean => 'port' in what && positions.some((one) => one.is === 'off')

function netVerdict(verdict: IslandVerdict, net: Net): NetVerdict {
  let most: NetVerdict['most']
  let least: NetVerdict['least']
  for (const state of verdict.states) {
    const volts = state.volts(net.index)
    if (volts === undefined) continue
    if (!most || volts > most.volts) most = { volts, state }
    if (!least || volts < least.volts) least = { volts, state }
  }
  return { verdict, most, least }
}

function flowOf(verdict: IslandVerdict, element: Element): Flow {
  let best: { forward: number; back: number; state: State } | undefined
  let forward = 0
  let back = 0
  let over = Number.NEGATIVE_INFINITY
  let under = Number.NEGATIVE_INFINITY
  for (const state of verdict.states) {
    const [a, b] = [state.volts(element.netA.index), state.volts(element.netB.index)]
    if (a !== undefined && b !== undefined) {
      over = Math.max(over, a - b)
      under = Math.max(under, b - a)
    }
    state.strands.forEach((strand, index) => {
      if (strand.element !== element) return
      const milliamps = (state.amps[index] ?? 0) * 1000 * (strand.a === element.netA.index ? 1 : -1)
      if (!best || Math.abs(milliamps) > Math.max(best.forward, best.back))
        best = { forward: milliamps, back: -milliamps, state }
      forward = Math.max(forward, milliamps)
      back = Math.max(back, -milliamps)
    })
  }
  return { verdict, forward, back, state: (best ?? { state: verdict.states[0] as State }).state, over, under }
}

/** The way over which something holds a net. */
export interface Way {
  /** End of what holds it, or `ground`. */
  readonly name: string
  readonly volts: number
  /** Refs of the parts on the way, and kinds of their elements, from the net on. */
  readonly through: readonly string[]
  readonly kinds: readonly Element['kind'][]
  /** The pin that drives, where one does; the part or board inside which a pull lies, where it is one. */
  readonly port: Port | undefined
  readonly inside: string | undefined
}

/** What brings a net to its voltage in a state: the held thing with the highest or lowest volts behind it. */
export function wayTo(circuit: Circuit, state: State, island: Island, net: Net, seek: 'high' | 'low'): Way | undefined {
  type Step = Pick<Way, 'through' | 'kinds' | 'port' | 'inside'> & { readonly node: number }
  const { strands, amps } = state
  const here = state.volts(net.index) ?? 0
  const queue: Step[] = [{ node: net.index, through: [], kinds: [], port: undefined, inside: undefined }]
  const seen = new Set([net.index])
  let found: (Step & { readonly volts: number }) | undefined
  for (let step = queue.shift(); step; step = queue.shift()) {
    const held = island.held.get(step.node)
    if (held !== undefined) {
      if (!found || (seek === 'high' ? held > found.volts : held < found.volts)) found = { ...step, volts: held }
      continue
    }
    for (const [index, strand] of strands.entries()) {
      if (strand.a !== step.node && strand.b !== step.node) continue
      const other = strand.a === step.node ? strand.b : strand.a
      if (seen.has(other)) continue
      // A diode that leads the other way holds nothing.
      const over = (state.volts(strand.a) ?? 0) - (state.volts(strand.b) ?? 0)
      if (strand.drop !== undefined && Math.abs(amps[index] ?? 0) < 1e-9 && over < strand.drop - 0.05) continue
      seen.add(other)
      const { element } = strand
      const ref = element?.part.ref
      queue.push({
        node: other,
        through: ref === undefined || step.through.includes(ref) ? step.through : [...step.through, ref],
        kinds: element ? [...step.kinds, element.kind] : step.kinds,
        port: strand.port ?? step.port,
        inside: strand.inside ?? step.inside,
      })
    }
  }
  if (!found || (seek === 'high' ? found.volts < here - 0.001 : found.volts > here + 0.001)) return undefined
  const source = found.node >= 0 ? circuit.wiring.nets[found.node] : undefined
  const name = source
    ? source.ground
      ? 'ground'
      : (source.sources[0]?.end ?? '')
    : (found.port?.terminal.end ?? found.inside ?? '')
  const { volts: held, through, kinds, port, inside } = found
  return { name, volts: held, through, kinds, port, inside }
}

/** Volts of a net while the board starts, with a weak hold besides; undefined for a net that no element meets. */
export function heldAtStart(wiring: Wiring, net: Net, hold: { readonly volts: number; readonly ohms: number }): number {
  const verdict = verdictsOf(wiring).of(net)?.verdict
  const state = verdict?.states[0]
  if (!verdict || !state) return hold.volts
  const { held } = verdict.island
  const strands = [...state.strands, { a: HOLD, b: net.index, ohms: hold.ohms, element: undefined, port: undefined }]
  return solve(strands, new Map([...held, [HOLD, hold.volts]])).volts.get(net.index) ?? hold.volts
}

/** Volts of a net at rest with an element at so many times its ohms; undefined where nothing holds the net. */
export function restWith(wiring: Wiring, net: Net, element: Element, times: number): number | undefined {
  const verdict = verdictsOf(wiring).of(net)?.verdict
  const strands = verdict?.states[0]?.strands.map((one) =>
    one.element === element ? { ...one, ohms: one.ohms * times } : one,
  )
  return verdict && strands && solve(strands, verdict.island.held).volts.get(net.index)
}

/** Node of a hold that is added for one question; no island has it. */
const HOLD = Number.MIN_SAFE_INTEGER
