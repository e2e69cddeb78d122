import type { Kit } from './kits.ts'

const keys = (rows: number, columns: number) => ({ part: 'key-matrix', options: { rows, columns } })
const box = (volts: number) => ({ part: 'battery-box', options: { volts } })
const socket = (volts: number) => ({ part: 'dc-socket', options: { volts } })
const fan = { part: 'fan', options: { volts: 12, milliamps: 150 } }
const gate = { part: 'resistor', options: { ohms: 100 } }
const hold = { part: 'resistor', options: { ohms: 10_000 } }

/** Plugs that go onto a row of posts as a whole. */
const plugs: readonly Kit[] = [
  {
    title: 'two servos, their PWM board and a socket of 5 V',
    why: 'a servo plugs onto three posts of its channel: what feeds it is led to the row once, its current not through the board',
    mcu: 'uno-r3',
    parts: { X: 'pca9685', A: 'servo-sg90', B: 'servo-sg90', DC: socket(5) },
    wired: [
      ['X\\.V\\+', 'DC\\.\\+'],
      ['X\\.GND', 'DC\\.-'],
      ['A\\.VCC', 'X\\.V\\+'],
      ['B\\.VCC', 'X\\.V\\+'],
      ['B\\.GND', 'X\\.GND'],
    ],
    never: [['[AB]\\.(VCC|GND)', '(DC|MCU)\\..*']],
  },
  {
    title: 'a servo and its PWM board, fed by the board',
    why: 'the same without a supply of their own',
    mcu: 'pico',
    parts: { X: 'pca9685', A: 'servo-sg90' },
    wired: [
      ['X\\.V\\+', 'MCU\\.VBUS'],
      ['A\\.VCC', 'X\\.V\\+'],
    ],
  },
  {
    title: 'a fuse before a PWM board',
    why: 'the row is fed from behind it',
    mcu: 'uno-r3',
    parts: {
      X: 'pca9685',
      A: 'servo-mg996r',
      DC: socket(6),
      F: { part: 'fuse', options: { milliamps: 5000 } },
    },
    wired: [
      ['F\\.1', 'DC\\.\\+'],
      ['X\\.V\\+', 'F\\.2'],
    ],
  },
  {
    title: 'a servo without a PWM board',
    why: 'there are no posts: it is fed where it always was',
    mcu: 'uno-r3',
    parts: { A: 'servo-sg90', B: box(6) },
    wired: [['A\\.VCC', 'B\\.\\+']],
  },
]

/** Lines of a keypad, of which one chip drives some and reads the rest. */
const scanned: readonly Kit[] = [
  {
    title: 'a keypad beside a PWM board',
    why: 'the chip reads nothing: rows there and columns at the board are scanned by no program',
    mcu: 'pico',
    parts: { X: 'pca9685', K: 'keypad-4x4', S: 'servo-sg90' },
    never: [['K\\..*', 'X\\..*']],
  },
  {
    title: 'a matrix of ten lines beside an expander of eight',
    why: 'it would be torn in two',
    mcu: 'uno-r3',
    parts: { E: 'mcp23008', K: keys(5, 5) },
    never: [['K\\..*', 'E\\..*']],
  },
  {
    title: 'a matrix of eight lines beside it',
    why: 'all of it goes there',
    mcu: 'uno-r3',
    parts: { E: 'mcp23008', K: keys(4, 4) },
    never: [['K\\..*', 'MCU\\..*']],
  },
  {
    title: 'a keypad beside a register of outputs',
    why: 'a register reads nothing',
    mcu: 'uno-r3',
    parts: { E: '74hc595', K: 'keypad-4x4' },
    never: [['K\\..*', 'E\\..*']],
  },
]

/** Addresses of several parts on one bus. */
const addresses: readonly Kit[] = [
  {
    title: 'two PWM boards and a servo on a Pico, which has two buses',
    why: 'boards for more pins are counted up on one bus, the first keeps what it has',
    mcu: 'pico',
    parts: { X: 'pca9685', Y: 'pca9685', S: 'servo-sg90' },
    wired: [
      ['X\\.SDA', 'MCU\\.GP4'],
      ['Y\\.SDA', 'MCU\\.GP4'],
      ['S\\.SIG', 'X\\.PWM0'],
    ],
  },
  {
    title: 'two displays and three current meters of one address each',
    why: 'pads are soldered where nothing else helps, as many as it takes',
    mcu: 'uno-r3',
    parts: { A: 'ht16k33', B: 'ht16k33', E: 'ina219', F: 'ina219', G: 'ina219' },
    wired: ['A', 'B', 'E', 'F', 'G'].map((ref): [string, string] => [`${ref}\\.SDA`, 'MCU\\.A4']),
  },
  {
    title: 'a current meter and a PWM board that come with one address',
    why: 'parts of two kinds clash as well',
    mcu: 'uno-r3',
    parts: { E: 'ina219', X: 'pca9685' },
    wired: ['E', 'X'].map((ref): [string, string] => [`${ref}\\.SDA`, 'MCU\\.A4']),
  },
  {
    title: 'three distance sensors whose address cannot be set',
    why: 'each gets a pin that keeps it off the bus, side by side, and the program gives them addresses in turn',
    mcu: 'pico',
    parts: { A: 'vl53l0x', B: 'vl53l0x', C: 'vl53l0x' },
    wired: [
      ['A\\.SDA', 'MCU\\.GP4'],
      ['C\\.SDA', 'MCU\\.GP4'],
      ['A\\.XSHUT', 'MCU\\.GP10'],
      ['B\\.XSHUT', 'MCU\\.GP11'],
      ['C\\.XSHUT', 'MCU\\.GP12'],
    ],
  },
  {
    title: 'two of them beside a light sensor of the same address',
    why: 'the light sensor would hear what they are told: it has the other bus for itself',
    mcu: 'pi-40',
    parts: { A: 'vl53l0x', B: 'vl53l0x', T: 'tsl2591' },
    wired: [
      ['A\\.SDA', 'MCU\\.GPIO2'],
      ['B\\.SDA', 'MCU\\.GPIO2'],
      ['T\\.SDA', 'MCU\\.GPIO0'],
      ['A\\.XSHUT', 'MCU\\.GPIO\\d+'],
    ],
  },
  {
    title: 'one distance sensor',
    why: 'its line to keep it off stays open',
    mcu: 'pico',
    parts: { A: 'vl53l0x', O: 'ssd1306' },
    never: [['A\\.XSHUT', '.*']],
  },
  {
    title: 'two distance sensors on a board of 5 V',
    why: 'the line bears 3.6 V: nothing of that board may move it',
    mcu: 'uno-r3',
    parts: { A: 'vl53l0x', B: 'vl53l0x' },
    never: [['[AB]\\.XSHUT', '.*']],
    left: ['B.SCL', 'B.SDA'],
  },
]

