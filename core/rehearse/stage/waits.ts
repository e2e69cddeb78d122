/** Microseconds from which a wait is one that people see, and how many places of it are kept. */
const LEAST_WAIT = 50
const MOST_PATH = 100_000

/** Where a program waits, from when on; and its longest wait. */
export class Waits {
  readonly path: { readonly at: number; readonly place: number }[] = []
  longest = { microseconds: 0, place: 0 }

  note(microseconds: number, from: number, place: number): void {
    if (microseconds <= LEAST_WAIT) return
    if (this.path.at(-1)?.place !== place && this.path.length < MOST_PATH) this.path.push({ at: from, place })
    if (microseconds > this.longest.microseconds) this.longest = { microseconds, place }
  }
}
