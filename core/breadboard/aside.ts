import { postPlace } from '../catalog/boardFacts.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import { edgesOf, type Grid } from './grid.ts'
import { pinsOf } from './rails.ts'
import type { Movable, Reach } from './settle.ts'
import type { Unit } from './units.ts'

/** A place in pitches, rows counted downwards. */
export interface Spot {
  readonly x: number
  readonly y: number
}

/** Where something lies that stands in no hole: on which side of its breadboards, from which row, which end up. */
export interface AsideSpot {
  readonly side: 'left' | 'right'
  readonly row: number
  readonly turned: boolean
}

/** From the edge of a breadboard to the posts of what lies beside it, in pitches. */
export const AWAY = 4
/** Rows between two things on one side. */
const BETWEEN = 2
/** Nothing lies so many rows above the first, or so many below the last row of its breadboards, without need. */
const OVER_THE_END = 4

/** Something that lies beside the breadboards, or the posts of a thing that its holes do not take. */
export interface Aside {
  readonly unit: Unit
  readonly pins: readonly string[]
  readonly width: number
  readonly height: number
  /** Posts of a board from its top left corner; others have theirs in one column, in their own order. */
  readonly at: ReadonlyMap<string, Spot> | undefined
}

/** What of a unit lies beside; undefined for one that stands in holes with every pin. */
export function asideOf(unit: Unit): Aside | undefined {
  if (unit.kind === 'beside' && unit.owner?.kind === 'board') {
    const { board, facts } = unit.owner
    const at = new Map(facts.pins.map((pin) => [pin.id, postPlace(pin)]))
    const { width, height } = board.outline
    return { unit, pins: [...at.keys()], width, height, at }
  }
  const pins =
    unit.kind === 'beside' || unit.kind === 'leads'
      ? pinsOf(unit)
      : unit.kind === 'straddle' || unit.kind === 'row'
        ? Object.keys(unit.apart)
        : []
  return pins.length === 0 ? undefined : { unit, pins, width: 0, height: pins.length - 1, at: undefined }
}

/** A board lies either end up, leads go on in either order; a module has its posts towards the breadboard. */
export const mayTurnAside = (unit: Unit): boolean =>
  unit.kind === 'leads' || (unit.kind === 'beside' && unit.owner?.kind === 'board')

/** Where the maker laid something; undefined where that is left to the tool. */
export const asideWanted = (place: BenchPlace | undefined): AsideSpot | undefined =>
  place?.side === undefined || place.row === undefined
    ? undefined
    : { side: place.side, row: place.row, turned: place.turned === true }

/** A spot beside as the plan keeps it. */
export const asidePlace = ({ side, row, turned }: AsideSpot, before: BenchPlace | undefined): BenchPlace => ({
  ...(before?.beside ? { beside: true } : {}),
  side,
  row,
  ...(turned ? { turned } : {}),
})

/** Rows on one side that are taken, by what lies there; undefined for a module that hangs over from the breadboard. */
interface Taken {
  readonly from: number
  readonly to: number
  readonly by: Aside | undefined
}

/** The ground to the left and right of the breadboards, and what lies on it. */
export class Margins {
  readonly #grid: Grid
  readonly #boardsFor: (ref: string) => readonly number[]
  readonly #taken = new Map<string, Taken[]>()

  constructor(grid: Grid, boardsFor: (ref: string) => readonly number[]) {
    this.#grid = grid
    this.#boardsFor = boardsFor
  }

