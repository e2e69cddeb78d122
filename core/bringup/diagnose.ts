import type { Wiring } from '../wiring/model.ts'
import { buildWith, type Fault, type FaultKind, faultKinds, soundBuild } from './fault.ts'
import { faultsOf } from './faults.ts'
import { type Laid, NOT_LAID, type PlacedTouch } from './laid.ts'
import { BY_PERSON, type Measurement, measurementsOf, outcomesOf } from './predict.ts'

/**
 * What was seen at a measurement: as planned, otherwise, or in the words of {@link outcomesOf}, such as `silent` or `3.3`.
 */
export interface Observation {
  readonly step: string
  readonly saw: 'right' | 'wrong' | { readonly outcome: string }
}

/** A cause with its odds among all, between 0 and 1. */
export interface Cause {
  readonly faults: readonly Fault[]
  readonly words: string
  readonly odds: number
}

export interface Diagnosis {
  readonly causes: readonly Cause[]
  /** Odds that nothing is wrong. */
  readonly sound: number
  /** The measurement that tells most for its effort; undefined when none tells anything more. */
  readonly next: (Measurement & { readonly bits: number }) | undefined
}

/** A build that was thought of: its faults, how likely it was before anything was seen, and what it shows. */
interface Hypothesis {
  readonly faults: readonly Fault[]
  readonly prior: number
  readonly shows: ReadonlyMap<string, string>
}

/** Odds before anything is seen that a build has no fault at all; somebody who asks has seen something. */
const SOUND_PRIOR = 0.1
/** Likeliest single faults of which pairs are looked at, and the odds of a second fault where there is one. */
const PAIRED = 8
const SECOND_PRIOR = 0.15

/**
 * Ranks the causes of what was seen. Each fault that may be in a build is planted in the plan, the electrical model says
 * what would be seen, and that is held against what was (Bayes’ rule over single faults and the likeliest pairs).
 */
export class Diagnoser {
  readonly #wiring: Wiring
  readonly #placed: readonly PlacedTouch[]
  readonly #measurements: readonly Measurement[]
  readonly #misread: ReadonlyMap<string, number>
  readonly #planned: ReadonlyMap<string, string>
  readonly #single: readonly Hypothesis[]
  readonly #sound: Hypothesis

