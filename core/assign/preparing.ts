import { memo } from '../base/memo.ts'
import { isLoad } from '../catalog/common.ts'
import type { Companion } from '../catalog/partSchema.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { isBetweenParts } from '../wiring/between.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { takesKick } from '../wiring/windings.ts'
import type { AssignOptions } from './assign.ts'
import { joinBegun } from './begun.ts'
import { chainRegisters } from './chains.ts'
import { addCompanions, waits } from './companions.ts'
import { feed, feedConverters } from './feeding.ts'
import { timeByCapacitors } from './filling.ts'
import { followers, shareLines, takeTurns } from './inTurn.ts'
import { leadOver } from './leadOver.ts'
import type { Progress } from './progress.ts'
import { sinkLamps } from './sinking.ts'
import { moveByTransistors, switchByTransistors, switchHighSide } from './switched.ts'
import { tieUp } from './tying.ts'

/** What comes before the search, of all parts: what looks for a conflict or a way out starts from the same. */
export const prepare = memo((wiring: Wiring): Progress => preparing(wiring, () => true))

/** Companions, supplies, grounds, ties and converters of the wanted parts. */
export function preparing(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  // A knob that serves another part must be known as such before it is fed like one of its own.
  const isFed = ({ part }: Companion): boolean => (wiring.catalog.parts.get(part)?.supplies.length ?? 0) > 0
  // What is wired to its end already gets nothing beside it.
  const waiting = new Set(wiring.parts.flatMap((part) => (waits(wiring, part) ? [part.ref] : [])))
  const isWaiting = (ref: string): boolean => wanted(ref) && waiting.has(ref)
  const stages: readonly ((now: Wiring) => Progress)[] = [
    (now) => timeByCapacitors(now, wanted),
    (now) => addCompanions(now, isWaiting, isFed),
    (now) => chainRegisters(now, wanted),
    (now) => takeTurns(now, wanted),
    (now) => feedConverters(now, wanted),
    (now) => switchHighSide(now, wanted),
    (now) => switchByTransistors(now, wanted),
    (now) => moveByTransistors(now, wanted),
    (now) => feed(now, wanted),
    (now) => joinBegun(now, wanted),
    // A divider takes two loose resistors; what is then lacking before a lamp is easily had.
    (now) => leadOver(now, wanted),
    (now) => {
      // What is lit in turn shares the resistors of the first.
      const sharing = new Set([...followers(now).keys()].map(({ ref }) => ref))
      return addCompanions(
        now,
        (ref) => isWaiting(ref) && !sharing.has(ref),
        (one) => !takesKick(now.catalog, one),
      )
    },
    // With their resistors, from whichever side these lead to them.
    (now) => sinkLamps(now, wanted),
    (now) => shareLines(now, wanted),
    (now) => tieUp(now, wanted),
  ]
  return stages.reduce<Progress>(
    (sofar, stage) => {
      const next = stage(sofar.wiring)
      return {
        wiring: next.wiring,
        decisions: [...sofar.decisions, ...next.decisions],
        refused: [...sofar.refused, ...next.refused],
      }
    },
    { wiring, decisions: [], refused: [] },
  )
}

/** Signals that need a pin and have none; one that could stay open does so unless its resistor is there. */
export const openSignals = (wiring: Wiring): SignalUse[] =>
  wiring.signals.filter(
    (use) =>
      isOpen(use) &&
      (use.facts.required || use.tail !== use.end) &&
      !isBetweenParts(wiring, use) &&
      // A motor between the contacts of relays asks for no bridge.
      !(isLoad(use.facts.needs) && hangsOnContact(wiring, use)),
  )

export const isAlso = (use: SignalUse, { also }: AssignOptions): boolean =>
  also?.has(use.end) === true && use.state === 'open' && !use.facts.required

/** Waits for a host, also when it is already joined to some other part that waits with it. */
export const isOpen = (use: SignalUse): boolean =>
  use.state === 'open' || (use.state === 'joined' && use.hosts.length === 0 && use.facts.required)

const hangsOnContact = (wiring: Wiring, { end }: SignalUse): boolean =>
  circuitOf(wiring)
    .on(wiring.netOf(end))
    .some(({ kind, moved }) => kind === 'contact' && moved !== undefined)
