import { entryOf } from '../base/entryOf.ts'
import { columnLetters, columnX, type GridBoard, type RailName, rowOf } from '../breadboard/grid.ts'
import type { Layout } from '../breadboard/layout.ts'
import type { Seat } from '../breadboard/seats.ts'
import type { Unit } from '../breadboard/units.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { wireColours } from './colours.ts'
import type { Sheet, WireRow } from './rows.ts'

/**
 * The bench as something to draw: every place in pitches of 2.54 mm, x to the right from column `a` of the first
 * breadboard, y downwards in rows. Screen and paper draw the same picture.
 */
export interface BenchPicture {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
  readonly breadboards: readonly BreadboardPicture[]
  readonly bodies: readonly BodyPicture[]
  readonly wires: readonly WirePicture[]
}

export interface BreadboardPicture {
  readonly ref: string
  readonly left: number
  readonly right: number
  readonly rows: number
  readonly columns: readonly { readonly letter: string; readonly x: number }[]
  readonly rails: readonly { readonly name: RailName; readonly x: number }[]
  readonly railRows: readonly number[]
  readonly gapAt: number | undefined
}

export interface LegPicture {
  readonly pin: string
  readonly x: number
  readonly y: number
  readonly hole: string | undefined
}

export interface BodyPicture {
  readonly ref: string
  readonly title: string
  readonly kind: Unit['kind']
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
  readonly legs: readonly LegPicture[]
}

export interface WirePicture {
  readonly number: number
  readonly step: number
  readonly net: number
  readonly colour: string
  readonly x1: number
  readonly y1: number
  readonly x2: number
  readonly y2: number
  /** How the plan's ticks name it. */
  readonly tick: string
}

/** How far a module reaches beyond the legs that hold it, in pitches: for the drawing only. */
const OVERHANG = 8

export function benchPicture(wiring: Wiring, layout: Layout, sheet: Sheet): BenchPicture {
  const breadboards = layout.grid.boards.map(breadboardPicture)
  const bodies = layout.units.flatMap((unit) => bodyPicture(unit, layout))
  const wires = sheet.wiring.map((row) => wirePicture(wiring, layout, row))
  const boxes = [
    ...breadboards.map(({ left, right, rows }) => ({ left, top: -1, width: right - left, height: rows + 2 })),
    ...bodies,
  ]
  const left = Math.min(...boxes.map((one) => one.left)) - 2
  const top = Math.min(...boxes.map((one) => one.top)) - 2
  return {
    left,
    top,
    width: Math.max(...boxes.map((one) => one.left + one.width)) + 2 - left,
    height: Math.max(...boxes.map((one) => one.top + one.height)) + 2 - top,
    breadboards,
    bodies,
    wires,
  }
}

export function breadboardPicture(board: GridBoard): BreadboardPicture {
  const plus = board.entry.plus ?? 'left'
  const rails = board.rails.map((name) => ({
    name,
    x: board.x + columnX(10 + ['L+', 'L-', 'R+', 'R-'].indexOf(name), plus),
  }))
  const hasLeft = rails.some(({ name }) => name.startsWith('L'))
  const hasRight = rails.some(({ name }) => name.startsWith('R'))
  return {
    ref: board.ref,
    left: board.x - (hasLeft ? 5 : 1.5),
    right: board.x + 11 + (hasRight ? 5 : 1.5),
    rows: board.rows,
    columns: [...columnLetters].map((letter, at) => ({ letter, x: board.x + columnX(at, plus) })),
    rails,
    railRows: board.railRows,
    gapAt: board.gapAt,
  }
}

function bodyPicture(unit: Unit, layout: Layout): BodyPicture[] {
  const seat = layout.seats.get(unit.ref)
  if (seat) return [seatPicture(unit, seat, layout)]
  const legs = [...layout.posts]
    .filter(([end]) => splitEnd(end).ref === unit.ref)
    .map(([end, { x, y }]): LegPicture => ({ pin: splitEnd(end).pin, x, y, hole: undefined }))
  if (legs.length === 0) return []
  const base = { ref: unit.ref, title: unit.owner?.title ?? unit.ref, kind: unit.kind, legs }
  const box = boxOf(legs)
  if (unit.owner?.kind === 'board') return [{ ...base, ...grown(box, 1, 1, 1, 1) }]
  return [{ ...base, ...grown(box, 0.7, 1.6, 9, 0.7) }]
}

