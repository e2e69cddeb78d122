import { kitsLoads } from './kitsLoads.ts'
import { kitsRows } from './kitsRows.ts'
import { kitsShared } from './kitsShared.ts'
import { kitsTogether } from './kitsTogether.ts'
import type { Short } from './plans.ts'

/** A kit as it lies on the table, and what an experienced maker would make of it. */
export interface Kit extends Short {
  readonly title: string
  /** Why so. */
  readonly why: string
  /** Pairs that a wire has to join, as regular expressions of whole ends. */
  readonly wired?: readonly (readonly [string, string])[]
  /** Pairs that no wire may join. */
  readonly never?: readonly (readonly [string, string])[]
  /** Pairs that may not hang together, over whatever wires. */
  readonly apart?: readonly (readonly [string, string])[]
  /** How many parts are added that the kit lacks. */
  readonly adds?: number
  /** Values in ohms of resistors that are added. */
  readonly value?: Readonly<Record<string, number>>
  /** Ends that find no place. */
  readonly left?: readonly string[]
}

const ohms = (value: number, title?: string) => ({
  part: 'resistor',
  options: { ohms: value },
  ...(title === undefined ? {} : { title }),
})
const farads = (value: number, volts: number) => ({
  part: 'capacitor',
  options: { farads: value, kind: 'electrolytic', volts },
})
const pack = (volts: number, limitMilliamps = 3000) => ({ PACK: { volts, limitMilliamps } })
const red = { part: 'led', options: { colour: 'red' } }

/** Pins that a controller makes its own, whether its bus uses them or not. */
const taken: readonly Kit[] = [
  {
    title: 'a matrix display that is only written to, on an Uno',
    why: 'the SPI of the chip keeps its reading pin an input, so a select there would never fall',
    mcu: 'uno-r3',
    parts: { M: 'max7219' },
    wired: [['M\\.CS', 'MCU\\.D10']],
    never: [['M\\.CS', 'MCU\\.D12']],
  },
  {
    title: 'a display that is only written to, a lamp and a relay, on a Nano',
    why: 'nothing that is driven belongs on the reading pin of the SPI, and nothing that is read on its select',
    mcu: 'nano-v3',
    parts: { M: 'max7219', L: red, R: 'relay-1', B: 'button' },
    never: [
      ['.*', 'MCU\\.D12'],
      ['B\\.1', 'MCU\\.D10'],
    ],
  },
  {
    title: 'a receiver that only speaks and a lamp, on a Mega',
    why: 'the sending pin of a serial line in use is driven by it',
    mcu: 'mega-2560-r3',
    parts: { G: 'gps-uart', L: red, S: 'servo-sg90' },
    wired: [['G\\.TX', 'MCU\\.D(0|15|17|19)']],
    never: [['(L|S)\\..*', 'MCU\\.D(1|14|16|18)']],
  },
]

/** Sound over I2S. */
const sound: readonly Kit[] = [
  {
    title: 'an amplifier and a microphone on a Pico',
    why: 'programmable input and output makes a bus for each, word select on the GPIO after the bit clock',
    mcu: 'pico',
    parts: { A: 'max98357a', S: 'speaker', M: 'inmp441' },
    wired: [
      ['A\\.BCLK', 'MCU\\.GP0'],
      ['A\\.LRC', 'MCU\\.GP1'],
      ['M\\.SCK', 'MCU\\.GP2'],
      ['M\\.WS', 'MCU\\.GP3'],
      ['S\\.\\+', 'A\\.OUT\\+'],
    ],
  },
  {
    title: 'a microphone on an ESP8266',
    why: 'the chip listens on one set of pins only',
    mcu: 'esp8266-d1-mini',
    parts: { M: 'inmp441' },
    wired: [
      ['M\\.SCK', 'MCU\\.GPIO13'],
      ['M\\.WS', 'MCU\\.GPIO14'],
      ['M\\.SD', 'MCU\\.GPIO12'],
    ],
  },
]

/** Either of two outputs is enough. */
const either: readonly Kit[] = [
  {
    title: 'a line sensor on an Uno',
    why: 'one of its outputs has to be read, and the one of the threshold is the usual one',
    mcu: 'uno-r3',
    parts: { L: 'line-tcrt5000' },
    wired: [['L\\.DO', 'MCU\\.D\\d+']],
    never: [['L\\.AO', '.*']],
  },
  {
    title: 'a flame sensor on a board that reads nothing analog',
    why: 'its threshold can be read there',
    mcu: 'pi-40',
    parts: { F: 'flame-ir' },
    wired: [['F\\.DO', 'MCU\\.GPIO\\d+']],
  },
  {
    title: 'the same with a converter',
    why: 'the converter reads what the sensor says in full',
    mcu: 'pi-40',
    parts: { F: 'flame-ir', C: 'mcp3008' },
    wired: [['F\\.AO', 'C\\.CH\\d']],
  },
]

/** Supplies: what a part puts out depends on what feeds it. */
const fedRight: readonly Kit[] = [
  {
    title: 'a gas meter of 2.4 to 5.5 V with its own pull-ups on a 3.3 V board whose rail is small',
    why: 'at 5 V its pull-ups would harm the board; that it takes 0.2 A for some milliseconds is the lesser evil',
    mcu: 'esp8266-d1-mini',
    parts: { S: 'scd40' },
    wired: [
      ['S\\.VCC', 'MCU\\.3V3'],
      ['S\\.SDA', 'MCU\\.GPIO4'],
    ],
  },
  {
    title: 'the same on an Uno',
    why: 'a board of 5 V bears 5 V, and its own rail of 3.3 V gives 50 mA only',
    mcu: 'uno-r3',
    parts: { S: 'scd40' },
    wired: [['S\\.VCC', 'MCU\\.5V']],
  },
]

