import type { Mode, Part, Signal } from '../catalog/partSchema.ts'
import type { Host, Net, PartInstance, SignalState, SignalUse, Wiring } from './model.ts'

/** Signals of a part in its mode: those of every mode and those of this one. */
export const signalsOf = (part: Part, mode: Mode | undefined): readonly Signal[] => [
  ...(mode?.signals ?? []),
  ...part.signals,
]

type Nets = Pick<Wiring, 'plan' | 'parts' | 'terminal' | 'netOf'>

/** Follows every part's signals over wires and resistors in series to the pins that carry them. */
export function findSignals(wiring: Nets): SignalUse[] {
  const locked = new Set<string>()
  for (const wire of wiring.plan.wires) if (wire[2]?.locked) locked.add(wire[0]).add(wire[1])
  const unused = new Set(wiring.plan.unused)
  const resistors = resistorsByEnd(wiring.parts)
  return wiring.parts.flatMap((part) =>
    signalsOf(part.part, part.mode).map((facts): SignalUse => {
      const end = `${part.ref}.${facts.pin}`
      const walk = follow(wiring, resistors, end, part)
      const net = wiring.netOf(end)
      const state = (): SignalState => {
        if (walk.hosts.length > 0) return 'placed'
        if (unused.has(end)) return 'unused'
        if (net.sources.length > 0 || net.ground) return 'tied'
        return walk.others ? 'joined' : 'open'
      }
      const series = part.part.companions.find((companion) => companion.required && companion.series === facts.pin)
      return {
        end,
        part,
        facts,
        state: state(),
        hosts: walk.hosts,
        tail: walk.tail,
        lacksSeries: series !== undefined && !walk.series,
        locked: locked.has(end) || locked.has(walk.tail),
      }
    }),
  )
}

/** Every leg of a resistor, with the resistor's ref and its other leg. */
function resistorsByEnd(parts: readonly PartInstance[]): Map<string, { ref: string; other: string }> {
  const legs = new Map<string, { ref: string; other: string }>()
  for (const { ref, part } of parts) {
    if (part.category !== 'passive') continue
    for (const inner of part.inner) {
      if (inner.kind !== 'resistance') continue
      const [a, b] = inner.between.map((pin) => `${ref}.${pin}`) as [string, string]
      legs.set(a, { ref, other: b })
      legs.set(b, { ref, other: a })
    }
  }
  return legs
}

interface Walk {
  readonly hosts: readonly { readonly host: Host; readonly via: readonly string[] }[]
  /** Where the next wire starts. */
  readonly tail: string
  /** A resistor stands in series. */
  readonly series: boolean
  /** The signal is joined to some other part's pin. */
  readonly others: boolean
}

function follow(
  wiring: Nets,
  resistors: ReadonlyMap<string, { ref: string; other: string }>,
  start: string,
  part: PartInstance,
): Walk {
  const hosts: { host: Host; via: readonly string[] }[] = []
  const home = wiring.netOf(start)
  // A signal tied to a rail ends there; whatever else hangs on the rail is none of its business.
  if (home.ground || home.sources.length > 0) return { hosts, tail: start, series: false, others: false }
  const seen = new Set<Net>([home])
  const queue: { net: Net; via: readonly string[]; entry: string }[] = [{ net: home, via: [], entry: start }]
  let tail = start
  let others = false
  for (let at = queue.shift(); at; at = queue.shift()) {
    for (const end of at.net.ends) {
      const terminal = wiring.terminal(end)
      if (!terminal || terminal.ref === part.ref) continue
      const resistor = resistors.get(end)
      if (resistor) {
        const beyond = wiring.netOf(resistor.other)
        if (end === at.entry || seen.has(beyond) || beyond.ground || beyond.sources.length > 0) continue
        seen.add(beyond)
        queue.push({ net: beyond, via: [...at.via, resistor.ref], entry: resistor.other })
        if (beyond.ends.length === 1) tail = resistor.other
      } else if (terminal.host) {
        if (!hosts.some(({ host }) => host === terminal.host)) hosts.push({ host: terminal.host, via: at.via })
      } else if (terminal.partPin && terminal.partPin.role !== 'free') others = true
    }
  }
  return { hosts, tail, series: seen.size > 1, others }
}
