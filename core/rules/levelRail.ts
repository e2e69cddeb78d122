import { entryOf } from '../base/entryOf.ts'
import { type Levels, volts } from '../catalog/common.ts'
import { railOf } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { logicSupply } from '../wiring/supply.ts'
import type { Report } from './finding.ts'
import { moveTo } from './mend.ts'
import { isOverfed, middleOf, twoDigits } from './shared.ts'

interface Held {
  readonly end: string
  readonly part: PartInstance
  readonly levels: Levels
}

/** Inputs and straps that may lie on a rail, each with the levels that hold there. */
const heldInputs = (wiring: Wiring): Held[] => [
  ...wiring.ties.map(({ end, part, facts }) => ({
    end,
    part,
    levels: entryOf(part.part.levels, facts.levels ?? 'logic') ?? {},
  })),
  ...wiring.signals
    .filter(({ state, facts }) => state === 'tied' && facts.direction === 'in' && !facts.needs.startsWith('analog'))
    .map((use) => ({ end: use.end, part: use.part, levels: levelsOf(use) })),
]

/** An input or a strap that is held high by a supply lower than its own: the level is no high for it. */
export function sayRails(wiring: Wiring, report: (one: Report) => void): void {
  for (const { end, part, levels } of heldInputs(wiring)) {
    const to = logicSupply(part)?.source?.end
    const source = railOf(wiring.netOf(end))?.source
    const [vih, vil] = [volts(levels.vih, part.logicVolts), volts(levels.vil, part.logicVolts)]
    if (isOverfed(part) || to === undefined || !source || vih === undefined || source.volts >= vih - 0.005) continue
    report({
      severity: source.volts < middleOf(vih, vil) ? 'fault' : 'caution',
      at: [source.end, end],
      message: 'lowHigh',
      data: { receiver: end, vih: formatVolts(vih), high: formatVolts(source.volts), driver: source.end },
      why: `What is a high follows the supply of ${part.ref}, ${formatVolts(part.logicVolts as number)}. Held by a lower one the pin reads high on a good day only. Its own supply, ${to}, holds it for sure.`,
      numbers: { high: twoDigits(source.volts), vih: twoDigits(vih), margin: twoDigits(source.volts - vih) },
      propose: () => moveTo(wiring, end, to),
    })
  }
}
