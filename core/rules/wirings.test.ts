import { describe, expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { mistaken, sound } from '../testing/wiringSuite.ts'
import { check } from './index.ts'

const faults = (short: Parameters<typeof wiringOf>[0]): string[] =>
  check(wiringOf(short))
    .filter((one) => one.severity === 'fault')
    .map((one) => `${one.rule}: ${one.message}`)

describe('sound wirings stay free of faults', () => {
  it.each(sound)('$title', (short) => {
    expect(faults(short)).toEqual([])
  })
})

describe('mistakes are found by the rule that is there for them', () => {
  it.each(mistaken)('$rule: $title', ({ rule, ...short }) => {
    const found = check(wiringOf(short)).map((one) => one.rule)
    expect(found).toContain(rule)
    // No other rule cries fault at it.
    expect([...new Set(faults(short).map((one) => one.split(':')[0]))].filter((one) => one !== rule)).toEqual([])
  })
})
