import { areOfOne, type JoinedLines, joinedLines } from '../circuit/boardLines.ts'
import type { Host, Wiring } from '../wiring/model.ts'
import { serialRole } from '../wiring/needs.ts'
import type { Report } from './finding.ts'
import { swapWires } from './mend.ts'

export const crossedLinesMessages = {
  pairCrossed: 'The lines of {one} and {two} are crossed: {plus} is joined with {minus}.',
}

/**
 * Two boards joined over pins that can be nothing else of their bus, each line with the wrong one: data of I2C with clock,
 * what one side sends over SPI with what the other one sends. One such line alone may be any signal, and so may two whose
 * pins are those of a serial port that is led right.
 */
export function sayCrossedBoards(wiring: Wiring, report: (one: Report) => void): void {
  for (const [sda, scl] of crossedPairs(joinedLines(wiring, 'i2c'), 'sda', 'scl'))
    if (!isSerial(sda.mine.host, scl.mine.host, sda.theirs.host, scl.theirs.host))
      say(
        wiring,
        [sda, scl],
        'Data goes to data and clock to clock: SDA to SDA, SCL to SCL. On these pins the hardware cannot change them round.',
        report,
      )
  // Chips that have the lines on several pins call them otherwise when they listen.
  const spi = joinedLines(wiring, 'spi').filter(({ mine, theirs }) => mine.isOnly && theirs.isOnly)
  // Without a clock in common they are no SPI.
  const isClocked = (one: JoinedLines): boolean =>
    spi.some((clock) => clock.mine.line === 'sck' && clock.theirs.line === 'sck' && areOfOne(clock, one))
  for (const [out, back] of crossedPairs(spi, 'mosi', 'miso'))
    if (isClocked(out))
      say(
        wiring,
        [out, back],
        'The names say who sends, whichever side a board is on: MOSI goes to MOSI and MISO to MISO. Crossed, the two senders meet, and the two that listen hear nothing.',
        report,
      )
}

/** Two lines between the same controllers, the one of each with the other of the other. */
const crossedPairs = (all: readonly JoinedLines[], one: string, two: string): [JoinedLines, JoinedLines][] =>
  all.flatMap((first) =>
    all.flatMap((second): [JoinedLines, JoinedLines][] =>
      first.mine.line === one &&
      first.theirs.line === two &&
      second.mine.line === two &&
      second.theirs.line === one &&
      areOfOne(first, second)
        ? [[first, second]]
        : [],
    ),
  )

function say(
  wiring: Wiring,
  [one, two]: readonly [JoinedLines, JoinedLines],
  why: string,
  report: (one: Report) => void,
): void {
  const [a, b] = [one.theirs.host, two.theirs.host]
  report({
    severity: 'fault',
    at: [one.mine.host.end, two.mine.host.end, a.end, b.end],
    message: 'pairCrossed',
    data: { one: one.mine.host.ref, two: a.ref, plus: one.mine.host.end, minus: a.end },
    why,
    numbers: {},
    propose: () => swapWires(wiring, a.end, b.end),
  })
}

/** True for pins over which two serial ports are joined as they should be. */
const isSerial = (one: Host, two: Host, oneOther: Host, twoOther: Host): boolean =>
  (serialRole(one, 'tx') && serialRole(two, 'rx') && serialRole(oneOther, 'rx') && serialRole(twoOther, 'tx')) ||
  (serialRole(one, 'rx') && serialRole(two, 'tx') && serialRole(oneOther, 'tx') && serialRole(twoOther, 'rx'))

/** The two lines of a differential pair, joined crosswise between two parts: plus with minus. */
export function sayCrossedLines(wiring: Wiring, report: (one: Report) => void): void {
  const crossed = new Map<string, string[]>()
  for (const part of wiring.parts)
    for (const pin of part.part.pins) {
      if (pin.line !== 'plus') continue
      const end = `${part.ref}.${pin.id}`
      const other = wiring.netOf(end).ends.find((one) => {
        const terminal = wiring.terminal(one)
        return terminal?.partPin?.line === 'minus' && terminal.ref !== part.ref
      })
      const ref = other === undefined ? undefined : wiring.terminal(other)?.ref
      if (other === undefined || ref === undefined) continue
      const key = [part.ref, ref].sort().join(' ')
      crossed.set(key, [...(crossed.get(key) ?? []), end, other])
    }
  for (const [key, ends] of crossed) {
    const [one, two] = key.split(' ') as [string, string]
    const [plus, minus] = ends as [string, string]
    const mine = wiring.terminal(plus)?.ref
    const lines = wiring.parts.find(({ ref }) => ref === mine)?.part.pins.filter(({ line }) => line !== undefined) ?? []
    report({
      severity: 'fault',
      at: ends,
      message: 'pairCrossed',
      data: { one, two, plus, minus },
      why: 'The receiver compares the two lines with each other. Crossed, every bit arrives upside down, and nothing is understood. Each line goes to the one of the same name.',
      numbers: {},
      propose: () =>
        lines.length === 2 ? swapWires(wiring, `${mine}.${lines[0]?.id}`, `${mine}.${lines[1]?.id}`) : [],
    })
  }
}
