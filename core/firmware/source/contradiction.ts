import { drives } from '../../wiring/needs.ts'
import type { Line } from '../lines.ts'
import type { PinUse } from './uses.ts'

/** A use of a pin that goes against what the part there does. */
export interface Contradiction {
  readonly use: PinUse
  /** What the program does: `driven`, `only read`. */
  readonly done: string
  readonly wants: string
}

const drivesPin = ({ doing }: PinUse): boolean => doing === 'output' || doing === 'pwm' || doing === 'analog-out'
const readsPin = ({ doing }: PinUse): boolean =>
  doing === 'input' || doing === 'analog-in' || doing === 'interrupt' || doing === 'touch'

/** What in the uses of a pin goes against its line: driving what talks, only reading what wants to be driven. */
export function contradiction(line: Pick<Line, 'use' | 'bus'>, uses: readonly PinUse[]): Contradiction | undefined {
  const { facts } = line.use
  // Lines that speak both ways, such as 1-Wire, and those of a bus are moved by their driver.
  const wantsDriving = drives(facts.needs)
  if (facts.direction === 'both' || (facts.direction === 'open-drain' && wantsDriving) || line.bus) return undefined
  const sure = uses.filter((use) => use.sure)
  if (wantsDriving) {
    const reads = sure.filter(readsPin)
    const other = uses.some((use) => !readsPin(use))
    const [first] = reads
    return first && !other ? { use: first, done: 'only read', wants: 'is to be driven' } : undefined
  }
  const driven = sure.find(drivesPin)
  return driven && { use: driven, done: 'driven', wants: 'is to be read' }
}
