import { circuitOf, type Element } from '../circuit/circuit.ts'
import { drivenLoads, ratingTogether } from '../circuit/loads.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { connect, type Decision } from './progress.ts'

/**
 * Motors for which no bridge is left go side by side with others of their kind, as the two wheels of one side do, where
 * the driver bears both: one more at each, and only when that is enough for all of them.
 */
export function sideBySide(wiring: Wiring, left: readonly SignalUse[]): Decision[] {
  const circuit = circuitOf(wiring)
  const open = new Set(left.map(({ end }) => end))
  const waiting = circuit.elements.filter(({ kind, part }) => {
    const legs = wiring.signals.filter((use) => use.part === part && use.facts.needs === 'bridge')
    return kind === 'winding' && legs.length === 2 && legs.every(({ end }) => open.has(end))
  })
  const alone = drivenLoads(circuit).filter(
    ({ element, channels: [first, ...others] }) =>
      element.kind === 'winding' &&
      first?.facts.supply !== undefined &&
      others.length === 1 &&
      [first, ...others].every(({ part, loads }) => part === first.part && loads.length === 1),
  )
  return waiting.flatMap((element) => {
    const twins = alone.filter((one) => isAlike(one.element, element))
    const alike = waiting.filter((one) => isAlike(one, element))
    const twin = twins[alike.indexOf(element)]
    const driver = twin?.channels[0]?.part.ref
    if (!twin || twins.length !== alike.length || !bearsTwo(wiring, twin)) return []
    return twin.channels.map(({ output }) => {
      const leg = wiring.netOf(output) === twin.element.netA ? element.a : element.b
      return connect(
        leg,
        output,
        `side by side with ${twin.element.part.ref}: no output is left, and ${driver} bears both`,
      )
    })
  })
}

/**
 * A load that came to an output of an array just now, and takes more than that is good for, gets as many more beside it as
 * it needs, moved by the same pin: outputs of one chip share their current evenly enough. What the maker wired stays.
 */
export function sharedOutputs(wiring: Wiring, before: Wiring): Decision[] {
  const circuit = circuitOf(wiring)
  const free = circuit.channels.filter(
    ({ output, inputs }) => [output, ...inputs].every((end) => !wiring.netOf(end).wired) && inputs.length === 1,
  )
  const strained = drivenLoads(circuit).flatMap(({ element: { part, runs = 0, starts = runs }, channels }) => {
    const [first, ...others] = channels
    const [input, ...more] = first?.inputs ?? []
    if (!first || input === undefined || others.length + more.length + first.enables.length > 0) return []
    if (before.netOf(first.output).wired) return []
    const { good = 0, most = 0 } = ratingTogether(wiring, channels)
    const lacks = good > 0 ? Math.ceil(runs / good) - 1 : 0
    return lacks > 0 && starts <= most ? [{ part, runs, good, first, input, lacks }] : []
  })
  const decisions: Decision[] = []
  for (const part of new Set(strained.map((one) => one.part))) {
    const mine = strained.filter((one) => one.part === part)
    const room = free.filter((one) => one.part === mine[0]?.first.part)
    // All colours of a strip, or none.
    if (mine.reduce((sum, { lacks }) => sum + lacks, 0) > room.length) continue
    for (const { runs, good, first, input, lacks } of mine)
      for (const beside of room.splice(0, lacks)) {
        free.splice(free.indexOf(beside), 1)
        const why = `${Math.round(runs)} mA for ${part.ref}, and one output is good for ${good} mA`
        decisions.push(connect(beside.output, first.output, why))
        for (const end of beside.inputs)
          decisions.push(connect(end, input, `moves with ${input}: both carry ${part.ref}`))
      }
  }
  return decisions
}

const isAlike = (one: Element, { part, runs, starts }: Element): boolean =>
  one.part.part === part.part && one.runs === runs && one.starts === starts

function bearsTwo(
  wiring: Wiring,
  { element: { runs, starts }, channels }: ReturnType<typeof drivenLoads>[number],
): boolean {
  const { good, most } = ratingTogether(wiring, channels)
  const bears = (limit: number | undefined, of: number | undefined): boolean =>
    limit !== undefined && of !== undefined && 2 * of <= limit
  return bears(good, runs) && bears(most, starts ?? runs)
}
