import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { type RunResult, rehearse } from '../run.ts'
import { readScript } from '../script.ts'

/**
 * Runs a sketch on a plan in short form; `steps` are the lines of a script. It runs as long as the script asks, or four
 * seconds where there is none.
 */
export function run(plan: Short, text: string, steps = '', seconds?: number): RunResult {
  const wiring = resolve(planOf(plan), catalog)
  const read = readScript(`rehearsal: 1\nsteps:\n${steps || '  []'}`, 'x')
  if (!read.ok) throw new Error(read.problems.map(({ message }) => message).join())
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'a.ino', text }], {
    script: read.value,
    seconds: seconds ?? (steps === '' ? 4 : undefined),
  })
}
