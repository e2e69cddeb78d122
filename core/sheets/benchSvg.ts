import { palette } from '../base/palette.ts'
import type { BenchPicture, WirePicture } from './benchPicture.ts'
import { type Ink, pathOf, strokesPath, tagBox } from './ink.ts'
import type { Box, Place } from './lanes.ts'
import { type Markup, markup } from './markup.ts'
import { isDark } from './wireInk.ts'

const { print } = palette

/** Pixels a pitch. */
const P = 14

interface Pen {
  readonly fill: string
  readonly stroke: string
  /** In pitches. */
  readonly weight: number
  readonly bold?: boolean
}

const pen = (fill: string, stroke = 'none', weight = 0, bold = false): Pen => ({ fill, stroke, weight, bold })

/** How paper draws each role of ink. */
const pens: Readonly<Record<string, Pen>> = {
  plate: pen('none', print.ink, 0.1),
  strip: pen('none', print.strip, 0.5),
  plus: pen('none', print.plus, 0.5),
  minus: pen('none', print.minus, 0.5),
  hole: pen('none', print.ink, 0.2),
  reserved: pen('none', print.soft, 0.07),
  name: pen(print.ink, 'none', 0, true),
  sign: pen(print.ink, 'none', 0, true),
  letter: pen(print.soft),
  shell: pen(print.paper, print.ink, 0.09),
  leg: pen(print.paper, print.ink, 0.09),
  'wire-leg': pen('none', print.ink, 0.12),
  mark: pen(print.paper, print.ink, 0.09),
  first: pen(print.ink),
  ring: pen('none', print.ink, 0.24),
  pole: pen(print.ink, 'none', 0, true),
  pin: pen(print.ink),
  'post-name': pen(print.ink, print.paper, 0.2),
  tag: pen(print.ink),
  'tag-text': pen(print.paper, 'none', 0, true),
  part: pen(print.ink, 'none', 0, true),
  goes: pen(print.ink, print.paper, 0.2),
}

export interface BenchSvgOptions {
  /** Only what is in after this step, wires of earlier steps as thin lanes. */
  readonly step?: number
  readonly title: string
}

/** The bench as a drawing of its own: ink on paper, wires as thin lanes with their numbers at both ends. */
export function writeBenchSvg(picture: BenchPicture, { step, title }: BenchSvgOptions): Markup {
  const wires = picture.wires.filter((wire) => step === undefined || wire.step <= step)
  const isNow = (wire: WirePicture): boolean => step === undefined || wire.step === step
  const bodies = picture.bodies.filter((body) => step === undefined || body.step === undefined || body.step <= step)
  const { left, top, width, height } =
    step === undefined
      ? picture
      : around(
          picture,
          wires.filter(isNow),
          bodies.filter((body) => body.step === step),
        )
  const box = [left * P, top * P, width * P, height * P].map((one) => one.toFixed(1)).join(' ')
  const isStep = step !== undefined
  const ways = (list: readonly WirePicture[]): Markup[] => list.map((wire) => lane(wire, isNow(wire), isStep))
  const inksOf = (list: readonly { readonly ink: readonly Ink[] }[]): Markup[] =>
    list.flatMap(({ ink }) => ink.map(written))
  // What is plugged in now lies over the bodies; the rest leaves their names to be read.
  const [over, under] = [wires.filter((wire) => isStep && isNow(wire)), wires.filter((wire) => !isStep || !isNow(wire))]
  return markup`<svg xmlns="http://www.w3.org/2000/svg" class="mp-bench" viewBox="${box}" width="${(width * P).toFixed(0)}" height="${(height * P).toFixed(0)}" font-family="'Spline Sans Mono', monospace"><title>${title}</title><rect x="${left * P}" y="${top * P}" width="${width * P}" height="${height * P}" fill="${print.paper}"/>${inksOf(picture.breadboards)}${ways(under)}${inksOf(bodies)}${ways(over)}${picture.labels.map(written)}${wires.filter(isNow).map(ends)}</svg>\n`
}

/** Pitches around what a step plugs in, and the least that its drawing shows. */
const AROUND = 4
const LEAST = { width: 34, height: 20 }

