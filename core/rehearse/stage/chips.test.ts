import { describe, expect, it } from 'vitest'
import type { Short } from '../../testing/plans.ts'
import { run } from '../testing/quick.ts'

const quiet = 'void loop() { delay(100); }'
const lamp = (ref: string, from: string): string => `${from} R${ref}.1, R${ref}.2 ${ref}.A, ${ref}.K MCU.GND`
const lamps = (...refs: string[]): Short['parts'] =>
  Object.fromEntries(
    refs.flatMap((ref) => [
      [ref, 'led'],
      [`R${ref}`, { part: 'resistor', options: { ohms: 1000 } }],
    ]),
  )
const register: Short = {
  mcu: 'uno-r3',
  parts: { REG: '74hc595', ...lamps('L0', 'L2', 'L7') },
  wires: `REG.VCC MCU.5V, REG.GND MCU.GND, REG.OE MCU.GND, REG.SRCLR MCU.5V, REG.SER MCU.D4, REG.SRCLK MCU.D5, REG.RCLK MCU.D6, ${lamp('L0', 'REG.QA')}, ${lamp('L2', 'REG.QC')}, ${lamp('L7', 'REG.QH')}`,
}
const shifts = (body: string): string =>
  `void out(byte b, byte order) { digitalWrite(6, LOW); shiftOut(4, 5, order, b); digitalWrite(6, HIGH); }
void setup() { pinMode(4, OUTPUT); pinMode(5, OUTPUT); pinMode(6, OUTPUT); ${body} }
${quiet}`
const lit = (shows: Readonly<Record<string, string>>): string[] =>
  Object.entries(shows).flatMap(([ref, words]) => (words.startsWith('on') ? [ref] : []))

describe('a register that bits are shifted into', () => {
  it('shows the lowest bit at its first output, when the highest is sent first', () => {
    const { shows, findings } = run(register, shifts('out(0b10000001, MSBFIRST);'))
    expect(findings).toEqual([])
    expect(lit(shows)).toEqual(['L0', 'L7'])
  })
  it('shows them the other way round when the lowest is sent first', () => {
    expect(lit(run(register, shifts('out(0b00100000, LSBFIRST);')).shows)).toEqual(['L2'])
  })
  it('shows nothing before its latch rises', () => {
    const text = shifts('digitalWrite(6, HIGH); shiftOut(4, 5, MSBFIRST, 255);')
    expect(lit(run(register, text).shows)).toEqual([])
  })
  it('hands over what it had to the next one, when both are clocked at once', () => {
    const chain: Short = {
      mcu: 'uno-r3',
      parts: { REG: '74hc595', NEXT: '74hc595', ...lamps('L0', 'L2') },
      wires: `REG.VCC MCU.5V, REG.GND MCU.GND, REG.OE MCU.GND, REG.SRCLR MCU.5V, REG.SER MCU.D4, REG.SRCLK MCU.D5, REG.RCLK MCU.D6, NEXT.VCC MCU.5V, NEXT.GND MCU.GND, NEXT.OE MCU.GND, NEXT.SRCLR MCU.5V, NEXT.SER REG.QHS, NEXT.SRCLK REG.SRCLK, NEXT.RCLK REG.RCLK, ${lamp('L0', 'REG.QA')}, ${lamp('L2', 'NEXT.QC')}`,
    }
    const both =
      'digitalWrite(6, LOW); shiftOut(4, 5, MSBFIRST, 4); shiftOut(4, 5, MSBFIRST, 1); digitalWrite(6, HIGH);'
    expect(lit(run(chain, shifts(both)).shows)).toEqual(['L0', 'L2'])
    const turned =
      'digitalWrite(6, LOW); shiftOut(4, 5, MSBFIRST, 1); shiftOut(4, 5, MSBFIRST, 4); digitalWrite(6, HIGH);'
    expect(lit(run(chain, shifts(turned)).shows)).toEqual([])
  })
  it('shows what stood before the clock, where its latch hangs on the clock', () => {
    const tied = { ...register, wires: register.wires!.replace('REG.RCLK MCU.D6', 'REG.RCLK MCU.D5') }
    expect(lit(run(tied, shifts('shiftOut(4, 5, MSBFIRST, 0b00001001);')).shows)).toEqual(['L2'])
  })
  it('is dark while its enable is high, and while it has no supply', () => {
    const off = { ...register, wires: register.wires!.replace('REG.OE MCU.GND', 'REG.OE MCU.5V') }
    expect(lit(run(off, shifts('out(255, MSBFIRST);')).shows)).toEqual([])
    const unfed = { ...register, wires: register.wires!.replace('REG.VCC MCU.5V, ', '') }
    expect(lit(run(unfed, shifts('out(255, MSBFIRST);')).shows)).toEqual([])
  })
})

