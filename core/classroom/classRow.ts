import { formatProblem } from '../base/problem.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { catalogFor } from '../plan/carried.ts'
import { applyEdit, EditError } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { readPlan } from '../plan/readPlan.ts'
import type { SourceFile } from '../rehearse/cpp/preprocess.ts'
import { SourceError } from '../rehearse/cpp/tokens.ts'
import { keptPrograms, keptScript } from '../rehearse/kept.ts'
import { dialectOf } from '../rehearse/program.ts'
import { rehearse } from '../rehearse/run.ts'
import type { Script } from '../rehearse/script.ts'
import { ScriptError } from '../rehearse/script.ts'
import { summarise } from '../rules/summary.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

/** What somebody has handed in: a plan, and the program beside it, if it keeps none itself or another is meant. */
export interface HandedIn {
  readonly file: string
  readonly text: string
  readonly program: readonly SourceFile[]
}

/** A plan held against the one that was asked for. */
export interface ClassRow {
  readonly file: string
  readonly title: string
  /** Why the plan cannot be read; nothing else is known of it then. */
  readonly trouble: string | undefined
  readonly plan: Plan | undefined
  readonly board: string
  /** Signals that have their wire, and all that need one. */
  readonly placed: number
  readonly needed: number
  readonly faults: number
  readonly cautions: number
  readonly worst: string
  /** Parts that the asked one has and this one does not, and the other way round, in words. */
  readonly missing: readonly string[]
  readonly more: readonly string[]
  /** Signals on other pins than asked for: `KEY.1: D2, asked D7`. Such a plan may be as good. */
  readonly elsewhere: readonly string[]
  /** Comments that are not settled. */
  readonly comments: number
  /** Undefined where there was nothing to rehearse. */
  readonly rehearsal:
    | { readonly passed: boolean; readonly came: number; readonly of: number; readonly said: string }
    | undefined
}

export interface ClassTask {
  /** The plan that was asked for; without it nothing is compared. */
  readonly asked?: Plan | undefined
  /** Expectations that a program must meet. */
  readonly script?: Script | undefined
}

/** Looks at one plan of many. */
export function classRow(work: HandedIn, { asked, script }: ClassTask, catalog: Catalog): ClassRow {
  const read = readPlan(work.text, work.file, catalog)
  if (!read.ok)
    return {
      file: work.file,
      title: '',
      trouble: read.problems.map(formatProblem)[0] ?? 'cannot be read',
      plan: undefined,
      board: '',
      placed: 0,
      needed: 0,
      faults: 0,
      cautions: 0,
      worst: '',
      missing: [],
      more: [],
      elsewhere: [],
      comments: 0,
      rehearsal: undefined,
    }
  const wiring = resolve(read.value, catalog)
  const { placed, needed, counts, worst } = summarise(wiring)
  return {
    file: work.file,
    title: read.value.title,
    trouble: undefined,
    plan: read.value,
    board: wiring.boards.map(({ title }) => title).join(', '),
    placed,
    needed,
    faults: counts.fault,
    cautions: counts.caution,
    worst: worst?.message ?? '',
    ...(asked ? against(wiring, resolve(asked, catalog)) : { missing: [], more: [], elsewhere: [] }),
    comments: Object.values(read.value.comments ?? {}).filter(({ settled }) => !settled).length,
    rehearsal: rehearsed(wiring, work.program, script ?? keptScript(read.value)),
  }
}

/** A plan that keeps the program beside it; the same where it keeps one already, or has no board for it. */
export function withProgram(plan: Plan, { program }: HandedIn, base: Catalog): Plan {
  const boards = catalogFor(plan, base).boards
  const to = Object.entries(plan.boards).find(([, { board: id }]) => {
    const board = boards.get(id)
    return board && dialectOf(board, program) !== undefined
  })
  if (program.length === 0 || !to || plan.rehearsal?.programs !== undefined) return plan
  const files = Object.fromEntries(program.map(({ name, text }) => [name.split('/').at(-1) ?? name, text]))
  try {
    return applyEdit(plan, { do: 'set-program', ref: to[0], files })
  } catch (error) {
    // A program that is too long for a plan stays beside it.
    if (error instanceof EditError) return plan
    throw error
  }
}

