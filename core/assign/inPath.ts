import { entryOf } from '../base/entryOf.ts'
import { budgets } from '../circuit/budget.ts'
import type { Edit } from '../plan/edit.ts'
import type { PartInstance, Source, Wiring } from '../wiring/model.ts'
import { cellsOf, lowestOf } from '../wiring/stacks.ts'
import { connect, type Decision } from './progress.ts'

/** A fuse or a meter of current: what lies in the way of everything that a supply gives. */
interface InPath {
  readonly part: PartInstance
  /** End towards the supply, and towards what it feeds. */
  readonly near: string
  readonly far: string
  readonly isFuse: boolean
  /** Most milliamperes and volts that it bears. */
  readonly milliamps: number
  readonly volts: number
}

/** A part whose one shunt leads from pin to pin, with no wire at either; undefined for another. */
function inPath(wiring: Wiring, part: PartInstance): InPath | undefined {
  const [inner, ...more] = part.part.inner
  if (inner?.kind !== 'shunt' || more.length > 0 || part.part.rails.length > 0) return undefined
  const [near, far] = inner.between.map((pin) => `${part.ref}.${pin}`) as [string, string]
  if ([near, far].some((end) => wiring.netOf(end).wired)) return undefined
  const given = typeof inner.milliamps === 'object' ? entryOf(part.options, inner.milliamps.option) : inner.milliamps
  return {
    part,
    near,
    far,
    isFuse: part.part.supplies.length === 0,
    milliamps: typeof given === 'number' ? given : Number.POSITIVE_INFINITY,
    volts: inner.mostVolts ?? Number.POSITIVE_INFINITY,
  }
}

/**
 * The decisions with the loose fuses and meters of a kit put in: each next to the plus of a battery or a supply, before
 * all that hangs on it, the fuse first, the strongest supply first. One that the loads would blow or harm stays in the
 * box, and so where the maker has wired that plus already.
 */
export function throughFusesAndMeters(
  before: Wiring,
  built: Wiring,
  decisions: readonly Decision[],
  wanted: (ref: string) => boolean,
): readonly Decision[] {
  const loose = before.parts.flatMap((part) => (wanted(part.ref) ? (inPath(before, part) ?? []) : []))
  if (loose.length === 0) return decisions
  const isLowest = ({ ref }: Source): boolean =>
    lowestOf(built, ref) === ref && cellsOf(built.supplies, built.parts).some((cell) => cell.ref === ref)
  const outside = budgets(built)
    .filter(({ source }) => isLowest(source) && built.netOf(source.end).wired && !before.netOf(source.end).wired)
    .map(({ source: { end, volts }, peakMilliamps }) => ({ end, volts, peak: peakMilliamps }))
    .sort((a, b) => b.peak - a.peak)
  return outside.reduce<readonly Decision[]>((all, { end, volts, peak }) => {
    const take = (isFuse: boolean): readonly InPath[] => {
      const at = loose.findIndex((one) => one.isFuse === isFuse && one.milliamps >= peak && one.volts >= volts)
      return at < 0 ? [] : loose.splice(at, 1)
    }
    const chain = [...take(true), ...take(false)]
    const last = chain.at(-1)
    if (!last) return all
    const moved = (one: string): string => (one === end ? last.far : one)
    const lead = (edit: Edit): Edit =>
      edit.do === 'connect' ? { ...edit, from: moved(edit.from), to: moved(edit.to) } : edit
    return [
      ...chain.map(({ near, isFuse }, index) =>
        connect(
          near,
          chain[index - 1]?.far ?? end,
          isFuse
            ? `the fuse comes first: everything that ${end} feeds lies behind it`
            : `it measures everything that ${end} gives`,
        ),
      ),
      ...all.map((one) => ({ ...one, edits: one.edits.map(lead), from: moved(one.from), to: moved(one.to) })),
    ]
  }, decisions)
}
