import { hexAddress } from '../electrical/hexAddress.ts'
import { availabilityOf } from '../wiring/availability.ts'
import { addressesOf, segmentsOf } from '../wiring/i2c.ts'
import { lostTo } from '../wiring/libraryPulses.ts'
import type { BoardInstance, Host, Wiring } from '../wiring/model.ts'
import { type Budget, budgets } from './budget.ts'

/** Kinds of pin that people count. */
export const pinKinds = [
  { id: 'digital-out', letter: 'O', title: 'output' },
  { id: 'pwm', letter: 'P', title: 'pulse' },
  { id: 'interrupt', letter: 'E', title: 'edge' },
  { id: 'analog-in', letter: 'A', title: 'analog' },
] as const

export interface KindReserve {
  readonly id: string
  readonly letter: string
  readonly title: string
  /** Pins of this kind on the board, and how many of them are still free of wires and features. */
  readonly have: number
  readonly free: number
  /** Open signals of the board's parts that need this kind. */
  readonly waiting: number
}

export interface Reserve {
  readonly kinds: readonly KindReserve[]
  readonly addresses: readonly { readonly bus: string; readonly taken: readonly string[] }[]
  readonly selects: number
  readonly supplies: readonly Budget[]
}

/** A free pin whose timer or converter something else takes: a feature in use, or a library for something of the plan. */
function isLost(wiring: Wiring, host: Host, kind: string): boolean {
  const { pwmTaker, analogTaker } = availabilityOf(host)
  if (kind === 'pwm') return pwmTaker !== undefined || lostTo(wiring, host) !== undefined
  return kind === 'analog-in' && analogTaker !== undefined
}

/** What is left on a board: pins of each kind, bus addresses, select lines, and the load on each supply. */
export function reserveOf(wiring: Wiring, board: BoardInstance | undefined): Reserve {
  const hosts = [...wiring.hosts.values()].filter((host) => board !== undefined && host.board === board)
  const busy = new Set<Host>()
  for (const host of hosts) if (wiring.netOf(host.end).wired || availabilityOf(host).pinTaker) busy.add(host)
  const open = wiring.signals.filter((use) => use.part.home === board && use.state === 'open' && use.facts.required)
  return {
    kinds: pinKinds.map(({ id, letter, title }) => {
      const able = hosts.filter((host) => host.functions.has(id))
      return {
        id,
        letter,
        title,
        have: able.length,
        free: able.filter((host) => !busy.has(host) && !isLost(wiring, host, id)).length,
        waiting: open.filter((use) => use.facts.needs === id).length,
      }
    }),
    addresses: segmentsOf(wiring)
      .filter((segment) => segment.parts.some((part) => part.home === board))
      .map((segment, index) => ({
        bus:
          wiring.buses.find((bus) => bus.kind === 'i2c' && bus.parts.includes(segment.parts[0]!))?.controller ??
          `bus ${index}`,
        taken: [...new Set(segment.parts.flatMap((part) => addressesOf(part).map(({ address }) => address)))]
          .sort((a, b) => a - b)
          .map(hexAddress),
      })),
    selects: wiring.signals.filter(
      (use) => use.part.home === board && use.facts.needs === 'spi.cs' && use.state === 'placed',
    ).length,
    supplies: budgets(wiring).filter(
      ({ source, typicalMilliamps }) =>
        typicalMilliamps > 0 || wiring.supplies.some((supply) => supply.ref === source.ref),
    ),
  }
}
