import { i2cViews } from '../circuit/busView.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import type { Proof, Stage } from '../plan/planSchema.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { Wiring } from '../wiring/model.ts'
import { scanId } from './signalSteps.ts'
import type { Step } from './step.ts'

/** What a board said of a step over its serial line. */
export type Answer =
  | { readonly step: string; readonly state: string }
  | { readonly step: string; readonly value: 0 | 1 }
  | { readonly step: string; readonly counts: number }
  | { readonly step: string; readonly microseconds: number }
  | { readonly step: string; readonly found: readonly number[] }

/** A line from the board: an answer, a greeting, a complaint, or something that is shown and passed over. */
export type BoardLine =
  | { readonly is: 'answer'; readonly answer: Answer }
  | { readonly is: 'hello'; readonly steps: number | undefined }
  | { readonly is: 'error'; readonly text: string }
  | { readonly is: 'other'; readonly text: string }

/** Reads one line from the serial line: newline-delimited JSON among boot messages and whatever else a board prints. */
export function readBoardLine(line: string): BoardLine {
  const text = line.trim()
  if (!text.startsWith('{')) return { is: 'other', text }
  let value: Record<string, unknown>
  try {
    value = JSON.parse(text) as Record<string, unknown>
  } catch {
    return { is: 'other', text }
  }
  if (value.hello === 'markpost')
    return { is: 'hello', steps: typeof value.steps === 'number' ? value.steps : undefined }
  if (typeof value.error === 'string') return { is: 'error', text: value.error }
  const { step } = value
  if (typeof step !== 'string') return { is: 'other', text }
  const answer = answerOf(step, value)
  return answer ? { is: 'answer', answer } : { is: 'other', text }
}

function answerOf(step: string, value: Readonly<Record<string, unknown>>): Answer | undefined {
  const { state, value: level, counts, microseconds, found } = value
  if (typeof state === 'string') return { step, state }
  if (level === 0 || level === 1) return { step, value: level }
  if (typeof counts === 'number' && Number.isFinite(counts)) return { step, counts }
  if (typeof microseconds === 'number' && Number.isFinite(microseconds)) return { step, microseconds }
  if (Array.isArray(found) && found.every((one) => Number.isInteger(one))) return { step, found: found as number[] }
  return undefined
}

/** What an answer says of its step. `right` is undefined where only eyes and hands know. */
export interface Judged {
  readonly value: string
  readonly right: boolean | undefined
}

/** Holds an answer against what the plan predicts for its step. */
export function judgeAnswer(wiring: Wiring, step: Step, answer: Answer): Judged {
  if ('state' in answer) return { value: answer.state, right: undefined }
  if ('found' in answer) {
    const wanted = expectedOn(wiring, step)
    const found = [...new Set(answer.found)].sort((a, b) => a - b)
    const right = wanted.every((one) => found.includes(one)) && found.every((one) => wanted.includes(one))
    return { value: found.length === 0 ? 'nobody' : found.map(hexAddress).join(' '), right }
  }
  const [figure, value] =
    'value' in answer
      ? ([answer.value, String(answer.value)] as const)
      : 'counts' in answer
        ? ([answer.counts, String(answer.counts)] as const)
        : ([answer.microseconds, `${answer.microseconds} µs`] as const)
  const { predicted } = step
  if (!predicted) return { value, right: undefined }
  return { value, right: figure >= predicted.least && figure <= predicted.most }
}

/** Addresses that the bus of a scan step should have. */
export function expectedOn(wiring: Wiring, step: Step): number[] {
  const view = i2cViews(wiring).find(
    ({ bus }) =>
      bus?.board && bus.controller !== undefined && scanId(wiring, bus.board.ref, bus.controller) === step.id,
  )
  return (view?.devices ?? []).flatMap(({ part }) =>
    addressesOf(part)
      .filter(({ shared }) => !shared)
      .map(({ address }) => address),
  )
}

/** Judges a figure that a person typed for a step: `4.93`, `4,93 V`; undefined where the step predicts none or it is no figure. */
export function judgeTyped(step: Step, typed: string): boolean | undefined {
  const { predicted } = step
  const figure = Number.parseFloat(typed.replace(',', '.'))
  if (!predicted || Number.isNaN(figure)) return undefined
  return figure >= predicted.least && figure <= predicted.most
}

export const predictedWords = ({ predicted }: Step): string | undefined => {
  if (!predicted) return undefined
  const { least, most, unit } = predicted
  if (unit === 'level') return `${least}`
  const write = (figure: number): string =>
    unit === 'counts'
      ? String(figure)
      : unit === 'V'
        ? `${Number(figure.toFixed(2))} V`
        : unit === 'mA'
          ? formatQuantity(figure / 1000, 'A')
          : `${figure} µs`
  return `${write(least)} to ${write(most)}`
}

/** How far a build is: by its steps that came out as planned. */
export function stageOf(steps: readonly Step[], done: Readonly<Record<string, Proof>>): Stage {
  const all = (phases: readonly Step['phase'][]): boolean => {
    const own = steps.filter(({ phase }) => phases.includes(phase))
    return own.length > 0 && own.every(({ id }) => done[id] !== undefined && done[id].wrong !== true)
  }
  if (!all(['continuity'])) return 'planned'
  if (!all(['power'])) return 'wired'
  const rest = steps.filter(({ phase }) => phase === 'scan' || phase === 'signal')
  return rest.every(({ id }) => done[id] !== undefined && done[id].wrong !== true) ? 'proven' : 'powered'
}
