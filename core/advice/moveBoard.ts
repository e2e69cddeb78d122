import { assign } from '../assign/assign.ts'
import type { Refusal } from '../assign/progress.ts'
import { entryOf } from '../base/entryOf.ts'
import { boardFacts } from '../catalog/boardFacts.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { boardOf } from '../catalog/variant.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { faultsIn, newFaults } from '../rules/faults.ts'
import { check } from '../rules/index.ts'
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

/** Rounds after which kept wires that bring faults are no longer sorted out one by one. */
const MOST_ROUNDS = 3

/**
 * Takes a plan's parts to another board. Wires between parts stay, and so do those to pins that the new board has under
 * the same name, as long as they bring no fault there; the rest is wired anew by need, supplies by voltage, optional
 * signals that had a pin included. Locked wires to pins that are no longer there go too.
 */
export function moveBoard(plan: Plan, catalog: Catalog, ref: string, board: string): Moved {
  const kept = moveWith(plan, catalog, ref, board, true)
  if (kept.unplaced.length === 0 || kept.replug.stay.length === 0) return kept
  const anew = moveWith(plan, catalog, ref, board, false)
  return anew.unplaced.length < kept.unplaced.length ? anew : kept
}

function moveWith(plan: Plan, catalog: Catalog, ref: string, board: string, keep: boolean): Moved {
  const facts = catalog.boards.get(board)
  if (!facts) throw new Error(`moveBoard: the catalogue has no board ${board}`)
  const old = boardOf(catalog, entryOf(plan.boards, ref))
  const mine = (end: string): boolean => end.startsWith(`${ref}.`)
  const hung = plan.wires.filter(([from, to]) => mine(from) || mine(to))
  const stays = (end: string): boolean => {
    const pin = boardFacts(facts).pin(end.slice(ref.length + 1))
    const before = old && boardFacts(old).pin(end.slice(ref.length + 1))
    return pin !== undefined && pin.id === end.slice(ref.length + 1) && pin.kind === before?.kind
  }
  // A feature that both boards have is on when it was; one that is new here as it usually is.
  const used = entryOf(plan.boards, ref)?.uses
  const uses = facts.features
    .filter(({ id, usual }) => (used && old?.features.some((one) => one.id === id) ? used.includes(id) : usual))
    .map(({ id }) => id)
  const change: Edit = { do: 'change-board', ref, entry: { board, uses, variant: undefined, clocks: undefined } }
  let left = keep ? hung.filter(([from, to]) => [from, to].every((end) => !mine(end) || stays(end))) : []
  const bareWith = (wires: typeof left): { edits: Edit[]; plan: Plan } => {
    const gone = hung.filter((wire) => !wires.includes(wire))
    const edits = [...gone.map(([from, to]): Edit => ({ do: 'disconnect', from, to })), change]
    return { edits, plan: applyEdits(plan, edits) }
  }
  // Optional signals that had a pin look for one again.
  const was = resolve(plan, catalog)
  const also = new Set(
    was.signals.filter((use) => use.hosts.some(({ host }) => host.ref === ref)).map((use) => use.end),
  )
  const before = faultsIn(left.length > 0 ? check(was) : [])
  for (let round = 0; ; round += 1) {
    const bare = bareWith(left)
    const result = assign(resolve(bare.plan, catalog), { also })
    const edits = [...bare.edits, ...result.edits]
    const moved = applyEdits(plan, edits)
    const wrong = new Set(
      left.length === 0 || round >= MOST_ROUNDS
        ? []
        : newFaults(before, check(resolve(moved, catalog))).flatMap(({ at }) => at),
    )
    const next = left.filter(([from, to]) => !wrong.has(from) && !wrong.has(to))
    if (next.length === left.length)
      return {
        edits,
        unplaced: result.unplaced,
        replug: replugOf(plan, moved),
        cost: result.cost,
        proven: result.optimal,
      }
    left = next
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
