import { entryOf } from '../base/entryOf.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { BoardInstance, PartInstance, SignalUse } from './model.ts'
import type { Mutable } from './sources.ts'

/** A part belongs to the board it names, else to the one that its wires reach, else to the plan's first. */
export function findHomes(
  plan: Plan,
  boards: readonly BoardInstance[],
  parts: readonly Mutable<PartInstance>[],
  signals: readonly SignalUse[],
): void {
  const byRef = new Map(boards.map((board) => [board.ref, board]))
  const reached = new Map<string, string>()
  for (const use of signals)
    for (const { host } of use.hosts) if (!reached.has(use.part.ref)) reached.set(use.part.ref, host.ref)
  const partsByRef = new Map(parts.map((part) => [part.ref, part]))
  const home = (ref: string, depth: number): BoardInstance | undefined => {
    const named = entryOf(plan.parts, ref)?.on
    if (named !== undefined) return byRef.get(named)
    const at = reached.get(ref)
    if (at === undefined || depth > 8) return undefined
    return byRef.get(at) ?? (partsByRef.has(at) ? home(at, depth + 1) : undefined)
  }
  for (const part of parts) part.home = home(part.ref, 0) ?? boards[0]
}
