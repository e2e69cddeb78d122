import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { readScript } from './script.ts'
import { rehearseTogether, type Together } from './together.ts'

function run(plan: Short, programs: Readonly<Record<string, string>>, seconds: number, steps = '  []'): Together {
  const wiring = resolve(planOf(plan), catalog)
  const players = Object.entries(programs).map(([ref, text]) => ({
    board: wiring.boards.find((one) => one.ref === ref)!,
    files: [{ name: `${ref}.ino`, text }],
  }))
  const script = readScript(`rehearsal: 1\nsteps:\n${steps}`, 'x')
  if (!script.ok) throw new Error('script')
  return rehearseTogether(wiring, players, { seconds, script: script.value })
}
const printed = ({ runs }: Together, ref: string): string[] =>
  runs.get(ref)!.printed.flatMap(({ line, text }) => (line === 'Serial' ? [text] : []))
const found = ({ runs }: Together): string[] =>
  [...runs].flatMap(([ref, { findings }]) => findings.map(({ kind, message }) => `${ref} ${kind}: ${message}`))

const wired = (wires: string): Short => ({
  boards: { HERE: { board: 'mega-2560-r3' }, THERE: { board: 'mega-2560-r3' } },
  parts: { KEY: 'button' },
  wires: `HERE.GND THERE.GND, KEY.1 HERE.D2, KEY.2 HERE.GND, ${wires}`,
})

describe('boards that are wired together', () => {
  it('answer each other over a serial line, as often as they like', () => {
    const plan = wired('HERE.D18 THERE.D19, HERE.D19 THERE.D18')
    const here = `int n = 0;
void setup() { Serial.begin(9600); Serial1.begin(19200); Serial1.write(1); }
void loop() { if (Serial1.available()) { n = Serial1.read(); Serial.println(n); if (n < 20) Serial1.write(n + 1); } }`
    const there =
      'void setup() { Serial1.begin(19200); }\nvoid loop() { if (Serial1.available()) { int n = Serial1.read(); delay(5); Serial1.write(n * 2); } }'
    const result = run(plan, { HERE: here, THERE: there }, 0.5)
    expect(found(result)).toEqual([])
    expect(printed(result, 'HERE')).toEqual(['2', '6', '14', '30'])
    expect(result.settled).toBeCloseTo(0.5, 2)
  })
  it('do not understand each other at different speeds', () => {
    const plan = wired('HERE.D18 THERE.D19')
    const text = (baud: number): string =>
      `void setup() { Serial.begin(9600); Serial1.begin(${baud}); }\nvoid loop() { Serial1.print("A"); delay(200); if (Serial1.available()) Serial.println((char)Serial1.read()); }`
    const result = run(plan, { HERE: text(9600), THERE: text(19200) }, 0.5)
    expect(found(result)).toEqual([
      'THERE other-baud: Serial1 listens at 19200 bits a second, and what comes at THERE.D19 is sent at 9600.',
    ])
    expect(printed(run(plan, { HERE: text(9600), THERE: text(9600) }, 0.5), 'THERE')).toEqual(['A', 'A'])
  })
  it('hear nothing where the lines are not led across', () => {
    const plan = wired('HERE.D18 THERE.D18')
    const text =
      'void setup() { Serial.begin(9600); Serial1.begin(9600); }\nvoid loop() { Serial1.print("A"); delay(200); if (Serial1.available()) Serial.println((char)Serial1.read()); }'
    expect(printed(run(plan, { HERE: text, THERE: text }, 0.5), 'THERE')).toEqual([])
  })
  it('speak over pins that a library makes a serial line of', () => {
    const plan = wired('HERE.D11 THERE.D10')
    const here =
      '#include <SoftwareSerial.h>\nSoftwareSerial link(10, 11);\nvoid setup() { link.begin(4800); }\nvoid loop() { link.println("go"); delay(400); }'
    const there =
      '#include <SoftwareSerial.h>\nSoftwareSerial link(10, 11);\nvoid setup() { Serial.begin(9600); link.begin(4800); }\nvoid loop() { if (link.available()) Serial.println(link.readStringUntil(10)); }'
    expect(printed(run(plan, { HERE: here, THERE: there }, 0.7), 'THERE').map((one) => one.trim())).toEqual([
      'go',
      'go',
    ])
  })
  it('see the levels that the other one drives, and what is done by hand', () => {
    const plan = wired('HERE.D5 THERE.D6')
    const here =
      'void setup() { pinMode(2, INPUT_PULLUP); pinMode(5, OUTPUT); }\nvoid loop() { digitalWrite(5, !digitalRead(2)); delay(1); }'
    const there =
      'int n = 0;\nbool was = false;\nvoid setup() { Serial.begin(9600); pinMode(6, INPUT); }\nvoid loop() { bool now = digitalRead(6); if (now && !was) Serial.println(++n); was = now; delay(2); }'
    const steps =
      '  - { at: 0.1, set: { KEY: pressed } }\n  - { at: 0.2, set: { KEY: released } }\n  - { at: 0.3, set: { KEY: pressed } }'
    const result = run(plan, { HERE: here, THERE: there }, 0.5, steps)
    expect(printed(result, 'THERE')).toEqual(['1', '2'])
    expect(found(result)).toEqual([])
  })
  it('are found to drive against each other', () => {
    const plan = wired('HERE.D5 THERE.D6')
    const drives = (pin: number, level: string): string =>
      `void setup() { delay(50); digitalWrite(${pin}, ${level}); pinMode(${pin}, OUTPUT); }\nvoid loop() { delay(100); }`
    expect(found(run(plan, { HERE: drives(5, 'HIGH'), THERE: drives(6, 'LOW') }, 0.5)).join()).toContain('pin-fight')
    expect(found(run(plan, { HERE: drives(5, 'HIGH'), THERE: drives(6, 'HIGH') }, 0.5))).toEqual([])
  })
})

