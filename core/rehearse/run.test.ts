import { describe, expect, it } from 'vitest'
import type { Short } from '../testing/plans.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { type RunResult, rehearse } from './run.ts'
import { readScript, type Script, ScriptError } from './script.ts'
import { writeVcd } from './stage/trace.ts'

const scriptOf = (steps: string): Script => {
  const read = readScript(`rehearsal: 1\nsteps:\n${steps}`, 'x')
  if (!read.ok) throw new Error(read.problems.map(({ message }) => message).join('; '))
  return read.value
}

function run(plan: Short, text: string, steps = '', seconds?: number): RunResult {
  const wiring = resolve(planOf(plan), catalog)
  const script = steps === '' ? undefined : scriptOf(steps)
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'a.ino', text }], { script, seconds })
}

const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind, line }) => `${kind} ${line}`)

const lamp: Short = {
  mcu: 'nano-v3',
  parts: { LAMP: 'led', R1: { part: 'resistor', options: { ohms: 220 } }, KEY: 'button' },
  wires: 'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND, KEY.1 MCU.D2, KEY.2 MCU.GND',
}
/** A servo at D7, and a lamp to be dimmed. */
const dimmed = (pin: string): Short => ({
  mcu: 'uno-r3',
  supplies: { PSU: { volts: 5 } },
  parts: { ARM: 'servo-sg90', LAMP: 'led', R1: { part: 'resistor', options: { ohms: 220 } } },
  wires: `ARM.SIG MCU.D7, ARM.VCC PSU.+, ARM.GND MCU.GND, PSU.- MCU.GND, LAMP.A R1.1, R1.2 MCU.${pin}, LAMP.K MCU.GND`,
})
const listens = (how: string): string =>
  `void go() {}\nvoid setup() { pinMode(2, ${how}); attachInterrupt(digitalPinToInterrupt(2), go, FALLING); }\nvoid loop() { delay(50); }`
const air: Short = {
  mcu: 'uno-r3',
  parts: { AIR: 'dht22' },
  wires: 'AIR.VCC MCU.5V, AIR.GND MCU.GND, AIR.DATA MCU.D4',
}
const dht = '#include <DHT.h>\nDHT air(4, DHT22);\nvoid setup() { air.begin(); }\n'
const knob = (mcu: string, pin: string, supply: string): Short => ({
  mcu,
  parts: { KNOB: 'potentiometer' },
  wires: `KNOB.3 MCU.${supply}, KNOB.1 MCU.GND, KNOB.W MCU.${pin}`,
})
/** A pump behind a transistor whose gate a resistor holds. */
const pump = (holds: string): Short => ({
  mcu: 'uno-r3',
  supplies: { PSU: { volts: 5 } },
  parts: { PUMP: 'pump', Q1: 'nmos', R1: { part: 'resistor', options: { ohms: 10000 } }, D1: 'diode' },
  wires: `PUMP.+ PSU.+, PUMP.- Q1.D, Q1.S MCU.GND, PSU.- MCU.GND, Q1.G MCU.D6, R1.1 Q1.G, R1.2 ${holds}, D1.K PSU.+, D1.A Q1.D`,
})
const eye = (mcu: string, trigger: string, echo: string, supply: string): Short => ({
  mcu,
  parts: { EYE: 'hc-sr04' },
  wires: `EYE.VCC MCU.${supply}, EYE.GND MCU.GND, EYE.TRIG MCU.${trigger}, EYE.ECHO MCU.${echo}`,
})
const measure = (
  trigger: number,
  echo: number,
): string => `void setup() { pinMode(${trigger}, OUTPUT); pinMode(${echo}, INPUT); Serial.begin(9600); }
void loop() { digitalWrite(${trigger}, HIGH); delayMicroseconds(10); digitalWrite(${trigger}, LOW);
Serial.println(pulseIn(${echo}, HIGH, 40000) / 58); delay(100); }`

