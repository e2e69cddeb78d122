import { memo } from '../base/memo.ts'
import type { PinFacts } from '../catalog/boardFacts.ts'
import type { Caution, Feature } from '../catalog/boardSchema.ts'
import type { Host, SignalUse } from './model.ts'
import { servedAs } from './needs.ts'

/** Who has a pin already, before any signal asks for it: the one answer to "may I have this pin, its converter, its timer". */
export interface Availability {
  /** Pin of its board. */
  readonly pin: PinFacts | undefined
  /** Cautions that count with the features in use. */
  readonly cautions: readonly Caution[]
  /** What the board itself needs it for: flash, memory, crystal. */
  readonly vital: Caution | undefined
  /** What the board needs it for where a feature is fitted that this plan does without. */
  readonly vitalElsewhere: Caution | undefined
  /** Feature in use that occupies the pin, that blocks its analog unit, that has the last of its timers. */
  readonly pinTaker: Feature | undefined
  readonly analogTaker: Feature | undefined
  readonly pwmTaker: Feature | undefined
  /** Titles of the timers on which its PWM hangs. */
  readonly timers: readonly string[]
}

export const availabilityOf = memo(workOut)

/** Cautions that count with the features in use. */
export const activeCautions = (host: Host): readonly Caution[] => availabilityOf(host).cautions

function workOut(host: Host): Availability {
  const id = host.pin
  const { board } = host
  const features = board?.features ?? []
  const pin = board?.facts.pin(id)
  const cautions = host.cautions.filter(
    (caution) => caution.feature === undefined || features.some((feature) => feature.id === caution.feature),
  )
  // A pin that hangs on several timers can take another one.
  const timers = (board?.board.timers ?? []).filter((one) =>
    Object.values(one.channels).some((pins) => pins.includes(id)),
  )
  const takers = timers.map((timer) => features.find((feature) => feature.timers.includes(timer.id)))
  const unit = pin?.analogUnit
  return {
    pin,
    cautions,
    vital: cautions.find(isVital),
    vitalElsewhere: host.cautions.find((one) => isVital(one) && !cautions.includes(one)),
    pinTaker: features.find((one) => one.pins.includes(id)),
    analogTaker: features.find((feature) => unit !== undefined && feature.analog.includes(unit.id)),
    pwmTaker: takers.every((one) => one !== undefined) ? takers[0] : undefined,
    timers: timers.map((one) => one.id),
  }
}

const isVital = ({ id }: Caution): boolean => ['flash', 'psram', 'crystal'].includes(id)

/** A driver that is switched on and serves just this kind of signal, on pins of its own: no other pin reads it then. */
export function servingFeature(host: Host, { facts }: SignalUse): Feature | undefined {
  const kind = servedAs(facts)
  return host.board?.features.find((one) => one.pins.length > 0 && one.serves.includes(kind))
}
