import { type LegPicture, textWidth } from './bodyInk.ts'
import type { Ink } from './ink.ts'
import type { Place } from './lanes.ts'

/** What is drawn of a body: its posts and their names. */
interface Drawn {
  readonly legs: readonly LegPicture[]
  readonly ink: readonly Ink[]
}

/** Where a number stands, and where the words beside it begin, which run away from `from`. */
export interface Plated {
  readonly plate: Place
  readonly words: { readonly at: Place; readonly from: Place }
}

/** From the middle of a number to words beside it. */
const TO_WORDS = 0.6

/** Where the numbers of wires stand: in the gap between two holes, next to their own, where no other stands. */
export class Plates {
  readonly #taken = new Set<string>()
  readonly #ends: ReadonlySet<string>
  readonly #posts: ReadonlySet<string>
  /** Names of posts, by the post: how far they reach from it, to the right where positive. */
  readonly #names: ReadonlyMap<string, number>

  constructor(ends: readonly Place[], bodies: readonly Drawn[]) {
    this.#ends = new Set(ends.map(keyOf))
    const posts = bodies.flatMap(({ legs }) => legs.filter(({ hole }) => hole === undefined))
    this.#posts = new Set(posts.map(keyOf))
    this.#names = new Map(
      bodies.flatMap(({ legs, ink }) =>
        ink.flatMap((one): [string, number][] => {
          if (one.is !== 'text' || (one.role !== 'pin' && one.role !== 'post-name')) return []
          const toRight = one.anchor === 'start' ? 1 : -1
          const leg = legs.find(({ x, y }) => y === one.y && Math.abs(x - one.x) < 0.5 && x < one.x === toRight > 0)
          return leg ? [[keyOf(leg), one.x - leg.x + toRight * textWidth(one.text, one.size)]] : []
        }),
      ),
    )
  }

  take(end: Place, towards: Place, isPost: boolean): Plated {
    const [dx, dy] = [Math.sign(towards.x - end.x), Math.sign(towards.y - end.y)]
    if (isPost && dx !== 0) return this.#atPost(end, dx)
    const away = isPost ? 1.15 : 0.5
    const along: readonly (readonly [number, number])[] = dx !== 0 ? [[dx, 0]] : [[0, dy]]
    const ways = isPost ? along : [...along, [0, 1] as const, [0, -1] as const, [1, 0] as const, [-1, 0] as const]
    const places = ways.map(([x, y]): Place => ({ x: end.x + x * away, y: end.y + y * away }))
    const free = places.find((one) => !this.#taken.has(keyOf(one)) && !this.#ends.has(keyOf(one))) ?? places[0] ?? end
    this.#taken.add(keyOf(free))
    return { plate: free, words: { at: { x: free.x + dx * TO_WORDS, y: free.y + dy * TO_WORDS }, from: end } }
  }

  /**
   * On the way of the wire, beyond the name of the post. In a header of two columns the number of an outer post stands
   * between the two, and its words at the other side, where the inner ones say theirs.
   */
  #atPost({ x, y }: Place, dx: number): Plated {
    const name = this.#names.get(keyOf({ x, y })) ?? 0
    const at = (far: number): Place => ({ x: x + far, y })
    if (this.#posts.has(keyOf(at(dx)))) {
      const far = name * dx < 0 ? name - dx * 0.25 : -dx * TO_WORDS
      return { plate: at(dx * 0.5), words: { at: at(far), from: { x, y } } }
    }
    const away = name * dx > 0 ? name + dx * 0.57 : dx * 1.15
    return { plate: at(away), words: { at: at(away + dx * TO_WORDS), from: { x, y } } }
  }
}

const keyOf = ({ x, y }: Place): string => `${Math.round(x * 4)} ${Math.round(y * 4)}`