describe('radios in pairs', () => {
  const plan: Short = {
    boards: { HERE: { board: 'nano-v3' }, THERE: { board: 'nano-v3' } },
    parts: { R1: 'nrf24l01', R2: 'nrf24l01' },
    wires: ['HERE', 'THERE']
      .map((board, at) => {
        const ref = `R${at + 1}`
        return `${ref}.VCC ${board}.3V3, ${ref}.GND ${board}.GND, ${ref}.CE ${board}.D9, ${ref}.CSN ${board}.D10, ${ref}.SCK ${board}.D13, ${ref}.MOSI ${board}.D11, ${ref}.MISO ${board}.D12`
      })
      .join(', '),
  }
  const sends = (address: string): string => `#include <RF24.h>
struct Weather { int id; float warmth; };
RF24 radio(9, 10);
const byte address[6] = "${address}";
Weather now = {3, 21.5};
void setup() { radio.begin(); radio.openWritingPipe(address); radio.stopListening(); }
void loop() { radio.write(&now, sizeof(now)); now.warmth += 1; delay(200); }`
  const hears = `#include <RF24.h>
struct Weather { int id; float warmth; };
RF24 radio(9, 10);
const byte address[6] = "00001";
void setup() { Serial.begin(9600); radio.begin(); radio.openReadingPipe(0, address); radio.startListening(); }
void loop() { if (radio.available()) { Weather got; radio.read(&got, sizeof(got)); Serial.print(got.id); Serial.print(' '); Serial.println(got.warmth); } }`
  it('hand over what is sent under the same address', () => {
    const result = run(plan, { HERE: sends('00001'), THERE: hears }, 0.5)
    expect(found(result)).toEqual([])
    expect(printed(result, 'THERE')).toEqual(['3 21.50', '3 22.50', '3 23.50'])
  })
  it('take an address for its five bytes, written as text or as a number', () => {
    // "00001", the lowest byte first.
    const number = (last: string): string =>
      sends('00001').replace('const byte address[6] = "00001"', `const uint64_t address = 0x${last}30303030LL`)
    expect(printed(run(plan, { HERE: number('31'), THERE: hears }, 0.3), 'THERE')).toHaveLength(2)
    expect(printed(run(plan, { HERE: number('32'), THERE: hears }, 0.3), 'THERE')).toEqual([])
  })
  it('hear nothing under another address', () => {
    expect(printed(run(plan, { HERE: sends('00002'), THERE: hears }, 0.5), 'THERE')).toEqual([])
  })
})

