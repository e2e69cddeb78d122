import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { kits } from '../testing/kits.ts'
import { once } from '../testing/once.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { recordOf } from '../testing/record.ts'
import { oneIn, times } from '../testing/times.ts'
import { answered, answerLines, roundsIn } from '../testing/wiredKits.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { assignChoosing } from './choosing.ts'

const joined = (plan: Plan, [a, b]: readonly [string, string]): boolean => {
  const [one, two] = [a, b].map((each) => new RegExp(`^(?:${each})$`)) as [RegExp, RegExp]
  return plan.wires.some(([from, to]) => (one.test(from) && two.test(to)) || (one.test(to) && two.test(from)))
}

/** Ends of a pair of which two hang on one net. */
const together = (wiring: Wiring, [a, b]: readonly [string, string]): string[] => {
  const [one, two] = [a, b].map((each) => new RegExp(`^(?:${each})$`)) as [RegExp, RegExp]
  return wiring.nets.flatMap(({ ends }) => {
    const [left, right] = [ends.filter((end) => one.test(end)), ends.filter((end) => two.test(end))]
    return left.length > 0 && right.length > 0 ? [...left, ...right] : []
  })
}

const record = recordOf('answers.txt')

describe.each(kits)(
  '$title',
  ({ title, why, wired = [], never = [], apart = [], adds, value = {}, left = [], ...short }) => {
    const all = once(() => answered(planOf(short)))
    it('is wired as an experienced maker would', () => {
      const { plan, result, after, ended, found } = all()
      expect(
        wired.filter((pair) => !joined(after, pair)),
        why,
      ).toEqual([])
      expect(
        never.filter((pair) => joined(after, pair)),
        why,
      ).toEqual([])
      expect(
        result.unplaced.map(({ end }) => end),
        why,
      ).toEqual(left)
      expect(
        apart.flatMap((pair) => together(ended, pair)),
        why,
      ).toEqual([])
      expect(roundsIn(after)).toEqual(roundsIn(plan))
      if (adds !== undefined) expect(result.added, why).toHaveLength(adds)
      for (const [ref, of] of Object.entries(value)) expect(after.parts[ref]?.options?.ohms, why).toBe(of)
      const added = Object.keys(after.parts).filter((ref) => !(ref in plan.parts))
      expect(result.added.map(({ ref }) => ref)).toEqual(added)
      const marked = Object.entries(after.parts).flatMap(([ref, { buy }]) => (buy ? [ref] : []))
      expect(marked, 'what was added is to be bought, and nothing else').toEqual(added)
      expect(
        found.filter(({ severity }) => severity === 'fault').map(({ message }) => message),
        why,
      ).toEqual([])
    })
    it('stays as it is when asked again', () => expect(assignChoosing(all().ended).edits, why).toEqual([]))
    it('is as on record', () => record(title, answerLines(all())))
  },
)

