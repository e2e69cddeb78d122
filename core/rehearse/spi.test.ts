import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { rehearse } from './run.ts'
import { run } from './testing/quick.ts'

const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const onUno = (part: string, wires: string, more: Short['parts'] = {}): Short => ({
  mcu: 'uno-r3',
  parts: { X: part, ...more },
  wires,
})
/** A register whose outputs A and H light a lamp each. */
const register = (clock: number, data: number): Short =>
  onUno(
    '74hc595',
    `X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR MCU.5V, X.SER MCU.${data}, X.SRCLK MCU.${clock}, X.RCLK MCU.10, X.QA R.1, R.2 L.A, L.K MCU.GND, X.QH S.1, S.2 M.A, M.K MCU.GND`,
    { L: 'led', R: ohms(470), M: 'led', S: ohms(470) },
  )
const sketch = (setup: string, more = ''): string =>
  `#include <SPI.h>\n${more}\nvoid setup() { Serial.begin(9600); pinMode(10, OUTPUT); digitalWrite(10, HIGH); SPI.begin(); ${setup} }\nvoid loop() { delay(100); }`
const sent = (byte: string, before = ''): string =>
  `${before} digitalWrite(10, LOW); SPI.transfer(${byte}); digitalWrite(10, HIGH);`
const lit = (plan: Short, text: string): string =>
  Object.entries(run(plan, text).shows)
    .filter(([, words]) => words.startsWith('on'))
    .map(([ref]) => ref)
    .join(' ')
const said = (plan: Short, text: string): string[] => run(plan, text).findings.map(({ kind }) => kind)

const converter = (): Short =>
  onUno(
    'mcp3008',
    'X.VDD MCU.5V, X.VREF MCU.5V, X.AGND MCU.GND, X.DGND MCU.GND, X.CLK MCU.13, X.DIN MCU.11, X.DOUT MCU.12, X.CS MCU.10, P.1 MCU.GND, P.3 MCU.5V, P.W X.CH2, Q.1 MCU.GND, Q.2 X.CH3, R.1 X.CH3, R.2 MCU.5V',
    { P: 'potentiometer', Q: ohms(1000), R: ohms(3000) },
  )
const ask =
  'int ask(byte way) { digitalWrite(10, LOW); SPI.transfer(1); byte high = SPI.transfer(way << 4); byte low = SPI.transfer(0); digitalWrite(10, HIGH); return ((high & 3) << 8) | low; }'
const thermo = (part: string, clock: string, out: string): Short =>
  onUno(part, `X.VCC MCU.5V, X.GND MCU.GND, X.${clock} MCU.13, X.${out} MCU.12, X.CS MCU.10`)
const matrix = onUno('max7219', 'X.VCC MCU.5V, X.GND MCU.GND, X.CLK MCU.13, X.DIN MCU.11, X.CS MCU.10')
const printed = (plan: Short, text: string, steps?: string): readonly string[] =>
  run(plan, text, steps).printed.map(({ text: line }) => line)