/** A mistake, and the same without it: what is found, by kind and line, and that nothing is found. */
const pairs: readonly {
  readonly title: string
  readonly plan: Short
  readonly wrong: string
  readonly right: string
  readonly finds: string
  readonly steps?: string
  readonly rightPlan?: Short
}[] = [
  {
    title: 'a button without a pull',
    plan: lamp,
    wrong: 'void setup() { pinMode(2, INPUT); }\nvoid loop() { digitalRead(2); delay(10); }',
    right: 'void setup() { pinMode(2, INPUT_PULLUP); }\nvoid loop() { digitalRead(2); delay(10); }',
    finds: 'read-floating 2',
  },
  {
    title: 'a lamp whose pin is never an output',
    plan: lamp,
    wrong: 'void setup() {}\nvoid loop() { digitalWrite(5, HIGH); delay(100); }',
    right:
      'void setup() { digitalWrite(5, HIGH); pinMode(5, OUTPUT); }\nvoid loop() { digitalWrite(5, HIGH); delay(100); }',
    finds: 'never-output 2',
  },
  {
    title: 'a pin that drives against a button',
    plan: lamp,
    wrong: 'void setup() { pinMode(2, OUTPUT); digitalWrite(2, HIGH); }\nvoid loop() { delay(50); }',
    right: 'void setup() { pinMode(2, OUTPUT); digitalWrite(2, LOW); }\nvoid loop() { delay(50); }',
    finds: 'pin-fight 2',
    steps: '  - { at: 1, set: { KEY: pressed } }',
  },
  {
    title: 'a press that falls into a wait',
    plan: lamp,
    wrong: 'void setup() { pinMode(2, INPUT_PULLUP); }\nvoid loop() { digitalRead(2);\ndelay(2000); }',
    right: 'void setup() { pinMode(2, INPUT_PULLUP); }\nvoid loop() { digitalRead(2);\ndelay(20); }',
    finds: 'not-heard 3',
    steps: '  - { at: 0.5, set: { KEY: pressed } }\n  - { at: 0.7, set: { KEY: released } }',
  },
  {
    title: 'five volts of an echo',
    plan: eye('esp32-devkit-30', 'GPIO26', 'GPIO35', 'VIN'),
    wrong: measure(26, 35),
    right: measure(26, 35),
    rightPlan: {
      mcu: 'esp32-devkit-30',
      parts: {
        EYE: 'hc-sr04',
        R1: { part: 'resistor', options: { ohms: 1000 } },
        R2: { part: 'resistor', options: { ohms: 2000 } },
      },
      wires:
        'EYE.VCC MCU.VIN, EYE.GND MCU.GND, EYE.TRIG MCU.GPIO26, EYE.ECHO R1.1, R1.2 MCU.GPIO35, R1.2 R2.1, R2.2 MCU.GND',
    },
    finds: 'too-many-volts 3',
  },
  {
    title: 'a pulse on a pin that makes none',
    plan: lamp,
    wrong: 'void setup() { pinMode(7, OUTPUT); }\nvoid loop() { analogWrite(2, 100); delay(100); }',
    right: 'void setup() { pinMode(5, OUTPUT); }\nvoid loop() { analogWrite(5, 100); delay(100); }',
    finds: 'not-able 2',
  },
  {
    title: 'an interrupt on a line that nothing holds',
    plan: lamp,
    wrong: listens('INPUT'),
    right: listens('INPUT_PULLUP'),
    finds: 'read-floating 2',
  },
  {
    title: 'a sensor that is asked before it has something new',
    plan: air,
    wrong: `${dht}void loop() { air.readTemperature(); air.readHumidity();\ndelay(500); }`,
    right: `${dht}void loop() { air.readTemperature(); air.readHumidity();\ndelay(2000); }`,
    finds: 'asked-too-soon 4',
  },
  {
    title: 'a pump that runs until it is stopped',
    plan: pump('MCU.5V'),
    rightPlan: pump('MCU.GND'),
    wrong: 'void setup() { pinMode(6, OUTPUT);\ndigitalWrite(6, LOW); }\nvoid loop() { delay(100); }',
    right: 'void setup() { pinMode(6, OUTPUT);\ndigitalWrite(6, LOW); }\nvoid loop() { delay(100); }',
    finds: 'runs-at-once 1',
  },
  {
    title: 'a pump that runs on while something else is set',
    plan: pump('MCU.5V'),
    rightPlan: pump('MCU.GND'),
    wrong: 'void setup() { pinMode(6, INPUT);\ndelay(5);\npinMode(6, OUTPUT); }\nvoid loop() { delay(100); }',
    right: 'void setup() { pinMode(6, INPUT);\ndelay(5);\npinMode(6, OUTPUT); }\nvoid loop() { delay(100); }',
    finds: 'runs-at-once 3',
  },
  {
    title: 'a reading by the full scale of another board',
    plan: knob('esp32-devkit-30', 'GPIO34', '3V3'),
    wrong:
      'void setup() { }\nvoid loop() { int raw = analogRead(34);\nfloat share = raw / 1023.0; delay(100 * share); }',
    right:
      'void setup() { }\nvoid loop() { int raw = analogRead(34);\nfloat share = raw / 4095.0; delay(100 * share); }',
    finds: 'other-scale 3',
  },
  {
    title: 'a reading by the volts of another board',
    plan: knob('esp32-devkit-30', 'GPIO34', '3V3'),
    wrong: 'void setup() { }\nvoid loop() { float volts = analogRead(34) * 5.0 / 4095; delay(100 * volts); }',
    right: 'void setup() { }\nvoid loop() { float volts = analogRead(34) * 3.3 / 4095; delay(100 * volts); }',
    finds: 'other-scale 2',
  },
  {
    title: 'a reading that is mapped from the range of another board',
    plan: knob('uno-r3', 'A0', '5V'),
    wrong: 'void setup() { }\nvoid loop() { int angle = map(analogRead(A0), 0, 4095, 0, 180); delay(angle + 1); }',
    right: 'void setup() { }\nvoid loop() { int angle = map(analogRead(A0), 0, 1023, 0, 180); delay(angle + 1); }',
    finds: 'other-scale 2',
  },
  {
    title: 'a reading whose bits the program has set',
    plan: knob('esp32-devkit-30', 'GPIO34', '3V3'),
    wrong: 'void setup() { analogReadResolution(10); }\nvoid loop() { int x = analogRead(34) * 10L / 4095; delay(x); }',
    right: 'void setup() { analogReadResolution(10); }\nvoid loop() { int x = analogRead(34) * 10L / 1023; delay(x); }',
    finds: 'other-scale 2',
  },
  {
    title: 'a lamp on the timer that servos take',
    plan: dimmed('D9'),
    wrong:
      '#include <Servo.h>\nServo arm;\nvoid setup() { arm.attach(7); }\nvoid loop() { analogWrite(9, 100); delay(100); }',
    right: 'void setup() { }\nvoid loop() { analogWrite(9, 100); delay(100); }',
    finds: 'timer-taken 4',
  },
  {
    title: 'servos take the timer of a lamp that is dimmed already',
    plan: dimmed('D10'),
    rightPlan: dimmed('D5'),
    wrong:
      '#include <Servo.h>\nServo arm;\nvoid setup() { analogWrite(10, 90); arm.attach(7); }\nvoid loop() { delay(9); }',
    right:
      '#include <Servo.h>\nServo arm;\nvoid setup() { analogWrite(5, 90); arm.attach(7); }\nvoid loop() { delay(9); }',
    finds: 'timer-taken 3',
  },
  {
    title: 'a tone takes the timer of a lamp',
    plan: dimmed('D3'),
    rightPlan: dimmed('D9'),
    wrong: 'void setup() { tone(7, 440); }\nvoid loop() { analogWrite(3, 100); delay(100); }',
    right: 'void setup() { tone(7, 440); }\nvoid loop() { analogWrite(9, 100); delay(100); }',
    finds: 'timer-taken 2',
  },
  {
    title: 'a number that is too large for an int of sixteen bits',
    plan: lamp,
    wrong: 'int wait = 0;\nvoid setup() { wait = 60 * 1000; }\nvoid loop() { delay(100); }',
    right: 'long wait = 0;\nvoid setup() { wait = 60 * 1000L; }\nvoid loop() { delay(100); }',
    finds: 'number-lost 2',
  },
  {
    title: 'milliseconds in an int, after half a minute',
    plan: lamp,
    wrong: 'int last = 0;\nvoid setup() {}\nvoid loop() { last = millis(); delay(1000); }',
    right: 'unsigned long last = 0;\nvoid setup() {}\nvoid loop() { last = millis(); delay(1000); }',
    finds: 'number-lost 3',
    steps: '  - { at: 34 }',
  },
  {
    title: 'a place behind the end of an array',
    plan: lamp,
    wrong: 'int all[3];\nvoid setup() {}\nvoid loop() { for (int i = 0; i <= 3; i++)\nall[i] = i; delay(100); }',
    right: 'int all[3];\nvoid setup() {}\nvoid loop() { for (int i = 0; i < 3; i++)\nall[i] = i; delay(100); }',
    finds: 'wrong-place 4',
  },
  {
    title: 'an address that nobody has',
    plan: {
      mcu: 'nano-v3',
      parts: { AIR: 'bme280' },
      wires: 'AIR.VIN MCU.3V3, AIR.GND MCU.GND, AIR.SDA MCU.A4, AIR.SCL MCU.A5',
    },
    wrong:
      '#include <Wire.h>\nvoid setup() { Wire.begin(); Wire.beginTransmission(0x77);\nWire.endTransmission(); }\nvoid loop() { delay(100); }',
    right:
      '#include <Wire.h>\nvoid setup() { Wire.begin(); Wire.beginTransmission(0x76);\nWire.endTransmission(); }\nvoid loop() { delay(100); }',
    finds: 'nobody-answers 3',
  },
  {
    title: 'a bus on other pins than the plan',
    plan: {
      mcu: 'esp32-devkit-30',
      parts: { AIR: 'bme280' },
      wires: 'AIR.VIN MCU.3V3, AIR.GND MCU.GND, AIR.SDA MCU.GPIO32, AIR.SCL MCU.GPIO33',
    },
    wrong:
      '#include <Wire.h>\nvoid setup() { Wire.begin(); Wire.beginTransmission(0x76);\nWire.endTransmission(); }\nvoid loop() { delay(100); }',
    right:
      '#include <Wire.h>\nvoid setup() { Wire.begin(32, 33); Wire.beginTransmission(0x76);\nWire.endTransmission(); }\nvoid loop() { delay(100); }',
    finds: 'nobody-answers 3',
  },
  {
    title: 'a pin to which nothing is wired',
    plan: lamp,
    wrong: 'void setup() { pinMode(6, OUTPUT); }\nvoid loop() { digitalWrite(6, HIGH); delay(100); }',
    right: 'void setup() { pinMode(5, OUTPUT); }\nvoid loop() { digitalWrite(5, HIGH); delay(100); }',
    finds: 'nothing-there 1',
  },
  {
    title: 'a loop that calls itself without end',
    plan: lamp,
    wrong: 'int deeper(int n) {\nreturn deeper(n + 1); }\nvoid setup() { deeper(0); }\nvoid loop() { delay(100); }',
    right:
      'int deeper(int n) {\nreturn n > 20 ? n : deeper(n + 1); }\nvoid setup() { deeper(0); }\nvoid loop() { delay(100); }',
    finds: 'stopped 2',
  },
]

