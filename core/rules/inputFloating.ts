import { candidates } from '../assign/candidates.ts'
import { BUS_PULL_OHMS, PULL_OHMS, resistorEdits } from '../assign/pullUps.ts'
import { rewire } from '../assign/rewire.ts'
import { unpulledSides } from '../circuit/passes.ts'
import { networkOf } from '../circuit/still.ts'
import { thrownLevels } from '../circuit/thrown.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { companionEdits } from '../plan/kit.ts'
import { companionsOf } from '../wiring/companions.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { addPull } from './mend.ts'

export const inputFloating: Rule = {
  meta: {
    id: 'input-floating',
    severities: ['fault', 'caution'],
    about:
      'A required input is left open on purpose although it must not float, a switch to the supply has nothing that holds the line low, or a transistor between two levels has no resistor that makes the high.',
    messages: {
      open: '{signal} is left open, and it is an input that the part needs.',
      unheld: '{part} closes to the supply, and nothing holds {pin} low while it is open.',
      latched: '{pin} may stay high after {part} opens: {ohms} pull it down.',
      unbiased: '{part} comes to {pin} over {capacitor} alone, and nothing holds {pin} at a middle.',
      unpulled: 'Nothing pulls {side} up: {part} leads only lows through, so {signal} has no high on that side.',
    },
    limits: ['latched'],
    lacking: ['open', 'unheld', 'unbiased', 'unpulled'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    sayUnpulled(wiring, report)
    for (const use of wiring.signals)
      if (isLeftOpen(use)) sayOpen(wiring, use, report)
      else {
        sayThrown(wiring, use, report)
        sayUnbiased(wiring, use, report)
        sayOnSupply(wiring, use, report)
      }
  },
}

type Say = (found: Report) => void

/** A side of a transistor between two levels that no resistor pulls up. */
function sayUnpulled(wiring: Wiring, report: Say): void {
  for (const { part, side, use, to } of unpulledSides(wiring)) {
    report({
      severity: 'fault',
      at: [side, use.end],
      message: 'unpulled',
      data: { part: part.ref, side, signal: use.end },
      why: 'A transistor between two levels leads a low through and lets go of a high: on each side where somebody listens, a resistor to the supply of that side makes it (AN10441, 2).',
      numbers: {},
      propose: () => {
        const made = to === undefined ? undefined : resistorEdits(wiring, side, to, PULL_OHMS, `pull-up of ${side}`)
        return made ? [{ title: `Add ${formatQuantity(PULL_OHMS, 'Ω')} from ${side} to ${to}`, edits: made.edits }] : []
      },
    })
  }
}

/** An input that a part needs, and that the maker leaves open; a leg of a lamp or a winding is none. */
const isLeftOpen = ({ state, facts, part }: SignalUse): boolean =>
  state === 'unused' &&
  facts.required &&
  facts.direction === 'in' &&
  !part.part.inner.some((inner) => inner.kind !== 'buffer' && inner.between.includes(facts.pin)) &&
  facts.open === undefined

function sayOpen(wiring: Wiring, use: SignalUse, report: Say): void {
  const touched = use.part.part.pins.some((pin) => wiring.netOf(`${use.part.ref}.${pin.id}`).wired)
  if (touched)
    report({
      severity: 'caution',
      at: [use.end],
      message: 'open',
      data: { signal: use.end },
      why: `An open input of a chip floats: it picks up whatever is near and switches at random, which may also raise its current. ${use.facts.text ? `It is there for: ${use.facts.text}.` : ''}`.trim(),
      numbers: {},
      propose: () =>
        candidates(wiring, use)
          .filter((one) => one.blocked === undefined)
          .slice(0, 2)
          .map(({ host }) => ({
            title: `Wire ${use.end} to ${host.end}`,
            edits: [
              { do: 'use-again', end: use.end },
              { do: 'connect', from: use.tail, to: host.end },
              ...companionEdits(wiring.plan, wiring.catalog, use.part.ref, (facts) =>
                companionsOf(wiring, use.part).some(
                  (one) => one.facts === facts && !one.present && facts.across?.includes(use.facts.pin) === true,
                ),
              ),
            ],
          })),
    })
}

/** A contact whose far side lies on the supply needs something that holds the line low meanwhile. */
function sayOnSupply(wiring: Wiring, use: SignalUse, report: Say): void {
  const contact = use.part.part.inner.find((inner) => inner.kind === 'contact' && inner.between.includes(use.facts.pin))
  const link = use.hosts[0]
  if (!contact || !link || use.facts.pull === undefined) return
  const far = `${use.part.ref}.${contact.between.find((pin) => pin !== use.facts.pin)}`
  if (wiring.netOf(far).sources.length === 0) return
  const pulled = networkOf(wiring).pulled(wiring.netOf(link.host.end))
  // Of a line that something holds level-logic says whether the contact changes it.
  if (pulled !== undefined) {
    sayLatched(wiring, use, link.host, report)
    return
  }
  sayUnheld(wiring, use, link.host, link.host.functions.has('pull-down'), report)
}

/** A resistor that is too weak to bring down an input that was high, on a chip of which some hold such an input. */
function sayLatched(wiring: Wiring, use: SignalUse, host: Host, report: Say): void {
  const most = host.board?.board.pullDownMostOhms
  const held = networkOf(wiring).thevenin(wiring.netOf(host.end))
  if (most === undefined || !held || held.volts > 0.1 || held.ohms <= most) return
  report({
    severity: 'caution',
    at: [use.end, host.end],
    message: 'latched',
    data: { pin: host.end, ohms: formatQuantity(held.ohms, 'Ω'), part: use.part.ref },
    why: `Early chips of this kind hold an input at about 2 V once it was high, unless ${formatQuantity(most, 'Ω')} or less pull it down. A contact to ground with the pull-up inside the pin is not concerned.`,
    numbers: { ohms: Math.round(held.ohms), most },
  })
}

function sayUnheld(wiring: Wiring, use: SignalUse, host: Host, internal: boolean, report: Say): void {
  const most = host.board?.board.pullDownMostOhms
  report({
    severity: internal ? 'caution' : 'fault',
    at: [use.end, host.end],
    message: 'unheld',
    data: { part: use.part.ref, pin: host.end },
    why: `While the contact is open the line belongs to nobody and reads at random. ${internal ? `${host.end} has a pull-down inside${most === undefined ? ': the program must switch it on.' : `, which does not bring it down on early chips of this kind: take a resistor of ${formatQuantity(most, 'Ω')} at most.`}` : `${host.end} has no pull-down inside.`} A contact to ground with the usual pull-up is the simpler way.`,
    numbers: {},
    propose: () => [
      ...addPull(wiring, use, 'down', most === undefined ? PULL_OHMS : BUS_PULL_OHMS),
      ...(internal ? [] : rewire(wiring, use)),
    ],
  })
}

/** A sound that is read behind a capacitor swings around nothing, where no divider gives the pin a middle. */
function sayUnbiased(wiring: Wiring, { end, part, facts, hosts }: SignalUse, report: Say): void {
  if (!facts.alternates || facts.needs !== 'analog-in') return
  for (const { host, via } of hosts) {
    const net = wiring.netOf(host.end)
    const capacitor = wiring.parts.find(
      ({ ref, part: { pins, inner } }) =>
        via.includes(ref) &&
        inner.some(({ kind }) => kind === 'capacitance') &&
        pins.some(({ id }) => wiring.netOf(`${ref}.${id}`) === net),
    )
    if (!capacitor || networkOf(wiring).pulled(net) !== undefined) continue
    report({
      severity: 'fault',
      at: [end, host.end],
      message: 'unbiased',
      data: { part: part.ref, pin: host.end, capacitor: capacitor.ref },
      why: `A capacitor keeps the steady part back: of the swing that is left one half lies below ground, where a converter reads nothing and a pin is not made to go. Two equal resistors from the supply of the converter to ground hold the pin at the middle; or leave ${capacitor.ref} out, where the module swings around half its supply by itself.`,
      numbers: {},
    })
  }
}

/** A change-over contact that leads to the supply in one position and nowhere in the other. */
function sayThrown(wiring: Wiring, use: SignalUse, report: Say): void {
  const levels = thrownLevels(wiring, use)
  if (!levels?.opens || !levels.led.every((at) => at > 0)) return
  if (levels.rest === undefined || levels.inside === 'pull-down')
    sayUnheld(wiring, use, levels.host, levels.inside !== undefined, report)
}
