import type { Short } from './plans.ts'
import { cap, gnd, led, ohms, pack } from './short.ts'

/** Resistors of another decade, wires that ended on a post that is no supply or on another supply. */

const two = { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } }
const pass = { Q: { part: 'nmos', options: { model: '2n7000' } } }

/** A pin of 5 V over one resistor at a pin of 3.3 V, and another resistor from there to ground. */
const divided = (top: number, bottom: number): Omit<Short, 'title'> => ({
  boards: two,
  parts: { R: ohms(top), S: ohms(bottom) },
  wires: 'A.GND B.GND, A.D3 R.1, R.2 B.GPIO16, S.1 B.GPIO16, S.2 B.GND',
})

/** Two boards on one bus, pulled up by two resistors alike. */
const bus = (value: number, rail = '5V'): Omit<Short, 'title'> => ({
  boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
  parts: { R: ohms(value), S: ohms(value) },
  wires: `A.A4 B.A4, A.A5 B.A5, A.GND B.GND, R.1 A.A4, R.2 A.${rail}, S.1 A.A5, S.2 A.${rail}`,
})

/** A display at 5 V behind two transistors; `low` is the resistor of its clock on the side of the board. */
const behindTransistors = (low: number): Omit<Short, 'title'> => ({
  parts: { ...pass, P: pass.Q, R: ohms(10_000), U: ohms(low), T: ohms(10_000), V: ohms(10_000), L: 'lcd-i2c' },
  wires:
    'L.VCC MCU.VIN, L.GND MCU.GND, Q.D L.SDA, Q.S MCU.21, P.D L.SCL, P.S MCU.22, Q.G MCU.3V3, P.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, U.1 MCU.3V3, U.2 P.S, T.1 MCU.VIN, T.2 Q.D, V.1 MCU.VIN, V.2 P.D',
})

/** The data of a strip over a transistor, pulled up to 5 V. */
const strip = (value: number, model = '2n7000'): Omit<Short, 'title'> => ({
  parts: {
    Q: { part: 'nmos', options: { model } },
    R: ohms(10_000),
    T: ohms(value),
    S: { part: 'ws2812-strip', options: { pixels: 4 } },
  },
  wires: 'S.5V MCU.VIN, S.GND MCU.GND, Q.D S.DIN, Q.S MCU.16, Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, T.1 MCU.VIN, T.2 Q.D',
})

/** A sensor with a resistor in its line, and the pull-up behind it at the pin. */
const inSeries = (value: number): Omit<Short, 'title'> => ({
  parts: { T: 'dht22', R: ohms(10_000), S: ohms(value) },
  wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.DATA S.1, S.2 MCU.26, R.1 MCU.3V3, R.2 MCU.26',
})

/** A pack of 12 V before a pin that measures it. */
const measured = (mcu: string, pin: string, top: number, bottom: number): Omit<Short, 'title'> => ({
  mcu,
  supplies: pack(12),
  parts: { R: ohms(top), S: ohms(bottom) },
  wires: `${gnd}, R.1 PACK.+, R.2 MCU.${pin}, S.1 MCU.${pin}, S.2 MCU.GND`,
})

const relay = (rail: string): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  parts: { B: 'button', K: 'relay-1', R: ohms(10_000) },
  wires: `K.VCC MCU.5V, K.GND MCU.GND, B.1 K.IN, B.2 ${rail}, R.1 K.IN, R.2 MCU.GND`,
})

/** A chip at 3.3 V with a button at one of its pins, a resistor from there to ground. */
const keyAt = (rail: string): Omit<Short, 'title'> => ({
  parts: { X: 'mcp23017', B: 'button', R: ohms(10_000), P: ohms(4700), Q: ohms(4700) },
  wires: `X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.21, X.SCL MCU.22, P.1 X.SDA, P.2 MCU.3V3, Q.1 X.SCL, Q.2 MCU.3V3, X.RESET MCU.3V3, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, B.1 X.GPA0, B.2 ${rail}, R.1 X.GPA0, R.2 MCU.GND`,
})

/** A display whose contrast comes from a knob between ground and a supply. */
const contrast = (rail: string): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  supplies: pack(12),
  parts: { D: 'lcd-parallel', K: 'potentiometer' },
  wires: `${gnd}, PACK.+ MCU.VIN, D.VDD MCU.5V, D.VSS MCU.GND, D.V0 K.W, K.1 MCU.GND, K.3 ${rail}, D.RW MCU.GND, D.RS MCU.12, D.E MCU.11, D.D4 MCU.5, D.D5 MCU.4, D.D6 MCU.3, D.D7 MCU.2, D.A MCU.5V, D.K MCU.GND`,
})

