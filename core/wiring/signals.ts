import { isLoad } from '../catalog/common.ts'
import type { Inner } from '../catalog/innerSchema.ts'
import type { Part } from '../catalog/partSchema.ts'
import type { Mode, Signal } from '../catalog/signalSchema.ts'
import { holds } from '../catalog/when.ts'
import { busNeed } from './buses.ts'
import type { Host, Net, PartInstance, SignalState, SignalUse, Wiring } from './model.ts'
import { drives } from './needs.ts'

/** Signals of a part in its mode: those of every mode and those of this one. */
export const signalsOf = (
  part: Part,
  mode: Mode | undefined,
  options: Readonly<Record<string, string | number>>,
): readonly Signal[] => [...(mode?.signals ?? []), ...part.signals].filter((signal) => holds(signal.when, options))

type Nets = Pick<Wiring, 'plan' | 'parts' | 'hosts' | 'terminal' | 'netOf'>

/** Follows every part's signals over wires and resistors in series to the pins that carry them. */
export function findSignals(wiring: Nets): SignalUse[] {
  const locked = new Set<string>()
  for (const wire of wiring.plan.wires) if (wire[2]?.locked) locked.add(wire[0]).add(wire[1])
  const unused = new Set(wiring.plan.unused)
  const links = linksByEnd(wiring.parts)
  const uses = wiring.parts.flatMap((part) => {
    const all = signalsOf(part.part, part.mode, part.options)
    return all.map((given): SignalUse => {
      const required = isNeeded(wiring, part, given, all)
      const needed = required === given.required ? given : { ...given, required }
      const end = `${part.ref}.${given.pin}`
      const walk = follow(wiring, links, end, part, given)
      const fills = fillsCapacitor(wiring, end, part, given, walk.hosts)
      const read = fills ? { ...needed, needs: 'digital-in' as const, text: undefined } : needed
      const facts = drivesBack(wiring, part, given) ? { ...read, direction: 'both' as const } : read
      const net = wiring.netOf(end)
      const state = (): SignalState => {
        if (walk.hosts.length > 0) return 'placed'
        if (unused.has(end)) return 'unused'
        if (net.sources.length > 0 || net.ground) return 'tied'
        return walk.others ? 'joined' : 'open'
      }
      const series = part.part.companions.find(
        (companion) => companion.required && companion.series === facts.pin && holds(companion.when, part.options),
      )
      return {
        end,
        part,
        facts,
        state: state(),
        hosts: walk.hosts,
        tail: walk.tail,
        meets: walk.meets,
        movedBy: undefined,
        fills,
        lacksSeries: series !== undefined && !walk.series,
        locked: locked.has(end) || locked.has(walk.tail),
      }
    })
  })
  const byEnd = new Map(uses.map((use) => [use.end, use]))
  return uses.map((use) => {
    const mover = use.hosts.length > 0 && takesLevels(use.facts) ? moverAt(use, byEnd) : undefined
    return mover ? { ...use, hosts: [], state: 'joined', movedBy: mover.end } : use
  })
}

/** It does what a level says, whoever makes that: no pulses of a length, no bits, no changes that count. */
const takesLevels = ({ needs, direction, moves, hertz, serial, timing }: Signal): boolean =>
  direction === 'in' &&
  (needs === 'digital-out' || needs === 'pwm') &&
  !moves &&
  hertz === undefined &&
  !serial &&
  !timing

/**
 * The output of another part that is read at the pin on which a signal lies, and that moves it by itself: a lamp, a relay
 * or a transistor behind a motion sensor. What only pulls low moves what acts there. A contact does not count: with one on
 * the pin of a lamp or a relay the maker nearly always took the same pin twice.
 */
