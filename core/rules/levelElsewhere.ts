import { holds } from '../catalog/when.ts'
import { mostBorneBy } from '../circuit/bearing.ts'
import { circuitOf, type Port, railOf } from '../circuit/circuit.ts'
import { otherLeg } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { wayTo } from '../circuit/ways.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import { switchesLoad } from '../wiring/needs.ts'
import { resupply } from '../wiring/resupply.ts'
import type { Report } from './finding.ts'
import { takeOut } from './mend.ts'
import { listWords, twoDigits } from './shared.ts'
import { SLACK, tieBears } from './signalOnRail.ts'

export const levelElsewhereMessages = { through: '{through}{cause} brings {volts} to {end}, which bears {bears}.' }

/** Volts that a port bears; any where nothing says so. */
const borneAt = (wiring: Wiring, port: Port): number => {
  const { most, use, terminal } = port
  const bears = use?.facts.bears && use.end === terminal.end ? mostBorneBy(wiring, use, use.part.logicVolts) : most
  return bears ?? tieBears(port) ?? Number.POSITIVE_INFINITY
}

/** A load of two legs, its plus on a supply, at a pin that bears less: whenever the pin is no low, it gets all of it. */
export function sayLowSides(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const loads = wiring.signals.flatMap(({ part, end }) => {
    const other = otherLeg({ owner: part, end })
    if (other === undefined) return []
    // The one leg or the other may be what a pin moves.
    return [
      { part, plus: end, leg: other },
      { part, plus: other, leg: end },
    ]
  })
  for (const { part, plus, leg } of loads) {
    const source = wiring.netOf(plus).sources[0]
    // Through a piezo disc nothing flows steadily.
    if (source === undefined || part.part.inner.some(({ kind }) => kind === 'capacitance')) continue
    for (const { host, most, terminal } of circuit.at(wiring.netOf(leg))) {
      if (!host?.board || most === undefined || source.volts <= most + SLACK) continue
      report({
        severity: 'fault',
        at: [terminal.end, source.end, part.ref],
        message: 'through',
        data: {
          through: `Through ${part.ref} `,
          cause: source.end,
          volts: formatVolts(source.volts),
          end: terminal.end,
          bears: formatVolts(most),
        },
        why: `While ${terminal.end} pulls low, ${part.ref} runs. Let go, the pin is drawn up to ${formatVolts(source.volts)}; and driven high it leaves ${formatVolts(source.volts - (host.logicVolts ?? most))} across ${part.ref}, which may not go off. A transistor between the two bears the higher supply.`,
        numbers: { volts: twoDigits(source.volts), bears: twoDigits(most) },
      })
    }
  }
}

/** Straps, inputs and pins on an output that swings up to the supply of a motor. */
export function sayBesideMotors(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const { part, facts, output, loads } of circuit.channels) {
    const net = wiring.netOf(output)
    const source =
      facts.supply === undefined || !net.wired ? undefined : wiring.netOf(`${part.ref}.${facts.supply}`).sources[0]
    if (!source || railOf(net)) continue
    for (const port of circuit.at(net)) {
      const { end } = port.terminal
      // Of a load on a pin of a board driver-needed speaks, of outputs in parallel driver-rating.
      if (end === output || (port.host?.provider && switchesLoad(port.host.functions))) continue
      if (port.host?.board && loads.length > 0) continue
      const bears = tieBears(port) ?? port.most
      if (bears === undefined || source.volts <= bears + SLACK) continue
      report({
        severity: 'fault',
        at: [end, output],
        message: 'through',
        data: { through: '', cause: output, volts: formatVolts(source.volts), end, bears: formatVolts(bears) },
        why: `While ${output} is high it gives what ${source.end} gives it. What belongs to the logic goes to its supply, to ground, or to a pin of a board.`,
        numbers: { volts: twoDigits(source.volts), bears: twoDigits(bears) },
        propose: () => takeOut(wiring, (a, b) => a === end || b === end),
      })
    }
  }
}

/** Nothing comes in at an input of a buffer, or what only listens hangs there: of one the wrong way round pin-direction speaks. */
function isTurned(wiring: Wiring, input: string): boolean {
  const net = wiring.netOf(input)
  const ports = circuitOf(wiring).at(net)
  return !net.wired || (ports.every(({ host }) => !host) && ports.some(({ use }) => use?.facts.direction === 'in'))
}

