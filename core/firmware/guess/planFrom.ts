import * as v from 'valibot'
import type { Board } from '../../catalog/boardSchema.ts'
import type { Catalog } from '../../catalog/catalog.ts'
import type { Part } from '../../catalog/partSchema.ts'
import { applyEdits, type Edit } from '../../plan/edit.ts'
import { addParts } from '../../plan/kit.ts'
import { emptyPlan, type Plan, ProgramName } from '../../plan/planSchema.ts'
import { freshRef } from '../../plan/refs.ts'
import { resolve } from '../../wiring/resolve.ts'
import { wantsOf } from './fitPins.ts'
import type { Gathered } from './gather.ts'
import type { GivenPin } from './given.ts'
import { nameWords } from './partWords.ts'
import type { PartGuess } from './scoring.ts'

/** What the maker says that a group of pins is. */
export interface Answer {
  readonly guess: PartGuess
  readonly part: Part
  readonly mode: string | undefined
  /** Pins of the program by the id of the part's pin. */
  readonly pins: ReadonlyMap<string, GivenPin>
}

/** What is likeliest of a group; undefined where no part fits it. */
export function likeliest(guess: PartGuess): Answer | undefined {
  const [first] = guess.candidates
  return first && { guess, part: first.part, mode: first.mode, pins: first.fit.pins }
}

/** Reference of the board. */
const BOARD = 'MCU'

/**
 * A plan of what a program says: the board, the parts as the maker named them, and the wires between pins that the
 * program has and their signals. Supplies and grounds stand in no program: they are left for the assignment.
 */
export function planFrom(
  catalog: Catalog,
  title: string,
  board: Board,
  gathered: Gathered,
  answers: readonly Answer[],
): Plan {
  let plan: Plan = { ...emptyPlan(title), boards: { [BOARD]: { board: board.id } } }
  const names: Record<string, string> = {}
  const calls = answers.map(refFrom)
  for (const [at, answer] of answers.entries()) {
    const { guess, part, mode, pins } = answer
    // A name that several have, such as that of a loop, is none of one.
    const own = calls.filter((one) => one === calls[at]).length === 1 ? calls[at] : undefined
    const [ref = part.stem] = freshRef(plan, own ?? part.stem, 1)
    const options = optionsFrom(answer)
    const edits = addParts(plan, catalog, { ...part, stem: ref }, 1, {
      ...(mode === undefined || mode === part.modes[0]?.id ? {} : { mode }),
      ...(Object.keys(options).length > 0 ? { options } : {}),
    })
    const added = applyEdits(plan, edits)
    const wiring = resolve(added, catalog)
    const wires: Edit[] = []
    const wire = (pin: string, to: string): void => {
      const use = wiring.signal(`${ref}.${pin}`)
      if (use) wires.push({ do: 'connect', from: use.tail, to: `${BOARD}.${to}` })
    }
    for (const [pin, given] of pins) {
      wire(pin, given.pin.id)
      const name = ownName(given, gathered)
      if (name !== undefined && !Object.values(names).includes(name)) names[`${ref}.${pin}`] = name
    }
    const { bus } = wantsOf(gathered, part, mode)
    for (const [signal, use] of bus?.lines ?? []) {
      const to = guess.bus?.kind === bus?.kind ? guess.bus?.pins.get(signal) : undefined
      if (to !== undefined) wire(use.facts.pin, to)
    }
    plan = applyEdits(added, wires)
  }
  return Object.keys(names).length > 0 ? { ...plan, names } : plan
}

/** The constant that the maker has for a pin, where it has a name of its own. */
const ownName = ({ uses }: GivenPin, { declared }: Gathered): string | undefined => {
  const name = uses[0]?.own[0]
  return name !== undefined && name.length > 1 && declared.has(name) && v.is(ProgramName, name) ? name : undefined
}

/** A reference from the maker's own words: `flap` is FLAP, `redPin` RED; undefined where they say no more than the part. */
function refFrom({ guess, pins }: Answer): string | undefined {
  const single = pins.size <= 1 || guess.pins.length === 0
  if (!single && guess.title.includes(', ')) return undefined
  const bare = guess.title
    .replace(/\[\d+\]/g, '')
    .replace(/_?pins?$/i, '')
    .replace(/^_+|_+$/g, '')
    .replace(/([a-z0-9]{2,})([A-Z][a-z]{2,})/g, '$1_$2')
    .toUpperCase()
  return /^[A-Z][A-Z0-9_]{1,19}$/.test(bare) && !/^(?:A|D|GP|IO|GPIO|PIN)?\d+$/.test(bare) ? bare : undefined
}

/** Options that the names of a program say: a colour, an address. */
function optionsFrom({ guess, part, pins }: Answer): Record<string, string | number> {
  const words = new Set([guess.title, ...[...pins.values()].flatMap(({ names }) => names)].flatMap(nameWords))
  const options: Record<string, string | number> = {}
  for (const option of part.options) {
    const value = option.values.find((one) =>
      typeof one.value === 'number'
        ? option.kind === 'i2c-address' && guess.addresses.includes(one.value)
        : words.has(one.value),
    )
    if (value && value.value !== option.usual) options[option.id] = value.value
  }
  return options
}