it('a register that takes levels over gives them bit by bit, the last input first', () => {
  const plan: Short = {
    mcu: 'uno-r3',
    parts: { REG: '74hc165', GATE: 'button', R1: { part: 'resistor', options: { ohms: 10000 } } },
    wires:
      'REG.VCC MCU.5V, REG.GND MCU.GND, REG.SER MCU.GND, REG.INH MCU.GND, REG.PL MCU.D7, REG.CLK MCU.D8, REG.QH MCU.D9, REG.A MCU.5V, REG.B MCU.GND, REG.C MCU.GND, REG.D MCU.GND, REG.E MCU.GND, REG.F MCU.GND, REG.G GATE.1, GATE.2 MCU.GND, R1.1 REG.G, R1.2 MCU.5V, REG.H MCU.GND',
  }
  const text = `byte take() { digitalWrite(7, LOW); delayMicroseconds(5); digitalWrite(7, HIGH); byte b = 0; for (int i = 0; i < 8; i++) { b = (b << 1) | digitalRead(9); digitalWrite(8, HIGH); digitalWrite(8, LOW); } return b; }
void setup() { Serial.begin(9600); pinMode(7, OUTPUT); pinMode(8, OUTPUT); pinMode(9, INPUT); digitalWrite(8, LOW); digitalWrite(7, HIGH); }
void loop() { Serial.println(take(), BIN); delay(1000); }`
  const { printed, findings } = run(plan, text, '  - { at: 0.5, set: { GATE: pressed } }\n  - { at: 1.5 }')
  expect(findings).toEqual([])
  expect(printed.map((one) => one.text)).toEqual(['1000001', '1', '1'])
})

it('a decoder pulls one of eight low, and none while it is not enabled', () => {
  const plan = (g1: string): Short => ({
    mcu: 'uno-r3',
    parts: { DEC: '74hc138', L: 'led', RL: { part: 'resistor', options: { ohms: 1000 } } },
    wires: `DEC.VCC MCU.5V, DEC.GND MCU.GND, DEC.G1 ${g1}, DEC.G2A MCU.GND, DEC.G2B MCU.GND, DEC.A MCU.D4, DEC.B MCU.D5, DEC.C MCU.D6, MCU.5V RL.1, RL.2 L.A, L.K DEC.Y5`,
  })
  const text = (number: number): string =>
    `void setup() { for (int i = 0; i < 3; i++) { pinMode(4 + i, OUTPUT); digitalWrite(4 + i, (${number} >> i) & 1); } }\n${quiet}`
  expect(lit(run(plan('MCU.5V'), text(5)).shows)).toEqual(['L'])
  expect(lit(run(plan('MCU.5V'), text(4)).shows)).toEqual([])
  expect(lit(run(plan('MCU.GND'), text(5)).shows)).toEqual([])
})

it('a counter goes one output on at each rise, and back when it is reset', () => {
  const plan: Short = {
    mcu: 'uno-r3',
    parts: { CNT: 'cd4017', ...lamps('L0', 'L3') },
    wires: `CNT.VDD MCU.5V, CNT.VSS MCU.GND, CNT.INH MCU.GND, CNT.CLK MCU.D4, CNT.RST MCU.D5, ${lamp('L0', 'CNT.Q0')}, ${lamp('L3', 'CNT.Q3')}`,
  }
  const text = (times: number, after = ''): string =>
    `void setup() { pinMode(4, OUTPUT); pinMode(5, OUTPUT); digitalWrite(5, LOW); for (int i = 0; i < ${times}; i++) { digitalWrite(4, LOW); digitalWrite(4, HIGH); } ${after} }\n${quiet}`
  expect(lit(run(plan, text(0)).shows)).toEqual(['L0'])
  expect(lit(run(plan, text(3)).shows)).toEqual(['L3'])
  expect(lit(run(plan, text(13)).shows)).toEqual(['L3'])
  expect(lit(run(plan, text(3, 'digitalWrite(5, HIGH);')).shows)).toEqual(['L0'])
})

