import { memo } from '../base/memo.ts'
import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { switchesLoad } from '../wiring/needs.ts'

/** Signals of each host pin in plan order; only hosts that carry any, and only logic pins. Worked out once. */
export const usesByHost = memo((wiring: Wiring): ReadonlyMap<Host, readonly SignalUse[]> => {
  const uses = new Map<Host, SignalUse[]>()
  for (const use of wiring.signals)
    for (const { host } of use.hosts) {
      if (switchesLoad(host.functions)) continue
      const known = uses.get(host)
      if (known) known.push(use)
      else uses.set(host, [use])
    }
  return uses
})

/** `a, b and c`. */
export function listWords(words: readonly string[]): string {
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
}

/** Volts below which an input most likely reads low: the middle of its thresholds. */
export const middleOf = (vih: number, vil: number | undefined): number =>
  vil === undefined ? vih / 2 : (vih + vil) / 2

/** Rounds a voltage for the numbers of a finding. */
export const twoDigits = (value: number): number => Math.round(value * 100) / 100

/** A part whose own supply is above its range, of which supply-range speaks. */
export const isOverfed = (part: PartInstance): boolean =>
  part.supplies.some(({ source, facts }) => source !== undefined && source.volts > facts.most)
