import type { Kit } from './kits.ts'

const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const socket = (volts: number) => ({ part: 'dc-socket', options: { volts } })
const several = (stem: string, count: number, part: object | string) =>
  Object.fromEntries(Array.from({ length: count }, (_, at) => [`${stem}${at + 1}`, part]))

/** What could stay open and is wired as a rule. */
const rows: readonly Kit[] = [
  {
    title: 'four relays and nothing of what they switch',
    why: 'what hangs on the contacts is seldom in the kit: all four are there to be moved, side by side',
    mcu: 'uno-r3',
    parts: { K: 'relay-4' },
    wired: [1, 2, 3, 4].map((n) => [`K\\.IN${n}`, 'MCU\\.D\\d+'] as const),
  },
  {
    title: 'four relays of which two move pumps',
    why: 'the others carry nothing',
    mcu: 'esp32-devkit-30',
    parts: { K: 'relay-4', P: 'pump', Q: 'pump', IN: socket(5) },
    wired: [
      ['K\\.IN1', 'MCU\\.GPIO\\d+'],
      ['K\\.IN2', 'MCU\\.GPIO\\d+'],
    ],
    never: [['K\\.IN[34]', '.*']],
  },
  {
    title: 'four relays, an encoder and a climate sensor where six pins are free of cautions',
    why: 'the switch of the encoder finds one, the second relay the last, and the further ones would have to go to boot pins',
    mcu: 'esp8266-d1-mini',
    parts: { K: 'relay-4', D: 'dht22', R: ohms(10_000), J: 'rotary-encoder' },
    wired: [
      ['J\\.SW', 'MCU\\.GPIO\\d+'],
      ['K\\.IN2', 'MCU\\.GPIO\\d+'],
    ],
    never: [['K\\.IN[34]', '.*']],
    adds: 0,
  },
  {
    title: 'eight relays beside eight buttons where seven pins are left without a caution',
    why: 'as many relays as go get a pin, the first ones first; boot pins are for nobody',
    mcu: 'esp32-devkit-30',
    parts: {
      K: 'relay-8',
      ...Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8].map((count) => [`B${count}`, 'button'])),
      O: 'ssd1306',
    },
    wired: [
      ['K\\.IN4', 'MCU\\.GPIO\\d+'],
      ['K\\.IN5', 'MCU\\.GPIO\\d+'],
    ],
    never: [
      ['K\\.IN[678]', '.*'],
      ['K\\.IN\\d', 'MCU\\.GPIO(0|2|5|12|15)'],
    ],
  },
  {
    title: 'address legs that the maker has joined with each other',
    why: 'one wire to ground serves them all',
    mcu: 'uno-r3',
    parts: { X: 'mcp23017' },
    wires: 'X.A0 X.A1, X.A1 X.A2',
    wired: [['X\\.A0', '(MCU|X)\\.(GND|VSS).*']],
    never: [['X\\.A[12]', '(MCU|X)\\.(GND|VSS).*']],
  },
  {
    title: 'relays of which the maker has wired one',
    why: 'who wires one of four wants that one',
    mcu: 'uno-r3',
    parts: { K: 'relay-4' },
    wires: 'K.IN2 MCU.D7',
    never: [['K\\.IN[34]', '.*']],
  },
  {
    title: 'a joystick on a board with pins to spare',
    why: 'its switch is wired as well',
    mcu: 'leonardo-32u4',
    parts: { J: 'joystick' },
    wired: [['J\\.SW', 'MCU\\.[AD]\\d+']],
  },
  {
    title: 'a joystick where only pins without a pull are left',
    why: 'for a switch that could stay open no resistor is bought',
    mcu: 'jetson-nano-40',
    parts: { E: 'rotary-encoder' },
    never: [['E\\.SW', '.*']],
    adds: 0,
  },
  {
    title: 'a switch of four ways',
    why: 'all four are read',
    mcu: 'uno-r3',
    parts: { S: 'dip-switch' },
    wired: [1, 2, 3, 4].map((n) => [`S\\.${n}`, 'MCU\\.[AD]\\d+'] as const),
  },
  {
    title: 'a figure, eight resistors and a register',
    why: 'the eighth resistor is for the point; 6.4 mA is what the register bears, give or take what a resistor scatters',
    mcu: 'uno-r3',
    parts: { X: '74hc595', S: 'seven-segment', ...several('R', 8, ohms(470)) },
    wired: [
      ['S\\.DP', 'R\\d\\.1'],
      ['R8\\.2', 'X\\.QH'],
    ],
    adds: 0,
  },
  {
    title: 'a figure and seven resistors',
    why: 'the point stays dark',
    mcu: 'uno-r3',
    parts: { S: 'seven-segment', ...several('R', 7, ohms(470)) },
    never: [['S\\.DP', '.*']],
    adds: 0,
  },
]

