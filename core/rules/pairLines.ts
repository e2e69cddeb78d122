import { circuitOf } from '../circuit/circuit.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const pairLinesMessages = {
  halfPair: '{one} is joined with {other}, and {lacking} with nothing: the line has two wires.',
  loaded: '{resistors} {resistors:loads/load} {plus} and {minus} with {ohms}, and the line bears {least} at least.',
}

/** Lines of two wires, RS-485 and CAN: of which one is missing, or that resistors across them load too much. */
export function sayPairLines(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const said = new Set<string>()
  for (const { ref, part } of wiring.parts) {
    const lines = part.pins.filter(({ line }) => line !== undefined)
    const [plus, minus] = ['plus', 'minus'].map((way) => lines.find(({ line }) => line === way))
    if (!plus || !minus) continue
    for (const [one, two] of [
      [plus, minus],
      [minus, plus],
    ] as const) {
      const [end, lacking] = [`${ref}.${one.id}`, `${ref}.${two.id}`]
      const other = wiring
        .netOf(end)
        .ends.map((each) => wiring.terminal(each))
        .find((each) => each?.owner.kind === 'part' && each.ref !== ref && each.partPin?.line === one.line)
      if (other?.owner.kind !== 'part' || wiring.netOf(lacking).wired) continue
      const theirs = other.owner.part.pins.find(({ line }) => line === two.line)
      const back = `${other.ref}.${theirs?.id}`
      // Where both lack it, the first of the two says so.
      if (said.has(back)) continue
      said.add(lacking)
      report({
        severity: 'fault',
        at: [lacking, end, other.end],
        message: 'halfPair',
        data: { one: end, lacking, other: other.end },
        why: 'What is sent is the difference between the two wires. With one alone nothing arrives, or now and then, whatever the ground does.',
        numbers: {},
        propose: () => [{ title: `Join ${lacking} to ${back}`, edits: [{ do: 'connect', from: lacking, to: back }] }],
      })
    }
    const [high, low] = [wiring.netOf(`${ref}.${plus.id}`), wiring.netOf(`${ref}.${minus.id}`)]
    const across = circuit
      .on(high)
      .filter(({ kind, netA, netB }) => kind === 'resistor' && (netA === high ? netB : netA) === low)
    const siemens = across.reduce((sum, { ohms }) => sum + 1 / (ohms ?? Number.POSITIVE_INFINITY), 0)
    const least = plus.lineOhms
    const line = `${high.index} ${low.index}`
    if (least === undefined || high === low || siemens * least <= 1 || said.has(line)) continue
    said.add(line)
    report({
      severity: 'fault',
      at: [...across.map((one) => one.part.ref), `${ref}.${plus.id}`, `${ref}.${minus.id}`],
      message: 'loaded',
      data: {
        resistors: across.map((one) => one.part.ref),
        plus: `${ref}.${plus.id}`,
        minus: `${ref}.${minus.id}`,
        ohms: formatQuantity(1 / siemens, 'Ω'),
        least: formatQuantity(least, 'Ω'),
      },
      why: 'Both ends of a line are closed with 120 Ω, which makes 60 Ω for whoever sends. Less than the standard allows leaves too small a difference between the two wires, and the driver grows hot.',
      numbers: { ohms: 1 / siemens, least },
    })
  }
}
