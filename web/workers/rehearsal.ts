import type { Catalog } from '../../core/catalog/catalog.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { SourceFile } from '../../core/rehearse/cpp/preprocess.ts'
import { fileOf, lineOf, SourceError } from '../../core/rehearse/cpp/tokens.ts'
import { type RunOptions, type RunResult, rehearse } from '../../core/rehearse/run.ts'
import type { Script } from '../../core/rehearse/script.ts'
import { ScriptError } from '../../core/rehearse/script.ts'
import type { LineChange } from '../../core/rehearse/stage/trace.ts'
import { asOne, PlayerError, rehearseTogether } from '../../core/rehearse/together.ts'
import { resolve } from '../../core/wiring/resolve.ts'

/** Milliseconds that a run may take before it is ended where it is. */
const PATIENCE = 15_000

/** What runs: the programs of a plan by board, and the board that is looked at. */
export interface Rehearsed {
  readonly plan: Plan
  readonly ref: string
  readonly programs: Readonly<Record<string, readonly SourceFile[]>>
  readonly script: Script
  readonly statements?: RunOptions['statements']
}

/** A run as it goes from one thread to another. */
export type RunData = Omit<RunResult, 'trace' | 'sent'> & {
  readonly lines: readonly (readonly [string, readonly LineChange[]])[]
}
export type RunAnswer =
  | { readonly ok: true; readonly run: RunData }
  | { readonly ok: false; readonly file: string; readonly line: number; readonly message: string }

/** Runs programs on a plan, those of several boards together; what cannot be read or run comes back in words. */
export function runRehearsal(catalog: Catalog, { plan, ref, programs, script, statements }: Rehearsed): RunAnswer {
  const wiring = resolve(plan, catalog)
  const players = wiring.boards.flatMap((board) => {
    const files = programs[board.ref] ?? []
    return files.length === 0 ? [] : [{ board, files }]
  })
  const own = players.find(({ board }) => board.ref === ref)
  if (!own) return { ok: false, file: '', line: 0, message: `the plan has no board ${ref} with a program` }
  const end = performance.now() + PATIENCE
  const options: RunOptions = { script, shouldStop: () => performance.now() > end }
  try {
    let result: RunResult
    if (players.length === 1) result = rehearse(wiring, own.board, own.files, { ...options, statements })
    else {
      const together = rehearseTogether(wiring, players, options)
      result = asOne(ref, together)
      // Single statements are kept in a run of their own, which meets with the same.
      if (statements)
        result = rehearse(wiring, own.board, own.files, { ...options, statements, outside: together.outside.get(ref) })
    }
    const { trace, sent: _, ...run } = result
    return { ok: true, run: { ...run, lines: [...trace.lines] } }
  } catch (error) {
    if (error instanceof PlayerError) return { ok: false, file: error.file, line: error.line, message: error.message }
    if (error instanceof SourceError)
      return {
        ok: false,
        file: own.files[fileOf(error.at)]?.name ?? '',
        line: lineOf(error.at),
        message: error.message,
      }
    if (error instanceof ScriptError) return { ok: false, file: 'the script', line: 0, message: error.message }
    throw error
  }
}
