import type { Catalog } from '../catalog/catalog.ts'
import type { Companion } from '../catalog/partSchema.ts'
import type { Host, PartInstance, SignalUse, Wiring } from './model.ts'

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
    if (!winding) continue
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
          (clamp !== undefined && wiring.netOf(clamp) === wiring.netOf(supply)) ||
          hasHighSide(wiring, use.end) ||
          diodeAcross(wiring, use.end, supply) !== undefined,
      })
    }
  }
  return found
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

/** A diode that leads from one end's net to another's. */
export function diodeAcross(wiring: Wiring, from: string, to: string): PartInstance | undefined {
  const [a, k] = [wiring.netOf(from), wiring.netOf(to)]
  return wiring.parts.find((part) =>
    part.part.inner.some(
      (inner) =>
        inner.kind === 'diode' &&
        inner.mostMilliamps === undefined &&
        wiring.netOf(`${part.ref}.${inner.between[0]}`) === a &&
        wiring.netOf(`${part.ref}.${inner.between[1]}`) === k,
    ),
  )
}
