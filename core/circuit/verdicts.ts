import { memo } from '../base/memo.ts'
import { solve } from '../electrical/network.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { type Circuit, circuitOf, type Element } from './circuit.ts'
import type { Position, Strand } from './groundwork.ts'
import { type Island, islandsOf } from './island.ts'
import { nothing, statesOf } from './states.ts'

/** Current in milliamperes from which something counts as conducting. */
export const CONDUCTS = 0.001

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

const verdicts = memo(judge)

export const verdictsOf = (wiring: Wiring): Verdicts => verdicts(circuitOf(wiring))

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
