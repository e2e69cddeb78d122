import type { Kit } from './kits.ts'

const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const farads = (value: number, volts: number) => ({
  part: 'capacitor',
  options: { farads: value, kind: 'electrolytic', volts },
})
const box = (volts: number) => ({ part: 'battery-box', options: { volts } })
const socket = (volts: number) => ({ part: 'dc-socket', options: { volts } })
const motor = (volts: number) => ({ part: 'dc-motor', options: { volts } })
const sixOf = (part: string, stem: string) => Object.fromEntries([1, 2, 3, 4, 5, 6].map((n) => [`${stem}${n}`, part]))

/** What converters, capacitors and diodes of the kit are there for. */
const supplies: readonly Kit[] = [
  {
    title: 'a radio, a Nano whose 3.3 V come from USB alone, and a battery of 9 V',
    why: 'on the battery the radio would have nothing: it stays in the box, and that is said',
    mcu: 'nano-v3',
    parts: { N: 'nrf24l01', B: box(9) },
    never: [['B\\.\\+', '.*']],
  },
  {
    title: 'a light sensor that a Pi times by its capacitor, and a button',
    why: 'what fills a capacitor makes no divider: no resistor is bought for it',
    mcu: 'pi-40',
    parts: { L: 'ldr', C: farads(1e-6, 16), B: 'button' },
    wires: 'L.1 MCU.3V3, L.2 MCU.GPIO17, C.1 MCU.GPIO17, C.2 MCU.GND',
    adds: 0,
  },
  {
    title: 'a light sensor, a thermistor and two capacitors on a board that measures nothing',
    why: 'a plain pin counts how long each takes to fill a capacitor, plus to the line',
    mcu: 'pi-40',
    parts: { L: 'ldr', T: 'ntc', C: farads(1e-6, 16), D: { part: 'capacitor', options: { farads: 1e-7 } } },
    wired: [
      ['C\\.1', 'L\\.2'],
      ['C\\.2', 'MCU\\.GND.*'],
      ['D\\.1', 'T\\.2'],
      ['L\\.1', 'MCU\\.3V3'],
      ['L\\.2', 'MCU\\..*'],
    ],
    adds: 0,
  },
  {
    title: 'the same with a converter of analog values',
    why: 'that one measures them, in dividers',
    mcu: 'pi-40',
    parts: { L: 'ldr', A: 'mcp3008', C: farads(1e-6, 16), R: ohms(10_000) },
    wired: [
      ['R\\.[12]', 'L\\.2'],
      ['L\\.2', 'A\\.CH\\d'],
    ],
    never: [['C\\.[12]', 'L\\.2']],
    adds: 0,
  },
  {
    title: 'a light sensor with a capacitor on its line, on a board that measures',
    why: 'there it only calms what is measured, and the divider is bought',
    mcu: 'uno-r3',
    parts: { L: 'ldr', C: { part: 'capacitor', options: { farads: 1e-7 } } },
    wires: 'C.1 L.2, C.2 MCU.GND',
    wired: [['L\\.2', 'MCU\\.A\\d']],
    adds: 1,
  },
  {
    title: 'two pumps of 5 V behind relays, a socket of 12 V and a step-down converter',
    why: 'what the contacts lead to the pumps comes from the converter, not through the board',
    mcu: 'esp32-devkit-30',
    parts: { IN: socket(12), DOWN: 'buck', K: 'relay-2', P: 'pump', Q: 'pump' },
    wired: [
      ['K\\.COM1', 'DOWN\\.OUT\\+'],
      ['K\\.COM2', 'DOWN\\.OUT\\+'],
      ['DOWN\\.IN\\+', 'IN\\.\\+'],
    ],
  },
  {
    title: 'a large capacitor beside two servos',
    why: 'it gives them the first moment of current: across their battery, plus to plus',
    mcu: 'pico',
    parts: { BAT: box(6), S: 'servo-sg90', T: 'servo-sg90', C: farads(470e-6, 16) },
    wired: [
      ['C\\.1', 'BAT\\.\\+'],
      ['C\\.2', 'BAT\\.-'],
    ],
    adds: 0,
  },
  {
    title: 'one that is rated for less than that battery',
    why: 'it would burst',
    mcu: 'uno-r3',
    parts: { BAT: box(12), M: motor(12), D: 'tb6612', C: farads(470e-6, 10) },
    never: [['C\\.[12]', 'BAT\\.\\+']],
  },
  {
    title: 'a large capacitor and nothing that starts',
    why: 'it stays in the box',
    mcu: 'uno-r3',
    parts: { C: farads(470e-6, 16), B: 'button' },
    never: [['C\\.[12]', '.*']],
  },
  {
    title: 'a small capacitor beside a servo',
    why: 'it carries no start',
    mcu: 'uno-r3',
    parts: { BAT: box(6), S: 'servo-sg90', C: farads(10e-6, 16) },
    never: [['C\\.[12]', '.*']],
  },
  {
    title: 'a radio, a 3.3 V regulator behind one of 5 V, and one capacitor',
    why: 'the regulator is there for the radio, and the capacitor for the regulator, which needs it',
    mcu: 'nano-v3',
    parts: { BAT: box(7.4), R5: 'regulator-5v', R3: 'regulator-3v3', N: 'nrf24l01', C: farads(10e-6, 16) },
    wired: [
      ['N\\.VCC', 'R3\\.OUT'],
      ['R3\\.IN', 'R5\\.OUT'],
      ['C\\.[12]', 'R3\\.OUT'],
    ],
    adds: 0,
  },
  {
    title: 'a regulator for which nothing asks',
    why: 'its capacitor feeds nothing either: both stay away',
    mcu: 'nano-v3',
    parts: { BAT: box(7.4), J: 'joystick', R3: 'regulator-3v3' },
    never: [['R3\\..*', '.*']],
    adds: 0,
  },
  {
    title: 'a step-up converter and a display of 5 V on an Uno',
    why: 'the board has 5 V itself; to lift its 3.3 V would only load them',
    mcu: 'uno-r3',
    parts: { UP: 'boost', L: 'lcd-i2c' },
    wired: [['L\\.VCC', 'MCU\\.5V']],
    never: [['UP\\..*', '.*']],
  },
  {
    title: 'a solenoid behind a relay, and a diode',
    why: 'the diode spares the contact the spark',
    mcu: 'uno-r3',
    parts: { K: 'relay-1', V: { part: 'solenoid', options: { volts: 12 } }, IN: socket(12), D: 'diode' },
    wired: [
      ['D\\.K', 'V\\.\\+'],
      ['D\\.A', 'V\\.-'],
    ],
  },
  {
    title: 'a motor that two relays turn both ways, and a diode',
    why: 'where the current turns a diode across the motor would short one of the ways',
    mcu: 'uno-r3',
    parts: { K: 'relay-2', M: motor(6), B: box(6), D: 'diode' },
    wires: 'K.COM1 M.M1, K.COM2 M.M2, K.NO1 B.+, K.NO2 B.+, K.NC1 B.-, K.NC2 B.-',
    never: [['D\\.[AK]', '.*']],
  },
  {
    title: 'a solenoid on a transistor, two behind relays, and two diodes',
    why: 'the transistor needs one, the other spares one contact, and none is put in twice',
    mcu: 'uno-r3',
    parts: {
      Q: 'nmos',
      K: 'relay-2',
      ...Object.fromEntries(['U', 'V', 'W'].map((ref) => [ref, { part: 'solenoid', options: { volts: 12 } }])),
      IN: socket(12),
      D: 'diode',
      E: 'diode',
      R: ohms(10_000),
    },
    wired: [
      ['D\\.A', '[UVW]\\.-'],
      ['E\\.A', '[UVW]\\.-'],
    ],
    apart: [['D\\.A', 'E\\.A']],
    adds: 0,
  },
  {
    title: 'the same without a diode',
    why: 'the contact bears it, none is bought',
    mcu: 'uno-r3',
    parts: { K: 'relay-1', V: { part: 'solenoid', options: { volts: 12 } }, IN: socket(12) },
    adds: 0,
  },
]

