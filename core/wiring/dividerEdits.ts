import { helpersFor } from '../catalog/catalog.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import { freshRef } from '../plan/refs.ts'
import { levelsOf } from './levels.ts'
import type { Host, SignalUse, Wiring } from './model.ts'
import { groundEnd } from './supply.ts'

/** Puts two resistors (ohms) between a part's output and the pin that it is wired to; nothing where the wire is locked. */
export function dividerEdits(
  wiring: Wiring,
  use: SignalUse,
  host: Host,
  values: { top: number; bottom: number },
): Fix[] {
  // The resistance of a knob would spoil the ratio.
  if ((levelsOf(use).outputOhms ?? 0) > 500) return []
  const wire = wiring.plan.wires.find(
    (one) => [one[0], one[1]].includes(use.end) && wiring.terminal(one[0] === use.end ? one[1] : one[0])?.host === host,
  )
  const ground = groundEnd(wiring, use.part)
  if (!wire || wire[2]?.locked || ground === undefined) return []
  const [resistor] = helpersFor(wiring.catalog, 'resistor')
  if (!resistor) return []
  const pin = wire[0] === use.end ? wire[1] : wire[0]
  const [top, bottom] = freshRef(wiring.plan, 'R', 2) as [string, string]
  const edits: Edit[] = [
    { do: 'disconnect', from: wire[0], to: wire[1] },
    {
      do: 'add-part',
      ref: top,
      entry: { part: resistor.id, title: `divider from ${use.end}`, options: { ohms: values.top } },
    },
    {
      do: 'add-part',
      ref: bottom,
      entry: { part: resistor.id, title: `divider to ground at ${pin}`, options: { ohms: values.bottom } },
    },
    { do: 'connect', from: use.end, to: `${top}.1` },
    { do: 'connect', from: `${top}.2`, to: pin },
    { do: 'connect', from: `${bottom}.1`, to: `${top}.2` },
    { do: 'connect', from: `${bottom}.2`, to: ground },
  ]
  return [
    {
      title: `Put a divider of ${formatQuantity(values.top, 'Ω')} and ${formatQuantity(values.bottom, 'Ω')} in the line`,
      edits,
    },
  ]
}