describe('a switch of lines', () => {
  const wires = (bit: string): string =>
    `MUX.VCC MCU.5V, MUX.GND MCU.GND, MUX.VEE MCU.GND, MUX.E MCU.GND, MUX.S0 MCU.D4, MUX.S1 MCU.D5, MUX.S2 ${bit}, MUX.Z MCU.A0, K.3 MCU.5V, K.1 MCU.GND, K.W MUX.Y0, MUX.Y1 MCU.5V, MUX.Y4 MCU.GND`
  const parts: Short['parts'] = { MUX: '74hc4051', K: 'potentiometer' }
  const text = `int at(int n) { digitalWrite(4, n & 1); digitalWrite(5, n & 2); digitalWrite(6, n & 4); return analogRead(A0); }
void setup() { Serial.begin(9600); pinMode(4, OUTPUT); pinMode(5, OUTPUT); pinMode(6, OUTPUT); }
void loop() { Serial.print(at(0)); Serial.print(' '); Serial.print(at(1)); Serial.print(' '); Serial.println(at(4)); delay(1000); }`
  it('leads the chosen way to its common line', () => {
    const plan = { mcu: 'uno-r3', parts, wires: wires('MCU.D6') }
    const { printed, findings } = run(plan, text, '  - { at: 0.5, set: { K: 25 % } }\n  - { at: 1.5 }')
    expect(findings).toEqual([])
    expect(printed.map((one) => one.text)).toEqual(['512 1023 0', '256 1023 0', '256 1023 0'])
  })
  it('leads another one where a select line hangs elsewhere', () => {
    const plan = { mcu: 'uno-r3', parts, wires: wires('MCU.GND') }
    expect(run(plan, text).printed[0]?.text).toBe('512 1023 512')
  })
})

describe('motors that go by steps', () => {
  const wires =
    'DRV.IN1 MCU.D8, DRV.IN2 MCU.D9, DRV.IN3 MCU.D10, DRV.IN4 MCU.D11, DRV.+ MCU.5V, DRV.- MCU.GND, DRV.A M.BLU, DRV.B M.PNK, DRV.C M.YEL, DRV.D M.ORG, DRV.PLUS M.RED'
  const plan: Short = { mcu: 'uno-r3', parts: { DRV: 'uln2003-board', M: 'stepper-28byj48' }, wires }
  const text = (order: string, steps: number): string =>
    `int pins[] = {${order}};
void setup() { for (int p : pins) pinMode(p, OUTPUT); for (int s = 0; s <= ${steps}; s++) { for (int i = 0; i < 4; i++) digitalWrite(pins[i], i == s % 4); delay(3); } }\n${quiet}`
  it('follow the currents in their windings', () => {
    expect(run(plan, text('8, 9, 10, 11', 512)).shows.M).toBe('turned 512 steps, 90°')
    expect(run(plan, text('11, 10, 9, 8', 512)).shows.M).toBe('turned -512 steps, -90°')
  })
  it('do not get anywhere with windings in the wrong order', () => {
    const { shows } = run(plan, text('8, 10, 9, 11', 512))
    expect(Math.abs(Number(/turned (-?[\d.]+) steps/.exec(shows.M!)![1]))).toBeLessThan(4)
  })
  it('turn by half steps, two windings at a time', () => {
    const half = `byte seq[] = {1, 3, 2, 6, 4, 12, 8, 9};
void setup() { for (int i = 0; i < 4; i++) pinMode(8 + i, OUTPUT); for (int s = 0; s <= 64; s++) { for (int i = 0; i < 4; i++) digitalWrite(8 + i, (seq[s % 8] >> i) & 1); delay(2); } }\n${quiet}`
    expect(run(plan, half).shows.M).toBe('turned 32 steps, 5.6°')
  })
  const driven = (extra = ''): Short => ({
    mcu: 'uno-r3',
    supplies: { PSU: { volts: 12, limitMilliamps: 3000 } },
    parts: {
      DRV: { part: 'a4988', options: { microsteps: 16 } },
      M: 'stepper-bipolar',
    },
    wires: `DRV.VDD MCU.5V, DRV.GND.2 MCU.GND, DRV.GND PSU.-, DRV.VMOT PSU.+, DRV.RST DRV.SLP, DRV.STEP MCU.D3, DRV.DIR MCU.D4, DRV.MS1 MCU.5V, DRV.MS2 MCU.5V, DRV.MS3 MCU.5V, DRV.1A M.A+, DRV.1B M.A-, DRV.2A M.B+, DRV.2B M.B-${extra}`,
  })
  const pulses = (way: string): string =>
    `void setup() { pinMode(3, OUTPUT); pinMode(4, OUTPUT); pinMode(5, OUTPUT); digitalWrite(5, HIGH); digitalWrite(4, ${way}); for (int i = 0; i < 800; i++) { digitalWrite(3, HIGH); delayMicroseconds(500); digitalWrite(3, LOW); delayMicroseconds(500); } }\n${quiet}`
  it('go by pulses and direction, in the steps that the straps say', () => {
    expect(run(driven(), pulses('HIGH')).shows).toMatchObject({
      DRV: 'turned 50 steps, 90°',
      M: 'turned 50 steps, 90°',
    })
    expect(run(driven(), pulses('LOW')).shows.M).toBe('turned -50 steps, -90°')
  })
  it('stand still while the driver is switched off', () => {
    expect(run(driven(', DRV.EN MCU.D5'), pulses('HIGH')).shows.M).toBe('turned 0 steps, 0°')
  })
})

