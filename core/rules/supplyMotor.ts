import { resupply } from '../wiring/resupply.ts'
import type { Rule } from './finding.ts'

export const supplyMotor: Rule = {
  meta: {
    id: 'supply-motor',
    severities: ['caution'],
    about: 'Motors, servos or coils hang on the supply from which the board runs its own logic.',
    messages: { shared: '{part} takes its current from {source}, from which {board} runs its logic.' },
    fixable: true,
  },
  check(wiring, report) {
    for (const part of wiring.parts) {
      if (part.part.category !== 'load' && part.part.category !== 'driver') continue
      for (const use of part.supplies) {
        const { source } = use
        const board = wiring.boards.find((one) => one.ref === source?.ref)
        const rail = board?.board.rails.find(
          (one) => one.logic && one.pins.some((pin) => `${board.ref}.${pin}` === source?.end),
        )
        if (!source || !board || !rail || !use.facts.heavy) continue
        report({
          severity: 'caution',
          at: [part.ref, source.end],
          message: 'shared',
          data: { part: part.ref, source: source.end, board: board.ref },
          why: `A motor draws a multiple of its usual current when it starts${use.peakMilliamps === undefined ? '' : `, here up to ${Math.round(use.peakMilliamps)} mA`}, and throws sparks and spikes back. On the logic supply that makes the board start anew or misread its sensors. A supply of its own, with the grounds joined, keeps the two apart.`,
          numbers: use.peakMilliamps === undefined ? {} : { peakMilliamps: Math.round(use.peakMilliamps) },
          propose: () =>
            resupply(wiring, part, (one) => wiring.supplies.some((supply) => supply.ref === one.ref), {
              sameVolts: true,
            }),
        })
      }
    }
  },
}
