import type { Wiring } from '../wiring/model.ts'
import { after, type Decision, type Refusal } from './progress.ts'

/** An answer in the making: what was decided, and what found no place. */
export class Work {
  /** The wiring before anything was decided. */
  readonly start: Wiring
  #decisions: readonly Decision[] = []
  #refused: readonly Refusal[] = []
  #built: Wiring | undefined

  constructor(start: Wiring) {
    this.start = start
  }

  get decisions(): readonly Decision[] {
    return this.#decisions
  }

  get refused(): readonly Refusal[] {
    return this.#refused
  }

  /** The wiring with all decisions so far, made anew only when some came. */
  get now(): Wiring {
    this.#built ??= after(this.start, this.#decisions)
    return this.#built
  }

  /** Takes decisions; `built` is the wiring with them, where it is known. */
  add(more: readonly Decision[], built?: Wiring): void {
    if (more.length === 0) return
    this.#decisions = [...this.#decisions, ...more]
    this.#built = built
  }

  /** Others in the place of all. */
  replace(decisions: readonly Decision[]): void {
    this.#decisions = decisions
    this.#built = undefined
  }

  /** What finds no place is said once. */
  refuse(more: readonly Refusal[]): void {
    const known = new Set(this.#refused.map(({ end }) => end))
    this.#refused = [...this.#refused, ...more.filter(({ end }) => !known.has(end))]
  }
}
