import { parseOptionAmount } from '../electrical/quantity.ts'
import { type Script, ScriptError, type ScriptStep } from './script.ts'
import { showOf } from './shows.ts'
import type { StageBoard } from './stage/board.ts'
import { handleValue } from './stage/handles.ts'

/** Something that a script expects, and what came of it. */
export interface Waiting {
  readonly seconds: number
  readonly what: string
  readonly end: string
  readonly why: string | undefined
  came: boolean
  found: string
}

/** Puts the steps of a script into the time of a run. */
export function schedule(script: Script | undefined, stage: StageBoard, offset: number): Waiting[] {
  const waiting: Waiting[] = []
  for (const step of script?.steps ?? []) {
    const at = offset + step.at * 1e6
    for (const [name, written] of Object.entries(step.set ?? {})) {
      const handle = stage.handles.get(name) ?? stage.touchable(name)
      if (!handle)
        throw new ScriptError(
          `${name} cannot be moved; expected one of ${[...stage.handles.keys()].join(', ') || 'nothing: no part of this plan can'}`,
        )
      const value = handleValue(handle, written, (text) => parseOptionAmount(text, 'ohm'))
      if (typeof value === 'string') throw new ScriptError(`${name}: "${written}": ${value}`)
      stage.events.at(at, () => stage.move(handle, value))
    }
    if (step.type !== undefined)
      stage.events.at(at, () => {
        for (const byte of new TextEncoder().encode(`${step.type}\n`)) stage.serial('Serial').waiting.push(byte)
      })
    for (const [end, wanted] of Object.entries(step.expect ?? {}))
      waiting.push(expectation(step, end, String(wanted), stage, offset))
  }
  return waiting
}

/** Microseconds between two looks at what may still come. */
const LOOK = 1000

function expectation(step: ScriptStep, end: string, wanted: string, stage: StageBoard, offset: number): Waiting {
  const one: Waiting = { seconds: step.at, what: `${end} ${wanted}`, end, why: step.why, came: false, found: 'nothing' }
  const at = offset + step.at * 1e6
  const until = at + (step.within ?? 0) * 1e6
  const look = (): void => {
    const found = stateOf(stage, end, wanted)
    one.found = found.words
    one.came = found.holds
    if (!one.came && stage.now + LOOK <= until) stage.events.at(stage.now + LOOK, look)
  }
  // What the plan does not have is said before it runs.
  stateOf(stage, end, wanted)
  stage.events.at(at, look)
  return one
}

/** What is seen at a part or a pin now, and whether it is what is wanted. */
function stateOf(stage: StageBoard, end: string, wanted: string): { readonly holds: boolean; readonly words: string } {
  if (end === 'serial') {
    const lines = stage.conversations.printed.map(({ text }) => text)
    const found = lines.some((text) => text.includes(wanted))
    return { holds: found, words: lines.length === 0 ? 'nothing printed' : `"${lines.at(-1)}" as the last line` }
  }
  const part = stage.wiring.parts.find(({ ref }) => ref === end)
  if (part) {
    const words = showOf(stage.wiring, stage, part)
    const isOn = words !== undefined && words !== 'off' && words !== 'rests'
    if (wanted === 'on' || wanted === 'true') return { holds: isOn, words: words ?? 'nothing to see' }
    if (wanted === 'off' || wanted === 'false') return { holds: !isOn, words: words ?? 'nothing to see' }
    return { holds: words?.includes(wanted) ?? false, words: words ?? 'nothing to see' }
  }
  if (!stage.wiring.terminal(end)) throw new ScriptError(`${end} is no part and no pin of this plan`)
  const at = stage.live.volts(stage.wiring.netOf(end).index)
  const words = at === undefined ? 'a floating line' : at > 1.4 ? 'high' : 'low'
  if (wanted !== 'high' && wanted !== 'low') throw new ScriptError(`${end}: expected high or low, not "${wanted}"`)
  return { holds: words === wanted, words }
}
