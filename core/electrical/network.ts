/**
 * Steady voltages and currents of a small network of resistors, diodes and held nodes: nodal analysis, with each diode
 * either an open circuit or a fixed drop in series with a small resistance. Diodes change sides one at a time until
 * none is on the wrong one.
 */

/** Between two nodes: a resistor of `ohms`, or with `drop` a diode that conducts from `a` to `b` above so many volts. */
export interface Branch {
  readonly a: number
  readonly b: number
  readonly ohms: number
  readonly drop?: number
}

export interface Solution {
  /** Volts by node. A node that nothing ties to a held one is absent. */
  readonly volts: ReadonlyMap<number, number>
  /** Amperes from `a` to `b`, in the order of the branches. */
  readonly amps: readonly number[]
  /** False when the diodes found no rest within the steps allowed; the last try is given. */
  readonly settled: boolean
}

/** Least resistance of a branch in ohms: a piece of wire. */
export const WIRE_OHMS = 0.01
/** Conductance that ties a floating node to 0 V so that it has an answer to be taken away again, in siemens: 10 GΩ. */
const LEAK = 1e-10
const MOST_STEPS = 60
/** Volts and amperes by which a diode must be on the wrong side before it changes. */
const SLACK_VOLTS = 1e-6
const SLACK_AMPS = 1e-10

export function solve(branches: readonly Branch[], held: ReadonlyMap<number, number>): Solution {
  const column = new Map<number, number>()
  const nodes: number[] = []
  for (const { a, b } of branches)
    for (const node of [a, b])
      if (!held.has(node) && !column.has(node)) {
        column.set(node, nodes.length)
        nodes.push(node)
      }
  const conducts = branches.map(({ drop }) => drop === undefined)
  let settled = false
  let volts: number[] = []
  let tied: ReadonlySet<number> = new Set()
  const at = (node: number): number => held.get(node) ?? volts[column.get(node) as number] ?? 0
  for (let step = 0; step < MOST_STEPS && !settled; step += 1) {
    tied = tiedNodes(branches, conducts, held)
    volts = nodal({ branches, conducts, held, column, tied })
    let worst = -1
    let most = 0
    branches.forEach(({ a, b, ohms, drop }, index) => {
      if (drop === undefined) return
      const over = at(a) - at(b) - drop
      const wrong = conducts[index] ? -over / Math.max(ohms, WIRE_OHMS) - SLACK_AMPS : over - SLACK_VOLTS
      if (wrong > 0 && (worst < 0 || wrong > most)) {
        worst = index
        most = wrong
      }
    })
    if (worst < 0) settled = true
    else conducts[worst] = !conducts[worst]
  }
  const known = new Map(held)
  for (const node of nodes) if (tied.has(node)) known.set(node, at(node))
  return {
    volts: known,
    amps: branches.map(({ a, b, ohms, drop = 0 }, index) =>
      conducts[index] && tied.has(a) && tied.has(b) ? (at(a) - at(b) - drop) / Math.max(ohms, WIRE_OHMS) : 0,
    ),
    settled,
  }
}

/** Nodes that hang on a held one through what conducts. */
function tiedNodes(
  branches: readonly Branch[],
  conducts: readonly boolean[],
  held: ReadonlyMap<number, number>,
): ReadonlySet<number> {
  const tied = new Set(held.keys())
  for (let grew = true; grew; ) {
    grew = false
    branches.forEach(({ a, b }, index) => {
      if (!conducts[index] || tied.has(a) === tied.has(b)) return
      tied.add(a).add(b)
      grew = true
    })
  }
  return tied
}

interface Nodal {
  readonly branches: readonly Branch[]
  readonly conducts: readonly boolean[]
  readonly held: ReadonlyMap<number, number>
  readonly column: ReadonlyMap<number, number>
  readonly tied: ReadonlySet<number>
}

/** Volts of the free nodes, by column, with each diode as it is given. */
function nodal({ branches, conducts, held, column, tied }: Nodal): number[] {
  const size = column.size
  const rows = [...column.keys()].map((node, row) => {
    const empty = new Float64Array(size + 1)
    if (!tied.has(node)) empty[row] = LEAK
    return empty
  })
  branches.forEach(({ a, b, ohms, drop = 0 }, index) => {
    if (!conducts[index] || a === b) return
    const siemens = 1 / Math.max(ohms, WIRE_OHMS)
    const [rowA, rowB] = [column.get(a), column.get(b)]
    stamp(rows, rowA, rowB, siemens, (held.get(b) ?? 0) * siemens + drop * siemens)
    stamp(rows, rowB, rowA, siemens, (held.get(a) ?? 0) * siemens - drop * siemens)
  })
  return eliminate(rows)
}

/** Adds a branch to the row of one of its nodes: what it takes out, and what the other end and its drop put in. */
function stamp(
  rows: readonly Float64Array[],
  row: number | undefined,
  other: number | undefined,
  siemens: number,
  amps: number,
): void {
  const mine = row === undefined ? undefined : rows[row]
  if (!mine || row === undefined) return
  mine[row] = (mine[row] ?? 0) + siemens
  if (other !== undefined) mine[other] = (mine[other] ?? 0) - siemens
  mine[rows.length] = (mine[rows.length] ?? 0) + amps
}

/** Gaussian elimination with partial pivoting; every row has its right side last. */
function eliminate(rows: Float64Array[]): number[] {
  const size = rows.length
  for (let pivot = 0; pivot < size; pivot += 1) {
    let best = pivot
    for (let row = pivot + 1; row < size; row += 1)
      if (Math.abs(rows[row]![pivot]!) > Math.abs(rows[best]![pivot]!)) best = row
    ;[rows[pivot], rows[best]] = [rows[best]!, rows[pivot]!]
    const head = rows[pivot]!
    for (let row = pivot + 1; row < size; row += 1) {
      const line = rows[row]!
      const factor = line[pivot]! / head[pivot]!
      if (factor === 0) continue
      for (let at = pivot; at <= size; at += 1) line[at] = line[at]! - factor * head[at]!
    }
  }
  const answer = new Array<number>(size).fill(0)
  for (let row = size - 1; row >= 0; row -= 1) {
    const line = rows[row]!
    let sum = line[size]!
    for (let at = row + 1; at < size; at += 1) sum -= line[at]! * answer[at]!
    answer[row] = sum / line[row]!
  }
  return answer
}