describe('a mistake is found where it is made, and nothing where there is none', () => {
  it.each(pairs)('$title', ({ plan, rightPlan, wrong, right, finds, steps }) => {
    expect(kinds(run(plan, wrong, steps))).toContain(finds)
    expect(kinds(run(rightPlan ?? plan, right, steps))).toEqual([])
  })
})

describe('what parts show and sense', () => {
  it.each([
    ['nano-v3', 'D3', 'D4', '5V', 3, 4],
    ['uno-r3', 'D8', 'D9', '5V', 8, 9],
  ] as const)('an echo comes back after its distance on %s', (mcu, trigger, echo, supply, t, e) => {
    const result = run(
      eye(mcu, trigger, echo, supply),
      measure(t, e),
      '  - { at: 0.5, set: { EYE: 12 cm } }\n  - { at: 1, set: { EYE: 3 m } }\n  - { at: 1.5 }',
    )
    const seen = new Set(result.printed.map(({ text }) => text))
    expect(seen).toEqual(new Set(['50', '12', '300']))
    expect(result.findings).toEqual([])
  })
  it('a lamp lights with the current of its resistor, and half of it at half a pulse', () => {
    const full = run(lamp, 'void setup() { pinMode(5, OUTPUT); digitalWrite(5, HIGH); }\nvoid loop() { delay(10); }')
    const half = run(lamp, 'void setup() { pinMode(5, OUTPUT); analogWrite(5, 127); }\nvoid loop() { delay(10); }')
    const [a, b] = [full, half].map(({ shows }) => Number(/([\d.]+) mA/.exec(shows.LAMP ?? '')?.[1]))
    expect(a).toBeGreaterThan(8)
    expect(a).toBeLessThan(16)
    expect(b! / a!).toBeCloseTo(0.5, 1)
  })
  it('a knob is read as its share of the supply, in the counts of the platform', () => {
    const knob = (mcu: string, pin: string, supply: string): Short => ({
      mcu,
      parts: { KNOB: 'potentiometer' },
      wires: `KNOB.1 MCU.GND, KNOB.3 MCU.${supply}, KNOB.W MCU.${pin}`,
    })
    const sketch = (pin: string): string =>
      `void setup() { Serial.begin(9600); }\nvoid loop() { Serial.println(analogRead(${pin})); delay(100); }`
    const steps = '  - { at: 0.5, set: { KNOB: 25 % } }\n  - { at: 1 }'
    const last = ({ printed }: RunResult): number => Number(printed.at(-1)?.text)
    expect(last(run(knob('nano-v3', 'A0', '5V'), sketch('A0'), steps))).toBeCloseTo(256, -1)
    expect(last(run(knob('esp32-devkit-30', 'GPIO34', '3V3'), sketch('34'), steps))).toBeCloseTo(1024, -1)
  })
  it('a motor behind a transistor runs, and rests', () => {
    const motor: Short = {
      mcu: 'nano-v3',
      supplies: { PACK: { volts: 6, limitMilliamps: 2000 } },
      parts: {
        M: 'dc-motor',
        T1: 'nmos',
        R1: { part: 'resistor', options: { ohms: 100 } },
        R2: { part: 'resistor', options: { ohms: 10000 } },
        D1: 'diode',
      },
      wires:
        'PACK.+ M.M1, M.M2 T1.D, T1.S PACK.-, PACK.- MCU.GND, T1.G R1.1, R1.2 MCU.D6, R2.1 T1.G, R2.2 MCU.GND, D1.A T1.D, D1.K PACK.+',
    }
    const result = run(
      motor,
      'void setup() { pinMode(6, OUTPUT); }\nvoid loop() { digitalWrite(6, HIGH); delay(500); digitalWrite(6, LOW); delay(500); }',
      '  - { at: 0.2, expect: { M: runs } }\n  - { at: 0.7, expect: { M: rests } }',
    )
    expect(result.expectations.map(({ came, found }) => [came, found])).toEqual([
      [true, expect.stringMatching(/runs/)],
      [true, 'rests'],
    ])
    expect(result.findings).toEqual([])
  })
  it.each(['relay-1', 'relay-2'])('a pump over the contact of %s runs while its input is low', (part) => {
    const which = part === 'relay-1' ? '' : '2'
    const result = run(
      {
        mcu: 'nano-v3',
        supplies: { PACK: { volts: 5, limitMilliamps: 2000 } },
        parts: { M: 'pump', K: part },
        wires: `K.VCC MCU.5V, K.GND MCU.GND, K.IN${which} MCU.D7, PACK.+ K.COM${which}, K.NO${which} M.+, M.- PACK.-`,
      },
      'void setup() { digitalWrite(7, HIGH); pinMode(7, OUTPUT); }\nvoid loop() { digitalWrite(7, HIGH); delay(500); digitalWrite(7, LOW); delay(500); }',
      '  - { at: 0.2, expect: { M: rests } }\n  - { at: 0.7, expect: { M: runs } }\n  - { at: 1.2, expect: { M: rests } }',
    )
    expect(result.expectations.map(({ came }) => came)).toEqual([true, true, true])
  })
  it('a button at 5 V is read through a transistor between two levels', () => {
    const result = run(
      {
        mcu: 'esp32-devkit-30',
        parts: {
          KEY: 'button',
          Q: { part: 'nmos', options: { model: '2n7000' } },
          R: { part: 'resistor', options: { ohms: 10000 } },
          T: { part: 'resistor', options: { ohms: 10000 } },
        },
        wires: 'Q.G MCU.3V3, Q.S MCU.GPIO16, R.1 MCU.3V3, R.2 Q.S, T.1 MCU.VIN, T.2 Q.D, KEY.1 Q.D, KEY.2 MCU.GND',
      },
      'void setup() { pinMode(16, INPUT); Serial.begin(115200); }\nvoid loop() { Serial.println(digitalRead(16)); delay(200); }',
      '  - { at: 0.3, set: { KEY: pressed } }\n  - { at: 0.7, set: { KEY: released } }\n  - { at: 1.1 }',
    )
    expect(result.printed.map(({ text }) => text).join(' ')).toMatch(/^1 1 0 0 1 1/)
  })
  it('handlers of edges wake, and count each press once', () => {
    const result = run(
      lamp,
      'volatile int n = 0;\nvoid press() { n++; }\nvoid setup() { pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), press, FALLING); Serial.begin(9600); }\nvoid loop() { delay(1000); Serial.println(n); }',
      [0.1, 0.3, 0.5]
        .flatMap((at) => [
          `  - { at: ${at}, set: { KEY: pressed } }`,
          `  - { at: ${at + 0.1}, set: { KEY: released } }`,
        ])
        .concat('  - { at: 1.5 }')
        .join('\n'),
    )
    expect(result.printed[0]?.text).toBe('3')
    expect(result.findings).toEqual([])
  })
  it('what is typed arrives at the serial line', () => {
    const result = run(
      lamp,
      'void setup() { Serial.begin(9600); }\nvoid loop() { if (Serial.available()) { String s = Serial.readStringUntil(\'\\n\'); Serial.println("got " + s); } }',
      '  - { at: 0.5, type: "open 3" }\n  - { at: 0.6, expect: { serial: "got open 3" } }',
    )
    expect(result.expectations[0]?.came).toBe(true)
  })
})

