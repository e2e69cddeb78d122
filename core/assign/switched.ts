import { entryOf } from '../base/entryOf.ts'
import { isLoad, volts } from '../catalog/common.ts'
import { innerFact } from '../catalog/innerFact.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { runsOf } from '../circuit/loads.ts'
import { otherLeg } from '../circuit/reach.ts'
import { legsOf } from '../circuit/turned.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { BoardInstance, Host, Net, PartInstance, SignalUse, Source, Wiring } from '../wiring/model.ts'
import { bestSource, groundPost, sourcesOf } from '../wiring/supply.ts'
import { bearsOf } from './blocks.ts'
import { returnEnd } from './feeding.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'
import { isLoose as isFree } from './spares.ts'

/** A switch in the plus of a load: from the supply to the load, while its part is on. */
interface HighSide {
  readonly part: PartInstance
  readonly from: string
  readonly to: string
  /** Most volts and milliamperes that it switches. */
  readonly volts: number
  readonly milliamps: number
  /** Supply on which its first side lies already. */
  readonly on: Source | undefined
}

/**
 * Leads loads over the contacts of relays and the P-channel transistors that lie in the kit, where nothing is there that
 * switches them to ground: the plus of the load's supply to the switch, that to the load, and the load's other lead back.
 */
export function switchHighSide(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  const switches = [...freeContacts(wiring, wanted), ...freeHighSides(wiring, wanted)]
  if (switches.length === 0) return { wiring, decisions, refused: [] }
  const sinks = sinksBeside(wiring)
  for (const part of wiring.parts) {
    const use = wanted(part.ref) ? switchedOnce(wiring, part) : undefined
    const supply = part.supplies[0]
    const plus = supply?.pins[0]
    if (!use || !supply || plus === undefined || !isLoose(wiring, part, plus)) continue
    // What a transistor of the kit can do is left to it, the bigger load to the bigger one.
    const milliamps = runsOf(part) ?? 0
    const sink = sinks.findIndex((most) => most >= milliamps)
    if (sink >= 0) {
      sinks.splice(sink, 1)
      continue
    }
    const best = bestSource(wiring, part, supply)
    const suits = ({ on, volts, milliamps: bears }: HighSide): boolean => {
      const at = (on ?? best)?.volts
      if (at === undefined || at > volts || milliamps > bears) return false
      return on === undefined || (at >= supply.facts.least && at <= supply.facts.most)
    }
    // One that the maker has put on the right supply waits for just this.
    const found = switches.findIndex((one) => one.on !== undefined && suits(one))
    const at = found >= 0 ? found : switches.findIndex(suits)
    const source = switches[at]?.on ?? best
    const minus = source && (returnEnd(wiring, source.end) ?? groundPost(part.home))
    if (!source || minus === undefined) continue
    const [chosen] = at < 0 ? [] : switches.splice(at, 1)
    if (!chosen) continue
    if (!chosen.on)
      decisions.push(connect(chosen.from, source.end, `${source.volts} V for what ${chosen.part.ref} switches`))
    decisions.push(
      connect(plus, chosen.to, `gets its supply while ${chosen.part.ref} is on`),
      connect(use.end, minus, `back to its supply: ${chosen.part.ref} switches the other lead`),
    )
  }
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/**
 * Gives a buzzer, a laser or a bright lamp to a bare transistor, or to an output of an array, that lies in the kit and for
 * which no other load asks, plus on the supply that it is made for: its current is more than many pins are good for.
 */
export function switchByTransistors(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  const spare = [...spareTransistors(wiring, wanted), ...spareOutputs(wiring, wanted)]
  const taken = new Set<PartInstance>()
  for (const part of wiring.parts) {
    const use = wiring.signals.find(
      (one) => one.part === part && one.state === 'open' && one.facts.milliamps !== undefined,
    )
    const other = isBright(part) ? legsOf(part)?.minus : use && otherLeg({ owner: part, end: use.end })
    const leg = use?.facts.needs === 'digital-out' ? other : undefined
    if (use && part.home && isEasy(wiring, use, part.home) && !isBright(part)) continue
    if (!use || leg === undefined || !wanted(part.ref) || wiring.netOf(use.tail).wired || wiring.netOf(leg).wired)
      continue
    const source = nearestSource(wiring, part)
    const series =
      isBright(part) && use.tail === use.end && source ? seriesFor(wiring, part, source.volts, taken) : undefined
    if (isBright(part) && use.tail === use.end && !series) continue
    const fits = spare.findIndex((host) => ratingOf(host) >= (use.facts.milliamps ?? 0))
    const [sink] = source && fits >= 0 ? spare.splice(fits, 1) : []
    if (!source || !sink) continue
    const [near, far] = series?.part.pins.map(({ id }) => `${series.ref}.${id}`) ?? []
    if (series) taken.add(series)
    if (near !== undefined) decisions.push(connect(use.end, near, 'limits its current'))
    decisions.push(
      connect(far ?? use.tail, source.end, `${source.volts} V while ${sink.ref} conducts`),
      connect(
        leg,
        sink.end,
        `${isBright(part) ? 'more than pins give' : `${use.facts.milliamps} mA`}, which ${sink.ref} takes off the pin`,
      ),
    )
  }
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/**
 * Moves the gate of a switch in the plus that lies on more than the board gives by a bare transistor of the kit for which
 * nothing else asks: no pin lifts it far enough to let go, and what holds it at its supply would come onto the pin.
 */
export function moveByTransistors(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  const { channels } = circuitOf(wiring)
  const spare = [...spareTransistors(wiring, wanted)]
  for (const { part, facts, inputs } of channels) {
    const [end] = inputs
    const use = end === undefined ? undefined : wiring.signal(end)
    if (part.part.build !== 'component' || facts.supply === undefined || !use || !wanted(part.ref)) continue
    const at = wiring.netOf(`${part.ref}.${facts.supply}`).sources[0]?.volts
    const least = volts(levelsOf(use).vih, at)
    const gate = wiring.netOf(use.end)
    const isMoved = use.hosts.length > 0 || channels.some(({ output }) => wiring.netOf(output) === gate)
    const isBeyond = least !== undefined && least > (part.home?.board.logicVolts ?? Number.POSITIVE_INFINITY)
    if (isMoved || !isBeyond || use.state === 'tied' || use.state === 'unused') continue
    const sink = spare.shift()
    if (sink) decisions.push(connect(use.end, sink.end, `${sink.ref} pulls it down from ${at} V, which no pin bears`))
  }
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/** Milliamperes that no pin of a board gives. */
const MORE_THAN_PINS = 40

/** A lamp that is made for more than pins give: infrared, whose reach is what it is there for. */
const isBright = ({ part, options }: PartInstance): boolean =>
  part.inner.some(
    (inner) => inner.kind === 'diode' && (innerFact(part, options, inner.mostMilliamps) ?? 0) > MORE_THAN_PINS,
  )

/** The loose resistor of the kit with which a lamp gets most of what it bears, and a fifth of that at least. */
function seriesFor(
  wiring: Wiring,
  lamp: PartInstance,
  volts: number,
  taken: ReadonlySet<PartInstance>,
): PartInstance | undefined {
  const diode = lamp.part.inner.find(({ kind }) => kind === 'diode')
  const most = diode && innerFact(lamp.part, lamp.options, diode.mostMilliamps)
  if (!diode || most === undefined) return undefined
  const drop = innerFact(lamp.part, lamp.options, diode.forward) ?? 0
  const through = ({ options }: PartInstance): number => {
    const ohms = entryOf(options, 'ohms')
    return typeof ohms === 'number' ? ((volts - drop) / ohms) * 1000 : 0
  }
  return wiring.parts
    .filter((one) => one.part.helper === 'resistor' && !taken.has(one) && isFree(wiring, one))
    .filter((one) => through(one) <= most && through(one) >= most / 5)
    .sort((a, b) => through(b) - through(a))[0]
}

/** The pins of a board give the current of a signal without being asked for more than is recommended. */
const isEasy = (wiring: Wiring, { facts }: SignalUse, { ref }: BoardInstance): boolean =>
  [...wiring.hosts.values()].some(
    ({ board, functions, current }) =>
      board?.ref === ref &&
      functions.has('digital-out') &&
      current?.recommended !== undefined &&
      current.recommended >= (facts.milliamps ?? Number.POSITIVE_INFINITY),
  )

/** Bare transistors that pull to ground and that no load asks for, but for so many loads that find a place elsewhere. */
export const spareTransistors = (wiring: Wiring, wanted: (ref: string) => boolean, elsewhere = 0): readonly Host[] =>
  sparedByLoads(
    wiring,
    elsewhere,
    freeSinkHosts(wiring).filter(
      ({ provider }) =>
        provider?.part.build === 'component' && provider.part.channels.length === 1 && wanted(provider.ref),
    ),
  )

/** Outputs of arrays that no load asks for, in their own order. */
const spareOutputs = (wiring: Wiring, wanted: (ref: string) => boolean): readonly Host[] =>
  sparedByLoads(
    wiring,
    0,
    freeSinkHosts(wiring).filter(
      ({ provider }) => provider && provider.part.channels.length > 1 && wanted(provider.ref),
    ),
  )

/**
 * What is left of some transistors, the weaker ones, when each load of the plan that has a supply has got one that bears
 * it; so many of them, the biggest, find a place elsewhere.
 */
function sparedByLoads(wiring: Wiring, elsewhere: number, transistors: readonly Host[]): readonly Host[] {
  if (transistors.length === 0) return transistors
  const left = [...transistors].sort((a, b) => ratingOf(b) - ratingOf(a))
  const loads = wiring.parts
    .filter((part) => part.supplies.every((use) => use.source || bestSource(wiring, part, use)))
    .flatMap((part) => Array.from({ length: sinksAsked(wiring, part) }, () => runsOf(part) ?? 0))
  for (const milliamps of loads.sort((a, b) => b - a).slice(elsewhere)) {
    if (left[0] && ratingOf(left[0]) >= milliamps) left.shift()
  }
  return transistors.filter((host) => left.includes(host))
}

export const ratingOf = (host: Host): number => bearsOf(host) ?? Number.POSITIVE_INFINITY

/** Outputs that pull to ground for which a part waits: one a lead, or one where no bridge is there for what wants one. */
function sinksAsked(wiring: Wiring, part: PartInstance): number {
  const open = wiring.signals.filter((use) => use.part === part && use.state === 'open' && isLoad(use.facts.needs))
  const sinks = open.filter(({ facts }) => facts.needs === 'sink').length
  if (open.length === 0 || sinks > 0) return sinks
  const hasBridge = [...wiring.hosts.values()].some(({ functions }) => functions.has('bridge'))
  return !hasBridge && part.part.modes.some(({ signals }) => signals.some(({ needs }) => needs === 'sink')) ? 1 : 0
}

/** The source of a part's board nearest to the volts that the part is made for, and not above; 5 V where nothing says. */
function nearestSource(wiring: Wiring, part: PartInstance): Source | undefined {
  const made = chosenFact(part, 'volts') ?? 5
  return sourcesOf(wiring)
    .filter(({ ref, volts }) => ref === part.home?.ref && volts <= made * 1.1)
    .sort((a, b) => b.volts - a.volts)[0]
}

/** The lead of a load that a driver would switch to ground, where just one is and nothing is wired to it. */
function switchedOnce(wiring: Wiring, part: PartInstance): SignalUse | undefined {
  if (part.part.category !== 'load' && part.part.category !== 'light') return undefined
  const uses = wiring.signals.filter((use) => use.part === part && isLoad(use.facts.needs))
  const [use] = uses
  return uses.length === 1 && use?.facts.needs === 'sink' && use.hosts.length === 0 && isLoose(wiring, part, use.end)
    ? use
    : undefined
}

/** Nothing is joined with a leg of a load but what lies across the load: the diode that came with it. */
function isLoose(wiring: Wiring, part: PartInstance, end: string): boolean {
  const own = new Set(part.part.pins.map(({ id }) => wiring.netOf(`${part.ref}.${id}`)))
  return wiring.netOf(end).ends.every((one) => {
    const owner = wiring.terminal(one)?.owner
    if (owner === part) return true
    return (
      owner?.kind === 'part' &&
      owner.part.build === 'component' &&
      owner.part.pins.every(({ id }) => own.has(wiring.netOf(`${owner.ref}.${id}`)))
    )
  })
}

/** Contacts that close with the signal of their part, of which neither side is wired, or only the one on a supply. */
export const freeContacts = (wiring: Wiring, wanted: (ref: string) => boolean): HighSide[] =>
  circuitOf(wiring).elements.flatMap(({ part, moved, a, b, netA, netB }) =>
    moved?.whileActive === true && wanted(part.ref) && !netB.wired && isFreeOrFed(netA)
      ? [
          {
            part,
            from: a,
            to: b,
            volts: Number.POSITIVE_INFINITY,
            milliamps: Number.POSITIVE_INFINITY,
            on: netA.sources[0],
          },
        ]
      : [],
  )

const isFreeOrFed = ({ wired, ground, sources }: Net): boolean => !wired || (!ground && sources.length > 0)

/** Bare P-channel transistors, up to the voltage of the board: above it no pin lifts the gate far enough to let go. */
export const freeHighSides = (wiring: Wiring, wanted: (ref: string) => boolean): HighSide[] =>
  circuitOf(wiring).channels.flatMap(({ part, output, facts }) => {
    const host = wiring.hosts.get(output)
    const from = `${part.ref}.${facts.supply}`
    if (part.part.build !== 'component' || facts.supply === undefined || !host?.functions.has('source')) return []
    const on = wiring.netOf(from)
    if (!wanted(part.ref) || wiring.netOf(output).wired || !isFreeOrFed(on)) return []
    const volts = part.home?.board.logicVolts ?? 0
    return [{ part, from, to: output, volts, milliamps: bearsOf(host) ?? Number.POSITIVE_INFINITY, on: on.sources[0] }]
  })

/** Outputs of the kit that pull a load to ground and carry none yet. */
const freeSinkHosts = (wiring: Wiring): Host[] =>
  [...wiring.hosts.values()].filter(({ functions, end }) => functions.has('sink') && !wiring.netOf(end).wired)

/** What each of them bears in milliamperes, weakest first, less those that parts of several coils ask for. */
function sinksBeside(wiring: Wiring): number[] {
  const all = freeSinkHosts(wiring)
    .map((host) => bearsOf(host) ?? Number.POSITIVE_INFINITY)
    .sort((a, b) => a - b)
  for (const part of wiring.parts) {
    const asked = sinksAsked(wiring, part)
    for (let coil = 0; asked > 1 && coil < asked; coil += 1) {
      const at = all.findIndex((most) => most >= (runsOf(part) ?? 0))
      if (at >= 0) all.splice(at, 1)
    }
  }
  return all
}
