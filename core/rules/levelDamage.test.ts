import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { levelDamage } from './levelDamage.ts'

/** A light-dependent resistor above a fixed one, from 5 V, read at 3.3 V. */
const light = (fixed: number, series: number) => ({
  parts: { T: 'ldr', R: ohms(fixed), S: ohms(series) },
  wires: 'T.1 MCU.VIN, S.1 T.2, S.2 MCU.34, R.1 MCU.34, R.2 MCU.GND',
})
/** A 5 V output behind a divider of 1 kΩ and so many ohms. */
const divided = (value: number) => ({
  parts: { S: 'hx711', R: ohms(1000), T: ohms(value) },
  wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.DT R.1, R.2 MCU.D4, T.1 R.2, T.2 MCU.GND',
})
const pass = { part: 'nmos', options: { model: '2n7000' } }
/** An echo of 5 V and a transistor with its gate at 3.3 V. */
const overTransistor = (wires: string) => ({
  parts: { Q: pass, R: ohms(10_000), S: 'hc-sr04' },
  wires: `Q.G MCU.3V3, R.1 MCU.3V3, S.VCC MCU.VIN, S.GND MCU.GND, S.TRIG MCU.19, ${wires}`,
})

/** A converter or a buffer between a board and a plug. */
const serial = (part: string, rail: string, wires: string, mcu = 'pi-40') => ({
  mcu,
  parts: { X: part, D: 'db9-breakout' },
  wires: `X.VCC MCU.${rail}, X.GND MCU.GND, ${wires}`,
})