/** Bus switches: what has the same address never hears the other. */
const switches: readonly Kit[] = [
  {
    title: 'two clocks of one address and a bus switch',
    why: 'one before and one behind the switch would both answer while its channel is open: each gets a channel',
    mcu: 'uno-r3',
    parts: { A: 'ds3231', B: 'ds3231', X: 'tca9548a' },
    wired: [
      ['X\\.SDA', 'MCU\\.A4'],
      ['A\\.SDA', 'X\\.SD\\d'],
      ['B\\.SDA', 'X\\.SD\\d'],
    ],
  },
  {
    title: 'a clock of 5 V and a gas sensor on a SuperMini',
    why: 'the clock pulls higher than the pins bear and finds no place; the sensor beside it is fed and wired as if alone',
    mcu: 'esp32-c3-supermini',
    parts: { C: 'ds1307', G: 'scd40' },
    wired: [
      ['G\\.VCC', 'MCU\\.3V3'],
      ['G\\.SDA', 'MCU\\.GPIO.*'],
      ['G\\.SCL', 'MCU\\.GPIO.*'],
    ],
    left: ['C.SCL', 'C.SDA'],
  },
  ...(['esp32-devkit-30', 'pico', 'pi-40'] as const).map((mcu) => ({
    title: `a display of 5 V and an expander on ${mcu}`,
    why: 'who cannot be on the bus keeps nobody else off it',
    mcu,
    parts: { D: 'lcd-i2c', X: 'mcp23008' },
    wired: [
      ['X\\.SDA', 'MCU\\..*'],
      ['X\\.SCL', 'MCU\\..*'],
    ] as const,
    left: ['D.SCL', 'D.SDA'],
  })),
  {
    title: 'two clocks, one of them wired to the board already',
    why: 'what is wired stays, and the other would hear it: it finds no place',
    mcu: 'uno-r3',
    parts: { A: 'ds3231', B: 'ds3231', X: 'tca9548a' },
    wires: 'A.SDA MCU.A4, A.SCL MCU.A5',
    left: ['B.SCL', 'B.SDA'],
  },
  {
    title: 'ten sensors of two addresses and a bus switch',
    why: 'two before the switch, where nothing behind it answers alike, cannot be: all ten go behind it, two a channel',
    mcu: 'uno-r3',
    parts: {
      X: 'tca9548a',
      ...Object.fromEntries(
        Array.from({ length: 10 }, (_, at) => [`B${at}`, { part: 'bme280', options: { address: 0x76 + (at % 2) } }]),
      ),
    },
    never: [['B\\d\\.SDA', 'MCU\\..*']],
  },
]

const gain = (model: string) => ({ part: 'npn', options: { model } })

/** Loads on bare transistors: the base gets what the load asks for, and the motor turns one way. */
const bases: readonly Kit[] = [
  {
    title: 'a pump, a transistor and a diode on 3.3 V',
    why: '220 mA · 1.5 / 100 is 3.3 mA, over which a usual 1 kΩ leaves 2.6 V at 2.5 mA: 680 Ω are bought',
    mcu: 'esp32-devkit-30',
    supplies: pack(5),
    parts: { M: 'pump', T: gain('bc337'), D: 'diode' },
    wired: [
      ['M\\.-', 'T\\.C'],
      ['M\\.\\+', 'PACK\\.\\+'],
      ['M\\.-', 'D\\.A'],
    ],
    adds: 1,
    value: { R1: 680 },
  },
  {
    title: 'a pump and a base resistor that is far too large',
    why: '2.2 kΩ give 1.9 mA, enough for 190 of 220 mA: it stays in the box',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', T: gain('bc337'), D: 'diode', R: ohms(2200) },
    never: [['R\\.[12]', '.*']],
    adds: 1,
  },
  {
    title: 'a pump and two loose resistors, of which the smaller one fits',
    why: '(5 V − 0.7 V) / 470 Ω is 9 mA, the other starves the pump',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', T: gain('bc337'), D: 'diode', R: ohms(2200), Q: ohms(470) },
    wired: [['Q\\.1', 'T\\.B']],
    never: [['R\\.[12]', '.*']],
    adds: 0,
  },
  {
    title: 'a fan on a small transistor, at the most that the pin gives',
    why: '150 mA · 1.5 / 30 are 7.5 mA, and the pin is good for 8: 330 Ω',
    mcu: 'pi-40',
    supplies: pack(5),
    parts: { M: 'fan', T: gain('2n3904') },
    adds: 1,
    value: { R1: 330 },
  },
  {
    title: 'a motor with nothing but a transistor and a diode',
    why: 'no bridge is there: it turns one way, from the pack, the diode of the kit across it',
    mcu: 'pico',
    supplies: pack(5),
    parts: { M: 'dc-motor', T: gain('tip120'), D: 'diode' },
    wired: [
      ['M\\.M1', 'PACK\\.\\+'],
      ['M\\.M2', 'T\\.C'],
      ['M\\.M2', 'D\\.A'],
      ['M\\.M1', 'D\\.K'],
    ],
    adds: 1,
  },
  {
    title: 'a pump and a loose diode of another model than usual',
    why: 'a 1N5819 bears 1 A, the pump asks for 220 mA',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', T: gain('bc337'), D: { part: 'diode', options: { model: '1n5819' } }, R: ohms(680) },
    wired: [['M\\.-', 'D\\.A']],
    adds: 0,
  },
  {
    title: 'a pump and a loose diode that is too small',
    why: 'a 1N4148 bears 200 mA, the pump asks for 220: another one is bought',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', T: gain('bc337'), D: { part: 'diode', options: { model: '1n4148' } }, R: ohms(680) },
    never: [['D\\.[AK]', '.*']],
    adds: 1,
  },
  {
    title: 'a motor, a bridge and a loose diode',
    why: 'a bridge turns it both ways: the diode stays in the box',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'dc-motor', U: 'drv8833', D: 'diode' },
    never: [['D\\.[AK]', '.*']],
    wired: [['M\\.M[12]', 'U\\..*']],
  },
]

