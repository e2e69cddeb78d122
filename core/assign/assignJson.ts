import type { AssignResult } from './assign.ts'

/** A search's answer as `assign --json` and the server give it. */
export function assignJson(result: AssignResult, milliseconds: number) {
  const { status, optimal, cost, bound, placed, unplaced } = result
  const conflict =
    unplaced.length === 0
      ? null
      : {
          needs: unplaced.map((one) => one.end),
          pins: [] as string[],
          text: unplaced.map((one) => `${one.end} needs ${one.needs} (${one.reasons.join('; ')})`).join('. '),
        }
  return {
    status,
    optimal,
    cost,
    bound,
    milliseconds,
    placed,
    unplaced,
    conflict,
    remedies: [] as { title: string; edits: [] }[],
  }
}
