import type { AnalogUnit } from '../catalog/boardSchema.ts'
import { volts } from '../catalog/common.ts'
import { dividerFor } from '../electrical/divider.ts'
import type { Fix } from '../plan/edit.ts'
import { dividerEdits } from '../wiring/dividerEdits.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { networkOf } from './still.ts'

/** What a sensor puts on an analog pin. */
export interface AnalogSpan {
  readonly host: Host
  readonly unit: AnalogUnit
  /** Highest volts at the pin. */
  readonly most: number
  /** Puts a divider in the line, where the sensor drives it. */
  readonly divide: () => Fix[]
}

/** Span of an analog signal at the pin that reads it; undefined while it is not placed or its output not known. */
export function analogSpan(wiring: Wiring, use: SignalUse): AnalogSpan | undefined {
  const host = use.hosts[0]?.host
  const unit = host?.board?.facts.pin(host.pin)?.analogUnit
  if (use.facts.needs !== 'analog-in' || !host || !unit) return undefined
  const net = wiring.netOf(host.end)
  if (use.facts.direction === 'passive') {
    const most = passiveMost(wiring, use)
    return most === undefined ? undefined : { host, unit, most, divide: () => [] }
  }
  const high = volts(levelsOf(use).high, use.part.logicVolts) ?? use.part.logicVolts
  const most = networkOf(wiring).driven(wiring.netOf(use.end), net, { high, low: 0 }).high
  if (most === undefined || high === undefined) return undefined
  return {
    host,
    unit,
    most,
    divide: () => {
      const values = dividerFor(high, unit.most, unit.most * 1.02)
      return values ? dividerEdits(wiring, use, host, values) : []
    },
  }
}

/** A resistive sensor or a potentiometer never brings more than the supply at its far side. */
function passiveMost(wiring: Wiring, use: SignalUse): number | undefined {
  const pins = use.part.part.inner
    .filter((inner) => inner.kind === 'resistance' && inner.between.includes(use.facts.pin))
    .flatMap((inner) => inner.between.filter((pin) => pin !== use.facts.pin))
  const supplies = pins.map((pin) => wiring.netOf(`${use.part.ref}.${pin}`).sources[0]?.volts)
  const known = supplies.filter((one) => one !== undefined)
  return known.length === 0 ? undefined : Math.max(...known)
}
