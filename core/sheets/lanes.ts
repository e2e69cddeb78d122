/** A place in the drawing, in pitches. */
export interface Place {
  readonly x: number
  readonly y: number
}

export interface Box {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
}

export interface Way {
  readonly from: Place
  readonly to: Place
  /** Where a wire leaves `from` and `to`: 1 to the right, -1 to the left, as from a post; 0 for any way. */
  readonly leaves: readonly [number, number]
  /** Ways with the same bundle like to run side by side. */
  readonly bundle: string
}

/** What a bend, a crossing, a pitch over a body, and a pitch on or close to another lane cost, in pitches. */
const BEND = 1.2
const CROSS = 1.6
const OVER = 2.5
const SHARED = 6
const CLOSE = 0.25
/** A pitch along holes, and one that keeps a wire of the same bundle company. */
const OVER_HOLES = 0.15
const COMPANY = 0.3
/** How far beside both ends a lane may lie, and the distance between lanes. */
const ASIDE = 3
const STEP = 0.25

type Lane = readonly Place[]

interface Run {
  /** Runs downwards; else across. */
  readonly down: boolean
  /** Where it lies: `x` of one that runs downwards. */
  readonly at: number
  readonly from: number
  readonly to: number
  readonly bundle: string
}

/**
 * Leads every wire along straight lanes with right angles: few bends, not on top of another wire, seldom across one, not
 * over bodies that hide it, and beside those of its bundle. Short ones choose first. Lanes come back in the order of the
 * ways; the same ways give the same lanes.
 */
export function layLanes(ways: readonly Way[], bodies: readonly Box[]): Lane[] {
  const lanes = new Map<Way, Lane>()
  const laid: Run[] = []
  const far = ({ from, to }: Way): number => Math.abs(from.x - to.x) + Math.abs(from.y - to.y)
  for (const way of [...ways].sort((a, b) => far(a) - far(b))) {
    const inTheWay = bodies.filter((box) => !holds(box, way.from) && !holds(box, way.to))
    let best: Lane = [way.from, way.to]
    let least = Number.POSITIVE_INFINITY
    for (const lane of lanesFor(way)) {
      const price = priceOf(lane, way.bundle, laid, inTheWay, least)
      if (price >= least) continue
      least = price
      best = lane
    }
    lanes.set(way, best)
    laid.push(...runsOf(best, way.bundle))
  }
  return ways.map((way) => lanes.get(way)!)
}

const holds = ({ left, top, width, height }: Box, { x, y }: Place): boolean =>
  x >= left && x <= left + width && y >= top && y <= top + height

/** Ways with at most two bends. */
function* lanesFor({ from, to, leaves: [first, last] }: Way): Generator<Lane> {
  const isRight = (lane: Lane): boolean => {
    const [second, beforeLast] = [lane[1]!, lane.at(-2)!]
    return (
      (first === 0 || Math.sign(second.x - from.x) === first) && (last === 0 || Math.sign(beforeLast.x - to.x) === last)
    )
  }
  if (from.y === to.y || from.x === to.x) {
    if (isRight([from, to])) yield [from, to]
  } else {
    if (last === 0 && isRight([from, { x: to.x, y: from.y }])) yield [from, { x: to.x, y: from.y }, to]
    if (first === 0 && isRight([{ x: from.x, y: to.y }, to])) yield [from, { x: from.x, y: to.y }, to]
  }
  for (const x of channels(from.x, to.x)) {
    const lane = [from, { x, y: from.y }, { x, y: to.y }, to]
    if (isRight(lane)) yield lane
  }
  if (first !== 0 || last !== 0) return
  for (const y of channels(from.y, to.y)) yield [from, { x: from.x, y }, { x: to.x, y }, to]
}

/** Lanes between the rows of holes. */
function* channels(a: number, b: number): Generator<number> {
  const last = Math.max(a, b) + ASIDE
  for (let at = Math.floor(Math.min(a, b) - ASIDE); at <= last; at += STEP)
    if (Math.abs(at - Math.round(at)) > 0.2) yield at
}

function runsOf(lane: Lane, bundle: string): Run[] {
  return lane.slice(1).map((to, index): Run => {
    const from = lane[index]!
    const down = from.x === to.x
    const [a, b] = down ? [from.y, to.y] : [from.x, to.x]
    return { down, at: down ? from.x : from.y, from: Math.min(a, b), to: Math.max(a, b), bundle }
  })
}

function priceOf(lane: Lane, bundle: string, laid: readonly Run[], bodies: readonly Box[], most: number): number {
  let price = (lane.length - 2) * BEND
  for (const run of runsOf(lane, bundle)) {
    const length = run.to - run.from
    price += length
    if (Math.abs(run.at - Math.round(run.at)) < 0.1) price += length * OVER_HOLES
    for (const { left, top, width, height } of bodies) {
      const [near, broad, along, long] = run.down ? [left, width, top, height] : [top, height, left, width]
      if (run.at > near && run.at < near + broad)
        price += OVER * Math.max(0, Math.min(run.to, along + long) - Math.max(run.from, along))
    }
    if (price >= most) return price
    for (const other of laid) {
      if (other.down === run.down) {
        const apart = Math.abs(other.at - run.at)
        if (apart > 2 * CLOSE) continue
        const shared = Math.min(run.to, other.to) - Math.max(run.from, other.from)
        if (shared < 0) continue
        if (apart < CLOSE * 0.9) price += SHARED * (shared + 0.1)
        else if (other.bundle === bundle) price -= COMPANY * shared
      } else if (other.at > run.from && other.at < run.to && run.at > other.from && run.at < other.to) price += CROSS
    }
    if (price >= most + COMPANY * 60) return price
  }
  return price
}