const white = { part: 'led', options: { colour: 'white' } }

/** What belongs into the way of a current, and cells. */
const inTheWay: readonly Kit[] = [
  {
    title: 'a motor, a meter of current, a fuse and a socket',
    why: 'the fuse first, then the meter, then all that the socket feeds',
    mcu: 'nano-v3',
    parts: { IN: socket(12), I: 'ina219', F: { part: 'fuse', options: { milliamps: 3000 } }, M: motor(12), Q: 'nmos' },
    wired: [
      ['F\\.1', 'IN\\.\\+'],
      ['I\\.VIN\\+', 'F\\.2'],
      ['M\\.M1', 'I\\.VIN-'],
    ],
  },
  {
    title: 'a lamp behind a relay and a meter with terminals',
    why: 'it measures what goes to the lamp',
    mcu: 'uno-r3',
    parts: { IN: socket(12), A: 'current-acs712', K: 'relay-1', L: { part: 'lamp', options: { volts: 12 } } },
    wired: [
      ['A\\.IP\\+', 'IN\\.\\+'],
      ['K\\.COM', 'A\\.IP-'],
    ],
  },
  {
    title: 'a meter and nothing outside to measure',
    why: 'its terminals wait for what the maker brings',
    mcu: 'uno-r3',
    parts: { I: 'ina219', B: 'button' },
    never: [['I\\.VIN[+-]', '.*']],
  },
  {
    title: 'a meter for 26 V and a socket of 36 V',
    why: 'its chip bears no more: it stays out of the way',
    mcu: 'uno-r3',
    parts: { IN: socket(36), I: 'ina219', D: 'buck', S: 'servo-sg90' },
    wired: [['D\\.IN\\+', 'IN\\.\\+']],
    never: [['I\\.VIN[+-]', '.*']],
  },
  {
    title: 'a cell, its charger, a step-up converter and a gauge',
    why: 'the cell on the charger, everything else behind its protection, the gauge at the cell',
    mcu: 'esp32-devkit-30',
    parts: { B: box(3.7), C: 'charger-tp4056', U: 'boost', G: 'max17048' },
    wired: [
      ['B\\.\\+', 'C\\.B\\+'],
      ['B\\.-', 'C\\.B-'],
      ['U\\.IN\\+', 'C\\.OUT\\+'],
      ['G\\.BAT', 'B\\.\\+'],
      ['C\\.OUT-', 'MCU\\.GND.*'],
    ],
    never: [['B\\.-', 'MCU\\..*']],
  },
  {
    title: 'a cell and a charger for a board that the cell is too weak for',
    why: 'they feed nothing, and a cell with one pole on ground is no circuit',
    mcu: 'esp8266-d1-mini',
    parts: { B: box(3.7), C: 'charger-tp4056', D: 'ds18b20', R: ohms(4700) },
    never: [['(B|C)\\..*', '.*']],
  },
  {
    title: 'white lamps and 100 ohms on a board of 5 V',
    why: 'white takes 3.2 V: 100 ohms let 18 mA through, which lamp and pin bear',
    mcu: 'nano-v3',
    parts: { L: white, M: white, R: ohms(100), S: ohms(100) },
    wired: [
      ['L\\.A', '(R|S)\\.1'],
      ['M\\.A', '(R|S)\\.1'],
    ],
    adds: 0,
  },
  {
    title: 'a red lamp and 100 ohms there',
    why: 'red takes 2 V: 30 mA are too much for it',
    mcu: 'nano-v3',
    parts: { L: { part: 'led', options: { colour: 'red' } }, R: ohms(100) },
    never: [['R\\.[12]', '.*']],
    adds: 1,
  },
  {
    title: 'a bare transistor and nothing to switch',
    why: 'it stays in the box, and no base resistor is bought',
    mcu: 'uno-r3',
    parts: { Q: 'npn', B: 'button' },
    never: [['Q\\..*', '.*']],
    adds: 0,
  },
  {
    title: 'three distance sensors of one address and a bus switch',
    why: 'each behind a channel of its own, none on a second bus of the board',
    mcu: 'esp32-devkit-30',
    parts: { X: 'tca9548a', A: 'vl53l0x', B: 'vl53l0x', C: 'vl53l0x' },
    wired: [
      ['A\\.SDA', 'X\\.SD\\d'],
      ['B\\.SDA', 'X\\.SD\\d'],
      ['C\\.SDA', 'X\\.SD\\d'],
    ],
  },
  {
    title: 'two thermometers on one line, two resistors and a transistor',
    why: 'one pull-up serves the line, the other resistor holds the gate',
    mcu: 'uno-r3',
    parts: {
      D: 'ds18b20',
      E: 'ds18b20',
      R: ohms(4700),
      S: ohms(10_000),
      Q: 'nmos',
      F: { part: 'fan', options: { volts: 12 } },
      IN: socket(12),
    },
    wired: [
      ['R\\.[12]', 'D\\.DQ'],
      ['S\\.[12]', 'Q\\.G'],
    ],
    adds: 0,
  },
  {
    title: 'a stepper driver that wants reset and sleep held high',
    why: 'the logic supply holds them: no pin is spent, and never the motor supply',
    mcu: 'nano-v3',
    parts: { IN: socket(12), D: 'drv8825', M: 'stepper-bipolar', C: farads(100e-6, 50) },
    wired: [
      ['D\\.RST', 'MCU\\.5V'],
      ['D\\.SLP', 'MCU\\.5V'],
    ],
  },
]

