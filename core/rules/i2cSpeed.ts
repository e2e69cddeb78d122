import { entryOf } from '../base/entryOf.ts'
import { i2cLines } from '../circuit/i2cLines.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import type { Rule } from './finding.ts'

export const i2cSpeed: Rule = {
  meta: {
    id: 'i2c-speed',
    severities: ['caution'],
    about: 'The clock that the plan asks for on an I2C bus is above that of its slowest device or of the controller.',
    messages: { tooFast: '{asked} are asked of {controller} on {ref}, and {who} bears {most}.' },
    fixable: true,
  },
  check(wiring, report) {
    for (const line of i2cLines(wiring)) {
      const bus = wiring.buses.find((one) => one.uses.includes(line.use))
      const controller = bus?.board?.board.controllers.find((one) => one.id === bus.controller)
      if (line.signal !== 'SCL' || line.asked === undefined || !bus?.board || !controller) continue
      const own = controller.most ?? Number.POSITIVE_INFINITY
      const device = line.slowest?.hertz ?? Number.POSITIVE_INFINITY
      const most = Math.min(own, device)
      if (line.asked <= most) continue
      const { ref } = bus.board
      const slow = device <= own ? line.slowest?.part.ref : undefined
      const who = slow ?? `${controller.title} of ${ref}`
      const clocks = entryOf(wiring.plan.boards, ref)?.clocks
      report({
        severity: 'caution',
        at: [ref, slow ?? line.host.end],
        formerly: [ref, slow ?? controller.id],
        message: 'tooFast',
        data: {
          asked: formatQuantity(line.asked, 'Hz'),
          controller: controller.title,
          ref,
          who,
          most: formatQuantity(most, 'Hz'),
        },
        why: `All devices on a bus see every clock pulse, also those meant for others. One that cannot follow misreads them and may hold the line. The clock of the slowest is the one to take.`,
        numbers: { asked: line.asked, most },
        propose: () => [
          {
            title: `Run ${controller.title} at ${formatQuantity(most, 'Hz')}`,
            edits: [{ do: 'change-board', ref, entry: { clocks: { ...clocks, [controller.id]: most } } }],
          },
        ],
      })
    }
  },
}
