import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { controlPost } from './controlPost.ts'

const lamp = { L: 'led', R: ohms(1000) }

testRule(controlPost, {
  valid: [
    { title: 'a button at reset', parts: { B: 'button' }, wires: 'B.1 MCU.EN, B.2 MCU.GND' },
    {
      title: 'the same over a resistor',
      mcu: 'uno-r3',
      parts: { B: 'button', R: ohms(470) },
      wires: 'R.1 MCU.RESET, R.2 B.1, B.2 MCU.GND',
    },
    {
      title: 'a switch that turns a board off, a resistor that helps to hold it on',
      mcu: 'pico',
      parts: { S: 'slide-switch', R: ohms(100_000) },
      wires: 'S.C MCU.3V3_EN, S.1 MCU.GND, R.1 MCU.3V3_EN, R.2 MCU.VSYS',
    },
    {
      title: 'a button to the supply at a post that acts while high',
      mcu: 'nucleo-f446re',
      parts: { B: 'button', R: ohms(10_000) },
      wires: 'B.1 MCU.BOOT0, B.2 MCU.3V3, R.1 MCU.BOOT0, R.2 MCU.GND',
    },
    {
      title: 'a transistor that resets one board for another',
      boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
      parts: { Q: 'npn', R: ohms(1000) },
      wires: 'R.1 A.D4, R.2 Q.B, Q.E A.GND, Q.C B.RESET, A.GND B.GND',
    },
    {
      title: 'a reference divided down from the supply, and calmed',
      mcu: 'uno-r3',
      parts: { R: ohms(1000), S: ohms(2000), C: { part: 'capacitor', options: { farads: 1e-7 } } },
      wires: 'R.1 MCU.5V, R.2 MCU.AREF, S.1 MCU.AREF, S.2 MCU.GND, C.1 MCU.AREF, C.2 MCU.GND',
    },
    {
      title: 'the line for uploads of an adapter, where it belongs',
      mcu: 'pro-mini-3v3',
      parts: { F: 'ft232' },
      wires: 'F.VCC MCU.VCC, F.GND MCU.GND, F.TX MCU.D0, F.RX MCU.D1, F.DTR MCU.DTR',
    },
    { title: 'a pin that resets its own board', mcu: 'uno-r3', wires: 'MCU.D4 MCU.RESET' },
  ],
  invalid: [
    {
      title: 'a button from reset to more than the chip runs at',
      mcu: 'pico',
      parts: { B: 'button' },
      wires: 'B.1 MCU.RUN, B.2 MCU.VBUS',
      says: ['fault: When B closes, MCU.RUN gets 5 V (MCU.VBUS), above the 3.3 V at which its chip runs.'],
    },
    {
      title: 'a switch of the regulator at what that bears',
      mcu: 'esp32-feather',
      parts: { B: 'button' },
      wires: 'B.1 MCU.EN, B.2 MCU.USB',
      says: ['caution: When B closes, MCU.EN is joined with 5 V (MCU.USB), where it lies anyway: nothing happens.'],
    },
    {
      title: 'a lamp that draws from the post that resets the board',
      mcu: 'uno-r3',
      parts: lamp,
      wires: 'R.1 MCU.RESET, R.2 L.A, L.K MCU.GND',
      says: ['caution: L brings MCU.RESET down over a resistor, which resets the board.'],
      fix: 'Move R.1 to MCU.D8',
      changes: ['wire R.1 to MCU.RESET removed', 'wire R.1 to MCU.D8 added'],
    },
    {
      title: 'one from a supply to that post: nothing switches it',
      mcu: 'uno-r3',
      parts: lamp,
      wires: 'R.1 MCU.5V, R.2 L.A, L.K MCU.RESET',
      says: ['caution: L hangs on MCU.RESET, which resets the board: no program reaches it there.'],
    },
    {
      title: 'a button of a pin that pulls at reset over a resistor',
      mcu: 'nano-v3',
      parts: { B: 'button', R: ohms(10_000) },
      wires: 'B.1 MCU.4, B.2 MCU.GND, R.1 MCU.RESET, R.2 MCU.4',
      says: ['caution: B brings MCU.RESET down over a resistor, which resets the board.'],
    },
    {
      title: 'a lamp at what switches the board on',
      mcu: 'pico',
      parts: lamp,
      wires: 'L.A MCU.3V3_EN, L.K R.1, R.2 MCU.GND',
      says: ['caution: L brings MCU.3V3_EN down, which switches the board on and off.'],
    },
    {
      title: 'the base of a transistor a post too far',
      parts: { Q: 'npn', R: ohms(1000) },
      wires: 'R.1 MCU.EN, R.2 Q.B, Q.E MCU.GND',
      says: ['caution: Q brings MCU.EN down over a resistor, which resets the board.'],
    },
    {
      title: 'a lamp from the supply at a post that acts while high',
      mcu: 'nucleo-f446re',
      parts: lamp,
      wires: 'L.A R.1, R.2 MCU.3V3, L.K MCU.BOOT0',
      says: ['caution: L brings MCU.BOOT0 up, which chooses what the board starts.'],
    },
    {
      title: 'a lamp at the reference',
      mcu: 'uno-r3',
      parts: lamp,
      wires: 'L.A MCU.AREF, L.K R.1, R.2 MCU.GND',
      says: ['caution: L brings MCU.AREF down, which is the reference of its converter.'],
    },
    {
      title: 'a button from reset to the supply',
      mcu: 'uno-r3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.RESET, B.2 MCU.5V',
      says: ['caution: When B closes, MCU.RESET is joined with 5 V (MCU.5V), where it lies anyway: nothing happens.'],
    },
    {
      title: 'a button to ground at a post that acts while high',
      mcu: 'nucleo-f446re',
      parts: { B: 'button' },
      wires: 'B.1 MCU.BOOT0, B.2 MCU.GND',
      says: ['caution: When B closes, MCU.BOOT0 is joined with ground, where it lies anyway: nothing happens.'],
    },
    {
      title: 'a button a post beside its pin, at the reference',
      mcu: 'uno-r3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.AREF, B.2 MCU.GND',
      says: ['fault: When B closes, MCU.AREF is joined with ground, and with it the reference of the converter.'],
    },
    {
      title: 'the same to a supply',
      mcu: 'uno-r3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.AREF, B.2 MCU.3V3',
      says: ['caution: B hangs on MCU.AREF, which is the reference of its converter: no program reaches it there.'],
    },
    {
      title: 'a reed contact at what belongs to the programmer',
      mcu: 'xiao-samd21',
      parts: { B: 'reed-switch' },
      wires: 'B.1 MCU.SWDIO, B.2 MCU.GND',
      says: ['caution: B hangs on MCU.SWDIO, which belongs to the programmer: no program reaches it there.'],
    },
    {
      title: 'a pin joined with the reference',
      mcu: 'uno-r3',
      wires: 'MCU.D4 MCU.AREF',
      says: ['caution: MCU.D4 is joined with MCU.AREF, which is the reference of its converter.'],
    },
    {
      title: 'a pin joined with the post of a programmer',
      mcu: 'xiao-samd21',
      wires: 'MCU.D4 MCU.SWCLK',
      says: ['caution: MCU.D4 is joined with MCU.SWCLK, which belongs to the programmer.'],
    },
  ],
  edges: [
    {
      says: 'pulled',
      because: 'ten times the 10 kΩ that hold a post on a board',
      at: (figure) => ({ mcu: 'uno-r3', parts: { R: ohms(figure) }, wires: 'R.1 MCU.RESET, R.2 MCU.GND' }),
      said: 100_000,
      quiet: 105_000,
    },
  ],
})
