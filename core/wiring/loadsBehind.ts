import { behindBridge, keptBy, madeFor } from './labels.ts'
import type { PartInstance, SignalUse, SupplyUse, Wiring } from './model.ts'

/**
 * Loads that wait for a driver, or are on it already, where a supply is that of its motors: of a bridge what it turns, of
 * an array whose diodes meet at that supply what it pulls to ground.
 */
export function loadsBehind(wiring: Wiring, part: PartInstance, use: SupplyUse): PartInstance[] {
  const { channels, provides } = part.part
  const turns = channels.some(
    ({ supply, output }) =>
      supply !== undefined &&
      use.facts.pins.includes(supply) &&
      provides.some(({ pins, does }) => pins.includes(output) && does.includes('bridge')),
  )
  const pulls = provides.some(({ clamp }) => clamp !== undefined && use.facts.pins.includes(clamp))
  if (!turns && !pulls) return []
  const needs = turns ? 'bridge' : 'sink'
  const isBehind = ({ facts, state, hosts }: SignalUse): boolean =>
    facts.needs === needs && (state === 'open' || hosts.some(({ host }) => host.provider === part))
  return [...new Set(wiring.signals.filter(isBehind).map(({ part: load }) => load))]
}

/** Share of some loads that the volts of a motor supply do not suit, less what their driver keeps of them. */
export function misfitsOf(
  wiring: Wiring,
  driver: PartInstance,
  loads: readonly PartInstance[],
): (volts: number) => number {
  const ranges = loads.flatMap((load) => madeFor(wiring, load) ?? [])
  const keeps = keptBy(driver)
  const suits = (volts: number, range: { readonly least: number; readonly most: number }): boolean =>
    volts - keeps >= range.least && behindBridge(volts, range, keeps) === 'fits'
  return (volts) => ranges.filter((range) => !suits(volts, range)).length / Math.max(ranges.length, 1)
}
