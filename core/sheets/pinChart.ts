import { counted } from '../text/counted.ts'
import { busNeed } from '../wiring/buses.ts'
import type { BoardInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { escapeText } from './escape.ts'
import { layoutPosts, type PostLine } from './postLayout.ts'

const ROW = 24
const WIDTH = 860
const BODY = { x: 320, width: 220 }

/** Pin charts of all boards of a plan, one below the other: every post with its names and the flags that hang on it. */
export function writePinChart(wiring: Wiring): string {
  const charts: string[] = []
  let top = 12
  for (const board of wiring.boards) {
    const { left, right } = layoutPosts(board.facts)
    const rows = Math.max(left.length, right.length)
    charts.push(`<g transform="translate(0 ${top})">${chart(wiring, board, left, right, rows)}</g>`)
    top += rows * ROW + 70
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${top}" viewBox="0 0 ${WIDTH} ${top}" font-family="'Spline Sans Mono', monospace" font-size="13"><title>${escapeText(wiring.plan.title)}</title>${charts.join('')}</svg>\n`
}

function chart(
  wiring: Wiring,
  board: BoardInstance,
  left: readonly PostLine[],
  right: readonly PostLine[],
  rows: number,
): string {
  const body = `<text x="${BODY.x}" y="16" font-weight="700" font-size="15">${escapeText(board.ref)} · ${escapeText(board.title)}</text><rect x="${BODY.x}" y="28" width="${BODY.width}" height="${rows * ROW + 12}" fill="none" stroke="#16130d" stroke-width="1.5"/>`
  const side = (lines: readonly PostLine[], way: 'left' | 'right'): string =>
    lines
      .map((line, index) => {
        const y = 34 + index * ROW + ROW / 2
        const inner = way === 'left' ? BODY.x + 8 : BODY.x + BODY.width - 8
        const anchor = way === 'left' ? 'start' : 'end'
        if (line.kind === 'title')
          return `<text x="${inner}" y="${y + 4}" text-anchor="${anchor}" font-size="11" fill="#5d564b">${escapeText(line.text)}</text>`
        const name = [line.pin.label, line.pin.id]
          .filter((one, at, all) => one !== undefined && all.indexOf(one) === at)
          .join(' · ')
        const outer = way === 'left' ? BODY.x - 8 : BODY.x + BODY.width + 8
        const flags = flagText(wiring, `${board.ref}.${line.pin.id}`)
        return `<text x="${inner}" y="${y + 4}" text-anchor="${anchor}">${escapeText(name)}</text><path d="M${way === 'left' ? BODY.x : BODY.x + BODY.width} ${y}h${way === 'left' ? -6 : 6}" stroke="#16130d"/><text x="${outer}" y="${y + 4}" text-anchor="${way === 'left' ? 'end' : 'start'}" font-weight="600">${escapeText(flags)}</text>`
      })
      .join('')
  return body + side(left, 'left') + side(right, 'right')
}

/** What hangs on a post, in a few words. */
export function flagText(wiring: Wiring, end: string): string {
  const terminal = wiring.terminal(end)
  const uses =
    terminal?.host?.end === end
      ? wiring.signals.filter((use) => use.hosts.some(({ host }) => host === terminal.host))
      : []
  return flagLabel(uses)
}

/** What stands on the flag of a post: the signal, or how many share it. */
export function flagLabel(uses: readonly SignalUse[]): string {
  const first = uses[0]
  if (!first) return ''
  if (uses.length === 1) return `${first.part.ref} ${first.facts.pin}`
  const bus = busNeed(first.facts.needs)
  return bus
    ? `${counted(uses.length, 'part')} ${bus.signal.toUpperCase()}`
    : uses.map((use) => `${use.part.ref} ${use.facts.pin}`).join(' + ')
}
