import { countsFilling } from '../catalog/filling.ts'
import { circuitOf } from '../circuit/circuit.ts'
import type { Wiring } from '../wiring/model.ts'
import { groundPost } from '../wiring/supply.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'
import { looseParts } from './spares.ts'

/**
 * Where no pin of the plan measures volts, a loose capacitor between the line of a resistive sensor and ground lets a
 * plain pin read it: emptied by the pin, it takes the longer to fill the more the sensor resists.
 */
export function timeByCapacitors(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  if ([...wiring.hosts.values()].some(({ functions }) => functions.has('analog-in')))
    return { wiring, decisions, refused: [] }
  const loose = looseParts(wiring, 'capacitor').filter(
    ({ ref, part, options }) => wanted(ref) && countsFilling(part.id, options),
  )
  const waiting = pinsWithCapacitor(wiring)
  for (const { end, part, facts, state } of wiring.signals) {
    if (facts.needs !== 'analog-in' || facts.direction !== 'passive' || state !== 'open' || !wanted(part.ref)) continue
    const ground = groundPost(part.home ?? wiring.boards[0])
    const begun = waiting.shift()
    if (begun !== undefined) {
      decisions.push(connect(end, begun, `the capacitor that ${part.ref} fills hangs there`))
      continue
    }
    const capacitor = loose.shift()
    const [plus, minus] = capacitor?.part.pins.map(({ id }) => `${capacitor.ref}.${id}`) ?? []
    if (plus === undefined || minus === undefined || ground === undefined) continue
    const why = `no pin measures volts: how long ${part.ref} takes to fill it can be counted`
    decisions.push(connect(plus, end, why), connect(minus, ground, why))
  }
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/** Pins of boards that nothing uses but a capacitor of such a size to ground: the maker has begun there. */
function pinsWithCapacitor(wiring: Wiring): string[] {
  const used = new Set(wiring.signals.flatMap(({ hosts }) => hosts.map(({ host }) => host.end)))
  return circuitOf(wiring).elements.flatMap(({ kind, part, netA, netB }) => {
    if (kind !== 'capacitor' || !countsFilling(part.part.id, part.options) || netA.ground === netB.ground) return []
    const pin = (netA.ground ? netB : netA).ends.find((end) => wiring.terminal(end)?.host?.board !== undefined)
    return pin === undefined || used.has(pin) ? [] : [pin]
  })
}
