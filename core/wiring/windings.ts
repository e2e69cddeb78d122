import type { Catalog } from '../catalog/catalog.ts'
import type { Companion } from '../catalog/partSchema.ts'
import type { Host, Net, PartInstance, SignalUse, Wiring } from './model.ts'

/** A winding that a driver output switches, and whether a diode takes its kick. */
export interface SwitchedLoad {
  readonly use: SignalUse
  readonly host: Host
  readonly clamped: boolean
  /** End of the driver's common diode pin, where it has one. */
  readonly clamp: string | undefined
  /** An end of the load that lies on its supply. */
  readonly supply: string | undefined
}

/** A diode that a winding asks for, wanted only where a bare transistor switches it. */
export const takesKick = (catalog: Catalog, { part }: Companion): boolean => catalog.parts.get(part)?.helper === 'diode'

/** Windings between a supply and an output that only pulls to ground. Bridges and modules carry their own diodes. */
export function switchedLoads(wiring: Wiring): SwitchedLoad[] {
  const found: SwitchedLoad[] = []
  for (const use of wiring.signals) {
    const winding = use.part.part.inner.find((one) => one.kind === 'winding' && one.between.includes(use.facts.pin))
    // A voice coil of some 0.3 mH keeps two millionths of a joule at 0.1 A (L · I² / 2): that harms no transistor.
    if (!winding || use.facts.behindResistor) continue
    for (const { host } of use.hosts) {
      const { provider } = host
      if (!provider || !host.functions.has('sink') || provider.part.build === 'module') continue
      const pin = host.pin
      const facts = provider.part.provides.find((one) => one.pins.includes(pin))
      const far = winding.between.find((one) => one !== use.facts.pin)
      const supply = `${use.part.ref}.${far}`
      const clamp = facts?.clamp === undefined ? undefined : `${provider.ref}.${facts.clamp}`
      found.push({
        use,
        host,
        clamp,
        supply: wiring.netOf(supply).sources.length > 0 ? supply : undefined,
        clamped:
          (clamp !== undefined && leadsBack(wiring.netOf(clamp), wiring.netOf(supply))) ||
          hasHighSide(wiring, use.end) ||
          diodeAcross(wiring, use.end, supply) !== undefined,
      })
    }
  }
  return [...found, ...highSides(wiring)]
}

/** The diodes lead to the supply of the load, or to a higher one: to a lower one they would conduct all the time. */
const leadsBack = (clamp: Net, supply: Net): boolean =>
  clamp === supply || (clamp.sources[0]?.volts ?? 0) >= (supply.sources[0]?.volts ?? Number.POSITIVE_INFINITY)

/** What the diode of a Darlington array takes at some milliamperes, in volts; at 350 mA it is 1.7 (ULN2003A). */
export const DIODE_VOLTS = 1

/** Where the diodes of an output lead, and the volts there: of a bridge to what it takes its current from. */
export function diodesOf(
  wiring: Pick<Wiring, 'netOf'>,
  { ref, part }: PartInstance,
  output: string,
): { readonly end: string; readonly volts: number } | undefined {
  const given = part.provides.find(({ pins }) => pins.includes(output))
  const channel = part.channels.find((one) => one.output === output)
  const meet = given?.does.includes('bridge') ? channel?.supply : given?.clamp
  if (meet === undefined) return undefined
  const net = wiring.netOf(`${ref}.${meet}`)
  const volts = net.ground ? 0 : net.sources[0]?.volts
  return volts === undefined ? undefined : { end: `${ref}.${meet}`, volts }
}

/** Windings between ground and an output of a bare transistor that brings the supply. */
function highSides(wiring: Wiring): SwitchedLoad[] {
  return [...wiring.hosts.values()].flatMap((host): SwitchedLoad[] => {
    const { provider, end } = host
    if (!provider || !host.functions.has('source') || host.functions.has('sink') || provider.part.build !== 'component')
      return []
    const net = wiring.netOf(end)
    return wiring.parts.flatMap(({ ref, part }) =>
      part.inner.flatMap((inner): SwitchedLoad[] => {
        const [one, two] = inner.between.map((pin) => `${ref}.${pin}`) as [string, string]
        if (inner.kind !== 'winding' || !wiring.netOf(end).wired) return []
        const [near, far] = wiring.netOf(one) === net ? [one, two] : [two, one]
        const use = wiring.signal(far) ?? wiring.signal(near)
        if (!use || wiring.netOf(near) !== net || !wiring.netOf(far).ground) return []
        const clamped = diodeAcross(wiring, far, near) !== undefined
        return [{ use, host, clamp: undefined, supply: near, clamped }]
      }),
    )
  })
}

/** A transistor between a supply and the same lead, as in a bridge: the diode in its body takes the kick. */
function hasHighSide(wiring: Wiring, end: string): boolean {
  const net = wiring.netOf(end)
  return wiring.parts.some(({ ref, part }) =>
    part.channels.some(
      ({ output, supply }) =>
        supply !== undefined && part.build === 'component' && wiring.netOf(`${ref}.${output}`) === net,
    ),
  )
}

/** The first of the diodes that lead, one after the other and through resistors, from one end's net to another's. */
export function diodeAcross(wiring: Wiring, from: string, to: string): PartInstance | undefined {
  const target = wiring.netOf(to)
  const lead = (net: Net, first: PartInstance | undefined, passed: readonly Net[]): PartInstance | undefined => {
    for (const part of wiring.parts)
      for (const { kind, between, mostMilliamps } of part.part.inner) {
        const isDiode = kind === 'diode' && mostMilliamps === undefined
        if (!isDiode && !(kind === 'resistance' && part.part.build === 'component')) continue
        const [a, k] = between.map((pin) => wiring.netOf(`${part.ref}.${pin}`)) as [Net, Net]
        const next = a === net ? k : !isDiode && k === net ? a : undefined
        if (next === undefined || passed.includes(next)) continue
        const diode = first ?? (isDiode ? part : undefined)
        // Before the fuse or the switch of the load's own lead it takes the kick as well.
        const isSource = next.sources[0] !== undefined && next.sources[0].end === target.sources[0]?.end
        if (diode && (next === target || isSource)) return diode
        const found = isRail(next) ? undefined : lead(next, diode, [...passed, next])
        if (found) return found
      }
    return undefined
  }
  const net = wiring.netOf(from)
  return lead(net, undefined, [net])
}

const isRail = (net: Net): boolean => net.ground || net.sources.length > 0
