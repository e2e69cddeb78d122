import { entryOf } from '../base/entryOf.ts'
import type { Companion } from '../catalog/partSchema.ts'
import { circuitOf, type Element } from '../circuit/circuit.ts'
import { runsOf } from '../circuit/loads.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { companionsOf } from '../wiring/companions.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'

/**
 * How far a value may lie from the one wanted, as shares of it. In series with a lamp too little harms it and too much
 * only dims; a pull or a divider works over a wider span; a bus line wants its pull-up within a factor of two.
 */
export const spans = {
  lamp: { least: 0.6, most: 6 },
  series: { least: 0.45, most: 5 },
  across: { least: 0.3, most: 5 },
  bus: { least: 0.45, most: 2.2 },
  capacitor: { least: 0.45, most: 50 },
  any: { least: 0, most: Number.POSITIVE_INFINITY },
} as const

/** Least current in milliamperes at which a lamp is seen. */
const SEEN_MILLIAMPS = 0.5

/** Current in milliamperes into a base with which a small load is still switched. */
const LEAST_BASE_MILLIAMPS = 1

/** How far another model of the same kind counts from the one that is named, as a logarithm of a ratio. */
const OTHER_MODEL = 0.1

export interface Span {
  readonly least: number
  readonly most: number
}

/** No wire has reached a part yet. */
export const isLoose = (wiring: Wiring, { ref, part }: PartInstance): boolean =>
  part.pins.every(({ id }) => !wiring.netOf(`${ref}.${id}`).wired)

/** Loose parts of the kit: passive ones that no wire has reached yet. */
export const looseParts = (wiring: Wiring, id: string): PartInstance[] =>
  wiring.parts.filter((part) => part.part.id === id && isLoose(wiring, part))

/**
 * The loose part that fits best as the companion of another: of the right kind and value, first the one whose title says
 * that it is meant for this, then the nearest in value. One whose title names something else is left for that.
 */
export function spareFor(
  wiring: Wiring,
  owner: PartInstance,
  companion: Companion,
  taken: ReadonlySet<string>,
): PartInstance | undefined {
  const free = looseParts(wiring, companion.part).filter((part) => !taken.has(part.ref))
  return ranked(wiring, owner, companion, free).find((one) => !isBetterFor(wiring, owner, one, free))?.part
}

/**
 * True when another part cannot work without a companion that a loose part comes nearer to, and has none that is as near:
 * the 4.7 kΩ of a kit is the pull-up of its 1-Wire line, not the pull-down of a gate that would work with it as well.
 */
function isBetterFor(
  wiring: Wiring,
  owner: PartInstance,
  { part, off }: Ranked,
  free: readonly PartInstance[],
): boolean {
  return wiring.parts.some(
    (other) =>
      other !== owner &&
      companionsOf(wiring, other).some(({ facts, present }) => {
        if (present || facts.part !== part.part.id || !isNeeded(wiring, other, facts)) return false
        const [best, ...more] = ranked(wiring, other, facts, free)
        return best !== undefined && best.part === part && best.off < off && more.every((one) => one.off > best.off)
      }),
  )
}

/** Some part cannot work without a companion of this kind, and has none yet. */
export const isWanted = (wiring: Wiring, { part }: PartInstance): boolean =>
  wiring.parts.some((other) =>
    companionsOf(wiring, other).some(
      ({ facts, present }) => !present && facts.part === part.id && isNeeded(wiring, other, facts),
    ),
  )

/** Required, or the pull of a line that works only with it. */
const isNeeded = (wiring: Wiring, { ref }: PartInstance, { required, across }: Companion): boolean =>
  required === true || (across ?? []).some((pin) => wiring.signal(`${ref}.${pin}`)?.facts.pullMostOhms !== undefined)

/** Of some parts the one that fits best as the companion of another: see {@link spareFor}. */
export const fitting = (
  wiring: Wiring,
  owner: PartInstance,
  companion: Companion,
  parts: readonly PartInstance[],
): PartInstance | undefined => ranked(wiring, owner, companion, parts)[0]?.part

/** A part that fits, and how far it is from what was asked for. */
interface Ranked {
  readonly part: PartInstance
  readonly off: number
}

