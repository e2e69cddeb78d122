import { entryOf } from '../base/entryOf.ts'
import { circuitOf, type Element } from '../circuit/circuit.ts'
import { fedThrough } from '../circuit/loads.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { behindBridge, keptBy, madeFor } from '../wiring/labels.ts'
import type { PartInstance, SupplyUse, Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { acrossLegsMessages, sayAcrossLegs } from './acrossLegs.ts'
import { cellVoltsMessages, sayCellVolts } from './cellPlaces.ts'
import { converterMessages, sayConverter } from './converters.ts'
import type { Report, Rule } from './finding.ts'

export const supplyRange: Rule = {
  meta: {
    id: 'supply-range',
    severities: ['fault', 'caution'],
    about:
      'A supply pin of a part or board gets a voltage outside its range, or a load behind a bridge the volts of a motor supply that it is not made for.',
    messages: {
      ...converterMessages,
      ...cellVoltsMessages,
      ...acrossLegsMessages,
      through: '{through} gets {volts} through what lies in its way, and takes {least} to {most}.',
      part: '{pin} gets {volts} and takes {least} to {most}.',
      bridge: '{load} gets up to {volts} from {driver} and takes {least} to {most}.',
      board: '{end} gets {volts} from {source} and takes {least} to {most}.',
    },
    limits: ['part', 'across'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    sayCellVolts(wiring, report)
    sayParts(wiring, report)
    sayBehindBridges(wiring, report)
    sayAcrossLegs(wiring, report)
    sayAtRails(wiring, report)
    for (const part of wiring.parts) for (const rail of part.part.rails) sayConverter(wiring, part, rail, report)
    sayBoards(wiring, report)
  },
}

/** Supplies of parts, straight and through what lies in their way. */
function sayParts(wiring: Wiring, report: (found: Report) => void): void {
  for (const part of wiring.parts)
    for (const use of part.supplies) {
      const volts = use.source && use.source.volts - minusVolts(wiring, part, use)
      const through = use.source ? undefined : fedThrough(wiring, use.pins)
      if (through && through.volts < use.facts.least)
        report({
          severity: 'fault',
          at: [through.end],
          message: 'through',
          data: {
            through: through.end,
            volts: formatVolts(through.volts),
            least: formatVolts(use.facts.least),
            most: formatVolts(use.facts.most),
          },
          why: `The ${use.typicalMilliamps ?? 'few'} mA of ${part.ref} flow through it as well, and each ohm takes its share of the volts: U = R · I. Feed the part straight.`,
          numbers: { volts: Math.round(through.volts * 100) / 100, least: use.facts.least },
          propose: () => resupply(wiring, part, () => true),
        })
      const { least, most, absolute } = use.facts
      if (volts === undefined || use.source === undefined || (volts >= least && volts <= most)) continue
      const pin = use.pins[0] as string
      report({
        severity: 'fault',
        at: [pin, use.source.end],
        message: 'part',
        data: { pin, volts: formatVolts(volts), least: formatVolts(least), most: formatVolts(most) },
        why:
          volts > most
            ? `${use.source.end} holds ${formatVolts(volts)}, ${formatVolts(volts - most)} above the range.${absolute !== undefined && volts > absolute ? ` Beyond ${formatVolts(absolute)} damage is certain.` : ' The part runs hot or dies.'}`
            : `${use.source.end} holds only ${formatVolts(volts)}, ${formatVolts(least - volts)} short. The part may start and then misread, which is harder to find than a dead one.`,
        numbers: { volts, least, most },
        propose: () => resupply(wiring, part, () => true),
      })
    }
}

/** Volts at the minus of what lies across one of several cells in a row, which stands on those below. */
function minusVolts(wiring: Wiring, part: PartInstance, { source, pins, grounds }: SupplyUse): number {
  const legs = circuitOf(wiring).elements.flatMap((one) =>
    one.part === part && pins.includes(one.a) ? one.netB : one.part === part && pins.includes(one.b) ? one.netA : [],
  )
  const below = [...grounds.map(wiring.netOf), ...legs].map(({ sources }) => sources[0]).find(Boolean)
  return below && below.ref === source?.above ? below.volts : 0
}

/** Boards that are fed at one of their pins. */
function sayBoards(wiring: Wiring, report: (found: Report) => void): void {
  for (const board of wiring.boards)
    for (const feed of board.board.feeds) {
      // All holes of a feed are one net inside the board.
      if (feed.pins.length === 0) continue
      const end = `${board.ref}.${feed.pins[0]}`
      const source = wiring.netOf(end).sources.find((one) => one.ref !== board.ref)
      if (!source || (source.volts >= feed.least && source.volts <= feed.most)) continue
      const other = board.board.feeds.find(
        (one) => one !== feed && one.pins.length > 0 && source.volts >= one.least && source.volts <= one.most,
      )
      const wire = wiring.plan.wires.find((one) => [one[0], one[1]].some((side) => side === end))
      report({
        severity: 'fault',
        at: [end, source.end],
        message: 'board',
        data: {
          end,
          volts: formatVolts(source.volts),
          source: source.end,
          least: formatVolts(feed.least),
          most: formatVolts(feed.most),
        },
        why: `${feed.title} of ${board.title}: ${source.volts > feed.most ? 'more than its range overheats or breaks what hangs behind it.' : 'below its range the regulator drops out and the board restarts at random.'}`,
        numbers: { volts: source.volts, least: feed.least, most: feed.most },
        propose: () =>
          other && wire && !wire[2]?.locked
            ? [
                {
                  title: `Feed ${board.ref} at ${other.pins[0]} instead`,
                  edits: [
                    { do: 'disconnect', from: wire[0], to: wire[1] },
                    {
                      do: 'connect',
                      from: wire[0] === end ? wire[1] : wire[0],
                      to: `${board.ref}.${other.pins[0]}`,
                    },
                  ],
                },
              ]
            : [],
      })
    }
}

/** Loads of known volts between the outputs of a bridge, whose motor supply is another one. */
function sayBehindBridges(wiring: Wiring, report: (found: Report) => void): void {
  for (const one of wiring.parts) {
    const { ref, part } = one
    const facts = wiring.catalog.parts.get(part.id)
    if (!facts?.options.some(({ id }) => id === 'volts')) continue
    // Of a motor, whose place is behind a bridge, nothing is known but what its label is said to be.
    const isStated = entryOf(entryOf(wiring.plan.parts, ref)?.options, 'volts') !== undefined
    if (facts.modes[0]?.id === 'bridge' && !isStated) continue
    const range = madeFor(wiring, one)
    const bridge = circuitOf(wiring).channels.find(
      ({ part: driver, loads, facts: { output, supply } }) =>
        supply !== undefined &&
        driver.part.provides.some(({ pins, does }) => pins.includes(output) && does.includes('bridge')) &&
        loads.some((load) => load.part.ref === ref),
    )
    const source = bridge && wiring.netOf(`${bridge.part.ref}.${bridge.facts.supply}`).sources[0]
    if (!range || !bridge || !source) continue
    const { least, most } = range
    // What is too little for one that takes its supply over the bridge was said above.
    const suits = behindBridge(source.volts, range, keptBy(bridge.part))
    if (suits === 'fits' || (suits === 'low' && one.supplies.length > 0)) continue
    report({
      severity: 'caution',
      at: [ref, bridge.part.ref, source.end],
      message: 'bridge',
      data: {
        load: ref,
        driver: bridge.part.ref,
        volts: formatVolts(source.volts),
        least: formatVolts(least),
        most: formatVolts(most),
      },
      why:
        suits === 'high'
          ? `A bridge passes on what ${source.end} gives it, less a volt or two. Pulses can keep the mean down; one line of the program that forgets them, and the load gets it all.`
          : `A bridge passes on what ${source.end} gives it, less a volt or two: the load may not move at all.`,
      numbers: { volts: source.volts, least, most },
    })
  }
}

/**
 * Loads of known volts with a leg at a source, in a way of wiring that takes its supply from a driver: a motor that could
 * turn both ways, on a transistor or a contact.
 */
function sayAtRails(wiring: Wiring, report: (found: Report) => void): void {
  for (const one of wiring.parts) {
    const isStated = entryOf(entryOf(wiring.plan.parts, one.ref)?.options, 'volts') !== undefined
    const range = isStated && one.supplies.length === 0 ? madeFor(wiring, one) : undefined
    const load = range && circuitOf(wiring).elements.find(({ part, kind }) => part === one && takesCurrent(kind))
    if (!range || !load) continue
    const [a, b] = [load.netA, load.netB].map((net) => (net.ground ? undefined : net.sources[0]))
    // Between two sources it gets their difference, of which others speak.
    const source = a && b ? undefined : (a ?? b)
    const end = a ? load.a : load.b
    if (!source || (source.volts >= range.least && source.volts <= range.most)) continue
    report({
      severity: 'fault',
      at: [end, source.end],
      message: 'part',
      data: {
        pin: end,
        volts: formatVolts(source.volts),
        least: formatVolts(range.least),
        most: formatVolts(range.most),
      },
      why:
        source.volts > range.most
          ? `Its label says less: at ${formatVolts(source.volts)} it takes more current than it bears for long, runs hot, and wears out.`
          : `Its label says more: at ${formatVolts(source.volts)} it turns weakly or not at all, and draws its full current while it is held.`,
      numbers: { volts: source.volts, least: range.least, most: range.most },
      propose: () => resupply(wiring, one, () => true),
    })
  }
}

const takesCurrent = (kind: Element['kind']): boolean => kind === 'winding' || kind === 'load'
