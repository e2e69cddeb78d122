import type { Host } from '../wiring/model.ts'
import type { Choice } from './judged.ts'
import { Matching, NONE, type Row } from './matching.ts'
import type { Claim, SearchProblem } from './searchProblem.ts'

/** Lines matched to pins at least cost. */
export interface Matched {
  readonly lines: readonly Claim[]
  readonly matching: Matching
}

export interface Pick {
  readonly line: Claim
  readonly host: Host | undefined
}

/**
 * The pins of a problem as columns of a matching. Pins of expanders that no line can tell apart are one column that
 * takes as many lines as there are pins; a pin of a board is a column of its own, since timers, interrupt lines and
 * groups tell it from others.
 */
export class PinTable {
  readonly #columnOf = new Map<Host, number>()
  readonly #hosts: Host[][] = []
  readonly #rows = new Map<readonly Choice[], Row>()
  readonly #shapes = new Map<readonly Choice[], number>()
  readonly #shapeIds = new Map<string, number>()
  readonly #singles: readonly Claim[]
  readonly #base: Matching
  /** How many lines each column takes. */
  readonly capacity: readonly number[]
  /** Rows of the single signals, and how many signals each is the row of. */
  readonly singleRows: readonly { readonly row: Row; readonly times: number }[]

  constructor(problem: SearchProblem) {
    this.#singles = problem.singles
    this.#findColumns(everyChoice(problem), [...problem.wiring.hosts.values()])
    this.capacity = this.#hosts.map((hosts) => hosts.length)
    this.#base = Matching.empty(this.capacity)
    const times = new Map<Row, number>()
    for (const line of problem.singles) {
      const row = this.row(line)
      times.set(row, (times.get(row) ?? 0) + 1)
      this.#base.add(row)
    }
    this.singleRows = [...times].map(([row, count]) => ({ row, times: count }))
  }

  #findColumns(all: ReadonlySet<readonly Choice[]>, hosts: readonly Host[]): void {
    // Pins of expanders fall apart list by list, where one is in it and the other is not, or at other points.
    const kinds = new Map<Host, number>()
    let number = 0
    for (const choices of all) {
      const split = new Map<number, Map<number, number>>()
      for (const { host, extra } of choices) {
        if (host.board) {
          kinds.set(host, -1)
          continue
        }
        const kind = kinds.get(host) ?? 0
        const byPoints = split.get(kind) ?? new Map<number, number>()
        split.set(kind, byPoints)
        let next = byPoints.get(extra)
        if (next === undefined) {
          number += 1
          next = number
          byPoints.set(extra, next)
        }
        kinds.set(host, next)
      }
    }
    const byKind = new Map<number, number>()
    for (const host of hosts) {
      const kind = kinds.get(host)
      if (kind === undefined) continue
      const column = (host.board ? undefined : byKind.get(kind)) ?? this.#hosts.push([]) - 1
      if (!host.board) byKind.set(kind, column)
      this.#columnOf.set(host, column)
      this.#hosts[column]?.push(host)
    }
  }

  row(line: Claim): Row {
    let row = this.#rows.get(line.choices)
    if (!row) {
      const costs = new Float64Array(this.#hosts.length).fill(Number.POSITIVE_INFINITY)
      for (const { host, extra } of line.choices) costs[this.#columnOf.get(host) as number] = extra
      row = { costs, none: line.none }
      this.#rows.set(line.choices, row)
    }
    return row
  }

  /** The same for lines that the matching cannot tell apart. */
  shapeOf({ choices }: Claim): number {
    let shape = this.#shapes.get(choices)
    if (shape === undefined) {
      const text = choices.map(({ host, extra }) => `${host.end} ${extra}`).join(', ')
      shape = this.#shapeIds.get(text) ?? this.#shapeIds.size
      this.#shapeIds.set(text, shape)
      this.#shapes.set(choices, shape)
    }
    return shape
  }

  /** Pins for the single signals, which are matched once, and these lines together. */
  match(lines: readonly Claim[]): Matched {
    return this.#matched(this.#base.copy(), lines, [...this.#singles, ...lines])
  }

  /** Pins for what was matched, and these lines besides. */
  matchMore({ lines, matching }: Matched, more: readonly Claim[]): Matched {
    return this.#matched(matching.copy(), more, [...lines, ...more])
  }

  /** The same for changed single signals. */
  matchAll(lines: readonly Claim[]): Matched {
    return this.#matched(Matching.empty(this.capacity), lines, lines)
  }

  #matched(matching: Matching, add: readonly Claim[], lines: readonly Claim[]): Matched {
    for (const line of add) matching.add(this.row(line))
    return { lines, matching }
  }

  /** The pin of each line. Of pins in one column the earlier ones go to the earlier lines. */
  picks({ lines, matching }: Matched): Pick[] {
    const next = new Int32Array(this.#hosts.length)
    const columns = matching.columns()
    return lines.map((line, index) => {
      const column = columns[index] as number
      if (column === NONE) return { line, host: undefined }
      const host = this.#hosts[column]?.[next[column] as number]
      next[column] = (next[column] as number) + 1
      return { line, host }
    })
  }
}

/** Every list of choices of a problem, once. */
function everyChoice(problem: SearchProblem): Set<readonly Choice[]> {
  const all = new Set<readonly Choice[]>(problem.singles.map((line) => line.choices))
  for (const task of problem.tasks)
    for (const lane of problem.lanesFor(task)) for (const use of task.uses) all.add(problem.choicesOn(lane, use))
  return all
}
