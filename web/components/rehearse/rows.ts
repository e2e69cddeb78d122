import type { Shown } from '../../../core/rehearse/run.ts'
import type { LineChange } from '../../../core/rehearse/stage/trace.ts'
import type { PartInstance, SignalUse, Wiring } from '../../../core/wiring/model.ts'
import type { RunData } from '../../workers/rehearsal.ts'

/** One row of the score: a line of the board, or a part that hangs behind others. */
export interface ScoreRow {
  readonly key: string
  /** End of the board's pin; undefined for a part without one. */
  readonly end: string | undefined
  readonly post: string
  readonly use: SignalUse | undefined
  readonly part: PartInstance | undefined
  readonly changes: readonly LineChange[]
  /** What the part shows, on the first of its rows. */
  readonly shown: readonly Shown[]
  /** Names of handles: of its own line, and on the part's first row those that have no line. */
  readonly handles: readonly string[]
}

/** Rows of a run, those of a part together, in the order of the plan. */
export function rowsOf(wiring: Wiring, run: RunData): ScoreRow[] {
  const order = new Map(wiring.parts.map((part, at) => [part, at]))
  const lines = run.lines.map(([end, changes]) => {
    const uses = wiring.signals.filter(({ hosts }) => hosts.some(({ host }) => host.end === end))
    const use = uses.find(({ part }) => wiring.parts.includes(part))
    const facts = wiring.terminal(end)?.boardPin
    return { end, changes, use, part: use?.part, post: facts?.label ?? facts?.id ?? end }
  })
  const place = (part: PartInstance | undefined): number => (part ? (order.get(part) ?? 0) : 1e6)
  const pin = (use: SignalUse | undefined): number =>
    use ? use.part.part.pins.findIndex(({ id }) => id === use.facts.pin) : 0
  lines.sort((a, b) => place(a.part) - place(b.part) || pin(a.use) - pin(b.use))
  const told = new Set<PartInstance>()
  const handlesOf = (part: PartInstance): string[] =>
    run.handles.filter(({ name }) => name === part.ref || name.startsWith(`${part.ref}.`)).map(({ name }) => name)
  const ownName = (use: SignalUse | undefined): string => (use ? `${use.part.ref}.${use.facts.pin}` : '')
  const named = new Set(lines.map(({ use }) => ownName(use)))
  const rows = lines.map((line): ScoreRow => {
    const { part } = line
    const isFirst = part !== undefined && !told.has(part)
    if (part) told.add(part)
    return {
      ...line,
      key: line.end,
      shown: isFirst ? (run.shown[part.ref] ?? []) : [],
      handles: part
        ? handlesOf(part).filter((name) => name === ownName(line.use) || (isFirst && !named.has(name)))
        : [],
    }
  })
  const others = wiring.parts.flatMap((part): ScoreRow[] => {
    const shown = run.shown[part.ref] ?? []
    const handles = handlesOf(part)
    if (told.has(part) || (shown.length === 0 && handles.length === 0)) return []
    return [{ key: part.ref, end: undefined, post: '', use: undefined, part, changes: [], shown, handles }]
  })
  // What calls answer that nobody has described belongs to no part.
  const answers = run.handles.filter(({ kind }) => kind === 'answer')
  return [
    ...rows,
    ...others,
    ...answers.map(
      ({ name }): ScoreRow => ({
        key: name,
        end: undefined,
        post: name,
        use: undefined,
        part: undefined,
        changes: [],
        shown: [],
        handles: [name],
      }),
    ),
  ]
}

/** How somebody wants the rows: parts at the top, in order, and parts of which one row is enough. */
export interface RowOrder {
  readonly first: readonly string[]
  readonly folded: ReadonlySet<string>
}

/** A row with what was folded into it. */
export type ArrangedRow = ScoreRow & {
  /** Rows of the same part, this one included: the first row of a part of several has a way to fold them. */
  readonly of: number
  readonly isFolded: boolean
}

/** What tells to which block a row belongs: its part, or itself. */
export const blockOf = ({ part, key }: ScoreRow): string => part?.ref ?? key