function against(own: Wiring, asked: Wiring): Pick<ClassRow, 'missing' | 'more' | 'elsewhere'> {
  const counts = new Map<string, { title: string; n: number }>()
  const add = (wiring: Wiring, by: number): void => {
    for (const { part } of wiring.parts) {
      const known = counts.get(part.id) ?? { title: part.title, n: 0 }
      counts.set(part.id, { ...known, n: known.n + by })
    }
  }
  add(asked, 1)
  add(own, -1)
  const words = (title: string, n: number): string => (n === 1 ? title : `${n} × ${title}`)
  const all = [...counts.values()]
  // Pins are compared on the same board only, and of parts that have the same reference in both.
  const sameBoard = own.boards[0]?.board.id === asked.boards[0]?.board.id
  const pinOf = (wiring: Wiring, end: string): string | undefined =>
    wiring.signals.find((use) => use.end === end)?.hosts[0]?.host.pin
  const elsewhere = !sameBoard
    ? []
    : asked.signals.flatMap(({ end, part, hosts }) => {
        const twin = own.parts.find(({ ref }) => ref === part.ref)
        const [wanted, there] = [hosts[0]?.host.pin, pinOf(own, end)]
        if (twin?.part.id !== part.part.id || wanted === undefined || there === undefined || there === wanted) return []
        return [`${end}: ${there}, asked ${wanted}`]
      })
  return {
    missing: all.flatMap(({ title, n }) => (n > 0 ? [words(title, n)] : [])),
    more: all.flatMap(({ title, n }) => (n < 0 ? [words(title, -n)] : [])),
    elsewhere,
  }
}

/** The program beside a plan, or the first that it keeps; undefined where there is none. */
function rehearsed(wiring: Wiring, beside: readonly SourceFile[], script: Script | undefined): ClassRow['rehearsal'] {
  const failed = (said: string) => ({ passed: false, came: 0, of: 0, said })
  const kept = keptPrograms(wiring.plan)
  const [first] = wiring.boards.filter(({ ref }) => kept[ref])
  const program = beside.length > 0 ? beside : ((first && kept[first.ref]) ?? [])
  if (program.length === 0) return undefined
  const board = beside.length === 0 ? first : wiring.boards.find((one) => dialectOf(one.board, program) !== undefined)
  if (!board) return failed('no board of the plan takes this program')
  try {
    const { findings, expectations } = rehearse(wiring, board, program, { script })
    const came = expectations.filter((one) => one.came).length
    const fault = findings.find(({ severity }) => severity === 'fault')
    return {
      passed: came === expectations.length && !fault,
      came,
      of: expectations.length,
      said: fault ? `${fault.line > 0 ? `line ${fault.line}: ` : ''}${fault.message}` : '',
    }
  } catch (error) {
    if (error instanceof SourceError || error instanceof ScriptError) return failed(error.message)
    throw error
  }
}

/** Nothing stands in the way of it, and its program, if there is one, passed. */
export const isWell = (row: ClassRow): boolean =>
  row.trouble === undefined && row.faults === 0 && row.placed === row.needed && row.rehearsal?.passed !== false

/** How a plan differs from what was asked, in a line. */
export const differenceWords = ({ missing, more, elsewhere }: ClassRow): string =>
  [
    ...missing.map((one) => `lacks ${one}`),
    ...more.map((one) => `has ${one}`),
    ...elsewhere.slice(0, MOST_PINS),
    ...(elsewhere.length > MOST_PINS ? [`${elsewhere.length - MOST_PINS} more on other pins`] : []),
  ].join('; ')

/** Signals on other pins that a line names. */
const MOST_PINS = 3

/** Endings of plans, longest first. */
const PLAN_ENDING = /(\.markpost)?\.(ya?ml|json)$/i

/**
 * Files of many as what each has handed in: a program belongs to the plan whose name it begins with, or beside which it
 * lies alone in a folder. What belongs to nobody is given back.
 */
export function handedIn(files: readonly SourceFile[]): {
  readonly works: readonly HandedIn[]
  readonly left: readonly string[]
} {
  const isPlan = ({ name }: SourceFile): boolean => PLAN_ENDING.test(name) && !/\.rehearsal\.ya?ml$/i.test(name)
  const folderOf = (name: string): string => name.split('/').slice(0, -1).join('/')
  const stemOf = (name: string): string =>
    (name.split('/').at(-1) ?? name).replace(PLAN_ENDING, '').replace(/\.\w+$/, '')
  const plans = files.filter(isPlan)
  const programs = files.filter(({ name }) => /\.(ino|cpp|h|hpp|py)$/i.test(name))
  const taken = new Set<string>()
  const works = plans.map((plan): HandedIn => {
    const folder = folderOf(plan.name)
    const isAlone = plans.filter(({ name }) => folderOf(name) === folder).length === 1 && folder !== ''
    const program = programs.filter(
      ({ name }) => folderOf(name) === folder && (isAlone || stemOf(name).startsWith(stemOf(plan.name))),
    )
    for (const { name } of program) taken.add(name)
    return { file: plan.name, text: plan.text, program }
  })
  return {
    works,
    left: files.filter((file) => !isPlan(file) && !taken.has(file.name)).map(({ name }) => name),
  }
}
