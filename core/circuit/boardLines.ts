import type { BoardInstance, Host, Wiring } from '../wiring/model.ts'
import { hostsBeyond } from './lines.ts'

/** A pin of a board that carries one line of one controller of a kind, and is nothing else of that kind. */
interface BoardLine {
  readonly host: Host
  /** Id of the controller. */
  readonly id: string
  readonly line: string
  /** The controller has this line on no other pin. */
  readonly isOnly: boolean
}

/** Such pins of two boards, joined with each other. */
export interface JoinedLines {
  readonly mine: BoardLine
  readonly theirs: BoardLine
}

const lines = { i2c: ['sda', 'scl'], spi: ['mosi', 'miso', 'sck'] } as const

/** Controllers that a matrix leads to any pin say nothing of what a pin is for. */
function lineAt(host: Host, kind: keyof typeof lines): BoardLine | undefined {
  const found = (host.board?.board.controllers ?? []).flatMap((one) =>
    one.kind !== kind || one.matrix !== undefined
      ? []
      : lines[kind].flatMap((line) =>
          host.functions.has(`${one.id}.${line}`)
            ? [{ host, id: one.id, line, isOnly: one.pins?.[line]?.length === 1 }]
            : [],
        ),
  )
  return found.length === 1 ? found[0] : undefined
}

/** Lines of two boards that are joined, by what they can be of one kind of bus; of each pair once. */
export function joinedLines(wiring: Wiring, kind: keyof typeof lines): JoinedLines[] {
  const at = (board: BoardInstance): number => wiring.boards.indexOf(board)
  return [...hostsBeyond(wiring)].flatMap(([end, others]) => {
    const host = wiring.hosts.get(end)
    const mine = host?.board && lineAt(host, kind)
    return others.flatMap((other) => {
      const theirs = mine && lineAt(other, kind)
      const isLater = host?.board && other.board && at(other.board) > at(host.board)
      return theirs && isLater ? [{ mine, theirs }] : []
    })
  })
}

/** Two such pairs between the same two controllers. */
export const areOfOne = (one: JoinedLines, two: JoinedLines): boolean =>
  one.mine.host.ref === two.mine.host.ref &&
  one.theirs.host.ref === two.theirs.host.ref &&
  one.mine.id === two.mine.id &&
  one.theirs.id === two.theirs.id