describe('a part that lost its wires is put back to what was left of them', () => {
  /** Parts of which nothing is left but legs of others: these say nothing of what was there. */
  const said = (plan: Plan): string[] =>
    check(resolve(plan, catalog), allRules).flatMap(({ severity, rule, message }) =>
      severity === 'tip' ? [] : [`${severity} ${rule}: ${message}`],
    )
  const asked = new Set(['sensor', 'display', 'light', 'input', 'radio', 'load'])
  /** What stays behind, with the reason. */
  const left: Readonly<Record<string, string>> = {
    'a display with a knob and a resistor LCD': 'a knob between two rails may be one that is read',
    'the same on a board with one serial port B': 'a divider at a pin of no port says nothing of the port',
    'the same with a fuse W': 'of a switch with no wire nobody knows that it was in the way of the supply',
    'a motor that two relays turn both ways, and a diode M': 'two contacts between rails say nothing of a motor',
    'a motor, a meter of current, a fuse and a socket I': 'what was cut where a meter stood is two ends',
    'a motor, a meter of current, a fuse and a socket M': 'a meter with one wire is led to nothing',
    'a lamp behind a relay and a meter with terminals A': 'what was cut where a meter stood is two ends',
    'a strip, a buffer and a resistor on a 3.3 V board S': 'the resistor lies behind the buffer',
    'a touch pad that lights a lamp by itself L': 'the resistor hangs on a sensor, which the search does not ask',
  }
  it.each(oneIn(6, kits))(
    '$title',
    ({ title, why, wired: _, never: __, apart: ___, adds: ____, value: _____, left: ______, ...short }) => {
      const kit = planOf(short)
      const whole = applyEdits(kit, assignChoosing(resolve(kit, catalog)).edits)
      const before = new Set(said(whole))
      for (const [ref, { part }] of Object.entries(kit.parts)) {
        if (!asked.has(catalog.parts.get(part)?.category ?? '') || Object.hasOwn(left, `${title} ${ref}`)) continue
        const isOwn = (end: string): boolean => end.startsWith(`${ref}.`)
        const bare = { ...whole, wires: whole.wires.filter(([a, b]) => !isOwn(a) && !isOwn(b)) }
        const again = applyEdits(bare, assignChoosing(resolve(bare, catalog)).edits)
        expect(
          said(again).filter((one) => !before.has(one)),
          `${ref}: ${why}`,
        ).toEqual([])
        // The maker's other wires stay.
        expect(bare.wires.filter((wire) => !again.wires.includes(wire))).toEqual([])
      }
    },
  )
})

describe('the order in which a kit is listed changes names, not what works', () => {
  it.each(kits.filter(({ left = [] }) => left.length === 0))(
    '$title, the other way round',
    ({ why, parts, ...short }) => {
      const turned = Object.fromEntries(Object.entries(parts ?? {}).reverse())
      const plan = planOf({ ...short, parts: turned } as Short)
      const result = assignChoosing(resolve(plan, catalog))
      expect(
        result.unplaced.map(({ end }) => end),
        why,
      ).toEqual([])
      const faults = check(resolve(applyEdits(plan, result.edits), catalog), allRules).filter(
        ({ severity }) => severity === 'fault',
      )
      expect(
        faults.map(({ message }) => message),
        why,
      ).toEqual([])
    },
  )
})

/** What an answer may leave to the maker: that something is lacking, or too weak for what was asked. */
const lacking = [
  'supply-missing',
  'supply-budget',
  'pins-short',
  'uart-count',
  'strap-needed',
  'pin-current',
  'driver-rating',
  'driver-idle',
  'i2c-pullup',
  'onewire-pullup',
]
const part = fc.constantFrom(...catalog.parts.keys()).map((id) => ({ part: id }))
const loose = fc.constantFrom(
  ...[220, 330, 1000, 4700, 10000].map((ohms) => ({ part: 'resistor', options: { ohms } })),
  { part: 'capacitor', options: { farads: 1e-4, kind: 'electrolytic', volts: 25 } },
  { part: 'diode' },
  { part: 'npn' },
  { part: 'nmos' },
  { part: 'dc-socket', options: { volts: 9 } },
  { part: 'battery-box', options: { volts: 6 } },
)
const named = (name: string, list: readonly object[]): [string, object][] =>
  list.map((one, index) => [`${name}${index}`, one])
const anyKit = fc
  .tuple(
    fc.constantFrom(...catalog.boards.keys()),
    fc.array(part, { minLength: 1, maxLength: 6 }),
    fc.array(loose, { maxLength: 4 }),
    fc.option(fc.constantFrom(5, 6, 9, 12), { nil: undefined }),
  )
  .map(([board, parts, spares, volts]) =>
    planOf({
      mcu: board,
      supplies: volts === undefined ? {} : { PACK: { volts, limitMilliamps: 5000 } },
      parts: Object.fromEntries([...named('P', parts), ...named('S', spares)]) as never,
    }),
  )

