import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { boardFacts } from '../catalog/boardFacts.ts'
import { asVariant } from '../catalog/variant.ts'
import { applyEdits } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import { emptyPlan, type Plan } from '../plan/planSchema.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { samplePlans } from '../testing/samples.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { constantsOf, valueText, writeConstants } from './constants.ts'
import { linesOf } from './lines.ts'
import { languagesOf, programPin } from './pinNames.ts'

const boards = [...catalog.boards.values()]

describe('how programs write a pin', () => {
  it.each(boards.flatMap((board) => languagesOf(board).map((language) => [board.id, language] as const)))(
    '%s in %s: every pin that programs can move has a name, and no two pins the same',
    (id, language) => {
      const board = catalog.boards.get(id)!
      const owner = new Map<string, string>()
      for (const pin of boardFacts(board).pins) {
        if (pin.kind !== 'io' || pin.net !== pin.id || pin.functions.size === 0) continue
        const name = programPin(board, pin, language)
        // The converter's only channel is counted by itself there.
        if (board.family === 'esp8266' && language === 'micropython' && pin.id === 'A0') {
          expect(name).toBe('0')
          continue
        }
        expect(name, pin.id).toBeDefined()
        expect(owner.get(name!), `${name} of ${pin.id}`).toBeUndefined()
        owner.set(name!, pin.id)
      }
      expect(owner.size).toBeGreaterThan(10)
    },
  )

  it.each([
    ['uno-r3', 'cpp', 'D9', '9'],
    ['uno-r3', 'cpp', 'A3', 'A3'],
    ['esp32-devkit-30', 'micropython', 'GPIO23', '23'],
    ['esp8266-nodemcu-v2', 'cpp', 'GPIO5', '5'],
    ['pico', 'circuitpython', 'GP26', 'board.GP26'],
    ['nucleo-f446re', 'micropython', 'PA5', 'Pin.cpu.A5'],
    ['stm32f411-blackpill', 'circuitpython', 'PB3', 'microcontroller.pin.PB03'],
    ['microbit-v2', 'cpp', 'P13', '13'],
    ['microbit-v2', 'micropython', 'P13', 'pin13'],
    ['nrf52840-feather', 'circuitpython', 'MO', 'board.MOSI'],
    ['nrf52840-feather', 'cpp', 'MO', '25'],
    ['xiao-samd21', 'micropython', 'D6', "'D6'"],
    ['pi-40', 'python', 'GPIO17', '17'],
    ['pi-40', 'cpp', 'GPIO17', undefined],
    ['jetson-nano-40', 'python', 'GPIO07', '12'],
  ] as const)('%s in %s: %s is %s', (id, language, pin, text) => {
    const board = catalog.boards.get(id)!
    expect(programPin(board, boardFacts(board).pin(pin)!, language)).toBe(text)
  })

  it('holds for each model of a board', () => {
    for (const board of boards)
      for (const { id } of board.variants)
        for (const pin of boardFacts(asVariant(board, id)).pins)
          if (pin.functions.has('digital-in'))
            expect(programPin(board, pin, languagesOf(board)[0]!), `${board.id} ${id} ${pin.id}`).toBeDefined()
  })
})

const values = (wiring: Wiring, ref = 'MCU'): Record<string, string | undefined> =>
  Object.fromEntries(
    constantsOf(wiring, ref).flatMap(({ constants }) =>
      constants.map(({ name, value }) => {
        const board = wiring.boards.find((one) => one.ref === ref)!
        return [name, valueText(board, value, languagesOf(board.board)[0]!)]
      }),
    ),
  )

