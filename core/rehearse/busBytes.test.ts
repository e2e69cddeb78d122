import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { rehearse } from './run.ts'
import { run } from './testing/quick.ts'

/** A part on the bus of an Uno, fed with 5 V, or of a Pico. */
const uno = (part: string, feed: string, more: Short['parts'] = {}, wires = ''): Short => ({
  mcu: 'uno-r3',
  parts: { X: part, ...more },
  wires: `${feed}, X.SDA MCU.A4, X.SCL MCU.A5${wires === '' ? '' : `, ${wires}`}`,
})
const helpers = `#include <Wire.h>
void tell(byte at, byte reg, byte value) { Wire.beginTransmission(at); Wire.write(reg); Wire.write(value); Wire.endTransmission(); }
int ask(byte at, byte reg) { Wire.beginTransmission(at); Wire.write(reg); Wire.endTransmission(); Wire.requestFrom(at, (byte)2); int high = Wire.read(); return (high << 8) | Wire.read(); }
`
const printed = (plan: Short, setup: string, loop = 'delay(100);', steps?: string): readonly string[] =>
  run(
    plan,
    `${helpers}void setup() { Serial.begin(9600); Wire.begin(); ${setup} }\nvoid loop() { ${loop} }`,
    steps,
  ).printed.map(({ text }) => text)
const fed = 'X.VCC MCU.5V, X.GND MCU.GND'

