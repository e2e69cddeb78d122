import type { Layout } from '../../../core/breadboard/workbench.ts'
import { tickOf } from '../../../core/sheets/benchPicture.ts'
import type { Sheet, StepRow, WireRow } from '../../../core/sheets/rows.ts'

/** One thing to do at the workbench: put something in its holes, or plug in one wire. */
export type BuildItem = { readonly step: StepRow; readonly tick: string } & (
  | { readonly kind: 'part'; readonly ref: string; readonly title: string; readonly holes: string }
  | { readonly kind: 'wire'; readonly row: WireRow }
)

/** Everything to do, in the order of the build steps. */
export function buildItems(layout: Layout, sheet: Sheet): BuildItem[] {
  const partIn = (step: StepRow, ref: string): BuildItem[] => {
    const unit = layout.units.find((one) => one.ref === ref)
    const seat = layout.seats.get(ref)
    if (!unit || !seat) return []
    const legs = seat.legs.map(({ pin, hole }) => ({ pin, hole: layout.grid.name(hole) }))
    const shown = legs.length > 6 ? [legs[0]!, legs.at(-1)!] : legs
    return [
      {
        kind: 'part',
        step,
        tick: `${unit.ref} ${legs[0]!.hole}`,
        ref: unit.ref,
        title: unit.owner?.title ?? unit.ref,
        holes: `${shown.map(({ pin, hole }) => `${pin} in ${hole}`).join(legs.length > 6 ? ' … ' : ', ')}${seat.turned ? ', turned' : ''}`,
      },
    ]
  }
  return sheet.steps.flatMap((step) => [
    ...(step.places ?? []).flatMap((ref) => partIn(step, ref)),
    ...sheet.wiring
      .filter((row) => row.step === step.number)
      .map((row): BuildItem => ({ kind: 'wire', step, tick: tickOf(row), row })),
  ])
}