describe('a script', () => {
  it('that asks for what is not there is refused before it runs', () => {
    const sketch = 'void setup() {}\nvoid loop() { delay(10); }'
    for (const [steps, message] of [
      ['  - { at: 1, set: { DOOR: open } }', /DOOR cannot be moved; expected one of KEY/],
      ['  - { at: 1, set: { KEY: blue } }', /KEY: "blue": expected one of open, closed/],
      ['  - { at: 1, expect: { NOSE: on } }', /NOSE is no part and no pin/],
      ['  - { at: 1, expect: { MCU.D5: blue } }', /expected high or low/],
    ] as const) {
      expect(() => run(lamp, sketch, steps)).toThrow(ScriptError)
      expect(() => run(lamp, sketch, steps)).toThrow(message)
    }
  })
  it('says what it expected and what was there', () => {
    const result = run(
      lamp,
      'void setup() { pinMode(5, OUTPUT); }\nvoid loop() { delay(10); }',
      '  - { at: 1, expect: { LAMP: on }, within: 0.5, why: it must shine }',
    )
    expect(result.findings.map(({ kind, message, why }) => [kind, message, why])).toEqual([
      ['missed', 'Expected LAMP on at 1 s, and there was off.', 'it must shine'],
    ])
  })
  it('waits for what may still come', () => {
    const result = run(
      lamp,
      'void setup() { pinMode(5, OUTPUT); delay(1300); digitalWrite(5, HIGH); }\nvoid loop() { delay(10); }',
      '  - { at: 1, expect: { LAMP: on }, within: 0.5 }',
    )
    expect(result.findings).toEqual([])
  })
  it('begins late, so that the clock begins again', () => {
    const result = run(
      lamp,
      'unsigned long next = 0;\nint n = 0;\nvoid setup() { Serial.begin(9600); next = millis() + 1000; }\nvoid loop() { if (millis() > next) { n++; next = millis() + 1000; Serial.println(n); } delay(5); }',
      '',
      10,
    )
    const wiring = resolve(planOf(lamp), catalog)
    const late = rehearse(
      wiring,
      wiring.boards[0]!,
      [
        {
          name: 'a.ino',
          text: 'unsigned long last = 0;\nint n = 0;\nvoid setup() { Serial.begin(9600); }\nvoid loop() { if (millis() - last >= 1000) { last = millis(); n++; Serial.println(n); } delay(5); }',
        },
      ],
      { seconds: 10, script: { rehearsal: 1, from: 4294960, steps: [] } },
    )
    expect(result.printed.length).toBeGreaterThan(7)
    expect(late.printed.length).toBeGreaterThan(7)
  })
})

