import { solve } from '../electrical/network.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Circuit, Element, Port } from './circuit.ts'
import type { Island } from './island.ts'
import { type State, verdictsOf } from './verdicts.ts'

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

/** What the board or its chip pulls at a pin with; `stays` where that is a resistor, which is in the circuit already. */
export interface Hold {
  readonly volts: number
  readonly ohms: number
  readonly stays?: boolean
}

/** Volts of a net while the board starts, with a weak hold besides; undefined for a net that no element meets. */
export function heldAtStart(wiring: Wiring, net: Net, hold: Hold): number {
  const verdict = verdictsOf(wiring).of(net)?.verdict
  const state = verdict?.states[0]
  if (!verdict || !state) return hold.volts
  const { held } = verdict.island
  const weak = { a: HOLD, b: net.index, ohms: hold.ohms, element: undefined, port: undefined }
  const strands = hold.stays ? state.strands : [...state.strands, weak]
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
