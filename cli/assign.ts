import { assignJson } from '../core/advice/assignJson.ts'
import { assignChoosing } from '../core/assign/choosing.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { writePlan } from '../core/plan/writePlan.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { codeOf } from '../node/readText.ts'
import { writeWhole } from '../node/writeWhole.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog } from './input.ts'

export function assignCommand(file: string, options: { out?: string; seconds?: number; json?: boolean }): Status {
  const { plan, text } = readPlanFile(file)
  const start = performance.now()
  const end = start + (options.seconds ?? 60) * 1000
  const wiring = resolve(plan, theCatalog())
  const result = assignChoosing(wiring, { shouldStop: () => performance.now() > end })
  const milliseconds = Math.round((performance.now() - start) * 10) / 10
  const placed = writePlan(applyEdits(plan, result.edits), theCatalog(), text)
  if (options.out !== undefined) writePlanFile(options.out, placed)
  if (options.json) printJson(assignJson(wiring, result, milliseconds))
  else if (options.out === undefined) print(placed)
  for (const { ref, what, why } of result.added) process.stderr.write(`added ${ref}, ${what}: ${why}\n`)
  for (const one of result.unplaced) process.stderr.write(`${one.end} needs ${one.needs}: ${one.reasons.join('; ')}\n`)
  return result.unplaced.length === 0 ? 0 : 1
}

function writePlanFile(file: string, text: string): void {
  try {
    writeWhole(file, text)
  } catch (error) {
    throw new InputError([`${file}: cannot be written (${codeOf(error)})`])
  }
}
