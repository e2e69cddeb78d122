import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { type RunResult, rehearse } from './run.ts'
import { positionSentences } from './stage/serialSpeakers.ts'
import { run } from './testing/quick.ts'

const said = ({ printed }: RunResult): string[] =>
  printed.filter(({ line }) => line === 'Serial').map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
/** A part on the second serial line of a large board. */
const large = (part: string, supply: string, lines = 'X.TX MCU.19, X.RX MCU.18'): Short => ({
  mcu: 'mega-2560-r3',
  parts: { X: part },
  wires: `X.${supply} MCU.5V, X.GND MCU.GND, ${lines}`,
})
const loop = (each: string, baud = 9600): string =>
  `uint8_t b[40]; int n = 0;\nvoid setup() { Serial.begin(115200); Serial1.begin(${baud}); }\nvoid loop() { while (Serial1.available()) { ${each} } }`

describe('a receiver of positions', () => {
  const text =
    '#include <TinyGPS++.h>\nTinyGPSPlus gps;\nvoid setup() { Serial.begin(115200); Serial1.begin(9600); }\nvoid loop() { while (Serial1.available()) if (gps.encode(Serial1.read()) && gps.location.isUpdated()) { Serial.print(gps.location.lat(), 4); Serial.print(" "); Serial.print(gps.location.lng(), 4); Serial.print(" "); Serial.print(gps.satellites.value()); Serial.print(" "); Serial.print(gps.speed.kmph(), 1); Serial.print(" "); Serial.println(gps.time.hour()); } }'
  it('is read through the class that programs take for it', () => {
    const result = run(large('gps-uart', 'VCC'), text, '  - { at: 0, set: { X.latitude: -33.25, X.speed: 36 } }', 2.5)
    expect(said(result).at(-1)).toBe('-33.2500 -20.2500 8 36.0 12')
    expect(kinds(result)).toEqual([])
  })
  it('is not heard over exchanged wires, and only as noise at another speed', () => {
    expect(said(run(large('gps-uart', 'VCC', 'X.TX MCU.18, X.RX MCU.19'), text, '', 2.5))).toEqual([])
    const slow = run(large('gps-uart', 'VCC'), text.replace('Serial1.begin(9600)', 'Serial1.begin(4800)'), '', 2.5)
    expect(said(slow)).toEqual([])
    expect(kinds(slow)).toEqual(['other-baud'])
  })
  it('is lost where the program waits too long before it reads', () => {
    const late = text.replace('void loop() {', 'void loop() { delay(1500);')
    const result = run(large('gps-uart', 'VCC'), late, '', 6)
    expect(kinds(result)).toEqual(['not-heard'])
    expect(result.findings[0]!.message).toBe(
      'Serial1 keeps 64 bytes that have come at MCU.D19, and what comes then is lost.',
    )
    expect(
      kinds(run(large('gps-uart', 'VCC'), text.replace('void loop() {', 'void loop() { delay(20);'), '', 4)),
    ).toEqual([])
  })
  it('says nothing without a supply', () => {
    const unfed = { mcu: 'mega-2560-r3', parts: { X: 'gps-uart' }, wires: 'X.GND MCU.GND, X.TX MCU.19' }
    expect(said(run(unfed, text, '', 2.5))).toEqual([])
  })
  it('has no place while it sees too few satellites', () => {
    expect(said(run(large('gps-uart', 'VCC'), text, '  - { at: 0, set: { X.satellites: 2 } }', 3))).toEqual([])
  })
  it('says degrees and minutes with a check, on both halves of the globe', () => {
    const at: Readonly<Record<string, number>> = {
      latitude: -5.5,
      longitude: 100.25,
      satellites: 7,
      height: 12,
      speed: 18.52,
    }
    expect(positionSentences((what) => at[what] ?? 0, 61)).toEqual([
      '$GPRMC,120101.00,A,0530.00000,S,10015.00000,E,10.00,0.00,010126,,,A*76\r\n',
      '$GPGGA,120101.00,0530.00000,S,10015.00000,E,1,07,1.20,12.0,M,0.0,M,,*46\r\n',
    ])
  })
  it('is read line by line in MicroPython', () => {
    const wiring = resolve(
      planOf({
        mcu: 'pico',
        parts: { X: 'gps-uart' },
        wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.TX MCU.GP1, X.RX MCU.GP0',
      }),
      catalog,
    )
    const text =
      'from machine import UART\nimport time\nu = UART(0, 9600)\ntime.sleep(1.5)\nprint(u.readline().decode().split(",")[0:3])\n'
    const result = rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds: 2 })
    expect(result.printed.map(({ text }) => text)).toEqual(["['$GPRMC', '120001.00', 'A']"])
  })
})

