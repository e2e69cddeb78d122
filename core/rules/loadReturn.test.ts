import type { PlanPart } from '../plan/planSchema.ts'
import { testRule } from '../testing/rules.ts'
import { loadReturn } from './loadReturn.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }
const five = { P: { volts: 5, limitMilliamps: 3000 } }
const ohms = (value: number): PlanPart => ({ part: 'resistor', options: { ohms: value } })
const bridge = 'U.12V PACK.+, PACK.- MCU.GND, U.GND MCU.GND'
const unipolar = (red: string, two: string) => ({
  mcu: 'uno-r3',
  supplies: five,
  parts: { D: 'uln2003', M: 'stepper-28byj48' },
  wires: `P.- MCU.GND, D.E MCU.GND, D.COM P.+, D.1B MCU.8, D.2B MCU.9, D.3B MCU.10, D.4B MCU.11, D.1C M.BLU, ${two} M.PNK, D.3C M.YEL, D.4C M.ORG, M.RED ${red}`,
})
/** A motor, or what stands for it, on a transistor to ground; its other side as said. */
const switchedMotor = (wires: string, parts: Readonly<Record<string, PlanPart | string>> = {}, leg = 'M.M2') => ({
  mcu: 'uno-r3',
  supplies: { P: { volts: 6, limitMilliamps: 3000 } },
  parts: { Q: 'nmos', M: 'dc-motor', ...parts },
  wires: `P.- MCU.GND, Q.S MCU.GND, Q.G MCU.3, ${leg === 'T.D' ? '' : `Q.D ${leg}, `}${wires}`,
})

/** A motor on an output that only pulls to ground; its other lead as said. */
const onSink = (end: string) => ({
  mcu: 'uno-r3',
  supplies: { P: { volts: 6, limitMilliamps: 3000 } },
  parts: { U: 'uln2803', M: 'dc-motor' },
  wires: `P.- MCU.GND, U.GND MCU.GND, U.COM P.+, U.1B MCU.2, U.1C M.M1, M.M2 ${end}`,
})

