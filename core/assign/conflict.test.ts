import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fitBoards } from '../advice/fit.ts'
import { moveBoard } from '../advice/moveBoard.ts'
import { waysOut } from '../advice/waysOut.ts'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { randomKit } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { conflictIn, conflictOf, fits, hingesOf } from './conflict.ts'
import { openSignals, prepare } from './preparing.ts'

const many = (count: number, part: string) =>
  Object.fromEntries(Array.from({ length: count }, (_, index) => [`X${index}`, part]))
const battery = (volts: number) => ({ part: 'battery-box', options: { volts } })
const conflict = (short: Short) => {
  const fed = prepare(resolve(planOf(short), catalog)).wiring
  return { fed, found: conflictOf(fed, openSignals(fed)) }
}

describe('conflict', () => {
  const table: readonly [string, Short, string[], RegExp][] = [
    [
      'UARTs',
      { parts: { A: 'gps-uart', B: 'hc-12', C: 'mh-z19' } },
      ['A', 'B', 'C'],
      /need a UART each, and MCU has 2 UART controllers left/,
    ],
    ['one address twice', { mcu: 'uno-r3', parts: { A: 'ds3231', B: 'ds3231', L: 'led' } }, ['A', 'B'], /an I2C bus/],
    [
      'edges',
      { mcu: 'uno-r3', parts: { ...many(3, 'hall-a3144'), L: 'led' } },
      ['X0', 'X1', 'X2'],
      /an edge interrupt each/,
    ],
    [
      'a knob where nothing is analog',
      { mcu: 'pi-40', parts: { K: 'potentiometer', B: 'button' } },
      ['K'],
      /No free pin/,
    ],
  ]
  it.each(table)('%s', (_, short, parts, text) => {
    const { found } = conflict(short)
    expect(found?.parts.map((part) => part.ref).sort()).toEqual(parts)
    expect(found?.text).toMatch(text)
  })

  it('is a conflict, and every part of it but one fits', () => {
    fc.assert(
      fc.property(randomKit, (plan) => {
        const fed = prepare(resolve(plan, catalog)).wiring
        const found = conflictOf(fed, openSignals(fed))
        if (!found) {
          expect(fits(fed, openSignals(fed))).toBe(true)
          return
        }
        const uses = fed.signals.filter((use) => found.needs.includes(use.end))
        expect(fits(fed, uses)).toBe(false)
        for (const part of found.parts.length > 1 ? found.parts : [])
          expect(
            fits(
              fed,
              uses.filter((use) => use.part !== part),
            ),
          ).toBe(true)
      }),
      { numRuns: times(40) },
    )
  })
})

describe('what must change', () => {
  const hinges = (short: Short, can: RegExp): string[] => {
    const fed = prepare(resolve(planOf(short), catalog)).wiring
    return hingesOf(fed, openSignals(fed), ({ ref }) => can.test(ref)).map(({ ref }) => ref)
  }
  it.each<[string, Short, RegExp, string[]]>([
    ['one of two at one address', { mcu: 'uno-r3', parts: { A: 'bme280', B: 'bme280' } }, /[AB]/, ['A', 'B']],
    ['the one that can', { mcu: 'uno-r3', parts: { A: 'bme280', B: 'bme280' } }, /B/, ['B']],
    [
      'nobody who has nothing to do with it',
      { mcu: 'uno-r3', parts: { A: 'bme280', B: 'bme280', C: 'bh1750' } },
      /C/,
      [],
    ],
    ['nobody where all fit', { mcu: 'uno-r3', parts: { A: 'bme280', B: 'bh1750' } }, /[AB]/, []],
    ['none of two that two buses part', { parts: { A: 'bme280', B: 'bme280' } }, /[AB]/, []],
    [
      'one of three on two buses',
      { parts: { A: 'bme280', B: 'bme280', C: 'bme280', L: 'led' } },
      /[ABC]/,
      ['A', 'B', 'C'],
    ],
    // A and B cannot both stay: what cannot change counts as far as it finds a place.
    [
      'beside what cannot all be placed',
      { mcu: 'uno-r3', parts: { A: 'ds1307', B: 'ds1307', C: 'bme280', D: 'bme280' } },
      /D/,
      ['D'],
    ],
    ['a taker of a scarce pin', { mcu: 'uno-r3', parts: { ...many(3, 'hall-a3144') } }, /X1/, ['X1']],
  ])('%s', (_, short, can, expected) => {
    expect(hinges(short, can).sort()).toEqual(expected)
  })

  it('does not fit beside what cannot change, and does without any one of it', () => {
    fc.assert(
      fc.property(randomKit, fc.integer({ min: 0, max: 3 }), (plan, odd) => {
        const fed = prepare(resolve(plan, catalog)).wiring
        const open = openSignals(fed)
        const can = (part: { ref: string }): boolean => (part.ref.length + part.ref.charCodeAt(0) + odd) % 4 !== 0
        const found = hingesOf(fed, open, can)
        const fixed = open.filter(({ part }) => !can(part))
        if (found.length === 0) {
          // Then nothing that can change is to blame: what cannot does not fit by itself, or all does.
          if (fits(fed, fixed)) expect(fits(fed, open)).toBe(true)
          return
        }
        expect(found.every(can)).toBe(true)
        const usesOf = (parts: readonly unknown[]) => open.filter(({ part }) => parts.includes(part))
        if (fits(fed, fixed)) expect(fits(fed, [...fixed, ...usesOf(found)])).toBe(false)
        for (const one of found) expect(fits(fed, usesOf(found.filter((part) => part !== one)))).toBe(true)
      }),
      { numRuns: times(40) },
    )
  })
})