describe('a board on the two-wire bus of another', () => {
  const bus = wired('HERE.D20 THERE.D20, HERE.D21 THERE.D21')
  const device = (address: number, request = 'Wire.write(n); n = n + 1;'): string => `#include <Wire.h>
volatile byte last = 0;
volatile byte n = 5;
void take(int count) { while (Wire.available()) last = Wire.read(); Serial.print(count); Serial.print(":"); Serial.println(last); }
void give() { ${request} }
void setup() { Serial.begin(9600); Wire.begin(${address}); Wire.onReceive(take); Wire.onRequest(give); }
void loop() { delay(10); }`
  const asks = (address: number, count = 1): string => `#include <Wire.h>
void setup() { Serial.begin(9600); Wire.begin(); delay(20); }
void loop() { Wire.requestFrom(${address}, ${count}); while (Wire.available()) { int got = Wire.read(); Serial.println(got); if (got > 6) delay(3); } delay(50); }`
  const tells = (address: number): string => `#include <Wire.h>
byte n = 40;
void setup() { Serial.begin(9600); Wire.begin(); delay(20); }
void loop() { Wire.beginTransmission(${address}); Wire.write(n); Wire.write(n + 1); Serial.println(Wire.endTransmission()); n = n + 2; delay(100); }`
  it('takes what it is told, byte by byte, at its own address', () => {
    const result = run(bus, { HERE: tells(8), THERE: device(8) }, 0.25)
    expect(printed(result, 'THERE')).toEqual(['2:41', '2:43', '2:45'])
    expect(printed(result, 'HERE')).toEqual(['0', '0', '0'])
    expect(found(result)).toEqual([])
  })
  it('answers what it is asked, each question with the next answer', () => {
    const result = run(bus, { HERE: asks(8), THERE: device(8) }, 0.3)
    expect(printed(result, 'HERE')).toEqual(['5', '6', '7', '8', '9', '10'].slice(0, printed(result, 'HERE').length))
    expect(printed(result, 'HERE').length).toBeGreaterThanOrEqual(5)
    expect(result.settled).toBeCloseTo(0.3, 2)
  })
  it('gives a held line for bytes that it does not give', () => {
    expect(printed(run(bus, { HERE: asks(8, 3), THERE: device(8) }, 0.06), 'HERE')).toEqual(['5', '255', '255'])
    expect(printed(run(bus, { HERE: asks(8), THERE: device(8, '') }, 0.06), 'HERE')).toEqual(['255'])
  })
  it('is silent at another address, and where a line is not led across', () => {
    const silent = (plan: Short, address: number): string[] =>
      found(run(plan, { HERE: asks(address), THERE: device(8) }, 0.1))
    expect(silent(bus, 9)).toEqual(['HERE nobody-answers: Nobody answers at 0x09 on Wire.'])
    expect(silent(wired('HERE.D20 THERE.D20'), 8)).toEqual(['HERE nobody-answers: Nobody answers at 0x08 on Wire.'])
    expect(silent(wired('HERE.D20 THERE.D21, HERE.D21 THERE.D20'), 8)).toHaveLength(1)
  })
  it('is silent until its program has begun', () => {
    const late = device(8).replace('Wire.begin(8);', 'delay(90); Wire.begin(8);')
    expect(printed(run(bus, { HERE: tells(8), THERE: late }, 0.25), 'HERE')).toEqual(['2', '0', '0'])
  })
  it('answers each of two that ask', () => {
    const three: Short = {
      boards: { HERE: { board: 'mega-2560-r3' }, MORE: { board: 'mega-2560-r3' }, THERE: { board: 'mega-2560-r3' } },
      parts: {},
      wires:
        'HERE.GND THERE.GND, MORE.GND THERE.GND, HERE.D20 THERE.D20, HERE.D21 THERE.D21, MORE.D20 THERE.D20, MORE.D21 THERE.D21',
    }
    const once = (wait: number): string =>
      `#include <Wire.h>\nvoid setup() { Serial.begin(9600); Wire.begin(); delay(${wait}); Wire.requestFrom(8, 1); Serial.println(Wire.read()); }\nvoid loop() { delay(100); }`
    const result = run(three, { HERE: once(40), MORE: once(20), THERE: device(8) }, 0.1)
    expect([printed(result, 'MORE'), printed(result, 'HERE')]).toEqual([['5'], ['6']])
  })
  it('is asked by a program in Python as well', () => {
    const plan: Short = {
      boards: { HERE: { board: 'pico' }, THERE: { board: 'mega-2560-r3' } },
      parts: {},
      wires: 'HERE.GND THERE.GND, HERE.GP4 THERE.D20, HERE.GP5 THERE.D21',
    }
    const wiring = resolve(planOf(plan), catalog)
    const here =
      'from machine import I2C, Pin\nimport time\nbus = I2C(0, sda=Pin(4), scl=Pin(5))\ntime.sleep(0.05)\nbus.writeto(8, b"\\x21")\nprint(bus.readfrom(8, 1)[0])\n'
    const player = (ref: string, name: string, text: string) => ({
      board: wiring.boards.find((one) => one.ref === ref)!,
      files: [{ name, text }],
    })
    const { runs } = rehearseTogether(
      wiring,
      [player('HERE', 'main.py', here), player('THERE', 'there.ino', device(8))],
      { seconds: 0.2 },
    )
    expect(runs.get('THERE')!.printed.map(({ text }) => text)).toEqual(['1:33'])
    expect(runs.get('HERE')!.printed.map(({ text }) => text)).toEqual(['5'])
  })
})
