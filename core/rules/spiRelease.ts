import { rewireBus } from '../assign/rewireBus.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const spiRelease: Rule = {
  meta: {
    id: 'spi-release',
    severities: ['fault'],
    about: 'A device that never lets go of its data output shares the MISO line of an SPI bus with others.',
    messages: { holds: '{signal} never lets go of MISO, which it shares with {others}.' },
    fixable: true,
  },
  check(wiring, report) {
    for (const bus of wiring.buses) {
      if (bus.kind !== 'spi') continue
      const talkers = bus.uses.filter((use) => busNeed(use.facts.needs)?.signal === 'miso' && use.state === 'placed')
      for (const use of talkers) {
        if (use.part.mode?.spi?.releases !== false) continue
        const others = talkers.filter((one) => one.part !== use.part && wiring.netOf(one.end) === wiring.netOf(use.end))
        if (others.length === 0) continue
        report({
          severity: 'fault',
          at: [use.end, ...others.map((one) => one.end)],
          message: 'holds',
          data: { signal: use.end, others: others.map((one) => one.end) },
          why: `When another device is selected, ${use.part.ref} goes on driving the line: two outputs work against each other and the readings of ${listWords(others.map((one) => one.part.ref))} are spoilt. It needs a controller to itself, or a buffer that its select line switches.`,
          numbers: { talkers: talkers.length },
          propose: () =>
            rewireBus(wiring, {
              ...bus,
              uses: bus.uses.filter((one) => one.part === use.part),
              parts: [use.part],
            }),
        })
      }
    }
  },
}
