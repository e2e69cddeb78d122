import { fedThrough } from '../circuit/loads.ts'
import { networkOf } from '../circuit/still.ts'
import type { PartInstance, SupplyUse, Wiring } from '../wiring/model.ts'
import { feedsTooMuch } from './driverNeeded.ts'

/** Both ends are fed, the other way round than they are named. */
export const isTurned = (wiring: Wiring, use: SupplyUse): boolean =>
  use.pins.some((end) => wiring.netOf(end).ground) && use.grounds.some((end) => wiring.netOf(end).sources.length > 0)

/** A part that may be fed either way round, with its ends named as the one that is wired has it. */
export function asFed(wiring: Wiring, use: SupplyUse): SupplyUse {
  const { pins, grounds, facts } = use
  const fed = grounds.map((end) => wiring.netOf(end).sources[0]).find(Boolean)
  if (!facts.either || use.source || (!fed && !pins.some((end) => wiring.netOf(end).ground))) return use
  return { ...use, pins: grounds, grounds: pins, source: fed, ground: undefined }
}

/** Resistors beside it bring both ends to different levels: it is one of several in a row. Two supplies are no such row. */
export function isBetweenResistors(wiring: Wiring, use: SupplyUse): boolean {
  const nets = [use.pins[0], use.grounds[0]].flatMap((end) => (end === undefined ? [] : [wiring.netOf(end)]))
  if (nets.every(({ sources }) => sources.length > 0)) return false
  const [one, two] = nets.map((net) => networkOf(wiring).pulled(net))
  return one !== undefined && two !== undefined && Math.abs(one - two) > LEAST_SPAN
}

/** Volts across a potentiometer below which it adjusts nothing that a pin could read. */
const LEAST_SPAN = 0.1

/** Another finding names the cause: what feeds it lies in the way, is dead itself, or is a pin that cannot carry it. */
export function causeElsewhere(wiring: Wiring, part: PartInstance, use: SupplyUse): boolean {
  if (isFedByItself(wiring, part, use)) return false
  if (fedThrough(wiring, use.pins)) return true
  return use.pins.some((end) => {
    const net = wiring.netOf(end)
    if (!net.wired) return false
    // On ground nothing feeds it; with its ground on a supply besides supply-joined speaks.
    if (net.ground) return use.grounds.some((ground) => wiring.netOf(ground).sources.length > 0)
    return net.ends.some((other) => {
      const terminal = wiring.terminal(other)
      const { owner, host } = terminal ?? {}
      if (host?.board && feedsTooMuch(host, use)) return true
      // A sensor's own supply pin is no cause of its own lack, though a small regulator hangs on it.
      return (
        owner?.kind === 'part' &&
        !(use.pins.includes(other) && owner.part.build === 'module' && owner.part.category !== 'power') &&
        owner.part.rails.some(({ pin, from }) => from !== undefined && [pin, from].includes(terminal?.pin ?? ''))
      )
    })
  })
}

/** What a part makes of its supply is what it is to be fed from: round in a circle nothing flows. */
const isFedByItself = (wiring: Wiring, { ref, part }: PartInstance, use: SupplyUse): boolean =>
  part.rails.some(
    ({ pin, from }) =>
      from !== undefined &&
      use.pins.includes(`${ref}.${from}`) &&
      wiring.netOf(`${ref}.${pin}`) === wiring.netOf(`${ref}.${from}`),
  )

/** A pin of a board that can carry what hangs on it as a supply. */
export function feedingPin(wiring: Wiring, use: SupplyUse): string | undefined {
  if (use.typicalMilliamps === undefined || use.facts.either) return undefined
  for (const end of use.pins)
    for (const other of wiring.netOf(end).ends) {
      const host = wiring.terminal(other)?.host
      const most = host?.current?.recommended ?? host?.current?.absolute
      if (host?.board && host.functions.has('digital-out') && most !== undefined && !feedsTooMuch(host, use))
        return host.end
    }
  return undefined
}

/** The tap of a part whose ends may change places lies on a rail: pin-on-rail speaks. */
export const isTapOnRail = (wiring: Wiring, part: PartInstance): boolean =>
  wiring.signals.some((one) => one.part === part && one.state === 'tied')