/** What stands beside what. */
const neighbours: readonly Kit[] = [
  {
    title: 'two geared steppers and two boards for them',
    why: 'each motor plugs into one board',
    mcu: 'uno-r3',
    parts: { M: 'stepper-28byj48', N: 'stepper-28byj48', D: 'uln2003-board', E: 'uln2003-board' },
    wired: [
      ['M\\.BLU', '(D|E)\\.A'],
      ['M\\.ORG', '(D|E)\\.D'],
      ['N\\.BLU', '(D|E)\\.A'],
      ['N\\.ORG', '(D|E)\\.D'],
    ],
  },
  {
    title: 'a display, a knob that turns and two end stops on a Pico',
    why: 'the bus is on the pins that programs take, side by side',
    mcu: 'pico',
    parts: { O: 'sh1106', E: 'rotary-encoder', A: 'limit-switch', B: 'limit-switch' },
    wired: [
      ['O\\.SDA', 'MCU\\.GP4'],
      ['O\\.SCL', 'MCU\\.GP5'],
    ],
  },
  {
    title: 'two motors, a rangefinder and a button where pins are few',
    why: 'what may move at the start is the pin that only asks for an echo, never a motor',
    mcu: 'esp8266-nodemcu-v2',
    parts: { BAT: box(6), M: motor(6), N: motor(6), D: 'l9110s', U: 'hc-sr04p' },
    wired: [['U\\.TRIG', 'MCU\\.GPIO16']],
    never: [['D\\..*', 'MCU\\.GPIO(16|15|0|2)']],
  },
  {
    title: 'one figure of seven segments on an Uno',
    why: 'a maker counts its segments up along the pins',
    mcu: 'uno-r3',
    parts: { S: 'seven-segment', ...Object.fromEntries([1, 2, 3, 4, 5, 6, 7].map((n) => [`R${n}`, ohms(330)])) },
    wired: [
      ['R1\\.2', 'MCU\\.D4'],
      ['R2\\.2', 'MCU\\.D5'],
      ['R3\\.2', 'MCU\\.D6'],
      ['R6\\.2', 'MCU\\.D9'],
    ],
  },
  {
    title: 'a display on the S3',
    why: 'other modules of that board have their memory on GPIO35 to 37',
    mcu: 'esp32-s3-devkitc-1',
    parts: { T: 'ili9341', ...sixOf('button', 'B') },
    never: [['.*', 'MCU\\.GPIO3[567]']],
  },
]

