/** What a row costs in each column, and what it costs to leave it without one. */
export interface Row {
  readonly costs: Float64Array
  readonly none: number
}

/** Column of a row that is left without one. */
export const NONE = -1

/** Room to work in, kept from one row to the next: nothing of it is read before it is written. */
let room = { far: new Float64Array(0), from: new Int32Array(0), done: new Uint8Array(0) }
function scratch(columns: number): typeof room {
  if (room.far.length < columns)
    room = { far: new Float64Array(columns), from: new Int32Array(columns), done: new Uint8Array(columns) }
  return room
}

/**
 * Least-cost assignment of rows to columns that each take a number of rows, row by row: shortest augmenting paths with
 * potentials (successive shortest paths, the Hungarian method for capacities). A row costs O(rows · columns). What was
 * matched stays optimal for the rows so far, so a copy can go on from there. Deterministic.
 */
export class Matching {
  readonly #room: Int32Array
  readonly #rows: Row[]
  readonly #rowPotential: number[]
  readonly #columnPotential: Float64Array
  readonly #columnOf: number[]
  #total: number

  private constructor(
    room: Int32Array,
    rows: Row[],
    rowPotential: number[],
    columnPotential: Float64Array,
    columnOf: number[],
    total: number,
  ) {
    this.#room = room
    this.#rows = rows
    this.#rowPotential = rowPotential
    this.#columnPotential = columnPotential
    this.#columnOf = columnOf
    this.#total = total
  }

  /** No rows yet; `capacity` says how many each column takes. */
  static empty(capacity: readonly number[]): Matching {
    return new Matching(Int32Array.from(capacity), [], [], new Float64Array(capacity.length), [], 0)
  }

  copy(): Matching {
    return new Matching(
      this.#room.slice(),
      this.#rows.slice(),
      this.#rowPotential.slice(),
      this.#columnPotential.slice(),
      this.#columnOf.slice(),
      this.#total,
    )
  }

  /** Adds a row, and moves others aside where that is cheaper. */
  add(row: Row): void {
    const columns = this.#columnPotential.length
    const start = this.#rows.push(row) - 1
    this.#rowPotential.push(0)
    this.#columnOf.push(NONE)
    const { far, from, done } = scratch(columns)
    far.fill(Number.POSITIVE_INFINITY, 0, columns)
    done.fill(0, 0, columns)
    // Rows of the tree with their distances; a row may also end it by staying without a column.
    const tree: number[] = []
    const distances: number[] = []
    let least = Number.POSITIVE_INFINITY
    let leaver = start
    const reach = (at: number, distance: number): void => {
      tree.push(at)
      distances.push(distance)
      const { costs, none } = this.#rows[at] as Row
      const offset = distance - (this.#rowPotential[at] as number)
      if (none + offset < least) {
        least = none + offset
        leaver = at
      }
      for (let column = 0; column < columns; column += 1) {
        if (done[column] === 1) continue
        const reduced = (costs[column] as number) + offset - (this.#columnPotential[column] as number)
        if (reduced < (far[column] as number)) {
          far[column] = reduced
          from[column] = at
        }
      }
    }
    reach(start, 0)
    let sink = NONE
    for (;;) {
      let next = NONE
      let distance = Number.POSITIVE_INFINITY
      for (let column = 0; column < columns; column += 1)
        if (done[column] === 0 && (far[column] as number) < distance) {
          distance = far[column] as number
          next = column
        }
      if (next === NONE || distance > least) break
      if ((this.#room[next] as number) > 0) {
        sink = next
        least = distance
        break
      }
      done[next] = 1
      for (let at = 0; at < start; at += 1) if (this.#columnOf[at] === next) reach(at, distance)
    }
    for (let column = 0; column < columns; column += 1)
      if (done[column] === 1) {
        const change = (far[column] as number) - least
        if (change < 0) this.#columnPotential[column] = (this.#columnPotential[column] as number) + change
      }
    for (let index = 0; index < tree.length; index += 1) {
      const change = least - (distances[index] as number)
      const at = tree[index] as number
      // The new row may cost less than nothing; those behind it lie no farther than the end of the path.
      if (change > 0 || at === start) this.#rowPotential[at] = (this.#rowPotential[at] as number) + change
    }
    this.#total += least
    // Back along the path: each row takes the column that the next one left.
    let row0 = leaver
    let column = NONE
    if (sink !== NONE) {
      this.#room[sink] = (this.#room[sink] as number) - 1
      row0 = from[sink] as number
      column = sink
    }
    for (;;) {
      const before = this.#columnOf[row0] as number
      this.#columnOf[row0] = column
      if (row0 === start) return
      column = before
      row0 = from[before] as number
    }
  }

  /**
   * Rows that share too few columns with a row that has none: it, and all that it could push aside, and what those could
   * (Hall's theorem). Without one of them the others fit.
   */
  tiedTo(row: number): number[] {
    const rows = new Set([row])
    const seen = new Set<number>()
    for (const at of rows) {
      const { costs } = this.#rows[at] as Row
      for (let column = 0; column < costs.length; column += 1) {
        if (seen.has(column) || costs[column] === Number.POSITIVE_INFINITY) continue
        seen.add(column)
        this.#columnOf.forEach((own, other) => {
          if (own === column) rows.add(other)
        })
      }
    }
    return [...rows]
  }

  /** Column of each row, in the order in which the rows came. */
  columns(): readonly number[] {
    return this.#columnOf
  }

  /** Cost of all rows together. */
  total(): number {
    return this.#total
  }

  /**
   * What a place in each column is worth to the rows so far: zero where there is room. A further row that takes a
   * column costs at least its own cost there and this. Many prices prove a matching; these are low ones.
   */
  prices(): Float64Array {
    return this.#columnPotential.map((potential) => -potential)
  }

  /** The same, column by column as high as they go: what the row that loses least by it would pay to go elsewhere. */
  highPrices(): Float64Array {
    const prices = this.prices()
    for (let column = 0; column < prices.length; column += 1) {
      if ((this.#room[column] as number) > 0) continue
      let least = Number.POSITIVE_INFINITY
      this.#columnOf.forEach((own, at) => {
        if (own === column) least = Math.min(least, this.#elsewhere(at, prices))
      })
      if (Number.isFinite(least)) prices[column] = (prices[column] as number) + Math.max(0, least)
    }
    return prices
  }

  /** What a row would pay more, at these prices, without its column. */
  #elsewhere(at: number, prices: Float64Array): number {
    const { costs, none } = this.#rows[at] as Row
    const own = this.#columnOf[at] as number
    let least = none
    for (let column = 0; column < costs.length; column += 1)
      if (column !== own) least = Math.min(least, (costs[column] as number) + (prices[column] as number))
    return least - (costs[own] as number) - (prices[own] as number)
  }
}
