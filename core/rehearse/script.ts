import * as v from 'valibot'
import type { Outcome } from '../base/problem.ts'
import { parseYaml, validateYaml } from '../base/yamlSource.ts'

const Word = v.union([v.string(), v.number(), v.boolean()])
const Seconds = v.pipe(v.number(), v.minValue(0, 'expected seconds from power-on'), v.maxValue(10_000_000))

const Step = v.strictObject({
  at: Seconds,
  /** Moves handles: `{ GATE: closed, EYE: 30 cm, KNOB: 40 % }`. */
  set: v.optional(v.record(v.string(), Word)),
  /** Types into the serial line, an end of line behind it. */
  type: v.optional(v.string()),
  /** What must be so: `{ LAMP: on, MCU.D5: high, serial: "open" }`. */
  expect: v.optional(v.record(v.string(), Word)),
  /** Seconds within which it may still become so. */
  within: v.optional(Seconds),
  /** Said where it does not come. */
  why: v.optional(v.string()),
})

export const Script = v.strictObject({
  rehearsal: v.literal(1),
  title: v.optional(v.string()),
  /** Seconds that the run lasts; a second behind the last step where left out. */
  seconds: v.optional(Seconds),
  /** Seconds that the board has been on when the run begins: 4294960 lets `millis()` begin again soon. */
  from: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(5_000_000))),
  steps: v.optional(v.array(Step), []),
})
export type Script = v.InferOutput<typeof Script>
export type ScriptStep = v.InferOutput<typeof Step>

/** Reads what is done to a plan while its program runs, and what is expected of it. */
export function readScript(text: string, file: string): Outcome<Script> {
  const parsed = parseYaml(text, file)
  if (!parsed.ok) return parsed
  return validateYaml(parsed.value, Script)
}
