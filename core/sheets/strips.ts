import { palette } from '../base/palette.ts'
import { type PinFacts, postPlace } from '../catalog/boardFacts.ts'
import { PITCH_MM } from '../catalog/common.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { type Markup, markup } from './markup.ts'
import { flagText } from './pinChart.ts'

const { print } = palette

/** Depth of a strip and of its tab with the board's name, in millimetres. */
const DEPTH = 34
const TAB = 12
const GAP = 9
const WIDTH = 184
/** Rows with fewer posts are read off the pin chart. */
const LEAST = 4

interface Strip {
  readonly board: BoardInstance
  readonly title: string
  readonly pins: readonly PinFacts[]
  /** Edge of the strip that lies against the posts. */
  readonly edge: 'top' | 'bottom'
}

/**
 * Strips of paper to lay beside a board's posts, one cell a pitch, with the signal that hangs on each, and a ruler to
 * check the print with. In millimetres: they fit when printed at 100 %.
 */
export function writeStrips(wiring: Wiring): Markup {
  const strips = wiring.boards.flatMap(stripsOf)
  const parts = [ruler(6)]
  let top = 24
  for (const strip of strips) {
    parts.push(stripAt(wiring, strip, top))
    top += DEPTH + GAP
  }
  return markup`<svg xmlns="http://www.w3.org/2000/svg" class="mp-strips" width="${WIDTH}mm" height="${top}mm" viewBox="0 0 ${WIDTH} ${top}" font-family="'Spline Sans Mono', monospace"><title>Strips for the posts, to scale</title>${parts}</svg>\n`
}

function stripsOf(board: BoardInstance): Strip[] {
  const lines = new Map<string, PinFacts[]>()
  for (const pin of board.facts.pins) {
    if (pin.header.posts === 'pads') continue
    const upright = pin.header.step === 'down' || pin.header.step === 'up'
    const { x, y } = postPlace(pin)
    const key = `${pin.header.id} ${upright ? `x${x}` : `y${y}`}`
    lines.set(key, [...(lines.get(key) ?? []), pin])
  }
  return [...lines.values()]
    .filter((pins) => pins.length >= LEAST)
    .map((pins): Strip => {
      const { header } = pins[0]!
      const upright = header.step === 'down' || header.step === 'up'
      const along = (pin: PinFacts): number => (upright ? postPlace(pin).y : postPlace(pin).x)
      const across = upright ? postPlace(pins[0]!).x : postPlace(pins[0]!).y
      const middle = (upright ? board.board.outline.width : board.board.outline.height) / 2
      const twin = header.columns === 2 ? pins[0]!.position % 2 === 0 : across > middle
      return {
        board,
        title: header.title,
        pins: [...pins].sort((a, b) => along(a) - along(b)),
        // Seen with the first post on the left, a strip left of its posts has them at its upper edge once it is turned.
        edge: twin === upright ? 'bottom' : 'top',
      }
    })
}

function stripAt(wiring: Wiring, { board, title, pins, edge }: Strip, top: number): Markup {
  const length = pins.length * PITCH_MM
  const cells = pins.map((pin, index) => {
    const x = index * PITCH_MM
    const flag = flagText(wiring, `${board.ref}.${pin.id}`)
    const name = pin.label ?? pin.id
    // The name stands at the posts.
    const text = flag === '' ? name : edge === 'top' ? `${flag} ${name}` : `${name} ${flag}`
    const [y, anchor] = edge === 'top' ? [top + 1.4, 'end'] : [top + DEPTH - 1.4, 'start']
    return markup`<path d="M${x} ${top}v${DEPTH}" stroke="${print.ink}" stroke-width="0.15"/><text transform="translate(${(x + PITCH_MM / 2 + 0.62).toFixed(2)} ${y}) rotate(-90)" font-size="1.75" text-anchor="${anchor}"${flag === '' ? markup` fill="${print.soft}"` : markup` font-weight="700"`}>${text.slice(0, 29)}</text>`
  })
  const y = edge === 'top' ? top : top + DEPTH
  return markup`<g>${cells}<rect x="0" y="${top}" width="${length.toFixed(2)}" height="${DEPTH}" fill="none" stroke="${print.ink}" stroke-width="0.25"/><path d="M0 ${y}h${length.toFixed(2)}" stroke="${print.ink}" stroke-width="0.9"/><rect x="${length.toFixed(2)}" y="${top}" width="${TAB}" height="${DEPTH}" fill="none" stroke="${print.ink}" stroke-width="0.25"/><text transform="translate(${(length + 5).toFixed(2)} ${top + DEPTH / 2}) rotate(-90)" font-size="2.8" font-weight="700" text-anchor="middle">${board.ref}</text><text transform="translate(${(length + 9).toFixed(2)} ${top + DEPTH / 2}) rotate(-90)" font-size="2.2" text-anchor="middle">${title.slice(0, 22)}</text></g>`
}

function ruler(top: number): Markup {
  const marks = Array.from(
    { length: 101 },
    (_, at) => `M${at} ${top}v${at % 10 === 0 ? 5 : at % 5 === 0 ? 3.5 : 2}`,
  ).join('')
  const numbers = Array.from(
    { length: 11 },
    (_, at) => markup`<text x="${at * 10}" y="${top + 8}" font-size="2.6" text-anchor="middle">${at * 10}</text>`,
  )
  return markup`<text x="0" y="${top - 2}" font-size="3">Print at 100 %, then lay a ruler here: the line is 100 mm long. The thick edge goes against the posts.</text><path d="M0 ${top}h100${marks}" stroke="${print.ink}" stroke-width="0.2" fill="none"/>${numbers}`
}