/** Of some parts those that fit as the companion of another, the best first. */
function ranked(
  wiring: Wiring,
  owner: PartInstance,
  { options, why, series, across, part: id }: Companion,
  parts: readonly PartInstance[],
): Ranked[] {
  const diode = circuitOf(wiring).elements.find(
    (one) => one.part === owner && one.kind === 'diode' && [one.a, one.b].includes(`${owner.ref}.${series}`),
  )
  const span =
    entryOf(options, 'farads') !== undefined
      ? spans.capacitor
      : across
        ? spans.across
        : diode?.lights
          ? spans.lamp
          : spans.series
  // What a capacitor is made of and rated for matters only as far as it bears its volts.
  const wanted = Object.entries(options).filter(([name]) => id !== 'capacitor' || name === 'farads')
  const runs = runsOf(owner)
  /** Another model does as well where it is rated for the current of the load. */
  const isRated = (part: PartInstance): boolean =>
    runs !== undefined && (chosenFact(part, 'mostMilliamps') ?? 0) >= runs
  return parts
    .map((part) => ({
      part,
      meant: meant(wiring, part, owner, why),
      off: wanted.map(
        ([name, value]) =>
          distance(entryOf(part.options, name), value, span) ??
          (name === 'model' && isRated(part) ? OTHER_MODEL : undefined) ??
          (name === 'ohms' && diode && suits(owner, diode, part)
            ? distance(entryOf(part.options, name), value, spans.any)
            : undefined),
      ),
    }))
    .filter((one) => one.meant !== 'other')
    .filter(({ off, part }) => off.every((one) => one !== undefined) && bears(wiring, owner, across, part))
    .map(({ part, meant, off }) => ({ part, isMeant: meant === 'this', off: sum(off) }))
    .sort((a, b) => Number(b.isMeant) - Number(a.isMeant) || a.off - b.off)
}

/**
 * A resistor outside the usual span that does for this very diode at the volts of its board: a lamp is seen with it and
 * takes no more than it and a pin are good for (a white one asks for less than a red one); a base takes what a pin
 * gives, and whether that is enough is known when its load is placed (`fitBases`). I = (V − Vf) / R.
 */
function suits({ home }: PartInstance, { lights, forward, most }: Element, { options }: PartInstance): boolean {
  const board = home?.board
  const ohms = entryOf(options, 'ohms')
  if (!board || forward === undefined || typeof ohms !== 'number') return false
  const milliamps = ((board.logicVolts - forward) / ohms) * 1000
  const bears = board.current.pin?.recommended ?? Number.POSITIVE_INFINITY
  if (lights) return milliamps >= SEEN_MILLIAMPS && milliamps <= Math.min(most ?? 0, bears)
  return milliamps <= bears && milliamps >= LEAST_BASE_MILLIAMPS
}

/** A capacitor is rated for what its part is fed with. */
function bears(wiring: Wiring, owner: PartInstance, across: Companion['across'], part: PartInstance): boolean {
  const rated = entryOf(part.options, 'volts')
  if (typeof rated !== 'number') return true
  const own = owner.part.pins.filter((pin) => across?.includes(pin.id)).map((pin) => `${owner.ref}.${pin.id}`)
  const ends = across?.includes('supply') ? [...own, ...owner.supplies.flatMap(({ pins }) => pins)] : own
  return rated >= Math.max(0, ...ends.map((end) => wiring.netOf(end).sources[0]?.volts ?? 0))
}

/** Loose parts by how near they come to an amount of one of their options, within a span. */
export function sparesOf(wiring: Wiring, id: string, option: string, amount: number, span: Span): PartInstance[] {
  return looseParts(wiring, id)
    .filter((part) => titleOf(wiring, part) === undefined)
    .map((part) => ({ part, off: distance(entryOf(part.options, option), amount, span) }))
    .filter(({ off }) => off !== undefined)
    .sort((a, b) => (a.off ?? 0) - (b.off ?? 0))
    .map(({ part }) => part)
}

const sum = (list: readonly (number | undefined)[]): number => list.reduce<number>((all, one) => all + (one ?? 0), 0)

/** How far apart two values are, as the logarithm of their ratio; undefined outside the span, 0 for what is no amount. */
function distance(has: string | number | undefined, wants: string | number, span: Span): number | undefined {
  if (typeof has !== 'number' || typeof wants !== 'number') return has === wants ? 0 : undefined
  const share = has / wants
  return share >= span.least && share <= span.most ? Math.abs(Math.log(share)) : undefined
}

/** The title that a maker gave it; undefined for one that only says what it is. */
const titleOf = (wiring: Wiring, part: PartInstance): string | undefined => entryOf(wiring.plan.parts, part.ref)?.title

/** What a title says of the use of a loose part: this one, another one, or nothing. */
function meant(wiring: Wiring, spare: PartInstance, owner: PartInstance, why: string): 'this' | 'other' | 'open' {
  const words = wordsOf(titleOf(wiring, spare) ?? '')
  if (words.size === 0) return 'open'
  if (words.has(owner.ref.toLowerCase())) return 'this'
  if (wiring.parts.some(({ ref }) => ref !== owner.ref && words.has(ref.toLowerCase()))) return 'other'
  const mine = wordsOf(`${why} ${owner.title} ${owner.part.id}`)
  if ([...words].some((word) => word.length > 3 && mine.has(word))) return 'this'
  // A knob with a name is there to be turned for what it names.
  return spare.part.signals.length > 0 ? 'other' : 'open'
}

const wordsOf = (text: string): Set<string> => new Set(text.toLowerCase().match(/[\p{L}\d]+/gu) ?? [])
