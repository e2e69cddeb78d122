import { hostsBeyond } from '../circuit/lines.ts'
import type { Host, Wiring } from '../wiring/model.ts'
import { serialRole } from '../wiring/needs.ts'
import type { Report } from './finding.ts'
import { swapWires } from './mend.ts'

export const crossedLinesMessages = {
  pairCrossed: 'The lines of {one} and {two} are crossed: {plus} is joined with {minus}.',
}

/** Pins of a board that carry the data, or the clock, of I2C and of none but one controller that is fixed to its pins. */
const fixedLine = ({ board, functions }: Host): { readonly id: string; readonly line: 'sda' | 'scl' } | undefined => {
  const lines = (board?.board.controllers ?? []).flatMap(({ id, kind, matrix }) =>
    kind !== 'i2c' || matrix !== undefined
      ? []
      : (['sda', 'scl'] as const).flatMap((line) => (functions.has(`${id}.${line}`) ? [{ id, line }] : [])),
  )
  return lines.length === 1 ? lines[0] : undefined
}

/**
 * Two boards joined over I2C pins that can be nothing else of that bus, the data of each with the clock of the other. One
 * such line alone may be any signal, and so may two whose pins are those of a serial port that is led right.
 */
export function sayCrossedBoards(wiring: Wiring, report: (one: Report) => void): void {
  const beyond = hostsBeyond(wiring)
  const crossed = wiring.boards.flatMap((board, at) => {
    const pairs = [...beyond].flatMap(([end, others]) => {
      const host = wiring.hosts.get(end)
      const mine = host?.board === board ? fixedLine(host) : undefined
      return others.flatMap((other) => {
        const theirs = fixedLine(other)
        const isLater = other.board !== undefined && wiring.boards.indexOf(other.board) > at
        return host && mine && theirs && isLater ? [{ host, mine, other, theirs }] : []
      })
    })
    return pairs.flatMap((sda) =>
      pairs
        .filter(
          (scl) =>
            sda.mine.line === 'sda' &&
            scl.mine.line === 'scl' &&
            sda.theirs.line === 'scl' &&
            scl.theirs.line === 'sda' &&
            sda.mine.id === scl.mine.id &&
            sda.theirs.id === scl.theirs.id &&
            sda.other.board === scl.other.board &&
            !isSerial(sda.host, scl.host, sda.other, scl.other),
        )
        .map((scl) => [sda, scl] as const),
    )
  })
  for (const [sda, scl] of crossed)
    report({
      severity: 'fault',
      at: [sda.host.end, scl.host.end, sda.other.end, scl.other.end],
      message: 'pairCrossed',
      data: { one: sda.host.ref, two: sda.other.ref, plus: sda.host.end, minus: sda.other.end },
      why: 'Data goes to data and clock to clock: SDA to SDA, SCL to SCL. On these pins the hardware cannot change them round.',
      numbers: {},
      propose: () => swapWires(wiring, sda.other.end, scl.other.end),
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
