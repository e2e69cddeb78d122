import type { BoardInstance, Source, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'

export const backFeed: Rule = {
  meta: {
    id: 'back-feed',
    severities: ['caution'],
    about:
      'A board is fed at a pin that nothing parts from its socket, and its USB socket is in use as well: two sources would feed each other.',
    fixable: true,
  },
  check(wiring, report) {
    for (const board of wiring.boards) {
      const feed = board.board.feeds.find((one) => one.id === board.feed)
      if (!feed?.alone || !usesSocket(board)) continue
      const end = `${board.ref}.${feed.pins[0]}`
      const source = feeder(wiring, board, feed.pins)
      // Outside its range supply-range speaks.
      if (!source || source.volts < feed.least || source.volts > feed.most) continue
      const other = board.board.feeds.find(
        (one) => !one.alone && one.pins.length > 0 && source.volts >= one.least && source.volts <= one.most,
      )
      const wire = wiring.plan.wires.find((one) => [one[0], one[1]].includes(end) && !one[2]?.locked)
      report({
        severity: 'caution',
        at: [end, source.end],
        message: `${source.end} feeds ${board.ref} at ${feed.pins[0]}, which nothing parts from its USB socket: never plug USB in while it is on.`,
        why: `Two sources on one rail are never quite equal. The higher one pushes its current back into the other: into the computer, or into ${source.ref}. Take one of them off first, or feed the board where a diode or a regulator lies between.`,
        numbers: { volts: source.volts },
        propose: () => [
          ...(other && wire
            ? [
                {
                  title: `Feed ${board.ref} at ${other.pins[0]} instead`,
                  edits: [
                    { do: 'disconnect' as const, from: wire[0], to: wire[1] },
                    {
                      do: 'connect' as const,
                      from: wire[0] === end ? wire[1] : wire[0],
                      to: `${board.ref}.${other.pins[0]}`,
                    },
                  ],
                },
              ]
            : []),
        ],
      })
    }
  },
}

/** Something of the plan needs the cable of the USB socket. */
const usesSocket = ({ features }: BoardInstance): boolean => features.some(({ id }) => id.startsWith('usb-'))

const feeder = (wiring: Wiring, board: BoardInstance, pins: readonly string[]): Source | undefined =>
  pins.flatMap((pin) => wiring.netOf(`${board.ref}.${pin}`).sources).find((one) => one.ref !== board.ref)