  #lane({ unit }: Aside, side: AsideSpot['side']): { readonly key: string; readonly edge: number } {
    const boards = this.#boardsFor(unit.ref)
    const index = side === 'left' ? Math.min(...boards) : Math.max(...boards)
    const board = this.#grid.boards[index]!
    return { key: `${side} ${index}`, edge: edgesOf(board)[side] }
  }

  /** Rows of the breadboards beside which a thing lies. */
  rows({ unit }: Aside): number {
    return Math.max(...this.#boardsFor(unit.ref).map((index) => this.#grid.boards[index]!.rows))
  }

  /** Another board's breadboards are on that side: between them is no room for a board. */
  #isInner({ unit }: Aside, side: AsideSpot['side']): boolean {
    const boards = this.#boardsFor(unit.ref)
    const own = this.#grid.boards[boards[0]!]!.entry.for
    const next = this.#grid.boards[side === 'left' ? Math.min(...boards) - 1 : Math.max(...boards) + 1]
    return next !== undefined && next.entry.for !== own
  }

  isFree(aside: Aside, { side, row }: AsideSpot): boolean {
    if (aside.at && this.#isInner(aside, side)) return false
    if (row < 1 - OVER_THE_END || row + aside.height > this.rows(aside) + OVER_THE_END) return false
    return this.#isOpen(this.#lane(aside, side).key, row, row + aside.height)
  }

  #isOpen(key: string, first: number, last: number): boolean {
    return (this.#taken.get(key) ?? []).every(({ from, to }) => first > to + BETWEEN || last < from - BETWEEN)
  }

  /** Nothing lies beside these rows of a breadboard, on that side of it. */
  isClear(board: number, side: AsideSpot['side'], from: number, to: number): boolean {
    return (this.#taken.get(`${side} ${board}`) ?? []).every(
      (one) => one.by === undefined || from > one.to + BETWEEN || to < one.from - BETWEEN,
    )
  }

  /** A module hangs over beside these rows, `1`, or no more, `-1`. */
  hang(board: number, side: AsideSpot['side'], from: number, to: number, by: 1 | -1): void {
    const key = `${side} ${board}`
    const list = this.#taken.get(key) ?? []
    if (by === 1) list.push({ from, to, by: undefined })
    else
      list.splice(
        list.findIndex((one) => one.by === undefined && one.from === from && one.to === to),
        1,
      )
    this.#taken.set(key, list)
  }

  put(aside: Aside, { side, row }: AsideSpot): void {
    const { key } = this.#lane(aside, side)
    const list = this.#taken.get(key) ?? []
    list.push({ from: row, to: row + aside.height, by: aside })
    this.#taken.set(key, list)
  }

  lift(aside: Aside, { side }: AsideSpot): void {
    const list = this.#taken.get(this.#lane(aside, side).key) ?? []
    const at = list.findIndex(({ by }) => by === aside)
    if (at >= 0) list.splice(at, 1)
  }

  /** The first free spot: boards to the left, everything else to the right, and below the end where there is no more room. */
  first(aside: Aside): AsideSpot {
    for (const side of aside.at ? (['left', 'right'] as const) : (['right', 'left'] as const))
      for (let row = 1; row + aside.height <= this.rows(aside) + OVER_THE_END; row += 1) {
        const spot: AsideSpot = { side, row, turned: false }
        if (this.isFree(aside, spot)) return spot
      }
    const side = aside.at && !this.#isInner(aside, 'left') ? 'left' : 'right'
    const taken = this.#taken.get(this.#lane(aside, side).key) ?? []
    return { side, row: Math.max(1, ...taken.map(({ to }) => to + BETWEEN + 1)), turned: false }
  }

  postOf(aside: Aside, { side, row, turned }: AsideSpot, pin: string): Spot {
    const { edge } = this.#lane(aside, side)
    const { at, width, height, pins } = aside
    if (!at) {
      const index = pins.indexOf(pin)
      // From the other side one sees its pins in the other order; leads are flexible and taken either way.
      const isReversed = aside.unit.kind === 'leads' ? turned : side === 'left'
      return { x: side === 'left' ? edge - AWAY : edge + AWAY, y: row + (isReversed ? height - index : index) }
    }
    const left = side === 'left' ? edge - AWAY - width : edge + AWAY
    const place = at.get(pin)!
    return turned ? { x: left + width - place.x, y: row + height - place.y } : { x: left + place.x, y: row + place.y }
  }
}

/** Something beside the breadboards that may be moved. */
export class MovableAside implements Movable<AsideSpot> {
  spot: AsideSpot
  readonly pins: Movable<AsideSpot>['pins']
  readonly aside: Aside
  readonly #margins: Margins
  readonly #names: readonly string[]
  /** It lies where the maker laid it. */
  readonly isKept: boolean

  constructor(
    margins: Margins,
    aside: Aside,
    spot: AsideSpot,
    pins: readonly { readonly pin: string; readonly net: number; readonly group: number }[],
    isKept: boolean,
  ) {
    this.#margins = margins
    this.isKept = isKept
    this.aside = aside
    this.spot = spot
    this.pins = pins
    this.#names = pins.map(({ pin }) => pin)
  }

  reachAt(spot: AsideSpot, pin: number): Reach {
    const { x, y } = this.#margins.postOf(this.aside, spot, this.#names[pin]!)
    return { from: x, to: x, y }
  }

  propose(random: () => number, towards: number | undefined): AsideSpot | undefined {
    if (this.isKept) return undefined
    const { spot, aside } = this
    const dice = random()
    const turns = mayTurnAside(aside.unit)
    if (dice < 0.2 && turns) return { ...spot, turned: !spot.turned }
    if (dice < 0.45) return { ...spot, row: spot.row + Math.ceil(random() * 3) * (random() < 0.5 ? 1 : -1) }
    const side = random() < 0.5 ? 'left' : 'right'
    const row =
      towards !== undefined
        ? Math.round(towards - random() * aside.height + (random() - 0.5) * 4)
        : 1 + Math.floor(random() * this.#margins.rows(aside))
    return { side, row, turned: turns && random() < 0.2 ? !spot.turned : spot.turned }
  }

  /** Every spot beside its breadboards. */
  all(): AsideSpot[] {
    if (this.isKept) return [this.spot]
    const rows = this.#margins.rows(this.aside) - this.aside.height
    return (['left', 'right'] as const).flatMap((side) =>
      Array.from({ length: Math.max(1, rows) }, (_, at) =>
        (mayTurnAside(this.aside.unit) ? [false, true] : [false]).map((turned) => ({ side, row: at + 1, turned })),
      ).flat(),
    )
  }

  isFree(spot: AsideSpot): boolean {
    return !this.isKept && this.#margins.isFree(this.aside, spot)
  }

  stand(spot: AsideSpot): void {
    this.#margins.put(this.aside, spot)
    this.spot = spot
  }

  leave(): void {
    this.#margins.lift(this.aside, this.spot)
  }

  /** Within the length of the breadboards, and the right way up, where nothing else speaks. */
  worth({ row, turned }: AsideSpot): number {
    const over = Math.max(0, 1 - row, row + this.aside.height - this.#margins.rows(this.aside))
    return over + (turned ? 0.5 : 0)
  }
}