/** Lamps, dividers, pulls: loose resistors find their place. */
const resistors: readonly Kit[] = [
  {
    title: 'a lamp and a resistor on an Uno',
    why: '(5 V − 2 V) / 270 Ω is 11 mA',
    mcu: 'uno-r3',
    parts: { L: red, R: ohms(270) },
    wired: [['L\\.[AK]', 'R\\.[12]']],
  },
  {
    title: 'a lamp and a resistor that is far too small',
    why: '10 Ω limit nothing: another one has to be bought',
    mcu: 'uno-r3',
    parts: { L: red, R: ohms(10) },
    adds: 1,
    never: [['R\\.[12]', '.*']],
  },
  {
    title: 'two lamps, three resistors of which one is a pull-up',
    why: 'the two small ones belong to the lamps',
    mcu: 'pico',
    parts: { A: red, B: red, P: ohms(10000), Q: ohms(470), S: ohms(560) },
    wired: [
      ['A\\.[AK]', '[QS]\\.[12]'],
      ['B\\.[AK]', '[QS]\\.[12]'],
    ],
    never: [['P\\.[12]', '[AB]\\.[AK]']],
  },
  {
    title: 'titles say which lamp takes which resistor',
    why: 'the maker has decided',
    mcu: 'esp32-devkit-30',
    parts: { A: red, B: red, R1: ohms(330, 'for B'), R2: ohms(470, 'for A') },
    wired: [
      ['A\\.[AK]', 'R2\\.[12]'],
      ['B\\.[AK]', 'R1\\.[12]'],
    ],
  },
  {
    title: 'a colour lamp and three resistors',
    why: 'each colour takes one',
    mcu: 'nano-v3',
    parts: { L: 'rgb-led', R1: ohms(220), R2: ohms(220), R3: ohms(220) },
    wired: [
      ['L\\.R', 'R\\d\\.1'],
      ['L\\.G', 'R\\d\\.1'],
      ['L\\.B', 'R\\d\\.1'],
      ['L\\.COM', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'a digit and eight resistors',
    why: 'a resistor for each segment; the point needs none while it stays dark',
    mcu: 'mega-2560-r3',
    parts: { D: 'seven-segment', ...Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8].map((n) => [`R${n}`, ohms(330)])) },
    wired: [
      ['D\\.A', 'R\\d\\.1'],
      ['D\\.G', 'R\\d\\.1'],
    ],
  },
  {
    title: 'a light sensor, a heat sensor and two of 10 kΩ',
    why: 'each makes a divider with one',
    mcu: 'uno-r3',
    parts: { E: 'ldr', N: 'ntc', R1: ohms(10000), R2: ohms(10000) },
    wired: [
      ['R\\d\\.1', 'E\\.2'],
      ['R\\d\\.1', 'N\\.2'],
    ],
  },
  {
    title: 'a light sensor alone',
    why: 'without a divider the pin sees the supply only: a resistor is added, and said',
    mcu: 'pico',
    parts: { E: 'ldr' },
    adds: 1,
  },
  {
    title: 'two thermometers on one line and one of 4.7 kΩ',
    why: 'they have numbers of their own and share pin and pull-up',
    mcu: 'esp32-devkit-30',
    parts: { A: 'ds18b20-probe', B: 'ds18b20-probe', R: ohms(4700) },
    wired: [['R\\.1', '[AB]\\.DQ']],
  },
  {
    title: 'two humidity sensors and two 1-Wire thermometers',
    why: 'the thermometers have numbers and share a line; a humidity sensor has none and needs a pin of its own',
    mcu: 'pico',
    parts: {
      A: 'dht22',
      B: 'dht22',
      C: 'ds18b20-probe',
      D: 'ds18b20',
      R1: ohms(10000),
      R2: ohms(10000),
      R3: ohms(4700),
    },
    apart: [
      ['A\\.DATA', 'B\\.DATA'],
      ['[AB]\\.DATA', '[CD]\\.DQ'],
    ],
  },
  {
    title: 'a humidity sensor beside the 1-Wire driver',
    why: 'the driver speaks 1-Wire, which the sensor does not: it takes another pin',
    boards: { PI: { board: 'pi-40', uses: ['one-wire'] } },
    parts: { H: { part: 'dht22', options: { kind: 'board' } } },
    apart: [['H\\.DATA', 'PI\\.GPIO4']],
  },
  {
    title: 'a thermometer without a resistor',
    why: 'the line works only with one: it is added',
    mcu: 'uno-r3',
    parts: { A: 'ds18b20-probe' },
    adds: 1,
  },
  {
    title: 'a thermometer on the line that the driver of the system reads',
    why: 'the 1-Wire driver reads GPIO4 and no other pin',
    boards: { PI: { board: 'pi-40', uses: ['one-wire'] } },
    parts: { A: 'ds18b20-probe', R: ohms(4700) },
    wired: [['A\\.DQ', 'PI\\.GPIO4']],
  },
  {
    title: 'a bare expander and two of 4.7 kΩ',
    why: 'nothing on the bus pulls: the two resistors do',
    mcu: 'esp32-devkit-30',
    parts: { X: 'mcp23017', R1: ohms(4700), R2: ohms(4700) },
    wired: [
      ['R[12]\\.1', 'X\\.SDA'],
      ['R[12]\\.1', 'X\\.SCL'],
    ],
  },
  {
    title: 'a bare expander and two of 100 kΩ',
    why: 'far too weak for a bus: two stronger ones are added',
    mcu: 'esp32-devkit-30',
    parts: { X: 'mcp23017', R1: ohms(100000), R2: ohms(100000) },
    adds: 2,
  },
  {
    title: 'a sonar at 5 V and two resistors',
    why: '5 V · 2 / 3 is 3.3 V',
    mcu: 'esp32-devkit-30',
    parts: { E: 'hc-sr04', R1: ohms(1000), R2: ohms(2000) },
    wired: [
      ['E\\.ECHO', 'R1\\.1'],
      ['R2\\.2', 'MCU\\.GND.*'],
      ['R1\\.2', 'MCU\\.GPIO.*'],
    ],
  },
  {
    title: 'a sonar at 5 V and two resistors that divide to nothing',
    why: '10 kΩ over 220 Ω leave 0.1 V: the echo waits',
    mcu: 'esp32-devkit-30',
    parts: { E: 'hc-sr04', R1: ohms(10000), R2: ohms(220) },
    never: [['E\\.ECHO', '.*']],
    left: ['E.ECHO'],
  },
]

