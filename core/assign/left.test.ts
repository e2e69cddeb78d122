import { describe, expect, it } from 'vitest'
import { nextStep } from '../advice/nextStep.ts'
import { unitsOf } from '../breadboard/units.ts'
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
  const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
  const probe = 'P.VDD MCU.5V, P.GND MCU.GND, P.DQ MCU.D5'
  /** A button that has its wires, and what lies beside it. */
  const done = (parts: Short['parts'], wires?: string): Short => ({
    mcu: 'uno-r3',
    parts: { B: 'button', ...parts },
    wires: ['B.1 MCU.D4, B.2 MCU.GND', ...(wires === undefined ? [] : [wires])].join(', '),
  })
  it.each<[string, Short, string[]]>([
    [
      'a second battery beside one that feeds',
      { mcu: 'uno-r3', parts: { B: battery(9), C: battery(9) }, wires: fed },
      ['C spare'],
    ],
    ['not the only one, which fits and has no wire yet', { mcu: 'uno-r3', parts: { C: battery(9) } }, []],
    ['one that suits nothing', { mcu: 'pico', parts: { C: battery(9) } }, ['C unfit']],
    ['not when a converter for it lies there', { mcu: 'pico', parts: { C: battery(9), D: 'buck' } }, []],
    [
      'a supply for breadboards beside a board on its socket',
      { mcu: 'uno-r3', parts: { B: 'button', S: 'breadboard-supply' }, wires: 'B.1 MCU.D4, B.2 MCU.GND' },
      ['S spare'],
    ],
    ['a converter without a source', { mcu: 'pico', parts: { D: 'buck' } }, ['D spare']],
    [
      'a second driver of coils',
      {
        mcu: 'uno-r3',
        parts: { M: 'fan', U: 'uln2003', V: 'uln2003' },
        supplies: { PACK: { volts: 12 } },
        wires: 'M.+ PACK.+, PACK.- MCU.GND, M.- U.1C, U.1B MCU.D9, U.E MCU.GND, U.COM PACK.+',
      },
      ['V unused'],
    ],
    ['not a driver module while nothing is there for it to move', done({ M: 'drv8871' }), []],
    ['not a driver whose load has no wire yet', done({ M: 'dc-motor', D: 'drv8871' }), []],
    [
      'a transistor and a diode beside a button that has its wires',
      done({ Q: 'nmos', D: 'diode' }),
      ['Q unused', 'D unused'],
    ],
    ['a converter of levels and a fuse', done({ S: 'max3232', F: 'fuse' }), ['S unused', 'F unused']],
    ['no helper while another part waits', done({ Q: 'nmos', L: 'led' }), []],
    ['no helper where a motor waits for it', done({ Q: 'nmos', M: 'dc-motor' }), []],
    ['no helper with nothing beside it', { mcu: 'uno-r3', parts: { Q: 'nmos' } }, []],
    ['no resistor while a lamp has none', done({ R: ohms(330), L: 'led' }, 'L.A MCU.D5, L.K MCU.GND'), []],
    [
      'a second resistor once a lamp has its own',
      done({ R: ohms(330), S: ohms(330), L: 'led' }, 'L.A R.1, R.2 MCU.D5, L.K MCU.GND'),
      ['S unused'],
    ],
    ['no resistor while a 1-Wire line has no pull-up', done({ R: ohms(4700), P: 'ds18b20-probe' }, probe), []],
    ['no part that wants a pin', done({ L: 'led', K: 'button' }, 'L.A MCU.D5, L.K MCU.GND'), []],
    ['no lamp, however loose', done({ L: 'lamp' }), []],
    ['no shifter with one wire', done({ S: 'shifter-bss138' }, 'S.GND MCU.GND'), []],
    ['not what has a wire', { mcu: 'pico', parts: { C: battery(9) }, wires: 'C.- MCU.GND' }, []],
  ])('%s', (_, short, expected) => {
    expect(boxed(short)).toEqual(expected)
  })

  it('a helper that is not used is not asked for next, and lies on no breadboard', () => {
    const wiring = resolve(planOf(done({ R: ohms(330) })), catalog)
    expect(nextStep(wiring).is).toBe('lay-out')
    expect(unitsOf(wiring).map(({ ref }) => ref)).toEqual(['MCU', 'B'])
    const waits = resolve(planOf(done({ R: ohms(330), L: 'led' })), catalog)
    expect(nextStep(waits).is).toBe('wire')
    const shifter = resolve(planOf(done({ S: 'shifter-bss138' })), catalog)
    const sheet = makeSheet(shifter)
    expect(sheet.left.map(({ ref }) => ref)).toEqual(['S'])
    expect(sheet.notes.filter(({ refs }) => refs.includes('S'))).toEqual([])
    expect(catalog.parts.get('shifter-bss138')?.notes).not.toEqual([])
    expect(unitsOf(waits).map(({ ref }) => ref)).toEqual(['MCU', 'B', 'R', 'L'])
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
