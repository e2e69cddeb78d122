import type { Edit } from '../plan/edit.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { lowestOf } from '../wiring/stacks.ts'
import { connect, type Decision } from './feedAndTie.ts'

/** Rating of a loose fuse in milliamperes; undefined for another part, and for one that has a wire. */
function ratingOf(wiring: Wiring, { ref, part, options }: PartInstance): number | undefined {
  const [inner, ...more] = part.inner
  if (part.category !== 'power' || part.supplies.length + part.rails.length > 0) return undefined
  if (inner?.kind !== 'shunt' || more.length > 0 || part.pins.length !== 2) return undefined
  if (part.pins.some(({ id }) => wiring.netOf(`${ref}.${id}`).wired)) return undefined
  const rating = typeof inner.milliamps === 'object' ? options[inner.milliamps.option] : inner.milliamps
  return typeof rating === 'number' ? rating : undefined
}

/** Milliamperes that everything takes at its peak which a supply or a cell feeds, by the reference of that. */
function takenFrom(built: Wiring): Map<string, number> {
  const taken = new Map<string, number>()
  for (const { source, peakMilliamps, typicalMilliamps } of built.parts.flatMap(({ supplies }) => supplies))
    if (source) taken.set(source.ref, (taken.get(source.ref) ?? 0) + (peakMilliamps ?? typicalMilliamps ?? 0))
  return taken
}

/**
 * The decisions with the loose fuses of a kit put in: each next to the plus of a battery or a supply, before all that
 * hangs on it, the strongest first. One that the loads would blow stays in the box, and so where the maker has wired
 * that plus already.
 */
export function throughFuses(
  before: Wiring,
  built: Wiring,
  decisions: readonly Decision[],
  wanted: (ref: string) => boolean,
): readonly Decision[] {
  const fuses = before.parts.flatMap((part) => {
    const rating = wanted(part.ref) ? ratingOf(before, part) : undefined
    return rating === undefined ? [] : [{ part, rating }]
  })
  if (fuses.length === 0) return decisions
  const taken = takenFrom(built)
  const outside = [...new Set(built.nets.flatMap(({ sources }) => sources))]
    .filter(({ ref }) => built.boards.every((board) => board.ref !== ref) && lowestOf(built, ref) === ref)
    .filter(
      ({ ref, end }) =>
        built.parts.every((one) => one.ref !== ref || one.supplies.length === 0) && !before.netOf(end).wired,
    )
    .filter(({ end }) => built.netOf(end).wired)
    .sort((a, b) => (taken.get(b.ref) ?? 0) - (taken.get(a.ref) ?? 0))
  return outside.reduce<readonly Decision[]>((all, { end, ref }) => {
    const at = fuses.findIndex(({ rating }) => rating >= (taken.get(ref) ?? 0))
    const [fuse] = at < 0 ? [] : fuses.splice(at, 1)
    if (!fuse) return all
    const [near, far] = fuse.part.part.pins.map(({ id }) => `${fuse.part.ref}.${id}`) as [string, string]
    const moved = (one: string): string => (one === end ? far : one)
    const lead = (edit: Edit): Edit =>
      edit.do === 'connect' ? { ...edit, from: moved(edit.from), to: moved(edit.to) } : edit
    return [
      connect(near, end, `the fuse comes first: everything that ${end} feeds lies behind it`),
      ...all.map((one) => ({ ...one, edits: one.edits.map(lead), from: moved(one.from), to: moved(one.to) })),
    ]
  }, decisions)
}
