import { describe, expect, it } from 'vitest'
import { type Catalog, makeCatalog } from '../catalog/catalog.ts'
import { check } from '../rules/index.ts'
import { catalog, fed, planOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { describeDifference } from './difference.ts'
import { applyEdit } from './edit.ts'
import type { Plan } from './planSchema.ts'
import { readPlan } from './readPlan.ts'
import { writePlan } from './writePlan.ts'

const plan = planOf({
  uses: ['usb-serial', 'wifi'],
  parts: { CLIMATE: { part: 'bme280', mode: 'i2c', options: { address: 0x77 } }, LAMP: 'led', R1: 'resistor' },
  wires: `${fed('CLIMATE')}, CLIMATE.SDA MCU.GPIO21, CLIMATE.SCL MCU.GPIO22, LAMP.A R1.1, R1.2 MCU.GPIO23, LAMP.K MCU.GND`,
  unused: ['CLIMATE.SDO'],
  bench: { breadboards: { BB1: { kind: 'full' } }, places: { CLIMATE: { at: 'BB1.a5' } } },
})
const text = writePlan(plan, catalog)

/** The catalogue as it could become: entries gone, or changed. */
const changed = (change: { lacks?: string[]; part?: (part: Part) => Part; board?: (board: Board) => Board }): Catalog =>
  makeCatalog(
    [...catalog.boards.values()].filter((one) => !change.lacks?.includes(one.id)).map(change.board ?? ((one) => one)),
    [...catalog.parts.values()].filter((one) => !change.lacks?.includes(one.id)).map(change.part ?? ((one) => one)),
  )
type Part = NonNullable<ReturnType<Catalog['parts']['get']>>
type Board = NonNullable<ReturnType<Catalog['boards']['get']>>

const opened = (from: string, now: Catalog): Plan => {
  const read = readPlan(from, 'f', now, 'set-aside')
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  return read.value
}

describe('a plan that does not fit the catalogue any more', () => {
  it.each<[string, Catalog, string[]]>([
    [
      'a part is gone',
      changed({ lacks: ['bme280'] }),
      ['The part CLIMATE', 'The note that CLIMATE.SDO', 'The place of CLIMATE', 'The wire CLIMATE.VCC'],
    ],
    ['a board is gone', changed({ lacks: ['esp32-devkit-30'] }), ['The board MCU', 'The wire CLIMATE.VCC']],
    [
      'an option is gone',
      changed({ part: (one) => (one.id === 'bme280' ? { ...one, options: [] } : one) }),
      ['address of CLIMATE'],
    ],
    ['a mode is gone', changed({ part: (one) => ({ ...one, modes: [] }) }), ['mode of CLIMATE']],
    [
      'a pin is called otherwise',
      changed({
        part: (one) =>
          one.id === 'led' ? (JSON.parse(JSON.stringify(one).replaceAll('"A"', '"ANODE"')) as Part) : one,
      }),
      ['The wire LAMP.A to R1.1'],
    ],
    [
      'a feature is gone',
      changed({ board: (one) => ({ ...one, features: one.features.filter(({ id }) => id !== 'wifi') }) }),
      ['uses of MCU'],
    ],
  ])('%s: opens with findings, keeps every piece, and is whole again with the old catalogue', (_, now, pieces) => {
    expect(readPlan(text, 'f', now).ok).toBe(false)
    const found = opened(text, now)
    const messages = check(resolve(found, now))
      .filter((one) => one.rule === 'set-aside')
      .map((one) => one.message)
    for (const piece of pieces) expect(messages.join('\n')).toContain(piece)
    const written = writePlan(found, now, text)
    expect(opened(written, now)).toEqual(found)
    const whole = opened(written, catalog)
    expect(whole.aside).toBeUndefined()
    expect(describeDifference(plan, whole, catalog)).toEqual([])
    // A file that says what was set aside is read without a word about it, also where a misfit is refused.
    expect(readPlan(written, 'f', now).ok).toBe(true)
  })

  it('tells in words what was set aside and what was taken out', () => {
    const [whole, partly] = [opened(text, catalog), opened(text, changed({ lacks: ['bme280'] }))]
    const number = partly.aside!.length
    expect(describeDifference(whole, partly, catalog)).toContain(
      `${number} more pieces set aside, which the catalogue does not know`,
    )
    expect(describeDifference(partly, whole, catalog)).toContain(`${number} of the pieces set aside taken out`)
    const fewer = applyEdit(partly, { do: 'forget-aside', piece: partly.aside![0]! })
    expect(describeDifference(partly, fewer, catalog)).toEqual(['1 of the pieces set aside taken out'])
    expect(describeDifference(fewer, partly, catalog)).toEqual([
      '1 more piece set aside, which the catalogue does not know',
    ])
  })

  it('lets go of a piece for good, and only of that one', () => {
    const now = changed({ lacks: ['bme280'] })
    const found = opened(text, now)
    const piece = found.aside?.find((one) => one.at[0] === 'parts')
    expect(piece?.at).toEqual(['parts', 'CLIMATE'])
    const left = applyEdit(found, { do: 'forget-aside', piece: piece! })
    expect(left.aside).toHaveLength(found.aside!.length - 1)
    const again = opened(writePlan(left, now, text), catalog)
    expect(again.parts).not.toHaveProperty('CLIMATE')
    expect(again.aside?.every((one) => one.at[0] !== 'parts')).toBe(true)
  })

  it('does not put a piece over one that took its place', () => {
    const now = changed({ lacks: ['bme280'] })
    const taken = applyEdit(opened(text, now), { do: 'add-part', ref: 'CLIMATE', entry: { part: 'button' } })
    const again = opened(writePlan(taken, now, text), catalog)
    expect(again.parts.CLIMATE?.part).toBe('button')
    expect(again.aside?.some((one) => one.at.join('.') === 'parts.CLIMATE')).toBe(true)
  })

  it('still refuses what is wrong in itself', () => {
    expect(readPlan(text.replace('LAMP: {', 'lamp: {part: led}\n  LAMP: {'), 'f', catalog, 'set-aside').ok).toBe(false)
  })
})