function moverAt(use: SignalUse, byEnd: ReadonlyMap<string, SignalUse>): SignalUse | undefined {
  const others = use.meets.flatMap((end) => byEnd.get(end) ?? [])
  return others.find(({ part, facts, hosts }) => {
    const isRead = hosts.some(({ host }) => use.hosts.some((one) => one.host === host))
    if (part === use.part || !isRead || facts.needs === 'analog-in' || busNeed(facts.needs) || drives(facts.needs))
      return false
    return facts.direction === 'out' || (facts.direction === 'open-drain' && use.facts.activeLevel === 'low')
  })
}

/**
 * Of two outputs that each are enough, the one that is not wired is not needed; nor is one that the board cannot read. Of
 * relays side by side those are needed whose contacts lead somewhere.
 */
function isNeeded(wiring: Nets, part: PartInstance, signal: Signal, all: readonly Signal[]): boolean {
  const isWired = (pin: string): boolean => wiring.netOf(`${part.ref}.${pin}`).wired
  if (signal.eitherWith !== undefined)
    return signal.required && (isWired(signal.pin) || (!isWired(signal.eitherWith) && isReadable(wiring, signal)))
  const contacts = part.part.inner.filter(({ moved }) => moved)
  if (contacts.some(({ moved }) => moved?.by === signal.pin)) {
    const led = contacts.filter(({ between }) => between.some(isWired))
    if (led.length > 0) return led.some(({ moved }) => moved?.by === signal.pin)
  }
  const first = all.find(({ eitherWith }) => eitherWith === signal.pin)
  return signal.required || (first !== undefined && !isWired(first.pin) && !isReadable(wiring, first))
}

/** Some pin of the plan, of a board or of a part that gives pins, has what a signal needs. */
const isReadable = ({ hosts }: Nets, { needs }: Signal): boolean =>
  [...hosts.values()].some(({ functions }) => functions.has(needs))

/** A line on which the part answers, since the pin that would keep it from that is not tied to ground. */
function drivesBack({ netOf }: Nets, part: PartInstance, { backUnless }: Signal): boolean {
  if (backUnless === undefined) return false
  const net = netOf(`${part.ref}.${backUnless}`)
  return net.wired && !net.ground
}

/**
 * A resistance that is read without a converter: the pin empties a capacitor on the line and times how long the resistance
 * takes to fill it from elsewhere. With a second resistor to a rail the capacitor only filters what a converter would read.
 */
function fillsCapacitor(
  { parts, netOf, hosts: all }: Nets,
  end: string,
  { ref, part: { inner } }: PartInstance,
  { needs, direction }: Signal,
  hosts: Walk['hosts'],
): boolean {
  if (needs !== 'analog-in' || direction !== 'passive') return false
  // As long as it has no pin, any that measures volts will be the better one.
  const pins = hosts.length > 0 ? hosts.map(({ host }) => host) : [...all.values()]
  if (pins.some(({ functions }) => functions.has(needs))) return false
  const isRail = ({ ground, sources }: Net): boolean => ground || sources.length > 0
  const netsOf = (owner: string, { between }: Inner): Net[] => between.map((pin) => netOf(`${owner}.${pin}`))
  const legs = [netOf(end), ...inner.flatMap((through) => netsOf(ref, through))]
  const rails = (kind: Inner['kind'], home: Net): Net[] =>
    parts.flatMap((one) =>
      (one.part.category === 'passive' ? one.part.inner : [])
        .filter(({ kind: is, when }) => is === kind && holds(when, one.options))
        .map((through) => netsOf(one.ref, through))
        .filter((nets) => nets.includes(home))
        .flatMap((nets) => nets.filter(isRail)),
    )
  return legs.some(
    (home) =>
      !isRail(home) &&
      rails('resistance', home).length === 0 &&
      rails('capacitance', home).some((net) => !legs.includes(net)),
  )
}

/**
 * What leads a signal on: a resistor, a diode, a channel of a level shifter, a buffer; a capacitor what alternates; a fuse,
 * a meter or a contact the current of a load.
 */
interface Link {
  readonly ref: string
  readonly other: string
  readonly resistor: boolean
  readonly only: 'alternating' | 'load' | undefined
}

const METAL = new Set<Inner['kind']>(['shunt', 'contact', 'switch'])

