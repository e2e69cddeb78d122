import { assign } from '../assign/assign.ts'
import { detach } from '../assign/rewire.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import { findingKey } from '../plan/findingKey.ts'
import type { Finding } from '../rules/finding.ts'
import { check } from '../rules/index.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

/** Few wires moved so that faults of placement go away. */
export interface Rearrangement {
  readonly edits: readonly Edit[]
  readonly moved: readonly { readonly end: string; readonly from: string; readonly to: string }[]
  /** Messages of the faults that moving signals does not mend. */
  readonly left: readonly string[]
}

interface Try {
  readonly edits: readonly Edit[]
  readonly wiring: Wiring
  readonly faults: ReadonlyMap<string, string>
}

/**
 * Moves signals that stand in a fault to other pins, as few as can be: all of them are taken off and placed anew, which
 * tells what can be mended at all; then each stays where it was for which that still comes out as well. Of what is left
 * none can be spared. Locked wires, and signals in no fault, do not move. Undefined when nothing is mended by moving.
 */
export function rearrange(wiring: Wiring): Rearrangement | undefined {
  const before = faultsOf(wiring)
  if (before.size === 0) return undefined
  const places = new Set(check(wiring).flatMap((one) => (isTrouble(one) ? one.at : [])))
  const involved = wiring.signals.filter(
    (use) =>
      use.hosts.length > 0 &&
      (places.has(use.end) || places.has(use.part.ref) || use.hosts.some(({ host }) => places.has(host.end))) &&
      detach(wiring, use) !== undefined,
  )
  let set = involved
  let best = tryOn(wiring, set, before)
  if (!best || best.faults.size >= before.size) return undefined
  // Those whose part is named and not their pin are the first to be left alone.
  for (const use of [...involved].sort((a, b) => Number(places.has(a.end)) - Number(places.has(b.end)))) {
    const fewer = set.filter((one) => one !== use)
    const found = fewer.length > 0 ? tryOn(wiring, fewer, before) : undefined
    if (!found || found.faults.size > best.faults.size) continue
    set = fewer
    best = found
  }
  const moved = set.flatMap((use) => {
    const [from, to] = [use.hosts[0]!.host.end, best!.wiring.signal(use.end)?.hosts[0]?.host.end]
    return to !== undefined && to !== from ? [{ end: use.end, from, to }] : []
  })
  return { edits: best.edits, moved, left: [...best.faults.values()] }
}

/** Takes signals off and places them anew; undefined when one finds no pin or a fault is new. */
function tryOn(wiring: Wiring, uses: readonly SignalUse[], before: ReadonlyMap<string, string>): Try | undefined {
  const off = new Map<string, Edit>()
  for (const use of uses) for (const edit of detach(wiring, use) ?? []) off.set(JSON.stringify(edit), edit)
  const bare = resolve(applyEdits(wiring.plan, [...off.values()]), wiring.catalog)
  const result = assign(bare, { only: new Set(uses.map((use) => use.end)) })
  if (result.unplaced.length > 0) return undefined
  const edits = withoutRoundTrips([...off.values(), ...result.edits])
  const after = resolve(applyEdits(wiring.plan, edits), wiring.catalog)
  const faults = faultsOf(after)
  return [...faults.keys()].every((key) => before.has(key)) ? { edits, wiring: after, faults } : undefined
}

/** A wire that is taken off and comes back as it was is left alone. */
function withoutRoundTrips(edits: readonly Edit[]): Edit[] {
  const ends = (edit: Edit): string | undefined =>
    edit.do === 'connect' || edit.do === 'disconnect' ? [edit.from, edit.to].sort().join(' ') : undefined
  const off = new Set(edits.flatMap((edit) => (edit.do === 'disconnect' ? [ends(edit)] : [])))
  const back = new Set(edits.flatMap((edit) => (edit.do === 'connect' && off.has(ends(edit)) ? [ends(edit)] : [])))
  return edits.filter((edit) => ends(edit) === undefined || !back.has(ends(edit)))
}

/** Faults, and pins that two signals share although they can. */
const isTrouble = (one: Finding): boolean => one.severity === 'fault' || one.rule === 'pin-shared'

function faultsOf(wiring: Wiring): Map<string, string> {
  return new Map(
    check(wiring)
      .filter((one) => isTrouble(one) && one.accepted === undefined)
      .map((one) => [findingKey(one), one.message]),
  )
}
