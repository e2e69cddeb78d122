import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assign } from '../assign/assign.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { randomKit } from '../testing/randomPlans.ts'
import { samplePlans } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { Grid, rowOf } from './grid.ts'
import { adoptLayout, layOut, layoutData, layoutOf } from './layout.ts'
import { AsideHand, Hand, keepPlaces, mayLieBeside, turnedPlace } from './moving.ts'
import { placeOf } from './seats.ts'
import { suggestBreadboards } from './suggest.ts'
import type { Layout } from './workbench.ts'

const plain = (layout: Layout): unknown => ({ ...layoutData(layout), nodes: [...layout.nodes].sort() })

describe('the grid', () => {
  const grid = new Grid({
    BB1: { kind: 'full', rails: 'split' },
    BB2: { kind: 'full', joined: true },
    BB3: { kind: 'mini' },
  })
  it('reads and writes the names of holes', () => {
    for (const name of ['BB1.a1', 'BB1.j63', 'BB1.L+3', 'BB2.R-61', 'BB3.e17'])
      expect(grid.name(grid.parse(name)!)).toBe(name)
  })
  it.each(['BB1.k1', 'BB1.a64', 'BB1.a0', 'BB1.L+8', 'BB1.R+3', 'BB2.L-3', 'BB3.L+3', 'BB3.a18', 'BB9.a1', 'a1'])(
    'knows no hole %s',
    (name) => {
      expect(grid.parse(name)).toBeUndefined()
    },
  )
  it('joins five holes of a half-row, and a rail up to its cut', () => {
    const metal = (name: string): number => grid.node(grid.parse(name)!)
    expect(metal('BB1.a7')).toBe(metal('BB1.e7'))
    expect(metal('BB1.e7')).not.toBe(metal('BB1.f7'))
    expect(metal('BB1.L+3')).toBe(metal('BB1.L+31'))
    expect(metal('BB1.L+31')).not.toBe(metal('BB1.L+33'))
    expect(metal('BB2.R+3')).toBe(metal('BB2.R+61'))
    expect(grid.holes(metal('BB1.c7'))).toHaveLength(5)
    expect(grid.holes(metal('BB1.L+3'))).toHaveLength(25)
  })
})

