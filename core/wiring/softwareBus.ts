import type { Board } from '../catalog/boardSchema.ts'
import { busNeed, busPins } from './buses.ts'
import type { Bus } from './model.ts'

/**
 * How a program makes a bus that no controller carries: only where the board can, where no pin of it belongs to a
 * controller of this kind (else the pins are mixed up), and where every part speaks slowly enough.
 */
export function softwareBus(bus: Bus): Board['software'][number] | undefined {
  const { board } = bus
  if (!board || bus.controller !== undefined) return undefined
  const way = board.board.software.find((one) => one.kind === bus.kind)
  const pins = [...busPins(bus)]
  if (!way || pins.length === 0) return undefined
  const plain = pins.every(([signal, on]) =>
    [...on].every((pin) => {
      const functions = board.facts.pin(pin)?.functions
      const names = [...(functions ?? [])].filter((name) => name.startsWith(bus.kind) && name.includes('.'))
      const out = !['miso', 'rx'].includes(signal)
      return names.length === 0 && functions?.has(out ? 'digital-out' : 'digital-in') === true
    }),
  )
  if (!plain || bus.uses.some((use) => busNeed(use.facts.needs) && use.hosts.some(({ host }) => host.provider)))
    return undefined
  const slow = bus.parts.every((part) => {
    const baud = part.mode?.uart?.baud
    return bus.kind !== 'uart' || baud === undefined || baud.some((one) => one <= way.most)
  })
  return slow ? way : undefined
}
