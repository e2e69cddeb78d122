import type { PlanPart } from '../plan/planSchema.ts'
import { testRule } from '../testing/rules.ts'
import { diodeAcross } from './diodeAcross.ts'
import { driverIdle } from './driverIdle.ts'
import { driverRating } from './driverRating.ts'
import { matrixRule } from './matrix.ts'
import { pinNotSignal } from './pinNotSignal.ts'
import { pinOnRail } from './pinOnRail.ts'
import { pwmChannel } from './pwmChannel.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }
const five = { P: { volts: 5, limitMilliamps: 3000 } }
const ohms = (value: number): PlanPart => ({ part: 'resistor', options: { ohms: value } })
const motor = (milliamps: number, stall: number, mode?: string): PlanPart => ({
  part: 'dc-motor',
  options: { milliamps, stall },
  ...(mode ? { mode } : {}),
})

const transceiver = (more: string) => ({
  mcu: 'mega-2560-r3',
  parts: { X: 'max485' },
  wires: `X.VCC MCU.5V, X.GND MCU.GND, ${more}`,
})
testRule(pinOnRail, {
  valid: [
    {
      title: 'a line driver that only receives, its sender tied off',
      mcu: 'mega-2560-r3',
      parts: { D: 'max485' },
      wires: 'D.VCC MCU.5V, D.GND MCU.GND, D.DI MCU.5V, D.RO MCU.19, D.DE MCU.GND, D.RE MCU.GND',
    },
    { title: 'a line that is only listened to', ...transceiver('X.RO MCU.RX1, X.RE MCU.GND, X.DE MCU.GND') },
    { title: 'a line that is only sent on', ...transceiver('X.DI MCU.TX1, X.RE MCU.5V, X.DE MCU.5V') },
    {
      title: 'a button from a 5 V pin to 5 V',
      mcu: 'uno-r3',
      parts: { B: 'button', R: ohms(10_000) },
      wires: 'B.1 MCU.5V, B.2 MCU.D4, R.1 MCU.D4, R.2 MCU.GND',
    },
    { title: 'a button to ground', parts: { B: 'button' }, wires: 'B.1 MCU.GND, B.2 MCU.GPIO4' },
    { title: 'a button at reset', mcu: 'uno-r3', parts: { B: 'button' }, wires: 'B.1 MCU.RESET, B.2 MCU.GND' },
    { title: 'the reference on 3.3 V', mcu: 'uno-r3', wires: 'MCU.AREF MCU.3V3' },
    {
      title: 'an enable held high on purpose',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'tb6612' },
      wires: 'U.VM PACK.+, U.VCC MCU.5V, PACK.- MCU.GND, U.GND MCU.GND, U.STBY MCU.5V, U.PWMA MCU.5V',
    },
    {
      title: 'the supply lead of a cable on the supply of a board',
      mcu: 'uno-r3',
      uses: [],
      parts: { C: 'usb-ttl-cable' },
      wires: 'C.5V MCU.5V, C.GND MCU.GND, C.RXD MCU.D1, C.TXD MCU.D0',
    },
    {
      title: 'a step size tied to the logic supply',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { S: 'drv8825' },
      wires: 'S.VMOT PACK.+, S.GND PACK.-, S.GND.2 MCU.GND, S.M0 MCU.5V',
    },
  ],
  invalid: [
    {
      title: 'a receiver of commands that lies on the supply',
      mcu: 'mega-2560-r3',
      parts: { D: 'mh-z19' },
      wires: 'D.VIN MCU.5V, D.GND MCU.GND, D.TX MCU.19, D.RX MCU.5V',
      says: ['caution: D.RX is on 5 V (MCU.5V): the line rests for good, and nobody ever speaks to D.'],
    },
    {
      title: 'a clock on the supply',
      parts: { E: { part: 'bme280', mode: 'spi' } },
      wires: 'E.VCC MCU.3V3, E.GND MCU.GND, E.SCL MCU.3V3',
      says: ['fault: E.SCL is on 3.3 V (MCU.3V3): a line of a bus that never moves carries nothing.'],
    },
    {
      title: 'the ear of a radio on ground',
      mcu: 'mega-2560-r3',
      parts: { R: 'hc-12' },
      wires: 'R.VCC MCU.3V3, R.GND MCU.GND, R.TXD MCU.19, R.RXD MCU.GND',
      says: ['fault: R.RXD is on ground: on a serial line that is a break without end, and nothing is ever heard.'],
    },
    {
      title: 'a button to ground on the line of a relay',
      parts: { K: 'relay-1', S: 'button' },
      wires: 'K.VCC MCU.VIN, K.GND MCU.GND, K.IN MCU.27, S.1 MCU.27, S.2 MCU.GND',
      says: ['fault: When S closes, the output MCU.GPIO27 is joined with ground.'],
    },
    {
      title: 'a relay whose only input lies on a supply',
      mcu: 'uno-r3',
      parts: { K: 'relay-1' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.5V',
      says: ['caution: K.IN is on 5 V (MCU.5V): K is off for good, and no pin of a board can change that.'],
    },
    {
      title: 'the pulse line of a servo on its supply',
      mcu: 'uno-r3',
      supplies: five,
      parts: { S: 'servo-sg90' },
      wires: 'P.- MCU.GND, S.VCC P.+, S.GND P.-, S.SIG P.+',
      says: ['caution: S.SIG is on 5 V (P.+): it waits for pulses, of which a rail has none.'],
    },
    {
      title: 'the post that chooses what starts, for good at the loader',
      mcu: 'nucleo-f446re',
      wires: 'MCU.BOOT0 MCU.3V3',
      says: [
        'fault: MCU.BOOT0 is on 3.3 V (MCU.3V3): at every start the board waits for a new program, and never runs its own.',
      ],
    },
    {
      title: 'the same where it acts while low',
      mcu: 'teensy-4-1',
      wires: 'MCU.PROGRAM MCU.GND',
      says: [
        'fault: MCU.PROGRAM is on ground: at every start the board waits for a new program, and never runs its own.',
      ],
    },
    {
      title: 'a post of the programmer taken for ground',
      mcu: 'xiao-samd21',
      wires: 'MCU.SWCLK MCU.GND',
      says: ['caution: MCU.SWCLK is on ground, and belongs to the programmer.'],
    },
    {
      title: 'a line that is listened to, and the receiver switched off',
      ...transceiver('X.RO MCU.RX1, X.RE MCU.5V, X.DE MCU.5V'),
      says: ['fault: X.RE is on 5 V (MCU.5V): it switches X.RO off for good.'],
    },
    {
      title: 'a line that is sent on, and the transmitter switched off',
      ...transceiver('X.DI MCU.TX1, X.RE MCU.GND, X.DE MCU.GND'),
      says: ['fault: X.DE is on ground: it switches X.DI off for good.'],
    },
    {
      title: '5 V on a pin of 3.3 V',
      wires: 'MCU.GPIO4 MCU.VIN',
      says: ['fault: MCU.GPIO4 is joined with 5 V (MCU.VIN) and bears 3.6 V.'],
      fix: 'Take out the wire MCU.GPIO4 to MCU.VIN',
      changes: ['wire MCU.GPIO4 to MCU.VIN removed'],
    },
    {
      title: '12 V on a pin, without a part between',
      mcu: 'pico',
      supplies: pack,
      wires: 'PACK.+ MCU.GP2, PACK.- MCU.GND',
      says: ['fault: MCU.GP2 is joined with 12 V (PACK.+) and bears 3.63 V.'],
    },
    {
      title: '3.3 V on a pin of 3.3 V',
      wires: 'MCU.GPIO4 MCU.3V3',
      says: [
        'fault: MCU.GPIO4 is joined with 3.3 V (MCU.3V3): the first time that the program drives it low, it shorts it.',
      ],
    },
    {
      title: 'ground on a pin',
      mcu: 'uno-r3',
      wires: 'MCU.D4 MCU.GND',
      says: ['fault: MCU.D4 is joined with ground: the first time that the program drives it high, it shorts it.'],
    },
    {
      title: 'ground on a pin that only reads',
      wires: 'MCU.GPIO34 MCU.GND',
      says: ['caution: MCU.GPIO34 is joined with ground and can read nothing else.'],
    },
    {
      title: 'a button from 5 V to a pin of 3.3 V',
      parts: { B: 'button' },
      wires: 'B.1 MCU.VIN, B.2 MCU.GPIO4',
      says: ['fault: When B closes, MCU.GPIO4 is joined with 5 V (MCU.VIN); it bears 3.6 V.'],
    },
    {
      title: 'a chip held in reset',
      mcu: 'pico',
      wires: 'MCU.RUN MCU.GND',
      says: ['fault: MCU.RUN is on ground: the board stays in reset.'],
    },
    {
      title: 'a bus line on the supply',
      parts: { C: 'bme280' },
      wires: 'C.VCC MCU.3V3, C.GND MCU.GND, C.SDA MCU.3V3, C.SCL MCU.GPIO22',
      says: ['fault: C.SDA is on 3.3 V (MCU.3V3): it is a line of a bus and can say nothing there.'],
    },
    {
      title: 'an output on ground',
      parts: { C: 'hx711' },
      wires: 'C.VCC MCU.3V3, C.GND MCU.GND, C.DT MCU.GND, C.SCK MCU.GPIO4',
      says: ['fault: C.DT is on ground: it is an output, works against the rail, and is read by nobody.'],
    },
    {
      title: 'a step size tied to the motor supply',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { S: 'drv8825' },
      wires: 'S.VMOT PACK.+, S.GND PACK.-, S.GND.2 MCU.GND, S.M0 PACK.+',
      says: ['fault: S.M0 is tied to 12 V (PACK.+) and bears 5.25 V.'],
    },
  ],
})

