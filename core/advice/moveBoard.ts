import { assign } from '../assign/assign.ts'
import type { Refusal } from '../assign/feedAndTie.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { resolve } from '../wiring/resolve.ts'

/** Wires of a plan before and after: what a maker at the workbench does with each. */
export interface Replug {
  readonly stay: readonly (readonly [string, string])[]
  readonly move: readonly { readonly end: string; readonly from: string; readonly to: string }[]
  readonly come: readonly (readonly [string, string])[]
  readonly go: readonly (readonly [string, string])[]
}

export interface Moved {
  readonly edits: readonly Edit[]
  readonly unplaced: readonly Refusal[]
  readonly replug: Replug
  readonly cost: number
  readonly proven: boolean
}

/**
 * Takes a plan's parts to another board: wires between parts stay, everything that hung on the old board is wired
 * anew by need, supplies by voltage. Locked wires to the old board go too: its pins are no longer there.
 */
export function moveBoard(plan: Plan, catalog: Catalog, ref: string, board: string): Moved {
  const facts = catalog.boards.get(board)
  if (!facts) throw new Error(`moveBoard: the catalogue has no board ${board}`)
  const mine = (end: string): boolean => end.startsWith(`${ref}.`)
  const edits: Edit[] = plan.wires
    .filter(([from, to]) => mine(from) || mine(to))
    .map(([from, to]): Edit => ({ do: 'disconnect', from, to }))
  const uses = facts.features.filter((feature) => feature.usual).map((feature) => feature.id)
  edits.push({ do: 'change-board', ref, entry: { board, uses, variant: undefined, clocks: undefined } })
  const bare = applyEdits(plan, edits)
  const result = assign(resolve(bare, catalog))
  const all = [...edits, ...result.edits]
  return {
    edits: all,
    unplaced: result.unplaced,
    replug: replugOf(plan, applyEdits(plan, all)),
    cost: result.cost,
    proven: result.optimal,
  }
}

/** What becomes of each wire from one plan to another. */
export function replugOf(before: Plan, after: Plan): Replug {
  const key = (from: string, to: string): string => [from, to].sort().join(' ')
  const had = new Map(before.wires.map(([from, to]) => [key(from, to), [from, to] as const]))
  const has = new Map(after.wires.map(([from, to]) => [key(from, to), [from, to] as const]))
  const stay = [...had].filter(([one]) => has.has(one)).map(([, wire]) => wire)
  const gone = [...had].filter(([one]) => !has.has(one)).map(([, wire]) => wire)
  const come = [...has].filter(([one]) => !had.has(one)).map(([, wire]) => wire)
  const move: { end: string; from: string; to: string }[] = []
  const go: (readonly [string, string])[] = []
  for (const [from, to] of gone) {
    const at = come.findIndex((wire) => wire.includes(from) || wire.includes(to))
    const next = at < 0 ? undefined : come[at]
    const end = next && [from, to].find((one) => next.includes(one))
    if (!next || end === undefined) go.push([from, to])
    else {
      come.splice(at, 1)
      move.push({ end, from: from === end ? to : from, to: next[0] === end ? next[1] : next[0] })
    }
  }
  return { stay, move, come, go }
}