describe('the four-wire bus of sketches, bit by bit at the pins', () => {
  it('fills a plain register, in the order and on the pins that are wired', () => {
    expect(lit(register(13, 11), sketch(sent('0x01')))).toBe('L')
    expect(lit(register(13, 11), sketch(sent('0x80')))).toBe('M')
    expect(lit(register(13, 11), sketch(sent('0x80', 'SPI.setBitOrder(LSBFIRST);')))).toBe('L')
    const settled = 'SPI.beginTransaction(SPISettings(4000000, LSBFIRST, SPI_MODE0));'
    expect(lit(register(13, 11), sketch(sent('0x80', settled)))).toBe('L')
    expect(lit(register(11, 13), sketch(sent('0x01')))).toBe('')
  })
  it('takes bits at the edge of its mode, so that a wrong one shows', () => {
    const text = (mode: number): string =>
      sketch(
        `SPI.setDataMode(SPI_MODE${mode}); digitalWrite(10, LOW); unsigned int got = SPI.transfer16(0); digitalWrite(10, HIGH); Serial.println(got);`,
      )
    const plan = thermo('max6675', 'SCK', 'SO')
    expect(printed(plan, text(0))).toEqual([String((24 * 4) << 3)])
    expect(printed(plan, text(1))).toEqual([String((24 * 4) << 4)])
    expect(printed(plan, text(3))).toEqual([String((24 * 4) << 3)])
    const clockLamp = onUno('led', 'X.A R.1, R.2 MCU.13, X.K MCU.GND', { R: ohms(470) })
    expect(lit(clockLamp, sketch('SPI.setDataMode(SPI_MODE2);'))).toBe('X')
    expect(lit(clockLamp, sketch('SPI.setDataMode(SPI_MODE1);'))).toBe('')
  })
  it('lets the others speak when one is no longer selected', () => {
    const plan = onUno(
      'max6675',
      'X.VCC MCU.5V, X.GND MCU.GND, X.SCK MCU.13, X.SO MCU.12, X.CS MCU.10, Y.VCC MCU.5V, Y.GND MCU.GND, Y.SCK MCU.13, Y.SO MCU.12, Y.CS MCU.9',
      { Y: 'max6675' },
    )
    const text = sketch(
      'pinMode(9, OUTPUT); digitalWrite(9, HIGH); delay(50); for (int i = 9; i <= 10; i++) { digitalWrite(i, LOW); Serial.println(SPI.transfer16(0) >> 5); digitalWrite(i, HIGH); }',
    )
    const steps = '  - { at: 0.02, set: { X: 100, Y: 200 } }\n  - { at: 0.3 }'
    expect(printed(plan, text, steps)).toEqual(['200', '100'])
    expect(said(plan, text)).toEqual([])
  })
  it('runs on the pins that are chosen before it is begun', () => {
    const pico: Short = {
      mcu: 'pico',
      parts: { X: 'max6675' },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.SCK MCU.GP2, X.SO MCU.GP4, X.CS MCU.GP5',
    }
    const text = (chosen: string): string =>
      `#include <SPI.h>\nvoid setup() { Serial.begin(9600); pinMode(5, OUTPUT); digitalWrite(5, HIGH); ${chosen} SPI.begin(); digitalWrite(5, LOW); Serial.println(SPI.transfer16(0) >> 5); digitalWrite(5, HIGH); }\nvoid loop() { delay(100); }`
    expect(printed(pico, text('SPI.setSCK(2); SPI.setRX(4); SPI.setTX(3);'))).toEqual(['24'])
    expect(printed(pico, text(''))).toEqual(['0'])
  })
  it('is seen on the lines as it goes: eight pulses of the clock for a byte', () => {
    const { trace } = run(register(13, 11), sketch(sent('0x01')))
    const rises = trace.lines.get('MCU.D13') ?? []
    expect(rises.filter(({ is }) => is === '1')).toHaveLength(8)
  })
  it('takes the time of the clock that is asked for', () => {
    const text = (hertz: string): string =>
      sketch(
        `SPI.beginTransaction(SPISettings(${hertz}, MSBFIRST, SPI_MODE0)); unsigned long from = micros(); for (int i = 0; i < 100; i++) SPI.transfer(0); Serial.println((micros() - from) / 100);`,
      )
    const plan = register(13, 11)
    const [slow, fast] = ['100000', '4000000'].map((hertz) => Number(printed(plan, text(hertz))[0]))
    expect(slow).toBeGreaterThanOrEqual(80)
    expect(slow).toBeLessThan(100)
    expect(fast).toBeLessThan(20)
  })
  it('says that it was not begun, and nothing comes out', () => {
    const text = sketch(sent('0x01')).replace('SPI.begin();', '')
    expect(said(register(13, 11), text)).toContain('bus-asleep')
    expect(lit(register(13, 11), text)).toBe('')
  })
  it('sends what an array holds and puts there what comes', () => {
    const text = sketch(
      'byte both[2] = { 0, 0 }; digitalWrite(10, LOW); SPI.transfer(both, 2); digitalWrite(10, HIGH); Serial.println(both[0] * 256 + both[1]);',
    )
    expect(printed(thermo('max6675', 'SCK', 'SO'), text)).toEqual(['768'])
  })
})