/** Displays with their knob and lamp. */
const displays: readonly Kit[] = [
  {
    title: 'a display with a knob and a resistor',
    why: 'the knob sets the contrast, the resistor limits the backlight',
    mcu: 'uno-r3',
    parts: { LCD: { part: 'lcd-parallel', mode: 'four' }, K: 'potentiometer', R: ohms(220) },
    wired: [
      ['K\\.W', 'LCD\\.V0'],
      ['LCD\\.A', 'R\\.[12]'],
    ],
    never: [['K\\.W', 'MCU\\.A\\d']],
  },
  {
    title: 'a display and a knob that is there for the speed',
    why: 'its title says what it is for',
    mcu: 'uno-r3',
    parts: { LCD: { part: 'lcd-parallel', mode: 'four' }, K: { part: 'potentiometer', title: 'speed' } },
    wired: [
      ['K\\.W', 'MCU\\.A\\d'],
      ['LCD\\.V0', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'a display with resistors for contrast and backlight',
    why: 'the titles say which is which',
    mcu: 'uno-r3',
    parts: {
      LCD: { part: 'lcd-parallel', mode: 'four' },
      A: ohms(100, 'backlight'),
      B: ohms(3300, 'contrast'),
    },
    wired: [
      ['LCD\\.A', 'A\\.[12]'],
      ['LCD\\.V0', 'B\\.[12]'],
    ],
  },
  {
    title: 'a display for 5 V on a 3.3 V board, and a shifter',
    why: 'both lines go over it',
    mcu: 'esp32-devkit-30',
    parts: { L: 'lcd-i2c', S: 'shifter-bss138' },
    wired: [
      ['L\\.SDA', 'S\\.HV\\d'],
      ['L\\.SCL', 'S\\.HV\\d'],
      ['S\\.LV\\d', 'MCU\\.GPIO21'],
      ['S\\.HV', 'MCU\\.VIN'],
      ['S\\.LV', 'MCU\\.3V3'],
    ],
  },
  {
    title: 'the same with an eight-channel converter',
    why: 'its enable goes to the lower supply',
    mcu: 'esp32-devkit-30',
    parts: { L: 'lcd-i2c', S: 'txs0108e' },
    wired: [
      ['L\\.SDA', 'S\\.B\\d'],
      ['S\\.OE', 'S\\.VA'],
    ],
  },
  {
    title: 'two displays for 5 V and one shifter',
    why: 'it has four channels, and they have two addresses',
    mcu: 'esp32-devkit-30',
    parts: { L: 'lcd-i2c', M: { part: 'lcd-i2c', options: { address: 0x3f } }, S: 'shifter-bss138' },
    wired: [
      ['L\\.SDA', 'S\\.HV\\d'],
      ['M\\.SDA', 'S\\.HV\\d'],
    ],
  },
]

/** Drivers that carry something are wired to the end. */
const drivers: readonly Kit[] = [
  {
    title: 'one motor on a bridge with two halves to spare',
    why: 'only what is used needs its inputs',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { U: 'l293d', M: 'dc-motor' },
    wired: [
      ['U\\.1A', 'MCU\\.D\\d+'],
      ['U\\.2A', 'MCU\\.D\\d+'],
    ],
  },
  {
    title: 'two motors on one bridge',
    why: 'the second half needs its inputs and its enable as well',
    mcu: 'nano-v3',
    supplies: pack(6),
    parts: { U: 'l293d', M: 'dc-motor', N: 'dc-motor' },
    wired: [
      ['U\\.3A', 'MCU\\..*'],
      ['U\\.4A', 'MCU\\..*'],
      ['U\\.EN34', 'MCU\\..*'],
    ],
  },
  {
    title: 'two motors on a small bridge module',
    why: 'standby and both channels',
    mcu: 'pico',
    supplies: pack(6),
    parts: { U: 'tb6612', M: 'dc-motor', N: 'dc-motor' },
    wired: [
      ['U\\.STBY', 'MCU\\..*'],
      ['U\\.PWMB', 'MCU\\.GP\\d+'],
      ['U\\.BIN2', 'MCU\\.GP\\d+'],
    ],
  },
  {
    title: 'two motors on a large bridge module',
    why: 'all four inputs',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { U: 'l298n', M: 'dc-motor', N: 'dc-motor' },
    // Its jumpers hold the enables: the speed comes over the inputs, so that all of them pulse.
    wired: [
      ['U\\.IN1', 'MCU\\.D(3|5|6|9|10|11)'],
      ['U\\.IN2', 'MCU\\.D(3|5|6|9|10|11)'],
      ['U\\.IN3', 'MCU\\.D(3|5|6|9|10|11)'],
      ['U\\.IN4', 'MCU\\.D(3|5|6|9|10|11)'],
      ['PACK\\.-', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'a large bridge module whose enables are wired',
    why: 'pulses come over the enables: the inputs leave those pins to others',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { U: 'l298n', M: 'dc-motor', N: 'dc-motor' },
    wires: 'U.ENA MCU.D5, U.ENB MCU.D6',
    never: [['U\\.IN[1-4]', 'MCU\\.D(3|10|11)']],
  },
  {
    title: 'two motors on a bridge without enable',
    why: 'sleep is held off, four inputs run',
    mcu: 'esp32-devkit-30',
    supplies: pack(6),
    parts: { U: 'drv8833', M: 'dc-motor', N: 'dc-motor' },
    wired: [
      ['U\\.IN3', 'MCU\\.GPIO\\d+'],
      ['U\\.IN4', 'MCU\\.GPIO\\d+'],
    ],
  },
  {
    title: 'a small stepper on its driver',
    why: 'four inputs, and the common of the diodes on the supply of the windings',
    mcu: 'uno-r3',
    parts: { U: 'uln2003', S: 'stepper-28byj48' },
    wired: [
      ['U\\.COM', 'MCU\\.5V.*'],
      ['U\\.2B', 'MCU\\.[DA]\\d+'],
      ['U\\.3B', 'MCU\\.[DA]\\d+'],
      ['U\\.4B', 'MCU\\.[DA]\\d+'],
    ],
  },
  {
    title: 'the same on a pack',
    why: 'the common goes where the windings are fed',
    mcu: 'pico',
    supplies: pack(5),
    parts: { U: 'uln2003', S: 'stepper-28byj48' },
    wired: [['U\\.COM', 'PACK\\.\\+']],
  },
  {
    title: 'a large stepper with its driver and capacitor',
    why: 'the capacitor belongs across the motor supply',
    mcu: 'nano-v3',
    supplies: pack(12),
    parts: { U: 'a4988', M: 'stepper-bipolar', C: farads(0.0001, 25) },
    wired: [
      ['C\\.1', 'U\\.VMOT'],
      ['C\\.2', 'U\\.GND.*'],
    ],
  },
  {
    title: 'the same with a capacitor for 6.3 V',
    why: 'at 12 V it would burst: another one is added',
    mcu: 'nano-v3',
    supplies: pack(12),
    parts: { U: 'a4988', M: 'stepper-bipolar', C: farads(0.0001, 6.3) },
    adds: 1,
    never: [['C\\.[12]', '.*']],
  },
  {
    title: 'a quiet stepper driver',
    why: 'its enable is low, so that it is on',
    mcu: 'esp32-devkit-30',
    supplies: pack(12),
    parts: { U: 'tmc2209', M: 'stepper-bipolar', C: farads(0.0001, 35) },
    wired: [['U\\.EN', 'MCU\\.GND.*']],
  },
  {
    title: 'half steps on a driver whose only supply is that of the motor',
    why: 'the strap goes to a rail that its pin bears, not to 12 V',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { U: { part: 'drv8825', options: { microsteps: '2' } }, M: 'stepper-bipolar', C: farads(0.0001, 25) },
    wired: [['U\\.M0', 'MCU\\.5V.*']],
    never: [['U\\.M0', 'PACK\\.\\+']],
  },
  {
    title: 'a pump with transistor, diode and resistor',
    why: 'diode across the pump, resistor from gate to ground',
    mcu: 'pico',
    supplies: pack(5),
    parts: { P: 'pump', Q: { part: 'nmos', options: { model: 'ao3400a' } }, D: 'diode', R: ohms(10000) },
    wired: [
      ['D\\.K', 'P\\.\\+'],
      ['D\\.A', 'P\\.-'],
      ['R\\.[12]', 'Q\\.G'],
    ],
  },
  {
    title: 'two pumps and two transistors, nothing else',
    why: 'a diode across each, and a resistor that holds each gate down: all four are added',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { A: 'pump', B: 'pump', Q: 'nmos', S: 'nmos' },
    adds: 4,
  },
  {
    title: 'a lock on a bipolar transistor',
    why: 'the resistor lies before the base',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { S: { part: 'solenoid', options: { milliamps: 300 } }, T: 'npn', D: 'diode', R: ohms(680) },
    wired: [
      ['T\\.B', 'R\\.[12]'],
      ['D\\.K', 'S\\.\\+'],
    ],
  },
  {
    title: 'three servos and a PWM chip',
    why: 'that is what it is in the kit for',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { X: 'pca9685', A: 'servo-sg90', B: 'servo-sg90', C: 'servo-sg90' },
    wired: [
      ['A\\.SIG', 'X\\..*'],
      ['C\\.SIG', 'X\\..*'],
    ],
  },
  {
    title: 'a third servo where two hardware channels are taken',
    why: 'GPIO18 and 19 repeat the channels of 12 and 13: a pulse by program is left, and said',
    boards: { PI: { board: 'pi-40' } },
    supplies: pack(5),
    parts: { A: 'servo-sg90', B: 'servo-sg90', C: 'servo-sg90' },
    wires: 'A.SIG PI.GPIO12, B.SIG PI.GPIO13',
    wired: [['C\\.SIG', 'PI\\.GPIO\\d+']],
    never: [['C\\.SIG', 'PI\\.GPIO1[2389]']],
  },
]

/** Supplies, converters, buses and addresses. */
const supplies: readonly Kit[] = [
  {
    title: 'a converter between a pack of 12 V and a servo',
    why: 'the converter takes the pack, the servo what it makes',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { K: 'buck', S: 'servo-sg90' },
    wired: [
      ['K\\.IN\\+', 'PACK\\.\\+'],
      ['S\\.VCC', 'K\\.OUT\\+'],
      ['PACK\\.-|K\\.OUT-|K\\.IN-', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'a servo and a pack',
    why: 'motors live on the pack, and the grounds are joined',
    mcu: 'esp32-devkit-30',
    supplies: pack(5),
    parts: { S: 'servo-sg90' },
    wired: [
      ['S\\.VCC', 'PACK\\.\\+'],
      ['PACK\\.-', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'a strip, a buffer and a resistor on a 3.3 V board',
    why: 'the strip wants 3.5 V for a high: the buffer at 5 V gives it',
    mcu: 'esp32-devkit-30',
    supplies: pack(5, 4000),
    parts: { B: '74ahct125', S: 'ws2812-strip', R: ohms(330) },
    wired: [
      ['S\\.DIN', 'R\\.[12]'],
      ['R\\.2', 'B\\.\\dY'],
      ['B\\.1OE', 'MCU\\.GND.*'],
    ],
  },
  {
    title: 'a reader with line levels and a converter',
    why: 'its output goes into a receiver, whose output goes to the board',
    boards: { PI: { board: 'pi-40', uses: [] } },
    supplies: pack(12),
    parts: { C: 'max3232', R: 'rfid-rs232' },
    wired: [
      ['R\\.TX', 'C\\.R\\dIN'],
      ['C\\.R\\dOUT', 'PI\\.GPIO15'],
    ],
  },
  {
    title: 'a reader with line levels and no converter',
    why: 'line levels would destroy the pin: it waits',
    boards: { PI: { board: 'pi-40', uses: [] } },
    supplies: pack(12),
    parts: { R: 'rfid-rs232' },
    never: [['R\\.TX', '.*']],
    left: ['R.TX'],
  },
  {
    title: 'eight expanders on one bus',
    why: 'three straps make eight addresses, in the order of the kit',
    mcu: 'uno-r3',
    parts: Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8].map((n) => [`X${n}`, 'mcp23017'])),
    wired: [
      ['X2\\.A0', 'MCU\\.5V.*'],
      ['X8\\.A2', 'MCU\\.5V.*'],
      ['X8\\.SDA', 'MCU\\.A4'],
    ],
    adds: 2,
  },
  {
    title: 'two climate sensors',
    why: 'the second one has its strap high',
    mcu: 'pico',
    parts: { A: 'bme280', B: 'bme280' },
    wired: [['B\\.SDO', 'MCU\\.3V3']],
  },
  {
    title: 'a motion sensor at its second address on a 5 V board',
    why: 'the strap bears 3.3 V, whatever feeds the module',
    mcu: 'uno-r3',
    parts: { M: { part: 'mpu6050', options: { address: 0x69 } } },
    wired: [['M\\.AD0', 'MCU\\.3V3']],
    never: [['M\\.AD0', 'MCU\\.5V.*']],
  },
  {
    title: 'an orientation sensor at its second address on a 5 V board',
    why: 'its own regulator gives what the strap bears',
    mcu: 'uno-r3',
    parts: { M: { part: 'bno055', options: { address: 0x29 } } },
    wired: [['M\\.ADR', 'M\\.3VO']],
  },
  {
    title: 'two radios on two boards',
    why: 'each on the bus of its own board',
    boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
    parts: { R: { part: 'nrf24l01', on: 'A' }, S: { part: 'nrf24l01', on: 'B' } },
    wired: [
      ['R\\.SCK', 'A\\.D13'],
      ['S\\.SCK', 'B\\.GP\\d+'],
    ],
    never: [
      ['R\\..*', 'B\\..*'],
      ['S\\..*', 'A\\..*'],
    ],
  },
  {
    title: 'keys, a display and a clock on a small board',
    why: 'eight key lines on plain pins, both buses on one pair',
    mcu: 'nano-v3',
    parts: { K: 'keypad-4x4', L: 'lcd-i2c', C: 'ds3231' },
    wired: [
      ['L\\.SDA', 'MCU\\.A4'],
      ['C\\.SDA', 'MCU\\.A4'],
    ],
  },
  {
    title: 'a knob with a button and two buttons',
    why: 'a button needs no resistor where pins pull up by themselves',
    mcu: 'pico',
    parts: { E: 'rotary-encoder', A: 'button', B: 'button' },
    adds: 0,
  },
  {
    title: 'a card reader and a radio on one bus',
    why: 'clock and data are shared, each has its own select',
    mcu: 'pico',
    parts: { A: 'rc522', B: 'nrf24l01' },
    wired: [
      ['A\\.SCK', 'MCU\\.GP\\d+'],
      ['B\\.CSN', 'MCU\\.GP\\d+'],
    ],
  },
  {
    title: 'a receiver of satellites on a board with one serial port',
    why: 'the port belongs to USB: what is left is a line by software, and said',
    mcu: 'uno-r3',
    parts: { G: 'gps-uart' },
    wired: [['G\\.TX', 'MCU\\.[DA]\\d+']],
    never: [['G\\.TX', 'MCU\\.D[01]']],
  },
  {
    title: 'a radio for 3.3 V on a board of 5 V, and two resistors',
    why: 'they bring the line to the radio down; the other way 3.3 V is read',
    mcu: 'mega-2560-r3',
    parts: { B: 'hc-05', R1: ohms(1000), R2: ohms(2000) },
    wired: [
      ['B\\.RXD', 'R1\\.1'],
      ['B\\.RXD', 'R2\\.1'],
      ['R1\\.2', 'MCU\\.D1[468]'],
    ],
  },
  {
    title: 'the same on a board with one serial port',
    why: 'by software, over the same divider',
    mcu: 'uno-r3',
    parts: { B: 'hc-05', R1: ohms(1000), R2: ohms(2000) },
    wired: [
      ['B\\.RXD', 'R[12]\\.1'],
      ['R1\\.2', 'MCU\\.[DA]\\d+'],
    ],
  },
  {
    title: 'a bus transceiver',
    why: 'both enables run, data goes to a serial port that is free',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wired: [
      ['X\\.RO', 'MCU\\.D1[579]'],
      ['X\\.DE', 'MCU\\..*'],
    ],
  },
  {
    title: 'a plan that is wired by hand already',
    why: 'what works stays: nothing is moved and nothing added',
    mcu: 'uno-r3',
    parts: { L: red, R: ohms(330), B: 'button' },
    wires: 'L.A R.1, R.2 MCU.3, L.K MCU.GND, B.1 MCU.2, B.2 MCU.GND',
    wired: [['R\\.2', 'MCU\\.D3']],
    adds: 0,
  },
]

/** Kits with what a maker would answer; `core/assign/kits.test.ts` asks for it. */
/** Loads for which the kit holds a relay or a bare transistor. */
const switchedLoads: readonly Kit[] = [
  {
    title: 'a pump and a relay',
    why: 'the contact switches the plus of the pump, whose minus goes back to its pack; no diode at a contact',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', K: 'relay-1' },
    wired: [
      ['K\\.COM', 'PACK\\.\\+'],
      ['M\\.\\+', 'K\\.NO'],
      ['M\\.-', 'PACK\\.-'],
      ['K\\.IN', 'MCU\\..*'],
    ],
    adds: 0,
  },
  {
    title: 'a pump with its diode across it already, and a relay',
    why: 'the diode came with the pump; the contact lies in its plus all the same',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', K: 'relay-1', D: 'diode' },
    wires: 'D.K M.+, D.A M.-',
    wired: [
      ['K\\.COM', 'PACK\\.\\+'],
      ['M\\.\\+', 'K\\.NO'],
      ['M\\.-', 'PACK\\.-'],
    ],
    adds: 0,
  },
  {
    title: 'a lock, a lamp and two relays',
    why: 'each gets a contact of its own, and each relay its pin',
    mcu: 'nano-v3',
    supplies: pack(12),
    parts: { M: 'solenoid', N: 'lamp', K: 'relay-2', B: 'button' },
    wired: [
      ['M\\.\\+', 'K\\.NO1'],
      ['N\\.\\+', 'K\\.NO2'],
      ['K\\.COM2', 'PACK\\.\\+'],
      ['K\\.IN1', 'MCU\\..*'],
      ['K\\.IN2', 'MCU\\..*'],
    ],
    adds: 0,
  },
  {
    title: 'a motor and a relay on an ESP32',
    why: 'no bridge is there: the contact turns it one way',
    mcu: 'esp32-devkit-30',
    supplies: pack(5),
    parts: { M: 'dc-motor', K: 'relay-1' },
    wired: [
      ['M\\.M1', 'K\\.NO'],
      ['M\\.M2', 'PACK\\.-'],
    ],
    adds: 0,
  },
  {
    title: 'a pump, a fan, a relay and a transistor',
    why: 'one load for each: the transistor takes the first, the contact the other',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', F: 'fan', K: 'relay-1', Q: 'nmos', D: 'diode', R: ohms(10_000) },
    wired: [
      ['M\\.-', 'Q\\.D'],
      ['F\\.\\+', 'K\\.NO'],
      ['M\\.-', 'D\\.A'],
    ],
    adds: 0,
  },
  {
    title: 'a lock too strong for the driver of the kit, and a relay',
    why: '900 mA are too much for an output of 500: the contact takes it',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { S: { part: 'solenoid', options: { milliamps: 900 } }, U: 'uln2003', K: 'relay-1' },
    wired: [['S\\.\\+', 'K\\.NO']],
    never: [['S\\..*', 'U\\..*']],
  },
  {
    title: 'a lock on a driver that brings its diodes',
    why: 'the common of the diodes lies on the supply of the lock: a diode across it would be the second',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { S: { part: 'solenoid', options: { milliamps: 250, volts: 5 } }, U: 'uln2003' },
    wired: [['U\\.COM', 'PACK\\.\\+']],
    adds: 0,
  },
  {
    title: 'a geared stepper on four bare transistors',
    why: 'each coil needs a diode, each base a resistor',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'stepper-28byj48', Q: 'npn', T: 'npn', U: 'npn', V: 'npn' },
    adds: 8,
  },
  {
    title: 'the same with its board',
    why: 'the board brings diodes and all',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'stepper-28byj48', Q: 'uln2003-board' },
    adds: 0,
  },
  {
    title: 'a pump and the board of a geared stepper',
    why: 'one channel carries it; the others stay open',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', Q: 'uln2003-board' },
    wired: [['Q\\.IN[1-4]', 'MCU\\..*']],
    adds: 0,
  },
  ...['pump', 'lamp', 'solenoid', 'electromagnet', 'strip-12v', 'fan'].map((part) => ({
    title: `${part} and a bridge`,
    why: 'nothing else in the kit switches it: between two outputs, without a diode',
    mcu: 'uno-r3',
    supplies: pack(part === 'pump' || part === 'fan' ? 5 : 12),
    parts: { M: part, U: part === 'pump' || part === 'fan' ? 'drv8833' : 'l298n' },
    wired: [
      ['M\\.\\+', 'U\\..*OUT.*'],
      ['M\\.-', 'U\\..*OUT.*'],
    ] as const,
    adds: 0,
  })),
  {
    title: 'a pump, a bridge and a transistor',
    why: 'a pump turns one way: the transistor does, and the bridge is left to what turns both ways',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', D: 'dc-motor', U: 'drv8833', Q: 'nmos' },
    wired: [
      ['M\\.-', 'Q\\.D'],
      ['D\\.M1', 'U\\..*OUT.*'],
    ],
  },
  {
    title: 'a pump and a P-channel transistor at the voltage of the board',
    why: 'it switches the plus of the pump, whose minus is on ground',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', Q: 'pmos', D: 'diode', R: ohms(10_000) },
    wired: [
      ['Q\\.S', 'PACK\\.\\+'],
      ['M\\.\\+', 'Q\\.D'],
      ['M\\.-', 'PACK\\.-'],
    ],
    adds: 0,
  },
  {
    title: 'a pump and a P-channel transistor above the voltage of the board',
    why: '3.3 V do not switch it off: the pump waits',
    mcu: 'esp32-devkit-30',
    supplies: pack(5),
    parts: { M: 'pump', Q: 'pmos' },
    never: [['M\\.\\+', 'Q\\.D']],
    left: ['M.-'],
  },
  {
    title: 'a strong lock and a strip of lights, a transistor and a driver of many outputs',
    why: '1 A is more than the driver gives: the transistor takes the lock',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { L: 'strip-12v', S: 'solenoid', Q: 'nmos', U: 'uln2003', D: 'diode', R: ohms(10_000) },
    wired: [
      ['S\\.-', 'Q\\.D'],
      ['L\\.-', 'U\\..*C'],
    ],
    adds: 0,
  },
  {
    title: 'coils of two voltages on one driver',
    why: 'the diodes meet on the higher supply: on the lower one they would conduct all the time',
    mcu: 'uno-r3',
    supplies: { ...pack(12), LOW: { volts: 5, limitMilliamps: 2000 } },
    parts: {
      P: { part: 'pump', options: { milliamps: 150 } },
      S: { part: 'electromagnet', options: { milliamps: 250 } },
      U: 'uln2003',
    },
    wired: [['U\\.COM', 'PACK\\.\\+']],
    adds: 0,
  },
  {
    title: 'a pump, a transistor and one more',
    why: 'what carries nothing stays in the box, and no resistor is bought for it',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { P: 'pump', Q: 'nmos', T: 'npn', D: 'diode', R: ohms(10_000) },
    wired: [['P\\.-', 'Q\\.D']],
    never: [['T\\..*', '.*']],
    adds: 0,
  },
  {
    title: 'a fan, a motor for one way, a buzzer and two transistors',
    why: 'the motor finds no bridge and asks for a transistor, so the buzzer goes to a pin',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { M: 'dc-motor', F: { part: 'fan', options: { volts: 5 } }, B: 'buzzer-active', Q: 'nmos', T: 'nmos' },
    wired: [['B\\.\\+', 'MCU\\.D.*']],
  },
  {
    title: 'a bare climate sensor beside a strip that is too much for the supply of the board',
    why: 'its few milliamperes go where its board reads it, at 5 V',
    mcu: 'mega-2560-r3',
    parts: { L: { part: 'ws2812-strip', options: { pixels: 8 } }, S: { part: 'dht22', options: { kind: 'bare' } } },
    wired: [['S\\.VCC', 'MCU\\.5V.*']],
  },
  {
    title: 'a pump that takes just what the transistor bears, and a relay',
    why: '800 of 800 mA: the transistor takes it',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: { part: 'pump', options: { milliamps: 800 } }, Q: 'npn', K: 'relay-1', D: 'diode' },
    wired: [['M\\.-', 'Q\\.C']],
    never: [['M\\..*', 'K\\..*']],
  },
  {
    title: 'a pump that is too much for the P-channel transistor of the kit',
    why: '2.8 A, and it bears 2.5: the pump waits',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: {
      M: { part: 'pump', options: { milliamps: 2800 } },
      Q: { part: 'pmos', options: { model: 'irlml6402' } },
    },
    never: [['M\\.\\+', 'Q\\.D']],
    left: ['M.-'],
  },
  {
    title: 'a motor on its bridge, and an amplifier whose speaker is not in the plan',
    why: 'no motor belongs on the amplifier: it is wired, as it would be alone',
    mcu: 'esp32-devkit-30',
    supplies: pack(6),
    parts: { M: 'dc-motor', U: 'drv8833', A: 'max98357a' },
    wired: [['A\\.BCLK', 'MCU\\..*']],
    adds: 0,
  },
  {
    title: 'a buzzer, a geared stepper and four transistors',
    why: 'each coil asks for one: the buzzer goes to a pin',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { B: 'buzzer-active', M: 'stepper-28byj48', Q: 'npn', T: 'npn', U: 'npn', V: 'npn' },
    wired: [['B\\.\\+', 'MCU\\.D.*']],
  },
  {
    title: 'a pump, a geared stepper, four transistors and a relay',
    why: 'the coils take the transistors, the pump the contact',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { P: 'pump', M: 'stepper-28byj48', Q: 'npn', T: 'npn', U: 'npn', V: 'npn', K: 'relay-1' },
    wired: [['P\\.\\+', 'K\\.NO']],
  },
  {
    title: 'a buzzer and a transistor',
    why: '30 mA are more than a pin is good for: the transistor of the kit takes them',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active', Q: 'npn', R: ohms(1000) },
    wired: [
      ['M\\.\\+', 'MCU\\.5V.*'],
      ['M\\.-', 'Q\\.C'],
      ['R\\.[12]', 'Q\\.B'],
    ],
    adds: 0,
  },
  {
    title: 'a buzzer of 3 V and a transistor',
    why: 'its plus goes on 3.3 V',
    mcu: 'pi-40',
    parts: { M: { part: 'buzzer-active', options: { kind: '3v' } }, Q: 'npn', R: ohms(1000) },
    wired: [['M\\.\\+', 'MCU\\.3V3.*']],
    adds: 0,
  },
  {
    title: 'a buzzer, a fan and one transistor',
    why: 'the fan needs it more',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active', F: 'fan', Q: 'nmos', R: ohms(10_000) },
    wired: [
      ['F\\.-', 'Q\\.D'],
      ['M\\.\\+', 'MCU\\.D.*'],
    ],
    adds: 0,
  },
  {
    title: 'a laser and a transistor on a Pico',
    why: 'no pin gives 35 mA',
    mcu: 'pico',
    parts: { M: 'laser-diode', Q: 'nmos' },
    wired: [
      ['M\\.S', 'MCU\\.VBUS'],
      ['M\\.-', 'Q\\.D'],
    ],
    never: [['M\\.-', 'MCU\\..*']],
  },
]

const cells = (volts: number) => ({ part: 'battery-box', options: { volts } })

/** What feeds the board, where the kit brings it. */
const boardsFed: readonly Kit[] = [
  {
    title: 'a regulator between a board and a radio of 3.3 V',
    why: 'such a regulator needs its capacitor, or it oscillates; the levels of the lines want a shifter',
    mcu: 'mega-2560-r3',
    parts: { R: 'regulator-3v3', S: 'esp-01' },
    wired: [
      ['R\\.IN', 'MCU\\.5V'],
      ['S\\.VCC', 'R\\.OUT'],
      ['C\\d\\.1', 'R\\.OUT'],
    ],
    adds: 1,
    left: ['S.TXD', 'S.RXD'],
  },
  {
    title: 'a converter, and nothing that wants what it makes',
    why: 'it stays in the box',
    mcu: 'uno-r3',
    parts: { R: 'boost', S: 'bme280' },
    wired: [['S\\.VCC', 'MCU\\.3V3']],
    never: [['R\\..*', '.*']],
  },
  {
    title: 'two air sensors of one address whose pull-ups are weak',
    why: 'each gets a bus of its own, on which its own 45 kΩ are too weak',
    mcu: 'pico',
    parts: { A: 'scd30', B: 'scd30' },
    wired: [
      ['R\\d\\.1', 'A\\.SDA'],
      ['R\\d\\.1', 'B\\.SCL'],
    ],
    apart: [['A.SDA', 'B.SDA']],
    adds: 4,
  },
  {
    title: 'a pack of 5 V that nothing wants, and an Uno',
    why: 'at its 5 V pin it might meet the supply of USB',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
    parts: { S: 'bme280' },
    wired: [['S\\.VCC', 'MCU\\.3V3']],
    never: [['MCU\\.5V', 'PACK.*']],
  },
  {
    title: 'two packs, a bridge and motors of 6 V',
    why: 'the bridge takes the pack for which the motors are made, the board the other',
    mcu: 'uno-r3',
    supplies: { A: { volts: 12, limitMilliamps: 3000 }, B: { volts: 6, limitMilliamps: 3000 } },
    parts: { D: 'tb6612', M: 'dc-motor', N: 'dc-motor' },
    wired: [
      ['D\\.VM', 'B\\.\\+'],
      ['A\\.\\+', 'MCU\\.VIN'],
    ],
  },
  {
    title: 'two packs, a bridge and a motor of 12 V',
    why: 'the bridge takes the pack for which the motor is made',
    mcu: 'uno-r3',
    supplies: { A: { volts: 12, limitMilliamps: 3000 }, B: { volts: 6, limitMilliamps: 3000 } },
    parts: { D: 'l9110s', M: { part: 'dc-motor', options: { volts: 12 } } },
    wired: [['D\\.VCC', 'A\\.\\+']],
  },
  {
    title: 'nine volts of batteries, a fuse and an Uno',
    why: 'a fuse sits next to the plus, before all that hangs on it',
    mcu: 'uno-r3',
    parts: { B: cells(9), F: 'fuse' },
    wired: [
      ['F\\.1', 'B\\.\\+'],
      ['F\\.2', 'MCU\\.VIN'],
    ],
    never: [['B\\.\\+', 'MCU\\.VIN']],
  },
  {
    title: 'a pack with two loads, batteries for the board, and one fuse',
    why: 'the fuse goes where most current flows',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    parts: {
      B: cells(9),
      F: { part: 'fuse', options: { milliamps: 2000 } },
      L: 'lamp',
      Q: 'nmos',
      M: 'lamp',
      S: 'nmos',
    },
    wired: [
      ['F\\.1', 'PACK\\.\\+'],
      ['L\\.\\+', 'F\\.2'],
      ['M\\.\\+', 'F\\.2'],
      ['B\\.\\+', 'MCU\\.VIN'],
    ],
  },
  {
    title: 'a motor on a bridge and a fuse that would blow while it starts',
    why: 'what goes through the bridge goes through the fuse as well',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 6, limitMilliamps: 3000 } },
    parts: { F: { part: 'fuse', options: { milliamps: 500 } }, M: 'dc-motor', D: 'l9110s' },
    wired: [['D\\.VCC', 'PACK\\.\\+']],
    never: [['F\\..', '.*']],
  },
  {
    title: 'a pump and a fuse that it would blow',
    why: 'a fuse too small for its load stays in the box',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
    parts: { F: { part: 'fuse', options: { milliamps: 100 } }, P: 'pump', Q: 'nmos' },
    wired: [['P\\.\\+', 'PACK\\.\\+']],
    never: [['F\\..', '.*']],
  },
  {
    title: 'nine volts of batteries and an Uno',
    why: 'nothing else takes them: they feed the board where it has its regulator',
    mcu: 'uno-r3',
    parts: { B: cells(9), S: 'dht11' },
    wired: [['B\\.\\+', 'MCU\\.VIN']],
  },
  {
    title: 'six volts of batteries, an Uno and a servo',
    why: 'the servo takes them, and they are too few for VIN',
    mcu: 'uno-r3',
    parts: { B: cells(6), S: 'servo-sg90' },
    wired: [['S\\.VCC', 'B\\.\\+']],
    never: [['B\\.\\+', 'MCU\\..*']],
  },
  {
    title: 'a charger, a converter and an ESP32',
    why: 'the cell behind the charger gives 3.7 V, the converter 5 V of it for the board',
    mcu: 'esp32-devkit-30',
    parts: { C: 'charger-tp4056', U: 'boost' },
    wired: [
      ['U\\.IN\\+', 'C\\.OUT\\+'],
      ['U\\.OUT\\+', 'MCU\\.VIN'],
    ],
  },
  {
    title: 'twelve volts for a strip of lights, and a converter for the board',
    why: 'the strip takes 12 V, and what the converter makes is for the board',
    mcu: 'esp32-devkit-30',
    parts: { J: { part: 'dc-socket', options: { volts: 12 } }, U: 'buck', L: 'strip-12v', Q: 'nmos', R: ohms(10_000) },
    wired: [
      ['L\\.\\+', 'J\\.\\+'],
      ['U\\.IN\\+', 'J\\.\\+'],
      ['U\\.OUT\\+', 'MCU\\.VIN'],
    ],
    adds: 0,
  },
  {
    title: 'batteries and a board without a socket',
    why: 'its regulator takes them, and the sensor what that makes',
    mcu: 'pro-mini-3v3',
    parts: { B: cells(9), S: 'bmp280' },
    wired: [
      ['B\\.\\+', 'MCU\\.RAW'],
      ['S\\.VCC', 'MCU\\.VCC.*'],
    ],
  },
  {
    title: 'three volts of batteries and a Pico',
    why: 'VSYS takes from 1.8 V on',
    mcu: 'pico',
    parts: { B: cells(3), S: 'bmp280' },
    wired: [['B\\.\\+', 'MCU\\.VSYS']],
  },
  {
    title: 'three volts of batteries, a Pico and what needs five',
    why: 'fed at VSYS the board has no 5 V: the batteries stay out',
    mcu: 'pico',
    parts: { B: cells(3), S: { part: 'ws2812-strip', options: { pixels: 4 } } },
    never: [['B\\.\\+', 'MCU\\..*']],
  },
  {
    title: 'a converter that has nothing but the board itself to take from',
    why: 'what it makes of the board does not feed the board',
    mcu: 'uno-r3',
    parts: { U: 'boost' },
    never: [['U\\.OUT\\+', 'MCU\\..*']],
  },
  {
    title: 'the board of a geared stepper alone',
    why: 'its motor plugs on: all four inputs',
    mcu: 'uno-r3',
    parts: { Q: 'uln2003-board' },
    wired: [
      ['Q\\.IN1', 'MCU\\..*'],
      ['Q\\.IN4', 'MCU\\..*'],
    ],
  },
  {
    title: 'a supply for breadboards and an Uno',
    why: 'it feeds the breadboard; the board keeps its socket',
    mcu: 'uno-r3',
    parts: { P: 'breadboard-supply', S: 'servo-sg90' },
    never: [['P\\.5V', 'MCU\\..*']],
  },
]

export const kits: readonly Kit[] = [
  ...switchedLoads,
  ...boardsFed,
  ...resistors,
  ...displays,
  ...drivers,
  ...supplies,
  ...switches,
  ...bases,
  ...taken,
  ...sound,
  ...either,
  ...fedRight,
  ...kitsRows,
  ...kitsTogether,
  ...kitsLoads,
  ...kitsShared,
]
