import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { swapWires } from './mend.ts'

export const crossedLinesMessages = {
  pairCrossed: 'The lines of {one} and {two} are crossed: {plus} is joined with {minus}.',
}

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
