import { assignJson } from '../../core/advice/assignJson.ts'
import { assignChoosing } from '../../core/assign/choosing.ts'
import type { Outcome } from '../../core/base/problem.ts'
import { parseYaml } from '../../core/base/yamlSource.ts'
import type { Catalog } from '../../core/catalog/catalog.ts'
import { boardJson, partJson } from '../../core/catalog/entryJson.ts'
import { carryUsed, catalogFor } from '../../core/plan/carried.ts'
import { describeDifference } from '../../core/plan/difference.ts'
import { applyEdits } from '../../core/plan/edit.ts'
import { emptyPlan, type Plan } from '../../core/plan/planSchema.ts'
import { planFromSource, planFromValue, readPlan } from '../../core/plan/readPlan.ts'
import { type KeptText, keepPlan } from '../../core/plan/writePlan.ts'
import { type PlanSummary, summarise, type UsedEntries, usedEntries } from '../../core/rules/summary.ts'
import { pagesNamed, SheetError, type SheetFormat, writeSheet } from '../../core/sheets/output.ts'
import { resolve } from '../../core/wiring/resolve.ts'
import { checkEntries, type EntryText, type ReadEntry } from './entries.ts'
import { catalogOf, type ShelfBytes } from './shelfBytes.ts'

/**
 * The heavy work of the server: reading, checking, searching, drawing. Each task takes and gives plain data, so that it
 * runs in a thread of its own (`pool.ts`) or, in tests, where it is called.
 */

/** A plan that is about to be kept: its text, proven to read back, and what is kept beside it. */
export interface Kept {
  readonly title: string
  readonly text: string
  readonly uses: UsedEntries
  /** Titles and boards, folded for the search. */
  readonly sought: string
  /** The plan as JSON, as it is answered. */
  readonly plan: string
}

export interface KeepRequest {
  readonly shelf: ShelfBytes
  /** What is to be kept: a new title, a text, or a plan as a value. */
  readonly from:
    | { readonly title: string }
    | { readonly text: string; readonly file: string; readonly misfits: 'refuse' | 'set-aside' }
    | { readonly plan: unknown }
  /** The text that is kept now, of which everything that does not change stays as it is written. */
  readonly before?: string
  /** A title in place of the plan's own. */
  readonly title?: string
}

export interface SheetRequest {
  readonly shelf: ShelfBytes
  readonly text: string
  readonly as: SheetFormat
  readonly only: string | undefined
  readonly paper: 'A4' | 'Letter'
  readonly revision: number
}

export type SheetAnswer =
  | Outcome<{ readonly body: string; readonly pages: readonly string[] | undefined }>
  | { readonly wrong: string }

/** Texts that were read or written last, with what reading gave: what is asked of them next need not read them again. */
const texts = new Map<string, KeptText & { readonly plan: Plan; readonly catalog: Catalog }>()
const MOST_TEXTS = 100
const MOST_LETTERS = 1_000_000
let letters = 0

function remember(kept: KeptText, plan: Plan, catalog: Catalog): void {
  forget(kept.text)
  texts.set(kept.text, { ...kept, plan, catalog })
  letters += kept.text.length
  for (const oldest of texts.keys()) {
    if (texts.size <= MOST_TEXTS && letters <= MOST_LETTERS) break
    forget(oldest)
  }
}

function forget(text: string): void {
  if (texts.delete(text)) letters -= text.length
}

/** The document of a text, taken out of the store, since writing uses it up. */
function documentOf(text: string): KeptText | undefined {
  const known = texts.get(text)
  forget(text)
  if (known) return known
  const parsed = parseYaml(text, 'the plan')
  return parsed.ok ? { text, document: parsed.value.document } : undefined
}

/** The plan of a kept text; pieces that the catalogue does not know are set aside. */
function planOf(text: string, title: string, catalog: Catalog): Outcome<Plan> {
  const known = texts.get(text)
  if (known?.catalog === catalog) return { ok: true, value: known.plan }
  const source = parseYaml(text, title)
  if (!source.ok) return source
  const plan = planFromSource(source.value, catalog, 'set-aside')
  if (plan.ok) remember({ text, document: source.value.document }, plan.value, catalog)
  return plan
}