it('the same run comes out the same, trace and text', () => {
  const once = (): string => {
    const result = run(
      eye('nano-v3', 'D3', 'D4', '5V'),
      measure(3, 4),
      '  - { at: 0.3, set: { EYE: 33 cm } }\n  - { at: 1 }',
    )
    return writeVcd(result.trace, result.seconds * 1e6) + JSON.stringify(result.printed)
  }
  expect(once()).toBe(once())
  expect(once()).toMatch(/\$var wire 1 \S+ MCU\.D3 \$end/)
})

it('another name for a namespace that names none is said, with its line', () => {
  expect(() => run(lamp, 'int a;\nnamespace s = 3;\nvoid setup() {}\nvoid loop() {}')).toThrow(
    /expected the name of a namespace and ; behind =/,
  )
})

it('what is not understood is said before it runs, and the rest runs', () => {
  const result = run(
    lamp,
    'void setup() { Serial.begin(9600); Serial.println("up"); }\nvoid never() { strange(3); }\nvoid loop() { delay(100); }',
  )
  expect(result.findings.map(({ kind, line, message }) => [kind, line, message])).toEqual([
    ['not-understood', 2, 'nothing that is called strange is known here.'],
  ])
  expect(result.printed[0]?.text).toBe('up')
})

it('the LED of a board that is not brought out needs no wire', () => {
  const blink = (pin: string): string =>
    `void setup() { pinMode(${pin}, OUTPUT); }\nvoid loop() { digitalWrite(${pin}, HIGH); delay(100); }`
  for (const pin of ['LED_BUILTIN', '25'])
    expect(kinds(run({ ...lamp, mcu: 'pico', wires: '' }, blink(pin)))).toEqual([])
  expect(kinds(run({ ...lamp, mcu: 'pico', wires: '' }, blink('24')))).toEqual(['no-such-pin 1', 'no-such-pin 2'])
})
