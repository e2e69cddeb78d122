import { memo } from '../base/memo.ts'
import { commonLegOf } from '../catalog/commonLeg.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { sourcesOf } from '../wiring/supply.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'
import { isLoose } from './spares.ts'
import { freeContacts, freeHighSides, ratingOf, spareTransistors } from './switched.ts'

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
  const waits = ({ ref, part }: PartInstance): boolean =>
    wanted(ref) && !wiring.netOf(`${ref}.${commonLegOf(part)?.leg}`).wired
  const decisions = kindsOf(wiring, wiring.parts).flatMap((kind): Decision[] => {
    const waiting = kind.filter(waits)
    // The lines and resistors that one of them has already do for all.
    const first = waiting.find((part) => !isLoose(wiring, part)) ?? waiting[0]
    const digits = waiting.filter((part) => part === first || isLoose(wiring, part))
    const turning = kind.filter((part) => isSwitched(wiring, part)).length
    const turns = first ? turnsFor(wiring, first, wanted).filter(({ ref }) => !taken.has(ref)) : []
    if (digits.length + turning < 2 || turns.length < digits.length) return []
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

/** The wiring as it is when its digits are lit in turn, where its kit is made for that. */
export const litInTurn = memo((wiring: Wiring): Wiring => {
  const all = (): boolean => true
  return shareLines(takeTurns(wiring, all).wiring, all).wiring
})

/** Digits that are lit in turn and of which no line is wired, each with the first of its kind, whose lines they share. */
export const followers = memo((wiring: Wiring): ReadonlyMap<PartInstance, PartInstance> => {
  const isBare = ({ ref, part }: PartInstance): boolean =>
    commonLegOf(part)?.lamps.every((pin) => !wiring.netOf(`${ref}.${pin}`).wired) === true
  return new Map(
    kindsOf(
      wiring,
      wiring.parts.filter((part) => isSwitched(wiring, part)),
    ).flatMap((digits) => {
      const first = digits.find((one) => !isBare(one)) ?? digits[0]
      return digits.flatMap((one): [PartInstance, PartInstance][] =>
        first && one !== first && isBare(one) ? [[one, first]] : [],
      )
    }),
  )
})

/** The common leg of a digit hangs on a transistor already. */
function isSwitched(wiring: Wiring, { ref, part }: PartInstance): boolean {
  const leg = commonLegOf(part)?.leg
  if (leg === undefined) return false
  return wiring.netOf(`${ref}.${leg}`).ends.some((end) => wiring.hosts.get(end)?.provider?.part.category === 'driver')
}

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
    // What a relay of the kit can switch leaves its transistor to a digit, which has no other.
    return spareTransistors(wiring, wanted, freeContacts(wiring, wanted).length).flatMap((host) =>
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