/** Resistors of the kit before bases. */
const bases: readonly Kit[] = [
  ...[220, 470, 560].map(
    (value): Kit => ({
      title: `a pump, a transistor and ${value} ohms`,
      why: 'less than usual before a base, and still no more than a pin gives',
      mcu: 'uno-r3',
      parts: { Q: 'npn', P: 'pump', R: ohms(value), IN: socket(5), D: 'diode' },
      wired: [['Q\\.B', 'R\\.1']],
      adds: 0,
    }),
  ),
  {
    title: 'a pump, a transistor and 150 ohms',
    why: '29 mA are more than the pin gives: another resistor is bought',
    mcu: 'uno-r3',
    parts: { Q: 'npn', P: 'pump', R: ohms(150), IN: socket(5), D: 'diode' },
    never: [['R\\.[12]', '.*']],
    adds: 1,
  },
  {
    title: 'a pump, a Darlington transistor and 2.2 kilohms',
    why: '0.9 mA would do for its gain of a thousand',
    mcu: 'esp32-devkit-30',
    parts: {
      Q: { part: 'npn', options: { model: 'tip120' } },
      P: 'pump',
      R: ohms(2200),
      IN: socket(5),
      D: 'diode',
    },
    wired: [['Q\\.B', 'R\\.1']],
    adds: 0,
  },
]

/** Lines that bear more through a resistor. */
const borne: readonly Kit[] = [
  {
    title: 'a sound player on a board of 5 V, and a resistor of 1 kilohm',
    why: 'with it its line bears 5 V, as its data sheet says',
    mcu: 'mega-2560-r3',
    parts: { D: 'dfplayer', P: 'speaker', R: ohms(1000) },
    wired: [
      ['D\\.RX', 'R\\.[12]'],
      ['R\\.[12]', 'MCU\\.D\\d+'],
      ['D\\.TX', 'MCU\\.D\\d+'],
    ],
    adds: 0,
  },
]

/** Switches of the supply. */
const mains: readonly Kit[] = [
  {
    title: 'a battery, a switch with the title "main switch", a knob and a display',
    why: 'it switches everything, and nobody reads it',
    mcu: 'nano-v3',
    parts: {
      B: { part: 'battery-box', options: { volts: 9 } },
      W: { part: 'slide-switch', title: 'main switch' },
      P: 'potentiometer',
      O: 'lcd-i2c',
    },
    wired: [
      ['W\\.C', 'B\\.\\+'],
      ['W\\.1', 'MCU\\.VIN'],
    ],
    never: [['W\\..*', 'MCU\\.[DA]\\d+']],
  },
  {
    title: 'the same with a fuse',
    why: 'the fuse comes first',
    mcu: 'nano-v3',
    parts: {
      B: { part: 'battery-box', options: { volts: 9 } },
      W: { part: 'slide-switch', title: 'Power on/off' },
      F: { part: 'fuse', options: { milliamps: 500 } },
      O: 'ssd1306',
    },
    wired: [
      ['F\\.1', 'B\\.\\+'],
      ['W\\.C', 'F\\.2'],
      ['W\\.1', 'MCU\\.VIN'],
    ],
  },
  {
    title: 'a switch without such a title beside a battery',
    why: 'it may be there to be read',
    mcu: 'nano-v3',
    parts: {
      B: { part: 'battery-box', options: { volts: 9 } },
      W: { part: 'slide-switch', title: 'mode' },
      O: 'ssd1306',
    },
    wired: [['W\\.C', 'MCU\\.[DA]\\d+']],
  },
  {
    title: 'a main switch on USB',
    why: 'there is no supply of its own to be switched: it is read',
    mcu: 'uno-r3',
    parts: { W: { part: 'slide-switch', title: 'power' } },
    wired: [['W\\.C', 'MCU\\.[DA]\\d+']],
  },
  {
    title: 'a main switch and two servos, which start with 1.3 A',
    why: 'its contact is good for 0.3 A, and for three times that for a moment: it stays in the box',
    mcu: 'uno-r3',
    parts: {
      B: { part: 'battery-box', options: { volts: 6 } },
      W: { part: 'slide-switch', title: 'power' },
      S: 'servo-sg90',
      T: 'servo-sg90',
    },
    never: [['W\\..*', '.*']],
  },
]

