import { counted } from '../base/counted.ts'
import { palette } from '../base/palette.ts'
import { busNeed } from '../wiring/buses.ts'
import type { BoardInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { type Markup, markup } from './markup.ts'
import { layoutPosts, type PostLine } from './postLayout.ts'

const { print } = palette

const ROW = 24
const WIDTH = 860
const BODY = { x: 320, width: 220 }

/** Pin charts of all boards of a plan, one below the other: every post with its names and the flags that hang on it. */
export function writePinChart(wiring: Wiring): Markup {
  const charts: Markup[] = []
  let top = 12
  for (const board of wiring.boards) {
    const { left, right } = layoutPosts(board.facts)
    const rows = Math.max(left.length, right.length)
    charts.push(markup`<g transform="translate(0 ${top})">${chart(wiring, board, left, right, rows)}</g>`)
    top += rows * ROW + 70
  }
  return markup`<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${top}" viewBox="0 0 ${WIDTH} ${top}" font-family="'Spline Sans Mono', monospace" font-size="13"><title>${wiring.plan.title}</title>${charts}</svg>\n`
}

function chart(
  wiring: Wiring,
  board: BoardInstance,
  left: readonly PostLine[],
  right: readonly PostLine[],
  rows: number,
): Markup {
  const body = markup`<text x="${BODY.x}" y="16" font-weight="700" font-size="15">${board.ref} · ${board.title}</text><rect x="${BODY.x}" y="28" width="${BODY.width}" height="${rows * ROW + 12}" fill="none" stroke="${print.ink}" stroke-width="1.5"/>`
  const side = (lines: readonly PostLine[], way: 'left' | 'right'): Markup[] =>
    lines.map((line, index) => {
      const y = 34 + index * ROW + ROW / 2
      const inner = way === 'left' ? BODY.x + 8 : BODY.x + BODY.width - 8
      const anchor = way === 'left' ? 'start' : 'end'
      if (line.kind === 'title')
        return markup`<text x="${inner}" y="${y + 4}" text-anchor="${anchor}" font-size="11" fill="${print.soft}">${line.text}</text>`
      const name = [line.pin.label, line.pin.id]
        .filter((one, at, all) => one !== undefined && all.indexOf(one) === at)
        .join(' · ')
      const outer = way === 'left' ? BODY.x - 8 : BODY.x + BODY.width + 8
      const flags = flagText(wiring, `${board.ref}.${line.pin.id}`)
      return markup`<text x="${inner}" y="${y + 4}" text-anchor="${anchor}">${name}</text><path d="M${way === 'left' ? BODY.x : BODY.x + BODY.width} ${y}h${way === 'left' ? -6 : 6}" stroke="${print.ink}"/><text x="${outer}" y="${y + 4}" text-anchor="${way === 'left' ? 'end' : 'start'}" font-weight="600">${flags}</text>`
    })
  return markup`${body}${side(left, 'left')}${side(right, 'right')}`
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
