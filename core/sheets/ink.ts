import type { Box, Place } from './lanes.ts'

/**
 * What a drawing consists of, in pitches: screen and paper draw the same ink, each in its own way. `role` says what a
 * stroke is; who draws gives it its colour and weight.
 */
export type Ink =
  | ({ readonly is: 'box'; readonly role: string; readonly round?: number } & Box)
  | { readonly is: 'dot'; readonly role: string; readonly x: number; readonly y: number; readonly r: number }
  /** Points one after the other; a closed one is filled. */
  | { readonly is: 'line'; readonly role: string; readonly points: readonly Place[]; readonly closed?: boolean }
  /** Many strokes at once, each from one place to another. */
  | { readonly is: 'strokes'; readonly role: string; readonly strokes: readonly (readonly [Place, Place])[] }
  /** A name on a dark ground, as broad as it is. */
  | {
      readonly is: 'tag'
      readonly role: string
      readonly x: number
      readonly y: number
      readonly size: number
      readonly text: string
      readonly upwards?: boolean
    }
  /** A text around the height `y`; one that lies along its leg turns with the bench. */
  | {
      readonly is: 'text'
      readonly role: string
      readonly x: number
      readonly y: number
      readonly size: number
      readonly text: string
      readonly anchor: 'start' | 'middle' | 'end'
      readonly along?: boolean
      /** Turned by a quarter to the left. */
      readonly upwards?: boolean
    }

/** The bench as it stands, rows downwards, or lying on its side, the first row at the left. */
export type Pose = 'stands' | 'lies'

export const turnPlace = (pose: Pose, { x, y }: Place): Place => (pose === 'stands' ? { x, y } : { x: y, y: -x })

/** A place of the drawing back on the bench. */
export const unturnPlace = (pose: Pose, { x, y }: Place): Place => (pose === 'stands' ? { x, y } : { x: -y, y: x })

export const turnBox = (pose: Pose, box: Box): Box =>
  pose === 'stands'
    ? { left: box.left, top: box.top, width: box.width, height: box.height }
    : { left: box.top, top: -(box.left + box.width), width: box.height, height: box.width }

export function turnInk(pose: Pose, ink: Ink): Ink {
  if (pose === 'stands') return ink
  const turn = (place: Place): Place => turnPlace(pose, place)
  switch (ink.is) {
    case 'box':
      return { ...ink, ...turnBox(pose, ink) }
    case 'dot':
      return { ...ink, ...turn(ink) }
    case 'line':
      return { ...ink, points: ink.points.map(turn) }
    case 'strokes':
      return { ...ink, strokes: ink.strokes.map(([a, b]) => [turn(a), turn(b)]) }
    case 'tag':
      return { ...ink, ...turn(ink), upwards: false }
    case 'text':
      return { ...ink, ...turn(ink), ...(ink.along ? { upwards: !ink.upwards } : {}) }
  }
}

/** Height of the ground of a tag, and its breadth by letter and beside them, by the size of its letters. */
export const tagBox = ({ x, y, size, text, upwards }: Extract<Ink, { is: 'tag' }>): Box => {
  const [long, high] = [text.length * size * 0.6 + 0.5, size * 1.4]
  const [width, height] = upwards ? [high, long] : [long, high]
  return { left: x - width / 2, top: y - height / 2, width, height }
}

const number = (value: number): string => String(Math.round(value * 100) / 100)

/** The data of an SVG path through points, each coordinate times `scale`. */
export const pathOf = (points: readonly Place[], closed = false, scale = 1): string =>
  `${points.map(({ x, y }, at) => `${at === 0 ? 'M' : 'L'}${number(x * scale)} ${number(y * scale)}`).join('')}${closed ? 'Z' : ''}`

export const strokesPath = (strokes: readonly (readonly [Place, Place])[], scale = 1): string =>
  strokes.map(([a, b]) => pathOf([a, b], false, scale)).join('')