export const tasks = {
  /** Reads what is to be kept, joins the maker's own entries that it uses, and proves that its text reads back. */
  keep({ shelf, from, before, title }: KeepRequest): Outcome<Kept> {
    const catalog = catalogOf(shelf)
    let plan: Outcome<Plan>
    let old = before === undefined ? undefined : documentOf(before)
    if ('title' in from) plan = { ok: true, value: emptyPlan(from.title) }
    else if ('text' in from) {
      const source = parseYaml(from.text, from.file)
      if (!source.ok) return source
      plan = planFromSource(source.value, catalog, from.misfits)
      old = { text: from.text, document: source.value.document }
    } else {
      plan = planFromValue(from.plan, catalog)
      // A plan whose kept text has pieces that the catalogue does not know may go on having them.
      if (!plan.ok && old !== undefined && before !== undefined) {
        const kept = readPlan(before, 'the plan', catalog, 'set-aside')
        if (kept.ok && kept.value.aside !== undefined) plan = planFromValue(from.plan, catalog, 'set-aside')
      }
    }
    if (!plan.ok) return plan
    const titled = title === undefined ? plan.value : { ...plan.value, title }
    const whole = applyEdits(titled, carryUsed(titled, catalog))
    const kept = keepPlan(whole, catalog, old)
    if (!kept.ok) return kept
    remember(kept.value, whole, catalog)
    return {
      ok: true,
      value: {
        title: whole.title,
        text: kept.value.text,
        uses: usedEntries(whole),
        sought: sought(whole, catalog),
        plan: JSON.stringify(whole),
      },
    }
  },

  /** A kept plan as JSON; pieces that the catalogue does not know are set aside. */
  open({ shelf, text, title }: { shelf: ShelfBytes; text: string; title: string }): Outcome<string> {
    const plan = planOf(text, title, catalogOf(shelf))
    return plan.ok ? { ok: true, value: JSON.stringify(plan.value) } : plan
  },

  /** What changed from each kept text to the next, in words; what cannot be read is said as such. */
  changes({ shelf, texts }: { shelf: ShelfBytes; texts: readonly string[] }): string[][] {
    const catalog = catalogOf(shelf)
    const plans = texts.map((text) => planOf(text, 'the plan', catalog))
    return plans.slice(1).map((after, index) => {
      const before = plans[index]!
      if (!before.ok || !after.ok) return ['one of both cannot be read']
      return describeDifference(before.value, after.value, catalog)
    })
  },

  summary({
    shelf,
    text,
    title,
  }: {
    shelf: ShelfBytes
    text: string
    title: string
  }): Outcome<{ readonly summary: PlanSummary; readonly sought: string }> {
    const catalog = catalogOf(shelf)
    const plan = planOf(text, title, catalog)
    if (!plan.ok) return plan
    return {
      ok: true,
      value: { summary: summarise(resolve(plan.value, catalog)), sought: sought(plan.value, catalog) },
    }
  },

  sheet({ shelf, text, as, only, paper, revision }: SheetRequest): SheetAnswer {
    const catalog = catalogOf(shelf)
    const plan = planOf(text, 'the plan', catalog)
    if (!plan.ok) return plan
    try {
      const pages = only === undefined ? undefined : pagesNamed(only)
      return {
        ok: true,
        value: { body: writeSheet(resolve(plan.value, catalog), as, { only: pages, revision, paper }), pages },
      }
    } catch (error) {
      if (error instanceof SheetError) return { wrong: error.message }
      throw error
    }
  },

  /** The search's answer as JSON. Gives its best after `milliseconds`. */
  assign({ shelf, text, milliseconds }: { shelf: ShelfBytes; text: string; milliseconds: number }): Outcome<string> {
    const catalog = catalogOf(shelf)
    const plan = planOf(text, 'the plan', catalog)
    if (!plan.ok) return plan
    const start = performance.now()
    const wiring = resolve(plan.value, catalog)
    const result = assignChoosing(wiring, { shouldStop: () => performance.now() - start > milliseconds })
    const took = Math.round((performance.now() - start) * 10) / 10
    return { ok: true, value: JSON.stringify({ ...assignJson(wiring, result, took), edits: result.edits }) }
  },

  /** Boards or parts as programs get them, all or one; undefined when there is no such entry. */
  catalogue({ shelf, kind, id }: { shelf: ShelfBytes; kind: 'boards' | 'parts'; id?: string }): string | undefined {
    const catalog = catalogOf(shelf)
    if (kind === 'boards') {
      const one =
        id === undefined ? [...catalog.boards.values()].map(boardJson) : mapped(catalog.boards.get(id), boardJson)
      return one && JSON.stringify(one)
    }
    const one = id === undefined ? [...catalog.parts.values()].map(partJson) : mapped(catalog.parts.get(id), partJson)
    return one && JSON.stringify(one)
  },

  /** Reads texts as entries of the maker's own, which may refer to each other and to what is on the shelf. */
  entries({ shelf, texts }: { shelf: ShelfBytes; texts: readonly EntryText[] }): ReadEntry[] {
    return checkEntries(catalogOf(shelf), texts)
  },
}

const mapped = <T, U>(value: T | undefined, make: (value: T) => U): U | undefined =>
  value === undefined ? undefined : make(value)

/** Brings a text to the form in which the search compares: small letters without accents. */
export const fold = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()

/** What the search of the list looks through: the titles of a plan and of its boards. */
function sought(plan: Plan, catalog: Catalog): string {
  const { boards } = catalogFor(plan, catalog)
  const titles = Object.values(plan.boards).map(({ title, board }) => title ?? boards.get(board)?.title ?? board)
  return fold([plan.title, ...titles].join(' '))
}

export type Tasks = typeof tasks
