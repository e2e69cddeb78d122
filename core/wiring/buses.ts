import { entryOf } from '../base/entryOf.ts'
import { UnionFind } from '../base/unionFind.ts'
import type { Controller } from '../catalog/boardControllers.ts'
import { takesInGroup } from '../catalog/boardFacts.ts'
import { type BusKind, busSignals } from '../catalog/common.ts'
import type { BoardInstance, Bus, SignalUse, Wiring } from './model.ts'

/** A line of a bus that a signal asks for. */
interface BusNeed {
  readonly kind: BusKind
  readonly signal: string
}

/** Asked for every pin of every signal: each need is taken apart once. */
const busNeeds = new Map<string, BusNeed | undefined>()

/** Splits a need such as `i2c.sda`; undefined for plain functions. */
export function busNeed(need: string): BusNeed | undefined {
  const known = busNeeds.get(need)
  if (known !== undefined || busNeeds.has(need)) return known
  const dot = need.indexOf('.')
  const split = dot < 0 ? undefined : { kind: need.slice(0, dot) as BusKind, signal: need.slice(dot + 1) }
  busNeeds.set(need, split)
  return split
}

/** Groups bus signals that share a net into buses and finds the controller that carries each. */
export function groupBuses(wiring: Pick<Wiring, 'signals' | 'netOf' | 'boards'>): Bus[] {
  const sets = new UnionFind()
  const members = new Map<string, SignalUse[]>()
  for (const use of wiring.signals) {
    const need = busNeed(use.facts.needs)
    if (!need || use.state === 'unused') continue
    const part = `${need.kind} of ${use.part.ref}`
    sets.add(part)
    members.set(part, [...(members.get(part) ?? []), use])
    const shared = need.signal !== 'cs' && use.state !== 'tied' && (use.hosts.length > 0 || wiring.netOf(use.end).wired)
    if (shared) sets.join(`${need.kind} on net ${wiring.netOf(use.hosts[0]?.host.end ?? use.end).index}`, part)
  }
  const groups = new Map<string, SignalUse[]>()
  for (const [part, uses] of members) {
    const root = sets.find(part)
    groups.set(root, [...(groups.get(root) ?? []), ...uses])
  }
  const buses = [...groups.values()].map((uses): Bus & { controller: string | undefined } => {
    const hosts = uses.filter((use) => busNeed(use.facts.needs)?.signal !== 'cs').flatMap((use) => use.hosts)
    const board = hosts.find(({ host }) => host.board)?.host.board
    const provider = board ? undefined : hosts.find(({ host }) => host.provider?.part.controllers.length)?.host.provider
    const parts = [...new Set(uses.map((use) => use.part))]
    const kind = busNeed((uses[0] as SignalUse).facts.needs)!.kind
    return { kind, board, provider, uses, parts, controller: undefined }
  })
  for (const bus of buses) if (bus.provider) bus.controller = controllerGiven(bus)
  for (const board of wiring.boards)
    for (const kind of Object.keys(busSignals) as BusKind[])
      matchControllers(
        board,
        buses.filter((bus) => bus.board === board && bus.kind === kind),
      )
  return buses
}

/** Pins (first holes) of the board on which each shared signal of a bus lies. */
export function busPins(bus: Bus): Map<string, Set<string>> {
  const pins = new Map<string, Set<string>>()
  for (const use of bus.uses) {
    const signal = busNeed(use.facts.needs)!.signal
    if (signal === 'cs') continue
    for (const { host } of use.hosts) {
      if (host.board !== bus.board) continue
      const known = pins.get(signal) ?? new Set<string>()
      pins.set(signal, known.add(host.pin))
    }
  }
  return pins
}

/** Controller of a bus switch or bridge that has all the pins on which the bus lies. */
function controllerGiven(bus: Bus): string | undefined {
  const pins = bus.uses.flatMap((use) => use.hosts.map(({ host }) => ({ use, host })))
  return bus.provider?.part.controllers.find(
    (one) =>
      one.kind === bus.kind &&
      pins.every(
        ({ use, host }) => `${bus.provider?.ref}.${entryOf(one.pins, busNeed(use.facts.needs)!.signal)}` === host.end,
      ),
  )?.id
}

/** True when one controller can carry a bus as it is wired. */
export function carries(
  board: BoardInstance,
  controller: Controller,
  pins: ReadonlyMap<string, ReadonlySet<string>>,
): boolean {
  for (const [signal, on] of pins)
    for (const pin of on) if (!board.facts.pin(pin)?.functions.has(`${controller.id}.${signal}`)) return false
  if (!controller.groups) return true
  return controller.groups.some((group) =>
    [...pins].every(([signal, on]) => [...on].every((pin) => takesInGroup(controller, group, signal, pin))),
  )
}

/**
 * True when a feature in use has a controller on other pins than these: a line on its second pair of pins goes by
 * software then, or not at all.
 */
export const isUsedElsewhere = ({ features }: BoardInstance, controller: string, pins: readonly string[]): boolean =>
  features.some((one) => one.controllers.includes(controller) && !pins.some((pin) => one.pins.includes(pin)))

/** Gives every bus a controller of its own: the most buses served, preferred pins and low ranks first. */
function matchControllers(board: BoardInstance, buses: (Bus & { controller: string | undefined })[]): void {
  if (buses.length === 0) return
  const kind = buses[0]!.kind
  const controllers = board.board.controllers.filter((one) => one.kind === kind)
  const bySoftware = board.board.software.some((one) => one.kind === kind)
  const choices = buses.map((bus) => {
    const pins = busPins(bus)
    const liking = (controller: Controller): number =>
      [...pins].filter(([signal, on]) => on.has(controller.prefer?.pins[signal] ?? '')).length * -10 + controller.rank
    const on = [...pins.values()].flatMap((some) => [...some])
    return controllers
      .filter((one) => carries(board, one, pins) && !(bySoftware && isUsedElsewhere(board, one.id, on)))
      .sort((a, b) => liking(a) - liking(b))
  })
  const owner = new Map<string, number>()
  const place = (bus: number, tried: Set<string>): boolean => {
    for (const controller of choices[bus] as Controller[]) {
      if (tried.has(controller.id)) continue
      tried.add(controller.id)
      const before = owner.get(controller.id)
      if (before !== undefined && !place(before, tried)) continue
      owner.set(controller.id, bus)
      return true
    }
    return false
  }
  buses.forEach((_, index) => {
    place(index, new Set())
  })
  for (const [controller, index] of owner) buses[index]!.controller = controller
}