testRule(levelDamage, {
  valid: [
    { title: 'a line of RS-232 through a converter at 3.3 V', ...serial('max3232', '3V3', 'X.R1OUT MCU.GPIO15') },
    { title: 'what it puts out on the line itself', ...serial('max3232', '5V', 'X.T1IN MCU.GPIO14, X.T1OUT D.3') },
    { title: 'a buffer at 5 V on a pin that bears them', ...serial('74ahct125', '5V', 'X.1Y MCU.D4', 'uno-r3') },
    { title: 'an echo over a transistor between two levels', ...overTransistor('Q.D S.ECHO, Q.S MCU.18, R.2 Q.S') },
    {
      title: 'a transistor the wrong way round, before what speaks at the lower level anyway',
      parts: { Q: pass, G: 'gps-uart', R: ohms(10_000) },
      wires: 'Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.D, G.VCC MCU.3V3, G.GND MCU.GND, Q.S G.TX, Q.D MCU.16',
    },
    {
      title: 'a receiver that the USB converter of its board holds high through its own resistor',
      boards: { A: { board: 'pi-40' }, B: { board: 'uno-r3' } },
      wires: 'A.GPIO14 B.0, A.GND B.GND',
    },
    {
      title: 'a serial port read by software, with a divider where 5 V arrive',
      boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
      parts: { R: ohms(1000), S: ohms(2000) },
      wires: 'A.GND B.GND, A.D11 R.1, R.2 B.GP1, S.1 B.GP1, S.2 B.GND, A.D10 B.GP0',
    },
    // 5 V · 10 / (10 + 4.7 + 0.15) = 3.37 V in daylight, and 3.37 / 4.7: less than the pin bears.
    { title: 'a light sensor at 5 V with a resistor that keeps it low', ...light(10_000, 4700) },
    { title: 'both sides at 3.3 V', parts: { S: 'hx711' }, wires: 'S.VCC MCU.3V3, S.GND MCU.GND, S.DT MCU.D4' },
    {
      title: 'a 5 V output through a divider',
      parts: { S: 'hx711', R: ohms(1000), T: ohms(2000) },
      wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.DT R.1, R.2 MCU.D4, T.1 R.2, T.2 MCU.GND',
    },
    {
      title: 'an open collector fed from 5 V and pulled to 3.3 V',
      parts: { H: 'hall-a3144', R: ohms(10000) },
      wires: 'H.VCC MCU.VIN, H.GND MCU.GND, H.OUT MCU.D4, R.1 H.OUT, R.2 MCU.3V3',
    },
    {
      title: 'a 5 V board on a bus that its modules pull to 3.3 V',
      mcu: 'uno-r3',
      parts: { O: 'ssd1306' },
      wires: 'O.VCC MCU.5V, O.GND MCU.GND, O.SDA MCU.A4, O.SCL MCU.A5',
    },
    {
      title: 'the transmitter of a board at a receiver of one that runs at 5 V, which never drives',
      boards: { A: { board: 'pi-40' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.GPIO14 B.19, A.GND B.GND',
    },
    {
      title: 'I2C between two boards, which its pull-ups alone bring to 3.3 V',
      boards: { A: { board: 'pi-40' }, B: { board: 'uno-r3' } },
      wires: 'A.GPIO2 B.A4, A.GPIO3 B.A5, A.GND B.GND',
    },
    {
      title: 'I2C to a board whose pins take either line, with pull-ups of our own',
      boards: { A: { board: 'esp32-devkit-30' }, B: { board: 'uno-r3' } },
      parts: { R: ohms(4700), S: ohms(4700) },
      wires: 'A.21 B.A4, A.22 B.A5, A.GND B.GND, R.1 A.3V3, R.2 B.A4, S.1 A.3V3, S.2 B.A5',
    },
  ],
  invalid: [
    {
      title: 'a line of RS-232 through a converter at 5 V',
      ...serial('max3232', '5V', 'D.2 X.R1IN, X.R1OUT MCU.GPIO15'),
      says: ['fault: X.R1OUT brings 5.0 V to MCU.GPIO15, which bears 3.6 V.'],
      fix: 'Feed X from MCU.3V3 (3.3 V)',
      changes: ['wire X.VCC to MCU.5V removed', 'wire X.VCC to MCU.3V3 added'],
    },
    {
      title: 'a buffer at 5 V that no signal comes over',
      ...serial('74ahct125', '5V', 'X.1OE MCU.GND, X.1A MCU.GPIO17, X.1Y MCU.GPIO18'),
      says: ['fault: X.1Y brings 5.0 V to MCU.GPIO18, which bears 3.6 V.'],
    },
    {
      title: 'an echo over a transistor the wrong way round',
      ...overTransistor('Q.S S.ECHO, Q.D MCU.18, R.2 Q.D'),
      says: ['fault: 5.0 V come to Q.S, the side of Q for 3.3 V: what hangs there belongs on Q.D.'],
      fix: 'Swap the wires of Q.S and Q.D',
      changes: [
        'wire Q.S to S.ECHO removed',
        'wire Q.D to MCU.GPIO18 removed',
        'wire R.2 to Q.D removed',
        'wire Q.D to S.ECHO added',
        'wire Q.S to MCU.GPIO18 added',
        'wire R.2 to Q.S added',
      ],
    },
    {
      title: 'a strip over a transistor the wrong way round, pulled to 5 V at its source',
      parts: { Q: pass, R: ohms(10_000), T: ohms(10_000), S: { part: 'ws2812-strip', options: { pixels: 4 } } },
      wires:
        'Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.D, T.1 MCU.VIN, T.2 Q.S, S.5V MCU.VIN, S.GND MCU.GND, Q.S S.DIN, Q.D MCU.16',
      says: ['fault: 5.0 V come to Q.S, the side of Q for 3.3 V: what hangs there belongs on Q.D.'],
    },
    {
      title: 'a strap on an output of the motor',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { U: 'a4988', M: 'stepper-bipolar' },
      wires:
        'U.VMOT PACK.+, U.GND PACK.-, PACK.- MCU.GND, U.VDD MCU.5V, U.STEP MCU.5, U.DIR MCU.6, U.RST MCU.5V, U.SLP MCU.5V, U.MS1 U.2B, U.1A M.A+, U.1B M.A-, U.2A M.B+, U.2B M.B-',
      says: ['fault: U.2B brings 12.0 V to U.MS1, which bears 5.5 V.'],
    },
    {
      title: 'a 3.3 V module on the pulled-up bus of a 5 V board',
      mcu: 'mega-2560-r3',
      parts: { L: 'bh1750' },
      wires: 'L.VCC MCU.5V, L.GND MCU.GND, L.SDA MCU.20, L.SCL MCU.21',
      // 3.3 V + 1.7 V · 4.7 / 14.7
      says: ['caution: MCU.D21 and MCU.D20 bring 3.84 V to L.SCL and L.SDA, which bear 3.6 V.'],
    },
    {
      title: 'a knob from 5 V to ground, turned round, on a pin for 3.3 V',
      mcu: 'pico',
      parts: { K: 'potentiometer' },
      wires: 'K.1 MCU.VBUS, K.3 MCU.GND, K.W MCU.GP26',
      says: ['fault: K.W brings 5.0 V to MCU.GP26, which bears 3.63 V.'],
    },
    {
      // 5 V · 10 / (10 + 3.3 + 0.15) = 3.72 V in daylight; 1.77 V at its usual 15 kΩ.
      title: 'a light sensor at 5 V that brings too much in daylight only',
      ...light(10_000, 3300),
      says: ['fault: Through S and T MCU.VIN brings 3.72 V to MCU.GPIO34, which bears 3.6 V.'],
    },
    {
      title: 'a 5 V output into a 3.3 V pin',
      parts: { S: 'hx711' },
      wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.DT MCU.D4',
      says: ['fault: S.DT brings 5.0 V to MCU.GPIO4, which bears 3.6 V.'],
      fix: 'Feed S from MCU.3V3 (3.3 V)',
      changes: ['wire S.VCC to MCU.VIN removed', 'wire S.VCC to MCU.3V3 added'],
    },
    {
      title: 'a sensor’s output, mended with a divider',
      parts: { G: 'gas-analog' },
      wires: 'G.VCC MCU.VIN, G.GND MCU.GND, G.AO MCU.D34',
      says: ['fault: G.AO brings 5.0 V to MCU.GPIO34, which bears 3.6 V.'],
      fix: 'Put a divider of 1.2 kΩ and 2.2 kΩ in the line',
      changes: [
        'part R1 added (resistor)',
        'part R2 added (resistor)',
        'wire G.AO to MCU.GPIO34 removed',
        'wire G.AO to R1.1 added',
        'wire R1.2 to MCU.GPIO34 added',
        'wire R2.1 to R1.2 added',
        'wire R2.2 to MCU.GND added',
      ],
    },
    {
      title: 'a clock at 5 V on a bus of 3.3 V, led over a shifter',
      mcu: 'pico',
      parts: { C: 'ds1307' },
      wires: 'C.VCC MCU.VBUS, C.GND MCU.GND, C.SDA MCU.GP4, C.SCL MCU.GP5',
      says: ['fault: C.SDA brings 5.0 V to MCU.GP4, which bears 3.63 V.'],
      fix: 'Lead C.SCL and C.SDA over a level shifter',
      changes: [
        'part SHIFTER added (shifter-bss138)',
        'wire C.SDA to MCU.GP4 removed',
        'wire C.SCL to MCU.GP5 removed',
        'wire SHIFTER.LV to MCU.3V3 added',
        'wire SHIFTER.HV to MCU.VBUS added',
        'wire SHIFTER.GND to MCU.GND added',
        'wire C.SCL to SHIFTER.HV1 added',
        'wire SHIFTER.LV1 to MCU.GP5 added',
        'wire C.SDA to SHIFTER.HV2 added',
        'wire SHIFTER.LV2 to MCU.GP4 added',
      ],
    },
    {
      title: 'a divider that is too shallow',
      parts: { S: 'hx711', R: ohms(1000), T: ohms(10000) },
      wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.DT R.1, R.2 MCU.D4, T.1 R.2, T.2 MCU.GND',
      says: ['fault: S.DT brings 4.55 V to MCU.GPIO4, which bears 3.6 V.'],
    },
    {
      title: 'a pull-up to the higher rail',
      parts: { H: 'hall-a3144', R: ohms(10000) },
      wires: 'H.VCC MCU.VIN, H.GND MCU.GND, H.OUT MCU.D4, R.1 H.OUT, R.2 MCU.VIN',
      says: ['fault: H.OUT brings 5.0 V to MCU.GPIO4, which bears 3.6 V.'],
    },
    {
      title: 'a bus pulled to 5 V by one of its modules',
      parts: { C: 'ds3231' },
      wires: 'C.VCC MCU.VIN, C.GND MCU.GND, C.SDA MCU.D21, C.SCL MCU.D22',
      says: ['fault: C.SDA brings 5.0 V to MCU.GPIO21, which bears 3.6 V.'],
      fix: 'Feed C from MCU.3V3 (3.3 V)',
      changes: ['wire C.VCC to MCU.VIN removed', 'wire C.VCC to MCU.3V3 added'],
    },
    {
      title: 'a 5 V pin into a 3.3 V radio',
      mcu: 'uno-r3',
      parts: { R: 'sx1276' },
      wires: 'R.VCC MCU.3V3, R.GND MCU.GND, R.NSS MCU.10',
      says: ['fault: MCU.D10 brings 5.0 V to R.NSS, which bears 3.9 V.'],
    },
    {
      title: 'a strap tied to 5 V',
      mcu: 'uno-r3',
      parts: { B: 'bme280' },
      wires: 'B.VCC MCU.3V3, B.GND MCU.GND, B.SDA MCU.5V',
      says: ['fault: B.SDA is tied to 5.0 V and bears 3.6 V.'],
    },
    {
      title: 'two boards joined pin to pin',
      boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.D4 B.D4, A.GND B.GND',
      says: ['fault: A.D4 brings 5.0 V to B.GPIO4, which bears 3.6 V.'],
    },
    {
      title: 'I2C between two boards that nothing pulls up',
      boards: { A: { board: 'esp32-devkit-30' }, B: { board: 'uno-r3' } },
      wires: 'A.21 B.A4, A.22 B.A5, A.GND B.GND',
      says: ['fault: B.A4 and B.A5 bring 5.0 V to A.GPIO21 and A.GPIO22, which bear 3.6 V.'],
    },
    {
      // 3.3 V and 5 V over 1.8 kΩ and 4.7 kΩ: (3.3 · 4.7 + 5 · 1.8) / 6.5 = 3.77 V.
      title: 'I2C between two boards, pulled to both their supplies',
      boards: { A: { board: 'pi-40' }, B: { board: 'uno-r3' } },
      parts: { R: ohms(4700), S: ohms(4700) },
      wires: 'A.GPIO2 B.A4, A.GPIO3 B.A5, A.GND B.GND, R.1 B.5V, R.2 B.A4, S.1 B.5V, S.2 B.A5',
      says: ['caution: B.A4 and B.A5 bring 3.77 V to A.GPIO2 and A.GPIO3, which bear 3.6 V.'],
    },
    {
      title: 'one line alone between pins of I2C, which is none',
      boards: { A: { board: 'pi-40' }, B: { board: 'uno-r3' } },
      wires: 'A.GPIO2 B.A4, A.GND B.GND',
      says: ['fault: B.A4 brings 5.0 V to A.GPIO2, which bears 3.6 V.'],
    },
    {
      title: 'the lines of I2C between two boards turned round, which are none then',
      boards: { A: { board: 'pi-40' }, B: { board: 'uno-r3' } },
      wires: 'A.GPIO2 B.A5, A.GPIO3 B.A4, A.GND B.GND',
      says: ['fault: B.A4 and B.A5 bring 5.0 V to A.GPIO3 and A.GPIO2, which bear 3.6 V.'],
    },
    {
      title: 'a transmitter that runs at 5 V at the receiver of another board',
      boards: { A: { board: 'pi-40' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.GPIO15 B.18, A.GND B.GND',
      says: ['fault: B.D18 brings 5.0 V to A.GPIO15, which bears 3.6 V.'],
    },
    {
      title: 'two lines by software to a serial port, the divider on the wrong one',
      boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
      parts: { R: ohms(1000), S: ohms(2000) },
      wires: 'A.GND B.GND, A.D10 R.1, R.2 B.GP0, S.1 B.GP0, S.2 B.GND, A.D11 B.GP1',
      says: ['fault: A.D11 brings 5.0 V to B.GP1, which bears 3.63 V.'],
    },
    {
      title: 'a line to the transmitter of one port, and one to the receiver of another',
      boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
      parts: { R: ohms(1000), S: ohms(2000) },
      wires: 'A.GND B.GND, A.D10 B.GP0, A.D11 R.1, R.2 B.GP5, S.1 B.GP5, S.2 B.GND',
      says: ['fault: A.D10 brings 5.0 V to B.GP0, which bears 3.63 V.'],
    },
    {
      title: 'a line to a transmitter alone, which may be none',
      boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
      wires: 'A.GND B.GND, A.D10 B.GP0',
      says: ['fault: A.D10 brings 5.0 V to B.GP0, which bears 3.63 V.'],
    },
    {
      title: 'a receiver at a pin that can only be a receiver: neither is what it seems',
      boards: { A: { board: 'pico' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.GP5 B.19, A.GND B.GND',
      says: ['fault: B.D19 brings 5.0 V to A.GP5, which bears 3.63 V.'],
    },
    {
      title: 'one channel of a shifter turned round, before a computer whose own pull-ups hide it',
      mcu: 'pi-40',
      parts: { L: 'lcd-i2c', S: 'shifter-bss138' },
      wires:
        'L.VCC MCU.5V, L.GND MCU.GND, S.HV MCU.5V, S.LV MCU.3V3, S.GND MCU.GND, L.SCL S.LV1, S.HV1 MCU.GPIO3, L.SDA S.HV2, S.LV2 MCU.GPIO2',
      says: ['fault: 4.46 V come to S.LV1, the side of S for 3.3 V: what hangs there belongs on S.HV1.'],
      fix: 'Swap the wires of S.LV1 and S.HV1',
      changes: [
        'wire L.SCL to S.LV1 removed',
        'wire S.HV1 to MCU.GPIO3 removed',
        'wire L.SCL to S.HV1 added',
        'wire S.LV1 to MCU.GPIO3 added',
      ],
    },
    {
      title: 'the same before a board without: said once',
      parts: { L: 'lcd-i2c', S: 'shifter-bss138' },
      wires:
        'L.VCC MCU.VIN, L.GND MCU.GND, S.HV MCU.VIN, S.LV MCU.3V3, S.GND MCU.GND, L.SCL S.LV1, S.HV1 MCU.D22, L.SDA S.HV2, S.LV2 MCU.D21',
      says: ['fault: 4.46 V come to S.LV1, the side of S for 3.3 V: what hangs there belongs on S.HV1.'],
      fix: 'Swap the wires of S.LV1 and S.HV1',
      changes: [
        'wire L.SCL to S.LV1 removed',
        'wire S.HV1 to MCU.GPIO22 removed',
        'wire L.SCL to S.HV1 added',
        'wire S.LV1 to MCU.GPIO22 added',
      ],
    },
  ],
  edges: [
    { says: 'driven', because: '5 V · R / (R + 1 kΩ) = 3.61 V: 2.6 kΩ', at: divided, said: 2610, quiet: 2590 },
    {
      says: 'through',
      because: '5 V · R / (R + 1 kΩ) = 3.65 V: 2.7 kΩ',
      at: (value) => ({
        parts: { A: ohms(1000), T: ohms(value) },
        wires: 'A.1 MCU.VIN, A.2 MCU.27, T.1 MCU.27, T.2 MCU.GND',
      }),
      said: 2710,
      quiet: 2690,
    },
    {
      says: 'turned',
      because: '3.9 V at the lower side: 1.1 V / R = 0.6 V / 10 kΩ, 18.33 kΩ',
      at: (value) => ({
        parts: { S: 'shifter-bss138', R: ohms(value) },
        wires: 'S.HV MCU.VIN, S.LV MCU.3V3, S.GND MCU.GND, R.1 MCU.VIN, R.2 S.LV1',
      }),
      said: 18_200,
      quiet: 18_500,
    },
  ],
})
