import { memo } from '../base/memo.ts'
import type { Feature } from '../catalog/boardSchema.ts'
import type { BoardInstance, Host, SignalUse, Wiring } from './model.ts'

/** Pulses with an interval of their own, as far as libraries exist for them. */
function kindOf({ facts }: SignalUse): Feature['makes'] {
  if (facts.needs !== 'pwm' || facts.orElse === undefined || facts.hertz === undefined) return undefined
  return facts.alternates ? 'tone' : 'servo'
}

/** The library that makes the pulses of a signal on any pin of a board; undefined where the pin's own timer makes them. */
export const libraryFor = (board: BoardInstance | undefined, use: SignalUse): Feature | undefined => {
  const kind = kindOf(use)
  return kind && board?.board.features.find(({ makes }) => makes === kind)
}

/** A library that the program of a board will run, and the signal for which it does. */
interface Running {
  readonly library: Feature
  readonly use: SignalUse
}

/** Libraries for what is wired to each board, and for what waits for a pin there. */
const running = memo((wiring: Wiring): ReadonlyMap<BoardInstance, readonly Running[]> => {
  const found = new Map<BoardInstance, Running[]>()
  // A chip that is there for pulses may take those that wait.
  const isOffered = [...wiring.hosts.values()].some(({ provider, functions }) => provider && functions.has('pwm'))
  for (const use of wiring.signals) {
    const waits = use.state === 'open' && use.facts.required && !isOffered
    const board = use.hosts.find(({ host }) => host.board)?.host.board ?? (waits ? use.part.home : undefined)
    const library = libraryFor(board, use)
    if (board && library) found.set(board, [...(found.get(board) ?? []), { library, use }])
  }
  return found
})

/**
 * The library for which a pin of a board loses its PWM though the plan does not name it, with the signal that takes it:
 * every timer of the pin belongs to a library that runs. Those with a pin come first.
 */
export function lostTo(wiring: Wiring, { board, pin, functions }: Host): Running | undefined {
  const there = board && running(wiring).get(board)
  if (!there || !functions.has('pwm')) return undefined
  const timers = board.board.timers.filter((one) => Object.values(one.channels).some((pins) => pins.includes(pin)))
  const takers = timers.map(({ id }) => there.filter(({ library }) => library.timers.includes(id)))
  if (takers.some((some) => some.length === 0)) return undefined
  const all = takers.flat()
  return all.find(({ use }) => use.hosts.length > 0) ?? all[0]
}

/** Wants pulses for its speed or its brightness, of whatever interval. */
export const isGradual = ({ facts, part }: SignalUse): boolean =>
  facts.needs === 'pwm' && facts.hertz === undefined && (facts.actuator || part.part.category === 'light')
