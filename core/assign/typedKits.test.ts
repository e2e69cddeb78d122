import { describe, expect, it } from 'vitest'
import { seeded } from '../base/random.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { once } from '../testing/once.ts'
import { catalog } from '../testing/plans.ts'
import { recordOf } from '../testing/record.ts'
import { typedKits } from '../testing/typedKits.ts'
import { answered, answerLines, planTyped, roundsIn, wiredUp } from '../testing/wiredKits.ts'
import { resolve } from '../wiring/resolve.ts'
import { assignChoosing } from './choosing.ts'

const record = recordOf('answersTyped.txt')

describe.each(typedKits)('$typed', ({ typed, why, wired, open, set, faults = [], adds = [] }) => {
  const all = once(() => answered(planTyped(typed)))
  it('is wired from what is typed', () => {
    const { plan, after, ended, found } = all()
    for (const net of wired.split(', ')) {
      const ends = net.split(' ').map((end) => new RegExp(`^(?:${end.replace(/[.+]/g, '\\$&')})$`))
      const isThere = ended.nets.some((one) => ends.every((end) => one.ends.some((name) => end.test(name))))
      expect(isThere, `${net}: ${why}`).toBe(true)
    }
    for (const end of open?.split(' ') ?? []) expect(ended.netOf(end).wired, `${end}: ${why}`).toBe(false)
    if (set !== undefined) {
      const [end = '', value = ''] = set.split(' ')
      const [ref = '', option = ''] = end.split('.')
      expect(String(after.parts[ref]?.options?.[option]), why).toBe(value)
    }
    const added = Object.entries(after.parts).flatMap(([ref, { part }]) => (ref in plan.parts ? [] : [part]))
    expect(added, why).toEqual(adds)
    const cried = found.filter(({ severity, rule }) => severity === 'fault' && !faults.includes(rule))
    expect(cried.map(({ message }) => message)).toEqual([])
    expect(roundsIn(after)).toEqual([])
  })
  it('is as on record', () => record(typed, answerLines(all())))
})

describe('from what is typed to the wires', () => {
  it.each([
    'bme280, oled, rotary encoder, 3 buttons',
    'hc-sr501, 3 buttons, 2 reed switches',
    '2 rotary encoders, oled, ir receiver',
    'hall sensor, joystick, 2 limit switches',
  ])('brings nothing onto a pin that the checks would take off it, on any board: %s', (typed) => {
    // What a board lacks as a whole is said: pins, and volts that nobody brings.
    const lacking = ['pins-short', 'supply-missing', 'supply-budget']
    for (const board of catalog.boards.keys()) {
      const done = wiredUp(planTyped(`${board}, ${typed}, 5v 2a`))
      const cried = check(resolve(done, catalog), allRules).filter(
        ({ severity, rule }) => severity === 'fault' && !lacking.includes(rule),
      )
      expect(cried.map(({ message }) => `${board}: ${message}`)).toEqual([])
    }
  })

  it('is as good in whatever order things lie on the table', () => {
    const random = seeded(20)
    /** How many find no place, are added, and what is said how often. */
    const goodOf = (plan: Plan): string => {
      const { edits, unplaced } = assignChoosing(resolve(plan, catalog))
      const done = applyEdits(plan, edits)
      const said = check(resolve(done, catalog), allRules).map(({ severity, rule }) => `${severity} ${rule}`)
      return [unplaced.length, Object.keys(done.parts).length, ...said.sort()].join(', ')
    }
    for (const { typed } of typedKits) {
      const plan = planTyped(typed)
      const parts = Object.entries(plan.parts)
        .map((one) => ({ one, at: random() }))
        .sort((a, b) => a.at - b.at)
        .map(({ one }) => one)
      expect(goodOf({ ...plan, parts: Object.fromEntries(parts) }), `${typed}: ${parts.map(([ref]) => ref)}`).toBe(
        goodOf(plan),
      )
    }
  })
})
