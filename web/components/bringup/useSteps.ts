import { useMemo } from 'react'
import type { Layout } from '../../../core/breadboard/workbench.ts'
import { type Laid, laidOf } from '../../../core/bringup/laid.ts'
import type { Step } from '../../../core/bringup/step.ts'
import { stepsOf } from '../../../core/bringup/steps.ts'
import { useBench } from '../../store/bench.tsx'
import { useDerived, usePlan } from '../../store/derived.ts'

/** The steps of the open plan, hole by hole where it has breadboards; `layingOut` until those are laid out. */
export function useSteps(): {
  readonly steps: readonly Step[]
  readonly layout: Layout | undefined
  readonly layingOut: boolean
  /** What the layout adds to a diagnosis. */
  readonly laid: Laid
} {
  const plan = usePlan()
  const { wiring } = useDerived()
  const bench = useBench()
  const layout = bench.layout && bench.wiring === wiring ? bench.layout : undefined
  const layingOut = Object.keys(plan.bench?.breadboards ?? {}).length > 0 && !layout
  const steps = useMemo(() => (layingOut ? [] : stepsOf(wiring, layout)), [wiring, layout, layingOut])
  const laid = useMemo(() => laidOf(wiring, steps, layout), [wiring, steps, layout])
  return { steps, layout, layingOut, laid }
}
