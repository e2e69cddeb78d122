import { describe, expect, it } from 'vitest'
import { nextStep } from '../advice/nextStep.ts'
import { check } from '../rules/index.ts'
import { sift } from '../rules/waiting.ts'
import { coverBody } from '../sheets/cover.ts'
import { makeSheet } from '../sheets/sheet.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { staysInBox } from './left.ts'

const battery = (volts: number) => ({ part: 'battery-box', options: { volts } })
const left = (short: Short) => assign(resolve(planOf(short), catalog)).left

describe('what stays in the box is said', () => {
  it.each<[string, Short, string]>([
    [
      'more than a board takes',
      { mcu: 'pico', parts: { B: battery(9), O: 'ssd1306' } },
      '9.0 V suits no pin of MCU, which takes 1.8 V to 5.5 V at VSYS and 4.75 V to 5.25 V at VBUS; a converter between would help',
    ],
    ['less than a board takes', { mcu: 'uno-r3', parts: { B: battery(3), O: 'ssd1306' } }, 'suits no pin of MCU'],
    [
      'a second one where the first feeds the board',
      { mcu: 'uno-r3', parts: { A: battery(9), B: battery(9), O: 'ssd1306' } },
      'MCU is fed already, and nothing else asks for 9.0 V',
    ],
    [
      'a converter before which nothing gives enough',
      { mcu: 'pico', parts: { B: 'buck', O: 'ssd1306' } },
      'nothing feeds it, or nobody takes what it gives',
    ],
  ])('%s', (_, short, why) => {
    const [one, ...more] = left(short)
    expect(one?.ref).toBe('B')
    expect(one?.why).toContain(why)
    expect(more).toEqual([])
  })

  it('and nothing of what feeds the board, or has a wire already', () => {
    expect(left({ mcu: 'uno-r3', parts: { B: battery(9), O: 'ssd1306' } })).toEqual([])
    expect(left({ mcu: 'pico', parts: { B: battery(9), O: 'ssd1306' }, wires: 'B.- MCU.GND' })).toEqual([])
  })
})

describe('what stays in the box by the wiring as it stands', () => {
  const boxed = (short: Short) => staysInBox(resolve(planOf(short), catalog)).map(({ ref, is }) => `${ref} ${is}`)
  const fed = 'B.+ MCU.VIN, B.- MCU.GND'
  it.each<[string, Short, string[]]>([
    [
      'a second battery beside one that feeds',
      { mcu: 'uno-r3', parts: { B: battery(9), C: battery(9) }, wires: fed },
      ['C spare'],
    ],
    ['not the only one, which fits and has no wire yet', { mcu: 'uno-r3', parts: { C: battery(9) } }, []],
    ['one that suits nothing', { mcu: 'pico', parts: { C: battery(9) } }, ['C unfit']],
    ['not when a converter for it lies there', { mcu: 'pico', parts: { C: battery(9), D: 'buck' } }, []],
    ['a converter without a source', { mcu: 'pico', parts: { D: 'buck' } }, ['D spare']],
    ['not what has a wire', { mcu: 'pico', parts: { C: battery(9) }, wires: 'C.- MCU.GND' }, []],
  ])('%s', (_, short, expected) => {
    expect(boxed(short)).toEqual(expected)
  })

  it('is said by the check and on the cover, is not asked for next, and makes nothing else wait', () => {
    const parts = { B: battery(9), C: battery(9), L: 'led', R: { part: 'resistor', options: { ohms: 330 } } }
    const wiring = resolve(planOf({ mcu: 'uno-r3', parts, wires: `${fed}, MCU.5 R.1, R.2 L.A, L.K MCU.GND` }), catalog)
    const own = check(wiring).filter(({ rule }) => rule === 'pin-unplaced')
    expect(own.map(({ severity, message }) => `${severity}: ${message}`)).toEqual([
      'tip: C feeds nothing: MCU is fed already, and nothing else asks for 9.0 V.',
    ])
    expect(nextStep(wiring).is).toBe('lay-out')
    const cover = coverBody(makeSheet(wiring), {}).text
    expect(cover).toContain('C: MCU is fed already')
    expect(cover).toMatch(/1 × [^<]*\(B\)/)
    expect(cover).toContain('B.+, 9.0 V: takes')
    expect(cover).not.toContain('C.+, 9.0 V: takes')
    const bare = resolve(planOf({ mcu: 'uno-r3', parts, wires: `${fed}, MCU.5 L.A, L.K MCU.GND, R.1 R.2` }), catalog)
    expect(sift(bare, check(bare)).standing.map(({ rule }) => rule)).toContain('led-resistor')
  })
})
