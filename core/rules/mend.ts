import { pullEdits } from '../assign/pullUps.ts'
import { entryOf } from '../base/entryOf.ts'
import type { Companion } from '../catalog/partSchema.ts'
import { preferredValue } from '../electrical/preferred.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { companionWords } from '../plan/companionWords.ts'
import { type Edit, type Fix, toBuy } from '../plan/edit.ts'
import { editsOfCompanion } from '../plan/kit.ts'
import { companionsOf } from '../wiring/companions.ts'
import type { BoardInstance, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'

/** Fixes that several rules offer. Each is tried by `fixesFor` before it is shown. */

/** Switches a feature of a board off. */
export function withoutFeature(board: BoardInstance, feature: string): Fix[] {
  const facts = board.features.find((one) => one.id === feature)
  if (!facts) return []
  const uses = board.features.map((one) => one.id).filter((id) => id !== feature)
  return [{ title: `Do without: ${facts.title}`, edits: [{ do: 'change-board', ref: board.ref, entry: { uses } }] }]
}

/** A resistor from a signal's line to the logic supply or the ground of its board. */
export function addPull(wiring: Wiring, use: SignalUse, way: 'up' | 'down', ohms: number): Fix[] {
  const made = pullEdits(wiring, use, way, ohms)
  return made ? [{ title: `Add ${formatQuantity(ohms, 'Ω')} from ${use.end} to ${made.to}`, edits: made.edits }] : []
}

/** A companion that a part asks for and lacks, with what adds it to the plan, wired and to be bought. */
export interface CompanionOffer extends Fix {
  /** `Capacitor 100 nF`. */
  readonly what: string
  readonly facts: Companion
}

/** What a part asks for and lacks: the same for a finding about it and for the kit. */
export function companionOffers(
  wiring: Wiring,
  part: PartInstance,
  which: (facts: Companion) => boolean = () => true,
): CompanionOffer[] {
  return companionsOf(wiring, part)
    .filter((one) => !one.present && which(one.facts))
    .flatMap(({ facts }): CompanionOffer[] => {
      const entry = wiring.catalog.parts.get(facts.part)
      const edits = toBuy(editsOfCompanion(wiring.plan, wiring.catalog, part.ref, facts))
      const what = companionWords(facts, entry)
      return entry && edits.length > 0
        ? [{ title: `Add ${what.charAt(0).toLowerCase()}${what.slice(1)} to ${part.ref}`, what, facts, edits }]
        : []
    })
}

/** Sets an option of a part, the others kept. */
export function setOption(wiring: Wiring, part: PartInstance, id: string, value: string | number): Edit[] {
  const entry = entryOf(wiring.plan.parts, part.ref)
  return [{ do: 'change-part', ref: part.ref, entry: { options: { ...entry?.options, [id]: value } } }]
}

/** Gives a resistor the next preferred value that is not below the one wanted, in ohms. */
export function setOhms(wiring: Wiring, resistor: PartInstance, ohms: number): Fix[] {
  const value = preferredValue(ohms, 'up')
  return [
    {
      title: `Make ${resistor.ref} ${formatQuantity(value, 'Ω')}`,
      edits: setOption(wiring, resistor, 'ohms', value),
    },
  ]
}

/** Takes one wire out, unless it is locked. */
export function takeOut(wiring: Wiring, which: (a: string, b: string) => boolean): Fix[] {
  return wiring.plan.wires
    .filter((wire) => which(wire[0], wire[1]) && !wire[2]?.locked)
    .slice(0, 3)
    .map(([from, to]) => ({ title: `Take out the wire ${from} to ${to}`, edits: [{ do: 'disconnect', from, to }] }))
}

/** Takes the wire of a pin, unless it is locked, to another end. */
export const moveTo = (wiring: Wiring, end: string, to: string): Fix[] =>
  takeOut(wiring, (a, b) => a === end || b === end)
    .slice(0, 1)
    .map(({ edits }) => ({ title: `Move ${end} to ${to}`, edits: [...edits, { do: 'connect', from: end, to }] }))

/** Takes a part out; what hung together over one of its legs still does. Nothing while one of its wires is locked. */
export function takeOff(wiring: Wiring, { ref, part }: PartInstance): Fix[] {
  const legs = part.pins.map(({ id }) => `${ref}.${id}`)
  const mine = wiring.plan.wires.filter(([a, b]) => legs.includes(a) || legs.includes(b))
  if (mine.some((wire) => wire[2]?.locked)) return []
  const beyond = (leg: string): string[] => mine.flatMap(([a, b]) => (a === leg ? [b] : b === leg ? [a] : []))
  const joints = legs.flatMap((leg) => {
    const [first, ...more] = beyond(leg)
    return first === undefined ? [] : more.map((end): Edit => ({ do: 'connect', from: first, to: end }))
  })
  return [{ title: `Take ${ref} out`, edits: [{ do: 'remove', ref }, ...joints] }]
}

/** Lets the wires of two pins change places; nothing while one of them is locked. */
export function swapWires(wiring: Wiring, a: string, b: string): Fix[] {
  const mine = wiring.plan.wires.filter((wire) => [wire[0], wire[1]].some((end) => end === a || end === b))
  if (mine.length === 0 || mine.some((wire) => wire[2]?.locked)) return []
  const other = (end: string): string => (end === a ? b : end === b ? a : end)
  return [
    {
      title: `Swap the wires of ${a} and ${b}`,
      edits: [
        ...mine.map(([from, to]): Edit => ({ do: 'disconnect', from, to })),
        ...mine.map(
          ([from, to, facts]): Edit => ({
            do: 'connect',
            from: other(from),
            to: other(to),
            ...(facts ? { facts } : {}),
          }),
        ),
      ],
    },
  ]
}

/** Another value of the option that chooses the level set, where one fits. */
export function otherModel(
  wiring: Wiring,
  use: SignalUse | undefined,
  receiver: string,
  high: number | undefined,
): Fix[] {
  const named = use?.facts.levels
  const entry = use && entryOf(wiring.plan.parts, use.part.ref)
  if (!use || !entry || typeof named !== 'object' || receiver !== use.end || high === undefined) return []
  return Object.entries(named.sets)
    .filter(([, set]) => {
      const vih = entryOf(use.part.part.levels, set)?.vih
      return vih !== undefined && vih.factor === 0 && vih.offset <= high
    })
    .map(([value]) => ({
      title: `Take ${use.part.part.options.find((one) => one.id === named.option)?.values.find((one) => String(one.value) === value)?.title ?? value} for ${use.part.ref}`,
      edits: [
        {
          do: 'change-part' as const,
          ref: use.part.ref,
          entry: { options: { ...entry.options, [named.option]: value } },
        },
      ],
    }))
}