/** Every end that leads on to another, with what lies between. */
function linksByEnd(parts: readonly PartInstance[]): Map<string, Link[]> {
  const links = new Map<string, Link[]>()
  for (const { ref, part, options } of parts)
    for (const inner of part.inner) {
      const resistor = inner.kind === 'resistance' && (part.category === 'passive' || part.rheostat !== undefined)
      const diode = inner.kind === 'diode' && part.category === 'passive'
      const couples = inner.kind === 'capacitance' && part.category === 'passive'
      const only = couples ? 'alternating' : METAL.has(inner.kind) ? 'load' : undefined
      if (!resistor && !diode && !only && inner.kind !== 'shift' && inner.kind !== 'buffer') continue
      if (!holds(inner.when, options)) continue
      const [a, b] = inner.between.map((pin) => `${ref}.${pin}`) as [string, string]
      for (const [from, other] of [
        [a, b],
        [b, a],
      ] as const)
        links.set(from, [...(links.get(from) ?? []), { ref, other, resistor, only }])
    }
  return links
}

interface Walk {
  readonly hosts: readonly { readonly host: Host; readonly via: readonly string[] }[]
  /** Where the next wire starts. */
  readonly tail: string
  /** A resistor stands in series. */
  readonly series: boolean
  /** The signal is joined to some other part's pin. */
  readonly others: boolean
  /** Pins of other parts on the way and at its end. */
  readonly meets: readonly string[]
}

function follow(
  wiring: Nets,
  links: ReadonlyMap<string, readonly Link[]>,
  start: string,
  part: PartInstance,
  { alternates, needs }: Signal,
): Walk {
  const hosts: { host: Host; via: readonly string[] }[] = []
  const home = wiring.netOf(start)
  // A signal tied to a rail ends there; whatever else hangs on the rail is none of its business.
  if (home.ground || home.sources.length > 0) return { hosts, tail: start, series: false, others: false, meets: [] }
  const seen = new Set<Net>([home])
  const queue: { net: Net; via: readonly string[]; entry: string }[] = [{ net: home, via: [], entry: start }]
  let tail = start
  let others = false
  let series = false
  const meets: string[] = []
  const isForLoad = isLoad(needs)
  const leads = ({ only }: Link): boolean => only === undefined || (only === 'alternating' ? alternates : isForLoad)
  for (let at = queue.shift(); at; at = queue.shift()) {
    for (const end of at.net.ends) {
      const terminal = wiring.terminal(end)
      if (!terminal || terminal.ref === part.ref) continue
      if (terminal.partPin) meets.push(end)
      const on = links.get(end)?.filter(leads) ?? []
      if (on.length > 0) {
        for (const link of on) {
          const beyond = wiring.netOf(link.other)
          if (end === at.entry || seen.has(beyond) || beyond.ground || beyond.sources.length > 0) continue
          seen.add(beyond)
          series ||= link.resistor
          queue.push({ net: beyond, via: [...at.via, link.ref], entry: link.other })
          if (beyond.ends.every((one) => isLoose(wiring, one))) tail = link.other
        }
      } else if (terminal.host) {
        if (!hosts.some(({ host }) => host === terminal.host)) hosts.push({ host: terminal.host, via: at.via })
      } else if (terminal.partPin && terminal.partPin.role !== 'free') others = true
    }
  }
  return { hosts, tail, series, others, meets }
}

/** A leg of a passive part: nothing that drives or listens. */
const isLoose = ({ terminal }: Nets, end: string): boolean => {
  const owner = terminal(end)?.owner
  return owner?.kind === 'part' && (owner.part.category === 'passive' || terminal(end)?.partPin?.role === 'passive')
}

/** What moves an end: the pin that reaches it, through resistors too; else the net on which it lies. */
export const moverOf = ({ signal, netOf }: Pick<Wiring, 'signal' | 'netOf'>, end: string): string =>
  signal(end)?.hosts[0]?.host.end ?? `net ${netOf(end).index}`
