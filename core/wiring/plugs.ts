import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import { footprintOf } from '../catalog/footprint.ts'
import type { Part } from '../catalog/partSchema.ts'
import { splitEnd } from '../plan/ends.ts'
import type { BoardInstance, PartInstance, Wiring } from './model.ts'

/** Something that is plugged onto posts as a whole, so that no wire is needed between its pins and the posts. */
export interface Plug {
  readonly ref: string
  readonly onto: string
  /** `header`: over a whole header of a board, whose pins it brings out; `posts`: a part's own plug on a row of posts. */
  readonly kind: 'header' | 'posts'
  /** Title of the header. */
  readonly header: string | undefined
  /** Its own ends with the posts below them, in order. */
  readonly pairs: readonly (readonly [own: string, post: string])[]
}

/**
 * The header over which a part goes as a whole: that of the board which the plan names for it, else of the first board
 * that has a header in two columns of a fitting size and is not covered yet.
 */
export function headerPlug(
  ref: string,
  part: Part,
  on: string | undefined,
  boards: readonly Pick<BoardInstance, 'ref' | 'board'>[],
  covered: readonly Plug[],
): Plug | undefined {
  for (const { ref: board, board: facts } of boards) {
    if (on !== undefined && on !== board) continue
    const header = facts.headers.find(
      (one) =>
        one.columns === 2 &&
        one.posts === 'plug' &&
        part.plugsOn.includes(one.pins.length) &&
        !covered.some((plug) => plug.onto === board && plug.header === one.title),
    )
    if (!header) continue
    const pairs = part.pins.flatMap((pin) => {
      const post = pin.number === undefined ? undefined : header.pins[pin.number - 1]
      return post === undefined ? [] : [[`${ref}.${pin.id}`, `${board}.${post}`] as const]
    })
    return { ref, onto: board, kind: 'header', header: header.title, pairs }
  }
  return undefined
}

/** Everything of a plan that plugs onto posts as a whole. */
export const plugsOf = memo((wiring: Wiring): readonly Plug[] => [
  ...wiring.parts.flatMap(({ header }) => header ?? []),
  ...cablePlugs(wiring),
])

/** Cables whose pins are wired, in order, to what a row of posts offers: one plug does it. */
function cablePlugs(wiring: Wiring): Plug[] {
  const cables = wiring.parts.flatMap((part) => {
    const foot = footprintOf(part.part, part.options)
    return foot.kind === 'leads' && foot.housing ? [{ part, pins: foot.pins }] : []
  })
  if (cables.length === 0) return []
  const rows = [...wiring.parts.flatMap(rowsOfPart), ...wiring.boards.flatMap((board) => rowsOfBoard(wiring, board))]
  const repeated = repeatedPosts(wiring)
  const taken = new Set<string>()
  return cables.flatMap(({ part, pins }): Plug[] => {
    const own = pins.map((pin) => `${part.ref}.${pin}`)
    for (const row of rows)
      for (const posts of runsOf(row, own.length)) {
        if (!posts.every((post, at) => isSame(wiring, own[at] as string, post)) || posts.some((one) => taken.has(one)))
          continue
        // A name that stands in several rows is printed beside a post of its own in each.
        for (const post of posts) if (!repeated.has(post)) taken.add(post)
        const onto = splitEnd(posts[0] as string).ref
        return [
          {
            ref: part.ref,
            onto,
            kind: 'posts',
            header: undefined,
            pairs: own.map((end, at) => [end, posts[at] ?? '']),
          },
        ]
      }
    return []
  })
}

const isSame = (wiring: Wiring, own: string, post: string): boolean => {
  const net = wiring.netOf(own)
  return net.wired && net === wiring.netOf(post)
}

/** Neighbouring posts of a row, as many as a plug has ways, read from either end. */
function runsOf(row: readonly string[], ways: number): string[][] {
  return Array.from({ length: Math.max(0, row.length - ways + 1) }, (_, at) => row.slice(at, at + ways)).flatMap(
    (run) => [run, [...run].reverse()],
  )
}

const rowsOfPart = ({ ref, part }: PartInstance): string[][] =>
  part.plugPosts.map((row) => row.map((pin) => `${ref}.${pin}`))

/** Posts in a line of a board that lies beside the breadboard, a column at a time. */
function rowsOfBoard(wiring: Wiring, { ref, board }: BoardInstance): string[][] {
  if (board.mounting.way !== 'beside' && !entryOf(wiring.plan.bench?.places ?? {}, ref)?.beside) return []
  const covered = wiring.parts.flatMap(({ header }) => (header?.onto === ref ? [header.header] : []))
  return board.headers
    .filter(({ posts, title }) => posts === 'plug' && !covered.includes(title))
    .flatMap(({ pins, columns }) =>
      Array.from({ length: columns }, (_, column) =>
        pins.filter((__, at) => at % columns === column).map((pin) => `${ref}.${pin}`),
      ),
    )
}

/** Names that stand in several rows of posts: ground and supply of every channel of a driver board. */
export function repeatedPosts(wiring: Wiring): ReadonlySet<string> {
  const all = wiring.parts.flatMap((part) => rowsOfPart(part).flat())
  return new Set(all.filter((post, at) => all.indexOf(post) !== at))
}

/** Posts that a plug covers, so that no wire goes there; a name that stands at several posts is not covered. */
export function coveredPosts(wiring: Wiring): ReadonlySet<string> {
  const repeated = repeatedPosts(wiring)
  return new Set(
    plugsOf(wiring).flatMap(({ kind, pairs }) =>
      pairs.flatMap(([own, post]) => (kind === 'header' ? [post] : repeated.has(post) ? [own] : [own, post])),
    ),
  )
}
