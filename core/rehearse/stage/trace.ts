/** What a line does: low, high, floats, or pulses by itself with a share of time high. */
export type LineState = '0' | '1' | 'z' | { readonly duty: number; readonly hertz: number | undefined }

export interface LineChange {
  /** Microseconds from power-on. */
  readonly at: number
  readonly is: LineState
}

/** Changes of lines over time, each line by its board end. */
export class Trace {
  readonly lines = new Map<string, LineChange[]>()
  /** Changes beyond which the oldest of a line are let go. */
  static readonly MOST = 200_000

  put(end: string, at: number, is: LineState): void {
    let line = this.lines.get(end)
    if (!line) {
      line = []
      this.lines.set(end, line)
    }
    const last = line.at(-1)
    if (last && same(last.is, is)) return
    // What changes twice at one moment was never seen in between.
    if (last && last.at === at) line.pop()
    line.push({ at, is })
    if (line.length > Trace.MOST) line.shift()
  }
}

const same = (a: LineState, b: LineState): boolean =>
  typeof a === 'object' && typeof b === 'object' ? a.duty === b.duty && a.hertz === b.hertz : a === b

/**
 * Lines as a value change dump (IEEE 1364, clause 18), a microsecond a step; what pulses by itself is written as it
 * would be seen, edge by edge, as long as that stays readable.
 */
export function writeVcd(trace: Trace, until: number): string {
  const lines = [...trace.lines]
  const idOf = (index: number): string => {
    let id = ''
    for (let rest = index; ; rest = Math.floor(rest / 90) - 1) {
      id += String.fromCharCode(35 + (rest % 90))
      if (rest < 90) return id
    }
  }
  const events: { at: number; text: string }[] = []
  lines.forEach(([, changes], index) => {
    const id = idOf(index)
    changes.forEach(({ at, is }, place) => {
      if (typeof is !== 'object') {
        events.push({ at: Math.round(at), text: `${is}${id}` })
        return
      }
      const end = changes[place + 1]?.at ?? until
      const period = 1e6 / (is.hertz ?? 1000)
      if (is.duty <= 0 || is.duty >= 1) {
        events.push({ at: Math.round(at), text: `${is.duty >= 1 ? 1 : 0}${id}` })
        return
      }
      const cycles = Math.min(2000, Math.ceil((end - at) / period))
      for (let cycle = 0; cycle < cycles; cycle += 1) {
        const from = at + cycle * period
        events.push({ at: Math.round(from), text: `1${id}` })
        if (from + period * is.duty < end) events.push({ at: Math.round(from + period * is.duty), text: `0${id}` })
      }
    })
  })
  events.sort((a, b) => a.at - b.at)
  const head = [
    '$timescale 1us $end',
    '$scope module board $end',
    ...lines.map(([end], index) => `$var wire 1 ${idOf(index)} ${end.replace(/[^\w.]/g, '_')} $end`),
    '$upscope $end',
    '$enddefinitions $end',
    '$dumpvars',
    ...lines.map((_, index) => `x${idOf(index)}`),
    '$end',
  ]
  const body: string[] = []
  let now = -1
  for (const { at, text } of events) {
    if (at !== now) body.push(`#${at}`)
    now = at
    body.push(text)
  }
  body.push(`#${Math.round(until)}`)
  return `${[...head, ...body].join('\n')}\n`
}
