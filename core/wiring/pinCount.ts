import { isLoad } from '../catalog/common.ts'
import { availabilityOf } from './availability.ts'
import { isBetweenParts } from './between.ts'
import { busNeed } from './buses.ts'
import type { BoardInstance, Host, Net, SignalUse, Wiring } from './model.ts'
import { meets } from './needs.ts'
import { clash } from './sharing.ts'
import { speakAtOnce } from './soundSlots.ts'

/** Need against have for one kind of pin or controller of a board, whether wired yet or not. */
export interface CountLine {
  readonly id: string
  readonly title: string
  readonly need: number
  /** Pins or controllers of this kind that no feature in use takes. */
  readonly have: number
  /** Refs of the parts that need them. */
  readonly parts: readonly string[]
}

/** What a kit asks of a board and what the board has. */
export interface PinCount {
  readonly lines: readonly CountLine[]
  /** Signals that find no pin even in the best division of the board's pins among them; empty when all do. */
  readonly left: readonly SignalUse[]
}

const kinds = [
  ['analog-in', 'analog inputs'],
  ['analog-out', 'analog outputs'],
  ['pwm', 'PWM outputs'],
  ['interrupt', 'edge interrupts'],
  ['touch', 'touch inputs'],
  ['digital-out', 'outputs'],
  ['digital-in', 'inputs'],
] as const

const busTitles = { uart: 'UARTs', spi: 'SPI controllers', i2c: 'I2C controllers', i2s: 'I2S controllers' } as const

interface Counted {
  readonly hosts: readonly Host[]
  readonly signals: readonly SignalUse[]
  readonly able: (host: Host, need: string) => boolean
}

/** Pins of a board and its expanders that can carry anything, and the signals of its parts that need one. */
function gathered(wiring: Wiring, board: BoardInstance): Counted {
  const hosts = [...wiring.hosts.values()].filter(
    (host) =>
      (host.board === board || host.provider?.home === board) &&
      availabilityOf(host).pinTaker === undefined &&
      !wiring.netOf(host.end).ground &&
      wiring.netOf(host.end).sources.length === 0,
  )
  const able = (host: Host, need: string): boolean => {
    if (!host.functions.has(need)) return false
    return need !== 'analog-in' || availabilityOf(host).analogTaker === undefined
  }
  const wires = new Set<Net>()
  /** The first of those that are one wire already, on no pin yet. */
  const isFirst = (use: SignalUse): boolean => {
    const net = wiring.netOf(use.tail)
    const isNew = use.hosts.length > 0 || !wires.has(net)
    if (use.hosts.length === 0) wires.add(net)
    return isNew
  }
  const signals = wiring.signals.filter(
    (use) =>
      use.part.home === board &&
      use.state !== 'unused' &&
      use.state !== 'tied' &&
      (use.facts.required || use.state === 'placed') &&
      !isLoad(use.facts.needs) &&
      !(use.state === 'joined' && isBetweenParts(wiring, use)) &&
      isFirst(use),
  )
  return { hosts, signals, able }
}

/** Signals of a board's parts that find no pin even in the best division; empty when all do. */
export const withoutPin = (wiring: Wiring, board: BoardInstance): SignalUse[] => unmatched(gathered(wiring, board))

