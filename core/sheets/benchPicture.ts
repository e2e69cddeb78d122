import { entryOf } from '../base/entryOf.ts'
import { edgesOf, type GridBoard, rowOf } from '../breadboard/grid.ts'
import { isRailsUnit } from '../breadboard/overRails.ts'
import type { Seat } from '../breadboard/seats.ts'
import type { Unit } from '../breadboard/units.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { type Plug, plugsOf, repeatedPosts } from '../wiring/plugs.ts'
import { bodyInk, isNarrow, type LegPicture, nameRoom, SMALL, textWidth } from './bodyInk.ts'
import { breadboardInk } from './breadboardInk.ts'
import { wireColours } from './colours.ts'
import { type Ink, type Pose, turnBox, turnInk, turnPlace } from './ink.ts'
import { type Box, layLanes, type Place } from './lanes.ts'
import { type Plated, Plates } from './plates.ts'
import type { Sheet, WireRow } from './rows.ts'

/** Everything of a bench that is drawn, in pitches, in the pose that was asked for. Screen and paper draw the same. */
export interface BenchPicture extends Box {
  readonly pose: Pose
  readonly breadboards: readonly BreadboardPicture[]
  readonly bodies: readonly BodyPicture[]
  readonly wires: readonly WirePicture[]
  /** Names of posts that stand beside their body, where wires run: drawn over these. */
  readonly labels: readonly Ink[]
}

export interface BreadboardPicture {
  readonly ref: string
  readonly ink: readonly Ink[]
}

export interface BodyPicture extends Box {
  readonly ref: string
  readonly title: string
  readonly kind: Unit['kind']
  /** The build step in which it goes into its holes; undefined for what lies beside. */
  readonly step?: number | undefined
  readonly legs: readonly LegPicture[]
  readonly ink: readonly Ink[]
}

/** One end of a wire: its hole or post, where its number stands, and what is written there about its other end. */
export interface WireEnd extends Place {
  readonly plate: Place
  readonly goes: Extract<Ink, { is: 'text' }> | undefined
}

export interface WirePicture {
  readonly number: number
  readonly step: number
  readonly net: number
  readonly colour: string
  readonly lane: readonly Place[]
  readonly ends: readonly [WireEnd, WireEnd]
  /** How the plan's ticks name it. */
  readonly tick: string
}

/** How far a module reaches beyond the legs that hold it, in pitches: for the drawing only. */
const OVERHANG = 6
/** How far a supply module over the rails reaches beyond the end of its breadboard, in pitches: for the drawing only. */
const OVER_THE_END = 6

export function benchPicture(wiring: Wiring, layout: Layout, sheet: Sheet, pose: Pose = 'stands'): BenchPicture {
  const breadboards = layout.grid.boards.map((board) => ({
    ref: board.ref,
    ink: breadboardInk(board).map((ink) => turnInk(pose, ink)),
  }))
  const plugs = plugsOf(wiring).filter(({ kind }) => kind === 'posts')
  const repeated = repeatedPosts(wiring)
  const standing = layout.units
    .flatMap((unit) => bodyPicture(unit, layout))
    .map(
      (body): BodyPicture => ({
        ...body,
        step: sheet.steps.find(({ places }) => places?.includes(body.ref))?.number,
        ink: [...body.ink, ...plugInk(body, plugs, repeated, layout)],
      }),
    )
  const isLabel = (ink: Ink): boolean => ink.role === 'post-name'
  const labels = standing.flatMap(({ ink }) => ink.filter(isLabel))
  const bodies = standing.map((body) => turnBody(pose, { ...body, ink: body.ink.filter((ink) => !isLabel(ink)) }))
  const wires = wirePictures(wiring, layout, sheet, standing, pose)
  const boxes = [
    ...layout.grid.boards.map((board) => {
      const { left, right } = edgesOf(board)
      return turnBox(pose, { left, top: -1, width: right - left, height: board.rows + 2 })
    }),
    ...bodies,
    ...wires.flatMap(({ ends }) => ends.flatMap(({ goes }) => (goes ? [wordsBox(goes)] : []))),
  ]
  const left = Math.min(...boxes.map((one) => one.left)) - 2
  const top = Math.min(...boxes.map((one) => one.top)) - 2
  return {
    pose,
    left,
    top,
    width: Math.max(...boxes.map((one) => one.left + one.width)) + 2 - left,
    height: Math.max(...boxes.map((one) => one.top + one.height)) + 2 - top,
    breadboards,
    bodies,
    wires,
    labels: labels.map((ink) => turnInk(pose, ink)),
  }
}

const turnBody = (pose: Pose, body: BodyPicture): BodyPicture => ({
  ...body,
  ...turnBox(pose, body),
  legs: body.legs.map((leg) => ({ ...leg, ...turnPlace(pose, leg) })),
  ink: body.ink.map((ink) => turnInk(pose, ink)),
})

