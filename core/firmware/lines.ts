import { memo } from '../base/memo.ts'
import type { PinFacts } from '../catalog/boardFacts.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { busNeed } from '../wiring/buses.ts'
import type { BoardInstance, Bus, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'

/** A signal of a part and the pin that a program takes to reach it. */
export interface Line {
  readonly use: SignalUse
  /** Pin of a board, or given by an expander, a switch, a bridge. */
  readonly host: Host
  /** Board whose program has it. */
  readonly board: BoardInstance
  /** The bus that it belongs to, for clock and data lines; not for selects. */
  readonly bus: Bus | undefined
  /** `sda`, `sck` …; undefined for a line that is no bus's. */
  readonly busSignal: string | undefined
  /** Number of the pin as programs count what gives it, from 0; undefined on a board and where nobody counts. */
  readonly counted: number | undefined
}

/** The board in whose program a pin is moved: its own, or that of the part that gives it. */
const boardOf = ({ board, provider }: Host): BoardInstance | undefined => board ?? provider?.home

/** Every line that some program has to know, in plan order. Outputs of drivers are moved by their inputs: they are none. */
export const linesOf = memo((wiring: Wiring): readonly Line[] => {
  const busOf = new Map<SignalUse, Bus>()
  for (const bus of wiring.buses) for (const use of bus.uses) busOf.set(use, bus)
  const outputs = new Set(circuitOf(wiring).channels.map(({ output }) => output))
  return wiring.signals.flatMap((use): Line[] => {
    const host = use.hosts[0]?.host
    if (!host || outputs.has(host.end)) return []
    const board = boardOf(host)
    if (!board) return []
    const need = busNeed(use.facts.needs)
    const bus = need && need.signal !== 'cs' ? busOf.get(use) : undefined
    const at = host.provider ? host.provider.part.counts.indexOf(host.pin) : -1
    return [{ use, host, board, bus, busSignal: bus && need?.signal, counted: at < 0 ? undefined : at }]
  })
})

/** Facts of a host's pin on its board. */
export const pinOf = ({ board, pin }: Host): PinFacts | undefined => board?.facts.pin(pin)

/**
 * Holes of a board pin that the plan's wires use, as facts; the pin's first hole where none is named. A net of the board
 * may come out at several posts, and fingers look for the one that is wired.
 */
export function holesOf(wiring: Wiring, host: Host): PinFacts[] {
  const first = pinOf(host)
  if (!host.board || !first) return []
  const wired = new Set(wiring.plan.wires.flat())
  const used = host.board.facts.pins.filter((pin) => pin.net === first.net && wired.has(`${host.ref}.${pin.id}`))
  return used.length > 0 ? used : [first]
}

/** Hosts that move an end: its own, or what drives the inputs of the driver that it hangs on, however many in a row. */
export function movers(wiring: Wiring, end: string, seen: ReadonlySet<string> = new Set()): Host[] {
  if (seen.has(end)) return []
  const net = wiring.netOf(end)
  const use = wiring.signal(end)
  const hosts = use?.hosts.map(({ host }) => host) ?? net.ends.flatMap((one) => wiring.terminal(one)?.host ?? [])
  const channels = circuitOf(wiring).channels
  return [
    ...new Set(
      hosts.flatMap((host) => {
        const channel = channels.find(({ output }) => output === host.end)
        return channel ? channel.inputs.flatMap((input) => movers(wiring, input, new Set([...seen, end]))) : [host]
      }),
    ),
  ]
}

/** Addresses, chains and buses hang on the parts that this program speaks to. */
export const partsOf = (wiring: Wiring, board: BoardInstance): PartInstance[] =>
  wiring.parts.filter((part) => part.home === board)