/** Lines that select a part on a bus. */
const selects: readonly Kit[] = [
  {
    title: 'a converter for a thermocouple on an ESP32',
    why: 'a program moves the select on whatever pin: not on those of the two-wire bus, nor on the one that SPI sends on',
    mcu: 'esp32-devkit-30',
    parts: { A: 'max31855', B: 'max31855' },
    never: [['[AB]\\.CS', 'MCU\\.GPIO(21|22|23)']],
  },
  {
    title: 'three of them on a Pico',
    why: 'the first beside the bus, the others side by side',
    mcu: 'pico',
    parts: { A: 'max31855', B: 'max31855', C: 'max31855' },
    wired: [
      ['A\\.CS', 'MCU\\.GP17'],
      ['B\\.CS', 'MCU\\.GP10'],
      ['C\\.CS', 'MCU\\.GP11'],
    ],
  },
  {
    title: 'three on a Pi, whose driver has two selects',
    why: 'the third goes elsewhere, not on the line that the driver sends on',
    mcu: 'pi-40',
    parts: { A: 'max31855', B: 'max31855', C: 'max31855' },
    wired: [['[ABC]\\.CS', 'MCU\\.GPIO8']],
    never: [['[ABC]\\.CS', 'MCU\\.GPIO(2|3|10)']],
  },
]

/** Parts that share a bus with one that never lets go of its output. */
const held: readonly Kit[] = [
  {
    title: 'a colour display and a card on a Pico',
    why: 'the display is only written to, so the card may hold the line that it does not use: one bus for both',
    mcu: 'pico',
    parts: { L: 'ili9341', K: 'microsd' },
    wired: [
      ['L\\.SCK', 'MCU\\.GP18'],
      ['K\\.SCK', 'MCU\\.GP18'],
      ['K\\.MISO', 'MCU\\.GP16'],
    ],
    never: [['L\\.MISO', 'MCU\\.GP16']],
  },
  {
    title: 'a thermocouple and a card on an Uno',
    why: 'two that answer cannot share what one of them holds',
    mcu: 'uno-r3',
    parts: { T: 'max6675', K: 'microsd' },
    left: ['T.SCK', 'T.SO', 'T.CS'],
  },
  {
    title: 'a bus part of 5 V and a buffer that only leads away from a board of 3.3 V',
    why: 'the line back finds no way, so none of the others is led over the buffer either',
    mcu: 'teensy-4-1',
    parts: { C: 'mcp2515', B: '74ahct125' },
    never: [['C\\..*', 'B\\..*']],
    left: ['C.SCK', 'C.SI', 'C.SO', 'C.CS'],
  },
  {
    title: 'the same with two resistors for the line back',
    why: 'now all of them go',
    mcu: 'esp32-devkit-30',
    parts: {
      C: 'mcp2515',
      B: '74ahct125',
      R: { part: 'resistor', options: { ohms: 1000 } },
      S: { part: 'resistor', options: { ohms: 2000 } },
    },
    wired: [
      ['C\\.SCK', 'B\\.\\dY'],
      ['C\\.SO', 'R\\.1'],
    ],
  },
]

/** Diodes that spare what switches a fan. */
const fans: readonly Kit[] = [
  {
    title: 'a fan, its transistor and a diode',
    why: 'it is there for the fan, ring to plus',
    mcu: 'uno-r3',
    parts: { F: fan, T: 'nmos', D: 'diode', R: gate, S: hold, DC: socket(12) },
    wired: [
      ['D\\.K', 'F\\.\\+'],
      ['D\\.A', 'F\\.-'],
    ],
    adds: 0,
  },
  {
    title: 'a fan, its transistor and no diode',
    why: 'it runs without: none is bought',
    mcu: 'uno-r3',
    parts: { F: fan, T: 'nmos', R: gate, S: hold, DC: socket(12) },
    adds: 0,
  },
]

export const kitsShared: readonly Kit[] = [...plugs, ...scanned, ...addresses, ...selects, ...held, ...fans]