/** What a part of several lamps shows. */
const segments: readonly Kit[] = [
  {
    title: 'a bar of ten lamps and four resistors',
    why: 'four lamps are lit: each resistor leads to a pin, each of their other legs to ground',
    mcu: 'uno-r3',
    parts: { L: 'led-bar', ...Object.fromEntries([1, 2, 3, 4].map((n) => [`R${n}`, ohms(330)])) },
    wired: [
      ['R1\\.2', 'MCU\\..*'],
      ['R4\\.2', 'MCU\\..*'],
      ['L\\.K4', 'MCU\\.GND.*'],
    ],
    never: [['L\\.[AK]5', '.*']],
    adds: 0,
  },
]

/** What gives more pins is there to be used. */
const expanders: readonly Kit[] = [
  {
    title: 'buttons, lamps, a knob that turns and an expander',
    why: 'contacts and lamps have time; what counts edges stays on the board',
    mcu: 'esp32-devkit-30',
    parts: { X: 'mcp23017', B: 'button', C: 'button', L: 'led', R: ohms(330), E: 'rotary-encoder' },
    wired: [
      ['B\\.1', 'X\\.GP.*'],
      ['C\\.1', 'X\\.GP.*'],
      ['R\\.2', 'X\\.GP.*'],
      ['E\\.CLK', 'MCU\\.GPIO.*'],
    ],
  },
  {
    title: 'four pressure pads and a switch of sixteen lines',
    why: 'that is what the switch is for',
    mcu: 'uno-r3',
    parts: {
      X: 'mux-4067',
      ...Object.fromEntries(
        [1, 2, 3, 4].flatMap((n) => [
          [`F${n}`, 'fsr'],
          [`R${n}`, ohms(10_000)],
        ]),
      ),
    },
    wired: [
      ['F1\\.2', 'X\\.C\\d+'],
      ['F4\\.2', 'X\\.C\\d+'],
    ],
    adds: 0,
  },
  {
    title: 'a lamp and a switch of lines',
    why: 'on the switch the lamp would light only while it is chosen',
    mcu: 'uno-r3',
    parts: { X: '74hc4051', L: 'led', R: ohms(330) },
    wired: [['R\\.2', 'MCU\\..*']],
  },
  {
    title: 'a figure on a register, resistors to be bought',
    why: 'its outputs bear 6 mA each, so the resistors are larger than on a pin of the board',
    mcu: 'uno-r3',
    parts: { X: '74hc595', S: 'seven-segment' },
    wired: [['R1\\.2', 'X\\.Q[A-H]']],
    value: { R1: 560 },
  },
  {
    title: 'a figure, a register and resistors too small for it',
    why: 'seven segments at 14 mA are more than the register bears together: they go to the board',
    mcu: 'uno-r3',
    parts: {
      X: '74hc595',
      S: 'seven-segment',
      ...Object.fromEntries([1, 2, 3, 4, 5, 6, 7].map((n) => [`R${n}`, ohms(220)])),
    },
    never: [['R[1-7]\\.[12]', 'X\\..*']],
  },
  {
    title: 'a lamp and an expander whose outputs hardly give any current',
    why: 'it would glow with a tenth of a milliampere, so it hangs on the supply and the port pulls it low',
    mcu: 'uno-r3',
    parts: { X: 'pcf8574', L: 'led', R: ohms(330), B: 'button' },
    wired: [
      ['R\\.2', 'MCU\\.5V'],
      ['L\\.K', 'X\\.P\\d'],
      ['B\\.1', 'X\\.P\\d'],
    ],
  },
  {
    title: 'two registers of outputs',
    why: 'one hands on to the other, and three pins move both',
    mcu: 'esp8266-d1-mini',
    parts: { X: '74hc595', Y: '74hc595', L: 'led' },
    wired: [
      ['Y\\.SER', 'X\\.QHS'],
      ['Y\\.SRCLK', 'X\\.SRCLK'],
      ['Y\\.RCLK', 'X\\.RCLK'],
      ['X\\.SER', 'MCU\\..*'],
      ['R1\\.2', 'X\\.QA'],
    ],
    never: [['Y\\.(SER|SRCLK|RCLK)', 'MCU\\..*']],
  },
  {
    title: 'three registers of inputs',
    why: 'the last one speaks to the board, the first one begins at ground',
    mcu: 'uno-r3',
    parts: { X: '74hc165', Y: '74hc165', Z: '74hc165', B: 'button' },
    wired: [
      ['Y\\.SER', 'X\\.QH'],
      ['Z\\.SER', 'Y\\.QH'],
      ['X\\.SER', 'MCU\\.GND.*'],
      ['Z\\.QH', 'MCU\\.D\\d+'],
    ],
    never: [['(X|Y)\\.QH', 'MCU\\..*']],
  },
  {
    title: 'a shifter over which nothing has to be led',
    why: 'it stays in the box',
    mcu: 'uno-r3',
    parts: { H: 'txs0108e', S: 'servo-sg90' },
    never: [['H\\..*', '.*']],
  },
]