it('harms nothing, whatever lies on the table, and has nothing to add when asked again', () => {
  fc.assert(
    fc.property(anyKit, (plan) => {
      const result = assignChoosing(resolve(plan, catalog))
      const after = applyEdits(plan, result.edits)
      const wiring = resolve(after, catalog)
      const harm = check(wiring, allRules).filter(
        ({ severity, rule }) =>
          (severity === 'fault' && !lacking.includes(rule)) || (rule === 'controller-takes' && wiring.parts.length < 4),
      )
      expect(harm.map(({ message }) => message)).toEqual([])
      expect(assignChoosing(wiring).edits).toEqual([])
      // Nothing is bought of which the kit had the very same.
      for (const { ref, part: id } of result.added) {
        const same = (other: string): boolean =>
          JSON.stringify(after.parts[other]?.options ?? {}) === JSON.stringify(after.parts[ref]?.options ?? {})
        const idle = wiring.parts.filter(
          (one) =>
            one.part.id === id &&
            one.ref in plan.parts &&
            one.part.pins.every((pin) => !wiring.netOf(`${one.ref}.${pin.id}`).wired),
        )
        expect(idle.filter((one) => same(one.ref)).map((one) => one.ref)).toEqual([])
      }
    }),
    { numRuns: times(60), seed: 20261126 },
  )
}, 60_000)

const driver = fc.constantFrom(
  ...[
    'l293d',
    'l298n',
    'tb6612',
    'drv8833',
    'l9110s',
    'uln2003',
    'uln2803',
    'drv8871',
    'bts7960',
    'nmos',
    'npn',
    'uln2003-board',
  ],
)
const load = fc.constantFrom(
  ...[
    'dc-motor',
    'dc-motor',
    'pump',
    'fan',
    'solenoid',
    'stepper-28byj48',
    'stepper-bipolar',
    'lamp',
    'vibration-motor',
  ],
)
const drivenKit = fc
  .tuple(
    fc.constantFrom(
      'uno-r3',
      'nano-v3',
      'pico',
      'esp32-devkit-30',
      'esp8266-d1-mini',
      'pi-40',
      'mega-2560-r3',
      'teensy-4-1',
    ),
    fc.array(driver, { minLength: 1, maxLength: 3 }),
    fc.array(load, { minLength: 1, maxLength: 3 }),
    fc.constantFrom(5, 6, 9, 12),
  )
  .map(([board, drivers, loads, volts]) =>
    planOf({
      mcu: board,
      supplies: { PACK: { volts, limitMilliamps: 5000 } },
      parts: Object.fromEntries([
        ...named(
          'D',
          drivers.map((part) => ({ part })),
        ),
        ...named(
          'M',
          loads.map((part) => ({ part })),
        ),
      ]) as never,
    }),
  )

it('leaves no channel dead: what drives a load is wired to the end, or the answer says what is missing', () => {
  fc.assert(
    fc.property(drivenKit, (plan) => {
      const result = assignChoosing(resolve(plan, catalog))
      const wiring = resolve(applyEdits(plan, result.edits), catalog)
      const open = new Set(result.unplaced.map(({ end }) => end))
      const isSaid = (at: readonly string[]): boolean =>
        at.some(
          (end) =>
            open.has(end) ||
            [...open].some((one) => one.startsWith(`${end}.`) || one.split('.')[0] === end.split('.')[0]),
        )
      const dead = check(wiring, allRules).filter(
        ({ severity, rule, at }) =>
          severity === 'fault' && ['driver-idle', 'load-return', 'polarity'].includes(rule) && !isSaid(at),
      )
      expect(dead.map(({ message }) => message)).toEqual([])
      // A load with all its leads placed runs: its current comes from somewhere and goes somewhere.
      for (const { ref } of wiring.parts.filter((one) => one.ref.startsWith('M')))
        if (![...open].some((end) => end.startsWith(`${ref}.`)))
          for (const use of wiring.signals.filter((one) => one.part.ref === ref)) expect(use.hosts).not.toEqual([])
    }),
    { numRuns: times(200), seed: 20261127 },
  )
}, 120_000)
