import type { AnalogUnit } from '../catalog/boardControllers.ts'
import { volts } from '../catalog/common.ts'
import { dividerFor } from '../electrical/divider.ts'
import type { Fix } from '../plan/edit.ts'
import { dividerEdits } from '../wiring/dividerEdits.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { dividersOf } from './dividers.ts'
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
  const unit = host && analogUnitOf(wiring, host)
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

/** A supply that two resistors divide for a pin that reads volts and serves nothing else. */
export function dividedSpans(wiring: Wiring): { top: PartInstance; bottom: PartInstance; span: AnalogSpan }[] {
  const used = new Set(wiring.signals.flatMap(({ hosts }) => hosts.map(({ host }) => host)))
  return dividersOf(wiring).flatMap(({ top, bottom, host, out }) => {
    const isRead = host?.board !== undefined && host.functions.has('analog-in') && !used.has(host)
    const unit = isRead ? analogUnitOf(wiring, host) : undefined
    return unit && out !== undefined
      ? [{ top, bottom, span: { host: host as Host, unit, most: out, divide: () => [] } }]
      : []
  })
}

/**
 * Whether what lies at a board's reference pin is what its converter must be told to take: with another choice the pin is
 * joined with a reference inside the chip (ATmega328P datasheet, 24.5.2).
 */
export function mustTakeReference(wiring: Wiring, board: BoardInstance): boolean {
  const end = referenceEnd(board)
  const isChosen = board.board.analog.some(({ references }) => Object.keys(references).length > 0)
  return isChosen && end !== undefined && wiring.netOf(end).sources.length > 0
}

/** The converter of a pin: from the volts that lie at the board's reference pin on, it reads full scale. */
export function analogUnitOf(wiring: Wiring, { board, pin }: Host): AnalogUnit | undefined {
  const unit = board?.facts.pin(pin)?.analogUnit
  if (!unit || !board) return undefined
  const end = referenceEnd(board)
  const most = end === undefined ? undefined : wiring.netOf(end).sources[0]?.volts
  return most === undefined || most >= unit.most
    ? unit
    : { ...unit, most, note: `${end} is wired: what lies there is full scale, once the program takes it.` }
}

/** The pin of a board that sets the full scale of its analog inputs; undefined where it has none. */
export const referenceEnd = ({ ref, facts }: BoardInstance): string | undefined => {
  const pin = facts.pins.find(({ control }) => control === 'reference')
  return pin && `${ref}.${pin.id}`
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
