import * as v from 'valibot'
import { entryOf } from '../../../core/base/entryOf.ts'
import { pinsOf } from '../../../core/breadboard/rails.ts'
import { HoleName } from '../../../core/plan/planSchema.ts'
import { useBench } from '../../store/bench.tsx'
import { usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { CommitField } from '../kit/fields.tsx'

/** Over which hole the wire of each of a part's pins is led: a rail at the end that suits the maker, or a row of its own. */
export function LedOver(props: { readonly of: string; readonly onRefused: (text: string) => void }) {
  const { of: ref, onRefused } = props
  const { layout, wiring } = useBench()
  const { via = {} } = usePlan().bench ?? {}
  const unit = layout?.units.find((one) => one.ref === ref)
  const ends = unit ? pinsOf(unit).map((pin) => `${ref}.${pin}`) : []
  const wired = ends.filter((end) => wiring.netOf(end).wired)
  if (!layout || wired.length === 0) return null
  const lead = (end: string, typed: string): undefined => {
    const text = typed.trim()
    // With one breadboard its name goes without saying.
    const first = layout.grid.boards.length === 1 ? `${layout.grid.boards[0]!.ref}.` : ''
    const name = text === '' || text.includes('.') ? text : `${first}${text}`
    if (name !== '' && (!v.is(HoleName, name) || layout.grid.parse(name) === undefined))
      onRefused(`"${text}" is no hole of this bench; expected one such as ${layout.grid.boards[0]!.ref}.a20`)
    else edit([{ do: 'lead-over', end, hole: name === '' ? null : name }], `Lead the wire of ${end}`)
  }
  return (
    <details className="led-over" open={wired.some((end) => entryOf(via, end) !== undefined)}>
      <summary>Lead its wires over</summary>
      <p className="soft">
        A hole of a rail that carries the same net, or of an empty row: a20, or R-3 for the rail at that end.
      </p>
      {wired.map((end) => (
        <div key={end} className="spare">
          <span className="mono">{end.slice(ref.length + 1)}</span>
          <CommitField
            label={`Hole over which the wire of ${end} is led`}
            value={entryOf(via, end) ?? ''}
            placeholder="any way"
            mono
            onCommit={(text) => lead(end, text)}
          />
        </div>
      ))}
    </details>
  )
}
