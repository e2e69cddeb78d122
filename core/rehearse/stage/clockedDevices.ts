import type { Bytes } from '../../catalog/driverSchema.ts'
import type { PartInstance } from '../../wiring/model.ts'
import { type BusBytes, bitsOf } from './busBytes.ts'
import { type Chip, type ChipStage, isAlive, outputsOf } from './chips.ts'

type Clocked = NonNullable<Extract<Bytes, { as: 'reply' }>['clocked']>

/**
 * Parts on two lines of their own, without a select: while the data line is high they measure; it falls when there is
 * something to be read. Each rise of the clock brings the next bit of what was measured last, the highest first, and the
 * one after the last bit lets the line rise again. Source: data sheet of the HX711, serial interface.
 */
export function clockedDevices(stage: ChipStage, bytes: BusBytes): Chip[] {
  return stage.wiring.parts.flatMap((part) => {
    const how = bytes.howOf(part)
    return how?.as === 'reply' && how.clocked && isAlive(part) ? [deviceOf(part, how.clocked, stage, bytes)] : []
  })
}

function deviceOf(part: PartInstance, { clock, data, every }: Clocked, stage: ChipStage, bytes: BusBytes): Chip {
  const put = outputsOf(part, stage)
  /** Bits that are left to be read. */
  let left: boolean[] = []
  let is: 'off' | 'measuring' | 'ready' | 'read' = 'off'
  let wasHigh = false
  const measure = (): boolean => {
    is = 'measuring'
    stage.later(every, () => {
      is = 'ready'
      if (put(data, false)) stage.moved()
    })
    return put(data, true)
  }
  return {
    part,
    nets: [stage.wiring.netOf(`${part.ref}.${clock}`).index],
    inputs: [clock],
    follow: (seen) => {
      const high = seen.get(clock) === true
      const rose = high && !wasHigh
      wasHigh = high
      if (is === 'off') return measure()
      if (!rose || is === 'measuring') return false
      if (is === 'ready') {
        is = 'read'
        left = bitsOf(bytes.reply(part, stage.at()))
      }
      const next = left.shift()
      return next === undefined ? measure() : put(data, next)
    },
  }
}
