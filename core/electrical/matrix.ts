/** Rows and columns of a key matrix with the fewest pins for so many keys: least r + c with r · c not below n. */
export function matrixSize(keys: number): { rows: number; columns: number; pins: number } {
  let best = { rows: 1, columns: keys, pins: keys + 1 }
  for (let rows = 1; rows <= Math.ceil(Math.sqrt(keys)); rows += 1) {
    const columns = Math.ceil(keys / rows)
    if (rows + columns < best.pins) best = { rows, columns, pins: rows + columns }
  }
  return best
}