/** What no wire shows: at the posts of a cable where its own plug goes, and at the post that is its alone what sits there. */
function plugInk(
  { ref, legs }: BodyPicture,
  plugs: readonly Plug[],
  repeated: ReadonlySet<string>,
  { grid }: Layout,
): Ink[] {
  return plugs.flatMap((plug) =>
    plug.pairs.flatMap(([own, post]): Ink[] => {
      const [here, there] = plug.ref === ref ? [own, shortly(plug.onto, splitEnd(post).pin)] : [post, plug.ref]
      const leg = splitEnd(here).ref === ref && legs.find(({ pin, hole }) => pin === splitEnd(here).pin && !hole)
      if (!leg || (here === post && repeated.has(post))) return []
      const towards = towardsBoards(grid.boards, leg.x)
      return [
        { is: 'dot', role: 'first', x: leg.x, y: leg.y, r: 0.17 },
        {
          is: 'text',
          role: 'goes',
          x: leg.x + 0.95 * towards,
          y: leg.y,
          size: SMALL,
          text: there,
          anchor: towards > 0 ? 'start' : 'end',
          along: true,
        },
      ]
    }),
  )
}

/** From a post towards the nearest breadboard: to the right 1, to the left -1. */
function towardsBoards(boards: readonly GridBoard[], x: number): number {
  const board = boards.reduce((near, one) => (Math.abs(one.x + 5.5 - x) < Math.abs(near.x + 5.5 - x) ? one : near))
  return Math.sign(board.x + 5.5 - x)
}

function bodyPicture(unit: Unit, layout: Layout): BodyPicture[] {
  const seat = layout.seats.get(unit.ref)
  if (seat) return [seatPicture(unit, seat, layout)]
  const legs = [...layout.posts]
    .filter(([end]) => splitEnd(end).ref === unit.ref)
    .map(([end, { x, y }]): LegPicture => ({ pin: splitEnd(end).pin, x, y, hole: undefined }))
  if (legs.length === 0) return []
  const box = boxOf(legs)
  const isLeft = layout.asides.get(unit.ref)?.side === 'left'
  const [left, right] = isLeft ? [9, 0.7] : [0.7, 9]
  if (unit.owner?.kind !== 'board') return [drawn(unit, legs, grown(box, left, 1.6, right, 0.7))]
  // The edge of a narrow board lies between its posts and their names.
  const [edge, top] = isNarrow(box) ? [0.36, nameRoom(unit)] : [1, 1.6]
  return [drawn(unit, legs, grown(box, edge, top, edge, edge))]
}

/** Room that words along a wire take. */
function wordsBox({ x, y, text, size, anchor, upwards }: Extract<Ink, { is: 'text' }>): Box {
  const long = textWidth(text, size)
  const before = anchor === 'start' ? 0 : long
  return upwards
    ? { left: x - size / 2, top: y - long + before, width: size, height: long }
    : { left: x - before, top: y - size / 2, width: long, height: size }
}

const drawn = (unit: Unit, legs: readonly LegPicture[], box: Box): BodyPicture => ({
  ref: unit.ref,
  title: unit.owner?.title ?? unit.ref,
  kind: unit.kind,
  legs,
  ...box,
  ink: bodyInk(unit, legs, box),
})

/** A unit in its holes. */
function seatPicture(unit: Unit, seat: Seat, layout: Pick<Layout, 'grid'>): BodyPicture {
  const legs = seat.legs.map(
    ({ pin, hole }): LegPicture => ({ pin, x: layout.grid.x(hole), y: rowOf(hole), hole: layout.grid.name(hole) }),
  )
  const box = boxOf(legs)
  if (isRailsUnit(unit)) {
    const rows = [...seat.covers, ...seat.legs.map(({ hole }) => hole)].map(rowOf)
    const [first, last] = [Math.min(...rows), Math.max(...rows)]
    const [above, below] = seat.turned ? [0.45, OVER_THE_END] : [OVER_THE_END, 0.45]
    return drawn(unit, legs, grown({ ...box, top: first, height: last - first }, 0.6, above, 0.6, below))
  }
  const over = unit.kind === 'row' || unit.kind === 'straddle' ? unit.over : [0.45, 0.45]
  const [above, below] = (seat.turned ? [...over].reverse() : over) as [number, number]
  if (unit.kind === 'row' && unit.hangsOver) {
    const board = layout.grid.board(seat.legs[0]!.hole)
    const deep = unit.deep ?? OVERHANG
    const [left, right] = legs[0]!.x - board.x < 5 ? [deep, 0.45] : [0.45, deep]
    return drawn(unit, legs, grown(box, left, above, right, below))
  }
  return drawn(unit, legs, grown(box, 0.45, above, 0.45, below))
}

