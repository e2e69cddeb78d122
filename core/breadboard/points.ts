import type { Hole, Node } from './grid.ts'

/** A place where a wire can be plugged in: a strip, a piece of rail, a post beside the breadboard, a lead. */
export interface Point {
  readonly kind: 'strip' | 'rail' | 'post' | 'lead'
  /** Metal, for strips and rails. */
  readonly node: Node | undefined
  /** The end that stands there; for a strip with several the first; undefined for a rail or a strip of wires only. */
  readonly end: string | undefined
  /** What a wire's end must carry; a lead goes into a hole itself. */
  readonly fit: 'hole' | 'plug' | 'socket' | 'lead'
  readonly x: number
  readonly y: number
  /** Wires that it still takes. */
  free: number
}

/** Two points that a wire, or a lead alone, joins. */
export interface Join {
  readonly a: Point
  readonly b: Point
  /** Hole at `b` that the maker chose. */
  readonly holeB?: Hole
}

/** A wire with its exact holes; a post has none. */
export interface LaidWire {
  readonly net: number
  readonly a: Point
  readonly b: Point
  readonly holeA: Hole | undefined
  readonly holeB: Hole | undefined
}

/** Holes of a strip to the left and right of its middle. */
const REACH = { strip: 2, rail: 0, post: 0, lead: 0 }

/** Pitches between two points, a strip taken where it comes nearest. */
export const apart = (a: Point, b: Point): number =>
  Math.hypot(Math.max(0, Math.abs(a.x - b.x) - REACH[a.kind] - REACH[b.kind]), a.y - b.y)

/** A lead goes into a hole, a header's socket or a screw terminal, not onto a post or another lead. */
export function canJoin(a: Point, b: Point): boolean {
  const fits = [a.fit, b.fit]
  if (!fits.includes('lead')) return true
  return fits.includes('hole') || fits.includes('plug')
}
