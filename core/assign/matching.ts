/**
 * Least-cost assignment of rows to columns (Hungarian method with potentials, O(rows² · columns)).
 * `cost[row][column]` in points; every row gets a column, so there must be at least as many columns as rows.
 * Deterministic: of equal answers the one with the smaller column indexes on early rows is found first.
 */
export function leastCostMatching(cost: readonly (readonly number[])[]): number[] {
  const rows = cost.length
  const columns = cost[0]?.length ?? 0
  if (columns < rows) throw new Error(`leastCostMatching: ${rows} rows need at least as many columns, got ${columns}`)
  const rowPotential = new Array<number>(rows + 1).fill(0)
  const columnPotential = new Array<number>(columns + 1).fill(0)
  const rowOf = new Array<number>(columns + 1).fill(0)
  const from = new Array<number>(columns + 1).fill(0)
  for (let row = 1; row <= rows; row += 1) {
    rowOf[0] = row
    let column = 0
    const slack = new Array<number>(columns + 1).fill(Number.POSITIVE_INFINITY)
    const done = new Array<boolean>(columns + 1).fill(false)
    do {
      done[column] = true
      const at = rowOf[column]!
      let least = Number.POSITIVE_INFINITY
      let next = 0
      for (let one = 1; one <= columns; one += 1) {
        if (done[one]) continue
        const reduced = cost[at - 1]![one - 1]! - rowPotential[at]! - columnPotential[one]!
        if (reduced < slack[one]!) {
          slack[one] = reduced
          from[one] = column
        }
        if (slack[one]! < least) {
          least = slack[one]!
          next = one
        }
      }
      for (let one = 0; one <= columns; one += 1) {
        if (done[one]) {
          rowPotential[rowOf[one]!]! += least
          columnPotential[one]! -= least
        } else slack[one]! -= least
      }
      column = next
    } while (rowOf[column] !== 0)
    while (column !== 0) {
      const before = from[column]!
      rowOf[column] = rowOf[before]!
      column = before
    }
  }
  const answer = new Array<number>(rows).fill(-1)
  for (let column = 1; column <= columns; column += 1) if (rowOf[column]! > 0) answer[rowOf[column]! - 1] = column - 1
  return answer
}