/** A fan behind a transistor in its plus. */
const fan = (minus: string): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  supplies: { ...pack(5), FAR: { volts: 12, limitMilliamps: 2000 } },
  parts: { M: 'fan', Q: 'pmos', R: ohms(10_000), D: 'diode' },
  wires: `${gnd}, FAR.- MCU.GND, FAR.+ MCU.VIN, Q.S PACK.+, Q.G MCU.7, R.1 Q.G, R.2 PACK.+, Q.D M.+, M.- ${minus}, D.K M.+, D.A MCU.GND`,
})

/** A strip behind a buffer, and the input of one that is not needed. */
const spare = (rail: string, reservoir = 'MCU.5V'): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  supplies: pack(12),
  parts: { B: '74ahct125', S: { part: 'ws2812-strip', options: { pixels: 2 } }, R: ohms(330), C: cap(1e-4) },
  wires: `${gnd}, PACK.+ MCU.VIN, B.VCC MCU.5V, B.GND MCU.GND, B.1OE MCU.GND, B.1A MCU.6, B.1Y R.1, R.2 S.DIN, C.1 ${reservoir}, C.2 MCU.GND, S.5V MCU.5V, S.GND MCU.GND, B.2A ${rail}`,
})

/** Three keys over resistors at one analog pin, and where the resistor that holds the line leads. */
const keys = (held: string): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  parts: { A: 'button', B: 'button', C: 'button', R: ohms(2000), S: ohms(4700), U: ohms(10_000) },
  wires: `A.1 MCU.A0, A.2 MCU.GND, R.1 MCU.A0, R.2 B.1, B.2 MCU.GND, S.1 MCU.A0, S.2 C.1, C.2 MCU.GND${held}`,
})

const knob = (end: string): Omit<Short, 'title'> => ({
  mcu: 'pico',
  parts: { K: 'potentiometer' },
  wires: `K.1 MCU.GND, K.W MCU.GP26, K.3 MCU.${end}`,
})

/** A light sensor and its resistor before a converter of its own. */
const light = (value: number): Omit<Short, 'title'> => ({
  mcu: 'pi-40',
  parts: { M: 'mcp3008', L: 'ldr', R: ohms(value) },
  wires:
    'M.VDD MCU.3V3, M.VREF MCU.3V3, M.AGND MCU.GND, M.DGND MCU.GND, M.CLK MCU.GPIO11, M.DOUT MCU.GPIO9, M.DIN MCU.GPIO10, M.CS MCU.GPIO8, L.1 MCU.3V3, L.2 M.CH0, R.1 M.CH0, R.2 MCU.GND',
})

/** Two relays that turn a motor both ways. */
const turning = (volts: number): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  supplies: pack(volts),
  parts: { M: { part: 'dc-motor', options: { volts: 6 } }, K: 'relay-2' },
  wires:
    'K.VCC MCU.5V, K.GND MCU.GND, K.IN1 MCU.7, K.IN2 MCU.8, PACK.+ K.NO1, PACK.- K.NC1, PACK.+ K.NO2, PACK.- K.NC2, K.COM1 M.M1, K.COM2 M.M2',
})

/** A board that one of two supplies feeds, and what chooses it. */
const either = (second: number, chooses: Short['parts'], wires: string): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  supplies: { A: { volts: 9 }, B: { volts: second } },
  ...(chooses ? { parts: chooses } : {}),
  wires: `A.- MCU.GND, B.- MCU.GND, ${wires}`,
})
const overDiodes = [{ D: 'diode', E: 'diode' }, 'A.+ D.A, B.+ E.A, D.K MCU.VIN, E.K MCU.VIN'] as const
const overSwitch = [{ S: 'slide-switch' }, 'S.1 A.+, S.3 B.+, S.C MCU.VIN'] as const

const atReference: Omit<Short, 'title'> = {
  mcu: 'pico',
  parts: { O: 'ssd1306' },
  wires: 'O.VCC MCU.ADC_VREF, O.GND MCU.GND, O.SDA MCU.GP4, O.SCL MCU.GP5',
}

const buzzer = (value: number): Omit<Short, 'title'> => ({
  mcu: 'uno-r3',
  parts: { B: 'buzzer-active', R: ohms(value) },
  wires: 'B.+ R.1, R.2 MCU.8, B.- MCU.GND',
})

