import fc from 'fast-check'
import { applyEdits } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import { emptyPlan, type Plan } from '../plan/planSchema.ts'
import { catalog } from './plans.ts'

const boards = [...catalog.boards.keys()]
const parts = [...catalog.parts.values()].filter((part) => part.category !== 'passive')

/** A kit on one of some boards, nothing wired yet but what companions bring along. */
const kitOn = (...choice: string[]): fc.Arbitrary<Plan> =>
  fc
    .record({
      board: fc.constantFrom(...choice),
      supply: fc.boolean(),
      kit: fc.array(fc.constantFrom(...parts), { minLength: 1, maxLength: 9 }),
    })
    .map(({ board, supply, kit }) => {
      let plan: Plan = {
        ...emptyPlan('random'),
        boards: { MCU: { board } },
        supplies: supply ? { PACK: { volts: 5, limitMilliamps: 3000 } } : {},
      }
      for (const part of kit) plan = applyEdits(plan, addParts(plan, catalog, part, 1))
      return plan
    })

export const randomKit: fc.Arbitrary<Plan> = kitOn(...boards)

/** A kit with random wires between any two ends, sensible or not. */
export const wiringOn = (...choice: string[]): fc.Arbitrary<Plan> =>
  fc.tuple(kitOn(...choice), fc.array(fc.tuple(fc.nat(), fc.nat()), { maxLength: 30 })).map(([plan, pairs]) => {
    const ends = [
      ...Object.entries(plan.boards).flatMap(([ref, { board }]) =>
        catalog.boards.get(board)!.pins.map((pin) => `${ref}.${pin.id}`),
      ),
      ...Object.keys(plan.supplies).flatMap((ref) => [`${ref}.+`, `${ref}.-`]),
      ...Object.entries(plan.parts).flatMap(([ref, { part }]) =>
        catalog.parts.get(part)!.pins.map((pin) => `${ref}.${pin.id}`),
      ),
    ]
    const wires = new Map(plan.wires.map((wire) => [[wire[0], wire[1]].sort().join(' '), wire]))
    for (const [a, b] of pairs) {
      const [from, to] = [ends[a % ends.length]!, ends[b % ends.length]!]
      if (from !== to) wires.set([from, to].sort().join(' '), wires.get([from, to].sort().join(' ')) ?? [from, to])
    }
    return { ...plan, wires: [...wires.values()] }
  })

export const randomWiring: fc.Arbitrary<Plan> = wiringOn(...boards)

/** A plan in which nothing plugs over the header of a board, so that its wires end where they say. */
export const plainWiring: fc.Arbitrary<Plan> = randomWiring.filter(({ parts: all }) =>
  Object.values(all).every(({ part }) => catalog.parts.get(part)?.plugsOn.length === 0),
)
