import { describe, expect, it } from 'vitest'
import { memo } from '../base/memo.ts'
import type { Plan } from '../plan/planSchema.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { oneIn } from '../testing/times.ts'
import { mistaken, sound } from '../testing/wiringSuite.ts'
import { resolve } from '../wiring/resolve.ts'
import { allRules, check } from './index.ts'

/*
 * Two ways of wiring the same thing must be judged alike. Each wiring of the suites is changed in ways that mean nothing
 * on the table, and no finding may come or go.
 */

type Wires = Plan['wires']
type Named = Parameters<typeof planOf>[0] & { readonly title: string }
const suite: readonly Named[] = [...sound, ...mistaken]

/** Severity, rule and sentence of what is said, sorted; tips of what hangs where are left out. */
const said = memo((plan: Plan): readonly string[] =>
  check(resolve(plan, catalog), allRules)
    .filter(({ severity }) => severity !== 'tip')
    .map(({ severity, rule, message }) => `${severity} ${rule}: ${message}`)
    .sort(),
)

/** A wire of each plan, another one from plan to plan. */
const oneOf = (wires: Wires, turn: number): number => turn % wires.length

const withWires = (plan: Plan, wires: readonly (readonly [string, string])[]): Plan => ({
  ...plan,
  wires: wires as unknown as Wires,
})

const plans = suite
  .map((short, turn) => ({ title: short.title, plan: planOf(short), turn }))
  .filter(({ plan }) => plan.wires.length > 0)

describe('the same wiring is judged alike', () => {
  it('with every wire turned round, and in the other order', () => {
    for (const { title, plan } of oneIn(5, plans)) {
      const turned = plan.wires.map(([a, b]) => [b, a] as const).toReversed()
      expect(said(withWires(plan, turned)), title).toEqual(said(plan))
    }
  })

  it('with a joint in the middle of a wire', () => {
    for (const { title, plan, turn } of oneIn(5, plans, 1)) {
      const [a, b] = plan.wires[oneOf(plan.wires, turn)]!
      const others = plan.wires.filter((wire) => wire[0] !== a || wire[1] !== b)
      const joined = withWires(plan, [...others.map(([c, d]) => [c, d] as const), [a, 'JOINT.1'], ['JOINT.2', b]])
      expect(said({ ...joined, parts: { ...plan.parts, JOINT: { part: 'joint' } } }), `${title}: ${a} ${b}`).toEqual(
        said(plan),
      )
    }
  })

  it('with wires led on from leg to leg instead of all from one', () => {
    for (const { title, plan, turn } of oneIn(5, plans, 2)) {
      const ends = [...new Set(plan.wires.flatMap((wire) => wire.slice(0, 2) as string[]))]
      const hubs = ends.filter((end) => plan.wires.filter((wire) => wire.slice(0, 2).includes(end)).length > 1)
      const hub = hubs[turn % Math.max(hubs.length, 1)]
      if (hub === undefined) continue
      const far = plan.wires.flatMap(([a, b]) => (a === hub ? [b] : b === hub ? [a] : []))
      const others = plan.wires.flatMap(([a, b]) => (a === hub || b === hub ? [] : [[a, b] as const]))
      const chain = far.map((end, at) => [at === 0 ? hub : far[at - 1]!, end] as const)
      expect(said(withWires(plan, [...others, ...chain])), `${title}: ${hub}`).toEqual(said(plan))
    }
  })

  it('from another ground post of the board', () => {
    for (const { title, plan } of oneIn(5, plans, 3)) {
      const { board: id } = plan.boards.MCU ?? {}
      const pins = id === undefined ? [] : (catalog.boards.get(id)?.pins ?? [])
      const post = pins.find((pin) => pin.kind === 'ground' && pin.id !== 'GND')
      const at = plan.wires.findIndex((wire) => wire[0] === 'MCU.GND' || wire[1] === 'MCU.GND')
      if (!post || at < 0) continue
      const moved = (end: string): string => (end === 'MCU.GND' ? `MCU.${post.id}` : end)
      const wires = plan.wires.map(([a, b], index) =>
        index === at ? ([moved(a), moved(b)] as const) : ([a, b] as const),
      )
      const words = (text: string): string => text.replaceAll(`MCU.${post.id}`, 'MCU.GND')
      expect(said(withWires(plan, wires)).map(words), title).toEqual(said(plan).map(words))
    }
  })

  /** Parts whose two legs are alike. What is open is named by its leg, and so left out. */
  const alike: Readonly<Record<string, readonly [string, string]>> = {
    resistor: ['1', '2'],
    button: ['1', '2'],
    'reed-switch': ['1', '2'],
    ldr: ['1', '2'],
    ntc: ['1', '2'],
    fsr: ['1', '2'],
    'flex-sensor': ['1', '2'],
    fuse: ['1', '2'],
    'slide-switch': ['1', '3'],
    potentiometer: ['1', '3'],
    'dc-motor': ['M1', 'M2'],
    'vibration-motor': ['+', '-'],
    pump: ['+', '-'],
    solenoid: ['+', '-'],
    electromagnet: ['+', '-'],
  }
  it.each(Object.entries(alike))('with the legs of a %s in each other’s place', (id, [one, two]) => {
    let tried = 0
    for (const { title, plan } of plans) {
      // On a breadboard a leg has a hole, and another leg is another hole.
      if (plan.bench !== undefined) continue
      for (const [ref, { part }] of Object.entries(plan.parts)) {
        if (part !== id) continue
        tried += 1
        // Resistors are in nearly every plan.
        if (id === 'resistor' && oneIn(4, [ref], tried).length === 0) continue
        const [first, second] = [`${ref}.${one}`, `${ref}.${two}`]
        const swap = (end: string): string => (end === first ? second : end === second ? first : end)
        const swapped = withWires(
          plan,
          plan.wires.map(([a, b]) => [swap(a), swap(b)] as const),
        )
        // Rules and severities; sentences name the leg.
        const kinds = (of: Plan): string[] => [
          ...new Set(said(of).flatMap((text) => (text.includes('pin-unplaced') ? [] : [text.split(':')[0] as string]))),
        ]
        expect(kinds(swapped), `${title}: ${ref}`).toEqual(kinds(plan))
      }
    }
    expect(tried).toBeGreaterThan(0)
  })
})
