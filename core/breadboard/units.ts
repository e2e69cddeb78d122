import { staysInBox } from '../assign/left.ts'
import { entryOf } from '../base/entryOf.ts'
import { PITCH_MM } from '../catalog/common.ts'
import { footprintOf } from '../catalog/footprint.ts'
import type { Footprint } from '../catalog/partSchema.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'

/** What a wire must carry at a post: a plug goes into a hole, a socket, a screw terminal; a socket onto a post. */
export type Fit = 'plug' | 'socket'

/** How a board, part or outside supply meets the breadboard. */
export type Unit = {
  readonly ref: string
  readonly owner: BoardInstance | PartInstance | undefined
} & Shape

export type Shape =
  /** Two rows of legs over the trench; the body covers what lies between. One entry a row, from the top. */
  | {
      readonly kind: 'straddle'
      readonly left: readonly (string | null)[]
      readonly right: readonly (string | null)[]
      readonly rowsApart: number
      /** Pins of the same thing that stand outside the two rows and are wired on their own. */
      readonly apart: Readonly<Record<string, Fit>>
      /** How far its outline reaches beyond the first and the last row, in pitches. */
      readonly over: readonly [number, number]
      readonly isBoard: boolean
      /** Of a board: the end of the breadboard at which its cable comes in. */
      readonly cable: 'top' | 'bottom'
    }
  /** One row of legs; a module hangs over the edge of the breadboard, a component stands where it is put. */
  | {
      readonly kind: 'row'
      readonly pins: readonly (string | null)[]
      readonly hangsOver: boolean
      /** How far its outline reaches beyond the first and the last post, in pitches. */
      readonly over: readonly [number, number]
      /** How far it reaches outwards from its posts, in pitches; undefined where that is not known. */
      readonly deep: number | undefined
      readonly apart: Readonly<Record<string, Fit>>
    }
  /** Two legs that can be bent to any span in a range, in pitches. */
  | {
      readonly kind: 'legs'
      readonly pins: readonly [string, string]
      readonly least: number
      readonly most: number
      /** A lamp of 5 mm, round, broader than its legs are apart. */
      readonly isLamp: boolean
    }
  /** Lies beside the breadboard; a wire goes to each post. */
  | {
      readonly kind: 'beside'
      readonly posts: Readonly<Record<string, Fit>>
      readonly why: string
      /** Its pins where it may plug over the rails at an end of a breadboard instead. */
      readonly overRails?: { readonly plus: readonly string[]; readonly minus: string }
    }
  /** On leads of its own: bare or with plugs they go into holes themselves, with sockets they take a wire's plug. */
  | {
      readonly kind: 'leads'
      readonly pins: readonly string[]
      readonly ends: 'plug' | 'socket'
      readonly lengthMillimetres: number | undefined
    }

/**
 * Everything that has legs, posts or leads, in the order of the plan: boards, supplies, parts. What stays in the box lies
 * on no bench, unless the maker put it down somewhere.
 */
export function unitsOf(wiring: Wiring): Unit[] {
  const left = new Set(staysInBox(wiring).map(({ ref }) => ref))
  const beside = new Set(
    Object.entries(wiring.plan.bench?.places ?? {}).flatMap(([ref, place]) => (place.beside ? [ref] : [])),
  )
  return [
    ...wiring.boards.map((owner): Unit => ({ ref: owner.ref, owner, ...boardShape(owner, beside.has(owner.ref)) })),
    ...wiring.supplies.map(
      ({ ref }): Unit => ({
        ref,
        owner: undefined,
        kind: 'leads',
        pins: ['+', '-'],
        ends: 'plug',
        lengthMillimetres: undefined,
      }),
    ),
    ...wiring.parts
      .filter(({ ref }) => !left.has(ref) || entryOf(wiring.plan.bench?.places, ref) !== undefined)
      .map((owner): Unit => ({ ref: owner.ref, owner, ...partShape(owner, beside.has(owner.ref)) })),
  ]
}

/** What a row of posts needs at its ends, in pitches, where nothing is known of a body. */
const BARE = 0.5
/** From the edge of a module to the middle of its posts, in millimetres. */
const EDGE_MM = 1.3

const fitOf = (posts: 'plug' | 'socket' | 'pads'): Fit => (posts === 'plug' ? 'socket' : 'plug')

/** Posts of a part on other edges, by what a wire must carry there. */
const apartOf = (foot: Footprint): Record<string, Fit> =>
  'apart' in foot
    ? Object.fromEntries(
        foot.apart.flatMap(({ pins, posts }) =>
          pins.map((pin) => [pin, posts === 'plug' ? 'socket' : 'plug'] as const),
        ),
      )
    : {}