/** A unit in other holes than those of the layout, in a pose. */
export const ghostPicture = (unit: Unit, seat: Seat, layout: Pick<Layout, 'grid'>, pose: Pose): BodyPicture =>
  turnBody(pose, seatPicture(unit, seat, layout))

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

/** A wire from place to place as the table names it. */
interface Led {
  readonly row: WireRow
  readonly from: Place
  readonly to: Place
}

function wirePictures(
  wiring: Wiring,
  layout: Layout,
  sheet: Sheet,
  bodies: readonly BodyPicture[],
  pose: Pose,
): WirePicture[] {
  const place = (end: WireRow['from'] | WireRow['to']): Place => {
    const hole = end.hole === null ? undefined : layout.grid.parse(end.hole)
    if (hole !== undefined) return { x: layout.grid.x(hole), y: rowOf(hole) }
    const post = layout.posts.get(`${end.ref}.${end.pin}`)
    return post ? { x: post.x, y: post.y } : { x: 0, y: 0 }
  }
  const isPost = ({ hole }: WireRow['from'] | WireRow['to']): boolean =>
    hole === null || layout.grid.parse(hole) === undefined
  const { boards } = layout.grid
  /** From a post towards the breadboards. */
  const leavesAt = (end: WireRow['from'] | WireRow['to'], { x }: Place): number => {
    return isPost(end) ? towardsBoards(boards, x) : 0
  }
  const led = sheet.wiring.map((row): Led => ({ row, from: place(row.from), to: place(row.to) }))
  const lanes = layLanes(
    led.map(({ row, from, to }) => ({
      from,
      to,
      leaves: [leavesAt(row.from, from), leavesAt(row.to, to)],
      bundle: row.colour,
    })),
    bodies,
  )
  const plates = new Plates(
    led.flatMap(({ from, to }) => [from, to]),
    bodies,
  )
  return led.map(({ row }, index): WirePicture => {
    const lane = lanes[index]!
    const isOne = layout.grid.boards.length === 1
    const end = (at: 'from' | 'to'): WireEnd => {
      const points = at === 'from' ? lane : [...lane].reverse()
      const other = at === 'from' ? row.to : row.from
      const atPost = isPost(row[at])
      const { plate, words } = plates.take(points[0]!, points[1]!, atPost)
      const hole = isOne ? other.hole?.replace(/^.*\./, '') : other.hole
      const text = isPost(other) ? shortly(other.ref, other.pin) : (hole ?? '')
      return turnEnd(pose, points[0]!, plate, atPost ? { ...words, text } : undefined)
    }
    return {
      number: row.number,
      step: row.step,
      net: netOf(wiring, layout, row),
      colour: entryOf(wireColours, row.colour) ?? row.colour,
      lane: lane.map((one) => turnPlace(pose, one)),
      ends: [end('from'), end('to')],
      tick: tickOf(row),
    }
  })
}

/** Letters that find room between a post and the breadboard. */
const MOST_LETTERS = 9

const shortly = (ref: string, pin: string): string =>
  ref.length + pin.length < MOST_LETTERS ? `${ref} ${pin}` : ref.slice(0, MOST_LETTERS)

/** What an end says of the other one begins at `words.at` and runs away from `words.from`. */
function turnEnd(
  pose: Pose,
  end: Place,
  plate: Place,
  words: (Plated['words'] & { readonly text: string }) | undefined,
): WireEnd {
  const at = { ...turnPlace(pose, end), plate: turnPlace(pose, plate) }
  if (words === undefined) return { ...at, goes: undefined }
  const [from, on] = [turnPlace(pose, words.from), turnPlace(pose, words.at)]
  const upwards = on.y !== from.y
  const isOn = upwards ? on.y < from.y : on.x > from.x
  return {
    ...at,
    goes: { is: 'text', role: 'goes', text: words.text, size: SMALL, ...on, anchor: isOn ? 'start' : 'end', upwards },
  }
}

function netOf(wiring: Wiring, layout: Layout, row: WireRow): number {
  const end = [row.from, row.to].find((one) => wiring.terminal(`${one.ref}.${one.pin}`) !== undefined)
  if (end) return wiring.netOf(`${end.ref}.${end.pin}`).index
  const holes = [row.from, row.to].map(({ hole }) => (hole === null ? undefined : layout.grid.parse(hole)))
  const first = holes.find((hole) => hole !== undefined)
  return first === undefined ? -1 : (layout.nodes.get(layout.grid.node(first)) ?? -1)
}

/** A wire of the bench as the plan's ticks name it: its two holes, or pins where there is none. */
export const tickOf = ({ from, to }: WireRow): string =>
  [from, to].map(({ ref, pin, hole }) => hole ?? `${ref}.${pin}`).join(' ')
