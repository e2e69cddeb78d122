import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { boardFacts } from '../catalog/boardFacts.ts'
import { languagesOf, programPin } from '../firmware/pinNames.ts'
import { applyEdits } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import { emptyPlan, type Plan } from '../plan/planSchema.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { samplePlans } from '../testing/samples.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { stepsOf } from './steps.ts'
import { testLanguages, testProgram, testSteps } from './testProgram.ts'

/** A kit of common parts, wired by the assignment. */
function kitOn(board: string): Plan {
  let plan: Plan = { ...emptyPlan(`kit on ${board}`), boards: { MCU: { board } } }
  for (const id of ['led', 'button', 'bme280', 'servo-sg90', 'hc-sr04p', 'potentiometer', 'relay-1'])
    plan = applyEdits(plan, addParts(plan, catalog, catalog.parts.get(id)!, 1))
  return applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits)
}

/** One board of each family: how its programs are written is a matter of the family, and a compiler takes its time. */
const families = [...new Map([...catalog.boards.values()].map((board) => [board.family, board.id])).values()]

const cases = [...samplePlans.map(({ plan }) => plan), ...families.map(kitOn)].flatMap((plan) => {
  const wiring = resolve(plan, catalog)
  return wiring.boards.flatMap((board) =>
    testLanguages
      .filter((language) => languagesOf(board.board).includes(language))
      .map((language) => ({ wiring, board, language })),
  )
})

/** Where the headers of the platform's calls stand. */
const stubs = new URL('../testing/stubs', import.meta.url).pathname
const flags = ['-std=c++17', '-O0', '-Wall', '-Wextra', '-Werror']
let folder = ''
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'markpost-test-'))
  // Read once, ahead: most of the time of a compilation is its headers.
  const header = join(folder, 'Arduino.h')
  writeFileSync(header, `#include "${join(stubs, 'Arduino.h')}"\n`)
  const done = spawnSync('g++', [...flags, '-x', 'c++-header', '-o', `${header}.gch`, header])
  expect(String(done.stderr)).toBe('')
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Run {
  /** Answers, one a line. */
  readonly said: readonly Record<string, unknown>[]
  readonly lines: readonly string[]
  /** What was done to pins: `write 4 1`. */
  readonly done: readonly string[]
}

const built = new Map<string, { file: string; names: readonly string[] }>()

/** Compiles a sketch against the stub, names of the platform as numbers from 100; the same text once. */
function buildCpp(board: BoardInstance, text: string): { file: string; names: readonly string[] } {
  const known = built.get(text)
  if (known) return known
  const names = [
    ...new Set(boardFacts(board.board).pins.flatMap((pin) => programPin(board.board, pin, 'cpp') ?? [])),
  ].filter((one) => /^[A-Z]/.test(one))
  const file = join(folder, `sketch${built.size}`)
  const stub = names.map((one, at) => `constexpr int ${one} = ${100 + at};`).join('\n')
  writeFileSync(
    `${file}.cpp`,
    `#include "Arduino.h"\n${stub}\n${text}\nint main() { setup(); while (Serial.available()) loop(); return 0; }\n`,
  )
  const done = spawnSync('g++', [...flags, `-I${folder}`, `-I${stubs}`, '-o', file, `${file}.cpp`])
  expect(String(done.stderr)).toBe('')
  built.set(text, { file, names })
  return { file, names }
}

function runCpp(board: BoardInstance, text: string, asked: readonly string[]): Run & { names: readonly string[] } {
  const { file, names } = buildCpp(board, text)
  return { ...outcome(spawnSync(file, { input: `${asked.join('\n')}\n` })), names }
}

function outcome(done: { stdout: Buffer; stderr: Buffer }): Run {
  const lines = String(done.stdout).trimEnd().split('\n')
  return {
    lines,
    said: lines.map((line) => JSON.parse(line) as Record<string, unknown>),
    done: String(done.stderr).trimEnd().split('\n').filter(Boolean),
  }
}