describe('ways', () => {
  const table: readonly [string, Short, RegExp][] = [
    ['another address', { mcu: 'uno-r3', parts: { A: 'bme280', B: 'bme280' } }, /^Move [AB] to 0x77/],
    ['a feature less', { parts: { A: 'gps-uart', B: 'hc-12', C: 'pms5003' } }, /^Do without: USB serial/],
    ['a bus switch', { mcu: 'uno-r3', parts: { A: 'ds3231', B: 'ds3231' } }, /TCA9548A/],
    ['a converter', { mcu: 'pi-40', parts: { K: 'potentiometer' } }, /ADS1115/],
    ['an expander', { mcu: 'uno-r3', parts: many(25, 'button') }, /MCP23017/],
  ]
  it('a supply is offered for a part whose voltage the board has not', () => {
    const wiring = resolve(planOf({ mcu: 'pico', parts: { STEP: 'a4988' } }), catalog)
    const result = assign(wiring)
    expect(result.unplaced.map(({ end }) => end)).toContain('STEP.VMOT')
    const [best] = waysOut(wiring, result, undefined)
    expect(best?.title).toMatch(/^Add a supply of \d+\.\d V for STEP$/)
    const after = resolve(applyEdits(wiring.plan, best!.edits), catalog)
    expect(assign(after).unplaced).toEqual([])
  })
  it.each([
    ['pico', 'hc-sr04', 'B.ECHO'],
    ['esp32-devkit-30', 'hc-sr04', 'B.ECHO'],
    ['pi-40', 'jsn-sr04t', 'B.ECHO'],
    ['esp8266-d1-mini', 'hc-sr04', 'B.ECHO'],
  ])(
    'two resistors come first for a line of 5 V on %s (%s), then a shifter; either is built in full',
    (mcu, part, line) => {
      const wiring = resolve(planOf({ mcu, parts: { B: part } }), catalog)
      const result = assign(wiring)
      expect(result.unplaced.map(({ end }) => end)).toEqual([line])
      const ways = waysOut(wiring, result, conflictIn(wiring, result.unplaced))
      expect(ways[0]?.title).toMatch(new RegExp(`^Put a divider of two resistors into the line of ${line}`))
      expect(ways[1]?.title).toMatch(/level shifter/)
      for (const { edits } of ways.slice(0, 2)) {
        const plan = applyEdits(wiring.plan, edits)
        const after = resolve(plan, catalog)
        expect(assign(after).edits).toEqual([])
        expect(check(after).filter(({ severity }) => severity === 'fault')).toEqual([])
        const fresh = Object.entries(plan.parts).filter(([ref]) => ref !== 'B')
        expect(fresh.length).toBeGreaterThan(0)
        expect(fresh.every(([, { buy }]) => buy === true)).toBe(true)
      }
    },
  )
  it('says of a level that it is the level, and of a line beside it that it goes along', () => {
    const wiring = resolve(planOf({ mcu: 'uno-r3', parts: { B: 'hc-05' } }), catalog)
    const result = assign(wiring)
    expect(result.unplaced.map(({ end, reasons }) => [end, reasons.at(-1)])).toEqual([
      ['B.TXD', 'by software: goes with B.RXD, without a pin'],
      ['B.RXD', 'by software: 5.0 V into 3.6 V'],
    ])
    expect(conflictIn(wiring, result.unplaced)?.text).toBe(
      'No pin takes B.RXD at the level that it has: lines of different levels need something between them.',
    )
    // Where something else collides, that is said.
    const two = resolve(planOf({ mcu: 'uno-r3', parts: { B: 'hc-05', C: 'gps-uart', D: 'gps-uart' } }), catalog)
    expect(conflictIn(two, assign(two).unplaced)?.text).toMatch(/C.*a UART/)
  })
  it('says why no program listens: too fast, or listening to another', () => {
    const reasons = (parts: Short['parts']) =>
      assign(resolve(planOf({ mcu: 'uno-r3', parts }), catalog)).unplaced.map((one) => one.reasons.at(-1))
    expect(reasons({ F: 'tfmini' })).toEqual(['by software: 115200 baud, and 57600 at most'])
    expect(reasons({ G: 'gps-uart', H: 'gps-uart' })).toEqual([
      'by software: a program listens to one line at a time, and G has it',
    ])
  })
  it('two lines of two parts get two resistors each', () => {
    const wiring = resolve(planOf({ mcu: 'pico', parts: { A: 'hc-sr04', B: 'hc-sr04' } }), catalog)
    const result = assign(wiring)
    const [best] = waysOut(wiring, result, conflictIn(wiring, result.unplaced))
    expect(best?.title).toMatch(/^Put a divider of two resistors into the line of A\.ECHO, B\.ECHO/)
    expect(best?.left).toBe(0)
    const plan = applyEdits(wiring.plan, best!.edits)
    expect(Object.values(plan.parts).filter(({ part }) => part === 'resistor')).toHaveLength(4)
    expect(check(resolve(plan, catalog)).filter(({ severity }) => severity === 'fault')).toEqual([])
  })
  it('wheels on one side of a car turn together, where the driver bears both', () => {
    const wheels = (refs: readonly string[], milliamps: number): Wiring => {
      const wheel = { part: 'dc-motor', options: { milliamps, stall: milliamps } }
      const parts = { D: 'drv8833', ...Object.fromEntries(refs.map((ref) => [ref, wheel])) }
      const supplies = { PACK: { volts: 6, limitMilliamps: 9000 } }
      return resolve(planOf({ mcu: 'uno-r3', supplies, parts }), catalog)
    }
    const four = ['M1', 'M2', 'M3', 'M4']
    const offered = (wiring: Wiring) => {
      const result = assign(wiring)
      return waysOut(wiring, result, conflictIn(wiring, result.unplaced))
    }
    const bothOf = (after: Wiring): void => {
      expect(after.netOf('M3.M1')).toBe(after.netOf('M1.M1'))
      expect(after.netOf('M3.M2').ends.filter((end) => end.startsWith('D.'))).toHaveLength(1)
      expect(check(after).filter(({ severity }) => severity === 'fault')).toEqual([])
    }
    // Two and two are put together at once; of three nobody knows which two, so that it is a way out.
    const result = assign(wheels(four, 600))
    expect(result.unplaced).toEqual([])
    bothOf(resolve(applyEdits(wheels(four, 600).plan, result.edits), catalog))
    const three = wheels(four.slice(0, 3), 600)
    const [best] = offered(three)
    expect(best).toMatchObject({ title: 'In parallel on one pair of outputs: M3 with M1', left: 0 })
    bothOf(resolve(applyEdits(three.plan, best!.edits), catalog))
    expect(offered(wheels(four, 1100)).filter(({ title }) => title.startsWith('In parallel'))).toEqual([])
  })
  it.each<[string, Short, readonly string[]]>([
    [
      'a buzzer that is too much for a pin',
      { mcu: 'pi-40', parts: { Z: 'buzzer-active' } },
      ['N-channel MOSFET', 'NPN'],
    ],
    ['a pump that nothing switches', { mcu: 'uno-r3', parts: { P: 'pump', B: battery(6) } }, ['N-channel MOSFET']],
    ['a motor that turns both ways', { mcu: 'uno-r3', parts: { M: 'dc-motor', B: battery(6) } }, ['TB6612FNG']],
    [
      'a stepper with two coils',
      { mcu: 'uno-r3', parts: { S: 'stepper-bipolar', B: battery(12) } },
      ['A4988', 'TB6612FNG'],
    ],
  ])('%s gets a transistor or a driver, before all else, with what that needs', (_, short, titles) => {
    const wiring = resolve(planOf(short), catalog)
    const result = assign(wiring)
    expect(result.unplaced).not.toEqual([])
    const ways = waysOut(wiring, result, conflictIn(wiring, result.unplaced)).slice(0, titles.length)
    for (const [at, title] of titles.entries()) expect(ways[at]?.title).toContain(title)
    for (const { edits } of ways) {
      const after = resolve(applyEdits(wiring.plan, edits), catalog)
      expect(assign(after).unplaced).toEqual([])
      expect(check(after).filter(({ severity }) => severity === 'fault')).toEqual([])
    }
  })
  it('no driver is offered where nothing asks for one', () => {
    const wiring = resolve(planOf({ mcu: 'uno-r3', parts: { A: 'ds3231', B: 'ds3231', L: 'led' } }), catalog)
    const result = assign(wiring)
    const ways = waysOut(wiring, result, conflictIn(wiring, result.unplaced))
    expect(ways.filter(({ title }) => title.startsWith('Drive'))).toEqual([])
  })
  it('no divider where the board reads the level, and another supply first where the part takes it', () => {
    const uno = resolve(planOf({ mcu: 'uno-r3', parts: { B: 'hc-sr04' } }), catalog)
    expect(assign(uno).unplaced).toEqual([])
    const fed = resolve(planOf({ mcu: 'pico', parts: { B: 'hc-sr04p' }, wires: 'B.VCC MCU.VBUS' }), catalog)
    const result = assign(fed)
    const ways = waysOut(fed, result, conflictIn(fed, result.unplaced)).map(({ title }) => title)
    expect(ways[0]).toBe('Feed B from MCU.3V3 (3.3 V)')
    expect(ways[1]).toMatch(/^Put a divider/)
  })
  it.each(table)('%s is offered, and what is offered works', (_, short, title) => {
    const wiring = resolve(planOf(short), catalog)
    const result = assign(wiring)
    const { found } = conflict(short)
    const ways = waysOut(wiring, result, found!)
    expect(ways.map((one) => one.title).some((one) => title.test(one))).toBe(true)
    for (const one of ways) {
      const after = resolve(applyEdits(wiring.plan, one.edits), catalog)
      expect(openSignals(after).length).toBeLessThan(result.unplaced.length)
    }
    const lefts = ways.map((one) => one.left)
    expect(lefts).toEqual([...lefts].sort((a, b) => a - b))
  })
})