describe('classes that speak to parts through the pins alone', () => {
  const motor: Short = {
    mcu: 'uno-r3',
    parts: { DRV: 'uln2003-board', M: 'stepper-28byj48' },
    wires:
      'DRV.IN1 MCU.D8, DRV.IN2 MCU.D9, DRV.IN3 MCU.D10, DRV.IN4 MCU.D11, DRV.+ MCU.5V, DRV.- MCU.GND, DRV.A M.BLU, DRV.B M.PNK, DRV.C M.YEL, DRV.D M.ORG, DRV.PLUS M.RED',
  }
  const turned = (order: string): number => {
    const text = `#include <Stepper.h>\nStepper arm(2048, ${order});\nvoid setup() { arm.setSpeed(10); arm.step(512); arm.step(-256); }\n${quiet}`
    const { shows, findings } = run(motor, text)
    expect(findings).toEqual([])
    return Number(/turned (-?[\d.]+) steps/.exec(shows.M!)![1])
  }
  it('a motor turns when its pins are given in the order of the class, and trembles in the order of the board', () => {
    // The first step finds the shaft anywhere: it is where it is counted from.
    expect(turned('8, 10, 9, 11')).toBe(255)
    expect(Math.abs(turned('8, 9, 10, 11'))).toBeLessThan(4)
  })
  it('a motor gains speed and comes to rest where it was sent', () => {
    const text = `#include <AccelStepper.h>
AccelStepper arm(AccelStepper::FULL4WIRE, 8, 10, 9, 11);
long most = 0;
void setup() { Serial.begin(9600); arm.setMaxSpeed(400); arm.setAcceleration(200); arm.moveTo(600); }
void loop() { if (!arm.run()) { Serial.println(arm.currentPosition()); Serial.println(millis() / 100); arm.moveTo(-arm.currentPosition()); } }`
    const { printed, shows, findings } = run(motor, text, '', 9)
    expect(findings).toEqual([])
    const [at, when] = printed.map((one) => Number(one.text))
    expect(at).toBe(600)
    // 2 s to 400 steps a second and 2 s back take 800 steps: it turns round at 346 a second, after 2 * sqrt(600 / 200) s.
    expect(when! / 10).toBeCloseTo(2 * Math.sqrt(600 / 200), 0)
    expect(shows.M).toMatch(/^turned -\d+ steps/)
  })
  const keys = (columns: string): Short => ({
    mcu: 'uno-r3',
    parts: { KEYS: 'keypad-4x4' },
    wires: `KEYS.R1 MCU.D9, KEYS.R2 MCU.D8, KEYS.R3 MCU.D7, KEYS.R4 MCU.D6, ${columns}`,
  })
  const reads = `#include <Keypad.h>
const byte ROWS = 4, COLS = 4;
char table[ROWS][COLS] = {{'1','2','3','A'},{'4','5','6','B'},{'7','8','9','C'},{'*','0','#','D'}};
byte rowPins[ROWS] = {9, 8, 7, 6};
byte colPins[COLS] = {5, 4, 3, 2};
Keypad pad = Keypad(makeKeymap(table), rowPins, colPins, ROWS, COLS);
void setup() { Serial.begin(9600); }
void loop() { char key = pad.getKey(); if (key != NO_KEY) Serial.println(key); }`
  const presses =
    '  - { at: 0.2, set: { KEYS.5: pressed } }\n  - { at: 0.4, set: { KEYS.5: released } }\n  - { at: 0.6, set: { "KEYS.#": pressed } }\n  - { at: 0.7 }'
  it('a keypad is looked at column by column', () => {
    const plan = keys('KEYS.C1 MCU.D5, KEYS.C2 MCU.D4, KEYS.C3 MCU.D3, KEYS.C4 MCU.D2')
    const { printed, findings } = run(plan, reads, presses)
    expect(findings).toEqual([])
    expect(printed.map((one) => one.text)).toEqual(['5', '#'])
  })
  it('a ribbon that is plugged the other way round gives other keys', () => {
    const plan = keys('KEYS.C1 MCU.D2, KEYS.C2 MCU.D3, KEYS.C3 MCU.D4, KEYS.C4 MCU.D5')
    expect(run(plan, reads, presses).printed.map((one) => one.text)).toEqual(['6', '0'])
  })
  it('of a matrix of one’s own those keys can be pressed whose lines are wired', () => {
    const plan: Short = {
      mcu: 'uno-r3',
      parts: { OWN: { part: 'key-matrix', options: { rows: 2, columns: 2, diodes: 'without' } } },
      wires: 'OWN.R1 MCU.D9, OWN.R2 MCU.D8, OWN.C1 MCU.D5, OWN.C2 MCU.D4',
    }
    const text =
      'void setup() { Serial.begin(9600); pinMode(9, INPUT_PULLUP); pinMode(4, OUTPUT); digitalWrite(4, LOW); }\nvoid loop() { Serial.println(digitalRead(9)); delay(1000); }'
    const { handles, printed } = run(plan, text, '  - { at: 0.5, set: { OWN.R1-C2: pressed } }\n  - { at: 0.6 }')
    expect(handles.map(({ name }) => name)).toEqual(['OWN.R1-C1', 'OWN.R1-C2', 'OWN.R2-C1', 'OWN.R2-C2'])
    expect(printed.map((one) => one.text)).toEqual(['1', '0'])
  })
  const knob: Short = {
    mcu: 'uno-r3',
    parts: { KNOB: 'rotary-encoder' },
    wires: 'KNOB.VCC MCU.5V, KNOB.GND MCU.GND, KNOB.CLK MCU.D2, KNOB.DT MCU.D3, KNOB.SW MCU.D4',
  }
  const counts = `volatile int at = 0;
void turn() { if (digitalRead(3) != digitalRead(2)) at++; else at--; }
void setup() { Serial.begin(9600); pinMode(2, INPUT); pinMode(3, INPUT); pinMode(4, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), turn, FALLING); }
void loop() { Serial.print(at); Serial.println(digitalRead(4) == LOW ? " pressed" : ""); delay(1000); }`
  it('a knob is turned click by click, and pressed', () => {
    const steps =
      '  - { at: 0.5, set: { KNOB: 7 } }\n  - { at: 1.5, set: { KNOB: 4, KNOB.SW: pressed } }\n  - { at: 2.5 }'
    const { printed, findings } = run(knob, counts, steps)
    expect(findings).toEqual([])
    expect(printed.map((one) => one.text)).toEqual(['0', '7', '4 pressed', '4 pressed'])
  })
})
