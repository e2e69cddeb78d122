import { circuitOf } from '../circuit/circuit.ts'
import { type DrivenLine, linesOfSignal } from '../circuit/lines.ts'
import type { Host, Net, SignalUse, Wiring } from '../wiring/model.ts'
import { meets } from '../wiring/needs.ts'
import { openFeet } from './halves.ts'
import { isI2c } from './leadOver.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'

/** An end at which resistors of the maker wait for a line, and the pin to which they lead it. */
interface Begun {
  readonly end: string
  readonly host: Host
}

/**
 * Lines whose way to a pin the maker has begun with resistors: a divider, or one in series. A signal goes there where the
 * pin can serve it and both sides get levels that they read and bear.
 */
export function joinBegun(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  let now = wiring
  for (const { end, host } of begunEnds(wiring)) {
    const open = now.signals.filter((use) => wanted(use.part.ref) && isWaiting(use) && meets(host, use) === 'needs')
    const found = open
      .flatMap((use) => {
        const join = connect(use.end, end, `leads to ${host.end} already`)
        // The foot of a divider may wait with its other leg on ground.
        const feet = openFeet(now, ({ ground }) => ground).map((foot) => connect(foot, use.end, 'foot of the divider'))
        return [[join], ...feet.map((foot) => [join, foot])].map((made) => ({ use, made }))
      })
      .find(({ use, made }) => isRight(now, use, host, made))
    if (!found) continue
    decisions.push(...found.made)
    now = after(now, found.made)
  }
  return { wiring: now, decisions, refused: [] }
}

/** A plain line that goes one way, of which no end has a wire. */
const isWaiting = (use: SignalUse): boolean =>
  use.state === 'open' &&
  use.facts.required &&
  use.tail === use.end &&
  !isI2c(use) &&
  (use.facts.direction === 'in' || use.facts.direction === 'out')

/** With these wires the signal reaches the pin, and both sides get levels that they read and bear. */
function isRight(wiring: Wiring, use: SignalUse, host: Host, made: readonly Decision[]): boolean {
  const next = after(wiring, made)
  const joined = next.signal(use.end)
  const lines = joined ? linesOfSignal(next, joined) : []
  return joined?.hosts[0]?.host.end === host.end && lines.length > 0 && lines.every(isRead)
}

const isRead = ({ high, low, vih, vil, most }: DrivenLine): boolean =>
  (high === undefined || ((most === undefined || high <= most + 0.01) && (vih === undefined || high >= vih))) &&
  (low === undefined || vil === undefined || low <= vil)

/** Nets of nothing but legs of resistors, and legs that are open yet, from which resistors lead to one pin of a board. */
function begunEnds(wiring: Wiring): Begun[] {
  const circuit = circuitOf(wiring)
  const unused = new Set(wiring.plan.unused)
  const seen = new Set<Net>()
  const taken = new Set(wiring.signals.flatMap(({ hosts }) => hosts.map(({ host }) => host.end)))
  const isResistor = (end: string): boolean =>
    circuit.elements.some(
      ({ kind, part, a, b }) => kind === 'resistor' && part.part.category === 'passive' && (a === end || b === end),
    )
  return circuit.elements.flatMap(({ a, b, netA, netB }): Begun[] => {
    if (!isResistor(a) || !(netA.wired || netB.wired)) return []
    return (
      [
        [a, netA],
        [b, netB],
      ] as const
    ).flatMap(([end, net]): Begun[] => {
      if (seen.has(net) || unused.has(end) || net.ground || net.sources.length > 0) return []
      seen.add(net)
      if (!net.ends.every(isResistor)) return []
      const hosts = new Set(
        circuit.on(net).flatMap((one) => {
          const far = one.netA === net ? one.netB : one.netA
          if (far.ground || far.sources.length > 0) return []
          return far.ends.flatMap((other) => wiring.terminal(other)?.host ?? [])
        }),
      )
      const [host, ...more] = hosts
      return host?.board && more.length === 0 && !taken.has(host.end) ? [{ end, host }] : []
    })
  })
}
