/**
 * Reads the printed tables as a person at the workbench would: rows of the wiring table, legs in their holes, and what
 * a breadboard joins by itself. It shares no code with the layout, so that one can be held to the other.
 */

/** Rows of a CSV text (RFC 4180) by their column titles. */
export function readCsv(text: string): Record<string, string>[] {
  const cells: string[][] = [[]]
  const pattern = /(?:"((?:[^"]|"")*)"|([^",\r\n]*))(,|\r\n|$)/gy
  for (let match = pattern.exec(text); match && pattern.lastIndex <= text.length; match = pattern.exec(text)) {
    cells.at(-1)!.push(match[1] === undefined ? match[2]! : match[1].replaceAll('""', '"'))
    if (match[3] === '\r\n') cells.push([])
    if (match[3] === '') break
  }
  const [titles, ...rows] = cells.filter((row) => row.some((cell) => cell !== ''))
  return rows.map((row) => Object.fromEntries(titles!.map((title, at) => [title, row[at] ?? ''])))
}

/** What a breadboard joins: five holes of a half-row, a rail, and half a rail where rails are cut. */
export function metalOf(hole: string, cutAt: (breadboard: string) => number | undefined): string {
  const match = /^(.*)\.([a-j]|[LR][+-])(\d+)$/.exec(hole)
  if (!match) return hole
  const [, breadboard, column, row] = match as unknown as [string, string, string, string]
  if (column.length === 1) return `${breadboard} ${'abcde'.includes(column) ? 'left' : 'right'} ${row}`
  const cut = cutAt(breadboard)
  return `${breadboard} ${column} ${cut !== undefined && Number(row) >= cut ? 'below' : 'above'}`
}

/** Groups of things that hang together. */
export class Pieces {
  readonly #root = new Map<string, string>()

  find(one: string): string {
    let at = one
    while ((this.#root.get(at) ?? at) !== at) at = this.#root.get(at)!
    return at
  }

  join(a: string, b: string): void {
    this.#root.set(this.find(a), this.find(b))
  }
}

/** One wire of the table: where its two ends go, as metal or as a bare pin. */
export interface ReadWire {
  readonly step: number
  readonly a: string
  readonly b: string
  readonly holes: readonly string[]
}

export function readWires(csv: string, cutAt: (breadboard: string) => number | undefined): ReadWire[] {
  return readCsv(csv).map((row) => ({
    step: Number(row.Step),
    a: metalOf(row['From hole'] || row.From!, cutAt),
    b: metalOf(row['To hole'] || row.To!, cutAt),
    holes: [row['From hole']!, row['To hole']!].filter((hole) => hole !== ''),
  }))
}

export const readLegs = (csv: string): { end: string; hole: string }[] =>
  readCsv(csv).map((row) => ({ end: row.Leg!, hole: row.Hole! }))
