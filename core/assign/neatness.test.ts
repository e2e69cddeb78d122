import { describe, expect, it } from 'vitest'
import { catalog, planOf } from '../testing/plans.ts'
import type { Host, SignalUse } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { neaten } from './neatness.ts'
import { openSignals, prepare } from './preparing.ts'
import { search } from './search.ts'
import { type Claim, SearchProblem } from './searchProblem.ts'

/**
 * The most that neatness less its price can come to, by trying every placing of the single signals. It shares nothing
 * with the improvement but the meaning of the points: two for neighbours, one for their order, a fifth for rising numbers.
 */
function exhaustive(lines: readonly Claim[], at: ReadonlyMap<SignalUse, Host>, kit: readonly string[]): number {
  const uses = lines.map((line) => line.uses[0] as SignalUse)
  const post = (host: Host) => host.board?.facts.pin(host.pin)
  const cable = ({ part: { part } }: SignalUse): readonly string[] => {
    const legs = part.build === 'module' ? part.pins.map(({ id }) => id) : part.signals.map(({ pin }) => pin)
    return part.cable.length > 0 ? part.cable : legs
  }
  const place = (use: SignalUse): number => cable(use).indexOf(use.facts.pin)
  const singlesOf = (use: SignalUse): boolean => [...at.keys()].filter((one) => one.part === use.part).length === 1
  const rank = (use: SignalUse): number => kit.filter((ref) => kitPart(ref, use)).indexOf(use.part.ref)
  const kitPart = (ref: string, use: SignalUse): boolean =>
    [...at.keys()].some((one) => one.part.ref === ref && one.part.part.id === use.part.part.id)
  /** 0: they do not belong together; 1: they do; 2: in this order. */
  const bond = (a: SignalUse, b: SignalUse): number => {
    if (a.part === b.part)
      return place(b) - place(a) === 1 ? 2 : place(a) - place(b) === 1 ? 0 : place(b) > place(a) ? 1 : 0
    if (a.part.part.id !== b.part.part.id || !singlesOf(a) || !singlesOf(b)) return 0
    return rank(b) - rank(a) === 1 ? 2 : 0
  }
  const worth = (a: SignalUse, one: Host, b: SignalUse, two: Host): number => {
    const [p, q] = [post(one), post(two)]
    if (!p || !q || p.header !== q.header || Math.abs(p.position - q.position) !== p.header.columns) return 0
    const pair = (x: SignalUse, y: SignalUse, from: typeof p, to: typeof p): number => {
      const kind = bond(x, y)
      const number = ({ id, position }: typeof p): number => Number(/\d+$/.exec(id)?.[0] ?? position)
      return kind === 0 ? 0 : kind === 1 ? 2 : 3 + (number(from) < number(to) ? 0.2 : 0)
    }
    return pair(a, b, p, q) + pair(b, a, q, p)
  }
  const fixed = [...at].filter(([use]) => !uses.includes(use))
  let best = Number.NEGATIVE_INFINITY
  const chosen: Host[] = []
  const go = (index: number, value: number): void => {
    if (value + (lines.length - index) * 2 * 3.2 + 30 < best) return
    if (index === lines.length) {
      best = Math.max(best, value)
      return
    }
    const use = uses[index] as SignalUse
    for (const { host, extra } of lines[index]?.choices ?? []) {
      if (chosen.includes(host) || fixed.some(([, other]) => other === host)) continue
      let more = -extra
      for (const [other, there] of fixed) more += worth(other, there, use, host)
      for (const [earlier, there] of chosen.entries()) more += worth(uses[earlier] as SignalUse, there, use, host)
      chosen.push(host)
      go(index + 1, value + more)
      chosen.pop()
    }
  }
  go(0, 0)
  return best
}

const many = (count: number, part: string) =>
  Object.fromEntries(Array.from({ length: count }, (_, index) => [`${part[0]?.toUpperCase()}${index}`, part]))

const small: readonly (readonly [string, Record<string, string>])[] = [
  ['uno-r3', many(4, 'button')],
  ['uno-r3', { ...many(2, 'button'), W: 'hx711' }],
  ['uno-r3', { R: 'rotary-encoder', ...many(1, 'button') }],
  ['nano-v3', { T: 'tm1637', W: 'hx711' }],
  ['pico', many(4, 'button')],
  ['pico', { W: 'hx711', T: 'tm1637' }],
  ['esp32-devkit-30', many(4, 'button')],
  ['esp32-devkit-30', { W: 'hx711', ...many(2, 'button') }],
  ['esp8266-d1-mini', { W: 'hx711', ...many(2, 'button') }],
  ['pi-40', { W: 'hx711', ...many(2, 'button') }],
  ['pi-40', many(4, 'button')],
  ['xiao-samd21', { W: 'hx711', T: 'tm1637' }],
  ['esp32-c3-supermini', many(4, 'button')],
]

describe('neatness', () => {
  it('comes within 5 % of what every placing tried gives, on small kits', () => {
    let [ours, most] = [0, 0]
    for (const [mcu, parts] of small) {
      const plan = planOf({ mcu, parts })
      const { wiring } = prepare(resolve(plan, catalog))
      const problem = new SearchProblem(wiring, openSignals(wiring))
      const { best } = search(problem)
      const neat = neaten(problem, best)
      const at = new Map(neat.arrangement.placed.map(({ use, host }) => [use, host]))
      const lines = problem.singles.filter(({ uses }) => uses[0] && at.has(uses[0]))
      const price = lines.reduce(
        (sum, { uses, choices }) =>
          sum + (choices.find(({ host }) => host === at.get(uses[0] as SignalUse))?.extra ?? 0),
        0,
      )
      const value = neat.after - price
      const found = exhaustive(lines, at, Object.keys(parts))
      // Measured from what the cheapest placing is worth: what neatness adds is what is compared.
      const floor = -best.placed.reduce((sum, { use, host }) => {
        const line = lines.find(({ uses }) => uses[0] === use)
        return sum + (line?.choices.find((one) => one.host === host)?.extra ?? 0)
      }, 0)
      expect(value - floor, `${mcu} ${Object.values(parts).join(' ')}`).toBeGreaterThanOrEqual(
        (found - floor) * 0.9 - 0.15,
      )
      ours += value - floor
      most += found - floor
    }
    expect(ours).toBeGreaterThanOrEqual(most * 0.95)
    expect(ours).toBeLessThanOrEqual(most + 1)
  }, 120_000)
})
