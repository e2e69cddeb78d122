import { assignJson } from '../core/advice/assignJson.ts'
import { questionsFor } from '../core/advice/questions.ts'
import { pinAnswers } from '../core/advice/whyPin.ts'
import { assignChoosing } from '../core/assign/choosing.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { canonicalEnd } from '../core/plan/ends.ts'
import type { Plan } from '../core/plan/planSchema.ts'
import { writePlan } from '../core/plan/writePlan.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog, writePlanOut } from './input.ts'

interface AssignCommandOptions {
  readonly out?: string
  readonly seconds?: number
  readonly why?: string
  readonly json?: boolean
}

export function assignCommand(file: string, options: AssignCommandOptions): Status {
  const { plan, text } = readPlanFile(file)
  if (options.why !== undefined) return sayWhy(file, plan, options.why, options.json === true)
  const start = performance.now()
  const end = start + (options.seconds ?? 60) * 1000
  const wiring = resolve(plan, theCatalog())
  const result = assignChoosing(wiring, { shouldStop: () => performance.now() > end })
  const milliseconds = Math.round((performance.now() - start) * 10) / 10
  const placed = writePlan(applyEdits(plan, result.edits), theCatalog(), text)
  if (options.out !== undefined) writePlanOut(options.out, placed)
  const answer = options.json ? assignJson(wiring, result, milliseconds) : undefined
  if (answer) printJson(answer)
  else if (options.out === undefined) print(placed)
  for (const { ref, what, why } of result.added) process.stderr.write(`added ${ref}, ${what}: ${why}\n`)
  for (const { ref, why } of result.left) process.stderr.write(`left ${ref} in the box: ${why}\n`)
  const questions = answer?.questions ?? questionsFor(resolve(applyEdits(plan, result.edits), theCatalog()))
  for (const { text: asked, why, answers } of questions)
    process.stderr.write(`${asked} Taken: ${answers[0]?.title}. ${why}\n`)
  for (const one of result.unplaced) process.stderr.write(`${one.end} needs ${one.needs}: ${one.reasons.join('; ')}\n`)
  return result.unplaced.length === 0 ? 0 : 1
}

/** Instead of wiring anything: every pin for a signal, with what speaks for and against it. */
function sayWhy(file: string, plan: Plan, name: string, json: boolean): Status {
  const found = canonicalEnd(plan, theCatalog(), name)
  if (!found.ok) throw new InputError([`${file}: ${found.message}`])
  const wiring = resolve(plan, theCatalog())
  const use = wiring.signal(found.end)
  if (!use) throw new InputError([`${file}: ${found.end} is no signal of a part; expected one such as DISPLAY.SDA`])
  const pins = pinAnswers(wiring, use)
  if (json) printJson({ end: use.end, needs: use.facts.needs, at: use.hosts[0]?.host.end ?? null, pins })
  else print(`${pins.map(({ text: said }) => said).join('\n')}\n`)
  return 0
}