describe('a layout', () => {
  const laid = (kit: Parameters<typeof resolve>[0]) => {
    const plan = applyEdits(kit, assign(resolve(kit, catalog)).edits)
    return applyEdits(plan, suggestBreadboards(plan, catalog))
  }
  it.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))(
    'has a place for everything of %s on the breadboards that it suggests',
    (_, plan) => {
      const { stray, blocked, clashes } = layOut(resolve(applyEdits(plan, suggestBreadboards(plan, catalog)), catalog))
      expect([stray, blocked, clashes]).toEqual([[], [], []])
    },
  )
  it('is the same for the same plan, and moves nothing that is kept', () => {
    fc.assert(
      fc.property(randomKit, (kit) => {
        const plan = laid(kit)
        const wiring = resolve(plan, catalog)
        const layout = layOut(wiring)
        expect(plain(layOut(resolve(plan, catalog)))).toEqual(plain(layout))
        const kept = layOut(resolve(applyEdits(plan, keepPlaces(wiring, layout)), catalog))
        expect(kept.clashes).toEqual([])
        expect([...kept.holeOf].sort()).toEqual([...layout.holeOf].sort())
      }),
      { numRuns: times(6) },
    )
  }, 120_000)
  it.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))(
    'finds a place again for what is given back while the rest of %s is kept',
    (_, bare) => {
      const plan = applyEdits(bare, suggestBreadboards(bare, catalog))
      const wiring = resolve(plan, catalog)
      const kept = applyEdits(plan, keepPlaces(wiring, layOut(wiring)))
      for (const [ref, place] of Object.entries(kept.bench!.places)) {
        if (place.at === undefined) continue
        const { [ref]: __, ...places } = kept.bench!.places
        const again = layOut(resolve({ ...kept, bench: { ...kept.bench!, places } }, catalog))
        expect([ref, again.stray, again.clashes]).toEqual([ref, [], []])
      }
    },
    60_000,
  )
  it('keeps what the hand puts down, wherever it may be put', () => {
    fc.assert(
      fc.property(
        randomKit,
        fc.nat(),
        fc.nat({ max: 62 }),
        fc.nat({ max: 25 }),
        fc.boolean(),
        (kit, pick, y, x, turn) => {
          const plan = laid(kit)
          const wiring = resolve(plan, catalog)
          const layout = layOut(wiring)
          const refs = [...layout.seats.keys()]
          if (refs.length === 0) return
          const ref = refs[pick % refs.length]!
          const hand = new Hand(wiring, layout, ref)
          const seat = turn ? hand.turned() : hand.seatNear(x, y + 1)
          if (!seat || hand.refusal(seat) !== undefined) return
          const edits = [
            ...keepPlaces(wiring, layout, ref),
            { do: 'place' as const, ref, place: placeOf(layout.grid, seat) },
          ]
          const after = layOut(resolve(applyEdits(plan, edits), catalog))
          expect(after.clashes).toEqual([])
          for (const { pin, hole } of seat.legs) expect(after.holeOf.get(`${ref}.${pin}`)).toBe(hole)
        },
      ),
      { numRuns: times(12) },
    )
  }, 120_000)
  it('keeps lamps of 5 mm apart, and each board by itself', () => {
    const refs = ['A', 'B', 'C', 'D', 'E', 'F']
    const lamps = wiringOf({
      mcu: 'nano-v3',
      parts: Object.fromEntries(
        refs.flatMap((ref) => [
          [`L${ref}`, 'led'],
          [`R${ref}`, 'resistor'],
        ]),
      ),
      wires: refs.map((ref, at) => `L${ref}.A R${ref}.1, R${ref}.2 MCU.D${at + 3}, L${ref}.K MCU.GND`).join(', '),
      bench: { breadboards: { BB1: { kind: 'full' } } },
    })
    const { grid, holeOf } = layOut(lamps)
    const middles = refs.map((ref) => {
      const [a, b] = ['A', 'K'].map((pin) => holeOf.get(`L${ref}.${pin}`)!) as [number, number]
      return [(grid.x(a) + grid.x(b)) / 2, (rowOf(a) + rowOf(b)) / 2] as const
    })
    for (const [at, [x, y]] of middles.entries())
      for (const [otherX, otherY] of middles.slice(at + 1))
        expect(Math.hypot(x - otherX, y - otherY)).toBeGreaterThanOrEqual(2)

    const two = new Grid({
      BB1: { kind: 'half', for: 'A' },
      BB2: { kind: 'half', for: 'B' },
      BB3: { kind: 'half', for: 'B' },
    })
    const [first, second, third] = two.boards.map(({ x }) => x) as [number, number, number]
    expect(second - first).toBeGreaterThan(2 * (third - second) - 1)
  })
  it('crosses from one thread to another as plain data', () => {
    const wiring = wiringOf({
      mcu: 'nano-v3',
      parts: { LAMP: 'led', R1: 'resistor' },
      wires: 'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND',
      bench: { breadboards: { BB1: { kind: 'half' } } },
    })
    const layout = layoutOf(wiring)!
    expect(adoptLayout(wiring, structuredClone(layoutData(layout)))).toEqual(layout)
  })
  it('has none without a breadboard', () => {
    expect(layoutOf(wiringOf({ parts: { LAMP: 'led' } }))).toBeUndefined()
  })
})

