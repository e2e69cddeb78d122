import { expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { countsFilling, makesDivider } from './filling.ts'

it.each([
  [9e-9, false],
  [1e-8, true],
  [1e-5, true],
  [1.1e-5, false],
])('a capacitor of %d F fills in a time that a program counts: %s', (farads, counts) => {
  expect(countsFilling('capacitor', { farads })).toBe(counts)
})

it('takes nothing else for a capacitor, and none without its farads', () => {
  expect(countsFilling('diode', { farads: 1e-6 })).toBe(false)
  expect(countsFilling('capacitor', undefined)).toBe(false)
})

it('knows the resistor of a divider among what parts ask for', () => {
  const asks = (id: string): boolean[] => {
    const part = catalog.parts.get(id)!
    return part.companions.map((one) => makesDivider(part, one))
  }
  expect(asks('ldr')).toEqual([true])
  expect(asks('ntc')).toEqual([true])
  // A pull-up of a line and a resistor in series are none.
  expect(asks('ds18b20')).toEqual([false])
  expect(asks('led')).toEqual([false])
})
