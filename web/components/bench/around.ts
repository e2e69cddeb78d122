import type { Layout } from '../../../core/breadboard/workbench.ts'
import type { BenchPicture, BodyPicture, WirePicture } from '../../../core/sheets/benchPicture.ts'
import { turnPlace } from '../../../core/sheets/ink.ts'

export interface Around {
  /** Middle of a box, and its size. */
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Where what is next, or in hand, is seen whole. */
export function placeOfNow(picture: BenchPicture, now: number | string | undefined): Around | undefined {
  const wire = picture.wires.find(({ number }) => number === now)
  if (wire) {
    const xs = wire.lane.map(({ x }) => x)
    const ys = wire.lane.map(({ y }) => y)
    const [left, top] = [Math.min(...xs), Math.min(...ys)]
    const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - top]
    return { x: left + width / 2, y: top + height / 2, width, height }
  }
  const body = picture.bodies.find(({ ref }) => ref === now)
  return body && centreOf(body)
}

/** The first board that stands in holes, else the upper rows of the first breadboard. */
export function firstBoard({ pose, bodies }: BenchPicture, { grid, units, seats }: Layout): { x: number; y: number } {
  const board = units.find(({ ref, owner }) => owner?.kind === 'board' && seats.has(ref))
  const body = bodies.find(({ ref }) => ref === board?.ref)
  return body ? centreOf(body) : turnPlace(pose, { x: grid.boards[0]!.x + 5.5, y: 13 })
}

export const centreOf = ({ left, top, width, height }: BodyPicture): Around => ({
  x: left + width / 2,
  y: top + height / 2,
  width,
  height,
})

/** A wire ends at a leg of a part, or in the same strip beside it. */
export function touches(picture: BenchPicture, ref: string, ends: WirePicture['ends']): boolean {
  const legs = picture.bodies.find((body) => body.ref === ref)?.legs ?? []
  return ends.some(({ x, y }) =>
    legs.some((leg) =>
      picture.pose === 'stands' ? leg.y === y && Math.abs(leg.x - x) < 5 : leg.x === x && Math.abs(leg.y - y) < 5,
    ),
  )
}
