import type { BoardFacts, PinFacts } from '../catalog/boardFacts.ts'

/** One line beside the board: a post, or the title that stands before a header's first post. */
export type PostLine =
  | { readonly kind: 'post'; readonly pin: PinFacts; readonly alsoAt: readonly string[] }
  | { readonly kind: 'title'; readonly text: string }

/** Posts left and right of the board in the order in which they stand on it. */
export interface PostLayout {
  readonly left: readonly PostLine[]
  readonly right: readonly PostLine[]
}

/** Lays a board out by its headers: single rows to their side, double rows with one column to each. */
export function layoutPosts(facts: BoardFacts): PostLayout {
  const left: PostLine[] = []
  const right: PostLine[] = []
  const hidden = facts.pins.filter((pin) => !pin.header.drawn)
  const post = (pin: PinFacts): PostLine => ({
    kind: 'post',
    pin,
    alsoAt:
      pin.id === pin.net
        ? hidden.filter((other) => other.net === pin.net).map((other) => `${other.header.id}#${other.position}`)
        : [],
  })
  const shown = facts.board.headers.filter((header) => header.drawn)
  for (const header of shown) {
    const pins = facts.pins.filter((pin) => pin.header === header)
    if (header.step === 'up' || header.step === 'left') pins.reverse()
    const titled = (column: PostLine[], side: string): void => {
      if (shown.filter((one) => one.side === side || one.side === 'both').length > 1)
        column.push({ kind: 'title', text: header.title })
    }
    if (header.columns === 2) {
      titled(left, 'left')
      titled(right, 'right')
      for (const pin of pins) (pin.position % 2 === 1 ? left : right).push(post(pin))
    } else {
      const column = header.side === 'right' ? right : left
      titled(column, header.side)
      column.push(...pins.map(post))
    }
  }
  return { left, right }
}
