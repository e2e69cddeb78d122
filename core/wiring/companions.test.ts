import { expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { duplicatePart, editsOfCompanion } from '../plan/kit.ts'
import { catalog, fed, planOf, type Short, wiringOf } from '../testing/plans.ts'
import { companionsOf, ownerOf } from './companions.ts'
import { countPins } from './pinCount.ts'
import { resolve } from './resolve.ts'

const owners: readonly [string, Short, string, string | undefined][] = [
  [
    'a resistor in the lead of an LED belongs to it',
    { parts: { L: 'led', R: 'resistor' }, wires: 'L.A R.1, R.2 MCU.GPIO4, L.K MCU.GND' },
    'R',
    'L',
  ],
  [
    'a pull-up between data and supply belongs to the sensor',
    { parts: { S: 'dht22', R: 'resistor' }, wires: `${fed('S')}, S.DATA MCU.GPIO4, R.1 MCU.GPIO4, R.2 MCU.3V3` },
    'R',
    'S',
  ],
  [
    'a resistor elsewhere belongs to nobody',
    { parts: { S: 'dht22', R: 'resistor' }, wires: `${fed('S')}, R.1 MCU.GPIO5, R.2 MCU.GND` },
    'R',
    undefined,
  ],
  [
    'one resistor plays for one of two LEDs',
    { parts: { L: 'led', M: 'led', R: 'resistor' }, wires: 'L.A R.1, M.A MCU.GPIO5, R.2 MCU.GPIO4' },
    'R',
    'L',
  ],
]
it.each(owners)('%s', (_, short, companion, owner) => {
  const wiring = wiringOf(short)
  expect(ownerOf(wiring, wiring.parts.find((part) => part.ref === companion)!)?.ref).toBe(owner)
})

it.each([...catalog.parts.values()].filter((part) => part.companions.length > 0).map((part) => [part.id] as const))(
  'each companion of %s, added with one press, is then seen as its own',
  (id) => {
    const plan = planOf({ mcu: 'uno-r3', parts: { X: id }, supplies: { PACK: { volts: 12 } } })
    for (const facts of catalog.parts.get(id)!.companions) {
      const edits = editsOfCompanion(plan, catalog, 'X', facts)
      const wiring = resolve(applyEdits(plan, edits), catalog)
      const owner = wiring.parts.find((part) => part.ref === 'X')!
      const wish = companionsOf(wiring, owner).find((one) => one.facts === facts)
      // One of another mode or option is not asked for now.
      if (wish && facts.across === undefined && facts.series !== undefined) expect(wish.present).toBeDefined()
      expect(edits[0]).toMatchObject({ do: 'add-part', entry: { part: facts.part } })
    }
  },
)

it('a part is duplicated with mode and options, on the next free address', () => {
  const plan = planOf({ parts: { A: { part: 'bme280', mode: 'i2c', options: { address: 0x76 }, title: 'Loft' } } })
  const twin = applyEdits(plan, duplicatePart(plan, catalog, 'A'))
  const [, entry] = Object.entries(twin.parts).find(([ref]) => ref !== 'A')!
  expect(entry).toMatchObject({ part: 'bme280', mode: 'i2c', options: { address: 0x77 }, title: 'Loft (copy)' })
})

const counted: readonly [string, Short, string, [number, number], string[]][] = [
  ['analog inputs', { mcu: 'uno-r3', parts: { A: 'ldr', B: 'ntc' } }, 'analog-in', [2, 6], []],
  ['UARTs, one a part', { mcu: 'uno-r3', uses: [], parts: { A: 'gps-uart', B: 'mh-z19' } }, 'uart', [2, 1], ['B.TX']],
  ['lines of buttons, one each', { mcu: 'uno-r3', parts: { A: 'button', B: 'button' } }, 'digital-in', [2, 18], []],
  [
    'inputs on one pin once',
    { mcu: 'uno-r3', parts: { A: 'button', B: 'button' }, wires: 'A.1 MCU.2, B.1 MCU.2, A.2 MCU.GND, B.2 MCU.GND' },
    'digital-in',
    [1, 18],
    [],
  ],
  [
    'and what drives one pin against another as two',
    { mcu: 'uno-r3', parts: { A: 'hc-sr501', B: 'hc-sr501' }, wires: `${fed('A', 'B')}, A.OUT MCU.2, B.OUT MCU.2` },
    'digital-in',
    [2, 18],
    [],
  ],
  ['a bus that parts share counts once', { mcu: 'uno-r3', parts: { A: 'bme280', B: 'ssd1306' } }, 'i2c', [1, 1], []],
]
it.each(counted)('counts %s', (_, short, id, [need, have], left) => {
  const wiring = wiringOf(short)
  const count = countPins(wiring, wiring.boards[0]!)
  expect(count.lines.find((line) => line.id === id)).toMatchObject({ need, have })
  expect(count.left.map((use) => use.end).sort()).toEqual(left)
})

it('more signals than pins leave some over, expander pins taken in', () => {
  const buttons = Object.fromEntries(Array.from({ length: 24 }, (_, index) => [`B${index}`, 'button']))
  const bare = wiringOf({ mcu: 'uno-r3', parts: buttons })
  const helped = wiringOf({ mcu: 'uno-r3', parts: { ...buttons, MORE: 'mcp23017' } })
  expect(countPins(bare, bare.boards[0]!).left.length).toBeGreaterThan(0)
  expect(countPins(helped, helped.boards[0]!).left).toEqual([])
})
