/**
 * A second solver, written to be unlike the one of `core/circuit`: it knows no islands and no stepping of diodes. Every
 * combination of drivers, contacts and diode states is tried; of the diode states the one counts that contradicts
 * nothing. Voltages come from one dense system in which each diode that conducts is an unknown current of its own.
 */
export interface Known {
  readonly ohms?: number
  /** Diode from `a` to `b`, with so many volts while it conducts, and so many ohms on top. */
  readonly drop?: number
  readonly slope?: number
  readonly contact?: boolean
}

interface Leg extends Known {
  readonly a: string
  readonly b: string
}

interface Driver {
  readonly node: string
  readonly high: number
  readonly ohms: number
  /** Of these at most one drives at a time, and each may let go. */
  readonly turns: boolean
}

export interface Range {
  most: number
  least: number
}

export function trueStates(
  legs: readonly Leg[],
  rails: Readonly<Record<string, number>>,
  drivers: readonly Driver[],
): { readonly volts: Map<string, Range>; readonly amps: (Range | undefined)[] } {
  const volts = new Map<string, Range>()
  const amps: (Range | undefined)[] = legs.map(() => undefined)
  const widen = (range: Range | undefined, value: number): Range => ({
    most: Math.max(range?.most ?? value, value),
    least: Math.min(range?.least ?? value, value),
  })
  for (const driven of drives(drivers))
    for (const closed of subsets(legs.filter((one) => one.contact).length)) {
      const solved = settle(legs, closed, rails, driven)
      if (!solved) continue
      for (const [node, value] of solved.volts) volts.set(node, widen(volts.get(node), value))
      solved.amps.forEach((value, index) => {
        amps[index] = widen(amps[index], value)
      })
    }
  return { volts, amps }
}

/** Everything that the drivers can do: all let go, or each of the steady ones high or low and at most one of the rest. */
function drives(drivers: readonly Driver[]): { node: string; volts: number; ohms: number }[][] {
  const steady = drivers.filter((one) => !one.turns)
  const turning = drivers.filter((one) => one.turns)
  const at = (one: Driver, high: boolean) => ({ node: one.node, volts: high ? one.high : 0, ohms: one.ohms })
  const alone = [[], ...turning.flatMap((one) => [[at(one, true)], [at(one, false)]])]
  const sets = subsets(steady.length).map((high) => steady.map((one, index) => at(one, high[index] as boolean)))
  return [...alone, ...sets.flatMap((set) => alone.map((other) => [...set, ...other]))]
}

const subsets = (count: number): boolean[][] =>
  Array.from({ length: 2 ** count }, (_, bits) => Array.from({ length: count }, (_, at) => ((bits >> at) & 1) === 1))

function settle(
  legs: readonly Leg[],
  closed: readonly boolean[],
  rails: Readonly<Record<string, number>>,
  driven: readonly { node: string; volts: number; ohms: number }[],
): { volts: Map<string, number>; amps: number[] } | undefined {
  const diodes = legs.flatMap((leg, index) => (leg.drop === undefined ? [] : [index]))
  for (const on of subsets(diodes.length)) {
    const conducting = new Set(diodes.filter((_, at) => on[at]))
    const solved = dense(legs, closed, rails, driven, conducting)
    if (!solved) continue
    const right = diodes.every((index) => {
      const { a, b, drop } = legs[index] as Leg
      if (conducting.has(index)) return (solved.amps[index] as number) >= -1e-12
      return (solved.all.get(a) ?? 0) - (solved.all.get(b) ?? 0) <= (drop as number) + 1e-6
    })
    if (right) return solved
  }
  return undefined
}

