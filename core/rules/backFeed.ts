import type { BoardInstance, Source, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'

export const backFeed: Rule = {
  meta: {
    id: 'back-feed',
    severities: ['caution'],
    about:
      'A board is fed at a pin that nothing parts from its socket, and its USB socket is in use as well: two sources would feed each other.',
    messages: {
      twoWays:
        '{source} feeds {board} at {at}, which nothing parts from its USB socket: never plug USB in while it is on.',
    },
    fixable: false,
  },
  check(wiring, report) {
    for (const board of wiring.boards) {
      const feed = board.board.feeds.find((one) => one.id === board.feed)
      if (!feed?.alone || !usesSocket(board)) continue
      const end = `${board.ref}.${feed.pins[0]}`
      const source = feeder(wiring, board, feed.pins)
      // Outside its range supply-range speaks.
      if (!source || source.volts < feed.least || source.volts > feed.most) continue
      report({
        severity: 'caution',
        at: [end, source.end],
        message: 'twoWays',
        data: { source: source.end, board: board.ref, at: feed.pins[0] },
        why: `Two sources on one rail are never quite equal. The higher one pushes its current back into the other: into the computer, or into ${source.ref}. Take one of them off first, or feed the board where a diode or a regulator lies between.`,
        numbers: { volts: source.volts },
      })
    }
  },
}

/** Something of the plan needs the cable of the USB socket. */
const usesSocket = ({ features }: BoardInstance): boolean => features.some(({ id }) => id.startsWith('usb-'))

const feeder = (wiring: Wiring, board: BoardInstance, pins: readonly string[]): Source | undefined =>
  pins.flatMap((pin) => wiring.netOf(`${board.ref}.${pin}`).sources).find((one) => one.ref !== board.ref)