const pythonStub = `
import sys, types
def log(*words): print(*words, file=sys.stderr)
class Named:
    def __init__(self, name): self.name = name
    def __getattr__(self, part): return Named(self.name + '.' + part)
    def __str__(self): return self.name
class Pin:
    IN, OUT, PULL_UP, PULL_DOWN = 0, 1, 2, 3
    cpu = Named('Pin.cpu')
    def __init__(self, pin, mode=None, pull=None):
        self.pin = pin
        log('mode', pin, 1 if mode == 1 else {None: 0, 2: 2, 3: 3}[pull])
    def value(self, level=None):
        if level is None:
            log('read', self.pin)
            return 0
        log('write', self.pin, level)
    def __str__(self): return str(self.pin)
class ADC:
    def __init__(self, pin): self.pin = pin
    def read_u16(self):
        log('analog', self.pin)
        return 65535
class SoftI2C:
    def __init__(self, sda, scl): log('bus', sda, scl)
    def scan(self): return list(range(8, 120, 2))
def time_pulse_us(pin, level, most):
    log('pulse', pin)
    return 1166
machine = types.ModuleType('machine')
machine.Pin, machine.ADC, machine.SoftI2C, machine.time_pulse_us = Pin, ADC, SoftI2C, time_pulse_us
sys.modules['machine'] = machine
import time
time.sleep = lambda seconds: None
time.sleep_us = lambda many: None
time.sleep_ms = lambda many: None
microbit = types.ModuleType('microbit')
class BitPin:
    PULL_UP, PULL_DOWN, NO_PULL = 2, 3, 0
    def __init__(self, name): self.name = name
    def __str__(self): return self.name
    def write_digital(self, level): log('write', self.name, level); log('mode', self.name, 1)
    def read_digital(self): log('read', self.name); return 0
    def read_analog(self): log('analog', self.name); return 1023
    def write_analog(self, share): log('write', self.name, share); log('mode', self.name, 1)
    def set_analog_period(self, many): pass
    def set_pull(self, pull): log('mode', self.name, pull)
for number in range(21): setattr(microbit, 'pin%d' % number, BitPin('pin%d' % number))
class BitBus:
    def init(self, sda, scl): log('bus', sda, scl)
    def scan(self): return [32]
microbit.i2c, microbit.sleep = BitBus(), (lambda many: None)
sys.modules['microbit'] = microbit
zero = types.ModuleType('gpiozero')
class Output:
    def __init__(self, pin, initial_value=False):
        self.pin = pin
        log('write', pin, int(initial_value)); log('mode', pin, 1)
    def __setattr__(self, name, value):
        if name == 'value': log('write', self.pin, int(value))
        object.__setattr__(self, name, value)
    def close(self): log('mode', self.pin, 0)
    def __enter__(self): return self
    def __exit__(self, *why): self.close()
class Input:
    value = 0
    def __init__(self, pin, pull_up=None, active_state=None):
        assert (pull_up is None) == (active_state is not None)
        log('mode', pin, {None: 0, True: 2, False: 3}[pull_up]); log('read', pin)
    def __enter__(self): return self
    def __exit__(self, *why): pass
zero.DigitalOutputDevice, zero.DigitalInputDevice = Output, Input
sys.modules['gpiozero'] = zero
smbus = types.ModuleType('smbus2')
class SMBus:
    def __init__(self, number): log('bus', number)
    def __enter__(self): return self
    def __exit__(self, *why): pass
    def read_byte(self, address):
        if address % 2: raise OSError()
smbus.SMBus = SMBus
sys.modules['smbus2'] = smbus
`

function runPython(text: string, asked: readonly string[]): Run {
  const file = join(folder, `p${Math.random().toString(36).slice(2)}.py`)
  writeFileSync(file, text)
  const start = `${pythonStub}\nexec(compile(open(${JSON.stringify(file)}).read(), 'test program', 'exec'), {'__name__': '__main__'})`
  return outcome(spawnSync('python3', ['-c', start], { input: `${asked.join('\n')}\n` }))
}

const name = ({ wiring, board, language }: (typeof cases)[number]): string =>
  `${wiring.plan.title}, ${board.ref}, ${language}`

