import { expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { timeByCapacitors } from './filling.ts'

const cap = (farads = 1e-6) => ({ part: 'capacitor', options: { farads } })
const made = (short: Short, wanted: (ref: string) => boolean = () => true): string[] =>
  timeByCapacitors(wiringOf(short), wanted).decisions.map(({ from, to }) => `${from} ${to}`)

it.each<[string, Short, string[]]>([
  ['a loose capacitor, plus to the line', { parts: { L: 'ldr', C: cap() } }, ['C.1 L.2', 'C.2 MCU.GND']],
  ['none for a knob, whose tap has a level of its own', { parts: { K: 'potentiometer', C: cap() } }, []],
  ['none that fills for minutes', { parts: { L: 'ldr', C: cap(1e-4) } }, []],
  ['none for a second sensor', { parts: { L: 'ldr', M: 'ldr', C: cap() } }, ['C.1 L.2', 'C.2 MCU.GND']],
  ['none that is in use', { parts: { L: 'ldr', C: cap() }, wires: 'C.1 MCU.3V3, C.2 MCU.GND' }, []],
  [
    'the pin at which one waits',
    { parts: { L: 'ldr', C: cap() }, wires: 'C.1 MCU.GPIO17, C.2 MCU.GND' },
    ['L.2 MCU.GPIO17'],
  ],
  [
    'none that leads from the pin to the supply',
    { parts: { L: 'ldr', C: cap() }, wires: 'C.2 MCU.3V3, C.1 MCU.GPIO17' },
    [],
  ],
  [
    'none that calms a button',
    { parts: { L: 'ldr', C: cap(), B: 'button' }, wires: 'C.1 MCU.GPIO17, C.2 MCU.GND, B.1 MCU.GPIO17, B.2 MCU.GND' },
    [],
  ],
  ['none where a converter measures', { parts: { L: 'ldr', C: cap(), A: 'mcp3008' } }, []],
  ['none on a board that measures', { mcu: 'uno-r3', parts: { L: 'ldr', C: cap() } }, []],
])('takes %s', (_, short, decisions) => {
  expect(made({ mcu: 'pi-40', ...short })).toEqual(decisions)
})

it('leaves alone what nobody asked for', () => {
  const short = { mcu: 'pi-40', parts: { L: 'ldr', C: cap() } }
  expect(made(short, (ref) => ref !== 'L')).toEqual([])
  expect(made(short, (ref) => ref !== 'C')).toEqual([])
})
