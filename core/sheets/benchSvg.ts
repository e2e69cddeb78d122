import { palette } from '../base/palette.ts'
import { type BenchPicture, type BodyPicture, type BreadboardPicture, bowOf, type WirePicture } from './benchPicture.ts'
import { type Markup, markup } from './markup.ts'

const { print } = palette

/** Pixels a pitch. */
const P = 14

export interface BenchSvgOptions {
  /** Only wires up to this step, those of earlier steps thin and grey. */
  readonly step?: number
  readonly title: string
}

/** The bench as a drawing of its own: ink on paper, wires in their colours with their numbers at both ends. */
export function writeBenchSvg(picture: BenchPicture, { step, title }: BenchSvgOptions): Markup {
  const { left, top, width, height } = picture
  const wires = picture.wires.filter((wire) => step === undefined || wire.step <= step)
  const past = wires.filter((wire) => step !== undefined && wire.step < step)
  const now = wires.filter((wire) => step === undefined || wire.step === step)
  const box = [left * P, top * P, width * P, height * P].map((one) => one.toFixed(1)).join(' ')
  return markup`<svg xmlns="http://www.w3.org/2000/svg" class="mp-bench" viewBox="${box}" width="${(width * P).toFixed(0)}" height="${(height * P).toFixed(0)}" font-family="'Spline Sans Mono', monospace"><title>${title}</title><rect x="${left * P}" y="${top * P}" width="${width * P}" height="${height * P}" fill="${print.paper}"/>${picture.breadboards.map(breadboard)}${picture.bodies.map(body)}${past.map((wire) => line(wire, true))}${now.map((wire) => line(wire, false))}${now.map(numbers)}</svg>\n`
}

function breadboard({ ref, left, right, rows, columns, rails, railRows, gapAt }: BreadboardPicture): Markup {
  const parts: Markup[] = [
    markup`<rect x="${(left - 0.6) * P}" y="${-1.6 * P}" width="${(right - left + 1.2) * P}" height="${(rows + 3.2) * P}" fill="none" stroke="${print.ink}" stroke-width="1.4"/>`,
    markup`<text x="${(left - 0.3) * P}" y="${-1.9 * P}" font-size="13" font-weight="700">${ref}</text>`,
  ]
  const strips: string[] = []
  for (let row = 1; row <= rows; row += 1)
    for (const half of [columns.slice(0, 5), columns.slice(5)]) {
      const [first, last] = [half[0]!.x, half.at(-1)!.x]
      strips.push(`M${first * P} ${row * P}H${last * P}`)
    }
  parts.push(markup`<path d="${strips.join('')}" stroke="${print.strip}" stroke-width="7.5" stroke-linecap="round"/>`)
  const holes: string[] = []
  for (let row = 1; row <= rows; row += 1) for (const { x } of columns) holes.push(dot(x, row))
  for (const { name, x } of rails) {
    for (const [from, to] of railRuns(railRows, gapAt))
      parts.push(
        markup`<path d="M${x * P} ${(from - 0.6) * P}V${(to + 0.6) * P}" stroke="${name.endsWith('+') ? print.plus : print.minus}" stroke-width="7.5" stroke-linecap="round"/>`,
      )
    for (const row of railRows) holes.push(dot(x, row))
    parts.push(
      markup`<text x="${x * P}" y="${(railRows[0]! - 1.1) * P}" font-size="13" font-weight="700" text-anchor="middle">${name.endsWith('+') ? '+' : '−'}</text>`,
    )
  }
  parts.push(markup`<path d="${holes.join('')}" stroke="${print.ink}" stroke-width="3.2" stroke-linecap="square"/>`)
  for (const { letter, x } of columns)
    for (const y of [0.1, rows + 1.25])
      parts.push(markup`<text x="${x * P}" y="${y * P}" font-size="9.5" text-anchor="middle">${letter}</text>`)
  for (let row = 1; row <= rows; row += 1)
    if (row === 1 || row % 5 === 0)
      parts.push(
        markup`<text x="${(columns[4]!.x + 1.5) * P}" y="${row * P + 3}" font-size="8.5" text-anchor="middle" fill="${print.soft}">${row}</text>`,
      )
  return markup`<g>${parts}</g>`
}

