import type { Plan } from '../plan/planSchema.ts'
import { withRehearsal, withSettings } from '../plan/sections.ts'

/**
 * A plan as a task: board, supplies and parts are given, pins and everything behind them are to be found, the program
 * too. Without hints pins are not placed, and findings not fixed, by the tool.
 */
export function taskOf(plan: Plan, { hints = true }: { readonly hints?: boolean } = {}): Plan {
  const { bench: _, bringup: __, comments: ___, rehearsal, settings, ...rest } = plan
  const bare = { ...rest, ...(settings ? { settings } : {}), wires: [], unused: [], accepted: [] }
  // What must come of it stays: the script says so.
  const { programs: ____, ...script } = rehearsal ?? {}
  return withSettings(withRehearsal(bare, script), { hints: hints ? undefined : false })
}