describe('names', () => {
  const lamp = 'LAMP.A R1.1, R1.2 MCU.GPIO23, LAMP.K MCU.GND'
  const named = (names: Plan['names'], wires = lamp): Wiring =>
    resolve(
      {
        ...planOf({ parts: { LAMP: 'led', R1: 'resistor', GATE: 'button' }, wires: `${wires}, GATE.1 MCU.GPIO32` }),
        ...(names ? { names } : {}),
      },
      catalog,
    )

  it('are made of part and signal, or the maker’s own, and stay when the pin changes', () => {
    expect(values(named(undefined))).toEqual({ LAMP_A: '23', GATE_1: '32' })
    const own = { 'LAMP.A': 'readyLamp' }
    expect(values(named(own))).toEqual({ readyLamp: '23', GATE_1: '32' })
    expect(values(named(own, lamp.replace('GPIO23', 'GPIO18')))).toEqual({ readyLamp: '18', GATE_1: '32' })
  })

  it('that the maker took from another signal’s usual name push that one aside', () => {
    expect(values(named({ 'LAMP.A': 'GATE_1' }))).toEqual({ GATE_1: '23', GATE_1_2: '32' })
  })

  it('given to two pins become two constants, given to one pin twice become one', () => {
    expect(values(named({ 'LAMP.A': 'X', 'GATE.1': 'X' }))).toEqual({ X: '23', X_2: '32' })
    const one = planOf({
      parts: { M: 'tb6612' },
      wires: 'M.AIN1 MCU.GPIO23, M.BIN1 MCU.GPIO23',
    })
    expect(values(resolve({ ...one, names: { 'M.AIN1': 'X', 'M.BIN1': 'X' } }, catalog))).toMatchObject({ X: '23' })
    const made = values(resolve(one, catalog))
    expect([made.M_AIN1, made.M_BIN1]).toEqual(['23', '23'])
  })

  it('of a bus are those of its controller, whoever hangs on it; an address is a constant of its part', () => {
    const wires = 'A.SDA MCU.GPIO21, A.SCL MCU.GPIO22'
    const parts = { A: { part: 'bme280', options: { address: 0x77 } } }
    expect(values(wiringOf({ parts, wires }))).toEqual({
      I2C0_SDA: '21',
      I2C0_SCL: '22',
      I2C0_HERTZ: '100000',
      A_ADDRESS: '0x77',
    })
    const more = wiringOf({
      boards: { MCU: { board: 'esp32-devkit-30', clocks: { i2c0: 400_000 } } },
      parts: { B: 'ssd1306', ...parts },
      wires: `B.SDA MCU.GPIO21, B.SCL MCU.GPIO22, ${wires}`,
    })
    expect(values(more)).toMatchObject({ I2C0_SDA: '21', I2C0_HERTZ: '400000', A_ADDRESS: '0x77', B_ADDRESS: '0x3C' })
  })

  it('of expander pins say on what they are counted', () => {
    const wiring = wiringOf({
      parts: { EXP: 'mcp23017', GATE: 'button', LAST: 'led', R1: 'resistor' },
      wires:
        'EXP.SDA MCU.GPIO21, EXP.SCL MCU.GPIO22, GATE.1 EXP.GPB0, GATE.2 MCU.GND, LAST.A R1.1, R1.2 EXP.GPA7, LAST.K MCU.GND',
    })
    expect(values(wiring)).toMatchObject({ GATE_1_ON_EXP: '8', LAST_A_ON_EXP: '7', EXP_ADDRESS: '0x20' })
  })

  it('lead through a driver to the pins that move its coils, in the order in which they turn', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      parts: { M: 'stepper-28byj48', D: 'uln2003-board' },
      wires:
        'M.BLU D.A, M.PNK D.B, M.YEL D.C, M.ORG D.D, D.IN1 MCU.D8, D.IN2 MCU.D9, D.IN3 MCU.D10, D.IN4 MCU.D11, M.RED D.+',
    })
    expect(values(wiring)).toMatchObject({
      D_IN1: '8',
      M_STEPS: '2048',
      M_COILS: '{ D_IN1, D_IN2, D_IN3, D_IN4 }',
      M_COIL_PAIRS: '{ D_IN1, D_IN3, D_IN2, D_IN4 }',
    })
    // The list stands behind what it names, although the motor comes first in the plan.
    const text = writeConstants(wiring, 'MCU', 'cpp')
    expect(text.indexOf('D_IN4 =')).toBeLessThan(text.indexOf('M_COILS['))
  })

  it('two boards each get their own', () => {
    const wiring = wiringOf({
      boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
      parts: { X: 'button', Y: 'button' },
      wires: 'X.1 A.D2, X.2 A.GND, Y.1 B.GP2, Y.2 B.GND',
    })
    expect(values(wiring, 'A')).toEqual({ X_1: '2' })
    expect(values(wiring, 'B')).toEqual({ Y_1: '2' })
    expect(() => writeConstants(wiring, 'A', 'micropython')).toThrow(RangeError)
  })

  it('tell the hole that is wired where a pin comes out twice', () => {
    const text = writeConstants(
      wiringOf({ mcu: 'nucleo-f446re', parts: { B: 'button' }, wires: 'B.1 MCU.D3, B.2 MCU.GND' }),
      'MCU',
      'cpp',
    )
    expect(text).toMatch(/B_1 = PB3; +\/\/ B\.1: printed D3, /)
  })
})

