import { memo } from '../base/memo.ts'
import type { Board } from '../catalog/boardSchema.ts'
import { busNeed, busPins, isUsedElsewhere } from './buses.ts'
import type { BoardInstance, Bus } from './model.ts'

type Way = Board['software'][number]

/**
 * How a program makes a bus that no controller carries: only where the board can, where no pin of it belongs to a
 * controller of this kind (else the pins are mixed up), and where every part speaks slowly enough.
 */
export function softwareBus(bus: Bus): Way | undefined {
  const way = wayOf(bus)
  return way && tooFast(bus, way) === undefined ? way : undefined
}

/**
 * A bus of parts that libraries speak to over any pins, on such. Where one line lies where a controller has it and
 * another does not, a controller was meant.
 */
export function isOnAnyPins(bus: Bus): boolean {
  const { board, controller, parts, uses } = bus
  if (!board || controller !== undefined || !parts.every(({ mode }) => mode?.spi?.anyPins)) return false
  if (uses.some(({ hosts }) => hosts.some(({ host }) => host.board !== board))) return false
  return [...busPins(bus)].every(([signal, pins]) =>
    [...pins].every((pin) => {
      const functions = [...(board.facts.pin(pin)?.functions ?? [])]
      const isMeant = functions.some((name) => name.startsWith(bus.kind) && name.endsWith(`.${signal}`))
      return !isMeant && functions.includes(signal === 'miso' ? 'digital-in' : 'digital-out')
    }),
  )
}

/** A serial line that a program could make, were it not for a part that speaks faster: its least rate, in baud. */
export function tooFastForSoftware(bus: Bus): { readonly way: Way; readonly baud: number } | undefined {
  const way = wayOf(bus)
  const baud = way && tooFast(bus, way)
  return baud === undefined ? undefined : { way: way as Way, baud }
}

/** A pin that a controller of a kind could take: one that a feature has on other pins could not. */
export function isOnController(board: BoardInstance, kind: string, pin: string): boolean {
  return [...(board.facts.pin(pin)?.functions ?? [])].some((name) => {
    const [controller, signal] = name.split('.')
    return signal !== undefined && name.startsWith(kind) && !isUsedElsewhere(board, controller as string, [pin])
  })
}

/**
 * Pins of a board at which a change wakes a program that makes a serial line: those that report each change, where the
 * board tells them from others (pin change interrupts of an AVR), else all that wake a handler.
 */
const hearing = memo(({ facts }: BoardInstance): ReadonlySet<string> => {
  const reporting = (name: string): string[] =>
    facts.pins.flatMap(({ id, functions }) => (functions.has(name) ? [id] : []))
  const changes = reporting('pin-change')
  return new Set(changes.length > 0 ? changes : reporting('interrupt'))
})

/** Pins of a board at which a program can listen for serial bytes, those of its own controllers left out. */
export const listeningPins = (board: BoardInstance): string[] =>
  [...hearing(board)].filter((pin) => !isOnController(board, 'uart', pin))

/** Whether a program can listen for serial bytes at a pin. */
export const canListen = (board: BoardInstance, pin: string): boolean => hearing(board).has(pin)

/** A serial line that a program could make, were it not for the pin at which it would have to listen. */
export function deafPin(bus: Bus): string | undefined {
  const { board } = bus
  if (!board || bus.kind !== 'uart') return undefined
  const listening = [...(busPins(bus).get('rx') ?? [])].find((pin) => !canListen(board, pin))
  return listening !== undefined && wayOf(bus, false) ? listening : undefined
}

/** The least rate of a part that speaks faster than a program can follow. */
function tooFast(bus: Bus, way: Way): number | undefined {
  if (bus.kind !== 'uart') return undefined
  const least = bus.parts.map((part) => Math.min(...(part.mode?.uart?.baud ?? [0])))
  return least.find((one) => one > way.most)
}

/** How a program could make a bus, whatever speed its parts need. */
function wayOf(bus: Bus, listens = true): Way | undefined {
  const { board } = bus
  if (!board || bus.controller !== undefined || bus.parts.some(({ mode }) => mode?.spi?.controllerOnly))
    return undefined
  const way = board.board.software.find((one) => one.kind === bus.kind)
  const pins = [...busPins(bus)]
  if (!way || pins.length === 0) return undefined
  const plain = pins.every(([signal, on]) =>
    [...on].every((pin) => {
      const out = !['miso', 'rx'].includes(signal)
      const can = board.facts.pin(pin)?.functions.has(out ? 'digital-out' : 'digital-in') === true
      const hears = !listens || bus.kind !== 'uart' || signal !== 'rx' || canListen(board, pin)
      return can && hears && !isOnController(board, bus.kind, pin)
    }),
  )
  const onExpander = bus.uses.some((use) => busNeed(use.facts.needs) && use.hosts.some(({ host }) => host.provider))
  return plain && !onExpander ? way : undefined
}