/** Lines that the maker has joined from part to part. */
const joined: readonly Kit[] = [
  {
    title: 'a button on its pin with a resistor that leads nowhere yet',
    why: 'the button goes to ground, so the resistor holds the line high',
    mcu: 'uno-r3',
    parts: { B: 'button', R: ohms(10_000) },
    wires: 'B.1 MCU.D2, R.1 MCU.D2',
    wired: [
      ['R\\.2', 'MCU\\.5V'],
      ['B\\.2', 'MCU\\.GND.*'],
    ],
    adds: 0,
  },
  {
    title: 'the same where the button goes to the supply',
    why: 'the resistor holds the line low',
    mcu: 'pico',
    parts: { B: 'button', R: ohms(10_000) },
    wires: 'B.1 MCU.GP2, R.1 MCU.GP2, B.2 MCU.3V3',
    wired: [['R\\.2', 'MCU\\.GND.*']],
    adds: 0,
  },
  {
    title: 'a thermometer with its pin and pull-up, and a second one',
    why: 'it comes to the line that is there',
    mcu: 'pico',
    parts: { D: 'ds18b20', E: 'ds18b20', R: ohms(4700) },
    wires: 'D.DQ MCU.GP16, R.1 D.DQ, R.2 MCU.3V3',
    wired: [['E\\.DQ', 'MCU\\.GP16']],
    adds: 0,
  },
  {
    title: 'a motion sensor that switches a relay by itself',
    why: 'no pin is asked for, and one that drives would work against the sensor',
    mcu: 'uno-r3',
    parts: { P: 'hc-sr501', K: 'relay-1' },
    wires: 'P.OUT K.IN',
    never: [['(P\\.OUT|K\\.IN)', 'MCU\\..*']],
  },
  {
    title: 'two buttons side by side, joined',
    why: 'one line, one pin',
    mcu: 'uno-r3',
    parts: { B: 'button', C: 'button' },
    wires: 'B.1 C.1',
    wired: [['B\\.1', 'MCU\\.D\\d+']],
    never: [['C\\.1', 'MCU\\..*']],
  },
  {
    title: 'two relays that move together, and a servo beside',
    why: 'one line, one pin',
    mcu: 'uno-r3',
    parts: { K: 'relay-1', L: 'relay-1', S: 'servo-sg90' },
    wires: 'K.IN L.IN',
    wired: [['K\\.IN', 'MCU\\.D\\d+']],
    never: [['L\\.IN', 'MCU\\..*']],
  },
  {
    title: 'a touch pad that lights a lamp by itself',
    why: 'the pad gives what the lamp takes',
    mcu: 'uno-r3',
    parts: { T: 'ttp223', L: 'led', R: ohms(330) },
    wires: 'T.IO R.1, R.2 L.A, L.K MCU.GND',
    never: [['(T\\.IO|L\\.A)', 'MCU\\.[DA]\\d+']],
  },
  {
    title: 'a display and a sensor joined on the breadboard, not yet with the board',
    why: 'one wire each leads both to the bus',
    mcu: 'pico',
    parts: { O: 'ssd1306', A: 'bme280' },
    wires: 'O.SDA A.SDA, O.SCL A.SCL',
    wired: [
      ['O\\.SDA', 'MCU\\.GP4'],
      ['O\\.SCL', 'MCU\\.GP5'],
    ],
    never: [['A\\.S(DA|CL)', 'MCU\\..*']],
  },
]