describe('text of a maker', () => {
  it('cannot leave its comment, in any language', () => {
    const evil = 'x\n#include <evil>\r\nimport os \u2028 y ??/\\'
    const wiring = wiringOf({
      mcu: 'pico',
      parts: { LAMP: { part: 'led', title: evil }, R1: 'resistor' },
      wires: 'LAMP.A R1.1, R1.2 MCU.GP3, LAMP.K MCU.GND',
    })
    const titled = { ...wiring, plan: { ...wiring.plan, title: evil } }
    for (const language of ['cpp', 'micropython', 'circuitpython'] as const) {
      const lines = writeConstants(titled, 'MCU', language).split('\n')
      const code = lines.filter((line) => !/^(\/\/|#(?!\w)|$)/.test(line))
      expect(
        code.every((line) => /^(constexpr|#pragma once$|#include <Arduino.h>$|import board$|LAMP_A)/.test(line)),
      ).toBe(true)
      expect(lines.some((line) => /\\$/.test(line) || line.includes('??/'))).toBe(false)
    }
  })
})

/** A kit of common parts, wired by the assignment on a board. */
function kitOn(board: string): Plan {
  let plan: Plan = { ...emptyPlan(`kit on ${board}`), boards: { MCU: { board } } }
  for (const id of ['led', 'button', 'bme280', 'servo-sg90', 'keypad-4x3', 'hc-sr04p'])
    plan = applyEdits(plan, addParts(plan, catalog, catalog.parts.get(id)!, 1))
  const result = assignChoosing(resolve(plan, catalog))
  return applyEdits(plan, result.edits)
}

describe('what is written is a program', () => {
  let folder = ''
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'markpost-constants-'))
  })
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  const plans = [...samplePlans.map(({ plan }) => plan), ...boards.map(({ id }) => kitOn(id))]

  /** Names with their values as a language's own tool reads them, pins by the text that the board has for them. */
  const expected = (wiring: Wiring, ref: string, language: 'cpp' | 'python'): string[] => {
    const board = wiring.boards.find((one) => one.ref === ref)!
    return linesOf(wiring)
      .filter((line) => line.board === board && line.host.board === board)
      .map(
        ({ host }) =>
          programPin(
            board.board,
            board.facts.pin(host.pin)!,
            language === 'cpp' ? 'cpp' : languagesOf(board.board)[0]!,
          )!,
      )
  }

  it('C++ compiles with all warnings as errors, and has the pins of the plan', () => {
    const codes: string[][] = []
    const units: string[] = []
    const wanted: string[] = []
    for (const plan of plans) {
      const wiring = resolve(plan, catalog)
      for (const { ref, board } of wiring.boards) {
        if (!languagesOf(board).includes('cpp')) continue
        // What the platform defines: names that are no numbers get numbers from 100 on.
        const names = boardFacts(board).pins.flatMap((pin) => programPin(board, pin, 'cpp') ?? [])
        const own = [...new Set(names.filter((name) => /^[A-Z]/.test(name)))]
        codes.push(own)
        const stub = own.map((name, at) => `constexpr int ${name} = ${100 + at};`).join('\n')
        const space = `unit${units.length}`
        const text = writeConstants(wiring, ref, 'cpp').replace(/^#.*$/gm, '')
        const pins = constantsOf(wiring, ref).flatMap(({ constants }) =>
          constants
            .filter(({ value }) => value.is === 'pin')
            .map(({ name }) => `std::printf("%d ", (int)${space}::${name});`),
        )
        units.push(
          `namespace ${space} {\n${stub}\n${text}}\nstatic void print_${space}() { ${pins.join(' ')} std::printf("\\n"); }`,
        )
        wanted.push([...new Set(expected(wiring, ref, 'cpp'))].sort().join(' '))
      }
    }
    const main = `int main() { ${units.map((_, at) => `print_unit${at}();`).join(' ')} }`
    const source = join(folder, 'all.cpp')
    writeFileSync(source, ['#include <cstdint>', '#include <cstdio>', ...units, main].join('\n'))
    const built = spawnSync('g++', ['-std=c++17', '-Wall', '-Wextra', '-Werror', '-o', join(folder, 'all'), source])
    expect(String(built.stderr)).toBe('')
    const ran = String(spawnSync(join(folder, 'all')).stdout)
    const printed = ran
      .trimEnd()
      .split('\n')
      .map((line, unit) =>
        [
          ...new Set(
            line
              .trim()
              .split(' ')
              .filter(Boolean)
              .map((code) => codes[unit]?.[Number(code) - 100] ?? code),
          ),
        ]
          .sort()
          .join(' '),
      )
    expect(printed).toEqual(wanted)
  }, 60_000)

  it('Python of every kind runs, and has the pins of the plan', () => {
    const runs: { text: string; pins: string[] }[] = []
    const wanted: string[] = []
    for (const plan of plans) {
      const wiring = resolve(plan, catalog)
      for (const { ref, board } of wiring.boards)
        for (const language of languagesOf(board)) {
          if (language === 'cpp') continue
          const constants = constantsOf(wiring, ref).flatMap((one) => one.constants)
          runs.push({
            text: writeConstants(wiring, ref, language),
            pins: constants.filter(({ value }) => value.is === 'pin').map(({ name }) => name),
          })
          const pins = linesOf(wiring)
            .filter((line) => line.board.ref === ref && line.host.board?.ref === ref)
            .map(({ host }) => programPin(board, host.board!.facts.pin(host.pin)!, language)!.replace(/'/g, ''))
          wanted.push([...new Set(pins)].sort().join(' '))
        }
    }
    const driver = `
import json, re, sys, types
class Named:
    def __init__(self, name): self.name = name
    def __getattr__(self, part): return Named(self.name + '.' + part)
    def __str__(self): return self.name
for module in ('board', 'microcontroller'):
    sys.modules[module] = Named(module)
machine = types.ModuleType('machine'); machine.Pin = Named('Pin'); sys.modules['machine'] = machine
microbit = types.ModuleType('microbit')
for number in range(21): setattr(microbit, 'pin%d' % number, Named('pin%d' % number))
sys.modules['microbit'] = microbit
for run in json.load(sys.stdin):
    scope = {}
    exec(run['text'], scope)
    print(' '.join(sorted(set(str(scope[name]) for name in run['pins']))))
`
    const done = spawnSync('python3', ['-c', driver], { input: JSON.stringify(runs) })
    expect(String(done.stderr)).toBe('')
    expect(
      String(done.stdout)
        .trimEnd()
        .split('\n')
        .map((line) => line.split(' ').sort().join(' ')),
    ).toEqual(wanted)
  }, 60_000)
})
