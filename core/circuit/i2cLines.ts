import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import { segmentsOf } from '../wiring/i2c.ts'
import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { networkOf } from './still.ts'

/** One wired line of an I2C segment with what pulls it up and what loads it. */
export interface I2cLine {
  readonly signal: 'SDA' | 'SCL'
  /** A device's own use of the line. */
  readonly use: SignalUse
  readonly parts: readonly PartInstance[]
  readonly host: Host
  /** All pull-ups together, in ohms, and the volts to which they pull; undefined without any. */
  readonly ohms: number | undefined
  readonly volts: number
  /** What pulls at the line on the far sides of converters, and what loads it there, in farads. */
  readonly beyond: readonly { readonly ohms: number; readonly volts: number; readonly farads: number }[]
  /** Estimated load in farads. */
  readonly farads: number
  /** Clock at which the bus runs, in hertz. */
  readonly hertz: number
  /** Clock of the slowest device, and whether the plan asks for the clock. */
  readonly slowest: { readonly part: PartInstance; readonly hertz: number } | undefined
  readonly asked: number | undefined
}

/** Capacitance of a device's pin and of its lead in farads: the pin after UM10204 (C_i at most 10 pF), a 20 cm jumper. */
export const DEVICE = 10e-12
export const LEAD = 20e-12
/** Clock that most libraries set, in hertz. */
export const USUAL_CLOCK = 100_000

/** Both lines of every I2C segment that reaches a host, worked out once. */
export const i2cLines = memo((wiring: Wiring): readonly I2cLine[] => findLines(wiring))

function findLines(wiring: Wiring): I2cLine[] {
  const lines: I2cLine[] = []
  for (const segment of segmentsOf(wiring))
    for (const signal of ['SDA', 'SCL'] as const) {
      const uses = wiring.signals.filter(
        (use) => use.facts.needs === `i2c.${signal.toLowerCase()}` && segment.parts.includes(use.part),
      )
      const use = uses.find((one) => one.hosts.length > 0)
      const host = use?.hosts[0]?.host
      if (!use || !host) continue
      const network = networkOf(wiring)
      const held = network.thevenin(wiring.netOf(use.end))
      const bus = wiring.buses.find((one) => one.uses.includes(use))
      const asked =
        bus?.board && bus.controller !== undefined
          ? entryOf(entryOf(wiring.plan.boards, bus.board.ref)?.clocks, bus.controller)
          : undefined
      const bySpeed = segment.parts
        .map((part) => ({ part, hertz: part.mode?.i2c?.most ?? Number.POSITIVE_INFINITY }))
        .sort((a, b) => a.hertz - b.hertz)
      lines.push({
        signal,
        use,
        parts: segment.parts,
        host,
        ohms: held?.ohms,
        volts: held?.volts ?? host.logicVolts ?? 0,
        beyond: sidesBeyond(wiring, use, [host.end, ...uses.map(({ end }) => end)]),
        farads: DEVICE + segment.parts.length * (DEVICE + LEAD),
        hertz: asked ?? USUAL_CLOCK,
        slowest: bySpeed[0],
        asked,
      })
    }
  return lines
}

/** Of ends of one line those to which no resistor leads from its own, and so a converter does. */
function sidesBeyond(wiring: Wiring, { end: own }: SignalUse, ends: readonly string[]): I2cLine['beyond'] {
  const network = networkOf(wiring)
  const hangs = (end: string, other: string): boolean =>
    network.joined(wiring.netOf(end)).has(wiring.netOf(other).index)
  const sides = ends.filter((end) => !hangs(end, own))
  return sides.flatMap((side) => {
    const held = network.thevenin(wiring.netOf(side))
    const devices = ends.filter((end) => hangs(end, side)).length
    return held ? [{ ...held, farads: DEVICE + devices * (DEVICE + LEAD) }] : []
  })
}
