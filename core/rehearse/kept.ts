import type { Plan } from '../plan/planSchema.ts'
import type { SourceFile } from './cpp/preprocess.ts'
import type { Script } from './script.ts'

type WithRehearsal = Pick<Plan, 'rehearsal'>

/** Programs that a plan keeps, by board. */
export const keptPrograms = ({ rehearsal }: WithRehearsal): Record<string, readonly SourceFile[]> =>
  Object.fromEntries(
    Object.entries(rehearsal?.programs ?? {}).map(([ref, files]) => [
      ref,
      Object.entries(files).map(([name, text]) => ({ name, text })),
    ]),
  )

/** The script that a plan keeps; undefined where it says nothing of how its programs run. */
export function keptScript({ rehearsal }: WithRehearsal): Script | undefined {
  const { programs: _, steps = [], ...rest } = rehearsal ?? {}
  return steps.length === 0 && Object.keys(rest).length === 0 ? undefined : { rehearsal: 1, ...rest, steps }
}
