import { circuitOf, railOf } from '../circuit/circuit.ts'
import { isCell } from '../circuit/reach.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Net, Source, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'

export const supplyJoined: Rule = {
  meta: {
    id: 'supply-joined',
    severities: ['fault'],
    about:
      'Two sources are joined with each other, of different voltage or each with a regulator of its own, or one with ground; or a contact that closes does so.',
    messages: {
      ground: '{names} {names:is/are} joined with ground.',
      inputGround: '{inputs}, where {board} takes its supply in, {inputs:is/are} joined with ground.',
      groundOnSource: '{pin} is a ground, and is on {source} ({volts}).',
      knob: '{part} joins {source} ({volts}) with {other} when it is turned to {end}.',
      sources: '{names} are joined with each other.',
      meets: '{part} joins {source} ({volts}) with {other} ({otherVolts}) when it closes.',
      closes: '{part} joins {source} ({volts}) with ground when it closes.',
      inRow: '{one} and {two} join {source} ({volts}) with ground when both are closed.',
      outputGround: '{output} is joined with ground: when it switches to {supply} it shorts that supply.',
      output: '{output} is joined with {source} ({volts}): when it switches to ground it shorts the supply.',
    },
    fixable: true,
  },
  check(wiring, report) {
    sayNets(wiring, report)
    sayInputsOnGround(wiring, report)
    sayGroundsOnSources(wiring, report)
    sayKnobs(wiring, report)
    sayContactsToGround(wiring, report)
    sayContactsBetween(wiring, report)
    sayContactsInRow(wiring, report)
    sayOutputsOnGround(wiring, report)
    sayOutputsOnSupply(wiring, report)
  },
}

type Say = (found: Report) => void

/** Sources on one net, and a source on ground. */
function sayNets(wiring: Wiring, report: Say): void {
  for (const net of wiring.nets) {
    if (!net.wired || net.sources.length === 0) continue
    const ends = [...new Map(net.sources.map((source) => [source.end, source])).values()]
    const short = net.ground
    if (!short && ends.length < 2) continue
    const names = ends.map((one) => `${one.end} (${formatVolts(one.volts)})`)
    const refs = new Set(ends.map((one) => one.ref))
    const touches = (a: string, b: string): boolean => wiring.netOf(a) === net && wiring.netOf(b) === net
    report({
      severity: 'fault',
      at: [
        ...ends.map((one) => one.end),
        ...(short ? net.ends.filter((end) => isGround(wiring, end)).slice(0, 1) : []),
      ],
      formerly: [...ends.map((one) => one.end), ...(short ? ['ground'] : [])],
      message: short ? 'ground' : 'sources',
      data: { names },
      why: short
        ? 'That is a short circuit: the whole current that the source can give flows through the wires, until something melts or a fuse opens.'
        : `Each source holds its own voltage, and the difference drives a current from one into the other that nothing limits. ${refs.size > 1 ? 'Also two of equal voltage fight: no two regulators are quite the same.' : ''} Join their grounds only.`.trim(),
      numbers: Object.fromEntries(ends.map((one) => [one.end, one.volts])),
      propose: () => takeOut(wiring, touches),
    })
  }
}

/** Where a board takes a supply in, on ground: what the board gives there itself, or what is plugged in, is shorted. */
function sayInputsOnGround(wiring: Wiring, report: Say): void {
  for (const { ref, board } of wiring.boards) {
    const ends = new Set(board.feeds.flatMap(({ pins }) => pins.map((pin) => `${ref}.${pin}`)))
    const inputs = [...ends].filter((end) => {
      const net = wiring.netOf(end)
      return net.wired && net.ground && net.sources.length === 0
    })
    if (inputs.length === 0) continue
    report({
      severity: 'fault',
      at: inputs,
      message: 'inputGround',
      data: { inputs, board: ref },
      why: 'Behind such a pin lies the input of a regulator, and on most boards what comes from the socket as well. On ground it shorts that, or whatever is joined with it later.',
      numbers: {},
      propose: () => inputs.flatMap((input) => takeOut(wiring, (a, b) => a === input || b === input)),
    })
  }
}

