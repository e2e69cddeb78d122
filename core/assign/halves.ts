import type { Companion } from '../catalog/partSchema.ts'
import { circuitOf } from '../circuit/circuit.ts'
import type { Net, PartInstance, Wiring } from '../wiring/model.ts'
import { switchedPoles } from '../wiring/turnedLegs.ts'
import { candidates } from './candidates.ts'

/** A part of two legs of which the maker has wired one, and where its other leg goes. */
export interface Half {
  readonly ref: string
  readonly open: string
  readonly to: string
}

/**
 * A part of two legs that the maker has begun to wire, as a companion of another one: its wired leg lies at the pin that
 * is to carry the companion's signal, or on one of the two nets across which the companion belongs; then the other leg is
 * what is missing. `isMeant` says whether kind and value do.
 */
export function halfFor(
  wiring: Wiring,
  owner: PartInstance,
  { series, across }: Companion,
  isMeant: (part: PartInstance) => boolean,
): Half | undefined {
  const unused = new Set(wiring.plan.unused)
  for (const part of wiring.parts) {
    const [a, b, ...more] = part.part.pins.map(({ id }) => `${part.ref}.${id}`)
    if (!a || !b || more.length > 0 || part.part.polarised || !isMeant(part)) continue
    const [netA, netB] = [wiring.netOf(a), wiring.netOf(b)]
    if (netA.wired === netB.wired) continue
    const [open, near] = netA.wired ? [b, netA] : [a, netB]
    if (unused.has(open)) continue
    const to = series !== undefined ? seriesEnd(wiring, owner, series, near) : acrossEnd(wiring, owner, across, near)
    if (to !== undefined) return { ref: part.ref, open, to }
  }
  return undefined
}

/**
 * The pin of a companion in series, where the wired leg lies at a pin of a board that may carry its signal. That of a lamp
 * may as well lie on ground or on a supply: it does at either leg.
 */
function seriesEnd(wiring: Wiring, owner: PartInstance, series: string, near: Net): string | undefined {
  const end = `${owner.ref}.${series}`
  if (wiring.netOf(end).wired) return undefined
  const poles = switchedPoles(owner.part)
  if (poles && (near.ground || near.sources.length > 0)) {
    const minus = `${owner.ref}.${poles.other}`
    return wiring.netOf(minus).wired ? undefined : near.ground ? minus : end
  }
  const use = wiring.signal(end)
  if (!use) return isFedBy(owner, end, near) ? end : undefined
  const fits = candidates(wiring, use).some(
    ({ host, blocked }) => blocked === undefined && wiring.netOf(host.end) === near,
  )
  return fits ? end : undefined
}

/** A pin that is fed through the companion, where the wired leg lies on a supply that suits it. */
const isFedBy = (owner: PartInstance, end: string, near: Net): boolean =>
  owner.supplies.some(({ pins, source, facts }) => {
    const isOwn = pins.includes(end)
    const isTied = owner.part.ties.some(({ pin, to }) => `${owner.ref}.${pin}` === end && to === 'supply')
    return near.sources.some(({ volts }) =>
      isOwn ? volts >= facts.least && volts <= facts.most : isTied && volts === (source?.volts ?? facts.usual),
    )
  })

/** The other one of two ends across which a companion belongs, where its wired leg lies on the first. */
function acrossEnd(wiring: Wiring, owner: PartInstance, across: Companion['across'], near: Net): string | undefined {
  if (!across) return undefined
  const own = (pin: string): string | undefined => {
    if (pin !== 'ground' && pin !== 'supply') return `${owner.ref}.${pin}`
    const [use] = owner.supplies
    return pin === 'ground' ? use?.grounds[0] : use?.pins[0]
  }
  const isOn = (pin: string): boolean => {
    if (pin === 'ground') return near.ground
    if (pin !== 'supply') return near === wiring.netOf(`${owner.ref}.${pin}`)
    const volts = owner.logicVolts ?? owner.home?.board.logicVolts
    return near.sources.some((source) => source.volts === volts) && !near.ground
  }
  const at = across.findIndex(isOn)
  const other = at < 0 ? undefined : own(across[1 - at] as string)
  return other !== undefined && wiring.netOf(other) !== near ? other : undefined
}

/** The open legs of the resistors that are free to be wired, of which the other leg lies on such a net. */
export function openFeet(
  wiring: Wiring,
  isRail: (net: Net) => boolean,
  isMeant: (ohms: number) => boolean = () => true,
): string[] {
  const unused = new Set(wiring.plan.unused)
  return circuitOf(wiring).elements.flatMap(({ kind, part, a, b, netA, netB, ohms = 0 }) => {
    if (kind !== 'resistor' || part.part.category !== 'passive' || !isMeant(ohms)) return []
    const open = !netA.wired && isRail(netB) ? a : !netB.wired && isRail(netA) ? b : undefined
    return open === undefined || unused.has(open) ? [] : [open]
  })
}
