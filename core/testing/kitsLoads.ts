import type { Kit } from './kits.ts'

const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })

/** What feeds the board decides how much its rails give. */
const throughTheBoard: readonly Kit[] = [
  {
    title: 'a radio and a matrix of lamps on an Uno with 12 V, and 5 V beside',
    why: 'behind its regulator the Uno gives 200 mA on 12 V: the lamps come to the other supply',
    mcu: 'uno-r3',
    parts: { C: 'hc-12', H: 'ht16k33' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 }, FIVE: { volts: 5, limitMilliamps: 3000 } },
    wired: [
      ['PACK\\.\\+', 'MCU\\.VIN'],
      ['H\\.VCC', 'FIVE\\.\\+'],
      ['FIVE\\.-', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'the same on 12 V alone',
    why: 'there is nothing else: the check says what it costs',
    mcu: 'uno-r3',
    parts: { C: 'hc-12', H: 'ht16k33' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    wired: [['H\\.VCC', 'MCU\\.5V.*']],
  },
  {
    title: 'a radio on an Uno with 12 V, and 5 V beside',
    why: 'what the Uno gives behind its regulator is enough, and one supply less is in the way',
    mcu: 'uno-r3',
    parts: { C: 'hc-12' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 }, FIVE: { volts: 5, limitMilliamps: 3000 } },
    wired: [['C\\.VCC', 'MCU\\.5V.*']],
  },
]

/** Arrays: their diodes lead to the supply of the loads, and two outputs share what is too much for one. */
const onArrays: readonly Kit[] = [
  {
    title: 'a strip of 12 V and a driver board that could run on 5 V',
    why: 'the diodes of the board meet at its supply: on 5 V the strip would never go off',
    mcu: 'uno-r3',
    parts: { U: 'uln2003-board', S: 'strip-12v' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 }, FIVE: { volts: 5, limitMilliamps: 3000 } },
    wired: [
      ['U\\.\\+', 'PACK\\.\\+'],
      ['U\\.B', 'U\\.A'],
      ['U\\.IN2', 'U\\.IN1'],
    ],
    never: [['U\\.\\+', 'FIVE\\.\\+']],
  },
  {
    title: 'a stepper on a driver board, 5 V and 12 V at hand',
    why: 'the board takes what the motor is made for',
    mcu: 'uno-r3',
    parts: { U: 'uln2003-board', M: 'stepper-28byj48' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 }, FIVE: { volts: 5, limitMilliamps: 3000 } },
    wired: [['U\\.\\+', 'FIVE\\.\\+']],
    never: [['U\\.IN\\d', 'U\\.IN\\d']],
  },
  {
    title: 'a fan before a stepper, and outputs for one of them',
    why: 'four leads of a motor are of more use than one of a fan, which waits for a transistor',
    mcu: 'uno-r3',
    parts: { F: { part: 'fan', options: { volts: 5 } }, M: 'stepper-28byj48', U: 'uln2003-board' },
    supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
    wired: [
      ['M\\.BLU', 'U\\.A'],
      ['M\\.ORG', 'U\\.D'],
    ],
    left: ['F.-'],
  },
  {
    title: 'three buzzers that are too much for a Pico, and an array',
    why: 'the array is there for what takes more than a pin gives',
    mcu: 'pico',
    parts: { A: 'buzzer-active', B: 'buzzer-active', C: 'buzzer-active', U: 'uln2003' },
    wired: [
      ['A\\.-', 'U\\.1C'],
      ['B\\.-', 'U\\.2C'],
      ['C\\.-', 'U\\.3C'],
      ['U\\.3B', 'MCU\\.GP\\d+'],
    ],
  },
  {
    title: 'a bridge and a solid-state relay',
    why: 'a pin moves the relay; the bridge is for a motor that is to come, as without the relay',
    mcu: 'esp32-devkit-30',
    parts: { D: 'drv8871', S: 'ssr' },
    supplies: { PACK: { volts: 12, limitMilliamps: 3000 } },
    wired: [
      ['D\\.IN1', 'MCU\\.GPIO\\d+'],
      ['S\\.\\+', 'MCU\\.GPIO\\d+'],
    ],
  },
  {
    title: 'a strip of three colours on an array of eight',
    why: 'two outputs a colour, each pair moved by one pin',
    mcu: 'pico',
    parts: { U: 'uln2803', S: 'strip-rgb-12v' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    wired: [
      ['U\\.4C', 'U\\.1C'],
      ['U\\.5C', 'U\\.2C'],
      ['U\\.6C', 'U\\.3C'],
      ['U\\.4B', 'U\\.1B'],
    ],
    never: [['U\\.[456]B', 'MCU\\..*']],
  },
  {
    title: 'a strip that the maker has put on one output of an array',
    why: 'what is wired stays; the check says what it costs',
    mcu: 'uno-r3',
    parts: { U: 'uln2803', S: 'strip-12v', B: 'button' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    wires: 'U.GND MCU.GND, PACK.- MCU.GND, PACK.+ S.+, S.- U.1C, U.1B MCU.D9',
    never: [['U\\.2[BC]', '.*']],
    adds: 0,
  },
  {
    title: 'a strip of three colours on an array of four',
    why: 'there is no room for all colours, so none gets two outputs; the check says what it costs',
    mcu: 'pico',
    parts: { U: 'uln2003-board', S: 'strip-rgb-12v' },
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    never: [['U\\.D', 'U\\.[ABC]']],
  },
]

/** Lamps whose plus lies on a supply, and outputs of which one at a time is picked. */
const lampsSunk: readonly Kit[] = [
  {
    title: 'a lamp whose plus the maker has put on the supply',
    why: 'a pin pulls its other leg low, behind a resistor: on ground it would burn',
    mcu: 'nano-v3',
    parts: { L: 'led' },
    wires: 'L.A MCU.5V',
    wired: [
      ['L\\.K', 'R1\\.1'],
      ['R1\\.2', 'MCU\\.D\\d+'],
    ],
    never: [['L\\.K', 'MCU\\..*']],
    adds: 1,
  },
  {
    title: 'a lamp behind a resistor on the supply',
    why: 'the resistor does where it is, and a pin pulls the other leg low',
    mcu: 'esp32-devkit-30',
    parts: { L: 'led', R: ohms(220) },
    wires: 'R.1 MCU.3V3, R.2 L.A',
    wired: [['L\\.K', 'MCU\\.GPIO\\d+']],
    adds: 0,
  },
  {
    title: 'a lamp whose minus lies at a pin',
    why: 'its plus belongs to the supply, and the loose resistor before it',
    mcu: 'pico',
    parts: { L: 'led', R: ohms(330) },
    wires: 'L.K MCU.GP5',
    wired: [
      ['L\\.A', 'R\\.[12]'],
      ['R\\.[12]', 'MCU\\.3V3'],
    ],
    adds: 0,
  },
  {
    title: 'a lamp with a resistor at its minus, both loose otherwise',
    why: 'on either side of the lamp the resistor does; no second one is bought',
    mcu: 'uno-r3',
    parts: { L: 'led', R: ohms(330) },
    wires: 'L.K R.1',
    wired: [
      ['R\\.2', 'MCU\\.GND.*'],
      ['L\\.A', 'MCU\\.D\\d+'],
    ],
    adds: 0,
  },
  {
    title: 'a lamp, and a resistor on the supply',
    why: 'the resistor is where the lamp begins: a pin pulls its other leg low',
    mcu: 'uno-r3',
    parts: { L: 'led', R: ohms(470), P: ohms(10_000) },
    wires: 'R.1 MCU.5V, P.1 MCU.5V, P.2 MCU.D2',
    wired: [
      ['L\\.A', 'R\\.2'],
      ['L\\.K', 'MCU\\.D\\d+'],
    ],
    never: [['L\\.K', 'MCU\\.D2']],
    adds: 0,
  },
  {
    title: 'a buzzer whose plus lies on the supply',
    why: 'on ground it would sound for ever',
    mcu: 'uno-r3',
    parts: { B: { part: 'buzzer-passive', options: {} } },
    wires: 'B.+ MCU.5V',
    never: [['B\\.-', 'MCU\\.GND.*']],
    adds: 0,
  },
  {
    title: 'six lamps and ports that pull well',
    why: 'the ports are there for them: from the supply through the resistors to the ports',
    mcu: 'esp32-devkit-30',
    parts: {
      X: 'pcf8575',
      ...Object.fromEntries(
        [1, 2, 3, 4, 5, 6].flatMap((n) => [
          [`L${n}`, 'led'],
          [`R${n}`, ohms(330)],
        ]),
      ),
    },
    wires: [1, 2, 3, 4, 5, 6].map((n) => `L${n}.A R${n}.1`).join(', '),
    wired: [1, 2, 3, 4, 5, 6].flatMap((n): [string, string][] => [
      [`R${n}\\.2`, 'MCU\\.3V3'],
      [`L${n}\\.K`, `X\\.P${n - 1}`],
    ]),
    adds: 0,
  },
  {
    title: 'four lamps, six buttons and a port of eight',
    why: 'contacts first: two lamps have room beside them, the others go to the board as ever',
    mcu: 'uno-r3',
    parts: {
      X: 'pcf8574',
      ...Object.fromEntries(
        [1, 2, 3, 4].flatMap((n) => [
          [`L${n}`, 'led'],
          [`R${n}`, ohms(470)],
        ]),
      ),
      ...Object.fromEntries([1, 2, 3, 4, 5, 6].map((n) => [`B${n}`, 'button'])),
    },
    wired: [
      ['R1\\.2', 'MCU\\.5V'],
      ['R2\\.2', 'MCU\\.5V'],
      ['L3\\.K', 'MCU\\.GND.*'],
      ['L4\\.K', 'MCU\\.GND.*'],
      ['L[12]\\.K', 'X\\.P\\d'],
      ['B6\\.1', 'X\\.P\\d'],
    ],
  },
  {
    title: 'a counter and a running light of five',
    why: 'the counter is there for it: clock and reset are all that the board gives',
    mcu: 'nano-v3',
    parts: { C: 'cd4017', ...Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`L${n}`, 'led'])) },
    wired: [1, 2, 3, 4, 5].map((n): [string, string] => ['R\\d\\.2', `C\\.Q${n - 1}`]),
    never: [['R\\d\\.2', 'MCU\\..*']],
  },
  {
    title: 'a decoder and three lamps',
    why: 'one output at a time is low: the lamps hang on the supply',
    mcu: 'pico',
    parts: { C: '74hc138', ...Object.fromEntries([1, 2, 3].map((n) => [`L${n}`, 'led'])) },
    wired: [1, 2, 3].flatMap((n): [string, string][] => [
      [`R${n}\\.2`, 'MCU\\.3V3'],
      [`L${n}\\.K`, `C\\.Y${n - 1}`],
    ]),
  },
  {
    title: 'a decoder on 5 V and lamps that take more than it gives',
    why: 'with their resistors they take twice what is good for it, and hang on the board',
    mcu: 'uno-r3',
    parts: { C: '74hc138', L: 'led', R: ohms(330) },
    wires: 'L.A R.1',
    wired: [
      ['R\\.2', 'MCU\\.D\\d+'],
      ['L\\.K', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'relays and a strip beside a counter',
    why: 'what has to be moved by itself finds no place where one output at a time is high',
    mcu: 'xiao-samd21',
    parts: { C: 'cd4017', K: 'relay-2', S: 'apa102-strip' },
    never: [['(K|S)\\..*', 'C\\.(Q\\d|CO)']],
  },
  {
    title: 'a strip, a scale and a clock beside ports that are full of buttons',
    why: 'bits one after the other come from the board: over the bus each edge is a message',
    mcu: 'uno-r3',
    parts: {
      X: 'mcp23017',
      S: 'apa102-strip',
      W: 'hx711',
      T: 'ds1302',
      ...Object.fromEntries(Array.from({ length: 14 }, (_, n) => [`B${n + 1}`, 'button'])),
    },
    never: [['(S|W|T)\\..*', 'X\\.GP.*']],
  },
]

/** Kits of loads and lamps: where they are fed, and what switches them. */
export const kitsLoads: readonly Kit[] = [...throughTheBoard, ...onArrays, ...lampsSunk]
