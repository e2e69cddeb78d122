import { type FedWhileOff, fedWhileOff } from '../circuit/unpowered.ts'
import type { BoardInstance, Source, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'

export const backFeed: Rule = {
  meta: {
    id: 'back-feed',
    severities: ['caution', 'tip'],
    about:
      'A board is fed at a pin that nothing parts from its socket, and its USB socket is in use as well: two sources would feed each other. A tip where a line goes on feeding a part while its supply is off.',
    messages: {
      twoWays:
        '{source} feeds {board} at {at}, which nothing parts from its USB socket: never plug USB in while it is on.',
      whileOff: 'While {supply} is off, {drivers} {drivers:feeds/feed} {part} through {receivers}.',
    },
    limits: ['whileOff'],
    fixable: false,
  },
  check(wiring, report) {
    sayWhileOff(wiring, report)
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

/** Current in milliamperes that the protection diode of a pin bears as a rule, after the datasheets of the 74HC family. */
const CLAMP_BEARS = 20

function sayWhileOff(wiring: Wiring, report: (one: Report) => void): void {
  const byPart = new Map<string, FedWhileOff[]>()
  for (const one of fedWhileOff(wiring)) {
    if (one.milliamps <= CLAMP_BEARS) continue
    const key = [one.ref, one.supply].join(' ')
    byPart.set(key, [...(byPart.get(key) ?? []), one])
  }
  for (const lines of byPart.values()) {
    const [{ ref, supply }] = lines as [FedWhileOff]
    const [drivers, receivers] = [lines.map((one) => one.driver), lines.map((one) => one.receiver)]
    report({
      severity: 'tip',
      at: [ref, ...receivers],
      message: 'whileOff',
      data: { supply, drivers, part: ref, receivers },
      why: `${ref} and what drives it live on different supplies. Without its own a diode leads from the pin to the empty rail, and all that ${ref} takes flows through it. Switch ${supply} on first, let the program start with these pins low, or put about 330 Ω into each line.`,
      numbers: {},
    })
  }
}

/** Something of the plan needs the cable of the USB socket. */
const usesSocket = ({ features }: BoardInstance): boolean => features.some(({ id }) => id.startsWith('usb-'))

const feeder = (wiring: Wiring, board: BoardInstance, pins: readonly string[]): Source | undefined =>
  pins.flatMap((pin) => wiring.netOf(`${board.ref}.${pin}`).sources).find((one) => one.ref !== board.ref)