export const soundValues: readonly (Short & { title: string })[] = [
  {
    title: 'a pin that resets its board over a diode',
    mcu: 'nano-v3',
    parts: { D: 'diode' },
    wires: 'D.A MCU.RESET, D.K MCU.D7',
  },
  {
    title: 'a line between two boards, divided in the middle, over which one of them is heard',
    boards: two,
    parts: { R: ohms(10_000), Q: ohms(15_000), S: ohms(10_000) },
    wires: 'A.GND B.GND, A.D7 R.1, R.2 S.1, S.2 B.GPIO16, Q.1 R.2, Q.2 B.GND',
  },
  {
    title: 'a magnet switch over a transistor with 330 Ω on its side, which the pin only reads',
    mcu: 'pico',
    parts: { ...pass, R: ohms(10_000), T: ohms(330), H: 'hall-a3144' },
    wires:
      'H.VCC MCU.VBUS, H.GND MCU.GND, Q.D H.OUT, Q.S MCU.GP3, Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, T.1 MCU.VBUS, T.2 Q.D',
  },
  { title: 'a line between two boards, divided in the usual way', ...divided(1000, 2000) },
  { title: 'the same with a hundred times the ohms', ...divided(100_000, 200_000) },
  {
    title: 'a resistor between two boards, and one that holds the line low until either drives',
    boards: { A: { board: 'pico' }, B: { board: 'esp32-devkit-30' } },
    parts: { R: ohms(220), S: ohms(10_000) },
    wires: 'A.GND B.GND, A.GP3 R.1, R.2 B.GPIO16, S.1 A.GP3, S.2 A.GND',
  },
  { title: 'two boards on one bus with 10 kΩ', ...bus(10_000) },
  { title: 'a display at 5 V behind two transistors with 4.7 kΩ', ...behindTransistors(4700) },
  { title: 'the data of a strip over a transistor with 1 kΩ', ...strip(1000) },
  { title: 'the data of a strip over a transistor for low gates', ...strip(1000, 'irlz44n') },
  { title: 'a humidity sensor behind 470 Ω, the pull-up at the pin', ...inSeries(470) },
  { title: 'a pack measured with a reference inside the chip', ...measured('uno-r3', 'A0', 100_000, 4700) },
  { title: 'a button from a relay to the supply, a resistor to ground', ...relay('MCU.5V') },
  { title: 'a knob at the reference that its board makes of 3.3 V', ...knob('ADC_VREF') },
  { title: 'a button at an expander, to the supply of that', ...keyAt('MCU.3V3') },
  { title: 'contrast from a knob at the supply of the display', ...contrast('MCU.5V') },
  { title: 'a fan behind a transistor in its plus', ...fan('MCU.GND') },
  { title: 'a spare input of a buffer at its supply', ...spare('MCU.5V') },
  { title: 'three keys over resistors to ground, held at the supply', ...keys(', U.1 MCU.5V, U.2 MCU.A0') },
  { title: 'a light sensor with its resistor before a converter', ...light(10_000) },
  { title: 'a motor for 6 V between two relays', ...turning(6) },
  { title: 'a board behind two diodes at 9 and 12 V', ...either(12, ...overDiodes) },
  {
    title: 'two cells in a row, a fan across each',
    mcu: 'uno-r3',
    parts: {
      B: { part: 'battery-box', options: { volts: 5 } },
      C: { part: 'battery-box', options: { volts: 5 } },
      F: 'fan',
      G: 'fan',
    },
    wires: 'B.- MCU.GND, B.+ C.-, F.+ C.+, F.- B.+, G.+ B.+, G.- B.-',
  },
  { title: 'a buzzer behind 100 Ω', ...buzzer(100) },
]