describe('parts on four wires', () => {
  it('a converter gives the counts of a channel, or of two against each other', () => {
    const text = sketch(
      'Serial.println(ask(8 + 2)); Serial.println(ask(8 + 3)); Serial.println(ask(2)); Serial.println(ask(3));',
      ask,
    )
    expect(printed(converter(), text)).toEqual(['512', '256', '256', '0'])
  })
  it('thermocouples say theirs, and below nought where they can', () => {
    const warm = sketch(
      'delay(50); digitalWrite(10, LOW); unsigned int got = SPI.transfer16(0); digitalWrite(10, HIGH); Serial.println((got >> 3) * 0.25);',
    )
    const steps = '  - { at: 0.02, set: { X: 312.5 } }\n  - { at: 0.3 }'
    expect(printed(thermo('max6675', 'SCK', 'SO'), warm, steps)).toEqual(['312.50'])
    const cold = sketch(
      'delay(50); digitalWrite(10, LOW); int got = SPI.transfer16(0); SPI.transfer16(0); digitalWrite(10, HIGH); Serial.println((got >> 2) * 0.25);',
    )
    const freezing = '  - { at: 0.02, set: { X: -40.25 } }\n  - { at: 0.3 }'
    expect(printed(thermo('max31855', 'CLK', 'DO'), cold, freezing)).toEqual(['-40.25'])
  })
  it('one that is read bit by bit by the program itself says the same', () => {
    const text = `int ask() { int got = 0; digitalWrite(10, LOW); for (int i = 15; i >= 0; i--) { digitalWrite(13, LOW); if (digitalRead(12)) got |= 1 << i; digitalWrite(13, HIGH); } digitalWrite(10, HIGH); return got >> 3; }
void setup() { Serial.begin(9600); pinMode(10, OUTPUT); digitalWrite(10, HIGH); pinMode(13, OUTPUT); pinMode(12, INPUT); delay(10); Serial.println(ask()); }
void loop() { delay(100); }`
    expect(printed(thermo('max6675', 'SCK', 'SO'), text)).toEqual(['96'])
  })
  it('a driver of figures sleeps, shows them, or counts the dots of its rows', () => {
    const tell =
      'void tell(byte place, byte value) { digitalWrite(10, LOW); SPI.transfer(place); SPI.transfer(value); digitalWrite(10, HIGH); }'
    const shown = (setup: string): string | undefined => run(matrix, sketch(setup, tell)).shows.X
    expect(shown('tell(1, 3);')).toBe('sleeps')
    expect(shown('tell(12, 1); tell(11, 3); tell(9, 255); for (byte i = 1; i <= 4; i++) tell(i, i);')).toBe('4321')
    expect(shown('tell(12, 1); tell(11, 3); tell(9, 255); for (byte i = 1; i <= 4; i++) tell(i, i + 128);')).toBe(
      '4.3.2.1.',
    )
    expect(shown('tell(12, 1); tell(11, 7); tell(1, 0x81); tell(8, 0x0F);')).toBe('6 dots lit')
    expect(shown('tell(12, 1); tell(15, 1);')).toBe('every dot lit')
  })
  it('a sensor with registers is set and read, one after the other', () => {
    const plan: Short = {
      mcu: 'pico',
      parts: { X: { part: 'lis3dh', mode: 'spi' } },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.SCL MCU.GP18, X.SDA MCU.GP19, X.SDO MCU.GP16, X.CS MCU.GP17',
    }
    const text = `#include <SPI.h>
void tell(byte place, byte value) { digitalWrite(17, LOW); SPI.transfer(place); SPI.transfer(value); digitalWrite(17, HIGH); }
int ask(byte place) { digitalWrite(17, LOW); SPI.transfer(place); int a = SPI.transfer(0); a |= SPI.transfer(0) << 8; digitalWrite(17, HIGH); return (int16_t)a; }
void setup() { Serial.begin(9600); pinMode(17, OUTPUT); digitalWrite(17, HIGH); SPI.begin(); delay(50); Serial.println(ask(0x8F) & 255, HEX); Serial.println(ask(0xEC)); tell(0x20, 0x57); Serial.println(ask(0xEC)); Serial.println(ask(0xE8)); }
void loop() { delay(100); }`
    const steps = '  - { at: 0.02, set: { X.x: -9.80665 } }\n  - { at: 0.3 }'
    expect(printed(plan, text, steps)).toEqual(['33', '0', '16005', '-16000'])
  })
  it('of one that nobody has described it is said, once it is selected', () => {
    const reader: Short = onUno(
      'w25q-flash',
      'X.VCC MCU.3V3, X.GND MCU.GND, X.CLK MCU.13, X.DI MCU.11, X.DO MCU.12, X.CS MCU.10',
    )
    expect(said(reader, sketch('digitalWrite(10, LOW); SPI.transfer(0x9F); digitalWrite(10, HIGH);'))).toContain(
      'unknown-bytes',
    )
    expect(said(reader, sketch('SPI.transfer(0x9F);'))).not.toContain('unknown-bytes')
  })
})

