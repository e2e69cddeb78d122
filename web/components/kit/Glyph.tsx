import { boardFacts, postPlace } from '../../../core/catalog/boardFacts.ts'
import type { Board } from '../../../core/catalog/boardSchema.ts'
import type { Part } from '../../../core/catalog/partSchema.ts'
import { partFigure } from '../../../core/sheets/partFigure.ts'

interface Spot {
  readonly x: number
  readonly y: number
}

/** Most pitches that a picture shows; larger things are drawn smaller. */
const LEAST_SPAN = 9

/** The outline of a board or part with its posts or legs, small: to know it again, not to read it. */
export function Glyph({ of }: { readonly of: Board | Part }) {
  const { width, height, spots } = 'headers' in of ? boardShape(of) : partShape(of)
  // Lying, so that a row of pictures is low.
  const lies = height > width
  const [w, h] = lies ? [height, width] : [width, height]
  const span = Math.max(w, LEAST_SPAN)
  const turned = ({ x, y }: Spot): Spot => (lies ? { x: y, y: width - x } : { x, y })
  return (
    <svg
      className="glyph"
      viewBox={`${(w - span) / 2 - 0.6} -0.6 ${span + 1.2} ${Math.max(h, 2) + 1.2}`}
      aria-hidden="true"
    >
      <rect className="body" x={0} y={0} width={w} height={h} rx={0.5} />
      {spots.map(turned).map(({ x, y }) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={span > 24 ? 0.42 : 0.3} />
      ))}
    </svg>
  )
}

function partShape(part: Part): { width: number; height: number; spots: readonly Spot[] } {
  const { width, height, legs } = partFigure(part.footprint)
  return { width, height, spots: legs }
}

function boardShape(board: Board): { width: number; height: number; spots: readonly Spot[] } {
  const places = boardFacts(board).pins.map(postPlace)
  const [xs, ys] = [places.map(({ x }) => x), places.map(({ y }) => y)]
  const [left, top] = [Math.min(...xs) - 0.8, Math.min(...ys) - 0.8]
  return {
    width: Math.max(...xs) + 0.8 - left,
    height: Math.max(...ys) + 0.8 - top,
    spots: places.map(({ x, y }) => ({ x: x - left, y: y - top })),
  }
}
