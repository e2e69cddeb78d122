import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { driverIdle } from './driverIdle.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }

const bridge = 'U.12V PACK.+, PACK.- MCU.GND, U.GND MCU.GND'
/** A lamp of 12 V behind a transistor with its pull-down, and how the transistor goes on. */
const behind = (wires: string) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 12 } },
  parts: { Q: 'nmos', R: ohms(10_000), S: ohms(0.47), L: { part: 'lamp', options: { volts: 12 } } },
  wires: `L.+ PACK.+, L.- Q.D, PACK.- MCU.GND, Q.G MCU.D5, R.1 Q.G${wires}`,
})
/** A geared stepper on a driver, the input of its last coil on one end. */
const coil = (last: string) => ({
  mcu: 'uno-r3',
  parts: { D: 'uln2003', M: 'stepper-28byj48' },
  wires: `D.E MCU.GND, D.COM MCU.5V, M.RED MCU.5V, M.BLU D.1C, M.PNK D.2C, M.YEL D.3C, M.ORG D.4C, D.1B MCU.D8, D.2B MCU.D9, D.3B MCU.D10, D.4B ${last}`,
})
/** A motor on half of a bridge, its enable and its inputs on these ends. */
const halfBridge = (enable: string, one: string, two: string) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 6 } },
  parts: { U: 'l293d', M: 'dc-motor' },
  wires: `U.VS PACK.+, PACK.- MCU.GND, U.GND MCU.GND, U.VSS MCU.5V, M.M1 U.1Y, M.M2 U.2Y, U.EN12 ${enable}, U.1A ${one}, U.2A ${two}`,
})

/** A stepper motor of two coils on two bridges, the inputs of which lie on these pins. */
const twoCoils = (...pins: string[]) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 12 } },
  parts: { U: 'l298n', M: 'stepper-bipolar' },
  wires: `U.12V PACK.+, U.GND PACK.-, PACK.- MCU.GND, M.A+ U.OUT1, M.A- U.OUT2, M.B+ U.OUT3, M.B- U.OUT4, ${pins.map((pin, at) => `U.IN${at + 1} MCU.${pin}`).join(', ')}`,
})

