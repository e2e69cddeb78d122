import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { times } from '../testing/times.ts'
import { layLanes, type Place, type Way } from './lanes.ts'

const way = (from: Place, to: Place, more: Partial<Way> = {}): Way => ({
  from,
  to,
  leaves: [0, 0],
  bundle: 'a',
  ...more,
})
const at = (x: number, y: number): Place => ({ x, y })

describe('lanes of wires', () => {
  it('run straight where both ends lie in a line', () => {
    expect(layLanes([way(at(0, 3), at(0, 9))], [])).toEqual([[at(0, 3), at(0, 9)]])
    expect(layLanes([way(at(2, 3), at(8, 3))], [])).toEqual([[at(2, 3), at(8, 3)]])
  })
  it('take one bend where that suffices', () => {
    const [lane] = layLanes([way(at(0, 1), at(6, 9))], [])
    expect(lane).toHaveLength(3)
  })
  it('go round a body that would hide them, and not round the one that they end at', () => {
    const body = { left: -1, top: 4, width: 2, height: 3 }
    const [round] = layLanes([way(at(0, 1), at(0, 12))], [body])
    expect(round!.length).toBeGreaterThan(2)
    const [onto] = layLanes([way(at(0, 1), at(0, 5))], [body])
    expect(onto).toHaveLength(2)
  })
  it('do not lie on top of each other', () => {
    const [one, two] = layLanes([way(at(0, 1), at(0, 20)), way(at(0, 2), at(0, 19), { bundle: 'b' })], [])
    const xs = (lane: readonly Place[]): number => lane[1]!.x
    expect(xs(one!) === 0 && xs(two!) === 0).toBe(false)
  })
  it('leave a post on the side that is asked for', () => {
    const [right] = layLanes([way(at(-20, 5), at(3, 9), { leaves: [1, 0] })], [])
    expect(right![1]!.x).toBeGreaterThan(-20)
    expect(right![1]!.y).toBe(5)
    const [left] = layLanes([way(at(3, 9), at(30, 4), { leaves: [0, -1] })], [])
    expect(left!.at(-2)!.x).toBeLessThan(30)
    expect(left!.at(-2)!.y).toBe(4)
  })
  it('join their ends at right angles, whatever they are, and the same every time', () => {
    const place = fc.record({ x: fc.integer({ min: -20, max: 40 }), y: fc.integer({ min: 1, max: 63 }) })
    const ways = fc.array(
      fc.record({ from: place, to: place, leaves: fc.constant([0, 0] as const), bundle: fc.constantFrom('a', 'b') }),
      { maxLength: 25 },
    )
    const box = fc.record({
      left: fc.integer({ min: -20, max: 40 }),
      top: fc.integer({ min: 1, max: 60 }),
      width: fc.integer({ min: 1, max: 20 }),
      height: fc.integer({ min: 1, max: 20 }),
    })
    fc.assert(
      fc.property(ways, fc.array(box, { maxLength: 6 }), (list, bodies) => {
        const lanes = layLanes(list, bodies)
        expect(layLanes(list, bodies)).toEqual(lanes)
        lanes.forEach((lane, index) => {
          expect(lane[0]).toEqual(list[index]!.from)
          expect(lane.at(-1)).toEqual(list[index]!.to)
          expect(lane.length).toBeLessThanOrEqual(4)
          for (const [step, to] of lane.slice(1).entries()) {
            const from = lane[step]!
            expect(from.x === to.x || from.y === to.y).toBe(true)
          }
        })
      }),
      { numRuns: times(60) },
    )
  })
})