/** Volts and currents with the conducting diodes given; undefined where the system has no answer. */
function dense(
  legs: readonly Leg[],
  closed: readonly boolean[],
  rails: Readonly<Record<string, number>>,
  driven: readonly { node: string; volts: number; ohms: number }[],
  conducting: ReadonlySet<number>,
): { volts: Map<string, number>; all: Map<string, number>; amps: number[] } | undefined {
  const nodes = [...new Set(legs.flatMap(({ a, b }) => [a, b]))]
  const sources = legs.flatMap((_, index) => (conducting.has(index) ? [index] : []))
  const size = nodes.length + sources.length
  const matrix = Array.from({ length: size }, () => new Array<number>(size).fill(0))
  const right = new Array<number>(size).fill(0)
  const add = (row: number, column: number, value: number): void => {
    matrix[row]![column] = matrix[row]![column]! + value
  }
  const conduct = (a: number, b: number, ohms: number): void => {
    add(a, a, 1 / ohms)
    add(b, b, 1 / ohms)
    add(a, b, -1 / ohms)
    add(b, a, -1 / ohms)
  }
  let contact = -1
  const ohmsOf = legs.map((leg) => {
    if (leg.contact) contact += 1
    return leg.contact ? (closed[contact] ? 0.01 : undefined) : leg.ohms
  })
  legs.forEach((leg, index) => {
    const ohms = ohmsOf[index]
    if (ohms !== undefined) conduct(nodes.indexOf(leg.a), nodes.indexOf(leg.b), ohms)
  })
  sources.forEach((index, at) => {
    const { a, b, drop, slope = 0.01 } = legs[index] as Leg
    const row = nodes.length + at
    const [from, to] = [nodes.indexOf(a), nodes.indexOf(b)]
    add(from, row, 1)
    add(to, row, -1)
    add(row, from, 1)
    add(row, to, -1)
    add(row, row, -slope)
    right[row] = drop as number
  })
  for (const { node, volts, ohms } of driven) {
    const at = nodes.indexOf(node)
    if (at < 0) continue
    add(at, at, 1 / ohms)
    right[at] = right[at]! + volts / ohms
  }
  nodes.forEach((node, at) => {
    const held = rails[node]
    add(at, at, 1e-10)
    if (held === undefined) return
    matrix[at] = matrix[at]!.map((_, column) => (column === at ? 1 : 0))
    right[at] = held
  })
  const answer = eliminated(matrix, right)
  if (!answer) return undefined
  const all = new Map(nodes.map((node, at) => [node, answer[at] as number]))
  const tied = tiedTo(legs, ohmsOf, conducting, [...Object.keys(rails), ...driven.map(({ node }) => node)])
  const amps = legs.map((leg, index) => {
    const source = sources.indexOf(index)
    if (source >= 0) return answer[nodes.length + source] as number
    const ohms = ohmsOf[index]
    return ohms === undefined ? 0 : ((all.get(leg.a) as number) - (all.get(leg.b) as number)) / ohms
  })
  return { volts: new Map([...all].filter(([node]) => tied.has(node))), all, amps }
}

function tiedTo(
  legs: readonly Leg[],
  ohmsOf: readonly (number | undefined)[],
  conducting: ReadonlySet<number>,
  held: readonly string[],
): Set<string> {
  const tied = new Set(held)
  for (let before = -1; before !== tied.size; ) {
    before = tied.size
    legs.forEach(({ a, b }, index) => {
      if (ohmsOf[index] === undefined && !conducting.has(index)) return
      if (tied.has(a)) tied.add(b)
      if (tied.has(b)) tied.add(a)
    })
  }
  return tied
}

/** Gauss-Jordan with pivoting of rows; undefined for a singular system. */
function eliminated(given: readonly (readonly number[])[], right: readonly number[]): number[] | undefined {
  const rows = given.map((row, at) => [...row, right[at] as number])
  const size = rows.length
  for (let column = 0; column < size; column += 1) {
    const pivot = rows
      .slice(column)
      .reduce((best, row, at) => (Math.abs(row[column]!) > Math.abs(rows[best]![column]!) ? at + column : best), column)
    const head = rows[pivot] as number[]
    if (Math.abs(head[column]!) < 1e-14) return undefined
    rows[pivot] = rows[column] as number[]
    rows[column] = head.map((value) => value / (head[column] as number))
    for (let at = 0; at < size; at += 1) {
      if (at === column) continue
      const factor = rows[at]![column]!
      if (factor !== 0) rows[at] = rows[at]!.map((value, index) => value - factor * rows[column]![index]!)
    }
  }
  return rows.map((row) => row[size] as number)
}
