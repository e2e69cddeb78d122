import * as v from 'valibot'
import type { Plan } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { type Answer, expectedOn, judgeAnswer, readBoardLine } from './answers.ts'
import type { Observation } from './diagnose.ts'
import type { Step } from './step.ts'
import { stepsOf } from './steps.ts'

/** What was seen, as a file holds it: a list, or `{ "results": [ … ] }`. Answers of a board stand in it as they came. */
const Result = v.union([
  v.strictObject({ step: v.string(), right: v.literal(true) }),
  v.strictObject({ step: v.string(), wrong: v.literal(true) }),
  v.strictObject({ step: v.string(), saw: v.string() }),
])
const anyObject = v.record(v.string(), v.unknown())

export type ReadResults =
  | { readonly ok: true; readonly observations: readonly Observation[] }
  | { readonly ok: false; readonly message: string }

/**
 * Reads what was seen: JSON (a list, or an object with `results`), or the lines of a board. Each entry is an answer of the
 * board, or `{ "step": …, "right": true }`, `{ …, "wrong": true }`, `{ …, "saw": "silent" }`.
 */
export function readResults(text: string, wiring: Wiring): ReadResults {
  let entries: unknown[] | undefined
  try {
    const value = JSON.parse(text) as unknown
    const inner = v.safeParse(v.object({ results: v.array(v.unknown()) }), value)
    entries = Array.isArray(value)
      ? value
      : inner.success
        ? inner.output.results
        : v.is(anyObject, value)
          ? [value]
          : undefined
  } catch {
    entries = text
      .split('\n')
      .filter((line) => line.trim().startsWith('{'))
      .flatMap((line) => {
        const read = readBoardLine(line)
        return read.is === 'answer' ? [read.answer] : []
      })
  }
  if (!entries || entries.length === 0)
    return {
      ok: false,
      message:
        'no results; expected a list such as [{"step":"in:GATE.1","value":0}, {"step":"out:LAMP.A","wrong":true}]',
    }
  const steps = new Map(stepsOf(wiring, undefined).map((step) => [step.id, step]))
  const observations: Observation[] = []
  for (const [index, entry] of entries.entries()) {
    const own = v.safeParse(Result, entry)
    if (own.success) {
      const { step } = own.output
      observations.push({
        step,
        saw: 'saw' in own.output ? { outcome: own.output.saw } : 'right' in own.output ? 'right' : 'wrong',
      })
      continue
    }
    const line = readBoardLine(JSON.stringify(entry))
    if (line.is !== 'answer')
      return {
        ok: false,
        message: `result ${index + 1}: ${JSON.stringify(entry)?.slice(0, 80)} is none; expected {"step":…} with value, counts, found, right, wrong or saw`,
      }
    observations.push(...observationOf(wiring, steps, line.answer))
  }
  return { ok: true, observations }
}

/** What an answer of a board says of a build; nothing where only eyes know. */
export function observationOf(wiring: Wiring, steps: ReadonlyMap<string, Step>, answer: Answer): Observation[] {
  const step = steps.get(answer.step)
  if (!step) return []
  if ('found' in answer) {
    // Addresses of others than the plan's parts do not count: they tell of no fault of this plan.
    const known = new Set([...answer.found].filter((one) => one >= 8))
    const found = [...known].sort((a, b) => a - b).join(' ')
    const planned = expectedOn(wiring, step)
      .sort((a, b) => a - b)
      .join(' ')
    return [{ step: step.id, saw: found === planned ? 'right' : { outcome: found } }]
  }
  const { right } = judgeAnswer(wiring, step, answer)
  return right === undefined ? [] : [{ step: step.id, saw: right ? 'right' : 'wrong' }]
}

/** What the ticks of a plan say. */
export const observationsOf = (done: NonNullable<Plan['bringup']>['done']): Observation[] =>
  Object.entries(done).map(([step, { wrong }]) => ({ step, saw: wrong ? 'wrong' : 'right' }))