/** A knob as a resistor of two legs from rail to rail: at one of its ends it is a piece of wire. */
function sayKnobs(wiring: Wiring, report: Say): void {
  for (const { ref, part } of wiring.parts) {
    if (!part.rheostat) continue
    const { tap, ends } = part.rheostat
    const here = wiring.netOf(`${ref}.${tap}`)
    const rail = railOf(here)
    const [far] = ends.flatMap((pin) => {
      const net = wiring.netOf(`${ref}.${pin}`)
      const other = net === here ? undefined : railOf(net)
      return other && other.volts !== rail?.volts ? [{ end: `${ref}.${pin}`, rail: other }] : []
    })
    // Of a tap between ends that are both wired pin-on-rail speaks.
    const isOfTwoLegs = ends.some((pin) => {
      const net = wiring.netOf(`${ref}.${pin}`)
      return net === here || !net.wired
    })
    if (!rail || !far || !isOfTwoLegs) continue
    const [high, low] = rail.volts > far.rail.volts ? [rail, far.rail] : [far.rail, rail]
    if (!high.source) continue
    report({
      severity: 'fault',
      at: [`${ref}.${tap}`, far.end],
      message: 'knob',
      data: {
        part: ref,
        source: high.source.end,
        volts: formatVolts(high.volts),
        other: low.source?.end ?? 'ground',
        end: far.end,
      },
      why: 'Between its tap and the end to which it is turned a knob has no resistance: the track burns, or the supply breaks down. Run the tap to what is to be set or read.',
      numbers: { volts: high.volts },
      propose: () => takeOut(wiring, (a, b) => [a, b].includes(`${ref}.${tap}`)),
    })
  }
}

/** A ground of a part on a source, where it is not that of a supply, of which `supply-missing` speaks. */
function sayGroundsOnSources(wiring: Wiring, report: Say): void {
  for (const part of wiring.parts) {
    if (part.part.build === 'component' || isCell(part)) continue
    const fed = new Set(part.supplies.flatMap(({ grounds }) => grounds))
    for (const { id, role } of part.part.pins) {
      const pin = `${part.ref}.${id}`
      const net = wiring.netOf(pin)
      const [source] = net.sources
      // Of a supply that is turned round polarity speaks.
      const isTurned = [...fed].some((end) => wiring.netOf(end) === net)
      if (role !== 'ground' || isTurned || net.ground || !source) continue
      report({
        severity: 'fault',
        at: [pin, source.end],
        message: 'groundOnSource',
        data: { pin, source: source.end, volts: formatVolts(source.volts) },
        why: 'Whatever flows through the part comes back there. On a source it is fed backwards, or shorts what else is on ground.',
        numbers: { volts: source.volts },
        propose: () => takeOut(wiring, (a, b) => a === pin || b === pin),
      })
    }
  }
}

/** A contact that closes from a supply onto ground. */
function sayContactsToGround(wiring: Wiring, report: Say): void {
  for (const one of circuitOf(wiring).elements) {
    if (one.kind !== 'contact' || one.netA === one.netB) continue
    for (const [hot, cold] of [
      [one.netA, one.netB],
      [one.netB, one.netA],
    ] as const) {
      const own = one.part.part.pins.map(({ id }) => wiring.netOf(`${one.part.ref}.${id}`))
      // A supply that comes through another throw of the same switch is cut off when this one closes.
      const source = hot.sources.find(({ end }) => wiring.netOf(end) === hot || !own.includes(wiring.netOf(end)))
      if (source === undefined || hot.ground || !cold.ground) continue
      report({
        severity: 'fault',
        at: [one.a, one.b, source.end],
        message: 'closes',
        data: { part: one.part.ref, source: source.end, volts: formatVolts(source.volts) },
        why: 'A contact has next to no resistance: between a supply and ground belongs what is switched. A button that is read lies between its pin and one of the two.',
        numbers: { volts: source.volts },
        propose: () => [one.b, one.a].flatMap((end) => takeOut(wiring, (a, b) => a === end || b === end)).slice(0, 2),
      })
    }
  }
}

/** A contact that closes from one source onto another. */
function sayContactsBetween(wiring: Wiring, report: Say): void {
  for (const one of circuitOf(wiring).elements) {
    if (one.kind !== 'contact') continue
    const [source, other] = [one.netA, one.netB].map(ownSource)
    if (!source || !other || source.end === other.end) continue
    report({
      severity: 'fault',
      at: [one.a, one.b, source.end, other.end],
      message: 'meets',
      data: {
        part: one.part.ref,
        source: source.end,
        volts: formatVolts(source.volts),
        other: other.end,
        otherVolts: formatVolts(other.volts),
      },
      why: 'A closed contact is a piece of wire: each of the two sources holds its own voltage, and nothing limits the current from one into the other. A contact leads from a supply to what it switches, or from a pin to one level.',
      numbers: { volts: source.volts, other: other.volts },
      propose: () => [one.b, one.a].flatMap((end) => takeOut(wiring, (a, b) => a === end || b === end)).slice(0, 2),
    })
  }
}

