import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { networkOf } from './still.ts'

/** A line through a transistor that leads only lows, on a side where nobody and nothing makes the high. */
export interface Unpulled {
  readonly part: PartInstance
  /** The transistor's end on that side. */
  readonly side: string
  readonly use: SignalUse
  /** Supply to which a resistor of that side belongs. */
  readonly to: string | undefined
}

/** Sides of transistors that serve as level shifters on which a receiver waits for a high that never comes (AN10441, 2). */
export function unpulledSides(wiring: Wiring): Unpulled[] {
  const network = networkOf(wiring)
  return wiring.parts.flatMap((part): Unpulled[] => {
    const { between } = part.part.inner.find(({ pulled }) => pulled) ?? {}
    if (!between) return []
    const [low, high] = between.map((pin) => `${part.ref}.${pin}`) as [string, string]
    const gate = part.part.passes && wiring.netOf(`${part.ref}.${part.part.passes.gate}`).sources[0]
    return [low, high].flatMap((side): Unpulled[] => {
      const net = wiring.netOf(side)
      if (network.pulled(net) !== undefined) return []
      const use = wiring.signals.find((one) => one.hosts.some(({ via }) => via.includes(part.ref)) && waits(one, side))
      if (!use) return []
      const board = use.hosts[0]?.host.board
      const logic = board?.board.rails.find((one) => one.logic)?.pins[0]
      const own = use.part.supplies.find(({ source }) => source)?.source?.end
      const far = hangsOn(use.end, side) ? own : board && logic && `${board.ref}.${logic}`
      return [{ part, side, use, to: side === low ? gate?.end : far }]
    })
  })

  function hangsOn(end: string, side: string): boolean {
    return network.joined(wiring.netOf(side)).has(wiring.netOf(end).index)
  }

  /**
   * Whether the receiver of a signal sits on a side. A part that answers on its line is the driver here: whether its own side
   * is pulled up, the rules of its bus say.
   */
  function waits({ facts, end }: SignalUse, side: string): boolean {
    return hangsOn(end, side) === (facts.direction === 'in' && !facts.needs.startsWith('i2c.'))
  }
}
