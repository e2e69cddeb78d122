import { describe, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { sift } from '../rules/waiting.ts'
import { kits } from '../testing/kits.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { recordOf } from '../testing/record.ts'
import { typedKits } from '../testing/typedKits.ts'
import { planTyped } from '../testing/wiredKits.ts'
import { mistaken, sound } from '../testing/wiringSuite.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { fixesFor } from './fixes.ts'
import { questionsFor } from './questions.ts'

/** Lines under a heading, shifted. */
const under = (lines: readonly string[]): string[] => lines.map((line) => `  ${line}`)

const editWords = (edit: Edit): string => {
  const { do: what, ...rest } = edit
  return `${what} ${Object.values(rest)
    .map((one) => (typeof one === 'string' ? one : JSON.stringify(one)))
    .join(' ')}`
}

function findingLines(wiring: Wiring): string[] {
  const found = check(wiring, allRules)
  const waits = new Set(sift(wiring, found).waiting)
  return found.flatMap((one) => {
    const numbers = Object.entries(one.numbers).map(([name, value]) => `${name} ${value}`)
    return [
      `${one.severity} ${one.rule}: ${one.message}${waits.has(one) ? ' (waits)' : ''}`,
      ...under([
        `at ${one.at.join(', ')}${numbers.length > 0 ? `; ${numbers.join(', ')}` : ''}`,
        one.why,
        ...fixesFor(wiring, one, found).flatMap(({ title, edits, brings }) => [
          `→ ${title}: ${edits.map(editWords).join('; ')}`,
          ...brings.map((message) => `  brings: ${message}`),
        ]),
      ]),
    ]
  })
}

const findings = recordOf('findings.txt')
describe('what is found in every wiring of the suites', () => {
  it.each([...sound, ...mistaken])('$title', (short) => findings(short.title, findingLines(wiringOf(short))))
})

function answerLines(plan: Plan): string[] {
  const wiring = resolve(plan, catalog)
  const result = assignChoosing(wiring)
  const after = resolve(applyEdits(plan, result.edits), catalog)
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
    ...check(after, allRules).map(({ severity, rule, message }) => `${severity} ${rule}: ${message}`),
  ]
}

const answers = recordOf('answers.txt')
describe('what is made of every kit', () => {
  it.each(kits)('$title', (kit) => answers(kit.title, answerLines(planOf(kit))))
  it.each(typedKits)('$typed', ({ typed }) => answers(typed, answerLines(planTyped(typed))))
})
