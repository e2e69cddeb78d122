/**
 * Least-cost assignment of rows to columns, row by row (Hungarian method with potentials; each row costs
 * O(rows · columns)). What was matched stays optimal for the rows so far, so a copy can go on from there.
 * Deterministic: of equal answers the one with the smaller column indexes on early rows is found first.
 */
export class Matching {
  readonly #columns: number
  readonly #rows: Float64Array[]
  readonly #rowPotential: number[]
  readonly #columnPotential: Float64Array
  /** Row of each column, from 1; 0 for a free one. Column 0 is the way in. */
  readonly #rowOf: Int32Array

  private constructor(
    columns: number,
    rows: Float64Array[],
    rowPotential: number[],
    columnPotential: Float64Array,
    rowOf: Int32Array,
  ) {
    this.#columns = columns
    this.#rows = rows
    this.#rowPotential = rowPotential
    this.#columnPotential = columnPotential
    this.#rowOf = rowOf
  }

  static empty(columns: number): Matching {
    return new Matching(columns, [], [0], new Float64Array(columns + 1), new Int32Array(columns + 1))
  }

  copy(): Matching {
    return new Matching(
      this.#columns,
      [...this.#rows],
      [...this.#rowPotential],
      this.#columnPotential.slice(),
      this.#rowOf.slice(),
    )
  }

  /** Adds a row with its cost in each column, and moves others aside where that is cheaper. */
  add(cost: Float64Array): void {
    if (this.#rows.length >= this.#columns)
      throw new Error(`Matching: a row more than the ${this.#columns} columns that there are`)
    const width = this.#columns + 1
    this.#rows.push(cost)
    this.#rowPotential.push(0)
    const rowOf = this.#rowOf
    const columnPotential = this.#columnPotential
    const slack = new Float64Array(width).fill(Number.POSITIVE_INFINITY)
    const from = new Int32Array(width)
    const done = new Uint8Array(width)
    rowOf[0] = this.#rows.length
    let column = 0
    do {
      done[column] = 1
      const at = rowOf[column] as number
      const row = this.#rows[at - 1] as Float64Array
      const potential = this.#rowPotential[at] as number
      let least = Number.POSITIVE_INFINITY
      let next = 0
      for (let one = 1; one < width; one += 1) {
        if (done[one] === 1) continue
        const reduced = (row[one - 1] as number) - potential - (columnPotential[one] as number)
        if (reduced < (slack[one] as number)) {
          slack[one] = reduced
          from[one] = column
        }
        if ((slack[one] as number) < least) {
          least = slack[one] as number
          next = one
        }
      }
      for (let one = 0; one < width; one += 1) {
        if (done[one] === 1) {
          const mine = rowOf[one] as number
          this.#rowPotential[mine] = (this.#rowPotential[mine] as number) + least
          columnPotential[one] = (columnPotential[one] as number) - least
        } else slack[one] = (slack[one] as number) - least
      }
      column = next
    } while (rowOf[column] !== 0)
    while (column !== 0) {
      const before = from[column] as number
      rowOf[column] = rowOf[before] as number
      column = before
    }
  }

  /** Column of each row, in the order in which the rows came. */
  columns(): number[] {
    const answer = new Array<number>(this.#rows.length).fill(-1)
    for (let column = 1; column <= this.#columns; column += 1) {
      const row = this.#rowOf[column] as number
      if (row > 0) answer[row - 1] = column - 1
    }
    return answer
  }

  /** Cost of all rows together. */
  total(): number {
    let sum = 0
    for (let column = 1; column <= this.#columns; column += 1) {
      const row = this.#rowOf[column] as number
      if (row > 0) sum += this.#rows[row - 1]?.[column - 1] ?? 0
    }
    return sum
  }
}

/** Columns for all rows of `cost[row][column]`; there must be at least as many columns as rows. */
export function leastCostMatching(cost: readonly (readonly number[])[]): number[] {
  const matching = Matching.empty(cost[0]?.length ?? 0)
  for (const row of cost) matching.add(Float64Array.from(row))
  return matching.columns()
}
