import { circuitOf, type DriverChannel, railOf } from '../circuit/circuit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import type { Wiring } from '../wiring/model.ts'
import { moverOf } from '../wiring/signals.ts'
import { isMoved } from './driverPlaced.ts'
import type { Report } from './finding.ts'

export const movedTogetherMessages = {
  alike: '{part} between {output} and {other} never moves: {inputs} always say the same.',
  coilsAlike: '{part} never turns: {outputs} always do the same for two of its coils.',
  oneWay: '{part} turns one way only: {gate} is off whenever {input} is low.',
}

/** A load between two outputs that always say the same: both inputs on one line, or at one level for good. */
export function sayAlike(wiring: Wiring, report: (one: Report) => void): void {
  for (const { element, channels } of drivenLoads(circuitOf(wiring))) {
    const [one, ...others] = channels
    const two = others.find(({ output }) => wiring.netOf(output) !== wiring.netOf(one?.output ?? ''))
    if (!one || !two || one.part !== two.part || one.facts.supply === undefined) continue
    // Halves that one input moves against each other, as in an amplifier.
    const opposed = one.inputs.length === 0 || one.inputs.every((end) => two.inputs.includes(end))
    if (
      opposed ||
      one.inputs.some((end) => !isMoved(wiring, end)) ||
      saidTo(wiring, one).join(' ') !== saidTo(wiring, two).join(' ')
    )
      continue
    report({
      severity: 'fault',
      at: [one.output, two.output, ...one.inputs, ...two.inputs, element.part.ref],
      message: 'alike',
      data: { part: element.part.ref, output: one.output, other: two.output, inputs: opposing(one, two) },
      why: 'Current flows through the load only while one output is high and the other low. Give each input a pin of its own, or an inverted signal.',
      numbers: {},
    })
  }
}

/** Two coils of a stepper motor that carry the same current, or opposite ones, at any time. */
export function sayCoilsAlike(wiring: Wiring, report: (one: Report) => void): void {
  const loads = drivenLoads(circuitOf(wiring))
  for (const part of wiring.parts) {
    if (part.part.behaves?.as !== 'coils') continue
    const coils = loads
      .filter(({ element }) => element.part === part)
      .map(({ channels }) => ({
        channels,
        inputs: channels.flatMap(({ inputs }) => inputs),
        way: wayOf(wiring, channels),
      }))
    // A driver that counts the steps by itself has inputs for all of its outputs together.
    const areAlike = (one: (typeof coils)[number], two: (typeof coils)[number]): boolean =>
      one.way !== '' && one.way === two.way && !one.inputs.some((end) => two.inputs.includes(end))
    const pair = coils.flatMap((one, index) =>
      coils.slice(index + 1).flatMap((two) => (areAlike(one, two) ? [[one, two]] : [])),
    )[0]
    if (!pair) continue
    const outputs = [...new Set(pair.flatMap(({ channels }) => channels.map(({ output }) => output)))]
    report({
      severity: 'fault',
      at: [part.ref, ...outputs],
      message: 'coilsAlike',
      data: { part: part.ref, outputs },
      why: 'A stepper turns because its coils take turns: each pulls the rotor on from where the one before left it. Two that do the same hold it, or shake it, where it is. Give each input a pin of its own.',
      numbers: {},
    })
  }
}

/** What moves each input of an output, or the volts at which it lies for good. */
const saidTo = (wiring: Wiring, { inputs }: DriverChannel): (string | number)[] =>
  inputs.map((end) => railOf(wiring.netOf(end))?.volts ?? moverOf(wiring, end))

/** What moves the outputs at the ends of a load, whichever end is which. */
const wayOf = (wiring: Wiring, channels: readonly DriverChannel[]): string =>
  channels
    .flatMap((channel) => saidTo(wiring, channel))
    .sort()
    .join(' ')

/** Inputs by which two outputs differ; what moves both alike, such as their speed, is none. */
const opposing = (one: DriverChannel, two: DriverChannel): string[] => [
  ...one.inputs.filter((end) => !two.inputs.includes(end)),
  ...two.inputs.filter((end) => !one.inputs.includes(end)),
]

/** A motor between two outputs that one of their inputs switches off as well: the other direction never comes. */
export function sayOneWay(wiring: Wiring, report: (one: Report) => void): void {
  for (const { element, channels } of drivenLoads(circuitOf(wiring))) {
    const [one, ...others] = channels
    const two = others.find(({ output, part }) => output !== one?.output && part === one?.part)
    if (!one || !two) continue
    const own = opposing(one, two)
    const gates = [
      ...one.inputs.filter((end) => two.inputs.includes(end)),
      ...[...one.enables, ...two.enables].flatMap(({ end, active }) => (active === 'high' ? [end] : [])),
    ]
    const mover = (end: string): string | undefined =>
      isMoved(wiring, end) && !railOf(wiring.netOf(end)) ? moverOf(wiring, end) : undefined
    const [first, second, ...more] = own.map(mover)
    if (more.length > 0 || first === undefined || second === undefined || first === second) continue
    const gate = gates.find((end) => mover(end) === first || mover(end) === second)
    const input = own.find((end) => gate !== undefined && mover(end) === mover(gate))
    if (gate === undefined || input === undefined) continue
    report({
      severity: 'caution',
      at: [gate, input, one.output, two.output, element.part.ref],
      message: 'oneWay',
      data: { part: element.part.ref, gate, input },
      why: 'The other way the current flows while this input is low, and then the outputs are off. Give what switches them on a pin of its own, or tie it high.',
      numbers: {},
    })
  }
}