describe.each(cases.map((one) => [name(one), one] as const))('%s', (_, { wiring, board, language }) => {
  const steps = testSteps(wiring, board, language)
  const text = testProgram(wiring, board.ref, language)
  const run = (asked: readonly string[]): Run =>
    language === 'cpp' ? runCpp(board, text, asked) : runPython(text, asked)

  it('touches the pins of the plan, and answers each step in its own line', () => {
    expect(steps.map(({ id }) => id)).toEqual(
      stepsOf(wiring)
        .filter((one) => one.board === board.ref)
        .map(({ id }) => id),
    )
    const asked = steps.flatMap(({ id, kind }) =>
      kind === 'out' || kind === 'move'
        ? [
            JSON.stringify({ do: id, level: 'high' }),
            JSON.stringify({ do: id, level: 'low' }),
            JSON.stringify({ do: id, level: 'rest' }),
          ]
        : [JSON.stringify({ do: id })],
    )
    const result = run([...asked, '{"do":"nothing of the kind"}'])
    const { said, done, lines } = result
    expect(lines.every((line) => Buffer.byteLength(line) <= 200)).toBe(true)
    expect(said[0]).toMatchObject({ hello: 'markpost', steps: steps.length })
    expect(said.at(-1)).toEqual({ error: 'no such step' })
    const answered = [...new Set(said.slice(1, -1).map((one) => one.step))]
    expect(answered).toEqual(steps.map(({ id }) => id))
    const names = 'names' in result ? (result as { names: readonly string[] }).names : []
    const bare = (pin: string): string => pin.replace(/'/g, '')
    const code = (pin: string): string => (names.includes(pin) ? String(100 + names.indexOf(pin)) : bare(pin))
    const driven = new Set(done.flatMap((one) => (/^mode (\S+) 1$/.exec(one)?.[1] ?? []) as string[]))
    const mayDrive = steps
      .filter(({ kind }) => ['out', 'move', 'servo', 'echo'].includes(kind))
      .map(({ pins }) => code(pins[0]!))
    expect([...driven].sort()).toEqual([...new Set(mayDrive)].sort())
    const touched = new Set(done.flatMap((one) => one.split(' ').slice(1, one.startsWith('bus') ? 3 : 2)))
    // A bus that is begun on fixed pins, and one of a system, names none.
    const pins = steps.filter(({ kind }) => kind !== 'scan').flatMap(({ pins: own }) => own.map(code))
    for (const pin of pins) expect(touched.has(pin), pin).toBe(true)
  })

  it('drives nothing on its own, and with “all” only reads', () => {
    const { done, said } = run(['{"do":"all"}'])
    expect(done.filter((one) => one.startsWith('write') || /^mode \S+ 1$/.test(one))).toEqual([])
    const reading = steps.filter(({ kind }) => ['in', 'adc', 'scan'].includes(kind)).map(({ id }) => id)
    if (reading.length > 0) expect([...new Set(said.slice(1).map((one) => one.step))]).toEqual(reading)
    expect(run([]).done).toEqual([])
  })
})

describe('how it is asked', () => {
  const short = {
    mcu: 'uno-r3',
    parts: { LAMP: 'led', R1: 'resistor', GATE: 'button', K: 'relay-1', A: 'bme280' },
    wires:
      'LAMP.A R1.1, R1.2 MCU.D4, LAMP.K MCU.GND, GATE.1 MCU.D2, GATE.2 MCU.GND, K.IN MCU.D5, A.SDA MCU.A4, A.SCL MCU.A5',
  }
  const wiring: Wiring = wiringOf(short)
  const board = wiring.boards[0]!
  const ask = (...lines: string[]): Run => runCpp(board, testProgram(wiring, 'MCU', 'cpp'), lines)

  it('by step, by what is read, by bus', () => {
    expect(ask('{"do":"read:GATE.1"}').said[1]).toEqual({ step: 'in:GATE.1', value: 0 })
    expect(ask('{ "do" : "in:GATE.1" }').said[1]).toEqual({ step: 'in:GATE.1', value: 0 })
    expect(
      ask('{"do":"scan:i2c0"}')
        .said.slice(1)
        .map((one) => one.step),
    ).toEqual(['i2c:i2c0', 'i2c:i2c0'])
    expect(ask('{"do":"out:LAMP.A","level":"high"}').done).toEqual(['write 4 1', 'mode 4 1'])
    expect(ask('{"do":"hello"}').said[1]).toMatchObject({ hello: 'markpost' })
  })

  it('what moves goes back to rest by itself, also where rest is high; a lamp stays', () => {
    expect(ask('{"do":"out:K.IN","level":"low"}').done).toEqual(['write 5 0', 'mode 5 1', 'write 5 1'])
    expect(ask('{"do":"out:LAMP.A","level":"high"}').done.at(-1)).toBe('mode 4 1')
    expect(ask('{"do":"out:LAMP.A","level":"rest"}').done).toEqual(['mode 4 0'])
  })

  it('takes what lies at the reference pin for full scale, where it is wired', () => {
    const program = (wires: string): string => {
      return testProgram(wiringOf({ mcu: 'uno-r3', parts: { K: 'potentiometer' }, wires }), 'MCU', 'cpp')
    }
    const knob = 'K.1 MCU.GND, K.3 MCU.3V3, K.W MCU.A0'
    expect(program(knob)).not.toContain('analogReference')
    expect(program(`${knob}, MCU.AREF MCU.3V3`)).toMatch(/setup\(\) \{\n {2}analogReference\(EXTERNAL\);/)
  })
  it('noise, half a line and a line that is far too long do no harm', () => {
    const { said } = ask('hello there', `{"do":"${'x'.repeat(400)}"}`, '{"do":"read:GATE.1"}')
    expect(said.at(-1)).toEqual({ step: 'in:GATE.1', value: 0 })
    expect(said.slice(1, -1)).toEqual([{ error: 'no such step' }, { error: 'no such step' }])
  })
})
