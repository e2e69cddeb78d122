import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assign } from '../assign/assign.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { randomKit } from '../testing/randomPlans.ts'
import { samplePlans } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { columnOf, Grid, holeAt, rowOf } from './grid.ts'
import { layOut } from './layout.ts'
import { Hand } from './moving.ts'
import { Occupancy, rowSeat, rowsOver, straddleSeat, straddles } from './seats.ts'
import { suggestBreadboards } from './suggest.ts'
import { type Unit, unitsOf } from './units.ts'
import type { Layout } from './workbench.ts'

const grid = new Grid({ BB1: { kind: 'half' } })
const unit = (part: string, options = {}): Unit =>
  unitsOf(wiringOf({ boards: { MCU: { board: 'pico' } }, parts: { IT: { part, options } } })).find(
    ({ ref }) => ref === 'IT',
  )!
const row = (part: string) => unit(part) as Unit & { kind: 'row' }
const names = (holes: readonly number[]): string[] => holes.map((hole) => grid.name(hole).slice(4)).sort()
const room = () => new Occupancy(grid, (end) => end.length)

/** Boxes of what stands, in pitches, by reference. */
const boxes = ({ units, seats, grid: bench }: Layout) =>
  units.flatMap((one) => {
    const seat = seats.get(one.ref)
    if (!seat || (one.kind !== 'row' && one.kind !== 'straddle')) return []
    const rows = seat.legs.map(({ hole }) => rowOf(hole))
    const xs = seat.legs.map(({ hole }) => bench.x(hole))
    const [first, last] = seat.turned ? [one.over[1], one.over[0]] : one.over
    const hangs = one.kind === 'row' && one.hangsOver ? (one.deep ?? 4) : 0
    const isLeft = columnOf(seat.legs[0]!.hole) < 5
    return [
      {
        ref: one.ref,
        left: Math.min(...xs) - (isLeft ? hangs : 0),
        right: Math.max(...xs) + (isLeft ? 0 : hangs),
        top: Math.min(...rows) - first,
        bottom: Math.max(...rows) + last,
      },
    ]
  })

const laidOn = (plan: Plan): Layout => layOut(resolve(applyEdits(plan, suggestBreadboards(plan, catalog)), catalog))

/** Bodies lie over each other by more than a millimetre. */
const overlaps = (layout: Layout): string[] => {
  const all = boxes(layout)
  return all.flatMap((one, at) =>
    all
      .slice(at + 1)
      .filter(
        (two) =>
          Math.min(one.right, two.right) - Math.max(one.left, two.left) > 0.4 &&
          Math.min(one.bottom, two.bottom) - Math.max(one.top, two.top) > 0.4,
      )
      .map((two) => `${one.ref} ${two.ref}`),
  )
}

describe('the outline of a module', () => {
  it('reaches over so many rows before and behind its posts', () => {
    // 27.3 mm about four posts: 9.84 mm at each end, 3.87 pitches, and a hole is half a millimetre around its middle.
    expect(rowsOver(row('ssd1306'), false)).toEqual({ above: 4, below: 4 })
    // 80 mm, the first of sixteen posts at 8 mm: 3.1 pitches before, 13.3 behind.
    expect(rowsOver(row('lcd-parallel'), false)).toEqual({ above: 3, below: 13 })
    expect(rowsOver(row('lcd-parallel'), true)).toEqual({ above: 13, below: 3 })
    // Nothing known: no more than its posts.
    expect(rowsOver(row('aht20'), false)).toEqual({ above: 0, below: 0 })
  })
  it('shades holes of the rows beside, within the breadboard, and covers rails as far as it is deep', () => {
    const seat = rowSeat(grid, row('ssd1306'), holeAt(0, 3, 0), false)!
    expect(names(seat.shades.filter((hole) => columnOf(hole) === 0))).toEqual(['a1', 'a10', 'a2', 'a7', 'a8', 'a9'])
    expect(names(seat.covers)).toContain('L+4')
    // 10.7 mm deep: 3.7 pitches from its posts, over the rail next to the rows and not the other.
    const flat = rowSeat(grid, row('vl53l0x'), holeAt(0, 3, 0), false)!
    const rails = new Set(flat.covers.map((hole) => columnOf(hole)))
    expect([rails.has(grid.x(10) === -3 ? 10 : 11), rails.size]).toEqual([true, 1])
  })
  it('is of a board as well: what carries its socket lies over the rows there', () => {
    const board = unitsOf(wiringOf({ boards: { MCU: { board: 'esp32-devkit-30' } } }))[0] as Unit & { kind: 'straddle' }
    const [columns] = straddles(grid, 0, board.rowsApart)
    const seat = straddleSeat(grid, board, 0, columns!, 1, false)!
    expect([...new Set(seat.shades.map(rowOf))]).toEqual([16, 17, 18, 19])
  })
  it('keeps others out, but not what the maker puts down by hand', () => {
    const occupancy = room()
    occupancy.take(rowSeat(grid, row('ssd1306'), holeAt(0, 10, 0), false)!)
    const other = (first: number) => rowSeat(grid, { ...row('aht20'), ref: 'TWO' }, holeAt(0, first, 0), false)!
    expect(occupancy.refusal(other(17))?.text).toBe('BB1.a17 lies under IT')
    expect(occupancy.refusal(other(17), true)).toBeUndefined()
    expect(occupancy.refusal(other(18))).toBeUndefined()
    // Its own rows are nobody else's, whoever puts it there.
    expect(occupancy.refusal(other(13), true)?.text).toBe('BB1.a13 holds IT.SDA already')
  })
  it('leaves the free holes of a row beside it for legs and wires', () => {
    const occupancy = room()
    occupancy.take(rowSeat(grid, row('ssd1306'), holeAt(0, 10, 0), false)!)
    expect(occupancy.isEmpty(holeAt(0, 15, 0))).toBe(true)
    expect(names(occupancy.free(holeAt(0, 15, 0)))).toEqual(['b15', 'c15', 'd15', 'e15'])
    expect(occupancy.isEmpty(holeAt(0, 11, 0))).toBe(false)
  })
})

