import { type Body, type BodySpot, type Ground, lengthOf, mayTurn } from './arrange.ts'
import { columnX } from './grid.ts'
import type { Movable, Reach } from './settle.ts'

/** A body that may be moved on its ground; `ends` are its pins that wires must follow. */
export class MovableBody implements Movable<BodySpot> {
  spot: BodySpot
  readonly pins: Movable<BodySpot>['pins']
  readonly body: Body
  readonly #ground: Ground
  readonly #places: readonly { readonly row: number; readonly side: 0 | 1 }[]

  constructor(
    ground: Ground,
    body: Body,
    spot: BodySpot,
    pins: readonly { readonly pin: string; readonly net: number; readonly group: number }[],
  ) {
    this.#ground = ground
    this.body = body
    this.spot = spot
    this.pins = pins
    this.#places = pins.map(({ pin }) => {
      if (body.kind === 'row') return { row: body.pins.indexOf(pin), side: 0 }
      const left = body.left.indexOf(pin)
      return left < 0 ? { row: body.right.indexOf(pin), side: 1 } : { row: left, side: 0 }
    })
  }

  reachAt({ board, half, row, turned }: BodySpot, pin: number): Reach {
    const { grid } = this.#ground
    const { x } = grid.boards[board]!
    const place = this.#places[pin]!
    const y = row + (turned ? lengthOf(this.body) - 1 - place.row : place.row)
    if (this.body.kind === 'row') {
      if (!this.body.hangsOver) return half === 0 ? { from: x, to: x + 4, y } : { from: x + 7, to: x + 11, y }
      return half === 0 ? { from: x + 1, to: x + 4, y } : { from: x + 7, to: x + 10, y }
    }
    const { left, right, over } = this.#ground.columns(this.body, board)!
    if ((place.side === 0) === !turned) return { from: x, to: x + Math.max(0, left - 1), y }
    const farX = x + over * 14
    return { from: farX + columnX(Math.min(9, right + 1), 'left'), to: farX + (right < 5 ? 4 : 11), y }
  }

  propose(random: () => number, towards: number | undefined): BodySpot | undefined {
    if (this.body.kind === 'straddle' && this.body.isBoard) return undefined
    const lanes = this.#ground.lanes.get(this.body)!
    const dice = random()
    const { spot } = this
    if (dice < 0.15 && mayTurn(this.body)) return { ...spot, turned: !spot.turned }
    if (dice < 0.4) return { ...spot, row: spot.row + Math.ceil(random() * 3) * (random() < 0.5 ? 1 : -1) }
    const lane = lanes[Math.floor(random() * lanes.length)]!
    const turned = mayTurn(this.body) && random() < 0.3 ? !spot.turned : spot.turned
    const last = this.#ground.grid.boards[lane.board]!.rows - lengthOf(this.body) + 1
    const row =
      towards !== undefined && dice < 0.8
        ? Math.round(towards - random() * lengthOf(this.body) + (random() - 0.5) * 4)
        : 1 + Math.floor(random() * last)
    return { ...lane, row: Math.min(Math.max(row, 1), last), turned }
  }

  /** Every spot that it can take while nothing else is there. */
  all(): BodySpot[] {
    const ways = mayTurn(this.body) ? [false, true] : [false]
    return this.#ground.lanes.get(this.body)!.flatMap((lane) => {
      const last = this.#ground.grid.boards[lane.board]!.rows - lengthOf(this.body) + 1
      return Array.from({ length: last }, (_, at) => ways.map((turned) => ({ ...lane, row: at + 1, turned }))).flat()
    })
  }

  isFree(spot: BodySpot): boolean {
    // A board stays at its end, whoever would change places with it.
    if (this.body.kind === 'straddle' && this.body.isBoard && spot !== this.spot) return false
    if (!this.#ground.lanes.get(this.body)!.some(({ board, half }) => board === spot.board && half === spot.half))
      return false
    if (spot.turned && !mayTurn(this.body)) return false
    return this.#ground.isFree(this.body, spot)
  }

  stand(spot: BodySpot): void {
    this.#ground.put(this.body, spot, 1)
    this.spot = spot
  }

  leave(): void {
    this.#ground.put(this.body, this.spot, -1)
  }

  /** Near the top where nothing else speaks, and where its pins keep free holes. */
  worth({ board, row }: BodySpot): number {
    return row / 50 - (this.#ground.columns(this.body, board)?.worth ?? 0)
  }
}
