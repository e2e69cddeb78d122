import { budgets } from '../circuit/budget.ts'
import type { Edit } from '../plan/edit.ts'
import type { PartInstance, Source, Wiring } from '../wiring/model.ts'
import { cellsOf, lowestOf } from '../wiring/stacks.ts'
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
  const isLowest = ({ ref }: Source): boolean =>
    lowestOf(built, ref) === ref && cellsOf(built.supplies, built.parts).some((cell) => cell.ref === ref)
  const outside = budgets(built)
    .filter(({ source }) => isLowest(source) && built.netOf(source.end).wired && !before.netOf(source.end).wired)
    .map(({ source: { end }, peakMilliamps }) => ({ end, peak: peakMilliamps }))
    .sort((a, b) => b.peak - a.peak)
  return outside.reduce<readonly Decision[]>((all, { end, peak }) => {
    const at = fuses.findIndex(({ rating }) => rating >= peak)
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
