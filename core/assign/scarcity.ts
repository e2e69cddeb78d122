import { memoIn } from '../base/memo.ts'
import type { Board } from '../catalog/boardSchema.ts'
import type { Plan } from '../plan/planSchema.ts'
import { availabilityOf } from '../wiring/availability.ts'
import type { BoardInstance, Host, SignalUse, Wiring } from '../wiring/model.ts'
import { costs } from './costs.ts'
import { weightOf } from './preferences.ts'

/** How often each function is to be had on a board, so that rare ones are kept for those who need them. */
export class Scarcity {
  readonly #share = new Map<string, number>()
  readonly #plan: Plan
  constructor(wiring: Wiring, board: BoardInstance | undefined) {
    this.#plan = wiring.plan
    const hosts = [...wiring.hosts.values()].filter((host) => host.board === board)
    for (const name of scarceNames) {
      const have = hosts.filter((host) => offers(host, name)).length
      this.#share.set(name, hosts.length === 0 ? 1 : have / hosts.length)
    }
  }
  /** Points for using up a function that is not needed: full for rare ones, none when every pin has it. */
  price(name: string): number {
    return (costs.scarce[name] ?? 0) * (1 - (this.#share.get(name) ?? 1)) * scarceWeight(this.#plan, name)
  }
}

function scarceWeight(plan: Plan, name: string): number {
  const preference = ({ 'analog-in': 'analog', interrupt: 'interrupt', pwm: 'pwm' } as const)[name]
  return preference ? weightOf(plan, preference) : 1
}

const scarcities = memoIn((wiring: Wiring, board: BoardInstance | undefined) => new Scarcity(wiring, board))

/** Scarcity on the board of a signal, worked out once. */
export const scarcityOf = (wiring: Wiring, use: SignalUse): Scarcity => scarcities(wiring, use.part.home)

/** True when a host has a function and no feature in use takes it away. */
export function offers(host: Host, name: string): boolean {
  return host.functions.has(name) && (name !== 'analog-in' || availabilityOf(host).analogTaker === undefined)
}

export const scarceNames = Object.keys(costs.scarce)

/**
 * Share of its price that a pin is kept for buses at: the whole for the pin that a first-choice controller prefers, a
 * part where the line could go to others as well. Select lines need not be among them.
 */
const busShares = memoIn((board: Board, selects: boolean): ReadonlyMap<string, number> => {
  const shares = new Map<string, number>()
  const keep = (pin: string, share: number): void => {
    shares.set(pin, Math.max(share, shares.get(pin) ?? 0))
  }
  for (const one of board.controllers.filter(({ rank }) => rank === 0)) {
    const isKept = ([signal]: readonly [string, unknown]): boolean => selects || signal !== 'cs'
    for (const [, pin] of Object.entries(one.prefer?.pins ?? {}).filter(isKept)) keep(pin, 1)
    for (const [, list] of Object.entries(one.pins ?? {}).filter(isKept))
      for (const pin of list) keep(pin, 1 / list.length)
  }
  return shares
})

/** What a pin is worth to the buses of its board, from 0 to 1; to a select line only that of other lines counts. */
export const busWorth = ({ board, pin }: Host, forSelect: boolean): number =>
  board ? busShare(board.board, pin, forSelect) : 0

/** The same of a board by itself. */
export const busShare = (board: Board, pin: string, forSelect: boolean): number =>
  busShares(board, !forSelect).get(pin) ?? 0