describe('another board', () => {
  const short: Short = { parts: { A: 'bme280', O: 'ssd1306', L: 'led', B: 'button', K: 'potentiometer' } }
  it('ranks the boards that carry everything before those that do not', () => {
    const ranked = fitBoards(planOf(short), catalog)
    expect(ranked).toHaveLength(catalog.boards.size)
    const counts = ranked.map((one) => one.left.length)
    expect(counts).toEqual([...counts].sort((a, b) => a - b))
    expect(ranked.find((one) => one.board.id === 'pi-40')?.left).toEqual(['K.W'])
  })
  it('moves a wired plan and says what to do with each wire', () => {
    const plan = planOf(short)
    const wired = applyEdits(plan, assign(resolve(plan, catalog)).edits)
    const moved = moveBoard(wired, catalog, 'MCU', 'pico')
    const after = applyEdits(wired, moved.edits)
    const { stay, move, come, go } = moved.replug
    expect(after.boards.MCU?.board).toBe('pico')
    expect(moved.unplaced).toEqual([])
    expect(check(resolve(after, catalog)).filter((one) => one.severity === 'fault')).toEqual([])
    expect(stay.length + move.length + go.length).toBe(wired.wires.length)
    expect(stay.length + move.length + come.length).toBe(after.wires.length)
  })
})