describe('parts that are spoken to byte by byte', () => {
  it('a motion sensor sleeps until it is woken, then says what pulls at it, in the range that is chosen', () => {
    const plan = uno('mpu6050', fed)
    const asked = 'Serial.println(ask(0x68, 0x75) >> 8, HEX); Serial.println(ask(0x68, 0x3F));'
    expect(printed(plan, asked)).toEqual(['68', '0'])
    expect(printed(plan, `tell(0x68, 0x6B, 0); ${asked}`)).toEqual(['68', '16390'])
    expect(printed(plan, `tell(0x68, 0x6B, 0); tell(0x68, 0x1C, 0x10); ${asked}`)).toEqual(['68', '4097'])
    const turned = '  - { at: 0.05, set: { X.z: -9.81, X.turn-x: 100 } }\n  - { at: 0.3 }'
    expect(
      printed(
        plan,
        'tell(0x68, 0x6B, 0);',
        'delay(100); Serial.println(ask(0x68, 0x3F)); Serial.println(ask(0x68, 0x43)); delay(1000);',
        turned,
      ).slice(0, 2),
    ).toEqual(['-16390', '13100'])
  })
  it('a light meter says its light whatever it was told, beyond what a signed number holds', () => {
    const plan = uno('bh1750', fed)
    const read =
      'Wire.beginTransmission(0x23); Wire.write(0x10); Wire.endTransmission(); delay(180); Wire.requestFrom(0x23, 2); unsigned int raw = Wire.read() << 8; raw |= Wire.read(); Serial.println(raw / 1.2);'
    expect(printed(plan, read)).toEqual(['320.00'])
    const bright = '  - { at: 0.05, set: { X: 50000 } }\n  - { at: 0.5 }'
    expect(printed(plan, read, undefined, bright)).toEqual(['50000.00'])
  })
  it('thermometers say theirs in the steps of their data sheets, below nought as well', () => {
    const cold = '  - { at: 0, set: { X: -10.5 } }\n  - { at: 0.2 }'
    const read = (at: number, reg: number): string => `delay(50); Serial.println(ask(${at}, ${reg}));`
    expect(printed(uno('lm75', fed), read(0x48, 0))).toEqual([String(172 << 5)])
    expect(printed(uno('lm75', fed), read(0x48, 0), undefined, cold)).toEqual([String(-84 * 32)])
    expect(printed(uno('tmp117', 'X.VIN MCU.3V3, X.GND MCU.GND'), read(0x48, 0), undefined, cold)).toEqual(['-1344'])
    expect(printed(uno('mcp9808', 'X.VDD MCU.5V, X.GND MCU.GND'), read(0x18, 5), undefined, cold)).toEqual([
      String(0x1f58),
    ])
    expect(printed(uno('mcp9808', 'X.VDD MCU.5V, X.GND MCU.GND'), read(0x18, 6))).toEqual(['84'])
  })
  it('a memory keeps what is written, place after place, and holds 255 elsewhere', () => {
    const plan = uno('at24c256', 'X.VCC MCU.5V, X.GND MCU.GND, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, X.WP MCU.GND')
    const text =
      'Wire.beginTransmission(0x50); Wire.write(1); Wire.write(0x20); Wire.write(7); Wire.write(9); Wire.endTransmission(); delay(5); Wire.beginTransmission(0x50); Wire.write(1); Wire.write(0x20); Wire.endTransmission(); Wire.requestFrom(0x50, 3); while (Wire.available()) Serial.println(Wire.read());'
    expect(printed(plan, text)).toEqual(['7', '9', '255'])
    // The last place is followed by the first.
    const round = text.replaceAll('Wire.write(1); Wire.write(0x20);', 'Wire.write(0x7F); Wire.write(0xFF);')
    const first =
      'Wire.beginTransmission(0x50); Wire.write(0); Wire.write(0); Wire.endTransmission(); Wire.requestFrom(0x50, 1); Serial.println(Wire.read());'
    expect(printed(plan, `${round} ${first}`)).toEqual(['7', '9', '255', '9'])
  })
  describe('sensors of which a program reckons the values', () => {
    const C = `#include <Wire.h>
void tell(byte at, byte place, byte value) { Wire.beginTransmission(at); Wire.write(place); Wire.write(value); Wire.endTransmission(); }
void from(byte at, byte place, byte count) { Wire.beginTransmission(at); Wire.write(place); Wire.endTransmission(); Wire.requestFrom(at, count); }
unsigned int low() { unsigned int a = Wire.read(); return a | (Wire.read() << 8); }
unsigned int high() { unsigned int a = Wire.read(); return (a << 8) | Wire.read(); }
`
    const said = (plan: Short, setup: string, steps?: string): string[] =>
      run(
        plan,
        `${C}void setup() { Serial.begin(9600); Wire.begin(); ${setup} }\nvoid loop() { delay(100); }`,
        steps,
        2,
      ).printed.map(({ text }) => text)
    const at = (values: string): string => `  - { at: 0.02, set: { ${values} } }\n  - { at: 1 }`
    // Reckoned with the whole numbers of the data sheet, as a program would.
    const warmth = `from(0x76, 0x88, 6); unsigned int t1 = low(); int t2 = low(); int t3 = low();
from(0x76, 0xFA, 3); long raw = ((long)Wire.read() << 12); raw |= ((long)Wire.read() << 4); raw |= Wire.read() >> 4;
long a = ((((raw >> 3) - ((long)t1 << 1))) * ((long)t2)) >> 11; long b = (((((raw >> 4) - ((long)t1)) * ((raw >> 4) - ((long)t1))) >> 12) * ((long)t3)) >> 14;
Serial.println((a + b) * 5 + 128 >> 8);`
    const airy = (part: string): Short => uno(part, 'X.VCC MCU.3V3, X.GND MCU.GND', {}, 'X.SDO MCU.GND, X.CSB MCU.3V3')
    it('the newer ones of pressure, awake and asleep', () => {
      const wake = 'tell(0x76, 0xF4, 0x27); delay(50);'
      for (const part of ['bmp280', 'bme280']) {
        expect(said(airy(part), `${wake} ${warmth}`, at('X.temperature: -7.25'))).toEqual(['-725'])
        expect(said(airy(part), `delay(50); ${warmth}`, at('X.temperature: -7.25'))).not.toEqual(['-725'])
      }
      const which = 'from(0x76, 0xD0, 1); Serial.println(Wire.read(), HEX);'
      expect(said(airy('bmp280'), which)).toEqual(['58'])
      expect(said(airy('bme280'), which)).toEqual(['60'])
    })
    it('the older one, which is told what to measure', () => {
      const plan = uno('bmp180', 'X.VIN MCU.5V, X.GND MCU.GND')
      const text = `from(0x77, 0xAA, 22); int ac1 = high(); int ac2 = high(); int ac3 = high(); unsigned int ac4 = high(); unsigned int ac5 = high(); unsigned int ac6 = high(); int b1 = high(); int b2 = high(); int mb = high(); int mc = high(); int md = high();
tell(0x77, 0xF4, 0x2E); delay(5); from(0x77, 0xF6, 2); long ut = high();
long x1 = (ut - (long)ac6) * (long)ac5 >> 15; long x2 = ((long)mc << 11) / (x1 + md); long b5 = x1 + x2; Serial.println((b5 + 8) >> 4);`
      expect(said(plan, `delay(50); ${text}`, at('X.temperature: 30'))).toEqual(['300'])
    })
    it('of climate, with a check byte that a program reckons too', () => {
      const crc =
        'byte crc = 0xFF; for (byte i = 0; i < 2; i++) { crc ^= got[i]; for (byte b = 0; b < 8; b++) crc = crc & 0x80 ? (crc << 1) ^ 0x31 : crc << 1; }'
      const read = `Wire.beginTransmission(0x44); Wire.write(0x24); Wire.write(0x00); Wire.endTransmission(); delay(50); Wire.requestFrom(0x44, 6); byte got[6]; for (byte i = 0; i < 6; i++) got[i] = Wire.read(); ${crc} Serial.println(crc == got[2]); Serial.println(-45 + 175.0 * (got[0] * 256.0 + got[1]) / 65535.0, 1); Serial.println(100.0 * (got[3] * 256.0 + got[4]) / 65535.0, 1);`
      const plan = uno('sht31', 'X.VIN MCU.3V3, X.GND MCU.GND', {}, 'X.ADDR MCU.GND')
      expect(said(plan, read, at('X.temperature: -12.3, X.humidity: 81'))).toEqual(['1', '-12.3', '81.0'])
    })
    it('of climate, bits packed without a gap', () => {
      const read =
        'delay(50); Wire.requestFrom(0x38, 7); byte got[7]; for (byte i = 0; i < 7; i++) got[i] = Wire.read(); unsigned long wet = ((unsigned long)got[1] << 12) | ((unsigned long)got[2] << 4) | (got[3] >> 4); unsigned long warm = ((unsigned long)(got[3] & 15) << 16) | ((unsigned long)got[4] << 8) | got[5]; Serial.println(wet / 1048576.0 * 100, 1); Serial.println(warm / 1048576.0 * 200 - 50, 1);'
      const plan = uno('aht20', 'X.VIN MCU.3V3, X.GND MCU.GND')
      expect(said(plan, read, at('X.temperature: 4.5, X.humidity: 33'))).toEqual(['33.0', '4.5'])
    })
    it('of climate, by the command that it was told last', () => {
      const ask = (command: string): string =>
        `Wire.beginTransmission(0x40); Wire.write(${command}); Wire.endTransmission(); delay(50); Wire.requestFrom(0x40, 3); Serial.println((long)high());`
      const plan = uno('htu21d', 'X.VIN MCU.3V3, X.GND MCU.GND')
      expect(said(plan, `delay(30); ${ask('0xF3')} ${ask('0xF5')}`, at('X.temperature: 20, X.humidity: 50'))).toEqual([
        String(Math.round(((20 + 46.85) / 175.72) * 65_536)),
        String(Math.round((56 / 125) * 65_536)),
      ])
    })
    it('of motion, the lowest byte first, in the range that is chosen, once they are awake', () => {
      const adxl = uno('adxl345', 'X.VCC MCU.3V3, X.GND MCU.GND', {}, 'X.SDO MCU.GND, X.CS MCU.3V3')
      const z = 'from(0x53, 0x36, 2); Serial.println((int)low());'
      expect(said(adxl, z)).toEqual(['0'])
      expect(said(adxl, `tell(0x53, 0x2D, 8); ${z}`)).toEqual(['256'])
      expect(said(adxl, `tell(0x53, 0x2D, 8); tell(0x53, 0x31, 3); ${z}`)).toEqual(['32'])
      expect(said(adxl, `tell(0x53, 0x2D, 8); tell(0x53, 0x31, 0x0B); ${z}`)).toEqual(['256'])
      const lis = uno('lis3dh', 'X.VCC MCU.3V3, X.GND MCU.GND')
      const own = 'from(0x19, 0x80 | 0x2C, 2); Serial.println((int)low());'
      expect(said(lis, `tell(0x19, 0x20, 0x57); ${own}`)).toEqual(['16005'])
      expect(said(lis, `tell(0x19, 0x20, 0x57); tell(0x19, 0x23, 0x30); ${own}`)).toEqual(['1334'])
      expect(said(lis, own)).toEqual(['0'])
    })
  })
  describe('clocks', () => {
    const helpers = `byte ask(byte reg) { Wire.beginTransmission(0x68); Wire.write(reg); Wire.endTransmission(); Wire.requestFrom(0x68, 1); return Wire.read(); }
void two(byte value) { if (value < 16) Serial.print('0'); Serial.print(value, HEX); Serial.print(' '); }
void all(byte from) { for (byte i = 0; i < 7; i++) two(ask(from + i)); Serial.println(); }
void set(byte from, byte a, byte b, byte c, byte d, byte e, byte f, byte g) { Wire.beginTransmission(0x68); Wire.write(from); Wire.write(a); Wire.write(b); Wire.write(c); Wire.write(d); Wire.write(e); Wire.write(f); Wire.write(g); Wire.endTransmission(); }
`
    const said = (part: string, feed: string, setup: string, steps?: string): string[] =>
      run(
        uno(part, feed),
        `#include <Wire.h>\n${helpers}void setup() { Serial.begin(9600); Wire.begin(); ${setup} }\nvoid loop() { delay(100); }`,
        steps,
        10,
      ).printed.map(({ text }) => text.trim())
    it('say the hour of their handle, and go on from there', () => {
      expect(said('ds3231', fed, 'all(0); delay(2000); all(0);')).toEqual([
        '00 00 12 05 01 01 26',
        '02 00 12 05 01 01 26',
      ])
      const late = '  - { at: 0.1, set: { X: 23.9999 } }\n  - { at: 5 }'
      expect(said('ds3231', fed, 'delay(200); all(0); delay(1500); all(0);', late)).toEqual([
        '00 00 00 06 02 01 26',
        '01 00 00 06 02 01 26',
      ])
    })
    it('keep what they are set to, the last day of a leap year too, all of it at once', () => {
      expect(
        said('ds1307', fed, 'set(0, 0x58, 0x59, 0x23, 3, 0x29, 0x02, 0x28); all(0); delay(3000); all(0);'),
      ).toEqual(['58 59 23 03 29 02 28', '01 00 00 04 01 03 28'])
      expect(
        said('ds1307', fed, 'set(0, 0, 0, 0, 1, 0x31, 0x01, 0x27); set(0, 0, 0, 0, 1, 0x15, 0x02, 0x27); all(0);'),
      ).toEqual(['00 00 00 01 15 02 27'])
    })
    it('take no flag for a digit', () => {
      expect(said('pcf8523', fed, 'set(3, 0xD8, 0x59, 0x23, 0x28, 6, 0x82, 0x27); all(3);')).toEqual([
        '58 59 23 28 06 02 27',
      ])
    })
    it('count to twelve when they are told to', () => {
      expect(said('ds3231', fed, 'set(0, 0, 0, 0x72, 1, 1, 1, 0x26); two(ask(2)); Serial.println();')).toEqual(['72'])
      expect(said('ds3231', fed, 'set(0, 0, 0, 0x52, 1, 1, 1, 0x26); two(ask(2)); Serial.println();')).toEqual(['52'])
      expect(
        said(
          'ds3231',
          fed,
          'set(0, 0x59, 0x59, 0x71, 1, 1, 1, 0x26); delay(1500); two(ask(2)); two(ask(4)); Serial.println();',
        ),
      ).toEqual(['52 02'])
    })
    it('have their registers where the data sheet of each has them', () => {
      expect(said('pcf8523', fed, 'all(3);')).toEqual(['00 00 12 01 04 01 26'])
      expect(said('ds3231', fed, 'two(ask(0x11)); two(ask(0x12)); two(ask(0x0E)); Serial.println();')).toEqual([
        '19 00 00',
      ])
    })
  })
  it('ports of an expander move and read its pins', () => {
    const plan = uno(
      'mcp23017',
      'X.VDD MCU.5V, X.VSS MCU.GND, X.RESET MCU.5V, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND',
      { L: 'led', R: { part: 'resistor', options: { ohms: 470 } }, B: 'button' },
      'X.GPB1 R.1, R.2 L.A, L.K MCU.GND, X.GPA3 B.1, B.2 MCU.GND',
    )
    const setup = 'tell(0x20, 0x01, 0xFD); tell(0x20, 0x0C, 0x08);'
    const loop = 'Serial.println(ask(0x20, 0x12) >> 8); tell(0x20, 0x15, 0x02); delay(100);'
    const pressed = '  - { at: 0.15, set: { B: pressed } }\n  - { at: 0.25, expect: { L: on } }\n  - { at: 0.29 }'
    const text = `${helpers}void setup() { Serial.begin(9600); Wire.begin(); ${setup} }\nvoid loop() { ${loop} }`
    const { printed: lines, findings } = run(plan, text, pressed)
    expect(lines.map((one) => one.text).slice(0, 3)).toEqual(['8', '8', '0'])
    expect(findings.map(({ message }) => message)).toEqual([])
    // A write to the port does the same as one to its latch, also where the direction comes after it.
    const byPort = text.replace('tell(0x20, 0x15, 0x02);', 'tell(0x20, 0x13, 0x02);')
    expect(run(plan, byPort, pressed).findings.map(({ message }) => message)).toEqual([])
    const before = text
      .replace('tell(0x20, 0x01, 0xFD);', 'tell(0x20, 0x13, 0x02); tell(0x20, 0x01, 0xFD);')
      .replace('tell(0x20, 0x15, 0x02);', '')
    expect(run(plan, before, pressed).findings.map(({ message }) => message)).toEqual([])
    // Without its direction the pin stays an input, and the lamp dark.
    const dark = run(plan, text.replace('tell(0x20, 0x01, 0xFD);', ''), pressed)
    expect(dark.findings.map(({ kind }) => kind)).toEqual(['read-floating', 'missed'])
  })
  it('a weak expander takes a byte and gives one', () => {
    const plan = uno(
      'pcf8574',
      'X.VDD MCU.5V, X.VSS MCU.GND, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND',
      { B: 'button' },
      'X.P2 B.1, B.2 MCU.GND',
    )
    const loop =
      'Wire.beginTransmission(0x20); Wire.write(0xFF); Wire.endTransmission(); Wire.requestFrom(0x20, 1); Serial.println(Wire.read() & 4); delay(100);'
    expect(printed(plan, '', loop, '  - { at: 0.05, set: { B: pressed } }\n  - { at: 0.15 }').slice(0, 2)).toEqual([
      '4',
      '0',
    ])
  })
  it('a converter gives the counts of the pins and the full scale that are chosen', () => {
    const knob = (part: string): Short =>
      uno(part, 'X.VDD MCU.5V, X.GND MCU.GND', { K: 'potentiometer' }, 'K.3 MCU.5V, K.1 MCU.GND, K.W X.A2')
    const set = (high: number): string =>
      `Wire.beginTransmission(0x48); Wire.write(1); Wire.write(${high}); Wire.write(0x83); Wire.endTransmission(); delay(10); Serial.println(ask(0x48, 0));`
    // Half of 5 V in steps of 4.096 V or of 6.144 V over half the range; against ground, and with its two sides exchanged.
    const [one, two] = printed(knob('ads1115'), `${set(0xe2)} ${set(0xe0)}`)
    expect(Number(one) / 32768).toBeCloseTo(2.5 / 4.096, 2)
    expect(Number(two) / 32768).toBeCloseTo(2.5 / 6.144, 2)
    const [coarse] = printed(knob('ads1015'), set(0xe2))
    expect(Number(coarse) % 16).toBe(0)
    expect(Number(coarse) / 32768).toBeCloseTo(2.5 / 4.096, 2)
    expect(printed(knob('ads1115'), 'Serial.println(ask(0x48, 1), HEX);')).toEqual(['FFFF8583'])
  })
  it('a meter of current keeps how it is set, and says what it measures', () => {
    const plan = uno('ina219', fed)
    const read =
      'Serial.println(ask(0x40, 0), HEX); Serial.println(ask(0x40, 1)); Serial.println((unsigned int)ask(0x40, 2) >> 3);'
    const set =
      'Wire.beginTransmission(0x40); Wire.write(0); Wire.write(0x11); Wire.write(0x22); Wire.endTransmission();'
    // 120 mA over a tenth of an ohm in steps of 10 µV, and 5 V in steps of 4 mV.
    expect(printed(plan, read)).toEqual(['399F', '1200', '1250'])
    expect(printed(plan, `${set} ${read}`)).toEqual(['1122', '1200', '1250'])
  })
  it('says of others that their bytes are not described', () => {
    const plan = uno('hmc5883l', 'X.VCC MCU.5V, X.GND MCU.GND')
    const text = `${helpers}void setup() { Serial.begin(9600); Wire.begin(); Serial.println(ask(0x1E, 3)); }\nvoid loop() { delay(100); }`
    const { printed: lines, findings } = run(plan, text)
    expect(lines.map((one) => one.text)).toEqual(['0'])
    expect(findings.map(({ message }) => message)).toEqual([
      'What X says byte by byte is not described; noughts are read.',
    ])
  })
  it('is asked by programs in Python in the same words', () => {
    const wiring = resolve(
      planOf({
        mcu: 'pico',
        parts: { X: 'mpu6050' },
        wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.SDA MCU.GP4, X.SCL MCU.GP5',
      }),
      catalog,
    )
    const text =
      'from machine import I2C, Pin\nbus = I2C(0, sda=Pin(4), scl=Pin(5))\nprint(bus.readfrom_mem(0x68, 0x75, 1)[0])\nbus.writeto_mem(0x68, 0x6B, b"\\x00")\nhigh, low = bus.readfrom_mem(0x68, 0x3F, 2)\nprint(high * 256 + low)\nroom = bytearray(2)\nbus.readfrom_mem_into(0x68, 0x3F, room)\nprint(room[0] * 256 + room[1])\n'
    const { printed: lines } = rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds: 0.2 })
    expect(lines.map((one) => one.text)).toEqual(['104', '16390', '16390'])
  })
})
