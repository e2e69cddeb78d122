import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyEdits, type Edit, EditError } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { randomWiring } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { touchedBy } from '../wiring/touched.ts'
import { check } from './index.ts'
import { type Checked, recheck } from './recheck.ts'

const kinds = [
  'title',
  'accept',
  'off',
  'wire',
  'colour',
  'open',
  'again',
  'add',
  'remove',
  'option',
  'mode',
  'move',
  'supply',
  'feature',
] as const

/** An edit of some kind that fits the plan, or none; the numbers choose among what there is. */
function editOf(kind: (typeof kinds)[number], now: Checked, [a, b]: readonly [number, number]): Edit[] {
  const { plan, parts, boards, supplies } = now.wiring
  const pick = <T>(list: readonly T[], by: number): T | undefined => list[by % Math.max(1, list.length)]
  const wire = pick(plan.wires, a)
  const finding = pick(now.findings, a)
  const part = pick(parts, a)
  const end = part && `${part.ref}.${pick(part.part.pins, b)?.id}`
  const option = part && pick(part.part.options, b)
  const value = option && pick(option.values, a + b)
  const all = now.wiring.nets.flatMap((net) => net.ends)
  const [from, to] = [a % 3 === 0 ? pick(all, a) : end, pick(all, b)]
  switch (kind) {
    case 'title':
      return [{ do: 'set-title', title: `plan ${a}` }]
    case 'accept':
      return finding ? [{ do: 'accept', rule: finding.rule, at: finding.at, because: 'it is so' }] : []
    case 'off':
      return wire ? [{ do: 'disconnect', from: wire[0], to: wire[1] }] : []
    case 'wire':
      return from === undefined || to === undefined ? [] : [{ do: 'connect', from, to }]
    case 'colour':
      return wire
        ? [{ do: 'change-wire', from: wire[0], to: wire[1], facts: { colour: 'red', locked: a % 2 === 0 } }]
        : []
    case 'open':
      return end === undefined ? [] : [{ do: 'leave-open', end }]
    case 'again':
      return plan.unused.length > 0 ? [{ do: 'use-again', end: pick(plan.unused, a) as string }] : []
    case 'add':
      return addParts(plan, catalog, pick([...catalog.parts.values()], a * 7 + b)!, 1)
    case 'remove':
      return part ? [{ do: 'remove', ref: part.ref }] : []
    case 'option':
      return part && option && value
        ? [{ do: 'change-part', ref: part.ref, entry: { options: { ...part.options, [option.id]: value.value } } }]
        : []
    case 'mode': {
      const mode = part && pick(part.part.modes, b)
      return mode ? [{ do: 'change-part', ref: part.ref, entry: { mode: mode.id } }] : []
    }
    case 'move':
      return wire && to !== undefined
        ? [
            { do: 'disconnect', from: wire[0], to: wire[1] },
            { do: 'connect', from: wire[0], to },
          ]
        : []
    case 'supply': {
      const supply = pick(supplies, a)
      return supply ? [{ do: 'change-supply', ref: supply.ref, entry: { volts: 3 + (b % 10) } }] : []
    }
    case 'feature': {
      const board = boards[0]!
      const feature = pick(board.board.features, b)
      return feature ? [{ do: 'change-board', ref: board.ref, entry: { uses: [feature.id] } }] : []
    }
  }
}

it('is the same as from scratch after any run of edits', () => {
  const edited = fc.array(fc.tuple(fc.constantFrom(...kinds), fc.tuple(fc.nat(9999), fc.nat(9999))), {
    minLength: 1,
    maxLength: 16,
  })
  const seen = { narrowed: 0, whole: 0 }
  fc.assert(
    fc.property(randomWiring, edited, (start, steps) => {
      let plan: Plan = start
      let now = recheck(undefined, plan, catalog)
      for (const [kind, numbers] of steps) {
        const before = now
        try {
          plan = applyEdits(plan, editOf(kind, now, numbers))
        } catch (error) {
          if (error instanceof EditError) continue
          throw error
        }
        now = recheck(before, plan, catalog)
        expect(now.findings, JSON.stringify([kind, numbers])).toEqual(check(resolve(plan, catalog)))
        if (kind === 'title' || kind === 'accept') expect(now.found).toBe(before.found)
        else seen[touchedBy(before.wiring, now.wiring) ? 'narrowed' : 'whole'] += 1
      }
    }),
    { numRuns: times(200) },
  )
  // Most changes leave most of the plan alone.
  expect(seen.narrowed).toBeGreaterThan(seen.whole)
}, 120_000)

it('what hangs on a transistor is seen again when its other leg is led on', () => {
  const parts = {
    L: { part: 'led' },
    S: { part: 'resistor', options: { ohms: 10 } },
    Q: { part: 'npn' },
    R: { part: 'resistor', options: { ohms: 1000 } },
    P: { part: 'npn' },
    T: { part: 'resistor', options: { ohms: 1000 } },
  }
  const wires = 'S.1 MCU.5V, S.2 L.A, L.K Q.C, Q.B R.1, R.2 MCU.4, P.B T.1, T.2 MCU.5, P.E MCU.GND'
  const before = recheck(undefined, planOf({ mcu: 'uno-r3', parts, wires }), catalog)
  const plan = applyEdits(before.wiring.plan, [{ do: 'connect', from: 'Q.E', to: 'P.C' }])
  const after = recheck(before, plan, catalog)
  expect(after.findings).toEqual(check(resolve(plan, catalog)))
  expect(after.findings.map(({ rule }) => rule)).toContain('led-resistor')
})

it('an output that only a converter can read is needed as soon as there is one', () => {
  const plan = planOf({ mcu: 'pi-40', parts: { F: 'flame-ir' }, wires: 'F.VCC MCU.3V3, F.GND MCU.GND' })
  const before = recheck(undefined, plan, catalog)
  expect(before.findings.some(({ at }) => at.includes('F.AO'))).toBe(false)
  const next = applyEdits(plan, addParts(plan, catalog, catalog.parts.get('mcp3008')!, 1))
  const after = recheck(before, next, catalog)
  expect(after.findings).toEqual(check(resolve(next, catalog)))
  expect(after.findings.some(({ at }) => at.includes('F.AO'))).toBe(true)
})
