import type { Behaviour } from '../catalog/behaviourSchema.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'
import { isLoose } from './spares.ts'

/** Pins by which registers of a kind hang on each other: what is passed on, where it comes in, and what all share. */
interface Chain {
  readonly out: string
  readonly into: string
  readonly shared: readonly string[]
}

function chainOf(behaves: Behaviour | undefined): Chain | undefined {
  if (behaves?.as === 'shift-out' && behaves.carry !== undefined)
    return {
      out: behaves.carry,
      into: behaves.data,
      shared: [behaves.clock, ...(behaves.latch ? [behaves.latch] : [])],
    }
  if (behaves?.as === 'shift-in' && behaves.chain !== undefined)
    return { out: behaves.out, into: behaves.chain, shared: [behaves.clock, behaves.load.pin] }
  return undefined
}

/**
 * Registers of a kind that lie loose become one long register: each hands on to the next, and all share clock and latch.
 * Of a board they then take as many pins as one of them.
 */
export function chainRegisters(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const loose = wiring.parts.filter(
    (part) => chainOf(part.part.behaves) !== undefined && wanted(part.ref) && isLoose(wiring, part),
  )
  const last = new Map<string, PartInstance>()
  const decisions = loose.flatMap((part): Decision[] => {
    const key = `${part.home?.ref} ${part.part.id}`
    const before = last.get(key)
    last.set(key, part)
    const chain = chainOf(part.part.behaves)
    if (!before || !chain) return []
    return [
      connect(`${part.ref}.${chain.into}`, `${before.ref}.${chain.out}`, `goes on where ${before.ref} ends`),
      ...chain.shared.map((pin) =>
        connect(`${part.ref}.${pin}`, `${before.ref}.${pin}`, `moves with that of ${before.ref}`),
      ),
    ]
  })
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}