/** The part of the drawing in which a step has its wires, or the one body that it plugs in; else the whole. */
function around(picture: BenchPicture, wires: readonly WirePicture[], bodies: readonly Box[]): Box {
  const places: Place[] = wires.flatMap(({ lane: points }) => points)
  const [body] = bodies.length === 1 ? bodies : []
  if (body) places.push({ x: body.left, y: body.top }, { x: body.left + body.width, y: body.top + body.height })
  if (places.length === 0) return picture
  const span = (all: readonly number[], from: number, long: number, least: number): readonly [number, number] => {
    const size = Math.min(long, Math.max(least, Math.max(...all) - Math.min(...all) + 2 * AROUND))
    const middle = (Math.max(...all) + Math.min(...all)) / 2
    return [Math.min(Math.max(from, middle - size / 2), from + long - size), size]
  }
  const [left, width] = span(
    places.map(({ x }) => x),
    picture.left,
    picture.width,
    LEAST.width,
  )
  const [top, height] = span(
    places.map(({ y }) => y),
    picture.top,
    picture.height,
    LEAST.height,
  )
  return { left, top, width, height }
}

function written(ink: Ink): Markup {
  const { fill, stroke, weight, bold } = pens[ink.role] ?? pen(print.ink)
  const line = markup`fill="${fill}" stroke="${stroke}" stroke-width="${(weight * P).toFixed(1)}"`
  switch (ink.is) {
    case 'box':
      return markup`<rect x="${n(ink.left)}" y="${n(ink.top)}" width="${n(ink.width)}" height="${n(ink.height)}"${ink.role === 'shell' ? markup` fill-opacity="0.92"` : undefined} ${line}/>`
    case 'dot':
      return markup`<circle cx="${n(ink.x)}" cy="${n(ink.y)}" r="${n(ink.r)}" ${line}/>`
    case 'line':
      return markup`<path d="${pathOf(ink.points, ink.closed, P)}" ${line}/>`
    case 'strokes':
      return markup`<path d="${strokesPath(ink.strokes, P)}" stroke-linecap="${ink.role === 'hole' ? 'square' : 'round'}" ${line}/>`
    case 'tag': {
      const { left, top, width, height } = tagBox(ink)
      return markup`<rect x="${n(left)}" y="${n(top)}" width="${n(width)}" height="${n(height)}" fill="${print.ink}"/>${written({ ...ink, is: 'text', role: 'tag-text', anchor: 'middle' })}`
    }
    case 'text': {
      const [x, y, size] = [ink.x * P, ink.y * P, ink.size * P]
      const turn = ink.upwards ? markup` transform="rotate(-90 ${x.toFixed(1)} ${y.toFixed(1)})"` : undefined
      const halo = weight > 0 ? markup` stroke="${stroke}" stroke-width="${n(weight)}" paint-order="stroke"` : undefined
      return markup`<text x="${x.toFixed(1)}" y="${(y + size * 0.35).toFixed(1)}" font-size="${size.toFixed(1)}"${bold ? markup` font-weight="700"` : undefined} text-anchor="${ink.anchor}" fill="${fill}"${halo}${turn}>${ink.text}</text>`
    }
  }
}

const n = (pitches: number): string => (pitches * P).toFixed(1)

function lane({ lane: points, colour }: WirePicture, isNow: boolean, isBold: boolean): Markup {
  const d = pathOf(points, false, P)
  if (!isNow) return markup`<path d="${d}" fill="none" stroke="${print.past}" stroke-width="1"/>`
  if (!isBold)
    return markup`<path d="${d}" fill="none" stroke="${print.ink}" stroke-width="2.4" stroke-linejoin="round"/><path d="${d}" fill="none" stroke="${colour}" stroke-width="1.4" stroke-linejoin="round"/>`
  return markup`<path d="${d}" fill="none" stroke="${print.ink}" stroke-width="4.6" stroke-linejoin="round" stroke-linecap="round"/><path d="${d}" fill="none" stroke="${colour}" stroke-width="3" stroke-linejoin="round" stroke-linecap="round"/>`
}

/** The number of a wire in its colour beside each of its two holes; beside a post also where it goes. */
const ends = ({ number, colour, ends: both }: WirePicture): Markup[] =>
  both.map(({ x, y, plate, goes }) => {
    const size = number > 99 ? 0.4 : 0.52
    return markup`<circle cx="${n(x)}" cy="${n(y)}" r="${n(0.17)}" fill="${colour}" stroke="${print.ink}" stroke-width="1"/><rect x="${n(plate.x - 0.37)}" y="${n(plate.y - 0.33)}" width="${n(0.74)}" height="${n(0.66)}" rx="1.5" fill="${colour}" stroke="${print.ink}" stroke-width="0.8"/><text x="${n(plate.x)}" y="${n(plate.y + 0.35 * size)}" font-size="${n(size)}" font-weight="700" text-anchor="middle" fill="${isDark(colour) ? '#fff' : '#16130d'}">${number}</text>${goes && written(goes)}`
  })