/** Pins that programs and libraries take unless told otherwise. */
const usual: readonly Kit[] = [
  {
    title: 'a display on the first SPI of a Blue Pill',
    why: 'programs begin on PA5 and PA7; the other group needs a line more',
    mcu: 'stm32f103-bluepill',
    parts: { O: 'st7735' },
    wired: [
      ['O\\.SCK', 'MCU\\.PA5'],
      ['O\\.SDA', 'MCU\\.PA7'],
    ],
  },
  {
    title: 'a display and a card on a Black Pill',
    why: 'three lines of the usual group, and a select of the other beside it',
    mcu: 'stm32f411-blackpill',
    parts: { O: 'st7789', C: 'microsd' },
    wired: [
      ['C\\.SCK', 'MCU\\.PA5'],
      ['C\\.MISO', 'MCU\\.PA6'],
      ['C\\.MOSI', 'MCU\\.PA7'],
    ],
  },
  {
    title: 'an amplifier on a Teensy',
    why: 'of four data lines programs take the first',
    mcu: 'teensy-4-1',
    parts: { A: 'max98357a', S: 'speaker' },
    wired: [['A\\.DIN', 'MCU\\.D7']],
  },
  {
    title: 'a tape of lights and a buffer on a single-board computer',
    why: 'programs there time no pulses: a pin whose hardware sends a row of bits',
    mcu: 'pi-40',
    parts: { L: 'ws2812-strip', X: '74ahct125', IN: socket(5), B: 'button' },
    wired: [
      ['L\\.DIN', 'X\\.[1-4]Y'],
      ['X\\.[1-4]A', 'MCU\\.GPIO(10|12|13|18|19|21)'],
    ],
  },
  {
    title: 'buttons on a board with a second USB socket',
    why: 'its two lines are left to it',
    mcu: 'esp32-s3-devkitc-1',
    parts: { A: 'max98357a', M: 'inmp441', S: 'speaker', O: 'st7789', E: 'rotary-encoder', B: 'button', C: 'button' },
    never: [['.*', 'MCU\\.GPIO(19|20)']],
  },
  {
    title: 'a tape of lights where GPIO16 is free',
    why: 'libraries that time pulses do not drive it',
    mcu: 'esp8266-d1-mini',
    parts: { G: 'gps-uart', O: 'ssd1306', L: 'ws2812-strip', D: 'dht22', R: ohms(10_000) },
    never: [['L\\.DIN', 'MCU\\.GPIO16']],
  },
  {
    title: 'a dust sensor that sends, where USB has the only UART',
    why: 'GPIO13 is the second receiver of that UART, which is on its first: a plain pin for a program that listens',
    mcu: 'esp8266-nodemcu-v2',
    parts: { P: 'pms5003', S: 'scd40', O: 'sh1106', L: 'led', R: ohms(220), B: 'button' },
    wired: [['P\\.TX', 'MCU\\.GPIO1[2346]']],
  },
  {
    title: 'two sensors alike beside a servo that asks for more than the board gives',
    why: 'what is overloaded anyway is no reason to part them',
    mcu: 'uno-r3',
    parts: { S: 'servo-sg90', U: 'hc-sr04', L: 'line-tcrt5000', M: 'line-tcrt5000' },
    wired: [
      ['L\\.VCC', 'MCU\\.5V'],
      ['M\\.VCC', 'MCU\\.5V'],
    ],
  },
]

