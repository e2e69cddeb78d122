import { holds } from '../../catalog/when.ts'
import type { BoardInstance, Host, PartInstance, Wiring } from '../../wiring/model.ts'
import { movers, partsOf } from '../lines.ts'
import { wordsOf } from './nameMatch.ts'

/** Pins of a part in an order in which programs ask for them. */
export interface AskedOrder {
  readonly part: PartInstance
  /** Name of the list, where programs take one. */
  readonly list: string | undefined
  /** Every library takes them so. */
  readonly everywhere: boolean
  /** Ends of the part, and ids of the board pins that move them. */
  readonly pins: readonly { readonly end: string; readonly pin: string }[]
}

/** Every order in which programs ask for pins of a board, as it is wired; only orders of two and more. */
export function askedOrders(wiring: Wiring, board: BoardInstance): AskedOrder[] {
  return partsOf(wiring, board).flatMap((part) =>
    part.part.asks
      .filter((ask) => ask.pins && holds(ask.when, part.options))
      .map(
        (ask): AskedOrder => ({
          part,
          list: ask.list,
          everywhere: ask.everywhere,
          pins: (ask.pins ?? []).flatMap((pin) => {
            const end = `${part.ref}.${pin}`
            const hosts = movers(wiring, end).filter((host: Host) => host.board === board)
            const [only] = hosts
            return only && hosts.length === 1 ? [{ end, pin: only.pin }] : []
          }),
        }),
      )
      .filter(({ pins }) => pins.length > 1),
  )
}

/** Two places of an order that have each other's pin. */
export interface Swap {
  readonly order: AskedOrder
  readonly one: number
  readonly two: number
}

/**
 * Two pins of a list that stand in each other's place: the list holds just the pins of one order, and fits it in all
 * places but two. A list that fits some order of these pins is right; one that is quite different is the maker's own.
 */
export function swapIn(
  orders: readonly AskedOrder[],
  pins: readonly string[],
  name: string | undefined,
): Swap | undefined {
  const sorted = [...pins].sort().join(' ')
  const same = orders.filter((order) => [...order.pins.map(({ pin }) => pin)].sort().join(' ') === sorted)
  if (same.some((order) => order.pins.every(({ pin }, at) => pin === pins[at]))) return undefined
  // A list of the maker's own has an order of his own, unless it is called what programs ask for.
  const fitting = same.filter(({ list, everywhere }) =>
    name === undefined ? everywhere : list !== undefined && isListOf(list, name),
  )
  const [order] = fitting
  if (!order || fitting.length !== 1) return undefined
  const wrong = order.pins.flatMap(({ pin }, at) => (pin === pins[at] ? [] : [at]))
  const [one, two] = wrong
  return wrong.length === 2 && one !== undefined && two !== undefined ? { order, one, two } : undefined
}

/** Words of a name, in the plural and in the singular. */
const stems = (name: string): string[] => [...wordsOf(name), ...wordsOf(name.replace(/s\b/g, ''))]

/** A list of the program has the name of a list that libraries ask for. */
export const isListOf = (list: string, name: string): boolean => stems(list).some((word) => stems(name).includes(word))
