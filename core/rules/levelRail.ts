import { entryOf } from '../base/entryOf.ts'
import { type Levels, volts } from '../catalog/common.ts'
import { railOf } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { logicSupply } from '../wiring/supply.ts'
import type { Report } from './finding.ts'
import { takeOut } from './mend.ts'
import { isOverfed, twoDigits } from './shared.ts'

/** Inputs and straps of a part that may lie on a rail, each with the levels that hold there. */
function inputsOf(wiring: Wiring, part: PartInstance): Map<string, Levels> {
  const inputs = new Map<string, Levels>()
  for (const { end, facts, part: owner } of wiring.ties)
    if (owner === part) inputs.set(end, entryOf(part.part.levels, facts.levels ?? 'logic') ?? {})
  for (const use of wiring.signals)
    if (
      use.part === part &&
      use.state === 'tied' &&
      use.facts.direction === 'in' &&
      !use.facts.needs.startsWith('analog')
    )
      inputs.set(use.end, levelsOf(use))
  return inputs
}

/** An input or a strap that is held high by a supply lower than its own: the level is no high for it. */
export function sayRails(wiring: Wiring, report: (one: Report) => void): void {
  for (const part of wiring.parts) {
    const own = logicSupply(part)
    if (isOverfed(part) || !own?.source) continue
    for (const [end, levels] of inputsOf(wiring, part)) {
      const source = railOf(wiring.netOf(end))?.source
      const [vih, vil] = [volts(levels.vih, part.logicVolts), volts(levels.vil, part.logicVolts)]
      if (!source || vih === undefined || source.volts >= vih - 0.005) continue
      const fault = source.volts < (vil === undefined ? vih / 2 : (vih + vil) / 2)
      const to = own.source.end
      report({
        severity: fault ? 'fault' : 'caution',
        at: [source.end, end],
        message: 'lowHigh',
        data: { receiver: end, vih: formatVolts(vih), high: formatVolts(source.volts), driver: source.end },
        why: `What is a high follows the supply of ${part.ref}, ${formatVolts(part.logicVolts as number)}. Held by a lower one the pin reads high on a good day only. Its own supply, ${to}, holds it for sure.`,
        numbers: { high: twoDigits(source.volts), vih: twoDigits(vih), margin: twoDigits(source.volts - vih) },
        propose: () =>
          takeOut(wiring, (a, b) => a === end || b === end)
            .slice(0, 1)
            .map(({ edits }) => ({
              title: `Move ${end} to ${to}`,
              edits: [...edits, { do: 'connect', from: end, to }],
            })),
      })
    }
  }
}
