/** A wire as it is measured: straight from `x1 y1` to `x2 y2`, in pitches. */
export type Straight = readonly [number, number, number, number]

/** Two straight wires cross, ends not counted. */
export function straightCross(one: Straight, two: Straight): boolean {
  // By their places: taking them apart at once is slower, and this is asked more often than anything else.
  const ax = one[0]
  const ay = one[1]
  const bx = one[2]
  const by = one[3]
  const cx = two[0]
  const cy = two[1]
  const dx = two[2]
  const dy = two[3]
  if (Math.max(ax, bx) < Math.min(cx, dx) || Math.max(cx, dx) < Math.min(ax, bx)) return false
  if (Math.max(ay, by) < Math.min(cy, dy) || Math.max(cy, dy) < Math.min(ay, by)) return false
  const first = ((dx - cx) * (ay - cy) - (dy - cy) * (ax - cx)) * ((dx - cx) * (by - cy) - (dy - cy) * (bx - cx))
  if (first >= 0) return false
  return ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) * ((bx - ax) * (dy - ay) - (by - ay) * (dx - ax)) < 0
}

/** How many pairs of wires cross, drawn straight. */
export function countCrossings(lines: readonly Straight[]): number {
  let count = 0
  for (let at = 0; at < lines.length; at += 1)
    for (let other = at + 1; other < lines.length; other += 1) if (straightCross(lines[at]!, lines[other]!)) count += 1
  return count
}