testRule(pinNotSignal, {
  valid: [
    {
      title: 'the reset of a part on that of the board',
      mcu: 'uno-r3',
      parts: { T: 'rc522' },
      wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.RST MCU.RESET',
    },
  ],
  invalid: [
    {
      title: 'a magnet switch on reset',
      mcu: 'nano-v3',
      parts: { H: 'hall-a3144' },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT MCU.RESET',
      says: ['fault: H.OUT needs an edge interrupt and hangs on MCU.RESET, which resets the board.'],
    },
    {
      title: 'a knob on a hole that leads nowhere',
      mcu: 'uno-r3',
      parts: { P: 'potentiometer' },
      wires: 'P.1 MCU.GND, P.3 MCU.5V, P.W MCU.NC',
      says: ['fault: P.W needs an analog input and hangs on MCU.NC, which is not connected.'],
      fix: 'Move P.W to MCU.A0',
      changes: ['wire P.W to MCU.NC removed', 'wire P.W to MCU.A0 added'],
    },
    {
      title: 'a knob on the reference',
      mcu: 'mega-2560-r3',
      parts: { P: 'potentiometer' },
      wires: 'P.1 MCU.GND, P.3 MCU.5V, P.W MCU.AREF',
      says: ['fault: P.W needs an analog input and hangs on MCU.AREF, which is the reference of its converter.'],
    },
    {
      title: 'a ground lead on reset',
      mcu: 'pico',
      parts: { C: 'usb-ttl-cable' },
      wires: 'C.GND MCU.RUN, C.RXD MCU.GP0, C.TXD MCU.GP1',
      says: ['fault: C.GND is ground and hangs on MCU.RUN, which resets the board.'],
      fix: 'Move C.GND to MCU.GND',
      changes: ['wire C.GND to MCU.RUN removed', 'wire C.GND to MCU.GND added'],
    },
  ],
})

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
testRule(driverIdle, {
  valid: [
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

testRule(diodeAcross, {
  valid: [
    {
      title: 'across a motor that a transistor switches',
      mcu: 'uno-r3',
      supplies: pack,
      parts: {
        M: motor(200, 600, 'switched'),
        T: 'nmos',
        R: ohms(10_000),
        D: { part: 'diode', options: { model: '1n5819' } },
      },
      wires: 'M.M1 PACK.+, M.M2 T.D, T.S MCU.GND, PACK.- MCU.GND, T.G MCU.D5, R.1 T.G, R.2 T.S, D.A T.D, D.K PACK.+',
    },
    {
      title: 'from an output of a bridge to its supply',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor', D: 'diode' },
      wires: `${bridge}, M.M1 U.OUT1, M.M2 U.OUT2, D.A U.OUT1, D.K PACK.+`,
    },
  ],
  invalid: [
    {
      title: 'across a motor on a bridge',
      mcu: 'mega-2560-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor', D: 'diode' },
      wires: `${bridge}, M.M1 U.OUT1, M.M2 U.OUT2, D.A U.OUT1, D.K U.OUT2`,
      says: ['fault: D lies across M, which a bridge drives both ways: one way it is a short circuit.'],
      fix: 'Take D out',
      changes: ['part D removed', 'wire D.A to U.OUT1 removed', 'wire D.K to U.OUT2 removed'],
    },
  ],
})

const switched = 'M.M1 PACK.+, M.M2 T.D, T.S MCU.GND, PACK.- MCU.GND, T.G MCU.D5, R.1 T.G, R.2 T.S'
const onFet = (milliamps: number, stall: number, model: string) => ({
  mcu: 'uno-r3',
  supplies: pack,
  parts: { M: motor(milliamps, stall, 'switched'), T: { part: 'nmos', options: { model } }, R: ohms(10_000) },
  wires: switched,
})
/** Two motors in parallel on one half of a double bridge. */
const twoMotors = (milliamps: number, stall: number) => {
  const motor = { part: 'dc-motor', options: { milliamps, stall } }
  return {
    supplies: { P: { volts: 6, limitMilliamps: 9000 } },
    parts: { D: 'drv8833', M: motor, N: motor },
    wires:
      'D.VCC P.+, D.GND MCU.GND, P.- MCU.GND, D.EEP MCU.3V3, D.IN1 MCU.25, D.IN2 MCU.26, D.AOUT1 M.M1, D.AOUT2 M.M2, N.M1 M.M1, N.M2 M.M2',
  }
}
const metered = (volts: number, more: string) => ({
  mcu: 'uno-r3',
  supplies: { P: { volts, limitMilliamps: 2000 } },
  parts: { A: 'ina219', L: 'lamp' },
  wires: `A.VCC MCU.5V, A.GND MCU.GND, A.SDA MCU.A4, A.SCL MCU.A5, P.- MCU.GND, ${more}`,
})
/** A lamp on two outputs of an array that are joined. */
const onArray = (milliamps: number, one: string, two: string) => ({
  mcu: 'uno-r3',
  supplies: pack,
  parts: { D: 'uln2003', L: { part: 'lamp', options: { milliamps } } },
  wires: `PACK.- MCU.GND, D.E MCU.GND, D.COM PACK.+, D.1B ${one}, D.2B ${two}, D.1C L.-, D.2C L.-, L.+ PACK.+`,
})
/** A motor on a transistor with a resistor in front of its base. */
const onTransistor = (given: { milliamps?: number; stall?: number; volts?: number; ohms?: number }) => {
  const { milliamps = 200, volts = 6, ohms = 330 } = given
  return {
    supplies: { P: { volts } },
    parts: {
      T: 'npn',
      R: { part: 'resistor', options: { ohms } },
      M: { part: 'dc-motor', options: { milliamps, stall: given.stall ?? milliamps } },
    },
    wires: 'T.B R.1, R.2 MCU.27, T.E MCU.GND, P.- MCU.GND, M.M1 P.+, M.M2 T.C',
  }
}
const fused = (milliamps: number) => ({
  supplies: { P: { volts: 5, limitMilliamps: 3000 } },
  parts: { F: { part: 'fuse', options: { milliamps } }, S: 'servo-sg90' },
  wires: 'F.1 P.+, F.2 S.VCC, S.GND P.-, P.- MCU.GND, S.SIG MCU.27',
})

/** A resistor of some ohms and 50 W as a heater at 12 V, on a transistor. */
const heater = (value: number) => ({
  mcu: 'uno-r3',
  supplies: pack,
  parts: {
    H: { part: 'resistor', options: { ohms: value, watts: 50 } },
    Q: { part: 'npn', options: { model: 'bc337' } },
    R: ohms(220),
  },
  wires: 'PACK.- MCU.GND, H.1 PACK.+, H.2 Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.3',
})

testRule(driverRating, {
  valid: [
    {
      title: 'a loudspeaker on a transistor behind a resistor',
      mcu: 'uno-r3',
      parts: { Z: 'speaker', Q: 'npn', R: ohms(1000), S: { part: 'resistor', options: { ohms: 33, watts: 1 } } },
      wires: 'Z.+ MCU.5V, Z.- S.1, S.2 Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.3',
    },
    { title: 'a motor well under its transistor', ...onFet(300, 900, 'irlz44n') },
    { title: 'exactly four fifths', ...onFet(160, 200, '2n7000') },
    {
      title: 'a stepper at the current that its driver is set to',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { D: 'a4988', M: { part: 'stepper-bipolar', options: { milliamps: 1000 } } },
      wires: 'D.VMOT PACK.+, D.GND PACK.-, D.VDD MCU.5V, D.GND.2 MCU.GND, M.A+ D.1A, M.A- D.1B, M.B+ D.2A, M.B- D.2B',
    },
    { title: 'a lamp on two outputs side by side', ...onArray(480, 'MCU.D8', 'MCU.D8') },
    { title: 'a shunt in the way of a lamp', ...metered(24, 'A.VIN+ P.+, A.VIN- L.+, L.- MCU.GND') },
  ],
  invalid: [
    {
      title: 'a resistor that heats, too much for its transistor',
      ...heater(6),
      says: ['fault: H takes 1967 mA by its ohms, and Q gives 800 mA at most.'],
    },
    {
      title: 'a loudspeaker on an array, without a resistor',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { Z: 'speaker', U: 'uln2803' },
      wires: 'PACK.- MCU.GND, Z.+ PACK.+, Z.- U.1C, U.GND MCU.GND, U.COM PACK.+, U.1B MCU.3',
      says: ['fault: Z takes 1481 mA by its ohms, and U gives 500 mA at most.'],
    },
    {
      title: 'over its transistor',
      ...onFet(300, 900, '2n7000'),
      says: ['fault: M takes 300 mA, and T gives 200 mA at most.'],
    },
    {
      title: 'just over four fifths',
      ...onFet(161, 200, '2n7000'),
      says: ['caution: M takes 161 of the 200 mA that T is good for.'],
    },
    {
      title: 'only its start is too much',
      ...onFet(100, 201, '2n7000'),
      says: ['caution: M takes 201 mA when it starts or is held fast, and T gives 200 mA at most.'],
    },
    {
      title: 'a large stepper on a small driver',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { D: 'a4988', M: { part: 'stepper-bipolar', options: { milliamps: 2800 } } },
      wires: 'D.VMOT PACK.+, D.GND PACK.-, D.VDD MCU.5V, D.GND.2 MCU.GND, M.A+ D.1A, M.A- D.1B, M.B+ D.2A, M.B- D.2B',
      says: ['fault: M takes 2800 mA, and D gives 2000 mA at most.'],
    },
    {
      title: 'a lamp on two outputs side by side that different pins move',
      ...onArray(560, 'MCU.D8', 'MCU.D9'),
      says: ['fault: L takes 560 mA, and D gives 500 mA at most.'],
    },
    {
      title: 'too much for two outputs side by side',
      ...onArray(1001, 'MCU.D8', 'MCU.D8'),
      says: ['fault: L takes 1001 mA, and D gives 1000 mA at most.'],
    },
    {
      title: 'a shunt at more volts than it bears',
      ...metered(27, 'A.VIN+ P.+, A.VIN- L.+, L.- MCU.GND'),
      says: ['fault: A bears 26.0 V at its shunt and gets 27.0 V.'],
    },
    {
      title: 'a shunt across a supply',
      ...metered(12, 'A.VIN+ P.+, A.VIN- MCU.GND, L.+ P.+, L.- MCU.GND'),
      says: ['fault: A joins 12.0 V with ground through its shunt of 0.1 Ω.'],
    },
  ],
  edges: [
    { says: 'ohmic', because: 'BC337: 800 mA at 12 V', at: heater, said: 14.6, quiet: 14.9 },
    { says: 'over', because: 'BC337: 800 mA', at: (milliamps) => onTransistor({ milliamps }), said: 801, quiet: 800 },
    { says: 'near', because: '80 % of 800 mA', at: (milliamps) => onTransistor({ milliamps }), said: 641, quiet: 640 },
    { says: 'starts', because: 'BC337: 800 mA', at: (stall) => onTransistor({ stall }), said: 801, quiet: 800 },
    { says: 'volts', because: 'BC337: 45 V', at: (volts) => onTransistor({ volts }), said: 45.5, quiet: 45 },
    {
      says: 'weakBase',
      severity: 'fault',
      because: '(3.3 V − 0.7 V) · 100 / 200 mA = 1300 Ω, less 33 Ω of the output',
      at: (ohms) => onTransistor({ ohms }),
      said: 1280,
      quiet: 1250,
    },
    {
      says: 'weakBase',
      severity: 'caution',
      because: 'half as much again: 867 Ω, less 33 Ω of the output',
      at: (ohms) => onTransistor({ ohms }),
      said: 850,
      quiet: 820,
    },
    {
      says: 'overGood',
      because: 'one channel is good for 300 mA',
      at: (milliamps) => ({
        supplies: { P: { volts: 6 } },
        parts: { T: 'uln2003', M: { part: 'dc-motor', options: { milliamps, stall: milliamps } } },
        wires: 'T.1B MCU.27, T.GND MCU.GND, P.- MCU.GND, M.M1 P.+, M.M2 T.1C, T.COM P.+',
      }),
      said: 301,
      quiet: 300,
    },
    {
      says: 'togetherOver',
      because: 'twice 1000 mA, which DRV8833 bears for a moment',
      at: (milliamps) => twoMotors(milliamps, milliamps),
      said: 1001,
      quiet: 1000,
    },
    {
      says: 'togetherGood',
      because: 'twice 750 mA, for which DRV8833 is good',
      at: (milliamps) => twoMotors(milliamps, milliamps),
      said: 751,
      quiet: 750,
    },
    {
      says: 'togetherStarts',
      because: 'twice 1000 mA',
      at: (stall) => twoMotors(500, stall),
      said: 1001,
      quiet: 1000,
    },
    {
      says: 'resistorHot',
      because: '(5 V)² / 0.25 W = 100 Ω',
      at: (value) => ({
        supplies: { P: { volts: 5 } },
        parts: { R: { part: 'resistor', options: { ohms: value } } },
        wires: 'R.1 P.+, R.2 P.-, P.- MCU.GND',
      }),
      said: 99,
      quiet: 100,
    },
    {
      says: 'resistorHot',
      because: 'a Zener diode of 5.1 V and 0.5 W bears 98 mA: (12 V - 5.1 V) / 70.4 Ω',
      at: (ohms) => ({
        supplies: { P: { volts: 12 } },
        parts: {
          R: { part: 'resistor', options: { ohms, watts: 5 } },
          Z: { part: 'zener', options: { volts: 5.1 } },
        },
        wires: 'R.1 P.+, R.2 Z.K, Z.A P.-, P.- MCU.GND',
      }),
      said: 70,
      quiet: 71,
    },
    { says: 'fuseOver', because: 'a servo takes 220 mA as a rule', at: fused, said: 219, quiet: 220 },
    { says: 'fusePeak', because: 'a servo takes 650 mA when it starts, twice 325', at: fused, said: 324, quiet: 325 },
    {
      says: 'shuntVolts',
      because: 'INA219: 26 V',
      at: (volts) => ({
        supplies: { P: { volts } },
        parts: { I: 'ina219', M: { part: 'dc-motor', options: { milliamps: 200, stall: 300 } } },
        wires:
          'I.VCC MCU.3V3, I.GND MCU.GND, I.SDA MCU.21, I.SCL MCU.22, I.VIN+ P.+, I.VIN- M.M1, M.M2 P.-, P.- MCU.GND',
      }),
      said: 26.5,
      quiet: 26,
    },
  ],
})

const keys = (turned: string) => ({
  mcu: 'pico',
  parts: Object.fromEntries(
    ['1', '2', '3', '4'].flatMap((n) => [
      [`K${n}`, 'button'],
      [`D${n}`, { part: 'diode', options: { model: '1n4148' } }],
    ]),
  ),
  wires: [
    ['1', 'GP2', 'GP6'],
    ['2', 'GP3', 'GP6'],
    ['3', 'GP2', 'GP7'],
    ['4', 'GP3', 'GP7'],
  ]
    .map(([n, row, column]) => {
      const [near, far] = turned.includes(n!) ? ['K', 'A'] : ['A', 'K']
      return `K${n}.1 MCU.${row}, K${n}.2 D${n}.${near}, D${n}.${far} MCU.${column}`
    })
    .join(', '),
})
testRule(matrixRule, {
  valid: [
    { title: 'all diodes one way', ...keys('') },
    { title: 'all the other way', ...keys('1234') },
  ],
  invalid: [
    {
      title: 'one turned',
      ...keys('3'),
      says: ['fault: D3 at K3 is the other way round than the other diodes of the matrix.'],
      fix: 'Swap the wires of D3.A and D3.K',
      changes: [
        'wire K3.2 to D3.K removed',
        'wire D3.A to MCU.GP7 removed',
        'wire K3.2 to D3.A added',
        'wire D3.K to MCU.GP7 added',
      ],
    },
    {
      title: 'one turned, where the others lead the other way',
      ...keys('124'),
      says: ['fault: D3 at K3 is the other way round than the other diodes of the matrix.'],
    },
  ],
})

const servos = (board: string, a: string, b: string) => ({
  mcu: board,
  supplies: five,
  parts: { A: 'servo-sg90', B: 'servo-sg90' },
  wires: `A.SIG MCU.${a}, B.SIG MCU.${b}, A.VCC P.+, B.VCC P.+, A.GND P.-, B.GND P.-, P.- MCU.GND`,
})
testRule(pwmChannel, {
  valid: [
    { title: 'two channels of one timer', ...servos('pico', 'GP0', 'GP1') },
    { title: 'two channels of a single-board computer', ...servos('pi-40', 'GPIO12', 'GPIO13') },
    { title: 'two servos on one pin, on purpose', ...servos('pico', 'GP0', 'GP0') },
    { title: 'one channel of two pins, of which one has another', ...servos('nucleo-f446re', 'PB4', 'PC6') },
    {
      title: 'three pins with three channels between them',
      mcu: 'nucleo-f446re',
      supplies: { P: { volts: 5, limitMilliamps: 3000 } },
      parts: { A: 'servo-sg90', B: 'servo-sg90', C: 'servo-sg90' },
      wires:
        'A.SIG MCU.PA0, B.SIG MCU.PA5, C.SIG MCU.PB8, A.VCC P.+, B.VCC P.+, C.VCC P.+, A.GND P.-, B.GND P.-, C.GND P.-, P.- MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'the same channel on two pins',
      ...servos('pico', 'GP0', 'GP16'),
      says: ['fault: MCU.GP0 and MCU.GP16 are one PWM channel: A.SIG and B.SIG always get the same pulse.'],
    },
    {
      title: 'the same of a single-board computer',
      ...servos('pi-40', 'GPIO18', 'GPIO12'),
      says: ['fault: MCU.GPIO18 and MCU.GPIO12 are one PWM channel: A.SIG and B.SIG always get the same pulse.'],
    },
    {
      title: 'pins with several channels, all of which are taken',
      ...servos('nucleo-f446re', 'PA5', 'PA15'),
      says: ['fault: MCU.PA5 and MCU.PA15 are one PWM channel: A.SIG and B.SIG always get the same pulse.'],
    },
  ],
})
