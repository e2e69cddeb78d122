import { memo, memoIn } from '../base/memo.ts'
import type { Companion, Helper } from '../catalog/partSchema.ts'
import { holds } from '../catalog/when.ts'
import type { Net, PartInstance, Wiring } from './model.ts'

/** A small part that another one asks for, and the part of the plan that stands in for it. */
export interface CompanionUse {
  readonly facts: Companion
  readonly present: PartInstance | undefined
}

type Matched = ReadonlyMap<PartInstance, ReadonlyMap<Companion, PartInstance>>

/**
 * Companions of a part in its mode, of one kind or of all, each with the part of the plan that plays it; one part plays
 * for one owner.
 */
export function companionsOf(wiring: Wiring, part: PartInstance, kind?: Helper): readonly CompanionUse[] {
  const uses: CompanionUse[] = []
  for (const facts of wishesOf(wiring, part)) {
    if (kind !== undefined && wiring.catalog.parts.get(facts.part)?.helper !== kind) continue
    uses.push({ facts, present: matchKind(wiring, facts.part).get(part)?.get(facts) })
  }
  return uses
}

const wishesOf = (wiring: Wiring, owner: PartInstance): readonly Companion[] =>
  owner.part.companions.filter(
    (facts) => holds(facts.when, owner.options) && inMode(owner, facts) && !isFilled(wiring, owner, facts),
  )

/** The capacitor on a line that it fills stands where its resistor would. */
const isFilled = ({ signal }: Wiring, { ref }: PartInstance, { across }: Companion): boolean =>
  across?.some((pin) => signal(`${ref}.${pin}`)?.fills) ?? false

/** The part that a companion belongs to; undefined for one that stands alone. */
export function ownerOf(wiring: Wiring, companion: PartInstance): PartInstance | undefined {
  return wiring.parts.find((part) => companionsOf(wiring, part).some((one) => one.present === companion))
}

/** Wishes are served in order of how closely a part is wired to their owner: by a wire of its own, then by net. */
const matchKind = memoIn((wiring: Wiring, kind: string): Matched => {
  const rails = wiring.nets.filter((net) => net.ground || net.sources.length > 0)
  const onNet = new Map<Net, Set<PartInstance>>()
  const legs = new Map<PartInstance, readonly Net[]>()
  for (const part of wiring.parts) {
    if (part.part.id !== kind) continue
    const nets = part.part.pins.map((pin) => wiring.netOf(`${part.ref}.${pin.id}`))
    legs.set(part, nets)
    for (const net of nets) if (net.wired) onNet.set(net, (onNet.get(net) ?? new Set()).add(part))
  }
  const pairs = wiring.parts
    .flatMap((owner) =>
      wishesOf(wiring, owner).flatMap((facts) => {
        if (facts.part !== kind) return []
        const wanted = wantedNets(wiring, rails, owner, facts)
        // What stands on all of the wanted groups stands on the one with the fewest.
        const near = wanted.map((nets) => new Set(nets.flatMap((net) => [...(onNet.get(net) ?? [])])))
        const fewest = near.sort((a, b) => a.size - b.size)[0] ?? []
        return [...fewest].flatMap((part) => {
          if (part === owner) return []
          const close = closeness(wiring, owner, facts, part, wanted, legs.get(part) as readonly Net[])
          return close > 0 ? [{ owner, facts, part, closeness: close }] : []
        })
      }),
    )
    .sort((a, b) => b.closeness - a.closeness)
  const taken = new Set<PartInstance>()
  const byOwner = new Map<PartInstance, Map<Companion, PartInstance>>()
  for (const { owner, facts, part } of pairs) {
    const mine = byOwner.get(owner) ?? new Map<Companion, PartInstance>()
    if (mine.has(facts) || taken.has(part)) continue
    byOwner.set(owner, mine.set(facts, part))
    taken.add(part)
  }
  return byOwner
})

const inMode = (owner: PartInstance, facts: Companion): boolean =>
  facts.modes === undefined || (owner.mode !== undefined && facts.modes.includes(owner.mode.id))

/** Nets on which a companion's legs must stand, in groups of which each needs one. */
function wantedNets(
  wiring: Wiring,
  rails: readonly Net[],
  owner: PartInstance,
  facts: Companion,
): readonly (readonly Net[])[] {
  if (facts.across) return facts.across.map((pin) => netsFor(wiring, rails, owner, pin))
  return facts.series === undefined ? [signalNets(wiring, owner)] : [[wiring.netOf(`${owner.ref}.${facts.series}`)]]
}

/** 0: does not stand there; 1: on the right nets; 2: wired to the owner's own pin. */
function closeness(
  wiring: Wiring,
  owner: PartInstance,
  facts: Companion,
  part: PartInstance,
  wanted: readonly (readonly Net[])[],
  legs: readonly Net[],
): 0 | 1 | 2 {
  if (!wanted.every((nets) => legs.some((leg) => leg.wired && nets.includes(leg)))) return 0
  if (facts.series !== undefined && legs.every((leg) => wanted[0]?.includes(leg))) return 0
  return neighbours(wiring).get(owner.ref)?.has(part.ref) ? 2 : 1
}

/** Refs that have a wire of their own to each ref. */
const neighbours = memo((wiring: Wiring): ReadonlyMap<string, ReadonlySet<string>> => {
  const known = new Map<string, Set<string>>()
  for (const [a, b] of wiring.plan.wires) {
    const [from, to] = [a.slice(0, a.indexOf('.')), b.slice(0, b.indexOf('.'))]
    known.set(from, (known.get(from) ?? new Set()).add(to))
    known.set(to, (known.get(to) ?? new Set()).add(from))
  }
  return known
})

function netsFor(wiring: Wiring, rails: readonly Net[], owner: PartInstance, pin: string): readonly Net[] {
  if (pin === 'ground') return rails.filter((net) => net.ground)
  if (pin !== 'supply') return [wiring.netOf(`${owner.ref}.${pin}`)]
  const own = owner.supplies.flatMap((use) => use.pins).map(wiring.netOf)
  if (own.length > 0) return own
  const volts = owner.home?.board.logicVolts
  return rails.filter((net) => net.sources.some((source) => source.volts === volts))
}

const signalNets = (wiring: Wiring, owner: PartInstance): Net[] =>
  owner.part.pins.filter((pin) => pin.role === 'signal').map((pin) => wiring.netOf(`${owner.ref}.${pin.id}`))
