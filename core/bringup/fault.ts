import { applyEdits, type Edit, EditError } from '../plan/edit.ts'
import type { PlanWire } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

/**
 * Kinds of mistakes of a build, with how often each happens where it can be at one place; at n places √n times as often: rough
 * shares of practice, stated in docs/bring-up.md.
 */
export const faultKinds = {
  missing: { weight: 3, words: 'wire missing or loose' },
  cold: { weight: 1, words: 'cold joint or tired contact' },
  exchanged: { weight: 3, words: 'two wires exchanged' },
  'row-off': { weight: 2.5, words: 'wire a post or a row off' },
  turned: { weight: 3, words: 'part turned round' },
  supply: { weight: 2, words: 'on the wrong supply' },
  strap: { weight: 2, words: 'address strap set otherwise' },
  decade: { weight: 1, words: 'resistor of another decade' },
  rail: { weight: 2.5, words: 'rail not fed or not bridged' },
  chip: { weight: 2, words: 'chip, row of legs or plug the other way round' },
  counted: { weight: 1.5, words: 'counted from the wrong end of a header' },
  'dead-pin': { weight: 0.7, words: 'dead pin' },
} as const
export type FaultKind = keyof typeof faultKinds

/** A mistake of a build, as a change of the plan that describes what was built instead. */
export interface Fault {
  readonly id: string
  readonly kind: FaultKind
  readonly words: string
  readonly edits: readonly Edit[]
  /** What more is so for currents and signals, where a meter that touches the metal hears nothing of it. */
  readonly live?: readonly Edit[]
  /** What it shows at measurements that only it answers to. */
  readonly shows?: Readonly<Record<string, string>>
  /** Ends and refs that it is about. */
  readonly at: readonly string[]
}

/** A build as it is: its metal, what its currents and signals follow, and what it shows besides. */
export interface Build {
  readonly metal: Wiring
  readonly live: Wiring
  readonly shows: Readonly<Record<string, string>>
}

/** A build as it was planned. */
export const soundBuild = (wiring: Wiring): Build => ({ metal: wiring, live: wiring, shows: {} })

/** The build that has these faults; undefined where two of them cannot be at once. */
export function buildWith(wiring: Wiring, faults: readonly Fault[]): Build | undefined {
  const edits = faults.flatMap((one) => one.edits)
  const live = faults.flatMap((one) => one.live ?? [])
  try {
    const metal = edits.length === 0 ? wiring : resolve(applyEdits(wiring.plan, edits), wiring.catalog)
    return {
      metal,
      live: live.length === 0 ? metal : resolve(applyEdits(metal.plan, live), wiring.catalog),
      shows: Object.assign({}, ...faults.map(({ shows }) => shows ?? {})) as Record<string, string>,
    }
  } catch (error) {
    // Two faults of one wire: the second finds it changed.
    if (error instanceof EditError) return undefined
    throw error
  }
}

export const cut = ([from, to]: PlanWire): Edit => ({ do: 'disconnect', from, to })
export const lay = (from: string, to: string): Edit => ({ do: 'connect', from, to })
export const isWired = (wiring: Wiring, a: string, b: string): boolean =>
  wiring.plan.wires.some(([from, to]) => (from === a && to === b) || (from === b && to === a))