const dot = (x: number, y: number): string => `M${x * P} ${y * P}h0.01`

/** Runs of a rail, cut where the metal is. */
export function railRuns(railRows: readonly number[], gapAt: number | undefined): [number, number][] {
  const [first, last] = [railRows[0]!, railRows.at(-1)!]
  if (gapAt === undefined) return [[first, last]]
  return [
    [first, railRows.filter((row) => row < gapAt).at(-1)!],
    [gapAt, last],
  ]
}

function body(picture: BodyPicture): Markup {
  const { ref, kind, left, top, width, height, legs } = picture
  const marks = legs.map(
    ({ x, y }) =>
      markup`<circle cx="${x * P}" cy="${y * P}" r="3.6" fill="${print.paper}" stroke="${print.ink}" stroke-width="1.3"/>`,
  )
  if (kind === 'legs') {
    const [a, b] = legs as [(typeof legs)[number], (typeof legs)[number]]
    const [x, y] = [((a.x + b.x) / 2) * P, ((a.y + b.y) / 2) * P]
    return markup`<g><path d="M${a.x * P} ${a.y * P}L${b.x * P} ${b.y * P}" stroke="${print.ink}" stroke-width="1.6"/>${tag(ref, x, y, 9)}${marks}</g>`
  }
  const shape = markup`<rect x="${left * P}" y="${top * P}" width="${width * P}" height="${height * P}" rx="2" fill="${print.paper}" fill-opacity="0.9" stroke="${print.ink}" stroke-width="1.3"/>`
  const names = legs.map((leg) => pinName(leg, picture))
  return markup`<g>${shape}${tag(ref, (left + width / 2) * P, kind === 'beside' || kind === 'leads' ? (top + 0.7) * P : (top + height / 2) * P, width < 4 ? 9 : 12)}${names}${marks}</g>`
}

/** A leg's name towards the middle of its body, or outside a narrow one; none where there is no room for it. */
function pinName({ pin, x, y }: BodyPicture['legs'][number], { kind, left, width }: BodyPicture): Markup | undefined {
  const onLeft = x - left <= left + width - x
  const room = Math.max(x - left, left + width - x) - (kind === 'straddle' ? width / 2 : 0)
  const outside = kind === 'beside' && width < 6
  if (!outside && room < pin.length * 0.41) return undefined
  const toRight = onLeft !== outside
  return markup`<text x="${((toRight ? x + 0.6 : x - 0.6) * P).toFixed(1)}" y="${y * P + 3}" font-size="8.5" text-anchor="${toRight ? 'start' : 'end'}">${pin}</text>`
}

function tag(text: string, x: number, y: number, size: number): Markup {
  const width = text.length * size * 0.62 + 6
  return markup`<rect x="${(x - width / 2).toFixed(1)}" y="${y - size * 0.65}" width="${width.toFixed(1)}" height="${size * 1.3}" fill="${print.ink}"/><text x="${x}" y="${y + size * 0.35}" font-size="${size}" font-weight="700" text-anchor="middle" fill="${print.paper}">${text}</text>`
}

function line(wire: WirePicture, past: boolean): Markup {
  const bow = bowOf(wire)
  const d = `M${wire.x1 * P} ${wire.y1 * P}Q${(bow.x * P).toFixed(1)} ${(bow.y * P).toFixed(1)} ${wire.x2 * P} ${wire.y2 * P}`
  if (past) return markup`<path d="${d}" fill="none" stroke="${print.past}" stroke-width="1.5"/>`
  return markup`<path d="${d}" fill="none" stroke="${print.ink}" stroke-width="4.4" stroke-linecap="round"/><path d="${d}" fill="none" stroke="${wire.colour}" stroke-width="2.8" stroke-linecap="round"/>`
}

const numbers = ({ number, x1, y1, x2, y2 }: WirePicture): Markup[] =>
  [
    [x1, y1],
    [x2, y2],
  ].map(
    ([x, y]) =>
      markup`<circle cx="${x! * P}" cy="${y! * P}" r="6.3" fill="${print.paper}" stroke="${print.ink}"/><text x="${x! * P}" y="${y! * P + 3}" font-size="${number > 99 ? 6.5 : 8}" font-weight="700" text-anchor="middle">${number}</text>`,
  )
