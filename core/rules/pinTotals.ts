import { type SharedLimit, sharedLimits } from '../circuit/sharedLimits.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { twoDigits } from './shared.ts'

export const pinTotalsMessages = {
  group: '{group} of {board} carry {sum} mA together; {absolute} mA is the limit.',
  outputs: 'The outputs of {part} carry {sum} mA together; {together} mA is the limit.',
  board: 'The pins of {board} carry {sum} mA together; {limit}.',
}

/** Groups of pins, and all pins of a chip, that carry more together than their supply lines bear. */
export function sayTotals(wiring: Wiring, report: (one: Report) => void): void {
  for (const limit of sharedLimits(wiring)) {
    const { of, owner, title, loads, milliamps, absolute, recommended } = limit
    const isOver = absolute !== undefined && milliamps > absolute * ROUNDING
    if (!isOver && !(recommended !== undefined && milliamps > recommended)) continue
    const sum = shown(milliamps)
    const numbers = { milliamps: twoDigits(milliamps), ...(of === 'board' ? {} : { limit: absolute as number }) }
    const ends = loads.map(({ host }) => host.end)
    const common = { at: of === 'group' ? ends : [owner.ref, ...ends], why: whys[of], numbers }
    if (of === 'group')
      report({
        ...common,
        severity: 'fault',
        message: 'group',
        data: { group: title as string, board: owner.ref, sum, absolute: absolute as number },
      })
    else if (of === 'outputs')
      report({
        ...common,
        severity: 'fault',
        message: 'outputs',
        data: { part: owner.ref, sum, together: absolute as number },
      })
    else
      report({
        ...common,
        severity: isOver ? 'fault' : 'caution',
        message: 'board',
        data: {
          board: owner.ref,
          sum,
          limit: isOver ? `${absolute} mA is the limit` : `${recommended} mA is recommended`,
        },
      })
  }
}

/** A sum of many currents is off by as much. */
const ROUNDING = 1.001

const whys: Record<SharedLimit['of'], string> = {
  outputs:
    'All of it flows through the supply pins of the chip, whatever each output bears by itself. Larger series resistors, or a driver for the heavier ones, bring it down.',
  group:
    'Pins of a group share the same supply lines inside the chip. Each may be within its own limit and all of them together above that of the group.',
  board:
    'All of it flows through the supply pins of the chip. Larger series resistors, or a driver chip for the heavier ones, bring it down.',
}

export const shown = (milliamps: number): string =>
  milliamps < 0.1 ? milliamps.toFixed(2) : milliamps < 10 ? milliamps.toFixed(1) : String(Math.round(milliamps))