/** Rows in the order that somebody wants, those of a part together. */
export function arranged(rows: readonly ScoreRow[], { first, folded }: RowOrder): ArrangedRow[] {
  const blocks = new Map<string, ScoreRow[]>()
  for (const row of rows) blocks.set(blockOf(row), [...(blocks.get(blockOf(row)) ?? []), row])
  const order = [...first.filter((one) => blocks.has(one)), ...[...blocks.keys()].filter((one) => !first.includes(one))]
  return order.flatMap((block): ArrangedRow[] => {
    const own = blocks.get(block)!
    const [head, ...rest] = own
    const isFolded = folded.has(block) && rest.length > 0
    // What can be moved of a folded part stays at hand.
    const handles = isFolded ? own.flatMap((row) => row.handles) : head!.handles
    const top = { ...head!, handles, of: own.length, isFolded }
    return isFolded ? [top] : [top, ...rest.map((row) => ({ ...row, of: 0, isFolded: false }))]
  })
}

/** Something happens on it in this run, or something can be moved. */
export const isLively = ({ changes, shown, handles }: ScoreRow): boolean =>
  changes.length > 1 || shown.length > 1 || handles.length > 0 || changes.some(({ is }) => typeof is === 'object')

/** The last of what was so at a moment, in microseconds. */
export function lastAt<T extends { readonly at: number }>(all: readonly T[], at: number): T | undefined {
  let [low, high] = [0, all.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (all[middle]!.at <= at) low = middle + 1
    else high = middle
  }
  return all[low - 1]
}

/** Breadth and height of a strip in its own units, and where high and low lie. */
export const STRIP = { width: 1000, height: 40, high: 8, low: 32 } as const

/** Steps of a line that are drawn one by one; where more would lie in one stripe, the stripe is filled. */
const MOST_EDGES = 1500

/** A line between two moments as paths: what is sure, what floats, and stretches in which it is in motion. */
export function stripOf(
  changes: readonly LineChange[],
  from: number,
  to: number,
): { readonly line: string; readonly loose: string; readonly motion: readonly (readonly [number, number])[] } {
  const x = (at: number): number => ((Math.min(to, Math.max(from, at)) - from) / (to - from)) * STRIP.width
  const round = (value: number): string => value.toFixed(1)
  const inside = changes.filter(({ at }) => at > from && at < to)
  const first = lastAt(changes, from)
  const all = first ? [{ ...first, at: from }, ...inside] : inside
  const motion: [number, number][] = []
  let line = ''
  let loose = ''
  let pen: { x: number; y: number } | undefined
  const dense = all.length > MOST_EDGES
  let busyFrom = -1
  let busyTo = -1
  all.forEach(({ at, is }, index) => {
    const end = all[index + 1]?.at ?? to
    const [x1, x2] = [x(at), x(end)]
    if (typeof is === 'object') {
      motion.push([x1, x2])
      pen = undefined
      return
    }
    if (is === 'z') {
      loose += `M${round(x1)} 20H${round(x2)}`
      pen = undefined
      return
    }
    if (dense && x2 - x1 < 0.6) {
      if (busyFrom >= 0 && x1 <= busyTo + 0.6) busyTo = x2
      else {
        if (busyFrom >= 0) motion.push([busyFrom, busyTo])
        busyFrom = x1
        busyTo = x2
      }
      pen = undefined
      return
    }
    const y = is === '1' ? STRIP.high : STRIP.low
    line += pen ? `V${y}H${round(x2)}` : `M${round(x1)} ${y}H${round(x2)}`
    pen = { x: x2, y }
  })
  if (busyFrom >= 0) motion.push([busyFrom, busyTo])
  return { line, loose, motion }
}

/** Moments at which lines of the paper are ruled: at most about ten. */
export function ruledAt(from: number, to: number): number[] {
  const span = to - from
  const rough = span / 10
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map((one) => one * power).find((one) => one >= rough) ?? rough
  const found: number[] = []
  for (let at = Math.ceil(from / step) * step; at < to; at += step) found.push(at)
  return found
}

/** A moment as a clock shows it: `00:01.250`. */
export function clockWords(microseconds: number): string {
  const seconds = microseconds / 1e6
  const minutes = Math.floor(seconds / 60)
  return `${String(minutes).padStart(2, '0')}:${(seconds - minutes * 60).toFixed(3).padStart(6, '0')}`
}
