import { memo } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'
import { bare } from './bare.ts'
import type { Host, Net, PartInstance } from './model.ts'
import { resistorLinks } from './tieUses.ts'

/** On-state resistance of a small MOSFET with its gate well driven, in ohms: of the order that AO3400A and AO3401A give. */
const ON_OHMS = 0.05

/**
 * The facts of a transistor as it is wired: in the lead of a supply it guards against one that is turned round.
 */
export function asGuard(owner: PartInstance, ways: Ways): Part {
  return guardsLead(owner, ways) ? guarding(owner.part) : owner.part
}

/**
 * Body diodes that lead the plus of a supply on, because the gate beside them lies on ground, straight or through a
 * resistor: the channel takes over and drops nothing. Grounds are those of boards and supplies and of the parts' own pins.
 */
export function bodyDiodes<N extends Net>(
  parts: readonly PartInstance[],
  netOf: (end: string) => N,
  hasHost: (net: Net) => boolean,
): { readonly part: PartInstance; readonly from: N; readonly to: N }[] {
  const beyond = resistorLinks(parts, netOf)
  const grounds = new Set<Net>(
    parts.flatMap(({ ref, part }) =>
      part.pins.flatMap(({ id, role }) => (role === 'ground' ? [netOf(`${ref}.${id}`)] : [])),
    ),
  )
  return parts.flatMap((part) => {
    const { ref } = part
    const { guards } = part.part
    if (guards?.on !== 'low') return []
    const [gate, from, to] = [guards.gate, ...guards.between].map((pin) => netOf(`${ref}.${pin}`)) as [N, N, N]
    const isLow = [gate, ...beyond(gate)].some((net) => net.ground || grounds.has(net))
    return isLow && !hasHost(gate) && from !== to ? [{ part, from, to }] : []
  })
}

/** What is known of the nets when the supplies have been placed. */
interface Ways {
  readonly netOf: (end: string) => Net
  readonly beyondResistors: (net: Net) => ReadonlySet<Net>
  readonly hostAt: (end: string) => Host | undefined
  /** Net from which a part leads a supply on to this one. */
  readonly cameFrom: ReadonlyMap<Net, Net>
  /** Nets on which the minus of a supply lies. */
  readonly minus: ReadonlySet<Net>
}

/**
 * A transistor whose body diode leads from a supply to what it feeds (in the lead to ground the other way), with its gate
 * held at the far lead: it conducts for good, and blocks a supply that is turned round.
 */
function guardsLead(
  { part: { guards }, ref }: PartInstance,
  { netOf, beyondResistors, hostAt, cameFrom, minus }: Ways,
): boolean {
  if (!guards) return false
  const [gate, from, to] = [guards.gate, ...guards.between].map((pin) => netOf(`${ref}.${pin}`)) as [Net, Net, Net]
  if (from === to || !from.wired || !to.wired || gate.ends.some((end) => hostAt(end))) return false
  return guards.on === 'low'
    ? cameFrom.get(to) === from
    : [gate, ...beyondResistors(gate)].some(({ sources }) => sources.length > 0) &&
        minus.has(from) &&
        !minus.has(to) &&
        from.ground &&
        to.ground
}

const guarding = memo((part: Part): Part => {
  const { guards } = part
  if (!guards) return part
  return {
    ...bare(part),
    inner: [{ kind: 'shunt', between: guards.between, amount: ON_OHMS, back: false }],
  }
})