/** Counts before anything is wired: every required signal of the board's parts against its pins, expanders included. */
export function countPins(wiring: Wiring, board: BoardInstance): PinCount {
  const counted = gathered(wiring, board)
  const { hosts, able } = counted
  const signals = eachOnItsPin(counted.signals)
  const lines: CountLine[] = []
  for (const [id, title] of kinds) {
    const asking = signals.filter((use) => use.facts.needs === id && use.facts.orElse === undefined)
    lines.push(line(id, title, asking, hosts.filter((host) => able(host, id)).length))
  }
  for (const kind of ['uart', 'spi', 'i2c', 'i2s'] as const) {
    const asking = signals.filter((use) => {
      const need = busNeed(use.facts.needs)
      return need?.kind === kind && need.signal !== 'cs'
    })
    const parts = [...new Set(asking.map((use) => use.part))]
    const taken = new Set(board.features.flatMap((feature) => feature.controllers))
    const own = board.board.controllers.filter((one) => one.kind === kind && !taken.has(one.id)).length
    const given = wiring.parts
      .filter((part) => part.home === board)
      .flatMap((part) => part.part.controllers.filter((one) => one.kind === kind)).length
    // Parts share a bus; a UART carries one, a data line of I2S one that speaks in each half.
    const alike = parts.map((part) => 1 + parts.filter((one) => one !== part && speakAtOnce(one, part)).length)
    const need = kind === 'uart' ? parts.length : kind === 'i2s' ? Math.max(0, ...alike) : Math.min(1, parts.length)
    lines.push({ id: kind, title: busTitles[kind], need, have: own + given, parts: parts.map((part) => part.ref) })
  }
  return { lines: lines.filter((one) => one.need > 0), left: unmatched(counted) }
}

const line = (id: string, title: string, asking: readonly SignalUse[], have: number): CountLine => ({
  id,
  title,
  need: asking.length,
  have,
  parts: [...new Set(asking.map((use) => use.part.ref))],
})

/** What shares a pin on purpose, the keys of a matrix, segments lit in turn or inputs driven together, needs one pin only. */
function eachOnItsPin(signals: readonly SignalUse[]): SignalUse[] {
  const onHost = new Map<Host, SignalUse[]>()
  return signals.filter((use) => {
    const host = use.hosts[0]?.host
    if (!host) return true
    const there = onHost.get(host) ?? []
    onHost.set(host, [...there, use])
    return there.length === 0 || there.some((one) => clash(one, use) !== undefined)
  })
}

/**
 * Largest matching of signals to pins by augmenting paths; lines that share a bus count once. What stays over can
 * find no pin however the rest is arranged.
 */
function unmatched({ hosts, signals, able }: Counted): SignalUse[] {
  const shared = new Set<string>()
  const each = eachOnItsPin(signals).filter((use) => {
    const host = use.hosts[0]?.host
    // What was put on a pin that a feature of the board uses, and which can carry it, needs no other one.
    if (host && availabilityOf(host).pinTaker !== undefined && meets(host, use) !== undefined) return false
    const need = busNeed(use.facts.needs)
    if (!need || need.signal === 'cs' || (need.kind !== 'i2c' && need.kind !== 'spi' && need.kind !== 'onewire'))
      return true
    if (shared.has(use.facts.needs)) return false
    shared.add(use.facts.needs)
    return true
  })
  const usable = new Set(hosts)
  const suits = (use: SignalUse, host: Host): boolean =>
    // A part's own pins are no pins for it.
    host.provider !== use.part &&
    (use.facts.needs === 'analog-in' && use.facts.orElse === undefined
      ? able(host, 'analog-in')
      : meets(host, use) !== undefined)
  const owner = new Map<Host, number>()
  // What is placed already is a matching to start from.
  const waiting = each.flatMap((use, index) => {
    const host = use.hosts[0]?.host
    if (!host || owner.has(host) || !usable.has(host) || !suits(use, host)) return [index]
    owner.set(host, index)
    return []
  })
  const found = new Map<number, readonly Host[]>()
  const choicesOf = (index: number): readonly Host[] => {
    const known = found.get(index) ?? hosts.filter((host) => suits(each[index]!, host))
    found.set(index, known)
    return known
  }
  const place = (index: number, tried: Set<Host>): boolean => {
    const free = choicesOf(index).find((host) => !owner.has(host))
    if (free) {
      owner.set(free, index)
      return true
    }
    for (const host of choicesOf(index)) {
      if (tried.has(host)) continue
      tried.add(host)
      const before = owner.get(host)
      if (before !== undefined && !place(before, tried)) continue
      owner.set(host, index)
      return true
    }
    return false
  }
  return waiting.filter((index) => !place(index, new Set())).map((index) => each[index]!)
}