const digits = (count: number, build: string) =>
  Object.fromEntries(
    Array.from({ length: count }, (_, at) => [`D${at + 1}`, { part: 'seven-segment', options: { common: build } }]),
  )
const several = (count: number, stem: string, part: NonNullable<Kit['parts']>[string]) =>
  Object.fromEntries(Array.from({ length: count }, (_, at) => [`${stem}${at + 1}`, part]))

/** Digits that share their lines, and what lies in the kit for two. */
const turns: readonly Kit[] = [
  {
    title: 'two digits, two transistors and seven resistors',
    why: 'the segments share their lines, and a transistor in each common leg says whose turn it is',
    mcu: 'uno-r3',
    parts: {
      ...digits(2, 'cathode'),
      ...several(2, 'Q', 'npn'),
      ...several(7, 'R', ohms(330)),
      ...several(2, 'B', ohms(1000)),
    },
    wired: [
      ['D1\\.COM', 'Q1\\.C'],
      ['D2\\.COM', 'Q2\\.C'],
      ['D2\\.A', 'D1\\.A'],
      ['D2\\.G', 'D1\\.G'],
      ['Q1\\.E', 'MCU\\.GND.*'],
      ['Q1\\.B', 'B1\\.1'],
    ],
    adds: 0,
  },
  {
    title: 'four digits and four transistors with a gate on a Pico',
    why: 'twenty-eight lines would be more than it has',
    mcu: 'pico',
    parts: { ...digits(4, 'cathode'), ...several(4, 'Q', 'nmos'), ...several(7, 'R', ohms(330)) },
    wired: [
      ['D4\\.COM', 'Q4\\.D'],
      ['D4\\.F', 'D1\\.F'],
    ],
    adds: 0,
  },
  {
    title: 'two digits of a common anode and two transistors for the plus',
    why: 'the plus of each is switched, and the gates are held off while the board starts',
    mcu: 'esp32-devkit-30',
    parts: { ...digits(2, 'anode'), ...several(2, 'Q', 'pmos'), ...several(7, 'R', ohms(330)) },
    wired: [
      ['D1\\.COM', 'Q1\\.D'],
      ['D2\\.COM', 'Q2\\.D'],
      ['Q2\\.S', 'MCU\\.3V3'],
      ['D2\\.C', 'D1\\.C'],
    ],
    adds: 2,
  },
  {
    title: 'two digits of a common anode and two transistors to ground',
    why: 'to ground they switch nothing there: each digit keeps its own lines',
    mcu: 'mega-2560-r3',
    parts: {
      ...digits(2, 'anode'),
      ...several(2, 'Q', 'npn'),
      ...several(14, 'R', ohms(330)),
      ...several(2, 'B', ohms(1000)),
    },
    wired: [['D2\\.COM', 'MCU\\.5V.*']],
    never: [['D2\\.A', 'D1\\.A']],
  },
  {
    title: 'two digits, two transistors and a pump',
    why: 'one of the transistors is for the pump, and one is too few for two digits',
    mcu: 'mega-2560-r3',
    parts: {
      ...digits(2, 'cathode'),
      ...several(2, 'Q', 'npn'),
      P: 'pump',
      ...several(14, 'R', ohms(330)),
      ...several(2, 'B', ohms(470)),
    },
    supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
    wired: [
      ['D1\\.COM', 'MCU\\.GND.*'],
      ['P\\.-', 'Q1\\.C'],
    ],
    never: [['D2\\.A', 'D1\\.A']],
  },
  {
    title: 'two digits, two transistors, a pump and a relay',
    why: 'the relay does for the pump, and nothing else for the digits',
    mcu: 'uno-r3',
    parts: {
      ...digits(2, 'cathode'),
      ...several(2, 'Q', 'npn'),
      P: 'pump',
      K: 'relay-1',
      ...several(7, 'R', ohms(330)),
      ...several(2, 'B', ohms(1000)),
    },
    supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
    wired: [
      ['D1\\.COM', 'Q1\\.C'],
      ['D2\\.COM', 'Q2\\.C'],
      ['P\\.\\+', 'K\\.NO'],
    ],
    adds: 0,
  },
  {
    title: 'two digits of which the maker has wired one',
    why: 'what a hand has led to pins of its own stays so',
    mcu: 'mega-2560-r3',
    parts: { ...digits(2, 'cathode'), ...several(2, 'Q', 'npn'), ...several(14, 'R', ohms(330)) },
    wires: 'D1.A R1.1, R1.2 MCU.D22, D1.COM MCU.GND',
    never: [
      ['D2\\.A', 'D1\\.A'],
      ['D2\\.COM', 'Q\\d\\.C'],
    ],
  },
  {
    title: 'two digits of which one has its lines already',
    why: 'the other one shares them',
    mcu: 'mega-2560-r3',
    parts: {
      ...digits(2, 'cathode'),
      ...several(2, 'Q', 'npn'),
      ...several(7, 'R', ohms(330)),
      ...several(2, 'B', ohms(1000)),
    },
    wires: 'D2.A R1.1, R1.2 MCU.D22',
    wired: [
      ['D1\\.A', 'D2\\.A'],
      ['D1\\.G', 'D2\\.G'],
      ['D2\\.COM', 'Q\\d\\.C'],
    ],
    adds: 0,
  },
  {
    title: 'two lamps of three colours and two transistors',
    why: 'three lines each are few enough, and a lamp that flickers is no better',
    mcu: 'mega-2560-r3',
    parts: { ...several(2, 'L', 'rgb-led'), ...several(2, 'Q', 'npn'), ...several(6, 'R', ohms(220)) },
    never: [['L2\\.R', 'L1\\.R']],
  },
  {
    title: 'a gate, a probe and one resistor of 4.7 kΩ',
    why: 'the line of the probe wants just that; what holds the gate down may be another',
    mcu: 'esp32-devkit-30',
    parts: { S: socket(12), Q: 'nmos', F: { part: 'fan', options: { volts: 12 } }, T: 'ds18b20', R: ohms(4700) },
    wired: [
      ['R\\.1', 'T\\.DQ'],
      ['Q\\.G', 'R2\\.1'],
    ],
    value: { R2: 10_000 },
  },
  {
    title: 'a gate, a probe and two resistors',
    why: 'each goes where it fits best',
    mcu: 'uno-r3',
    parts: {
      S: socket(12),
      Q: 'nmos',
      F: { part: 'fan', options: { volts: 12 } },
      T: 'ds18b20',
      R: ohms(4700),
      H: ohms(10_000),
    },
    wired: [
      ['R\\.1', 'T\\.DQ'],
      ['H\\.1', 'Q\\.G'],
    ],
    adds: 0,
  },
  {
    title: 'a gate and one resistor of 4.7 kΩ',
    why: 'where nothing else asks for it, it holds the gate down well',
    mcu: 'uno-r3',
    parts: { S: socket(12), Q: 'nmos', F: { part: 'fan', options: { volts: 12 } }, R: ohms(4700) },
    wired: [['R\\.1', 'Q\\.G']],
    adds: 0,
  },
  {
    title: 'two bases and two resistors that are too large for them',
    why: 'each base gets one of its own that lets enough through',
    mcu: 'uno-r3',
    parts: { F: 'pump', G: 'pump', ...several(2, 'Q', 'npn'), ...several(2, 'R', ohms(3300)) },
    supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
    wired: [
      ['Q1\\.B', 'R3\\.1'],
      ['Q2\\.B', 'R4\\.1'],
    ],
    adds: 4,
  },
  {
    title: 'two bases, two resistors that are too large and one that is not',
    why: 'one base takes that, and for the other one is bought',
    mcu: 'uno-r3',
    parts: { F: 'pump', G: 'pump', ...several(2, 'Q', 'npn'), ...several(2, 'R', ohms(3300)), S: ohms(470) },
    supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
    wired: [
      ['Q1\\.B', 'S\\.1'],
      ['Q2\\.B', 'R3\\.1'],
    ],
    adds: 3,
  },
]

