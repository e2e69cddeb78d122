import { entryOf } from '../base/entryOf.ts'
import { innerFact } from '../catalog/innerFact.ts'
import { budgets } from '../circuit/budget.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { drawnThrough, FUSE_PEAK } from '../circuit/loads.ts'
import type { Edit } from '../plan/edit.ts'
import type { PartInstance, Source, Wiring } from '../wiring/model.ts'
import { cellsOf, lowestOf } from '../wiring/stacks.ts'
import { after, connect, type Decision } from './progress.ts'

/** What lies in the way of everything that a supply gives, in the order in which it lies there. */
const ORDER = ['fuse', 'switch', 'meter'] as const
type Kind = (typeof ORDER)[number]

const reasons: Readonly<Record<Kind, (end: string) => string>> = {
  fuse: (end) => `the fuse comes first: everything that ${end} feeds lies behind it`,
  switch: (end) => `its title says that it switches everything that ${end} feeds`,
  meter: (end) => `it measures everything that ${end} gives`,
}

/** A fuse, a main switch or a meter of current. */
interface InPath {
  readonly part: PartInstance
  /** End towards the supply, and towards what it feeds. */
  readonly near: string
  readonly far: string
  readonly kind: Kind
  /** Most milliamperes and volts that it bears. */
  readonly milliamps: number
  readonly volts: number
}

/** How much more than for good a contact carries while something starts. */
const CONTACT_PEAK = 3

/** Titles of a switch that is there for the supply, not to be read. */
const MAIN = /\b(main|power|supply|battery|master|on[ /-]?off)\b/i

/** A switch by hand whose title says that it is there for the supply of a plan that has one of its own. */
export function isMainSwitch(wiring: Wiring, { ref, part }: PartInstance): boolean {
  const title = entryOf(wiring.plan.parts, ref)?.title
  const isSwitch = part.inner.length > 0 && part.inner.every(({ kind, moved }) => kind === 'switch' && !moved)
  return isSwitch && title !== undefined && MAIN.test(title) && cellsOf(wiring.supplies, wiring.parts).length > 0
}

/** A main switch with its pole towards the supply. */
function mainSwitch(wiring: Wiring, part: PartInstance): InPath | undefined {
  const [first] = part.part.inner
  const pole = first?.between.find((pin) => part.part.inner.every(({ between }) => between.includes(pin)))
  const throwsTo = first?.between.find((pin) => pin !== pole)
  if (!first || pole === undefined || throwsTo === undefined) return undefined
  const [near, far] = [`${part.ref}.${pole}`, `${part.ref}.${throwsTo}`]
  if ([near, far].some((end) => wiring.netOf(end).wired)) return undefined
  const milliamps = (innerFact(part.part, part.options, first.mostMilliamps) ?? Number.POSITIVE_INFINITY) * CONTACT_PEAK
  return { part, near, far, kind: 'switch', milliamps, volts: Number.POSITIVE_INFINITY }
}

/** A part whose one shunt leads from pin to pin, with no wire at either; undefined for another. */
function inPath(wiring: Wiring, part: PartInstance): InPath | undefined {
  if (isMainSwitch(wiring, part)) return mainSwitch(wiring, part)
  const [inner, ...more] = part.part.inner
  if (inner?.kind !== 'shunt' || more.length > 0 || part.part.rails.length > 0) return undefined
  const [near, far] = inner.between.map((pin) => `${part.ref}.${pin}`) as [string, string]
  if ([near, far].some((end) => wiring.netOf(end).wired)) return undefined
  const given = isUnrated(wiring, part)
    ? undefined
    : typeof inner.milliamps === 'object'
      ? entryOf(part.options, inner.milliamps.option)
      : inner.milliamps
  return {
    part,
    near,
    far,
    kind: part.part.supplies.length === 0 ? 'fuse' : 'meter',
    milliamps: typeof given === 'number' ? given : Number.POSITIVE_INFINITY,
    volts: inner.mostVolts ?? Number.POSITIVE_INFINITY,
  }
}

/** A fuse of which the plan does not say what it is made for. */
const isUnrated = (wiring: Wiring, { ref, part }: PartInstance): boolean =>
  part.inner.some(({ kind, milliamps }) => {
    const option = kind === 'shunt' && typeof milliamps === 'object' ? milliamps.option : undefined
    return option !== undefined && entryOf(entryOf(wiring.plan.parts, ref)?.options, option) === undefined
  })

/** Ratings in which fuses are sold, in milliamperes. Source: IEC 60127-1, the R10 series from 500 mA on. */
const RATINGS = [500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150, 4000, 5000, 6300, 8000, 10_000]

/** Fuses of no rating get one that bears what is to flow through them. */
export function rateFuses(before: Wiring, decisions: readonly Decision[]): readonly Decision[] {
  const unrated = before.parts.filter((part) => isUnrated(before, part))
  if (unrated.length === 0) return decisions
  const circuit = circuitOf(after(before, decisions))
  const rated = circuit.elements.flatMap((element): Decision[] => {
    const { ref, part } = element.part
    if (element.kind !== 'shunt' || !unrated.some((one) => one.ref === ref)) return []
    const { typical, peak } = drawnThrough(circuit, element)
    const wanted = Math.max(typical, peak / FUSE_PEAK)
    const usual = part.options.find(({ id }) => id === 'milliamps')
    const milliamps = RATINGS.find((one) => one >= wanted)
    if (wanted <= Number(usual?.usual) || milliamps === undefined) return []
    const options = { ...entryOf(before.plan.parts, ref)?.options, milliamps }
    const why = `carries ${Math.round(typical)} mA`
    return [{ edits: [{ do: 'change-part', ref, entry: { options } }], from: ref, to: ref, why }]
  })
  return [...decisions, ...rated]
}

/**
 * The decisions with the loose fuses, main switches and meters of a kit put in: each next to the plus of a battery or a
 * supply, before all that hangs on it, the fuse first, the strongest supply first. One that the loads would blow or harm stays in the
 * box, and so where the maker has wired that plus already.
 */
export function throughWhatLiesInTheWay(
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
    const take = (kind: Kind): readonly InPath[] => {
      const at = loose.findIndex((one) => one.kind === kind && one.milliamps >= peak && one.volts >= volts)
      return at < 0 ? [] : loose.splice(at, 1)
    }
    const chain = ORDER.flatMap(take)
    const last = chain.at(-1)
    if (!last) return all
    const moved = (one: string): string => (one === end ? last.far : one)
    const lead = (edit: Edit): Edit =>
      edit.do === 'connect' ? { ...edit, from: moved(edit.from), to: moved(edit.to) } : edit
    return [
      ...chain.map(({ near, kind }, index) => connect(near, chain[index - 1]?.far ?? end, reasons[kind](end))),
      ...all.map((one) => ({ ...one, edits: one.edits.map(lead), from: moved(one.from), to: moved(one.to) })),
    ]
  }, decisions)
}
