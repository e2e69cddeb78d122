import { backToFront, crossedSwitch, legsOf, swappedSupply, turnedRound, zenerWrong } from '../circuit/turned.ts'
import { cellTurnedMessages, sayCellTurned } from './cellPlaces.ts'
import { crossedLinesMessages, sayCrossedLines } from './crossedLines.ts'
import type { Rule } from './finding.ts'
import { swapWires } from './mend.ts'
import { pinWords, turnedLamps, turnedLampsMessages } from './turnedLamps.ts'

export const polarity: Rule = {
  meta: {
    id: 'polarity',
    severities: ['fault'],
    about: 'A part with a plus and a minus, or a diode, is the wrong way round.',
    messages: {
      ...turnedLampsMessages,
      ...crossedLinesMessages,
      ...cellTurnedMessages,
      supplySwapped: '{plus} and {minus} of {part} are swapped: {plusEnd} is on ground and {minusEnd} on a supply.',
      outputSwapped:
        '{output} and {ground} of {part} are swapped: {outputEnd} is on ground and {groundEnd} on the load.',
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
    sayCellTurned(wiring, report)
    for (const part of wiring.parts) {
      const swapped = swappedSupply(wiring, part)
      if (swapped) {
        const [plus, minus] = swapped
        report({
          severity: 'fault',
          at: [plus, minus],
          message: 'supplySwapped',
          data: { plus: pinWords(plus), minus: pinWords(minus), part: part.ref, plusEnd: plus, minusEnd: minus },
          why: 'Fed the wrong way round, most parts are destroyed within seconds, and some take their source along.',
          numbers: {},
          propose: () => swapWires(wiring, plus, minus),
        })
        continue
      }
      const crossed = crossedSwitch(wiring, part)
      if (crossed) {
        const [output, ground] = crossed
        report({
          severity: 'fault',
          at: [output, ground],
          message: 'outputSwapped',
          data: {
            output: pinWords(output),
            ground: pinWords(ground),
            part: part.ref,
            outputEnd: output,
            groundEnd: ground,
          },
          why: 'Such a transistor switches in one direction. Turned round it conducts all the time, or hardly at all.',
          numbers: {},
          propose: () => swapWires(wiring, output, ground),
        })
        continue
      }
      const legs = legsOf(part)
      const zener = zenerWrong(wiring, part)
      if (zener) {
        const [a, k] = part.part.inner.find((inner) => inner.kind === 'diode')!.between
        report({
          severity: 'fault',
          at: [`${part.ref}.${a}`, `${part.ref}.${k}`],
          message: 'zenerTurned',
          data: { part: part.ref, zener },
          why: 'A Zener diode holds its voltage when it is driven backwards: the ring to the higher side. Forward it is a plain diode.',
          numbers: {},
          propose: () => swapWires(wiring, `${part.ref}.${a}`, `${part.ref}.${k}`),
        })
        continue
      }
      const converter = backToFront(wiring, part)
      if (converter) {
        const [input, output, source] = converter
        report({
          severity: 'fault',
          at: [output, input],
          message: 'converterTurned',
          data: { part: part.ref, source, output: pinWords(output), input: pinWords(input) },
          why: 'A regulator or converter leads from its input to its output only. Fed from behind it gives nothing, and many are destroyed.',
          numbers: {},
          propose: () => swapWires(wiring, input, output),
        })
        continue
      }
      const wrong = turnedRound(wiring, part)
      const dark = wrong ? undefined : turnedLamps(wiring, part)
      if (dark) {
        report(dark)
        continue
      }
      if (!legs || !wrong) continue
      report({
        severity: 'fault',
        at: [legs.plus, legs.minus],
        message: 'turned',
        data: { part: part.ref, wrong },
        why: legs.diode
          ? `A diode conducts from its anode to its cathode only. ${legs.lights ? 'Turned round it stays dark, and above about 5 V it is damaged.' : 'Turned round it shorts what it should protect, as soon as the load is switched on.'}`
          : 'Turned round it does not work, and many parts are destroyed within seconds.',
        numbers: {},
        propose: () => swapWires(wiring, legs.plus, legs.minus),
      })
    }
  },
}