describe('what a hand may do with things beside', () => {
  const wiring = wiringOf({
    mcu: 'uno-r3',
    parts: { LIFT: 'servo-sg90', TURN: 'servo-sg90', SENSE: 'bme280', LAMP: 'led' },
    wires: 'LIFT.SIG MCU.D9, TURN.SIG MCU.D10, SENSE.SDA MCU.A4, LAMP.A MCU.D5, LAMP.K MCU.GND',
    bench: {
      breadboards: { BB1: { kind: 'half' } },
      places: { MCU: { side: 'left', row: 1 }, TURN: { side: 'right', row: 5 }, LIFT: { side: 'right', row: 20 } },
    },
  })
  const layout = layOut(wiring)
  const lift = layout.asides.get('LIFT')!
  it('lets go of a thing on the side and row that it is dragged to', () => {
    const hand = new AsideHand(wiring, layout, 'LIFT')
    expect(hand.spotAt({ x: -20, y: 8 }, 3)).toEqual({ ...lift, side: 'left', row: lift.row + 3 })
    expect(hand.spotAt({ x: 30, y: 8 }, undefined)).toEqual({ ...lift, side: 'right' })
  })
  it('takes a module out of its holes beyond the rails, and leaves one on two legs where it can stand', () => {
    const sense = new AsideHand(wiring, layout, 'SENSE')
    expect(sense.spotAt({ x: -6, y: 8 }, undefined)).toBeUndefined()
    expect(sense.spotAt({ x: -8, y: 8.2 }, undefined)).toEqual({ side: 'left', row: 8, turned: false })
    expect(sense.spotAt({ x: 17, y: 8 }, undefined)).toBeUndefined()
    expect(sense.spotAt({ x: 19, y: 8 }, undefined)).toMatchObject({ side: 'right' })
    expect(new AsideHand(wiring, layout, 'LAMP').spotAt({ x: 19, y: 8 }, undefined)).toBeUndefined()
  })
  it('refuses what would lie on something else, and only that', () => {
    const turn = layout.asides.get('TURN')!
    const hand = new AsideHand(wiring, layout, 'LIFT')
    expect(hand.refusal(turn)).toBe('TURN lies there')
    expect(hand.refusal({ ...turn, side: turn.side === 'left' ? 'right' : 'left', row: 100 })).toBeUndefined()
    expect(hand.refusal({ ...turn, row: turn.row + 4 })).toBeUndefined()
    expect(hand.refusal({ ...turn, row: turn.row + 3 })).toBe('TURN lies there')
    expect(hand.refusal({ ...lift, row: 141 })).toBe('it is too far away')
  })
  it('turns what lies and what stands, and says when it cannot', () => {
    expect(turnedPlace(wiring, layout, 'LIFT')).toMatchObject({ side: lift.side, row: lift.row })
    expect(turnedPlace(wiring, layout, 'SENSE')).toMatchObject({ turned: true })
    expect(turnedPlace(wiring, layout, 'NOBODY')).toBe('NOBODY cannot be turned.')
  })
  it('knows the breadboards of its own board: another board’s things are in nobody’s way', () => {
    const two = samplePlans.find(({ plan }) => Object.keys(plan.boards).length === 2)!.plan
    const bench = {
      breadboards: { BB1: { kind: 'half' as const, for: 'GAUGE' }, BB2: { kind: 'half' as const, for: 'HOUSE' } },
      places: { FIELD: { side: 'right' as const, row: 5 }, HOUSE: { side: 'right' as const, row: 2, beside: true } },
      done: [],
    }
    const apart = resolve({ ...two, bench }, catalog)
    const laid = layOut(apart)
    const house = new AsideHand(apart, laid, 'HOUSE')
    expect(house.refusal({ side: 'right', row: 5, turned: false })).toBeUndefined()
    const { x } = laid.grid.boards[1]!
    // To the left of its own breadboard is left, although that is right of the middle of the bench.
    expect(house.spotAt({ x: x - 9, y: 3 }, 0)).toMatchObject({ side: 'left' })
    expect(house.spotAt({ x: x + 20, y: 3 }, 0)).toMatchObject({ side: 'right' })
  })
  it('lays beside what has rows of legs', () => {
    expect(['SENSE', 'LAMP', 'LIFT', 'MCU'].map((ref) => mayLieBeside(layout, ref))).toEqual([
      true,
      false,
      false,
      false,
    ])
  })
  it('keeps what lies beside where it lies, once something was moved', () => {
    const edits = keepPlaces(wiring, layout, 'SENSE')
    expect(edits.some((edit) => edit.do === 'place' && edit.ref === 'LIFT')).toBe(false)
    const open = resolve({ ...wiring.plan, bench: { ...wiring.plan.bench!, places: {} } }, catalog)
    expect(keepPlaces(open, layout, 'SENSE')).toContainEqual({
      do: 'place',
      ref: 'LIFT',
      place: { side: 'right', row: 20 },
    })
    const after = layOut(resolve(applyEdits(wiring.plan, edits), catalog))
    expect([...after.posts].sort()).toEqual([...layout.posts].sort())
  })
})
