import type { Catalog } from '../../core/catalog/catalog.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { SourceFile } from '../../core/rehearse/cpp/preprocess.ts'
import { fileOf, lineOf, SourceError } from '../../core/rehearse/cpp/tokens.ts'
import { type RunOptions, type RunResult, rehearse, ScriptError } from '../../core/rehearse/run.ts'
import type { Script } from '../../core/rehearse/script.ts'
import type { LineChange } from '../../core/rehearse/stage/trace.ts'
import { resolve } from '../../core/wiring/resolve.ts'

/** Milliseconds that a run may take before it is ended where it is. */
const PATIENCE = 15_000

/** A run as it goes from one thread to another. */
export type RunData = Omit<RunResult, 'trace'> & {
  readonly lines: readonly (readonly [string, readonly LineChange[]])[]
}
export type RunAnswer =
  | { readonly ok: true; readonly run: RunData }
  | { readonly ok: false; readonly file: string; readonly line: number; readonly message: string }

/** Runs a sketch on a plan; what cannot be read or run comes back in words. */
export function runRehearsal(
  catalog: Catalog,
  plan: Plan,
  ref: string,
  files: readonly SourceFile[],
  script: Script,
  statements?: RunOptions['statements'],
): RunAnswer {
  const wiring = resolve(plan, catalog)
  const board = wiring.boards.find((one) => one.ref === ref)
  if (!board) return { ok: false, file: '', line: 0, message: `the plan has no board ${ref}` }
  const end = performance.now() + PATIENCE
  try {
    const { trace, ...run } = rehearse(wiring, board, files, {
      script,
      statements,
      shouldStop: () => performance.now() > end,
    })
    return { ok: true, run: { ...run, lines: [...trace.lines] } }
  } catch (error) {
    if (error instanceof SourceError)
      return { ok: false, file: files[fileOf(error.at)]?.name ?? '', line: lineOf(error.at), message: error.message }
    if (error instanceof ScriptError) return { ok: false, file: 'the script', line: 0, message: error.message }
    throw error
  }
}
