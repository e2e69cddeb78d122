import type { Net } from '../wiring/model.ts'
import { type Circuit, type Element, railOf, switchedSide } from './circuit.ts'
import { alternates, canHold, type Way } from './reach.ts'

/** What one side of a load leads to: the volts of a rail, or something that may be high and low. */
type Hold = number | 'moves'

/** Volts between two rails from which a load between them takes a current that counts. */
const LEAST_OVER = 0.3

/**
 * The level, in volts, to which alone both sides of a load lead, over whatever is switched on: between two transistors to
 * ground no current ever flows. Undefined where one can, and where a side leads nowhere yet.
 */
export function oneLevel(circuit: Circuit, load: Element): number | undefined {
  const sides = [load.netA, load.netB].map((net) => ({
    up: holdsOf(circuit, net, load, 'up'),
    down: holdsOf(circuit, net, load, 'down'),
  }))
  const [a, b] = sides
  if (!a || !b) return undefined
  const flows = (from: ReadonlySet<Hold>, to: ReadonlySet<Hold>): boolean =>
    [...from].some((high) => [...to].some((low) => high === 'moves' || low === 'moves' || high > low + LEAST_OVER))
  const all = new Set(sides.flatMap(({ up, down }) => [...up, ...down]))
  if (sides.some(({ up, down }) => up.size + down.size === 0) || flows(a.up, b.down) || flows(b.up, a.down))
    return undefined
  const [level] = [...all].filter((one) => one !== 'moves')
  return level
}

/** What a current that comes out at a net, or goes in there, comes from or goes to. */
function holdsOf(circuit: Circuit, start: Net, load: Element, way: Way): ReadonlySet<Hold> {
  const found = new Set<Hold>()
  const nets = new Set([start])
  for (const net of nets) {
    const rail = railOf(net)
    if (rail) {
      found.add(rail.volts)
      continue
    }
    for (const port of circuit.at(net)) {
      const channel = circuit.channels.find(({ output }) => output === port.terminal.end)
      if (channel) {
        if (channel.part.part.build !== 'component') found.add(channel.facts.supply === undefined ? 0 : 'moves')
      } else if (canHold(circuit, port, (one) => one.part === load.part)) found.add('moves')
    }
    for (const to of throughTransistors(circuit, net)) nets.add(to)
    for (const element of circuit.on(net)) {
      if (element.part === load.part || (element.kind === 'capacitor' && !alternates(load))) continue
      if (element.oneWay && element[way === 'down' ? 'netA' : 'netB'] !== net) continue
      const other = element.netA === net ? element.netB : element.netA
      if (other.wired) nets.add(other)
      else found.add('moves')
    }
  }
  return found
}

/** Nets that a transistor joins with one while it conducts, whichever rail it is for. */
const throughTransistors = ({ channels, wiring }: Circuit, net: Net): Net[] =>
  channels.flatMap((channel) => {
    const side = switchedSide(channel)
    if (side === undefined) return []
    const [moved, held] = [wiring.netOf(channel.output), wiring.netOf(side)]
    return moved === net ? [held] : held === net ? [moved] : []
  })
