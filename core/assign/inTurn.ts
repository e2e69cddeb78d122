import { memo } from '../base/memo.ts'
import { commonLegOf } from '../catalog/commonLeg.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { sourcesOf } from '../wiring/supply.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'
import { isLoose } from './spares.ts'
import { freeHighSides, ratingOf, spareTransistors } from './switched.ts'

/** A transistor of the kit for a common leg, with the wires that make it ready. */
interface Turn {
  readonly ref: string
  /** Where the common leg goes. */
  readonly end: string
  readonly ready: readonly Decision[]
}

/**
 * Digits of a kind for each of which a transistor lies in the kit are shown one after the other: a transistor in each
 * common leg says whose turn it is. Their lines are joined by {@link shareLines}.
 */
export function takeTurns(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const taken = new Set<string>()
  const free = wiring.parts.filter(({ ref, part }) => {
    const leg = commonLegOf(part)?.leg
    return leg !== undefined && wanted(ref) && !wiring.netOf(`${ref}.${leg}`).wired
  })
  const decisions = kindsOf(wiring, free).flatMap((found): Decision[] => {
    // The lines and resistors that one of them has already do for all.
    const first = found.find((part) => !isLoose(wiring, part)) ?? found[0]
    const digits = found.filter((part) => part === first || isLoose(wiring, part))
    const turns = turnsFor(wiring, digits[0] as PartInstance, wanted).filter(({ ref }) => !taken.has(ref))
    if (digits.length < 2 || turns.length < digits.length) return []
    return digits.flatMap(({ ref, part }, at) => {
      const turn = turns[at] as Turn
      taken.add(turn.ref)
      const leg = `${ref}.${commonLegOf(part)?.leg}`
      return [connect(leg, turn.end, `lit in its turn, while ${turn.ref} conducts`), ...turn.ready]
    })
  })
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/** Joins the lines of digits that are lit in turn, where the maker has not begun otherwise. */
export function shareLines(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions = [...followers(wiring)].flatMap(([{ ref, part }, first]) =>
    wanted(ref)
      ? part.signals.flatMap(({ pin, required }) =>
          required && commonLegOf(part)?.lamps.includes(pin)
            ? [connect(`${ref}.${pin}`, `${first.ref}.${pin}`, `shares the line of ${first.ref}, each in its turn`)]
            : [],
        )
      : [],
  )
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/** Digits that are lit in turn and of which no line is wired, each with the first of its kind, whose lines they share. */
export const followers = memo((wiring: Wiring): ReadonlyMap<PartInstance, PartInstance> => {
  const switched = wiring.parts.filter((part) => {
    const leg = commonLegOf(part.part)?.leg
    if (leg === undefined) return false
    const net = wiring.netOf(`${part.ref}.${leg}`)
    return net.ends.some((end) => wiring.hosts.get(end)?.provider?.part.category === 'driver')
  })
  const isBare = ({ ref, part }: PartInstance): boolean =>
    commonLegOf(part)?.lamps.every((pin) => !wiring.netOf(`${ref}.${pin}`).wired) === true
  return new Map(
    kindsOf(wiring, switched).flatMap((digits) => {
      const first = digits.find((one) => !isBare(one)) ?? digits[0]
      return digits.flatMap((one): [PartInstance, PartInstance][] =>
        first && one !== first && isBare(one) ? [[one, first]] : [],
      )
    }),
  )
})

/** Digits that could share their lines: of one kind and build, on one board. */
function kindsOf(wiring: Wiring, parts: readonly PartInstance[]): PartInstance[][] {
  const kinds = new Map<string, PartInstance[]>()
  for (const part of parts) {
    const leg = commonLegOf(part.part)?.leg
    if (leg === undefined) continue
    const key = `${part.home?.ref} ${part.part.id} ${sideOf(wiring, part, leg)}`
    kinds.set(key, [...(kinds.get(key) ?? []), part])
  }
  return [...kinds.values()]
}

/** Where a common leg belongs by itself: ground or a supply. */
const sideOf = ({ ties }: Wiring, part: PartInstance, leg: string): string | undefined =>
  ties.find((tie) => tie.part === part && tie.facts.pin === leg)?.to

/** Bare transistors of the kit that no load asks for and that bear all lamps of a digit at once. */
function turnsFor(wiring: Wiring, digit: PartInstance, wanted: (ref: string) => boolean): Turn[] {
  const common = commonLegOf(digit.part)
  const milliamps = digit.part.signals.reduce(
    (sum, { pin, milliamps: one }) => sum + (common?.lamps.includes(pin) ? (one ?? 0) : 0),
    0,
  )
  if (common && sideOf(wiring, digit, common.leg) === 'ground')
    return spareTransistors(wiring, wanted).flatMap((host) =>
      ratingOf(host) >= milliamps ? [{ ref: host.ref, end: host.end, ready: [] }] : [],
    )
  const volts = digit.home?.board.logicVolts
  const rail = sourcesOf(wiring).find((source) => source.ref === digit.home?.ref && source.volts === volts)
  return freeHighSides(wiring, wanted).flatMap(({ part, from, to, on, milliamps: bears }): Turn[] => {
    if (bears < milliamps || !rail || (on && on.volts !== volts)) return []
    const ready = on ? [] : [connect(from, rail.end, `${rail.volts} V for what ${part.ref} switches`)]
    return [{ ref: part.ref, end: to, ready }]
  })
}
