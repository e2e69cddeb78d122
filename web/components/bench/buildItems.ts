import type { Layout } from '../../../core/breadboard/layout.ts'
import { tickOf } from '../../../core/sheets/benchPicture.ts'
import type { Sheet, StepRow, WireRow } from '../../../core/sheets/rows.ts'

/** One thing to do at the workbench: put something in its holes, or plug in one wire. */
export type BuildItem = { readonly step: StepRow; readonly tick: string } & (
  | { readonly kind: 'part'; readonly ref: string; readonly title: string; readonly holes: string }
  | { readonly kind: 'wire'; readonly row: WireRow }
)

/** Everything to do, in the order of the build steps. */
export function buildItems(layout: Layout, sheet: Sheet): BuildItem[] {
  const first = sheet.steps[0]
  const parts = layout.units.flatMap((unit): BuildItem[] => {
    const seat = layout.seats.get(unit.ref)
    if (!seat || !first) return []
    const legs = seat.legs.map(({ pin, hole }) => ({ pin, hole: layout.grid.name(hole) }))
    const shown = legs.length > 6 ? [legs[0]!, legs.at(-1)!] : legs
    return [
      {
        kind: 'part',
        step: first,
        tick: `${unit.ref} ${legs[0]!.hole}`,
        ref: unit.ref,
        title: unit.owner?.title ?? unit.ref,
        holes: `${shown.map(({ pin, hole }) => `${pin} in ${hole}`).join(legs.length > 6 ? ' … ' : ', ')}${seat.turned ? ', turned' : ''}`,
      },
    ]
  })
  const byNumber = new Map(sheet.steps.map((step) => [step.number, step]))
  return [
    ...parts,
    ...sheet.wiring.map((row): BuildItem => ({ kind: 'wire', step: byNumber.get(row.step)!, tick: tickOf(row), row })),
  ]
}
