import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { pinOnRail } from './pinOnRail.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }
const five = { P: { volts: 5, limitMilliamps: 3000 } }
const transceiver = (more: string) => ({
  mcu: 'mega-2560-r3',
  parts: { X: 'max485' },
  wires: `X.VCC MCU.5V, X.GND MCU.GND, ${more}`,
})

testRule(pinOnRail, {
  valid: [
    { title: 'a reset that a wire holds where the board does', mcu: 'pico', wires: 'MCU.RUN MCU.3V3' },
    {
      title: 'one of two select lines that are asleep together',
      mcu: 'uno-r3',
      parts: { T: 'tcs3200' },
      wires: 'T.VCC MCU.5V, T.GND MCU.GND, T.S0 MCU.5V, T.S1 MCU.GND',
    },
    {
      title: 'a radio in its ordinary mode',
      parts: { L: 'lora-uart' },
      wires: 'L.VCC MCU.3V3, L.GND MCU.GND, L.M0 MCU.GND, L.M1 MCU.GND',
    },
    {
      title: 'a radio whose other mode line a pin moves',
      parts: { L: 'lora-uart' },
      wires: 'L.VCC MCU.3V3, L.GND MCU.GND, L.M0 MCU.3V3, L.M1 MCU.GPIO4',
    },
    {
      title: 'back light on its supply',
      parts: { D: 'st7735' },
      wires: 'D.VCC MCU.3V3, D.GND MCU.GND, D.LED MCU.3V3',
    },
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
      title: 'more than the chip runs at on its reset',
      mcu: 'pico',
      wires: 'MCU.RUN MCU.VBUS',
      says: ['fault: MCU.RUN gets 5 V (MCU.VBUS), above the 3.3 V at which its chip runs.'],
    },
    {
      title: 'five volts on a post of which nothing is known',
      mcu: 'pico',
      wires: 'MCU.3V3_EN MCU.VBUS',
      says: ['caution: MCU.3V3_EN gets 5 V (MCU.VBUS), and it is not known what the post bears.'],
    },
    {
      title: 'both select lines at the level at which they send the chip to sleep',
      mcu: 'uno-r3',
      parts: { T: 'tcs3200' },
      wires: 'T.VCC MCU.5V, T.GND MCU.GND, T.S0 MCU.GND, T.S1 MCU.GND',
      says: [
        'fault: T.S0 is on ground: it keeps the part from its work for good (how fast the output runs; with both low it is asleep).',
      ],
      fix: 'Move T.S0 to MCU.5V',
      changes: ['wire T.S0 to MCU.GND removed', 'wire T.S0 to MCU.5V added'],
    },
    {
      title: 'a mode line on the supply, the other held there by a resistor',
      parts: { L: 'lora-uart', R: ohms(10_000) },
      wires: 'L.VCC MCU.3V3, L.GND MCU.GND, L.M0 MCU.3V3, R.1 L.M1, R.2 MCU.3V3',
      says: [
        'fault: L.M0 is on 3.3 V (MCU.3V3): it keeps the part from its work for good (mode, low for ordinary sending; with both high it is asleep).',
      ],
    },
    {
      title: 'a sensor on I2C whose select line says SPI',
      parts: { M: 'icm20948' },
      wires: 'M.VIN MCU.3V3, M.GND MCU.GND, M.SDA MCU.GPIO21, M.SCL MCU.GPIO22, M.NCS MCU.GND',
      says: [
        'fault: M.NCS is on ground: it keeps the part from its work for good (high keeps it on the two-wire bus).',
      ],
    },
    {
      title: 'back light on ground',
      parts: { D: 'st7735' },
      wires: 'D.VCC MCU.3V3, D.GND MCU.GND, D.LED MCU.GND',
      says: ['caution: D.LED is on ground: it switches the back light off for good.'],
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