/** Switches in the plus that lie on more than the board gives. */
const beyond: readonly Kit[] = [
  {
    title: 'a P-channel transistor on 12 V, with a transistor in the kit',
    why: 'no pin lifts its gate that far: the small one pulls it down, and the resistor brings it up again',
    mcu: 'uno-r3',
    parts: { Q: 'pmos', R: ohms(10_000), F: { part: 'fan', options: { volts: 12 } }, N: 'npn', B: ohms(1000) },
    supplies: { PACK: { volts: 12 } },
    wires: 'Q.S PACK.+, PACK.- MCU.GND, Q.D F.+, F.- MCU.GND',
    wired: [
      ['Q\\.G', 'N\\.C'],
      ['N\\.E', 'MCU\\.GND'],
      ['R\\.[12]', 'Q\\.G'],
      ['B\\.2', 'MCU\\.D\\d+'],
    ],
    never: [['Q\\.G', 'MCU\\.D\\d+']],
    adds: 0,
  },
  {
    title: 'a P-channel transistor on 5 V of the board, with a transistor beside it',
    why: 'a pin of 5 V moves it without help',
    mcu: 'uno-r3',
    parts: { Q: 'pmos', R: ohms(10_000), F: { part: 'fan', options: { volts: 5 } }, N: 'npn' },
    supplies: { PACK: { volts: 5 } },
    wires: 'Q.S PACK.+, PACK.- MCU.GND, Q.D F.+, F.- MCU.GND',
    wired: [['Q\\.G', 'MCU\\.D\\d+']],
  },
]

export const kitsTogether: readonly Kit[] = [
  ...beyond,
  ...supplies,
  ...inTheWay,
  ...neighbours,
  ...segments,
  ...expanders,
  ...joined,
  ...turns,
]
