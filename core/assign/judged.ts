import { memo } from '../base/memo.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { hostsFor, likenessOf } from './candidates.ts'
import { type Blocked, judgeBus, type Verdict } from './judge.ts'
import type { Lane } from './lanes.ts'
import { Verdicts } from './verdicts.ts'

/** One way to carry a line: a pin and its points beyond the hundred that every placed signal costs. */
export interface Choice {
  readonly host: Host
  readonly extra: number
}

/** What the pins of a wiring are worth to its signals: the same for every problem that is made of it. */
export class Judged {
  readonly #wiring: Wiring
  readonly #likeness = new Map<SignalUse, number>()
  readonly #likenesses = new Map<string, number>()
  readonly #verdicts: Verdicts[] = []
  readonly #alone = new Map<string, readonly Choice[]>()
  readonly #onLane = new Map<Lane, (readonly Choice[])[]>()

  constructor(wiring: Wiring) {
    this.#wiring = wiring
  }

  /** The same number for signals that no pin can tell apart. */
  likenessOf(use: SignalUse): number {
    let likeness = this.#likeness.get(use)
    if (likeness === undefined) {
      const text = likenessOf(this.#wiring, use)
      likeness = this.#likenesses.get(text) ?? this.#likenesses.size
      this.#likenesses.set(text, likeness)
      this.#likeness.set(use, likeness)
    }
    return likeness
  }

  /** What the pin itself makes of a signal. */
  pin(use: SignalUse, host: Host): Verdict | Blocked {
    const likeness = this.likenessOf(use)
    this.#verdicts[likeness] ??= new Verdicts(this.#wiring, use)
    return (this.#verdicts[likeness] as Verdicts).of(host)
  }

  /** Pins of a single signal; the same list for all that are alike. */
  alone(use: SignalUse): readonly Choice[] {
    const key = `${this.likenessOf(use)} ${givesPins(use) ? use.end : ''}`
    const choices = this.#alone.get(key) ?? this.#choices(use)
    this.#alone.set(key, choices)
    return choices
  }

  #choices(use: SignalUse): readonly Choice[] {
    const choices: Choice[] = []
    for (const host of hostsFor(this.#wiring, use)) {
      const pin = this.pin(use, host)
      if (!('blocked' in pin)) choices.push({ host, extra: pin.points + judgeBus(this.#wiring, use, host).points })
    }
    return choices.sort((a, b) => a.extra - b.extra)
  }

  /** Pins of a bus line on a lane; the same list for all that are alike. */
  onLane(use: SignalUse, lane: Lane, work: () => readonly Choice[]): readonly Choice[] {
    const known = this.#onLane.get(lane) ?? []
    this.#onLane.set(lane, known)
    const likeness = this.likenessOf(use)
    known[likeness] ??= work()
    return known[likeness] as readonly Choice[]
  }
}

export const judgedOn = memo((wiring: Wiring): Judged => new Judged(wiring))

/** Points by pin of a list of choices. */
const extrasOf = memo(
  (choices: readonly Choice[]): ReadonlyMap<Host, number> => new Map(choices.map(({ host, extra }) => [host, extra])),
)

/** Pins that all lists hold, at what the dearest user makes of each. */
export function dearest([first, ...rest]: readonly (readonly Choice[])[]): readonly Choice[] {
  if (!first || rest.length === 0) return first ?? []
  const others = rest.map(extrasOf)
  return first.flatMap((choice) => {
    let most = choice.extra
    for (const extras of others) {
      const extra = extras.get(choice.host)
      if (extra === undefined) return []
      most = Math.max(most, extra)
    }
    return [most === choice.extra ? choice : { host: choice.host, extra: most }]
  })
}

/** True for a signal of a part that gives pins to others: its own are no pins for it. */
const givesPins = ({ part: { part } }: SignalUse): boolean => part.provides.length > 0 || part.controllers.length > 0
