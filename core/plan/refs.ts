import { allRefs, breadboardRefs } from './edit.ts'
import type { Plan } from './planSchema.ts'

/**
 * New references from a stem: the bare stem for a single one when it is free (`CLOCK`), else numbered (`LED1`, `LED2`).
 */
export function freshRef(plan: Plan, stem: string, count: number): string[] {
  const taken = new Set([...allRefs(plan), ...breadboardRefs(plan)].map((ref) => ref.toUpperCase()))
  const short = stem.length === 1
  if (count === 1 && !short && !taken.has(stem) && !taken.has(`${stem}1`)) return [stem]
  const refs: string[] = []
  for (let number = taken.has(stem) ? 2 : 1; refs.length < count; number += 1) {
    const ref = `${stem}${number}`
    if (!taken.has(ref)) refs.push(ref)
  }
  return refs
}