/** A unit in its holes; posts of it that stand apart are drawn where they lie. */
export function seatPicture(unit: Unit, seat: Seat, layout: Pick<Layout, 'grid'>): BodyPicture {
  const legs = seat.legs.map(
    ({ pin, hole }): LegPicture => ({ pin, x: layout.grid.x(hole), y: rowOf(hole), hole: layout.grid.name(hole) }),
  )
  const base = { ref: unit.ref, title: unit.owner?.title ?? unit.ref, kind: unit.kind, legs }
  const box = boxOf(legs)
  if (unit.kind === 'row' && unit.hangsOver) {
    const board = layout.grid.board(seat.legs[0]!.hole)
    const leftHalf = legs[0]!.x - board.x < 5
    return { ...base, ...(leftHalf ? grown(box, OVERHANG, 0.5, 0.5, 0.5) : grown(box, 0.5, 0.5, OVERHANG, 0.5)) }
  }
  return { ...base, ...grown(box, 0.45, 0.45, 0.45, 0.45) }
}

interface Box {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
}

function boxOf(legs: readonly LegPicture[]): Box {
  const xs = legs.map(({ x }) => x)
  const ys = legs.map(({ y }) => y)
  const [left, top] = [Math.min(...xs), Math.min(...ys)]
  return { left, top, width: Math.max(...xs) - left, height: Math.max(...ys) - top }
}

const grown = (box: Box, left: number, top: number, right: number, bottom: number): Box => ({
  left: box.left - left,
  top: box.top - top,
  width: box.width + left + right,
  height: box.height + top + bottom,
})

function wirePicture(wiring: Wiring, layout: Layout, row: WireRow): WirePicture {
  const place = (end: WireRow['from'] | WireRow['to']): { x: number; y: number } => {
    const hole = end.hole === null ? undefined : layout.grid.parse(end.hole)
    if (hole !== undefined) return { x: layout.grid.x(hole), y: rowOf(hole) }
    return layout.posts.get(`${end.ref}.${end.pin}`) ?? { x: 0, y: 0 }
  }
  const [from, to] = [place(row.from), place(row.to)]
  const end = [row.from, row.to].find((one) => wiring.terminal(`${one.ref}.${one.pin}`) !== undefined)
  const rail = [row.from, row.to].map(({ hole }) => (hole === null ? undefined : layout.grid.parse(hole)))
  const node = rail.find((hole) => hole !== undefined)
  return {
    number: row.number,
    step: row.step,
    net: end
      ? wiring.netOf(`${end.ref}.${end.pin}`).index
      : node === undefined
        ? -1
        : (layout.nodes.get(layout.grid.node(node)) ?? -1),
    colour: entryOf(wireColours, row.colour) ?? row.colour,
    x1: from.x,
    y1: from.y,
    x2: to.x,
    y2: to.y,
    tick: tickOf(row),
  }
}

/** A wire of the bench as the plan's ticks name it: its two holes, or pins where there is none. */
export const tickOf = ({ from, to }: WireRow): string =>
  [from, to].map(({ ref, pin, hole }) => hole ?? `${ref}.${pin}`).join(' ')

/** A wire drawn as a flat bow, so that wires side by side stay apart: control point of a quadratic curve. */
export function bowOf({ x1, y1, x2, y2 }: Pick<WirePicture, 'x1' | 'y1' | 'x2' | 'y2'>): { x: number; y: number } {
  const length = Math.hypot(x2 - x1, y2 - y1) || 1
  const sag = Math.min(3, length * 0.12)
  return { x: (x1 + x2) / 2 + ((y1 - y2) / length) * sag, y: (y1 + y2) / 2 + ((x2 - x1) / length) * sag }
}
