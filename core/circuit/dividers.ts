import type { Host, PartInstance, Wiring } from '../wiring/model.ts'
import { networkOf } from './still.ts'

/** Two resistors in the plan that divide a voltage. */
export interface DividerUse {
  readonly top: PartInstance
  readonly bottom: PartInstance
  /** Volts above them, and the pin in the middle. */
  readonly volts: number | undefined
  readonly host: Host | undefined
  /** Volts in the middle as it stands. */
  readonly out: number | undefined
}

/** Pairs of resistors with a middle between a source or an output above and ground below. */
export function dividersOf(wiring: Wiring): DividerUse[] {
  const resistors = wiring.parts.filter((part) => part.part.helper === 'resistor')
  const net = (part: PartInstance, leg: string) => wiring.netOf(`${part.ref}.${leg}`)
  const other = (leg: string): string => (leg === '1' ? '2' : '1')
  const found: DividerUse[] = []
  for (const bottom of resistors)
    for (const leg of ['1', '2']) {
      if (!net(bottom, other(leg)).ground) continue
      const middle = net(bottom, leg)
      if (middle.ground || middle.sources.length > 0) continue
      for (const top of resistors)
        for (const end of ['1', '2']) {
          if (top === bottom || net(top, end) !== middle) continue
          const above = net(top, other(end))
          if (above === middle || above.ground) continue
          const driver = above.ends.map((one) => wiring.signal(one)).find((use) => use?.facts.direction === 'out')
          const volts = above.sources[0]?.volts ?? driver?.part.logicVolts
          const host = middle.ends.map((one) => wiring.terminal(one)?.host).find((one) => one !== undefined)
          if (volts === undefined) continue
          found.push({
            top,
            bottom,
            volts,
            host,
            out: networkOf(wiring).thevenin(middle, { net: above, volts })?.volts,
          })
        }
    }
  return found
}
