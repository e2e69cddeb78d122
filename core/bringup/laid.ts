import { layoutOf } from '../breadboard/layout.ts'
import type { Layout } from '../breadboard/workbench.ts'
import type { Wiring } from '../wiring/model.ts'
import { cut, type Fault, lay } from './fault.ts'
import { joinedBy, laidMetal, type Metal } from './metal.ts'
import type { Step } from './step.ts'

/** A touch of the meter by the ends that its spots lie on. */
export interface PlacedTouch {
  readonly id: string
  readonly a: string
  readonly b: string
}

/** What a build that is laid out adds to a diagnosis; plain data, which crosses from one thread to another. */
export interface Laid {
  readonly touches: readonly PlacedTouch[]
  /** Rails that may carry nothing. */
  readonly rails: readonly Fault[]
}

export const NOT_LAID: Laid = { touches: [], rails: [] }

/** Touches among the steps of a build that is laid out, and the rails of its bench. */
export const laidOf = (
  wiring: Wiring,
  steps: readonly Step[],
  layout: Layout | undefined = layoutOf(wiring),
): Laid => ({
  touches: touchesOf(steps),
  rails: layout ? railFaults(wiring, layout) : [],
})

/** The touches among the steps of a build that is laid out, by their ends. */
export const touchesOf = (steps: readonly Step[]): PlacedTouch[] =>
  steps.flatMap(({ id, phase, spots: [one, two] }) =>
    phase === 'continuity' && one?.end !== undefined && two?.end !== undefined ? [{ id, a: one.end, b: two.end }] : [],
  )

/**
 * Jumpers that feed a rail or bridge its halves, each left out: what hangs on the far side is cut off together. A jumper
 * behind which only one end lies is a wire like any other, and no fault of this kind.
 */
function railFaults(wiring: Wiring, layout: Layout): Fault[] {
  const metal = laidMetal(wiring, layout)
  const found = new Map<string, Fault>()
  for (const [at, joint] of metal.joints.entries()) {
    if (joint.kind !== 'wire' || !(isRail(metal, joint.a) || isRail(metal, joint.b))) continue
    const net = metal.pieces[joint.a]?.net
    if (!net) continue
    const sets = joinedBy(
      metal,
      metal.joints.filter((_, index) => index !== at),
    )
    if (sets.find(String(joint.a)) === sets.find(String(joint.b))) continue
    const wires = wiring.plan.wires.filter(([from]) => wiring.netOf(from) === net)
    const ends = [...new Set(wires.flatMap((wire) => [wire[0], wire[1]]))]
    const sideOf = (end: string): boolean | undefined => {
      const piece = metal.pieces.find(({ spot }) => spot.id === end)
      return piece && sets.find(String(piece.index)) === sets.find(String(joint.a))
    }
    const near = ends.filter((end) => sideOf(end) === true)
    const far = ends.filter((end) => sideOf(end) === false)
    if (near.length + far.length < ends.length || near.length === 0 || far.length === 0) continue
    const hangs = [near, far].find((side) => side.every((end) => wiring.terminal(end)?.owner.kind === 'part'))
    if (!hangs || hangs.length < 2) continue
    const chain = ([first, ...others]: readonly string[]) =>
      first === undefined ? [] : others.map((other) => lay(first, other))
    const id = `rail:${[...hangs].sort().join('+')}`
    if (!found.has(id))
      found.set(id, {
        id,
        kind: 'rail',
        words: `${joint.words}, on which ${hangs.join(', ')} hang, is missing or loose`,
        edits: [...wires.map(cut), ...chain(near), ...chain(far)],
        at: hangs,
      })
  }
  return [...found.values()]
}

const isRail = (metal: Metal, piece: number): boolean => metal.pieces[piece]?.rail === true