describe('a layout keeps bodies apart', () => {
  it.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))('of %s', (_, plan) => {
    expect(overlaps(laidOn(plan))).toEqual([])
  })
  it('of random kits', () => {
    fc.assert(
      fc.property(randomKit, (kit) => {
        const wired = applyEdits(kit, assign(resolve(kit, catalog)).edits)
        expect(overlaps(laidOn(wired))).toEqual([])
      }),
      { numRuns: times(6) },
    )
  }, 120_000)
  it('of three displays: their posts do not stand five rows apart', () => {
    const kit = planOf({ mcu: 'uno-r3', parts: { A: 'ssd1306-spi', B: 'ssd1306-spi', C: 'ssd1306-spi' } })
    const layout = laidOn(kit)
    expect([overlaps(layout), layout.stray]).toEqual([[], []])
  })
  it.each(['ili9341', 'ssd1306', 'hx711'])('and lays nothing where %s hangs over the edge', (part) => {
    const kit = planOf({
      mcu: 'uno-r3',
      parts: { DEEP: part, OTHER: part, PUMP: 'relay-1', FLAP: 'servo-sg90', LOCK: 'relay-2', SIEVE: 'servo-sg90' },
    })
    const layout = laidOn(applyEdits(kit, assign(resolve(kit, catalog)).edits))
    const under = boxes(layout).flatMap((box) =>
      [...layout.posts]
        .filter(([, { x, y }]) => x > box.left && x < box.right && y > box.top && y < box.bottom)
        .map(([end]) => `${end} under ${box.ref}`),
    )
    expect(under).toEqual([])
  })
})

describe('by hand', () => {
  it('nothing is laid where a deep module that the maker seated hangs over the edge', () => {
    const kit = planOf({
      mcu: 'uno-r3',
      parts: { DEEP: 'ili9341', PUMP: 'relay-1', FLAP: 'servo-sg90', LOCK: 'relay-2' },
      bench: { breadboards: { BB1: { kind: 'half' } }, places: { DEEP: { at: 'BB1.j9' } } },
    })
    const layout = layOut(resolve(applyEdits(kit, assign(resolve(kit, catalog)).edits), catalog))
    const deep = boxes(layout).find(({ ref }) => ref === 'DEEP')!
    const under = [...layout.posts].filter(
      ([, { x, y }]) => x > deep.left && x < deep.right && y > deep.top && y < deep.bottom,
    )
    expect([layout.seats.has('DEEP'), under]).toEqual([true, []])
  })
  it('a module may stand nearer than its usual outline lets it', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      parts: { A: 'ssd1306', B: 'ssd1306' },
      bench: { breadboards: { BB1: { kind: 'full' } }, places: { A: { at: 'BB1.a20' }, B: { at: 'BB1.a26' } } },
    })
    const layout = layOut(wiring)
    expect([layout.clashes, layout.stray]).toEqual([[], []])
    const hand = new Hand(wiring, layout, 'B')
    const second = layout.units.find(({ ref }) => ref === 'B') as Unit & { kind: 'row' }
    const seatAt = (first: number) => rowSeat(layout.grid, second, holeAt(0, first, 0), false)!
    expect(hand.refusal(seatAt(25))).toBeUndefined()
    expect(hand.refusal(seatAt(22))).toMatch(/BB1.a22 holds A/)
  })
})