describe('the same in Python', () => {
  const python = (plan: Short, text: string): readonly string[] => {
    const wiring = resolve(planOf(plan), catalog)
    return rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds: 1 }).printed.map(
      ({ text: line }) => line,
    )
  }
  const wires = (clock: string, input: string, output: string, select: string): string =>
    `X.VDD MCU.3V3, X.VREF MCU.3V3, X.AGND MCU.GND, X.DGND MCU.GND, X.CLK MCU.${clock}, X.DIN MCU.${input}, X.DOUT MCU.${output}, X.CS MCU.${select}, P.1 MCU.GND, P.3 MCU.3V3, P.W X.CH2`
  const parts: Short['parts'] = { X: 'mcp3008', P: 'potentiometer' }
  const pico: Short = { mcu: 'pico', parts, wires: wires('GP18', 'GP19', 'GP16', 'GP17') }
  it('over the pins that the program names, or the usual ones', () => {
    const text = (given: string): string =>
      `from machine import Pin, SPI\nspi = SPI(0${given})\ncs = Pin(17, Pin.OUT, value=1)\nout = bytearray([1, 0x80 | (2 << 4), 0])\ngot = bytearray(3)\ncs(0)\nspi.write_readinto(out, got)\ncs(1)\nprint(((got[1] & 3) << 8) | got[2])\n`
    expect(python(pico, text(''))).toEqual(['512'])
    expect(python(pico, text(', sck=Pin(18), mosi=Pin(19), miso=Pin(16)'))).toEqual(['512'])
    expect(python(pico, text(', sck=Pin(18), mosi=Pin(19), miso=Pin(20)'))).not.toEqual(['512'])
  })
  it('at the edge that the program names', () => {
    const warm: Short = {
      mcu: 'pico',
      parts: { X: 'max6675' },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.SCK MCU.GP18, X.SO MCU.GP16, X.CS MCU.GP17',
    }
    const text = (given: string): string =>
      `from machine import Pin, SPI\nspi = SPI(0${given})\ncs = Pin(17, Pin.OUT, value=1)\ncs(0)\ngot = spi.read(2)\ncs(1)\nprint((got[0] << 8 | got[1]) >> 3)\n`
    expect(python(warm, text(', polarity=0, phase=0'))).toEqual(['96'])
    expect(python(warm, text(', polarity=1, phase=1'))).toEqual(['96'])
    expect(python(warm, text(', polarity=0, phase=1'))).toEqual(['192'])
  })
  it('as boards with named pins have it', () => {
    const text =
      'import board, busio, digitalio\nspi = busio.SPI(board.GP18, MOSI=board.GP19, MISO=board.GP16)\ncs = digitalio.DigitalInOut(board.GP17)\ncs.switch_to_output(value=True)\nwhile not spi.try_lock():\n  pass\nspi.configure(baudrate=1000000, phase=0, polarity=0)\ngot = bytearray(3)\ncs.value = False\nspi.write_readinto(bytes([1, 0xA0, 0]), got)\ncs.value = True\nprint(((got[1] & 3) << 8) | got[2])\n'
    expect(python(pico, text)).toEqual(['512'])
  })
  it('on a single-board computer, whose driver moves the select', () => {
    const pi: Short = { mcu: 'pi-40', parts, wires: wires('GPIO11', 'GPIO10', 'GPIO9', 'GPIO8') }
    const text = (device: number): string =>
      `import spidev\nspi = spidev.SpiDev()\nspi.open(0, ${device})\nspi.max_speed_hz = 1000000\ngot = spi.xfer2([1, 0xA0, 0])\nprint(((got[1] & 3) << 8) + got[2])\n`
    expect(python(pi, text(0))).toEqual(['512'])
    expect(python(pi, text(1))).not.toEqual(['512'])
    expect(
      python(pi, 'from gpiozero import MCP3008\nknob = MCP3008(channel=2)\nprint(round(knob.value, 2))\n'),
    ).toEqual(['0.5'])
  })
})