export const mistakenValues: readonly (Short & { title: string; rule: string })[] = [
  { title: 'two boards on one bus with 10 kΩ to ground', rule: 'i2c-pullup', ...bus(10_000, 'GND') },
  {
    title: 'a line between two boards over 10 kΩ, pulled up behind that',
    rule: 'level-logic',
    boards: { A: { board: 'pico' }, B: { board: 'esp32-devkit-30' } },
    parts: { R: ohms(10_000), S: ohms(4700) },
    wires: 'A.GND B.GND, A.GP3 R.1, R.2 B.GPIO16, S.1 B.GPIO16, S.2 B.3V3',
  },
  { title: 'a line between two boards, divided by fifty', rule: 'level-logic', ...divided(100_000, 2000) },
  { title: 'two boards on one bus with 470 kΩ', rule: 'i2c-pullup', ...bus(470_000) },
  { title: 'two boards on one bus with 100 Ω', rule: 'i2c-pullup', ...bus(100) },
  {
    title: 'a clock behind a transistor, 100 Ω on the side of the board',
    rule: 'i2c-pullup',
    ...behindTransistors(100),
  },
  {
    title: 'a clock behind a transistor, 1 MΩ on the side of the board',
    rule: 'i2c-pullup',
    ...behindTransistors(1e6),
  },
  { title: 'the data of a strip over a transistor with 100 Ω', rule: 'pin-current', ...strip(100) },
  { title: 'the data of a strip over a transistor for gates of 10 V', rule: 'level-logic', ...strip(1000, 'irf520n') },
  {
    title: 'the data of a strip over a channel of a shifter, with 120 Ω on its far side',
    rule: 'pin-current',
    parts: { X: 'shifter-bss138', T: ohms(120), S: { part: 'ws2812-strip', options: { pixels: 4 } } },
    wires:
      'X.LV MCU.3V3, X.HV MCU.VIN, X.GND MCU.GND, X.LV1 MCU.16, X.HV1 S.DIN, S.5V MCU.VIN, S.GND MCU.GND, T.1 MCU.VIN, T.2 S.DIN',
  },
  { title: 'a humidity sensor behind 10 kΩ, the pull-up at the pin', rule: 'level-logic', ...inSeries(10_000) },
  { title: 'a pack divided until nothing is left', rule: 'analog-range', ...measured('pico', 'GP26', 30_000, 75) },
  { title: 'a button from a relay to ground, where a resistor holds it', rule: 'level-logic', ...relay('MCU.GND') },
  { title: 'a knob at the post that resets its board', rule: 'supply-missing', ...knob('RUN') },
  { title: 'a button at an expander of 3.3 V, to 5 V', rule: 'level-damage', ...keyAt('MCU.VIN') },
  { title: 'contrast from a knob at 12 V', rule: 'level-damage', ...contrast('PACK.+') },
  { title: 'a fan behind a transistor in its plus, its minus at 12 V', rule: 'load-return', ...fan('FAR.+') },
  { title: 'a spare input of a buffer at 12 V', rule: 'pin-on-rail', ...spare('PACK.+') },
  {
    title: 'three keys over resistors to ground, held at ground as well',
    rule: 'level-logic',
    ...keys(', U.1 MCU.GND, U.2 MCU.A0'),
  },
  {
    title: 'three keys over resistors to ground, held by nothing',
    rule: 'level-logic',
    ...keys(', U.1 MCU.5V, U.2 MCU.A1'),
  },
  {
    title: 'the reservoir of a strip at its data, behind a buffer and a resistor',
    rule: 'line-capacitor',
    ...spare('MCU.5V', 'S.DIN'),
  },
  { title: 'a display at the reference that its board makes of 3.3 V', rule: 'supply-range', ...atReference },
  { title: 'a light sensor with 100 Ω before a converter', rule: 'analog-range', ...light(100) },
  { title: 'a motor for 6 V between two relays at 12 V', rule: 'supply-range', ...turning(12) },
  { title: 'a board behind two diodes at 9 and 24 V', rule: 'supply-range', ...either(24, ...overDiodes) },
  { title: 'a board behind a switch at 9 and 24 V', rule: 'supply-range', ...either(24, ...overSwitch) },
  { title: 'a buzzer behind 10 kΩ', rule: 'driver-rating', ...buzzer(10_000) },
  {
    title: 'the input of a relay behind 100 kΩ',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    parts: { K: 'relay-1', R: ohms(100_000) },
    wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN R.1, R.2 MCU.8',
  },
  {
    title: 'a lamp between the post that resets and a pin',
    rule: 'control-post',
    mcu: 'nano-v3',
    parts: { L: led(), R: ohms(220) },
    wires: 'R.1 MCU.RESET, R.2 L.A, L.K MCU.6',
  },
  {
    title: 'the pull-up of a sensor at the post that switches the supply',
    rule: 'control-post',
    mcu: 'pico',
    parts: { H: 'hall-a3144', R: ohms(10_000) },
    wires: 'H.VCC MCU.VBUS, H.GND MCU.GND, H.OUT MCU.GP3, R.1 MCU.GP3, R.2 MCU.3V3_EN',
  },
  {
    title: 'a motor between 12 V and the 5 V of the board',
    rule: 'load-return',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { M: 'dc-motor', C: cap(1e-7, 'ceramic', 50) },
    wires: `${gnd}, M.M1 PACK.+, M.M2 MCU.5V, C.1 M.M1, C.2 M.M2`,
  },
]