describe('sensors that speak in frames', () => {
  it('of particles: a head, words from the high byte on, the sum of all', () => {
    const each =
      'b[n++] = Serial1.read(); if (n == 1 && b[0] != 0x42) n = 0; if (n == 32) { n = 0; uint16_t s = 0; for (int i = 0; i < 30; i++) s += b[i]; Serial.print(s == (b[30] << 8 | b[31])); Serial.print(" "); Serial.println(b[12] << 8 | b[13]); }'
    const wires = 'X.TX MCU.19, X.RX MCU.18'
    const result = run(large('pms5003', 'VCC', wires), loop(each), '  - { at: 0, set: { X.pm25: 300 } }', 1.5)
    expect(said(result)).toEqual(['1 300'])
  })
  it('of dust: tenths from the low byte on, the sum of the data', () => {
    const each =
      'b[n++] = Serial1.read(); if (n == 1 && b[0] != 0xAA) n = 0; if (n == 10) { n = 0; uint8_t s = 0; for (int i = 2; i < 8; i++) s += b[i]; Serial.print(s == b[8]); Serial.print(" "); Serial.println((b[3] * 256 + b[2]) / 10.0); }'
    const short: Short = {
      mcu: 'mega-2560-r3',
      parts: { X: 'sds011' },
      wires: 'X.5V MCU.5V, X.GND MCU.GND, X.T MCU.19, X.R MCU.18',
    }
    expect(said(run(short, loop(each), '', 1.5))).toEqual(['1 12.00'])
  })
  it('of a distance: a hundred times a second', () => {
    const each =
      'b[n++] = Serial1.read(); if (n <= 2 && b[n - 1] != 0x59) n = 0; if (n == 9) { n = 0; uint8_t s = 0; for (int i = 0; i < 8; i++) s += b[i]; if (s == b[8]) Serial.println(b[2] + b[3] * 256); }'
    const result = run(large('tfmini', '5V'), loop(each, 115200), '  - { at: 0, set: { X: 420 } }', 0.1)
    expect(said(result).length).toBeGreaterThan(6)
    expect(said(result).at(-1)).toBe('420')
  })
  it('of a gas: only when they are asked', () => {
    const ask =
      'byte cmd[9] = {0xFF, 0x01, 0x86, 0, 0, 0, 0, 0, 0x79};\nvoid setup() { Serial.begin(115200); Serial1.begin(9600); }\nvoid loop() { Serial1.write(cmd, 9); delay(500); if (Serial1.available() >= 9) { byte r[9]; Serial1.readBytes(r, 9); byte s = 0; for (int i = 1; i < 8; i++) s += r[i]; Serial.print((byte)(255 - s + 1) == r[8]); Serial.print(" "); Serial.println(r[2] * 256 + r[3]); } }'
    const short = (lines: string): Short => ({
      mcu: 'mega-2560-r3',
      parts: { X: 'mh-z19' },
      wires: `X.VIN MCU.5V, X.GND MCU.GND, ${lines}`,
    })
    expect(said(run(short('X.TX MCU.19, X.RX MCU.18'), ask, '', 0.8))).toEqual(['1 600'])
    expect(said(run(short('X.TX MCU.19'), ask, '', 1))).toEqual([])
    expect(said(run(short('X.TX MCU.19, X.RX MCU.16'), ask, '', 1))).toEqual([])
    expect(said(run(short('X.TX MCU.19, X.RX MCU.18'), ask.replace('0x86', '0x87'), '', 1))).toEqual([])
  })
})
