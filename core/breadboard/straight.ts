/** A wire as it is measured: straight from `x1 y1` to `x2 y2`, in pitches. */
export type Straight = readonly [number, number, number, number]

/** Two straight wires cross, ends not counted. */
export function straightCross(one: Straight, two: Straight): boolean {
  const [ax, ay, bx, by] = one
  const [cx, cy, dx, dy] = two
  if (Math.max(ax, bx) < Math.min(cx, dx) || Math.max(cx, dx) < Math.min(ax, bx)) return false
  if (Math.max(ay, by) < Math.min(cy, dy) || Math.max(cy, dy) < Math.min(ay, by)) return false
  const first = ((dx - cx) * (ay - cy) - (dy - cy) * (ax - cx)) * ((dx - cx) * (by - cy) - (dy - cy) * (bx - cx))
  if (first >= 0) return false
  return ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) * ((bx - ax) * (dy - ay) - (by - ay) * (dx - ax)) < 0
}

/** How many pairs of wires cross, drawn straight. */
export function countCrossings(lines: readonly Straight[]): number {
  let count = 0
  for (const [at, one] of lines.entries())
    for (const two of lines.slice(at + 1)) if (straightCross(one, two)) count += 1
  return count
}
