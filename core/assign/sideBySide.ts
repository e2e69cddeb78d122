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
