import {
  backToFront,
  crossedControl,
  crossedHighSide,
  crossedSwitch,
  legsOf,
  swappedSupply,
  turnedRound,
  zenerWrong,
} from '../circuit/turned.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { cellTurnedMessages, sayCellTurned } from './cellPlaces.ts'
import { crossedLinesMessages, sayCrossedBoards, sayCrossedLines } from './crossedLines.ts'
import type { Report, Rule } from './finding.ts'
import { swapWires } from './mend.ts'
import { meterTurnedMessages, sayMetersTurned } from './meterTurned.ts'
import { pinWords, turnedLamps, turnedLampsMessages } from './turnedLamps.ts'

export const polarity: Rule = {
  meta: {
    id: 'polarity',
    severities: ['fault', 'tip'],
    about: 'A part with a plus and a minus, a diode, or a meter of currents is the wrong way round.',
    messages: {
      ...turnedLampsMessages,
      ...crossedLinesMessages,
      ...cellTurnedMessages,
      ...meterTurnedMessages,
      supplySwapped: '{plus} and {minus} of {part} are swapped: {plusEnd} is on ground and {minusEnd} on a supply.',
      outputSwapped:
        '{output} and {ground} of {part} are swapped: {outputEnd} is on ground and {groundEnd} on the load.',
      highSideSwapped:
        '{output} and {supply} of {part} are swapped: {outputEnd} is on a supply and {supplyEnd} on the load.',
      controlSwapped:
        '{control} and {fixed} of {part} are swapped: {controlEnd} is on {rail} and {fixedEnd} on the pin that should move it.',
      zenerTurned: '{part} is the wrong way round: {zener}.',
      converterTurned:
        '{part} is the wrong way round: {source} feeds its output {output}, and its input {input} gets nothing.',
      turned: '{part} is the wrong way round: {wrong}.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    sayCrossedLines(wiring, report)
    sayCrossedBoards(wiring, report)
    sayCellTurned(wiring, report)
    sayMetersTurned(wiring, report)
    for (const part of wiring.parts)
      for (const way of ways) {
        const found = way(wiring, part)
        if (!found) continue
        report(found)
        break
      }
  },
}

type Way = (wiring: Wiring, part: PartInstance) => Report | undefined

/** Plus and minus of a supply on each other's side. */
const supplySwapped: Way = (wiring, part) => {
  const swapped = swappedSupply(wiring, part)
  if (!swapped) return undefined
  const [plus, minus] = swapped
  return {
    severity: 'fault',
    at: [plus, minus],
    message: 'supplySwapped',
    data: { plus: pinWords(plus), minus: pinWords(minus), part: part.ref, plusEnd: plus, minusEnd: minus },
    why: 'Fed the wrong way round, most parts are destroyed within seconds, and some take their source along.',
    numbers: {},
    propose: () => swapWires(wiring, plus, minus),
  }
}

/** Output and ground of a bare transistor on each other's side. */
const outputSwapped: Way = (wiring, part) => {
  const crossed = crossedSwitch(wiring, part)
  if (!crossed) return undefined
  const [output, ground] = crossed
  return {
    severity: 'fault',
    at: [output, ground],
    message: 'outputSwapped',
    data: { output: pinWords(output), ground: pinWords(ground), part: part.ref, outputEnd: output, groundEnd: ground },
    why: 'Such a transistor switches in one direction. Turned round it conducts all the time, or hardly at all.',
    numbers: {},
    propose: () => swapWires(wiring, output, ground),
  }
}

/** Control of a bare transistor and the leg for its rail on each other's side. */
const controlSwapped: Way = (wiring, part) => {
  const crossed = crossedControl(wiring, part)
  if (!crossed) return undefined
  const [control, fixed] = crossed
  return {
    severity: 'fault',
    at: [control, fixed],
    message: 'controlSwapped',
    data: {
      control: pinWords(control),
      fixed: pinWords(fixed),
      part: part.ref,
      controlEnd: control,
      fixedEnd: fixed,
      rail: wiring.netOf(control).ground ? 'ground' : 'a supply',
    },
    why: 'A transistor conducts by what lies between its control and that leg. With the control where the leg belongs it stays off, whatever the pin does.',
    numbers: {},
    propose: () => swapWires(wiring, control, fixed),
  }
}

/** Both sides of a bare transistor in the plus on each other's side. */
const highSideSwapped: Way = (wiring, part) => {
  const crossed = crossedHighSide(wiring, part)
  if (!crossed) return undefined
  const [output, supply] = crossed
  return {
    severity: 'fault',
    at: [output, supply],
    message: 'highSideSwapped',
    data: { output: pinWords(output), supply: pinWords(supply), part: part.ref, outputEnd: output, supplyEnd: supply },
    why: 'Inside such a transistor a diode leads from its drain to its source. Turned round it conducts whatever the program does: the load never goes off.',
    numbers: {},
    propose: () => swapWires(wiring, output, supply),
  }
}

const zenerTurned: Way = (wiring, part) => {
  const zener = zenerWrong(wiring, part)
  if (!zener) return undefined
  const [a, k] = part.part.inner
    .find((inner) => inner.kind === 'diode')!
    .between.map((pin) => `${part.ref}.${pin}`) as [string, string]
  return {
    severity: 'fault',
    at: [a, k],
    message: 'zenerTurned',
    data: { part: part.ref, zener },
    why: 'A Zener diode holds its voltage when it is driven backwards: the ring to the higher side. Forward it is a plain diode.',
    numbers: {},
    propose: () => swapWires(wiring, a, k),
  }
}

/** A regulator or a converter that is fed at its output. */
const converterTurned: Way = (wiring, part) => {
  const converter = backToFront(wiring, part)
  if (!converter) return undefined
  const [input, output, source] = converter
  return {
    severity: 'fault',
    at: [output, input],
    message: 'converterTurned',
    data: { part: part.ref, source, output: pinWords(output), input: pinWords(input) },
    why: 'A regulator or converter leads from its input to its output only. Fed from behind it gives nothing, and many are destroyed.',
    numbers: {},
    propose: () => swapWires(wiring, input, output),
  }
}

/** A part of two legs the wrong way round, or a lamp among several. */
const legsTurned: Way = (wiring, part) => {
  const wrong = turnedRound(wiring, part)
  if (!wrong) return turnedLamps(wiring, part)
  const legs = legsOf(part)
  if (!legs) return undefined
  return {
    severity: 'fault',
    at: [legs.plus, legs.minus],
    message: 'turned',
    data: { part: part.ref, wrong },
    why: legs.diode
      ? `A diode conducts from its anode to its cathode only. ${legs.lights ? 'Turned round it stays dark, and above about 5 V it is damaged.' : 'Turned round it keeps back what it should lead on, or shorts what it should protect as soon as the load is switched on.'}`
      : 'Turned round it does not work, and many parts are destroyed within seconds.',
    numbers: {},
    propose: () => swapWires(wiring, legs.plus, legs.minus),
  }
}

/** Of a part the first that holds is said. */
const ways: readonly Way[] = [
  supplySwapped,
  outputSwapped,
  controlSwapped,
  highSideSwapped,
  zenerTurned,
  converterTurned,
  legsTurned,
]
