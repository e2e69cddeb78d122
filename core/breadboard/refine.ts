import { seeded } from '../base/random.ts'
import type { Wiring } from '../wiring/model.ts'
import { Placement } from './placing.ts'
import type { Movable, Settling } from './settle.ts'
import { type Layout, priceOf, type Workbench } from './workbench.ts'

/** Placings that are routed to the end, of which the best is taken, by the most parts with which so many are tried. */
const ATTEMPTS = [
  { parts: 6, attempts: 12 },
  { parts: 20, attempts: 4 },
  { parts: Number.POSITIVE_INFINITY, attempts: 3 },
] as const
/** Single moves that are tried on the best one, each routed to the end: so many, fewer where there is much to route. */
const TRIES = 60
const MOST_WORK = 600
/** Moves in a row of which none made the whole better, after which there are no more. */
const IDLE = 8
/** Pitches by which a move may be worse at first. */
const SLACK = 3
/** A move that is guessed to cost more, in pitches, is not tried. */
const HOPELESS = 6
/** With so few wires to be led for all spots of everything, each is tried in the end. */
const FEW = 6000

/** The best of several placings, refined. */
export function laidOn(bench: Workbench, wiring: Wiring, watch: ((share: number) => void) | undefined): Layout {
  let best: Attempt | undefined
  const attempts = attemptsFor(wiring)
  for (let seed = 0; seed < attempts; seed += 1) {
    const one = attempt(bench, seed, (share) => watch?.(((seed + share) / attempts) * 0.7))
    if (!best || priceOf(one.layout) < priceOf(best.layout)) best = one
    // Everything was put down by hand: there is nothing to choose.
    if (one.placement.isKept) return one.layout
  }
  return refined(bench, best!, watch)
}

/** The first placing on which everything has its place and every wire its holes, not yet a good one; the best where there is none. */
export function roughlyLaid(bench: Workbench, wiring: Wiring): Layout {
  let best: Layout | undefined
  for (let seed = 0; seed < attemptsFor(wiring); seed += 1) {
    const { layout } = attempt(bench, seed)
    if (!best || priceOf(layout) < priceOf(best)) best = layout
    if (layout.stray.length + layout.blocked.length === 0) break
  }
  return best!
}

const attemptsFor = ({ parts }: Wiring): number => ATTEMPTS.find((one) => parts.length <= one.parts)!.attempts

function attempt(bench: Workbench, seed: number, watch?: (share: number) => void): Attempt {
  const placement = new Placement(bench.room(), seed)
  const settling = placement.settle(seed, watch)
  return { layout: bench.complete((room) => placement.placeIn(room)), placement, settling }
}

interface Attempt {
  readonly layout: Layout
  readonly placement: Placement
  readonly settling: Settling
}

/** Moves one thing at a time, as long as that makes the whole better; the best that was met is taken. */
function refined(bench: Workbench, { layout, placement, settling }: Attempt, watch?: (share: number) => void): Layout {
  const random = seeded(placement.movables.length)
  const tries = Math.min(TRIES, Math.ceil(MOST_WORK / (layout.wires.length + 1)))
  const spots = (): unknown[] => placement.movables.map(({ spot }) => spot)
  let best = layout
  let bestAt = spots()
  let now = priceOf(layout)
  let lastBetter = 0
  for (let at = 0, asked = 0; at < tries && asked < tries * 40; asked += 1) {
    const made = settling.move(random, HOPELESS)
    if (!made) continue
    if (at % 20 === 0) watch?.(0.7 + (0.3 * at) / tries)
    at += 1
    const next = bench.complete((room) => placement.placeIn(room))
    const price = priceOf(next)
    // At first a little worse is taken, too: two moves together may be better than each alone.
    if (price < now + SLACK * (1 - at / tries)) now = price
    else made.undo()
    if (price < priceOf(best)) {
      best = next
      bestAt = spots()
      lastBetter = at
    }
    if (at - lastBetter >= IDLE) break
  }
  const movables: readonly Movable<unknown>[] = placement.movables
  for (const one of movables) one.leave()
  for (const [index, one] of movables.entries()) one.stand(bestAt[index])
  return combed(bench, placement, best)
}

/** On a small bench: everything in turn to the best of all its spots, until nothing gets better by that. */
function combed(bench: Workbench, placement: Placement, layout: Layout): Layout {
  const able: readonly Movable<unknown>[] = placement.movables.filter((one) => one.pins.length > 0)
  const all = able.map((one) => one.all())
  if (all.reduce((sum, { length }) => sum + length, 0) * layout.wires.length > FEW) return layout
  let best = layout
  for (let isBetter = true; isBetter; ) {
    isBetter = false
    for (const [index, one] of able.entries()) {
      let here = one.spot
      for (const spot of all[index]!) {
        one.leave()
        const next = one.isFree(spot) && triedAt(one, spot, () => bench.complete((room) => placement.placeIn(room)))
        one.stand(here)
        if (!next || priceOf(next) >= priceOf(best)) continue
        best = next
        isBetter = true
        one.leave()
        one.stand(spot)
        here = spot
      }
    }
  }
  return best
}

function triedAt<Spot>(one: Movable<Spot>, spot: Spot, lay: () => Layout): Layout {
  one.stand(spot)
  const layout = lay()
  one.leave()
  return layout
}