testRule(loadReturn, {
  valid: [
    {
      title: 'a lamp at the upper one of two batteries in a row',
      mcu: 'uno-r3',
      supplies: { B: { volts: 5 }, C: { volts: 5 } },
      parts: { L: 'lamp' },
      wires: 'B.- MCU.GND, C.- B.+, L.+ C.+, L.- B.+',
    },
    { title: 'a motor between a transistor and its supply', ...switchedMotor('M.M1 P.+') },
    {
      title: 'a motor between two transistors of a bridge',
      ...switchedMotor('M.M1 T.D, T.S P.+, T.G MCU.5', { T: 'pmos' }),
    },
    { title: 'a motor between a transistor and a higher supply', ...switchedMotor('M.M1 MCU.5V') },
    {
      title: 'a motor whose other lead waits for its wire behind a diode',
      ...switchedMotor('M.M1 D.K', { D: 'diode' }),
    },
    {
      title: 'a loudspeaker on a transistor, fed',
      ...switchedMotor('M.+ MCU.5V', { M: 'speaker' }, 'M.-'),
    },
    { title: 'a motor of an array at its supply', ...onSink('P.+') },
    {
      title: 'lines of a matrix that are joined, of which its own rule speaks',
      mcu: 'uno-r3',
      parts: { K: 'keypad-4x4' },
      wires: 'K.C1 K.R1, K.C2 MCU.D4',
    },
    { title: 'each winding on an output of its own', ...unipolar('P.+', 'D.2C') },
    {
      title: 'legs that carry a wire on',
      mcu: 'uno-r3',
      parts: { B: 'button', C: 'button' },
      wires: 'B.1 MCU.D4, B.2 MCU.GND, B.2.2 C.2, C.1 MCU.D5',
    },
    {
      title: 'a motor between two halves',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, M.M1 U.OUT1, M.M2 U.OUT2`,
    },
  ],
  invalid: [
    {
      title: 'a lamp between 12 V and the 5 V of the board',
      mcu: 'uno-r3',
      supplies: { P: { volts: 12 } },
      parts: { L: 'lamp' },
      wires: 'P.- MCU.GND, L.+ P.+, L.- MCU.5V',
      says: ['fault: L lies between 12 V (P.+) and 5 V (MCU.5V): its current runs into MCU.5V instead of to ground.'],
    },
    {
      title: 'a motor between a transistor and ground',
      ...switchedMotor('M.M1 MCU.GND'),
      says: ['fault: M never runs: both its sides lead to ground alone.'],
    },
    {
      title: 'a motor between a transistor and, over a diode from there, ground',
      ...switchedMotor('M.M1 D.A, D.K MCU.GND', { D: 'diode' }),
      says: ['fault: M never runs: both its sides lead to ground alone.'],
    },
    {
      title: 'a motor between a P-channel transistor and the supply of that',
      ...switchedMotor('M.M1 P.+, T.D M.M2, T.S P.+, T.G MCU.5', { T: 'pmos' }, 'T.D'),
      says: ['fault: M never runs: both its sides lead to 6.0 V alone.'],
    },
    {
      title: 'a loudspeaker on a transistor, its other wire on ground',
      ...switchedMotor('M.+ MCU.GND', { M: 'speaker' }, 'M.-'),
      says: ['fault: M never runs: both its sides lead to ground alone.'],
    },
    {
      title: 'a buzzer without a tone of its own on a transistor, its other leg on ground',
      ...switchedMotor('M.+ MCU.GND', { M: 'buzzer-passive' }, 'M.-'),
      says: ['fault: M never runs: both its sides lead to ground alone.'],
    },
    {
      title: 'a motor of an array at ground',
      ...onSink('MCU.GND'),
      says: ['fault: M never runs: both its sides lead to ground alone.'],
    },
    {
      title: 'a pump over a relay whose two leads both lie on plus',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { K: 'relay-1', M: 'pump' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.COM, K.NO M.+, M.- PACK.+, PACK.- MCU.GND',
      says: ['fault: M never runs: both its legs always lie at the same level.'],
    },
    {
      title: 'a lamp and its resistor with both sides on one supply',
      mcu: 'uno-r3',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: ohms(330) },
      wires: 'L.A MCU.5V, L.K R.1, R.2 MCU.5V.2',
      says: ['fault: L never lights: both its legs always lie at the same level.'],
    },
    {
      title: 'a coil that only its diode joins with something',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { V: 'solenoid', D: 'diode' },
      wires: 'V.+ PACK.+, D.K PACK.+, V.- D.A, PACK.- MCU.GND',
      says: ['fault: The current of V and D finds no way back: V.- and D.A lead only round to V.+ and D.K.'],
    },
    {
      title: 'two windings on one output',
      ...unipolar('P.+', 'D.1C'),
      says: ['fault: M.BLU and M.PNK are joined: two windings of M are always on together.'],
    },
    {
      title: 'two leads of a stepper joined in the air: one matter',
      parts: { M: 'stepper-28byj48' },
      wires: 'M.BLU M.PNK, M.RED MCU.VIN',
      says: [
        'fault: The current of M finds no way back: M.BLU and M.PNK lead to no supply, no ground and no pin that drives.',
      ],
    },
    {
      title: 'both leads on one output',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, M.M1 U.OUT1, M.M2 U.OUT1`,
      says: ['fault: Both legs of M are joined, so that nothing flows through it.'],
      fix: 'Take out the wire M.M1 to U.OUT1',
      changes: ['wire M.M1 to U.OUT1 removed'],
    },
    {
      title: 'both legs of a lamp on one pin',
      parts: { L: 'led' },
      wires: 'L.A MCU.GPIO4, L.K MCU.GPIO4',
      says: ['fault: Both legs of L are joined, so that nothing flows through it.'],
    },
    {
      title: 'two legs of one side of a button',
      mcu: 'nano-v3',
      parts: { B: 'button' },
      wires: 'B.2 MCU.D4, B.2.2 MCU.GND',
      says: ['fault: B.2 and B.2.2 are two legs of one piece: B joins them for good, pressed or not.'],
    },
  ],
})