/** Outputs of buffers, whatever comes in at their inputs: they give their own supply to what they lie on. */
export function sayBuffers(wiring: Wiring, said: ReadonlySet<string>, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const spoken = new Set([...said].flatMap((one) => one.split(' ')))
  for (const part of wiring.parts)
    for (const inner of part.part.inner) {
      // Towards a line of RS-232 other volts come out, of which uart-levels speaks.
      if (inner.kind !== 'buffer' || (inner.line !== undefined && !inner.back) || !holds(inner.when, part.options))
        continue
      const side = inner.back ? 0 : 1
      const output = `${part.ref}.${inner.between[side]}`
      const rail = inner.rails?.[side]
      const gives = rail === undefined ? part.logicVolts : wiring.netOf(`${part.ref}.${rail}`).sources[0]?.volts
      const net = wiring.netOf(output)
      if (
        gives === undefined ||
        !net.wired ||
        railOf(net) ||
        isTurned(wiring, `${part.ref}.${inner.between[1 - side]}`)
      )
        continue
      for (const port of circuit.at(net)) {
        const { end } = port.terminal
        const bears = borneAt(wiring, port)
        if (end === output || gives <= bears + SLACK || spoken.has(end) || (port.host && spoken.has(port.host.end)))
          continue
        report({
          severity: 'fault',
          at: [output, end],
          message: 'through',
          data: { through: '', cause: output, volts: formatVolts(gives), end, bears: formatVolts(bears) },
          why: `${part.ref} drives its outputs up to its own supply, whatever comes in. Fed with what ${end} bears it gives no more than that.`,
          numbers: { volts: twoDigits(gives), bears: twoDigits(bears) },
          propose: () =>
            part.supplies
              .flatMap((use) =>
                resupply(wiring, part, ({ volts }) => volts <= bears + SLACK && use.facts.least <= volts),
              )
              .slice(0, 1),
        })
      }
    }
}

/** Outputs straight on a pin of another part, where no pin of a board or an expander has a line of its own. */
export function sayDirect(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const net of wiring.nets) {
    if (!net.wired || railOf(net)) continue
    const all = circuit.at(net)
    const driver = all.find(({ role, use }) => role === 'out' && use)
    const gives = driver?.high
    if (!driver || gives === undefined || all.some(({ host }) => host)) continue
    for (const port of all) {
      const { end } = port.terminal
      const bears = borneAt(wiring, port)
      if (port.terminal.ref === driver.terminal.ref || gives <= bears + SLACK) continue
      report({
        severity: 'fault',
        at: [driver.terminal.end, end],
        message: 'through',
        data: {
          through: '',
          cause: driver.terminal.end,
          volts: formatVolts(gives),
          end,
          bears: formatVolts(bears),
        },
        why: `It goes up to the supply of ${driver.terminal.ref}. Above ${formatVolts(bears)} current flows through the protection diodes of ${end} into its supply.`,
        numbers: { volts: twoDigits(gives), bears: twoDigits(bears) },
      })
    }
  }
}

/** Pins to which resistors, lamps or contacts bring too much, whether or not a signal leads there. */
export function sayOthers(wiring: Wiring, said: ReadonlySet<string>, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const verdicts = verdictsOf(wiring)
  const spoken = new Set([...said].flatMap((one) => one.split(' ')))
  for (const net of wiring.nets) {
    if (!net.wired || net.ground || net.sources.length > 0) continue
    const most = verdicts.of(net)?.most
    if (!most) continue
    const all = circuit.at(net)
    if (all.some(({ terminal, host }) => spoken.has(terminal.end) || (host && spoken.has(host.end)))) continue
    // What a driver's outputs bear is driver-rating's.
    const ports = all
      .filter((one) => !one.host?.provider || !switchesLoad(one.host.functions))
      .filter((one) => most.volts > borneAt(wiring, one) + SLACK)
    const weakest = ports.reduce<Port | undefined>(
      (least, one) => (least && borneAt(wiring, least) <= borneAt(wiring, one) ? least : one),
      undefined,
    )
    if (!weakest || ports.some(({ terminal, host }) => spoken.has(terminal.end) || (host && spoken.has(host.end))))
      continue
    const way = wayTo(circuit, most.state, verdicts.of(net)!.verdict.island, net, 'high')
    // Straight from a pin that drives, unless that is the side of a shifter or a buffer: the lines have said it, or the
    // level is that of another kind. Of a contact that joins a pin of a board with a rail pin-on-rail speaks, of a load
    // without a resistor driver-needed.
    if (
      !way ||
      (way.port && way.through.length === 0 && (way.port.use || way.port.host)) ||
      (!way.kinds.includes('resistor') && way.kinds.some((kind) => kind === 'load' || kind === 'winding'))
    )
      continue
    if (weakest.host?.board && way.kinds.length > 0 && way.kinds.every((kind) => kind === 'contact')) continue
    // Both lines of a bus that one module pulls up are one matter.
    if (way.inside !== undefined && [...spoken].some((one) => one.startsWith(`${way.inside}.`))) continue
    const { end } = weakest.terminal
    spoken.add(end)
    if (way.inside !== undefined) spoken.add(`${way.inside}.`)
    const cause = way.inside === undefined ? way.name : `The pull-up of ${way.inside}`
    const bears = borneAt(wiring, weakest)
    report({
      severity: 'fault',
      at: [end, way.name, ...way.through.filter((ref) => ref !== way.name)],
      message: 'through',
      data: {
        through: way.through.length > 0 ? `Through ${listWords(way.through)} ` : '',
        cause,
        volts: formatVolts(most.volts),
        end,
        bears: formatVolts(bears),
      },
      why: `Nothing on the way brings the ${formatVolts(way.volts)} down far enough. Above ${formatVolts(bears)} current flows through the protection diodes of ${end} into its supply; a resistor limits that current, but no source allows it for good.`,
      numbers: { volts: twoDigits(most.volts), bears: twoDigits(bears) },
      propose: () =>
        takeOut(wiring, (a, b) => way.through.some((ref) => [a, b].some((one) => one.startsWith(`${ref}.`)))),
    })
  }
}
