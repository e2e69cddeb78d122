import { questionsFor } from '../advice/questions.ts'
import { assignChoosing } from '../assign/choosing.ts'
import { UnionFind } from '../base/unionFind.ts'
import { kitReader } from '../catalog/kitText.ts'
import { applyEdits } from '../plan/edit.ts'
import { addKit } from '../plan/kit.ts'
import { inContext } from '../plan/kitContext.ts'
import { emptyPlan, type Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { resolve } from '../wiring/resolve.ts'
import { editWords } from './editWords.ts'
import { catalog } from './plans.ts'

const read = kitReader([...catalog.boards.values()], [...catalog.parts.values()])

/** The plan of a kit as it is typed, without a wire; throws for words that mean nothing. */
export function planTyped(typed: string): Plan {
  const empty = emptyPlan('kit')
  const items = inContext(read(typed), empty, catalog)
  const unknown = items.filter(({ found }) => found === undefined).map(({ text }) => text)
  if (unknown.length > 0) throw new Error(`${typed}: nothing is known of ${unknown.join(', ')}`)
  return applyEdits(empty, addKit(empty, catalog, items).edits)
}

/** A plan with all that the search makes of it. */
export const wiredUp = (plan: Plan): Plan => applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits)

/** A kit that was placed: what the search answers, the plan and the wiring after it, and what is said of that. */
export function answered(plan: Plan) {
  const wiring = resolve(plan, catalog)
  const result = assignChoosing(wiring)
  const after = applyEdits(plan, result.edits)
  const ended = resolve(after, catalog)
  return { plan, wiring, result, after, ended, found: check(ended, allRules) }
}
export type Answered = ReturnType<typeof answered>

/** Wires that join what earlier wires had joined already. */
export function roundsIn({ wires }: Plan): string[] {
  const sets = new UnionFind()
  return wires.flatMap(([from, to]) => {
    sets.add(from)
    sets.add(to)
    const isRound = sets.find(from) === sets.find(to)
    sets.join(from, to)
    return isRound ? [`${from} ${to}`] : []
  })
}

/** All that is made of a kit, in lines for a record. */
export function answerLines({ wiring, result, found }: Answered): string[] {
  const { before, after: now, paid } = result.neatness
  return [
    `${result.status}, ${result.optimal ? 'proven' : 'not proven'}, ${result.cost.toFixed(1)} points, neat ${before} to ${now} for ${paid}`,
    ...result.placed.map(({ from, to, why }) => `${from} ${to}: ${why}`),
    ...result.added.map(({ ref, what, why }) => `+ ${ref} ${what}: ${why}`),
    ...result.unplaced.map((one) => `? ${JSON.stringify(one)}`),
    ...result.choices.map(({ ref, title }) => `set ${ref} ${title}`),
    ...result.left.map(({ ref, why }) => `in the box: ${ref}, ${why}`),
    ...result.edits.filter((edit) => edit.do !== 'connect').map(editWords),
    ...questionsFor(wiring).map((one) => `asks ${JSON.stringify(one)}`),
    ...found.map(({ severity, rule, message }) => `${severity} ${rule}: ${message}`),
  ]
}
