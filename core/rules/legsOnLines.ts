import { circuitOf } from '../circuit/circuit.ts'
import { behindResistors, LEAST_HOLD } from '../circuit/reach.ts'
import { busNeed } from '../wiring/buses.ts'
import type { SignalUse, TieUse, Wiring } from '../wiring/model.ts'
import { wayOf } from '../wiring/sharing.ts'
import { groundEnd, supplyEnd } from '../wiring/supply.ts'
import type { Report } from './finding.ts'
import { moveTo } from './mend.ts'

export const legsOnLinesMessages = {
  leg: '{leg} belongs on {target} and hangs on the line of {other}.',
}

/**
 * Lamps, buzzers and contacts on a pin whose other leg, which belongs on a rail, hangs on a line that another part makes:
 * a bus, or an output. Between two pins of a board a lamp may be lit both ways on purpose, and a lamp from a supply to an
 * output shows what that does.
 */
export function sayLegsOnLines(wiring: Wiring, report: (one: Report) => void): void {
  for (const tie of wiring.ties) {
    const { part, end, to } = tie
    if (part.part.build !== 'component' || (to !== 'ground' && to !== 'supply')) continue
    const isOnPin = wiring.signals.some((use) => use.part === part && use.end !== end && use.hosts.length > 0)
    const other = isOnPin ? lineAt(wiring, tie) : undefined
    if (!other) continue
    const rail = to === 'ground' ? groundEnd(wiring, part) : supplyEnd(wiring, part)
    report({
      severity: 'fault',
      at: [end, other.end],
      message: 'leg',
      data: { leg: end, target: to === 'ground' ? 'ground' : 'its supply', other: other.end },
      why: busNeed(other.facts.needs)
        ? 'What else hangs on a line of a bus pulls its levels about, and whoever listens reads nonsense.'
        : `${other.end} puts out levels of its own: what flows through ${part.ref} depends on two that know nothing of each other.`,
      numbers: {},
      propose: () => {
        const wires = wiring.plan.wires.filter((wire) => wire[0] === end || wire[1] === end)
        // Where the line goes on from the leg, that wire is not taken from it.
        return rail === undefined || wires.length > 1 ? [] : moveTo(wiring, end, rail)
      },
    })
  }
}

/** A signal of another part on the wire of a leg, or behind a resistor in series, that makes the level there. */
function lineAt(wiring: Wiring, { part, end }: TieUse): SignalUse | undefined {
  const nets = new Set(behindResistors(circuitOf(wiring), wiring.netOf(end), LEAST_HOLD))
  if ([...nets].some((net) => net.ground || net.sources.length > 0)) return undefined
  const isContact = part.part.category === 'input'
  return wiring.signals.find((use) => {
    if (use.part === part || use.part.part.build === 'component') return false
    const isThere = nets.has(wiring.netOf(use.end)) || use.hosts.some(({ host }) => nets.has(wiring.netOf(host.end)))
    return isThere && (busNeed(use.facts.needs) !== undefined || (!isContact && wayOf(use) !== 'listens'))
  })
}