testRule(driverIdle, {
  valid: [
    { title: 'two coils, each with two pins', ...twoCoils('D4', 'D5', 'D6', 'D7') },
    { title: 'four coils, each with its pin', ...coil('MCU.D11') },
    { title: 'an enable with a pin of its own', ...halfBridge('MCU.D5', 'MCU.D6', 'MCU.D7') },
    { title: 'an enable that is on for good', ...halfBridge('MCU.5V', 'MCU.D6', 'MCU.D7') },
    {
      title: 'an enable on the one input of a motor that is to turn one way',
      ...halfBridge('MCU.D5', 'MCU.D5', 'MCU.GND'),
    },
    {
      title: 'two coils on a chip that counts the steps itself',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { U: 'drv8825', M: 'stepper-bipolar' },
      wires:
        'U.VMOT PACK.+, U.GND PACK.-, U.GND.2 MCU.GND, PACK.- MCU.GND, U.RST U.SLP, U.SLP MCU.5V, U.STEP MCU.D4, U.DIR MCU.D5, M.A+ U.1A, M.A- U.1B, M.B+ U.2A, M.B- U.2B',
    },
    {
      title: 'an output of a bridge on its own supply, of which supply-joined speaks',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6, limitMilliamps: 3000 } },
      parts: { U: 'drv8833', M: 'dc-motor' },
      wires:
        'U.VCC PACK.+, U.GND MCU.GND, PACK.- MCU.GND, U.IN1 MCU.5, U.IN2 MCU.6, U.EEP MCU.7, M.M1 U.AOUT1, M.M2 U.AOUT2, U.AOUT2 PACK.+',
    },
    {
      title: 'a pump over a relay whose resting contact stays open',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { K: 'relay-1', M: 'pump' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.COM, K.NO M.+, M.- PACK.-, PACK.- MCU.GND',
    },
    {
      title: 'a relay for what is not in the plan, its contact left out on purpose',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { K: 'relay-1' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.COM, PACK.- MCU.GND',
      unused: ['K.NO'],
    },
    {
      title: 'a servo on its supply, beside a driver for what is not in the plan',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { U: 'uln2003', S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.9, U.E MCU.GND, U.1B MCU.7',
    },
    {
      title: 'a fan that runs for good, beside a driver that carries a pump',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { U: 'uln2003', M: 'pump', F: 'fan' },
      wires: 'F.+ PACK.+, F.- PACK.-, PACK.- MCU.GND, M.+ PACK.+, M.- U.1C, U.COM PACK.+, U.E MCU.GND, U.1B MCU.7',
    },
    {
      title: 'relays beside each other, one left in peace',
      mcu: 'uno-r3',
      parts: { K: 'relay-2' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN1 MCU.D4',
    },
    {
      title: 'the way round is set by hand, the speed by a pin',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 9 } },
      parts: { U: 'l298n', M: 'dc-motor' },
      wires:
        'U.12V PACK.+, PACK.- MCU.GND, U.GND MCU.GND, U.ENA MCU.D5, U.IN1 MCU.5V, U.IN2 MCU.GND, M.M1 U.OUT1, M.M2 U.OUT2',
    },
    { title: 'a transistor on ground', ...behind(', R.2 Q.S, Q.S MCU.GND') },
    { title: 'a transistor on ground by way of a small resistor', ...behind(', R.2 MCU.GND, Q.S S.1, S.2 MCU.GND') },
    {
      title: 'halves that one input moves against each other',
      parts: { A: 'max98357a', S: 'speaker' },
      wires: 'A.VIN MCU.VIN, A.GND MCU.GND, A.BCLK MCU.26, A.LRC MCU.25, A.DIN MCU.32, A.OUT+ S.+, A.OUT- S.-',
    },
    {
      title: 'both inputs moved, the jumper on the enable',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, U.IN1 MCU.D4, U.IN2 MCU.D5, M.M1 U.OUT1, M.M2 U.OUT2`,
    },
    {
      title: 'one input on ground: the motor runs one way',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, U.IN1 MCU.D4, U.IN2 MCU.GND, M.M1 U.OUT1, M.M2 U.OUT2`,
    },
    {
      title: 'spare channels without a load',
      mcu: 'uno-r3',
      parts: { D: 'uln2003', M: 'stepper-28byj48' },
      wires:
        'D.E MCU.GND, D.COM MCU.5V, M.RED MCU.5V, M.BLU D.1C, M.PNK D.2C, M.YEL D.3C, M.ORG D.4C, D.1B MCU.D8, D.2B MCU.D9, D.3B MCU.D10, D.4B MCU.D11',
    },
    {
      title: 'a wake-up pin on a resistor to the supply',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'tb6612', M: 'dc-motor', R: ohms(10_000) },
      wires:
        'U.VM PACK.+, U.VCC MCU.5V, PACK.- MCU.GND, U.GND MCU.GND, U.AIN1 MCU.D4, U.AIN2 MCU.D5, U.PWMA MCU.D3, U.STBY R.1, R.2 MCU.5V, M.M1 U.AO1, M.M2 U.AO2',
    },
  ],
  invalid: [
    {
      title: 'a transistor whose base lies on its collector',
      mcu: 'uno-r3',
      parts: { Q: 'npn', R: { part: 'resistor', options: { ohms: 1000 } }, B: 'buzzer-active' },
      wires: 'B.+ MCU.5V, B.- Q.C, Q.C Q.B, Q.E MCU.GND, R.1 MCU.5, R.2 Q.B',
      says: ['fault: Q.C and Q.B are joined, so that Q switches nothing there.'],
      fix: 'Take out the wire Q.C to Q.B',
      changes: ['wire Q.C to Q.B removed'],
    },
    {
      title: 'the same with nothing else on it: one matter',
      mcu: 'uno-r3',
      parts: { Q: 'npn' },
      wires: 'Q.C Q.B, Q.B MCU.D4, Q.E MCU.GND',
      says: ['fault: Q.C and Q.B are joined, so that Q switches nothing there.'],
    },
    {
      title: 'a relay whose contact a wire goes round',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { K: 'relay-1', M: 'pump' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, K.COM PACK.+, K.NO M.+, M.+ PACK.+, M.- PACK.-, PACK.- MCU.GND',
      says: ['fault: K.NO and K.COM are joined, so that K switches nothing there.'],
      fix: 'Take out the wire M.+ to PACK.+',
      changes: ['wire M.+ to PACK.+ removed'],
    },
    {
      title: 'a motor on a stepper driver',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { U: 'a4988', M: { part: 'dc-motor', options: { volts: 12 } } },
      wires:
        'U.VMOT PACK.+, U.GND PACK.-, PACK.- MCU.GND, U.VDD MCU.5V, U.STEP MCU.5, U.DIR MCU.6, U.RST U.SLP, U.1A M.M1, U.1B M.M2',
      says: ['fault: M hangs on U.1A and U.1B of U, which drive a bipolar stepper only.'],
    },
    {
      title: 'a transistor whose two legs share a row',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { Q: 'nmos', L: 'lamp' },
      wires: 'L.+ PACK.+, L.- Q.D, Q.D MCU.GND, Q.S MCU.GND, PACK.- MCU.GND, Q.G MCU.5',
      says: ['fault: Q.D and Q.S are joined, so that Q switches nothing there.'],
      fix: 'Take out the wire Q.D to MCU.GND',
      changes: ['wire Q.D to MCU.GND removed'],
    },
    {
      title: 'a transistor on the side of the supply whose two legs lie there',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { Q: 'pmos', L: 'pump' },
      wires: 'Q.S PACK.+, Q.D PACK.+, L.+ Q.D, L.- PACK.-, PACK.- MCU.GND, Q.G MCU.5',
      says: ['fault: Q.D and Q.S are joined, so that Q switches nothing there.'],
      fix: 'Take out the wire Q.D to PACK.+',
      changes: ['wire Q.D to PACK.+ removed'],
    },
    {
      title: 'a bridge fed at one of its own outputs',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6 } },
      parts: { U: 'l9110s', M: 'dc-motor' },
      wires: 'U.VCC U.OA1, U.GND MCU.GND, U.A-IA MCU.5, U.A-IB MCU.6, M.M1 PACK.+, M.M2 U.OA2, PACK.- MCU.GND',
      says: ['fault: U.OA1 and U.VCC are joined, so that U switches nothing there.'],
    },
    {
      title: 'the supply at the common of a relay, and the load past it',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { K: 'relay-1', M: 'pump' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.COM, M.+ PACK.+, M.- PACK.-, PACK.- MCU.GND',
      says: ['caution: K.COM is wired and K.NC and K.NO are not: K switches nothing with it.'],
    },
    {
      title: 'a buzzer at a contact of a relay whose common is open',
      mcu: 'uno-r3',
      parts: { K: 'relay-1', B: 'buzzer-active' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, B.+ K.NO, B.- MCU.GND',
      says: ['caution: K.NO is wired and K.COM is not: K switches nothing with it.'],
    },
    {
      title: 'a pump past its driver',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { U: 'uln2003', M: 'pump' },
      wires: 'M.+ PACK.+, M.- PACK.-, PACK.- MCU.GND, U.COM PACK.+, U.E MCU.GND, U.1B MCU.7',
      says: ['caution: M lies straight on its supply and runs for good, and U, which U.1B moves, carries nothing.'],
    },
    {
      title: 'a transistor whose source only holds the resistor of its gate',
      ...behind(', R.2 Q.S'),
      says: ['fault: Q.S leads to no ground, so that Q.D carries nothing.'],
      fix: 'Join Q.S to MCU.GND',
      changes: ['wire Q.S to MCU.GND added'],
    },
    {
      title: 'a transistor whose source lies on the supply',
      ...behind(', R.2 MCU.GND, Q.S PACK.+'),
      says: ['fault: Q.S lies on 12 V (PACK.+) instead of ground, so that Q.D carries nothing.'],
    },
    {
      title: 'a lamp straight on ground, beside its transistor',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { Q: 'nmos', R: ohms(10_000), L: { part: 'lamp', options: { volts: 12 } } },
      wires: 'L.+ PACK.+, L.- PACK.-, PACK.- MCU.GND, Q.G MCU.D5, R.1 Q.G, R.2 Q.S, Q.S MCU.GND',
      says: ['caution: Q.G moves Q.D, on which nothing hangs.'],
    },
    {
      title: 'a coil of a stepper whose input is on ground',
      ...coil('MCU.GND'),
      says: ['fault: M on D.4C never changes: D.4B lies on a rail.'],
    },
    {
      title: 'a coil of a stepper that is on for good',
      ...coil('MCU.5V'),
      says: ['fault: M on D.4C never changes: D.4B lies on a rail.'],
    },
    {
      title: 'a transistor whose source has no wire',
      ...behind(', R.2 MCU.GND'),
      says: ['fault: Q.S leads to no ground, so that Q.D carries nothing.'],
    },
    {
      title: 'a tape of lights whose transistor is moved by nothing',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { Q: 'nmos', R: ohms(10_000), T: 'strip-12v' },
      wires: 'T.+ PACK.+, T.- Q.D, PACK.- MCU.GND, R.1 Q.G, R.2 MCU.GND, Q.S MCU.GND',
      says: ['fault: Q.D carries T and never moves: Q.G is open.'],
    },
    {
      title: 'an enable on one of two inputs',
      ...halfBridge('MCU.D5', 'MCU.D5', 'MCU.D7'),
      says: ['caution: M turns one way only: U.EN12 is off whenever U.1A is low.'],
    },
    {
      title: 'an enable on the other one',
      ...halfBridge('MCU.D5', 'MCU.D7', 'MCU.D5'),
      says: ['caution: M turns one way only: U.EN12 is off whenever U.2A is low.'],
    },
    {
      title: 'a speed in common on one of two directions',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'tb6612', M: 'dc-motor' },
      wires:
        'U.VM PACK.+, PACK.- MCU.GND, U.GND MCU.GND, U.VCC MCU.5V, U.STBY MCU.5V, U.PWMA MCU.3, U.AIN1 MCU.3, U.AIN2 MCU.4, M.M1 U.AO1, M.M2 U.AO2',
      says: ['caution: M turns one way only: U.PWMA is off whenever U.AIN1 is low.'],
    },
    {
      title: 'two coils of a stepper on one pair of pins',
      ...twoCoils('D4', 'D5', 'D4', 'D5'),
      says: ['fault: M never turns: U.OUT1, U.OUT2, U.OUT3 and U.OUT4 always do the same for two of its coils.'],
    },
    {
      title: 'two coils against each other on one pair of pins',
      ...twoCoils('D4', 'D5', 'D5', 'D4'),
      says: ['fault: M never turns: U.OUT1, U.OUT2, U.OUT3 and U.OUT4 always do the same for two of its coils.'],
    },
    {
      title: 'two of four coils on one pin',
      ...coil('MCU.D10'),
      says: ['fault: M never turns: D.3C and D.4C always do the same for two of its coils.'],
    },
    {
      title: 'both inputs on one pin, with a speed in common',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'tb6612', M: 'dc-motor' },
      wires:
        'U.VM PACK.+, PACK.- MCU.GND, U.GND MCU.GND, U.VCC MCU.5V, U.STBY MCU.5V, U.PWMA MCU.3, U.AIN1 MCU.4, U.AIN2 MCU.4, M.M1 U.AO1, M.M2 U.AO2',
      says: ['fault: M between U.AO1 and U.AO2 never moves: U.AIN1 and U.AIN2 always say the same.'],
    },
    {
      title: 'both inputs on one pin',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, U.IN1 MCU.D4, U.IN2 MCU.D4, M.M1 U.OUT1, M.M2 U.OUT2`,
      says: ['fault: M between U.OUT1 and U.OUT2 never moves: U.IN1 and U.IN2 always say the same.'],
    },
    {
      title: 'both inputs on ground',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, U.IN1 MCU.GND, U.IN2 MCU.GND, M.M1 U.OUT1, M.M2 U.OUT2`,
      says: ['fault: M between U.OUT1 and U.OUT2 never moves: U.IN1 and U.IN2 always say the same.'],
    },
    {
      title: 'an input open',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor' },
      wires: `${bridge}, U.IN1 MCU.D4, M.M1 U.OUT1, M.M2 U.OUT2`,
      says: ['fault: U.OUT2 carries M and never moves: U.IN2 is open.'],
    },
    {
      title: 'asleep for good',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'tb6612', M: 'dc-motor' },
      wires:
        'U.VM PACK.+, U.VCC MCU.5V, PACK.- MCU.GND, U.GND MCU.GND, U.AIN1 MCU.D4, U.AIN2 MCU.D5, U.PWMA MCU.D3, U.STBY MCU.GND, M.M1 U.AO1, M.M2 U.AO2',
      says: ['fault: U.AO1 and U.AO2 carry M and never move: U.STBY does not switch them on.'],
    },
    {
      title: 'the fourth coil forgotten',
      mcu: 'uno-r3',
      parts: { D: 'uln2003', M: 'stepper-28byj48' },
      wires:
        'D.E MCU.GND, D.COM MCU.5V, M.RED MCU.5V, M.BLU D.1C, M.PNK D.2C, M.YEL D.3C, M.ORG D.4C, D.1B MCU.D8, D.2B MCU.D9, D.3B MCU.D10',
      says: ['fault: D.4C carries M and never moves: D.4B is open.'],
    },
  ],
})
