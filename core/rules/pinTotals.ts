import { pinLoads } from '../circuit/pinLoads.ts'
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
  const loads = pinLoads(wiring)
  for (const part of wiring.parts)
    for (const { pins, together } of part.part.provides) {
      if (together === undefined) continue
      const on = loads.filter(({ host }) => host.provider === part && pins.includes(host.pin))
      const sum = on.reduce((all, load) => all + Math.max(load.source, load.sink), 0)
      if (sum <= together * 1.001) continue
      report({
        severity: 'fault',
        at: [part.ref, ...on.map(({ host }) => host.end)],
        message: 'outputs',
        data: { part: part.ref, sum: shown(sum), together },
        why: 'All of it flows through the supply pins of the chip, whatever each output bears by itself. Larger series resistors, or a driver for the heavier ones, bring it down.',
        numbers: { milliamps: twoDigits(sum), limit: together },
      })
    }
  for (const board of wiring.boards) {
    const mine = loads.filter((load) => load.host.board === board)
    for (const group of board.board.current.groups) {
      const on = mine.filter((load) => group.pins.includes(load.host.pin))
      const ways: readonly ('source' | 'sink')[] = group.way === 'both' ? ['source', 'sink'] : [group.way]
      const sum = on.reduce((total, load) => total + ways.reduce((part, way) => part + load[way], 0), 0)
      if (sum <= group.absolute) continue
      report({
        severity: 'fault',
        at: on.map((load) => load.host.end),
        message: 'group',
        data: { group: group.title, board: board.ref, sum: shown(sum), absolute: group.absolute },
        why: `Pins of a group share the same supply lines inside the chip. Each may be within its own limit and all of them together above that of the group.`,
        numbers: { milliamps: twoDigits(sum), limit: group.absolute },
      })
    }
    const total = board.board.current.total
    const sum = mine.reduce((all, load) => all + Math.max(load.source, load.sink), 0)
    const over = total?.absolute !== undefined && sum > total.absolute
    const much = total?.recommended !== undefined && sum > total.recommended
    if (!over && !much) continue
    report({
      severity: over ? 'fault' : 'caution',
      at: [board.ref, ...mine.map((load) => load.host.end)],
      message: 'board',
      data: {
        board: board.ref,
        sum: shown(sum),
        limit: over ? `${total?.absolute} mA is the limit` : `${total?.recommended} mA is recommended`,
      },
      why: 'All of it flows through the supply pins of the chip. Larger series resistors, or a driver chip for the heavier ones, bring it down.',
      numbers: { milliamps: twoDigits(sum) },
    })
  }
}

export const shown = (milliamps: number): string =>
  milliamps < 10 ? milliamps.toFixed(1) : String(Math.round(milliamps))
