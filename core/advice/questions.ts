import { entryOf } from '../base/entryOf.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import { freshRef } from '../plan/refs.ts'
import { faultsIn, newFaults } from '../rules/faults.ts'
import { check, rules } from '../rules/index.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { resupply } from '../wiring/resupply.ts'
import { groundPost } from '../wiring/supply.ts'
import { rearrange } from './rearrange.ts'

/** Something that only the maker knows and that would change the plan; the plan goes by the usual answer meanwhile. */
export interface Question {
  /** Stays the same for the same question: `feature MCU wifi`, `supply PAN, TILT`. */
  readonly id: string
  readonly text: string
  /** What hangs on it. */
  readonly why: string
  /** The first is what the plan goes by now. */
  readonly answers: readonly { readonly title: string; readonly edits: readonly Edit[] }[]
}

/** More than this are not asked at a time. */
export const MOST_QUESTIONS = 3

/**
 * Questions whose other answer would make a wired plan wrong, most faults first: a feature of a board that the plan does
 * not use and that would take what signals have, and motors or servos that hang on a board's own supply. Each other
 * answer brings what must move. What was answered once in a plan is not asked again.
 */
export function questionsFor(wiring: Wiring): Question[] {
  const asked = new Set(wiring.plan.settings?.asked ?? [])
  const known = faultsIn(check(wiring, rules))
  const features = wiring.boards.flatMap((board) => featureQuestions(wiring, board, known, asked))
  const supply = supplyQuestion(wiring)
  return [...(supply && !asked.has(supply.id) ? [{ weight: 50, question: supply }] : []), ...features]
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_QUESTIONS)
    .map(({ question }) => question)
}

/** The edits of an answer, with the note that the question was answered. */
export const answerEdits = (question: Question, answer: Question['answers'][number]): Edit[] => [
  ...answer.edits,
  { do: 'answered', question: question.id },
]

function featureQuestions(
  wiring: Wiring,
  board: BoardInstance,
  known: ReadonlyMap<string, unknown>,
  asked: ReadonlySet<string>,
): { readonly weight: number; readonly question: Question }[] {
  const { plan, catalog } = wiring
  const inUse = board.features.map(({ id }) => id)
  // A list that the maker wrote is an answer; one that an answer wrote is not yet one to the other questions.
  const isOpen =
    entryOf(plan.boards, board.ref)?.uses === undefined ||
    [...asked].some((id) => id.startsWith(`feature ${board.ref} `))
  if (!isOpen) return []
  return board.board.features.flatMap((feature) => {
    const id = `feature ${board.ref} ${feature.id}`
    if (asked.has(id) || inUse.includes(feature.id)) return []
    const edit: Edit = { do: 'change-board', ref: board.ref, entry: { uses: [...inUse, feature.id] } }
    const other = resolve(applyEdits(plan, [edit]), catalog)
    const fresh = newFaults(known, check(other, rules))
    if (fresh.length === 0) return []
    const moves = rearrange(other)?.edits ?? []
    return [
      {
        weight: fresh.length,
        question: {
          id,
          text: `Will ${board.ref} use ${feature.title}?`,
          why: `With it: ${fresh[0]?.message}${fresh.length > 1 ? ` And ${fresh.length - 1} more.` : ''}`,
          answers: [
            { title: 'No', edits: [] },
            { title: moves.length > 0 ? 'Yes: move what clashes' : 'Yes', edits: [edit, ...moves] },
          ],
        },
      },
    ]
  })
}

/** Loads that want a supply of their own, and hang on one that a board gives. */
function supplyQuestion(wiring: Wiring): Question | undefined {
  const isBoards = (ref: string | undefined): boolean => wiring.boards.some((board) => board.ref === ref)
  const hungry = wiring.parts.filter(({ supplies }) =>
    supplies.some(({ facts, source }) => facts.heavy && isBoards(source?.ref)),
  )
  const [first] = hungry
  const use = first?.supplies.find(({ facts }) => facts.heavy)
  if (!first || !use?.source || wiring.supplies.length > 0) return undefined
  const volts = use.facts.usual ?? use.source.volts
  const takes = hungry.flatMap(({ supplies }) => supplies).filter(({ facts }) => facts.heavy)
  const peak = takes.reduce((sum, one) => sum + (one.peakMilliamps ?? one.typicalMilliamps ?? 0), 0)
  const refs = hungry.map(({ ref }) => ref).join(', ')
  return {
    id: `supply ${refs}`,
    text:
      hungry.length === 1 ? `Is ${refs} fed from a supply of its own?` : `Are ${refs} fed from a supply of their own?`,
    why: `${peak} mA at peaks now come from ${use.source.end}${use.source.limitMilliamps === undefined ? '' : `, which gives ${use.source.limitMilliamps} mA`}.`,
    answers: [
      { title: `No, from ${use.source.end}`, edits: [] },
      { title: `Yes, from one of ${volts} V`, edits: ownSupply(wiring, hungry, volts) },
    ],
  }
}

/** A supply of so many volts with its ground at the board's, and the loads moved to it. */
function ownSupply(wiring: Wiring, loads: readonly PartInstance[], volts: number): Edit[] {
  const [ref] = freshRef(wiring.plan, 'PACK', 1) as [string]
  const ground = groundPost(loads[0]?.home)
  const edits: Edit[] = [
    { do: 'add-supply', ref, entry: { volts } },
    ...(ground === undefined ? [] : [{ do: 'connect', from: `${ref}.-`, to: ground } as const]),
  ]
  let now = resolve(applyEdits(wiring.plan, edits), wiring.catalog)
  for (const { ref: load } of loads) {
    const part = now.parts.find((one) => one.ref === load)
    const [fix] = part ? resupply(now, part, (source) => source.ref === ref, { sameVolts: true }) : []
    if (!fix) continue
    edits.push(...fix.edits)
    now = resolve(applyEdits(now.plan, fix.edits), wiring.catalog)
  }
  return edits
}