/** Two contacts of two parts that meet, one from a supply and one to ground, with nothing that takes the current. */
function sayContactsInRow(wiring: Wiring, report: Say): void {
  const circuit = circuitOf(wiring)
  for (const net of wiring.nets) {
    if (!net.wired || railOf(net)) continue
    const ways = circuit
      .on(net)
      .filter(({ kind }) => kind === 'contact')
      .map((contact) => ({ contact, rail: railOf(contact.netA === net ? contact.netB : contact.netA) }))
    const high = ways.find(({ rail }) => rail?.source)
    const low = ways.find(({ rail, contact }) => rail?.volts === 0 && contact.part !== high?.contact.part)
    const source = high?.rail?.source
    if (!high || !low || !source) continue
    report({
      severity: 'fault',
      at: [high.contact.part.ref, low.contact.part.ref, source.end],
      message: 'inRow',
      data: {
        one: high.contact.part.ref,
        two: low.contact.part.ref,
        source: source.end,
        volts: formatVolts(source.volts),
      },
      why: 'Contacts have next to no resistance: where the two meet belongs what they switch, or a resistor. A line that two buttons share has both of them on one side, and the pull on the other.',
      numbers: { volts: source.volts },
      propose: () =>
        [low.contact, high.contact]
          .flatMap(({ part }) =>
            takeOut(wiring, (a, b) => [a, b].some((end) => end.startsWith(`${part.ref}.`)) && wiring.netOf(a) === net),
          )
          .slice(0, 2),
    })
  }
}

/** An output that goes high, on ground. */
function sayOutputsOnGround(wiring: Wiring, report: Say): void {
  for (const { output, part, facts, inputs } of circuitOf(wiring).channels) {
    const supply = facts.supply === undefined ? undefined : `${part.ref}.${facts.supply}`
    const source = supply === undefined ? undefined : wiring.netOf(supply).sources[0]
    if (!supply || !source || !wiring.netOf(output).ground || wiring.netOf(supply).ground) continue
    // Held low for good it only ever joins its output with ground; an input that is open may go high.
    const isLow = (end: string): boolean => wiring.netOf(end).ground
    if (inputs.length > 0 && inputs.every(isLow)) continue
    report({
      severity: 'fault',
      at: [output, supply],
      message: 'outputGround',
      data: { output, supply: source.end },
      why: `A bridge drives its outputs high as well as low. High against ground carries all that ${source.end} gives, until ${part.ref} gives up. A load that turns one way only lies between one output and ground.`,
      numbers: { volts: source.volts },
      propose: () => takeOut(wiring, (a, b) => a === output || b === output),
    })
  }
}

/** An output that goes low, on a supply. */
function sayOutputsOnSupply(wiring: Wiring, report: Say): void {
  for (const { output, part, facts } of circuitOf(wiring).channels) {
    const source = wiring.netOf(output).sources[0]
    const low = part.part.pins.find((pin) => pin.role === 'ground')
    const bottom = low && wiring.netOf(`${part.ref}.${low.id}`)
    if (!source || wiring.netOf(output).ground || !bottom?.ground) continue
    report({
      severity: 'fault',
      at: [output, source.end],
      message: 'output',
      data: { output, source: source.end, volts: formatVolts(source.volts) },
      why: `Between the supply and an output that pulls to ground belongs the load. Without one the whole current of ${source.end} flows through ${part.ref}, until one of them gives up.${facts.supply === undefined ? '' : ' Its other half works against the supply as well.'}`,
      numbers: { volts: source.volts },
      propose: () => takeOut(wiring, (a, b) => a === output || b === output),
    })
  }
}

/** A source that holds a net itself, and is not led to it by a contact or a diode. */
const ownSource = (net: Net): Source | undefined =>
  net.ground ? undefined : net.sources.find(({ end }) => net.ends.includes(end))

/** An end that is ground by itself: of a board, a part, or the minus of a supply. */
function isGround(wiring: Wiring, end: string): boolean {
  const terminal = wiring.terminal(end)
  return (
    terminal?.boardPin?.kind === 'ground' ||
    terminal?.partPin?.role === 'ground' ||
    (terminal?.owner.kind === 'supply' && terminal.pin === '-')
  )
}