  /** `laid`: touches of the build as it is laid out, which count where they were made, and what its rails may lack. */
  constructor(wiring: Wiring, { touches, rails }: Laid = NOT_LAID) {
    this.#wiring = wiring
    this.#placed = touches
    this.#measurements = measurementsOf(wiring)
    this.#misread = new Map(this.#measurements.map(({ id, misread }) => [id, misread]))
    this.#planned = outcomesOf(wiring, soundBuild(wiring), touches)
    this.#sound = { faults: [], prior: SOUND_PRIOR, shows: this.#planned }
    const faults = [...faultsOf(wiring), ...rails]
    // More places, more chances, but a kind that has many does not drown the others.
    const places = new Map<FaultKind, number>()
    for (const { kind } of faults) places.set(kind, (places.get(kind) ?? 0) + 1)
    const weight = ({ kind }: Fault): number => faultKinds[kind].weight / Math.sqrt(places.get(kind) ?? 1)
    const all = faults.reduce((sum, fault) => sum + weight(fault), 0)
    this.#single = faults.flatMap((fault): Hypothesis[] => {
      const prior = ((1 - SOUND_PRIOR) * weight(fault)) / all
      const one = this.#hypothesis([fault], prior)
      return one ? [one] : []
    })
  }

  get measurements(): readonly Measurement[] {
    return this.#measurements
  }

  /** What a measurement shows when all is as planned. */
  planned(step: string): string | undefined {
    return this.#planned.get(step)
  }

  #hypothesis(faults: readonly Fault[], prior: number): Hypothesis | undefined {
    const build = buildWith(this.#wiring, faults)
    if (!build) return undefined
    const shows = outcomesOf(this.#wiring, build, this.#placed)
    // What nothing would ever show cannot be told from a sound build.
    if ([...shows].every(([step, outcome]) => outcome === this.#planned.get(step))) return undefined
    return { faults, prior, shows }
  }

  /** Ranks causes by what was seen so far. */
  diagnose(observations: readonly Observation[]): Diagnosis {
    const singles = this.#weigh([this.#sound, ...this.#single], observations)
    const likely = singles.filter(({ of }) => of.faults.length === 1).slice(0, PAIRED)
    // Two faults are thought of only where one alone explains what was seen badly.
    const best = singles[0]
    const explained = best !== undefined && this.#explains(best.of, observations)
    const pairs = explained
      ? []
      : likely.flatMap(({ of: one }, at) =>
          likely
            .slice(at + 1)
            .flatMap(
              ({ of: two }) =>
                this.#hypothesis([...one.faults, ...two.faults], one.prior * two.prior * SECOND_PRIOR) ?? [],
            ),
        )
    const all = pairs.length === 0 ? singles : this.#weigh([this.#sound, ...this.#single, ...pairs], observations)
    const causes = all.flatMap(({ of, odds }): Cause[] =>
      of.faults.length === 0
        ? []
        : [{ faults: of.faults, words: of.faults.map(({ words }) => words).join(', and '), odds }],
    )
    return {
      causes: causes.filter(({ odds }) => odds > 1e-4),
      sound: all.find(({ of }) => of.faults.length === 0)?.odds ?? 0,
      next: this.#next(all, new Set(observations.map(({ step }) => step))),
    }
  }

  #explains(one: Hypothesis, observations: readonly Observation[]): boolean {
    return observations.every(({ step, saw }) => {
      const shows = one.shows.get(step)
      const planned = this.#planned.get(step)
      if (shows === undefined) return true
      return saw === 'right' ? shows === planned : saw === 'wrong' ? shows !== planned : shows === saw.outcome
    })
  }

  #weigh(hypotheses: readonly Hypothesis[], observations: readonly Observation[]): { of: Hypothesis; odds: number }[] {
    const weighed = hypotheses.map((of) => {
      let odds = of.prior
      for (const { step, saw } of observations) {
        const shows = of.shows.get(step)
        if (shows === undefined) continue
        const planned = this.#planned.get(step)
        const fits = saw === 'right' ? shows === planned : saw === 'wrong' ? shows !== planned : shows === saw.outcome
        const wrong = this.#misread.get(step) ?? BY_PERSON
        odds *= fits ? 1 - wrong : wrong
      }
      return { of, odds }
    })
    const sum = weighed.reduce((total, { odds }) => total + odds, 0)
    return weighed.map(({ of, odds }) => ({ of, odds: sum > 0 ? odds / sum : 0 })).sort((a, b) => b.odds - a.odds)
  }

  /** The largest expected fall in entropy for the effort, in bits. */
  #next(all: readonly { of: Hypothesis; odds: number }[], seen: ReadonlySet<string>): Diagnosis['next'] {
    const open = all.filter(({ odds }) => odds > 1e-4)
    let best: Diagnosis['next']
    for (const measurement of this.#measurements) {
      if (seen.has(measurement.id)) continue
      const byOutcome = new Map<string, number>()
      for (const { of, odds } of open) {
        const shows = of.shows.get(measurement.id) ?? ''
        byOutcome.set(shows, (byOutcome.get(shows) ?? 0) + odds)
      }
      const sum = [...byOutcome.values()].reduce((total, one) => total + one, 0)
      // What is learnt is the entropy of the outcome itself, since each build shows one.
      const bits = [...byOutcome.values()].reduce((total, one) => total - (one / sum) * Math.log2(one / sum), 0)
      if (bits > 0.02 && (!best || bits / measurement.effort > best.bits / best.effort + 1e-9))
        best = { ...measurement, bits }
    }
    return best
  }
}