const segments = { S: 'seven-segment', X: '74hc595' }

const small: readonly Kit[] = [
  {
    title: 'a converter listed before the socket that feeds it',
    why: 'whatever comes first in the list, the minus of the socket is the ground of the board as well',
    mcu: 'uno-r3',
    parts: { C: 'buck', IN: socket(9), S: 'servo-sg90' },
    wired: [
      ['IN\\.-', 'MCU\\.GND'],
      ['S\\.VCC', 'C\\.OUT\\+'],
    ],
  },
  {
    title: 'three rangefinders on a board with two plain interrupt pins',
    why: 'an echo is measured by asking, on any pin: trigger and echo lie side by side',
    mcu: 'mega-2560-r3',
    parts: { U: 'hc-sr04', V: 'hc-sr04', W: 'hc-sr04' },
    never: [['.\\.ECHO', 'MCU\\.D[23]']],
    adds: 0,
  },
  {
    title: 'two motors, a rangefinder and a button on a board with six plain pins',
    why: 'a button lets its line rest, so the pin that must be high at reset is for it: an echo rests low',
    mcu: 'esp8266-d1-mini',
    parts: {
      L: 'l9110s',
      M: { part: 'dc-motor', options: { volts: 6 } },
      N: { part: 'dc-motor', options: { volts: 6 } },
      U: 'hc-sr04p',
      B: 'button',
      P: { part: 'battery-box', options: { volts: 6 } },
    },
    wired: [['B\\.[12]', 'MCU\\.GPIO0']],
    adds: 0,
  },
  {
    title: 'three sensors on the usual lines of a board whose pins could do more',
    why: 'what a program takes unless told otherwise is worth more than a pin of the converter',
    mcu: 'esp32-s3-devkitc-1',
    parts: { A: 'scd40', B: 'ens160', C: 'sh1106' },
    wired: [
      ['A\\.SCL', 'MCU\\.GPIO9'],
      ['A\\.SDA', 'MCU\\.GPIO8'],
    ],
  },
  {
    title: 'four relays beside a card that must stay out',
    why: 'the card holds on to the lines of the other chip and finds no bus; the relays are wired as ever',
    mcu: 'uno-r3',
    parts: { W: 'mcp2515', C: 'microsd', K: 'relay-4' },
    wired: [1, 2, 3, 4].map((n) => [`K\\.IN${n}`, 'MCU\\.[AD]\\d+'] as const),
    left: ['C.SCK', 'C.MOSI', 'C.MISO', 'C.CS'],
  },
  {
    title: 'a figure and a register with eight resistors of 330 Ω',
    why: '8.3 mA each are more than is recommended for an output, and less than all of them bear: the register is there for it',
    mcu: 'uno-r3',
    parts: { ...segments, ...several('R', 8, ohms(330)) },
    wired: [1, 2, 3, 4, 5, 6, 7, 8].map((n) => [`R${n}\\.[12]`, 'X\\.Q[A-H]'] as const),
    adds: 0,
  },
  {
    title: 'a figure and a register with eight resistors of 220 Ω',
    why: 'with 12 mA each the register would give more than it bears: pins of the board can',
    mcu: 'uno-r3',
    parts: { ...segments, ...several('R', 8, ohms(220)) },
    never: [['R\\d\\.[12]', 'X\\.Q[A-H]']],
    adds: 0,
  },
  {
    title: 'a resistor of 220 Ω beside a bare gate',
    why: 'it lies in the kit to go before the gate',
    mcu: 'uno-r3',
    parts: { S: 'solenoid', Q: 'nmos', D: 'diode', IN: socket(12), A: ohms(220), B: ohms(10_000) },
    wired: [
      ['Q\\.G', 'A\\.[12]'],
      ['A\\.[12]', 'MCU\\.D\\d+'],
      ['B\\.[12]', 'Q\\.[GS]'],
    ],
    adds: 0,
  },
  {
    title: 'a bare gate, and a lamp that wants the only small resistor',
    why: 'the lamp cannot do without one, the gate can',
    mcu: 'uno-r3',
    parts: { L: 'led', S: 'solenoid', Q: 'nmos', D: 'diode', IN: socket(12), A: ohms(220), B: ohms(10_000) },
    wired: [
      ['L\\.[AK]', 'A\\.[12]'],
      ['Q\\.G', 'MCU\\.D\\d+'],
    ],
    adds: 0,
  },
  {
    title: 'a joystick and a field of keys on a board that reads volts on numbered pins as well',
    why: 'a person looks for volts at the posts that are printed A',
    mcu: 'leonardo-32u4',
    parts: { J: 'joystick', K: 'key-matrix' },
    wired: [
      ['J\\.VRX', 'MCU\\.A\\d'],
      ['J\\.VRY', 'MCU\\.A\\d'],
    ],
  },
  {
    title: 'four buttons and a knob on a board that reads volts on numbered pins as well',
    why: 'buttons go to numbered pins, whatever else these can; the posts that are printed A are for the knob',
    mcu: 'leonardo-32u4',
    parts: { B1: 'button', B2: 'button', B3: 'button', B4: 'button', P: 'potentiometer' },
    wired: [['P\\.W', 'MCU\\.A0']],
    never: [['B\\d\\.[12]', 'MCU\\.A\\d']],
  },
  {
    title: 'a lithium cell listed before its charger, and a board without a socket',
    why: 'the board is fed behind the protection, never from the cell itself',
    mcu: 'pro-mini-3v3',
    parts: { B: { part: 'battery-box', options: { volts: 3.7 } }, C: 'charger-tp4056', D: 'bme280' },
    wired: [
      ['B\\.\\+', 'C\\.B\\+'],
      ['C\\.OUT\\+', 'MCU\\.RAW'],
      ['C\\.OUT-', 'MCU\\.GND'],
    ],
    never: [['B\\..*', 'MCU\\..*']],
  },
  {
    title: 'pressure pads and a switch of lines on a board without a converter',
    why: 'a switch leads volts on and reads none: the pads wait for a converter',
    mcu: 'pi-40',
    parts: { X: 'mux-4067', F1: 'fsr', F2: 'fsr' },
    never: [['F\\d\\.2', 'X\\.C\\d+']],
    left: ['F1.2', 'F2.2'],
  },
  {
    title: 'pressure pads, a switch of lines and a converter',
    why: 'the common line goes to it, and the pads to the channels',
    mcu: 'pi-40',
    parts: { X: 'mux-4067', A: 'ads1115', F1: 'fsr', F2: 'fsr' },
    wired: [
      ['X\\.SIG', 'A\\.A0'],
      ['F1\\.2', 'X\\.C0'],
    ],
  },
  {
    title: 'four buttons and a switch of lines',
    why: 'the pull inside the pin of the common line holds them all: no resistor is bought',
    mcu: 'uno-r3',
    parts: { X: 'mux-4067', B: 'button', C: 'button', D: 'button', E: 'button' },
    wired: [['B\\.1', 'X\\.C0']],
    adds: 0,
  },
  {
    title: 'a double bridge and a battery of three lithium cells, above what its regulator takes',
    why: 'the jumper of the regulator comes off, and the logic is fed by the board',
    mcu: 'uno-r3',
    parts: {
      D: 'l298n',
      L: 'dc-motor',
      R: 'dc-motor',
      B: { part: 'battery-box', options: { volts: 12.6 } },
    },
    wired: [
      ['D\\.12V', 'B\\.\\+'],
      ['D\\.5V', 'MCU\\.5V.*'],
    ],
    adds: 0,
  },
  {
    title: 'the same with nine volts',
    why: 'the jumper stays where it is, and nobody feeds what the module makes itself',
    mcu: 'uno-r3',
    parts: {
      D: 'l298n',
      L: 'dc-motor',
      R: 'dc-motor',
      B: { part: 'battery-box', options: { volts: 9 } },
    },
    wired: [['D\\.12V', 'B\\.\\+']],
    never: [['D\\.5V', '.*']],
    adds: 0,
  },
]

export const kitsRows: readonly Kit[] = [...small, ...rows, ...bases, ...borne, ...mains, ...usual]
