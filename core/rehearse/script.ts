import * as v from 'valibot'
import type { Outcome } from '../base/problem.ts'
import { parseYaml, validateYaml } from '../base/yamlSource.ts'
import { ScriptFrom, ScriptSeconds, ScriptStep } from '../plan/rehearsalSchema.ts'

export const Script = v.strictObject({
  rehearsal: v.literal(1),
  title: v.optional(v.string()),
  /** Seconds that the run lasts; a second behind the last step where left out. */
  seconds: v.optional(ScriptSeconds),
  /** Seconds that the board has been on when the run begins: 4294960 lets `millis()` begin again soon. */
  from: v.optional(ScriptFrom),
  steps: v.optional(v.array(ScriptStep), []),
})
export type Script = v.InferOutput<typeof Script>
export type { ScriptStep }

/** Reads what is done to a plan while its program runs, and what is expected of it. */
export function readScript(text: string, file: string): Outcome<Script> {
  const parsed = parseYaml(text, file)
  if (!parsed.ok) return parsed
  return validateYaml(parsed.value, Script)
}

/** A script that asks for what the plan does not have. */
export class ScriptError extends Error {
  override name = 'ScriptError'
}
