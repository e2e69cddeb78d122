import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import { isLoad } from '../catalog/common.ts'
import type { Signal } from '../catalog/signalSchema.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { runsOf } from '../circuit/loads.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { switchesLoad } from '../wiring/needs.ts'
import type { Block } from './block.ts'
import { plannedVolts } from './blocks.ts'
import { type Blocked, judgeBus, judgePin, placesOf, type Verdict } from './judge.ts'
import { isPlain } from './madeFor.ts'
import type { Scarcity } from './scarcity.ts'
import { Verdicts } from './verdicts.ts'

/** How well a host suits a signal, with what speaks for and against it. */
export interface Candidate {
  readonly host: Host
  /** Smaller is better; comparable between candidates of one signal only. */
  readonly cost: number
  readonly for: readonly string[]
  readonly against: readonly string[]
  /** Why it is out of the question; undefined for a candidate. */
  readonly blocked?: Block
}

/** Every pin of the signal's board, and of the expanders on it, best first, blocked ones last. */
export function candidates(wiring: Wiring, use: SignalUse): Candidate[] {
  const verdicts = new Verdicts(wiring, use)
  return hostsFor(wiring, use)
    .map((host) => together(host, verdicts.of(host), () => judgeBus(wiring, use, host)))
    .sort((a, b) => Number(a.blocked !== undefined) - Number(b.blocked !== undefined) || a.cost - b.cost)
}

/** True when no pin at all takes a signal, and some refuse it for its level alone. */
export function isRefusedForLevel(wiring: Wiring, use: SignalUse): boolean {
  const verdicts = new Verdicts(wiring, use)
  let level = false
  for (const host of hostsFor(wiring, use)) {
    const verdict = verdicts.of(host)
    if (!('blocked' in verdict)) return false
    level ||= verdict.blocked.kind === 'level'
  }
  return level
}

/** Pins that could carry the signal by place: its own board's, and those of parts that hang on that board. */
export function hostsFor(wiring: Wiring, use: SignalUse): Host[] {
  const home = use.part.home
  const switched = isLoad(use.facts.needs)
  return [...wiring.hosts.values()].filter((host) => {
    if (switchesLoad(host.functions) !== switched) return false
    if (host.provider) return host.provider !== use.part && host.provider.home === home
    return host.board === home
  })
}

/**
 * What the judgement of a signal's pins depends on beside the pins: the same text for signals that ask the same, are
 * fed alike, go through the same and have no pin yet. Of parts that give pins themselves, each lacks its own.
 */
export function likenessOf(wiring: Wiring, use: SignalUse): string {
  const { part } = use
  const way = use.tail === use.end ? '' : throughResistor(wiring, use)
  if (placesOf(wiring).has(part) || use.hosts.length > 0 || way === undefined) return use.end
  const bus = use.facts.needs.startsWith('i2c.') ? part.mode?.i2c : undefined
  const pulledTo = bus?.pullUpTo && wiring.netOf(`${part.ref}.${bus.pullUpTo}`).sources[0]?.volts
  const volts = part.logicVolts ?? plannedVolts(wiring, use)
  const takes = isLoad(use.facts.needs) ? runsOf(part) : undefined
  return [
    askedOf(use.facts),
    textOf(levelsOf(use)),
    volts,
    part.home?.ref,
    bus?.pullUpOhms,
    bus?.pullUpTo && pulledTo,
    takes,
    isPlain(use),
    way,
  ].join(' ')
}

/**
 * A way that goes through one resistor and meets nothing else, with where the part's other pins lie, such as `220 GND`;
 * undefined for every other way.
 */
function throughResistor(wiring: Wiring, { part, end, tail }: SignalUse): string | undefined {
  const circuit = circuitOf(wiring)
  const [near, far] = [wiring.netOf(end), wiring.netOf(tail)]
  const [resistor, ...more] = circuit.on(far)
  if (resistor?.kind !== 'resistor' || more.length > 0 || far.ends.length > 1 || near.ends.length !== 2)
    return undefined
  if (!circuit.on(near).every((one) => one === resistor || one.part === part)) return undefined
  const places = part.part.pins.map(({ id }) => {
    const net = wiring.netOf(`${part.ref}.${id}`)
    const { ground, sources, wired } = net
    return net === near
      ? 'here'
      : ground
        ? 'GND'
        : sources.length > 0
          ? `${sources[0]?.volts} V`
          : wired
            ? net.index
            : 'open'
  })
  const isToBuy = entryOf(wiring.plan.parts, resistor.part.ref)?.buy === true
  const inside = circuit.on(near).map(({ kind, forward }) => `${kind} ${forward}`)
  return [resistor.part.part.id, resistor.ohms, isToBuy, ...inside, ...places].join(' ')
}

/** Kept facts as a text, made once. */
const textOf = memo((facts: object): string => JSON.stringify(facts))

/** Facts of a signal that its pins are judged by, as a text. */
const askedOf = memo((facts: Signal): string => {
  const { pin: _, text: __, open: ___, levels: ____, ...asked } = facts
  return JSON.stringify(asked)
})

/** Judges one host; `controller` names the bus controller that the search has settled on. */
export function judge(wiring: Wiring, use: SignalUse, host: Host, scarcity: Scarcity, controller?: string): Candidate {
  return together(host, judgePin(wiring, use, host, scarcity), () => judgeBus(wiring, use, host, controller))
}

/** What the pin itself and the bus that it would join make of a candidate. */
export function together(host: Host, pin: Verdict | Blocked, bus: () => Verdict): Candidate {
  if ('blocked' in pin) return { host, cost: Number.MAX_SAFE_INTEGER, for: [], against: [], ...pin }
  const line = bus()
  const good = [...line.for, ...pin.for]
  const bad = [...line.against, ...pin.against]
  if (good.length === 0 && bad.length === 0) good.push('free')
  return { host, cost: line.points + pin.points + 100, for: good, against: bad }
}
