import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'

/** Points for two signals side by side that belong together, and for their standing in order. */
export const BESIDE = 2

export const IN_ORDER = 1

/** Points for pin numbers that rise with the order; little, so that it only decides between equals. */
export const RISING = 0.2

/** Two signals that belong side by side. */
export interface Pair {
  readonly a: SignalUse
  readonly b: SignalUse
  /** They stand next to each other on the part, or in the kit, `a` first: their order can be right. */
  readonly inOrder: boolean
  /** Select lines of parts of different kinds: where they stand is all the same, but for which comes first. */
  readonly isOrderOnly?: boolean
}

/**
 * Signals that belong together: those of one part, in the order of its cable, and single signals of parts of a kind, beside
 * those of a bus, one after the other in the kit.
 */
export function pairsOf(wiring: Wiring, uses: ReadonlySet<SignalUse>): Pair[] {
  const pairs: Pair[] = []
  const lastOf = new Map<string, SignalUse>()
  const lastSelect = new Map<string | undefined, SignalUse>()
  for (const part of wiring.parts) {
    const own = wiring.signals.filter((use) => use.part === part && uses.has(use))
    for (const [at, a] of own.entries())
      for (const b of own.slice(at + 1)) {
        const step = orderOf(b) - orderOf(a)
        pairs.push({ a: step > 0 ? a : b, b: step > 0 ? b : a, inOrder: Math.abs(step) === 1 })
      }
    // Lines of a bus stand where the bus is; a select line is nobody else's.
    const [only, ...more] = own.filter(({ facts }) => (busNeed(facts.needs)?.signal ?? 'cs') === 'cs')
    if (!only || more.length > 0) continue
    const key = `${part.home?.ref} ${part.part.id} ${only.facts.pin}`
    const before = lastOf.get(key)
    if (before) pairs.push({ a: before, b: only, inOrder: true })
    lastOf.set(key, only)
    if (busNeed(only.facts.needs) === undefined) continue
    const select = lastSelect.get(part.home?.ref)
    if (select && select !== before) pairs.push({ a: select, b: only, inOrder: true, isOrderOnly: true })
    lastSelect.set(part.home?.ref, only)
  }
  return pairs
}

/**
 * Where a signal stands among those of its part: on its cable, on the header of a module; the legs of a component and of
 * a chip go as its signals are counted, segment A before B, wherever they come out.
 */
export function orderOf({ part: { part }, facts }: SignalUse): number {
  const pins = part.build === 'module' ? part.pins.map(({ id }) => id) : part.signals.map(({ pin }) => pin)
  return (part.cable.length > 0 ? part.cable : pins).indexOf(facts.pin)
}

/** A line of posts and the place on it, for pins of a board as of an expander. */
export interface Spot {
  /** Names the row, its part or board included. */
  readonly row: string
  readonly place: number
  /** Places to the next post of the same column. */
  readonly step: number
  /** As people count it: the number in the pin's name, else its place. */
  readonly number: number
}

export function spotOf(host: Host | undefined): Spot | undefined {
  if (!host) return undefined
  const pin = host.pin
  if (host.provider) {
    const at = host.provider.part.provides.findIndex(({ pins }) => pins.includes(pin))
    const place = host.provider.part.provides[at]?.pins.indexOf(pin)
    return place === undefined ? undefined : { row: `${host.ref} ${at}`, place, step: 1, number: place }
  }
  const facts = host.board?.facts.pin(pin)
  return (
    facts && {
      row: `${host.ref} ${facts.header.id}`,
      place: facts.position,
      step: facts.header.columns,
      number: numberOf(pin) ?? facts.position,
    }
  )
}

/** Which select of its controller a pin is, where the controller has selects of its own: 0 for the first. */
export function selectOf({ board, pin }: Host): number | undefined {
  for (const { kind, pins } of board?.board.controllers ?? []) {
    const at = kind === 'spi' ? (pins?.cs?.indexOf(pin) ?? -1) : -1
    if (at >= 0) return at
  }
  return undefined
}

/** The last number in a name: 10 of `GP10`. */
const numberOf = (pin: string): number | undefined => {
  const digits = /\d+$/.exec(pin)?.[0]
  return digits === undefined ? undefined : Number(digits)
}
