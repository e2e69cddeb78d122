import { describe, expect, it } from 'vitest'
import { assign } from '../assign/assign.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf, type Short, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { allowing, pinAnswers } from './whyPin.ts'

const answersOf = (short: Short, end: string) => {
  const wiring = wiringOf(short)
  const use = wiring.signal(end)
  if (!use) throw new Error(end)
  return pinAnswers(wiring, use)
}
const blockOf = (short: Short, end: string, pin: string) => {
  const found = answersOf(short, end).find((one) => one.pin === pin)
  expect(found?.state).toBe('blocked')
  return found?.blocked
}

describe('why not this pin', () => {
  it('says as data what keeps a signal off', () => {
    const lamp: Short = { parts: { L: 'led', R: 'resistor' }, wires: 'L.A R.1, L.K MCU.GND' }
    expect(blockOf(lamp, 'L.A', 'MCU.GPIO34')).toEqual({ kind: 'direction', only: 'input' })
    expect(blockOf({ mcu: 'pico', parts: { K: 'potentiometer' } }, 'K.W', 'MCU.GP2')).toEqual({
      kind: 'lacks',
      needs: 'analog-in',
    })
    expect(
      blockOf(
        { mcu: 'uno-r3', parts: { A: 'button', B: 'button' }, wires: 'A.1 MCU.D4, A.2 MCU.GND' },
        'B.1',
        'MCU.D4',
      ),
    ).toEqual({ kind: 'taken', by: 'A.1' })
    expect(blockOf({ mcu: 'uno-r3', parts: { B: 'button' }, wires: 'MCU.D4 MCU.GND' }, 'B.1', 'MCU.D4')).toEqual({
      kind: 'supply',
    })
    expect(blockOf({ uses: ['usb-serial', 'wifi'], parts: { K: 'potentiometer' } }, 'K.W', 'MCU.GPIO25')).toMatchObject(
      { kind: 'feature', whole: false },
    )
    expect(
      blockOf({ mcu: 'pico', parts: { E: 'hc-sr04' }, wires: 'E.VCC MCU.VBUS' }, 'E.ECHO', 'MCU.GP3'),
    ).toMatchObject({ kind: 'level', volts: 5, pulled: false })
    expect(
      blockOf(
        { mcu: 'uno-r3', parts: { X: 'mcp23017', E: 'hc-sr04' }, wires: 'X.VDD MCU.5V, X.VSS MCU.GND' },
        'E.ECHO',
        'X.GPA0',
      ),
    ).toMatchObject({ kind: 'slow' })
  })
  it('says what a free pin would cost more, and the best costs nothing more', () => {
    const answers = answersOf({ mcu: 'uno-r3', uses: [], parts: { B: 'button' } }, 'B.1')
    const free = answers.filter(({ state }) => state === 'free')
    expect(free[0]?.points).toBe(0)
    expect(free.map(({ points }) => points)).toEqual([...free.map(({ points }) => points)].sort((a, b) => a! - b!))
    const analog = answers.find(({ pin }) => pin === 'MCU.A0')
    expect(analog?.points).toBeGreaterThan(3)
    expect(analog?.text).toMatch(/^B\.1 needs .* and could go on MCU\.A0, for .* points more; .*spends analog/)
  })
  it('of a pin that the search chose: none that is free costs less', () => {
    const plan = planOf({ parts: { A: 'bme280', S: 'servo-sg90', B: 'button', K: 'potentiometer' } })
    const after = resolve(applyEdits(plan, assign(resolve(plan, catalog)).edits), catalog)
    for (const end of ['S.SIG', 'B.1', 'K.W']) {
      const answers = pinAnswers(after, after.signal(end)!)
      const here = answers.find(({ state }) => state === 'here')
      expect(here?.points, end).toBe(0)
      expect(
        Math.min(...answers.flatMap(({ state, points }) => (state === 'free' ? [points!] : []))),
        end,
      ).toBeGreaterThan(-2.1)
      expect(here?.text).toContain('and lies on')
    }
  })
})

describe('what would allow a pin that does not suit', () => {
  const allowed = (short: Parameters<typeof wiringOf>[0], end: string, pin: string): string | undefined => {
    const wiring = wiringOf(short)
    const use = wiring.signal(end)!
    const answer = pinAnswers(wiring, use).find((one) => one.pin === pin)
    return answer?.blocked ? allowing(use, answer.blocked) : undefined
  }
  const uno = { mcu: 'uno-r3', uses: ['usb-serial'] }
  it('a feature less, a level brought down, a pin given up, or software', () => {
    expect(allowed({ ...uno, parts: { B: 'button' } }, 'B.1', 'MCU.D0')).toMatch(/^Without USB serial, .* in the Kit/)
    expect(allowed({ parts: { S: 'hc-sr04' }, wires: 'S.VCC MCU.VIN, S.GND MCU.GND' }, 'S.ECHO', 'MCU.GPIO4')).toMatch(
      /^Two resistors in the line/,
    )
    const taken = { mcu: 'uno-r3', parts: { A: 'button', B: 'button' }, wires: 'A.1 MCU.D4' }
    expect(allowed(taken, 'B.1', 'MCU.D4')).toBe('Swap the two, or move A.1 first.')
    expect(allowed({ mcu: 'uno-r3', parts: { G: 'hc-05' } }, 'G.TXD', 'MCU.D4')).toMatch(/^By software/)
  })
  it('nothing where nothing helps, and no word of a pin that suits', () => {
    expect(allowed({ mcu: 'uno-r3', parts: { K: 'potentiometer' } }, 'K.W', 'MCU.D4')).toBeUndefined()
    expect(allowed({ mcu: 'uno-r3', parts: { B: 'button' } }, 'B.1', 'MCU.D4')).toBeUndefined()
  })
})
