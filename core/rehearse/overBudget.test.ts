import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { rehearse } from './run.ts'

const servos = (limitMilliamps: number | undefined): Short => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 5, ...(limitMilliamps === undefined ? {} : { limitMilliamps }) } },
  parts: { LEFT: 'servo-sg90', RIGHT: 'servo-sg90' },
  wires:
    'LEFT.VCC PACK.+, LEFT.GND PACK.-, RIGHT.VCC PACK.+, RIGHT.GND PACK.-, PACK.- MCU.GND, LEFT.SIG MCU.D9, RIGHT.SIG MCU.D10',
})
const sketch = (between: string): string => `#include <Servo.h>
Servo left, right;
void setup() { left.attach(9); delay(600); right.attach(10); delay(600); }
void loop() {
  left.write(30);
  ${between}
  right.write(150);
  delay(2000);
}`
const found = (plan: Short, text: string, seconds = 4): string[] => {
  const wiring = resolve(planOf(plan), catalog)
  const { findings } = rehearse(wiring, wiring.boards[0]!, [{ name: 'a.ino', text }], { seconds })
  return findings.flatMap((one) =>
    one.kind === 'over-budget' ? [`${one.seconds.toFixed(1)} s, line ${one.line}: ${one.message}`] : [],
  )
}

describe('a source that gives too little for what starts together', () => {
  it('is said at the moment at which they start, once', () => {
    expect(found(servos(1000), sketch(''))).toEqual([
      expect.stringMatching(
        /^1\.2 s, line \d: PACK\.\+ gives 1000 mA at most, and LEFT and RIGHT start while it takes 1[34]\d\d mA in all\.$/,
      ),
    ])
  })
  it('is enough where one starts after the other, where it gives more, and where nobody says what it gives', () => {
    expect(found(servos(1000), sketch('delay(500);'))).toEqual([])
    expect(found(servos(1500), sketch(''))).toEqual([])
    expect(found(servos(undefined), sketch(''))).toEqual([])
  })
  it('is too little at a gap that is shorter than a start', () => {
    expect(found(servos(1000), sketch('delay(200);'))).toHaveLength(1)
  })
  it('is said of one alone that takes more than it gives', () => {
    expect(found(servos(650), sketch('delay(500);'))).toEqual([
      expect.stringMatching(
        /^0\.6 s, line 3: PACK\.\+ gives 650 mA at most, and RIGHT starts while it takes 8[67]\d mA in all\.$/,
      ),
    ])
  })

  const fan = (limitMilliamps: number): Short => ({
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps } },
    parts: {
      VENT: { part: 'nmos', options: { model: 'irlz44n' } },
      FAN: { part: 'fan', options: { milliamps: 120 } },
      LEFT: 'servo-sg90',
    },
    wires:
      'VENT.G MCU.D5, VENT.S MCU.GND, FAN.- VENT.D, FAN.+ PACK.+, PACK.- MCU.GND, LEFT.VCC PACK.+, LEFT.GND PACK.-, LEFT.SIG MCU.D9',
  })
  const vent = (on: boolean): string => `#include <Servo.h>
Servo left;
void setup() { pinMode(5, OUTPUT); digitalWrite(5, ${on ? 'HIGH' : 'LOW'}); delay(1000); left.attach(9); }
void loop() { delay(100); }`
  it('counts what a driver switches only while it runs', () => {
    const wiring = resolve(planOf(fan(5000)), catalog)
    expect(wiring.parts.map(({ ref }) => ref)).toContain('FAN')
    const most = 740
    expect(found(fan(most), vent(true))).toHaveLength(1)
    expect(found(fan(most), vent(false))).toEqual([])
  })
  const strip = (pixels: number, limitMilliamps: number): Short => ({
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps } },
    parts: {
      STRIP: { part: 'ws2812-strip', options: { pixels } },
      R1: { part: 'resistor', options: { ohms: 330 } },
      LEFT: 'servo-sg90',
    },
    wires:
      'STRIP.5V PACK.+, STRIP.GND PACK.-, STRIP.DIN R1.1, R1.2 MCU.D6, PACK.- MCU.GND, LEFT.VCC PACK.+, LEFT.GND PACK.-, LEFT.SIG MCU.D9',
  })
  const colours = (servo: string): string => `#include <Shed_NeoPixel.h>
#include <Servo.h>
Shed_NeoPixel strip(8, 6, NEO_GRB + NEO_KHZ800);
Servo left;
void setup() { strip.begin(); delay(1000); strip.setPixelColor(1, 255, 0, 0); strip.show(); delay(1000); ${servo} }
void loop() { delay(100); }`
  it('counts lights by their colours: one red one of eight is 20 mA', () => {
    // 480 mA with all colours full; 650 mA a servo that starts.
    expect(found(strip(8, 400), colours(''))).toEqual([])
    expect(found(strip(8, 680), colours('left.attach(9);'))).toEqual([])
    expect(found(strip(8, 660), colours('left.attach(9);'))).toEqual([expect.stringContaining('LEFT starts')])
  })
  const full = (level: number, brightness = ''): string => `#include <Shed_NeoPixel.h>
Shed_NeoPixel strip(8, 6, NEO_GRB + NEO_KHZ800);
void setup() { strip.begin(); ${brightness} delay(1000); }
void loop() { strip.fill(strip.Color(${level}, ${level}, ${level})); strip.show(); delay(500); strip.clear(); strip.show(); delay(500); }`
  it('is said of lights that shine brighter than their source can feed, once, and not where they are dimmed', () => {
    expect(found(strip(8, 400), full(255))).toEqual(
      ['PACK.+ gives 400 mA at most, and STRIP shines while it takes 480 mA in all.'].map((text) =>
        expect.stringContaining(text),
      ),
    )
    expect(found(strip(8, 400), full(200))).toEqual([])
    expect(found(strip(8, 400), full(230))).toHaveLength(1)
    expect(found(strip(8, 400), full(255, 'strip.setBrightness(100);'))).toEqual([])
    expect(found(strip(8, 500), full(255))).toEqual([])
  })
  it('counts lights of a program in Python as well', () => {
    const python = (colour: string): string[] => {
      const wiring = resolve(
        planOf({
          ...strip(8, 400),
          mcu: 'pico',
          wires: strip(8, 400).wires!.replaceAll('MCU.D6', 'MCU.GP6').replaceAll('MCU.D9', 'MCU.GP9'),
        }),
        catalog,
      )
      const text = `import machine, neopixel, time
lights = neopixel.NeoPixel(machine.Pin(6), 8)
lights.fill(${colour})
lights.write()
time.sleep(1)
`
      const { findings } = rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds: 2 })
      return findings.flatMap(({ kind, message }) => (kind === 'over-budget' ? [message] : []))
    }
    expect(python('(255, 255, 255)')).toHaveLength(1)
    expect(python('(40, 0, 0)')).toEqual([])
  })
})
