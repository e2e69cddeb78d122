import type { Straight } from './straight.ts'

/** Numbers that are kept of a wire: its two ends, and the box around it. */
const EACH = 8

/** All guessed wires, packed, so that what crosses what is quickly counted. */
export class Wires {
  readonly #first: number[]
  readonly #count: number[]
  readonly #data: Float64Array
  readonly #kept: Float64Array
  readonly #keptCount: number[]
  readonly #isMoved: Uint8Array

  constructor(most: readonly number[]) {
    let first = 0
    this.#first = most.map((count) => {
      first += count
      return first - count
    })
    this.#count = most.map(() => 0)
    this.#keptCount = most.map(() => 0)
    this.#data = new Float64Array(first * EACH)
    this.#kept = new Float64Array(first * EACH)
    this.#isMoved = new Uint8Array(most.length)
  }

  clear(net: number): void {
    this.#count[net] = 0
  }

  add(net: number, [x1, y1, x2, y2]: Straight): void {
    const at = (this.#first[net]! + this.#count[net]!) * EACH
    const data = this.#data
    data[at] = x1
    data[at + 1] = y1
    data[at + 2] = x2
    data[at + 3] = y2
    data[at + 4] = Math.min(x1, x2)
    data[at + 5] = Math.max(x1, x2)
    data[at + 6] = Math.min(y1, y2)
    data[at + 7] = Math.max(y1, y2)
    this.#count[net]! += 1
  }

  keep(nets: readonly number[]): void {
    for (const net of nets) this.#copy(net, this.#data, this.#kept, this.#count, this.#keptCount)
  }

  restore(nets: readonly number[]): void {
    for (const net of nets) this.#copy(net, this.#kept, this.#data, this.#keptCount, this.#count)
  }

  #copy(net: number, from: Float64Array, to: Float64Array, count: readonly number[], counted: number[]): void {
    const start = this.#first[net]! * EACH
    const end = start + count[net]! * EACH
    for (let at = start; at < end; at += 1) to[at] = from[at]!
    counted[net] = count[net]!
  }

  length(nets: readonly number[]): number {
    let sum = 0
    for (const net of nets)
      for (let wire = 0; wire < this.#count[net]!; wire += 1) {
        const at = (this.#first[net]! + wire) * EACH
        sum += Math.hypot(this.#data[at]! - this.#data[at + 2]!, this.#data[at + 1]! - this.#data[at + 3]!)
      }
    return sum
  }

  /** Crossings of the wires of some nets with all others; two wires of one net never cross in a shortest tree. */
  crossings(nets: readonly number[]): number {
    let count = 0
    for (const net of nets) this.#isMoved[net] = 1
    for (const net of nets)
      for (let wire = 0; wire < this.#count[net]!; wire += 1) {
        const at = (this.#first[net]! + wire) * EACH
        for (let other = 0; other < this.#count.length; other += 1) {
          // Of two that were moved the pair counts once.
          if (this.#isMoved[other] === 1 && other <= net) continue
          const start = this.#first[other]! * EACH
          const end = start + this.#count[other]! * EACH
          for (let to = start; to < end; to += EACH) if (this.#cross(at, to)) count += 1
        }
      }
    for (const net of nets) this.#isMoved[net] = 0
    return count
  }

  /** As `straightCross`. */
  #cross(at: number, to: number): boolean {
    const data = this.#data
    if (data[at + 5]! < data[to + 4]! || data[to + 5]! < data[at + 4]!) return false
    if (data[at + 7]! < data[to + 6]! || data[to + 7]! < data[at + 6]!) return false
    const ax = data[at]!
    const ay = data[at + 1]!
    const bx = data[at + 2]!
    const by = data[at + 3]!
    const cx = data[to]!
    const cy = data[to + 1]!
    const dx = data[to + 2]!
    const dy = data[to + 3]!
    const first = ((dx - cx) * (ay - cy) - (dy - cy) * (ax - cx)) * ((dx - cx) * (by - cy) - (dy - cy) * (bx - cx))
    if (first >= 0) return false
    return ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) * ((bx - ax) * (dy - ay) - (by - ay) * (dx - ax)) < 0
  }
}
