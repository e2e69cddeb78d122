import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { channelOf } from './clashes.ts'
import type { Line } from './problem.ts'
import type { Arrangement } from './search.ts'

/** Points for two signals of a part side by side, and for their standing in the order of its cable. */
const BESIDE = 2
const IN_ORDER = 1
/** Passes over all signals, after which the improvement stops. */
const MOST_PASSES = 6

export interface Neat {
  readonly arrangement: Arrangement
  /** Neighbours and cable order in points, before and after. */
  readonly before: number
  readonly after: number
}

/**
 * Makes an arrangement neater without making it dearer: single signals move to free pins of equal price, or two change
 * places, while more signals of a part come to lie side by side in the order of its cable, so that one housing fits.
 * Local search; what it gains is reported, not claimed to be the most. Signals that hold a timer or an interrupt line
 * stay where they are.
 */
export function neaten(wiring: Wiring, singles: readonly Line[], found: Arrangement): Neat {
  const at = new Map<SignalUse, Host>(found.placed.map(({ use, host }) => [use, host]))
  const taken = new Set<string>([...at.values()].map((host) => host.end))
  const movable = singles.filter((line) => {
    const use = line.uses[0]
    return use !== undefined && at.has(use) && use.facts.needs !== 'interrupt' && use.facts.hertz === undefined
  })
  const byPart = new Map<PartInstance, SignalUse[]>()
  for (const use of wiring.signals) {
    if (!at.has(use) && use.hosts.length === 0) continue
    byPart.set(use.part, [...(byPart.get(use.part) ?? []), use])
  }
  const score = (part: PartInstance): number =>
    neatnessOf(part, byPart.get(part) ?? [], (use) => at.get(use) ?? use.hosts[0]?.host)
  const total = (): number => [...byPart.keys()].reduce((sum, part) => sum + score(part), 0)
  const before = total()
  const price = (line: Line, host: Host): number | undefined => line.choices.find((one) => one.host === host)?.extra
  /** Nobody else has the PWM channel of a pin; `except` gives it up. */
  const isAlone = (use: SignalUse, host: Host, except: SignalUse | undefined): boolean => {
    const key = channelOf(use, host)
    if (key === undefined) return true
    const held = (one: SignalUse, where: Host): boolean =>
      one !== use && one !== except && channelOf(one, where) === key
    return (
      ![...at].some(([one, where]) => held(one, where)) &&
      !wiring.signals.some((one) => one.hosts.some(({ host: where }) => held(one, where)))
    )
  }
  let gained = true
  for (let pass = 0; gained && pass < MOST_PASSES; pass += 1) {
    gained = false
    for (const line of movable) {
      const use = line.uses[0] as SignalUse
      const here = at.get(use) as Host
      const now = price(line, here) ?? 0
      let best: { gain: number; apply: () => void } | undefined
      const consider = (parts: readonly PartInstance[], change: () => void, back: () => void): void => {
        const old = parts.reduce((sum, part) => sum + score(part), 0)
        change()
        const gain = parts.reduce((sum, part) => sum + score(part), 0) - old
        back()
        if (gain > (best?.gain ?? 0)) best = { gain, apply: change }
      }
      for (const { host, extra } of line.choices)
        if (!taken.has(host.end) && Math.abs(extra - now) < 0.05 && isAlone(use, host, undefined))
          consider(
            [use.part],
            () => void at.set(use, host),
            () => void at.set(use, here),
          )
      for (const other of movable) {
        const second = other.uses[0] as SignalUse
        const there = at.get(second) as Host
        if (other === line || there === here) continue
        if (!isAlone(use, there, second) || !isAlone(second, here, use)) continue
        const [mine, theirs] = [price(line, there), price(other, here)]
        if (mine === undefined || theirs === undefined) continue
        if (Math.abs(mine + theirs - now - (price(other, there) ?? 0)) >= 0.05) continue
        consider(
          use.part === second.part ? [use.part] : [use.part, second.part],
          () => void at.set(use, there).set(second, here),
          () => void at.set(use, here).set(second, there),
        )
      }
      if (!best) continue
      best.apply()
      taken.clear()
      for (const host of at.values()) taken.add(host.end)
      gained = true
    }
  }
  const placed = found.placed.map((one) => ({ ...one, host: at.get(one.use) ?? one.host }))
  return { arrangement: { ...found, placed }, before, after: total() }
}

/** Neighbouring header positions among a part's signals, and how many of them follow its cable. */
function neatnessOf(
  part: PartInstance,
  uses: readonly SignalUse[],
  hostOf: (use: SignalUse) => Host | undefined,
): number {
  const cable = part.part.cable.length > 0 ? part.part.cable : part.part.pins.map((pin) => pin.id)
  let points = 0
  for (let a = 0; a < uses.length; a += 1)
    for (let b = a + 1; b < uses.length; b += 1) {
      const [one, two] = [placeOf(hostOf(uses[a] as SignalUse)), placeOf(hostOf(uses[b] as SignalUse))]
      if (!one || !two || one.header !== two.header || Math.abs(one.position - two.position) !== one.header.columns)
        continue
      const step = Math.abs(cable.indexOf(uses[a]?.facts.pin ?? '') - cable.indexOf(uses[b]?.facts.pin ?? ''))
      points += BESIDE + (step === 1 ? IN_ORDER : 0)
    }
  return points
}

const placeOf = (host: Host | undefined) => host?.board?.facts.pin(host.end.slice(host.ref.length + 1))
