import { PULL_OHMS, resistorEdits } from '../assign/pullUps.ts'
import { rewire } from '../assign/rewire.ts'
import { STRONG_OHMS } from '../circuit/boardPulls.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { isPulledBeyond } from '../circuit/pulledBeyond.ts'
import { readOutputs } from '../circuit/readOutputs.ts'
import { networkOf } from '../circuit/still.ts'
import { thrownLevels } from '../circuit/thrown.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { applyEdits, type Edit, type Fix } from '../plan/edit.ts'
import { activeCautions } from '../wiring/availability.ts'
import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { meets } from '../wiring/needs.ts'
import { resolve } from '../wiring/resolve.ts'
import { groundPost } from '../wiring/supply.ts'
import type { Report, Rule } from './finding.ts'
import { addPull } from './mend.ts'
import { usesByHost } from './shared.ts'

export const pinPull: Rule = {
  meta: {
    id: 'pin-pull',
    severities: ['fault', 'caution'],
    about:
      'A line relies on the internal pull of a pin that has none, or needs the opposite of a pull that is fixed on the board.',
    messages: {
      against: '{signal} needs a pull-{way}, and {pin} is pulled the other way on the board.',
      behind: '{signal} relies on a pull-{way}, and between it and {pin} lies {buffer}, through which none comes.',
      none: '{signals} {signals:relies/rely} on a pull-{way}, and {pins} {pins:has/have} none inside.',
    },
    lacking: ['none', 'behind'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const bare = new Map<string, Bare[]>()
    for (const [host, uses] of usesByHost(wiring)) {
      const pulled = networkOf(wiring).pulled(wiring.netOf(host.end))
      for (const use of uses) {
        const way = use.facts.pull
        if (way === undefined || use.facts.pullMostOhms !== undefined || !meets(host, use)) continue
        const against = activeCautions(host).find(
          (one) =>
            one.id === (way === 'up' ? 'fixed-pull-down' : 'fixed-pull-up') ||
            (one.id === 'boot-strap' &&
              one.held !== `pull-${way}` &&
              (one.heldOhms ?? Number.POSITIVE_INFINITY) <= STRONG_OHMS),
        )
        if (against && !closesToSupply(wiring, use)) {
          const ohms = against.heldOhms
          report({
            severity: 'caution',
            at: [use.end, host.end],
            message: 'against',
            data: { signal: use.end, way, pin: host.end },
            why: `${against.text} The internal pull of tens of kilohms and the fixed one${ohms === undefined ? '' : ` of ${formatQuantity(ohms, 'Ω')}`} divide the supply, and the level comes to lie between high and low.`,
            numbers: ohms === undefined ? {} : { fixedOhms: ohms },
            propose: () => rewire(wiring, use),
          })
          continue
        }
        // A resistor of the plan, of a module or of the board does it; so does the pin itself.
        const beyond = bufferBefore(wiring, use, host)
        if (beyond !== undefined) {
          if (networkOf(wiring).pulled(wiring.netOf(use.end)) === undefined)
            sayBehindBuffer(wiring, use, beyond, report)
          continue
        }
        if (pulled !== undefined || host.functions.has(`pull-${way}`) || isPulledBeyond(wiring, host, way)) continue
        // A change-over contact that leads to a rail in each position needs no pull; to the supply only, one down.
        const thrown = thrownLevels(wiring, use)
        if (thrown && (!thrown.opens || thrown.led.every((at) => at > 0))) continue
        const key = `${use.part.ref} ${host.ref} ${way}`
        bare.set(key, [...(bare.get(key) ?? []), { use, host, way }])
      }
    }
    for (const lines of bare.values()) sayBare(wiring, lines, report)
    sayOutputs(wiring, report)
  },
}

/** A buffer between a signal and its pin: it makes the level anew, and leads no pull back. */
function bufferBefore(wiring: Wiring, use: SignalUse, host: Host): PartInstance | undefined {
  const via = use.hosts.find((one) => one.host === host)?.via ?? []
  return wiring.parts.find(({ ref, part }) => via.includes(ref) && part.inner.some(({ kind }) => kind === 'buffer'))
}

function sayBehindBuffer(wiring: Wiring, use: SignalUse, buffer: PartInstance, report: (one: Report) => void): void {
  const way = use.facts.pull ?? 'up'
  report({
    severity: 'fault',
    at: [use.end, buffer.ref],
    message: 'behind',
    data: { signal: use.end, way, pin: use.hosts[0]?.host.end, buffer: buffer.ref },
    why: 'While the contact is open nothing holds the input of the buffer, and it passes on whatever it picks up. A resistor at its input does it, not one behind it.',
    numbers: {},
    propose: () => addPull(wiring, use, way, PULL_OHMS),
  })
}

/** A contact that leads to a supply wants its line low while it is open. */
function closesToSupply(wiring: Wiring, { part, end }: SignalUse): boolean {
  const far = circuitOf(wiring).elements.flatMap((one) =>
    one.part !== part || one.kind !== 'contact' ? [] : one.a === end ? [one.netB] : one.b === end ? [one.netA] : [],
  )
  return far.length > 0 && far.every((net) => (net.sources[0]?.volts ?? 0) > 0)
}

interface Bare {
  readonly use: SignalUse
  readonly host: Host
  readonly way: 'up' | 'down'
}

/** Lines of one part that nothing holds, one finding. */
function sayBare(wiring: Wiring, lines: readonly Bare[], report: (one: Report) => void): void {
  const [{ use, way }] = lines as readonly [Bare, ...Bare[]]
  const uses = lines.map((one) => one.use.end)
  const hosts = [...new Set(lines.map((one) => one.host.end))]
  report({
    severity: 'fault',
    at: [...uses, ...hosts],
    message: 'none',
    data: { signals: uses, way, pins: hosts },
    why: `Between its pulses nothing holds the line, so the pin reads whatever the air brings: presses come and go by themselves. A resistor of ${formatQuantity(PULL_OHMS, 'Ω')} to ${way === 'up' ? 'the logic supply' : 'ground'} holds it, or a pin that has its own.`,
    numbers: {},
    propose: () =>
      lines.length === 1 ? [...addPull(wiring, use, way, PULL_OHMS), ...rewire(wiring, use)] : allPulls(wiring, lines),
  })
}

/** A transistor only ever leads to one side: what it does not lead, a resistor or the pin's own pull holds meanwhile. */
function sayOutputs(wiring: Wiring, report: (one: Report) => void): void {
  for (const { channel, host, on, off } of readOutputs(wiring)) {
    const way = on === 0 ? 'up' : 'down'
    if (off !== undefined || host.functions.has(`pull-${way}`)) continue
    const rail = host.board?.board.rails.find((one) => one.logic)?.pins[0]
    const to = way === 'down' ? groundPost(host.board) : rail && `${host.ref}.${rail}`
    report({
      severity: 'fault',
      at: [channel.output, host.end],
      message: 'none',
      data: { signals: [channel.output], way, pins: [host.end] },
      why: `While ${channel.part.ref} does not conduct nothing holds the line, and the pin reads whatever the air brings. A resistor of ${formatQuantity(PULL_OHMS, 'Ω')} to ${way === 'up' ? 'the logic supply' : 'ground'} holds it, or a pin that has its own.`,
      numbers: {},
      propose: () => {
        const { output } = channel
        const made =
          to === undefined ? undefined : resistorEdits(wiring, output, to, PULL_OHMS, `pull-${way} of ${output}`)
        return made
          ? [{ title: `Add ${formatQuantity(PULL_OHMS, 'Ω')} from ${output} to ${to}`, edits: made.edits }]
          : []
      },
    })
  }
}

/** A resistor for each of several lines. */
function allPulls(wiring: Wiring, lines: readonly Bare[]): Fix[] {
  let plan = wiring.plan
  const edits: Edit[] = []
  for (const { use, way } of lines) {
    const here = resolve(plan, wiring.catalog)
    const same = here.signal(use.end)
    const [fix] = same ? addPull(here, same, way, PULL_OHMS) : []
    if (!fix) return []
    edits.push(...fix.edits)
    plan = applyEdits(plan, fix.edits)
  }
  return [{ title: `Add ${lines.length} resistors of ${formatQuantity(PULL_OHMS, 'Ω')}`, edits }]
}
