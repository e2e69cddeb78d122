import { applyEdits, type Edit } from '../plan/edit.ts'
import { busNeed, carries } from '../wiring/buses.ts'
import type { Bus, Host, SignalUse, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { hostsFor, judge } from './candidates.ts'
import { detach } from './rewire.ts'
import { scarcityOf } from './scarcity.ts'

/** Another controller for a bus, with the edits that move all of its shared lines there. */
export interface BusWay {
  readonly controller: string
  readonly title: string
  readonly edits: readonly Edit[]
}

/** Pins looked at for one line: far more than any controller has, but for those that reach every pin. */
const MOST_PINS = 8

/**
 * Controllers of the same board that could carry a bus as a whole, the cheapest pins of each. Chip selects stay. None
 * when a locked wire holds a line.
 */
export function busWays(wiring: Wiring, bus: Bus): BusWay[] {
  const { board } = bus
  if (!board) return []
  const lines = new Map<string, SignalUse[]>()
  for (const use of bus.uses) {
    const signal = busNeed(use.facts.needs)!.signal
    if (signal !== 'cs' && use.hosts.length > 0) lines.set(signal, [...(lines.get(signal) ?? []), use])
  }
  if (lines.size === 0) return []
  const off: Edit[] = []
  for (const use of [...lines.values()].flat()) {
    const edits = detach(wiring, use)
    if (!edits) return []
    off.push(...edits.filter((edit) => !off.some((one) => JSON.stringify(one) === JSON.stringify(edit))))
  }
  const bare = resolve(applyEdits(wiring.plan, off), wiring.catalog)
  return board.board.controllers
    .filter((one) => one.kind === bus.kind && one.id !== bus.controller)
    .flatMap((controller): BusWay[] => {
      const choices = [...lines].map(([signal, uses]) => ({
        signal,
        uses,
        hosts: cheapest(bare, uses, `${controller.id}.${signal}`, controller.id),
      }))
      const found = combine(choices.map(({ hosts }) => hosts)).find(
        (hosts) =>
          new Set(hosts).size === hosts.length &&
          carries(board, controller, new Map(hosts.map((host, at) => [choices[at]!.signal, new Set([host.pin])]))),
      )
      if (!found) return []
      const on = choices.flatMap(({ uses }, at) =>
        uses.map((use): Edit => ({ do: 'connect', from: bare.signal(use.end)!.tail, to: found[at]!.end })),
      )
      const edits = [...off, ...on]
      // On a board that routes freely the program chooses the controller, not the pins: nothing would move.
      const moved = resolve(applyEdits(wiring.plan, edits), wiring.catalog)
      const carrier = moved.buses.find((one) => one.uses.some((use) => use.end === bus.uses[0]!.end))?.controller
      return carrier === controller.id ? [{ controller: controller.id, title: controller.title, edits }] : []
    })
}

/** Pins that carry a line for every part on it, cheapest first. */
function cheapest(wiring: Wiring, uses: readonly SignalUse[], name: string, controller: string): Host[] {
  const own = uses.map((use) => wiring.signal(use.end)!)
  return hostsFor(wiring, own[0]!)
    .filter((host) => host.functions.has(name))
    .map((host) => {
      const judged = own.map((use) => judge(wiring, use, host, scarcityOf(wiring, use), controller))
      return { host, blocked: judged.some((one) => one.blocked !== undefined), cost: judged[0]!.cost }
    })
    .filter((one) => !one.blocked)
    .sort((a, b) => a.cost - b.cost)
    .slice(0, MOST_PINS)
    .map((one) => one.host)
}

/** One host of each list, those with the smallest places first. */
function combine(lists: readonly (readonly Host[])[]): Host[][] {
  let rows: { hosts: Host[]; rank: number }[] = [{ hosts: [], rank: 0 }]
  for (const list of lists)
    rows = rows.flatMap(({ hosts, rank }) => list.map((host, at) => ({ hosts: [...hosts, host], rank: rank + at })))
  return rows.sort((a, b) => a.rank - b.rank).map(({ hosts }) => hosts)
}
