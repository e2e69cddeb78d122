import { type Circuit, circuitOf, type DriverChannel, type Element } from '../circuit/circuit.ts'
import { drivenLoads, ratingTogether } from '../circuit/loads.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { listWords } from './shared.ts'

export const togetherMessages = {
  togetherOver: '{loads} take {takes} mA together, and {part} gives {most} mA at most.',
  togetherGood:
    '{loads} take {takes} mA together; {part} is good for {good} mA, and for {most} mA only for a moment or with a cooler.',
  togetherStarts: '{loads} take {starts} mA when they start together, and {part} gives {most} mA at most.',
}

/** Loads side by side at one output, or between the same two. */
interface Group {
  readonly channels: readonly DriverChannel[]
  readonly elements: Element[]
}

function groupsOf(circuit: Circuit): Group[] {
  const { wiring } = circuit
  const groups = new Map<string, Group>()
  for (const { element, channels } of drivenLoads(circuit)) {
    const [first] = channels
    // Several drivers in one load's way are a matter of their own.
    if (!first || channels.some(({ part }) => part !== first.part)) continue
    const outputs = new Set<Net>(channels.map(({ output }) => wiring.netOf(output)))
    // Behind another load it takes what that takes.
    if (![element.netA, element.netB].some((net) => outputs.has(net))) continue
    const key = `${first.part.ref} ${[...outputs].map(({ index }) => index).sort((a, b) => a - b)}`
    const group = groups.get(key) ?? { channels, elements: [] }
    group.elements.push(element)
    groups.set(key, group)
  }
  return [...groups.values()].filter(({ elements }) => new Set(elements.map(({ part }) => part)).size > 1)
}

/** Loads in parallel, each of which the driver would bear, and which are too much for it together. */
export function sayTogether(wiring: Wiring, report: (one: Report) => void): void {
  for (const { channels, elements } of groupsOf(circuitOf(wiring))) {
    const first = channels[0] as DriverChannel
    const { good, most } = ratingTogether(wiring, channels)
    const total = (amounts: readonly (number | undefined)[]): number =>
      amounts.reduce<number>((sum, one) => sum + (one ?? 0), 0)
    const runs = total(elements.map((one) => one.runs))
    const starts = total(elements.map((one) => one.starts ?? one.runs))
    // What is too much by itself is said of the load alone.
    const alone = (limit: number, of: 'runs' | 'starts'): boolean => elements.some((one) => (one[of] ?? 0) > limit)
    const outputs = [...new Set(channels.map(({ output }) => output))]
    const say = (severity: Report['severity'], message: string, numbers: Record<string, number>): void =>
      report({
        severity,
        message,
        at: [...outputs, ...elements.flatMap(({ a, b }) => [a, b])],
        data: {
          loads: listWords([...new Set(elements.map(({ part }) => part.ref))]),
          part: first.part.ref,
          ...numbers,
        },
        why: `They hang side by side on ${listWords(outputs)}, so that their currents add up there. A larger driver, or an output for each, is the way out.`,
        numbers,
      })
    const rounded = { takes: Math.round(runs), starts: Math.round(starts) }
    if (most !== undefined && runs > most) {
      if (!alone(most, 'runs')) say('fault', 'togetherOver', { takes: rounded.takes, most })
    } else if (good !== undefined && runs > good) {
      if (!alone(good, 'runs')) say('caution', 'togetherGood', { takes: rounded.takes, good, most: most ?? good })
    } else if (most !== undefined && starts > most && !alone(most, 'starts'))
      say('caution', 'togetherStarts', { starts: rounded.starts, most })
  }
}