function boardShape(owner: BoardInstance, wantedBeside: boolean): Shape {
  const { board, facts } = owner
  const posts = Object.fromEntries(facts.pins.map((pin) => [pin.id, fitOf(pin.header.posts)]))
  if (board.mounting.way === 'beside') return { kind: 'beside', posts, why: 'made to lie beside the breadboard' }
  if (wantedBeside) return { kind: 'beside', posts, why: 'put beside it by the maker' }
  const rows = board.headers.filter(
    (header) => header.posts === 'plug' && header.columns === 1 && (header.step === 'down' || header.step === 'up'),
  )
  const [left, right] = [...rows].sort((a, b) => a.at.x - b.at.x)
  const apart = board.mounting.rowsApart ?? (left && right ? Math.round(right.at.x - left.at.x) : 0)
  if (!left || !right || apart < 3) return { kind: 'beside', posts, why: 'has no two rows that fit over the trench' }
  const place = (header: typeof left): (readonly [number, string])[] =>
    header.pins.map((pin, index) => [header.at.y + (header.step === 'down' ? index : -index), pin])
  const both = { left: place(left), right: place(right) }
  const top = Math.min(...[...both.left, ...both.right].map(([y]) => y))
  const column = (pins: (readonly [number, string])[]): (string | null)[] => {
    const list: (string | null)[] = []
    for (const [y, pin] of pins) list[Math.round(y - top)] = pin
    return Array.from(list, (pin) => pin ?? null)
  }
  const seated = new Set([...left.pins, ...right.pins])
  return {
    kind: 'straddle',
    left: column(both.left),
    right: column(both.right),
    rowsApart: apart,
    apart: Object.fromEntries(Object.entries(posts).filter(([pin]) => !seated.has(pin))),
    over: [top, board.outline.height - Math.max(...[...both.left, ...both.right].map(([y]) => y))],
    isBoard: true,
    cable: board.mounting.cable,
  }
}

function partShape(owner: PartInstance, wantedBeside: boolean): Shape {
  const foot = footprintOf(owner.part, owner.options)
  const apart = apartOf(foot)
  const beside = (pins: readonly (string | null)[], fit: Fit, why: string): Shape => ({
    kind: 'beside',
    posts: { ...Object.fromEntries(pins.flatMap((pin) => (pin === null ? [] : [[pin, fit] as const]))), ...apart },
    why,
  })
  const straddle = (left: readonly (string | null)[], right: readonly (string | null)[], rowsApart: number): Shape => ({
    kind: 'straddle',
    left,
    right,
    rowsApart,
    apart,
    over: [BARE, BARE],
    isBoard: false,
    cable: 'top',
  })
  switch (foot.kind) {
    case 'in-line':
      if (foot.posts !== 'plug') return beside(foot.pins, fitOf(foot.posts), 'has no posts to plug in')
      if (wantedBeside) return beside(foot.pins, 'socket', 'put beside it by the maker')
      return {
        kind: 'row',
        pins: foot.pins,
        hangsOver: owner.part.build === 'module',
        apart,
        ...bodyOf(owner, foot.pins),
      }
    case 'two-row':
      if (foot.rowsApart < 3 || foot.rowsApart > 11)
        return beside(
          [...foot.left, ...foot.right],
          'socket',
          foot.rowsApart < 3 ? 'its two rows are too close for the trench' : 'its two rows are too far apart',
        )
      if (wantedBeside) return beside([...foot.left, ...foot.right], 'socket', 'put beside it by the maker')
      return straddle(foot.left, foot.right, foot.rowsApart)
    case 'dual-in-line': {
      const half = Math.ceil(foot.pins.length / 2)
      return straddle(foot.pins.slice(0, half), foot.pins.slice(half).reverse(), foot.rowsApart)
    }
    case 'legs': {
      const [a, b, ...more] = foot.pins
      if (a === undefined || b === undefined || more.length > 0)
        return { kind: 'row', pins: foot.pins, hangsOver: false, apart, over: [BARE, BARE], deep: undefined }
      const isLamp = owner.part.category === 'light' && owner.part.polarised
      return { kind: 'legs', pins: [a, b], least: foot.spanLeast, most: foot.spanMost, isLamp }
    }
    case 'beside':
      return {
        kind: 'beside',
        posts: Object.fromEntries(
          foot.pins.map((pin) => [pin, foot.terminals.includes(pin) ? 'plug' : fitOf(foot.posts)]),
        ),
        why: 'made to lie beside the breadboard',
        ...(foot.overRails && !wantedBeside ? { overRails: foot.overRails } : {}),
      }
    case 'leads':
      return {
        kind: 'leads',
        pins: foot.pins,
        ends: foot.ends === 'socket' ? 'socket' : 'plug',
        lengthMillimetres: foot.lengthMillimetres,
      }
  }
}

/** How far the outline of a module reaches beyond its posts. */
function bodyOf(
  { part }: PartInstance,
  posts: readonly unknown[],
): { over: [number, number]; deep: number | undefined } {
  if (!part.outline) return { over: [BARE, BARE], deep: undefined }
  const { along, across, first } = part.outline
  const row = (posts.length - 1) * PITCH_MM
  const before = first ?? (along - row) / 2
  return {
    over: [before / PITCH_MM, (along - row - before) / PITCH_MM],
    deep: (across - EDGE_MM) / PITCH_MM,
  }
}
