/** A resistor between two nodes, in ohms. */
export interface Branch {
  readonly a: number
  readonly b: number
  readonly ohms: number
}

/**
 * Node voltages of a small resistive network: nodal analysis with Gaussian elimination.
 * `fixed` holds nodes at a voltage. A node that no branch ties to a fixed one is absent from the result.
 */
export function solveNetwork(branches: readonly Branch[], fixed: ReadonlyMap<number, number>): Map<number, number> {
  const volts = new Map(fixed)
  const neighbours = new Map<number, Branch[]>()
  for (const branch of branches)
    for (const node of [branch.a, branch.b]) {
      const known = neighbours.get(node)
      if (known) known.push(branch)
      else neighbours.set(node, [branch])
    }
  // Only nodes that reach a fixed node have a voltage.
  const reached = new Set<number>()
  const queue = [...fixed.keys()]
  for (let node = queue.pop(); node !== undefined; node = queue.pop())
    for (const { a, b } of neighbours.get(node) ?? []) {
      const other = a === node ? b : a
      if (fixed.has(other) || reached.has(other)) continue
      reached.add(other)
      queue.push(other)
    }
  const unknown = [...reached]
  const column = new Map(unknown.map((node, index) => [node, index]))
  const matrix = unknown.map((node) => {
    const row = new Array<number>(unknown.length + 1).fill(0)
    for (const { a, b, ohms } of neighbours.get(node) ?? []) {
      const other = a === node ? b : a
      if (other === node) continue
      const siemens = 1 / Math.max(ohms, 1e-3)
      row[column.get(node)!]! += siemens
      const at = column.get(other)
      if (at === undefined) row[unknown.length]! += siemens * fixed.get(other)!
      else row[at]! -= siemens
    }
    return row
  })
  eliminate(matrix)
  unknown.forEach((node, index) => {
    volts.set(node, matrix[index]![unknown.length]!)
  })
  return volts
}

/** Solves in place; every row ends as a unit row with its answer in the last column. */
function eliminate(matrix: number[][]): void {
  const size = matrix.length
  for (let pivot = 0; pivot < size; pivot += 1) {
    let best = pivot
    for (let row = pivot + 1; row < size; row += 1)
      if (Math.abs(matrix[row]![pivot]!) > Math.abs(matrix[best]![pivot]!)) best = row
    ;[matrix[pivot], matrix[best]] = [matrix[best]!, matrix[pivot]!]
    const head = matrix[pivot]!
    const scale = head[pivot]!
    for (let at = pivot; at <= size; at += 1) head[at]! /= scale
    for (let row = 0; row < size; row += 1) {
      if (row === pivot) continue
      const factor = matrix[row]![pivot]!
      if (factor !== 0) for (let at = pivot; at <= size; at += 1) matrix[row]![at]! -= factor * head[at]!
    }
  }
}
