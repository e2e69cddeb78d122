import { plainProblems } from '../base/plainValue.ts'
import type { Outcome, Problem } from '../base/problem.ts'
import {
  MOST_PROBLEMS,
  type Path,
  parseYaml,
  quoteValue,
  validateValue,
  validateYaml,
  type YamlSource,
} from '../base/yamlSource.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { editDistance } from '../catalog/names.ts'
import type { PartOption } from '../catalog/partSchema.ts'
import { boardOf } from '../catalog/variant.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { expectedOptionAmount, parseOptionAmount } from '../electrical/quantity.ts'
import { type Bound, type Misfit, setAside } from './aside.ts'
import { carriedProblems, catalogFor } from './carried.ts'
import { canonicalEnd, splitEnd } from './ends.ts'
import { type Bench, type BenchPlace, MAX_REFS, MAX_WIRES, Plan, type PlanPart } from './planSchema.ts'

/**
 * What to do with pieces that the catalogue does not know. A text that a maker hands in is refused, with the place of
 * each; a plan that is kept already is opened all the same, with those pieces set aside (see `aside.ts`).
 */
export type Misfits = 'refuse' | 'set-aside'

/**
 * Reads a plan from YAML or JSON and binds it to the catalogue: every end becomes canonical, every option a value of
 * its part. A plan that comes back is well-formed: all later steps may rely on it.
 */
export function readPlan(text: string, file: string, catalog: Catalog, misfits: Misfits = 'refuse'): Outcome<Plan> {
  const parsed = parseYaml(text, file)
  return parsed.ok ? planFromSource(parsed.value, catalog, misfits) : parsed
}

/** The same from a text that is parsed already. */
export function planFromSource(source: YamlSource, catalog: Catalog, misfits: Misfits = 'refuse'): Outcome<Plan> {
  const version = (source.value as { markpost?: unknown } | null)?.markpost
  if (source.value === null || typeof source.value !== 'object' || Array.isArray(source.value) || version === undefined)
    return { ok: false, problems: [source.problemAt([], 'not a plan: expected a map that starts with "markpost: 1"')] }
  if (version !== 1)
    return {
      ok: false,
      problems: [source.problemAt(['markpost'], `format version ${quoteValue(version)} is not known; expected 1`)],
    }
  const validated = validateYaml(source, Plan)
  if (!validated.ok) return validated
  return bindPlan(validated.value, catalog, source.problemAt, misfits)
}

/** Checks and binds a plan that came as a value, such as one posted by the browser. */
export function planFromValue(value: unknown, catalog: Catalog, misfits: Misfits = 'refuse'): Outcome<Plan> {
  const plain = plainProblems(value)
  if (plain.length > 0)
    return { ok: false, problems: plain.map(({ path, message }) => problemWithoutText(path, message)) }
  const shaped = validateValue(value, Plan, problemWithoutText)
  return shaped.ok ? bindPlan(shaped.value, catalog, problemWithoutText, misfits) : shaped
}

const problemWithoutText = (path: Path, message: string): Problem => ({ file: 'plan', path: path.join('.'), message })

/** Binds a plan of the right shape to the catalogue. */
export function bindPlan(
  plan: Plan,
  base: Catalog,
  problemAt: YamlSource['problemAt'] = problemWithoutText,
  misfits: Misfits = 'refuse',
): Outcome<Plan> {
  const { aside = [], ...rest } = plan
  const first = tryBind(rest, base)
  if (!('misfits' in first) && aside.length === 0) return { ok: true, value: first.plan }
  if ('misfits' in first && misfits === 'refuse') return refused(first.misfits, problemAt)
  const fitted = setAside(rest, aside, (one) => tryBind(one, base))
  return 'misfits' in fitted ? refused(fitted.misfits, problemAt) : { ok: true, value: fitted.plan }
}

function refused(misfits: readonly Misfit[], problemAt: YamlSource['problemAt']): Outcome<Plan> {
  const problems = misfits.slice(0, MOST_PROBLEMS).map(({ path, message }) => problemAt(path, message))
  const more = misfits.length - problems.length
  if (more > 0) problems.push(problemAt([], `${more.toLocaleString('en')} more of the same text do not fit`))
  return { ok: false, problems }
}

/** Binds what fits the catalogue; what does not is named by its path in the plan. */
function tryBind(plan: Plan, base: Catalog): Bound {
  const problems: Misfit[] = []
  const say = (path: Path, message: string): void => {
    problems.push({ path, message })
  }
  const carried = carriedProblems(plan, base)
  if (carried.length > 0) return { misfits: [...carried] }
  const catalog = catalogFor(plan, base)
  checkRefs(plan, say)
  for (const [ref, entry] of Object.entries(plan.boards)) {
    const board = boardOf(catalog, entry)
    if (!board) {
      say(['boards', ref, 'board'], unknownEntry('board', entry.board, [...catalog.boards.keys()]))
      continue
    }
    const models = catalog.boards.get(entry.board)?.variants.map((one) => one.id) ?? []
    if (entry.variant !== undefined && !models.includes(entry.variant))
      say(
        ['boards', ref, 'variant'],
        `${entry.board} has no variant "${entry.variant}"; expected ${models.length > 0 ? `one of ${models.join(', ')}` : 'none'}`,
      )
    entry.uses?.forEach((feature, index) => {
      const known = board.features.map((one) => one.id)
      if (!known.includes(feature))
        say(
          ['boards', ref, 'uses', index],
          `${board.id} has no feature "${feature}"; expected one of ${known.join(', ')}`,
        )
    })
    const known = board.controllers.filter((one) => one.kind === 'i2c').map((one) => one.id)
    for (const id of Object.keys(entry.clocks ?? {}))
      if (!known.includes(id))
        say(
          ['boards', ref, 'clocks', id],
          `${entry.board} has no I2C controller "${id}"; expected one of ${known.join(', ')}`,
        )
  }
  for (const ref of Object.keys(plan.rehearsal?.programs ?? {}))
    if (!Object.hasOwn(plan.boards, ref)) say(['rehearsal', 'programs', ref], `"${ref}" is no board of this plan`)
  const parts: Record<string, PlanPart> = {}
  for (const [ref, entry] of Object.entries(plan.parts)) parts[ref] = bindPart(plan, ref, entry, catalog, say)
  if (problems.length > 0) return { misfits: problems }

  const bound = { ...plan, parts }
  const bind = (end: string, path: Path): string => {
    const result = canonicalEnd(bound, catalog, end)
    if (result.ok) return result.end
    say(path, result.message)
    return end
  }
  const seen = new Map<string, number>()
  const wires = plan.wires.map((wire, index) => {
    const from = bind(wire[0], ['wires', index, 0])
    const to = bind(wire[1], ['wires', index, 1])
    const key = [from, to].sort().join(' ')
    if (from === to) say(['wires', index], `the wire joins ${from} with itself`)
    else if (seen.has(key))
      say(['wires', index], `the same wire as number ${(seen.get(key) as number) + 1}: ${from} to ${to}`)
    seen.set(key, index)
    return wire[2] === undefined
      ? ([from, to] satisfies Plan['wires'][number])
      : ([from, to, wire[2]] satisfies Plan['wires'][number])
  })
  const unused = plan.unused.map((end, index) => bind(end, ['unused', index]))
  const names = Object.entries(plan.names ?? {}).map(([end, name]) => [bind(end, ['names', end]), name] as const)
  const bench =
    plan.bench &&
    bindBench(
      plan,
      plan.bench,
      (ref, pin) => {
        const result = canonicalEnd(bound, catalog, `${ref}.${pin}`)
        return result.ok ? splitEnd(result.end).pin : undefined
      },
      bind,
      say,
    )
  if (problems.length > 0) return { misfits: problems }
  // What a comment is pinned to may be gone; where it is there, it is called by its id.
  const pinned = (place: string): string => {
    const result = canonicalEnd(bound, catalog, place)
    return result.ok ? result.end : place
  }
  const comments = Object.entries(plan.comments ?? {}).map(([id, one]) => [id, { ...one, at: one.at.map(pinned) }])
  return {
    plan: {
      ...bound,
      ...(plan.comments ? { comments: Object.fromEntries(comments) as Plan['comments'] } : {}),
      wires,
      unused: [...new Set(unused)],
      ...(bench ? { bench } : {}),
      ...(plan.names ? { names: Object.fromEntries(names) } : {}),
    },
  }
}

type Say = (path: Path, message: string) => void

/** Places must name what the plan has and holes of breadboards that are there; legs get their pin's id. */
function bindBench(
  plan: Plan,
  bench: Bench,
  pinOf: (ref: string, pin: string) => string | undefined,
  bind: (end: string, path: Path) => string,
  say: Say,
): Bench {
  const breadboards = Object.keys(bench.breadboards)
  const hole = (text: string, path: Path): void => {
    const ref = splitEnd(text).ref
    if (!breadboards.includes(ref))
      say(
        path,
        `"${text}": the bench has no breadboard ${ref}; ${breadboards.length > 0 ? `expected one of ${breadboards.join(', ')}` : 'it has none'}`,
      )
  }
  for (const [ref, entry] of Object.entries(bench.breadboards))
    if (entry.for !== undefined && !Object.hasOwn(plan.boards, entry.for))
      say(['bench', 'breadboards', ref, 'for'], `"${entry.for}" is no board of this plan`)
  const places = Object.entries(bench.places).map(([ref, place]): [string, BenchPlace] => {
    const path: Path = ['bench', 'places', ref]
    if (![plan.boards, plan.supplies, plan.parts].some((entries) => Object.hasOwn(entries, ref))) {
      say(path, `"${ref}" is no board, supply or part of this plan`)
      return [ref, place]
    }
    if (place.at !== undefined) hole(place.at, [...path, 'at'])
    if (!place.legs) return [ref, place]
    const legs: Record<string, string> = {}
    for (const [pin, at] of Object.entries(place.legs)) {
      hole(at, [...path, 'legs', pin])
      const id = pinOf(ref, pin)
      if (id === undefined) say([...path, 'legs', pin], `${ref} has no leg "${pin}"`)
      else legs[id] = at
    }
    return [ref, { ...place, legs }]
  })
  const via = Object.entries(bench.via ?? {}).map(([end, at]): [string, string] => {
    hole(at, ['bench', 'via', end])
    return [bind(end, ['bench', 'via', end]), at]
  })
  return { ...bench, places: Object.fromEntries(places), ...(bench.via ? { via: Object.fromEntries(via) } : {}) }
}

function checkRefs(plan: Plan, say: Say): void {
  const sections = ['boards', 'supplies', 'parts'] as const
  const owner = new Map<string, string>()
  let count = 0
  const named = [
    ...sections.flatMap((section) =>
      Object.keys(plan[section]).map((ref) => ({ section: section as string, ref, path: [section, ref] })),
    ),
    ...Object.keys(plan.bench?.breadboards ?? {}).map((ref) => ({
      section: 'bench',
      ref,
      path: ['bench', 'breadboards', ref],
    })),
  ]
  for (const { section, ref, path } of named) {
    count += 1
    const key = ref.toUpperCase()
    const before = owner.get(key)
    if (before)
      say(
        path,
        `the reference ${ref} stands twice, in ${before} and in ${section}; references are unique over boards, supplies, parts and breadboards`,
      )
    owner.set(key, section)
  }
  if (count > MAX_REFS) say([], `the plan has ${count} boards, supplies and parts; expected at most ${MAX_REFS}`)
  if (plan.wires.length > MAX_WIRES)
    say(['wires'], `the plan has ${plan.wires.length} wires; expected at most ${MAX_WIRES}`)
}

function bindPart(plan: Plan, ref: string, entry: PlanPart, catalog: Catalog, say: Say): PlanPart {
  const part = catalog.parts.get(entry.part)
  if (!part) {
    say(['parts', ref, 'part'], unknownEntry('part', entry.part, [...catalog.parts.keys()]))
    return entry
  }
  if (entry.mode !== undefined && !part.modes.some((mode) => mode.id === entry.mode)) {
    const known = part.modes.map((mode) => mode.id)
    say(
      ['parts', ref, 'mode'],
      `${part.id} has no mode "${entry.mode}"; ${known.length > 0 ? `expected one of ${known.join(', ')}` : 'it has only one way to be wired'}`,
    )
  }
  if (entry.on !== undefined && !Object.hasOwn(plan.boards, entry.on))
    say(['parts', ref, 'on'], `"${entry.on}" is no board of this plan`)
  if (!entry.options) return entry
  const options: Record<string, string | number> = {}
  for (const [id, written] of Object.entries(entry.options)) {
    const option = part.options.find((one) => one.id === id)
    if (!option) {
      say(
        ['parts', ref, 'options', id],
        `${part.id} has no option "${id}"; ${part.options.length > 0 ? `expected one of ${part.options.map((one) => one.id).join(', ')}` : 'it has none'}`,
      )
      continue
    }
    const value = optionValue(option, written)
    if (value.ok) options[id] = value.value
    else say(['parts', ref, 'options', id], value.message)
  }
  return { ...entry, options }
}

/** Brings a written option value (`4k7`, `0x76`, `RED`) to the value that the catalogue uses. */
export function optionValue(
  option: PartOption,
  written: string | number,
): { ok: true; value: string | number } | { ok: false; message: string } {
  if (option.kind === 'amount') {
    const amount = typeof written === 'number' ? written : parseOptionAmount(written, option.unit)
    if (amount === undefined)
      return {
        ok: false,
        message: `${quoteValue(written)} is not an amount; expected ${expectedOptionAmount(option.unit)}`,
      }
    if (option.least !== undefined && amount < option.least)
      return { ok: false, message: `${written} is too small; expected at least ${option.least}` }
    if (option.most !== undefined && amount > option.most)
      return { ok: false, message: `${written} is too large; expected at most ${option.most}` }
    return { ok: true, value: amount }
  }
  const wanted = String(written).toLowerCase()
  const asNumber = option.kind === 'i2c-address' ? Number(written) : Number.NaN
  const found = option.values.find((one) => String(one.value).toLowerCase() === wanted || one.value === asNumber)
  if (found) return { ok: true, value: found.value }
  const show = (value: string | number): string =>
    option.kind === 'i2c-address' ? hexAddress(Number(value)) : String(value)
  const shown = option.kind === 'i2c-address' && Number.isFinite(asNumber) ? hexAddress(asNumber) : `"${written}"`
  return {
    ok: false,
    message: `${shown} is no value of ${option.id}; expected one of ${option.values.map((one) => show(one.value)).join(', ')}`,
  }
}

function unknownEntry(kind: string, id: string, known: readonly string[]): string {
  const near = known.map((one) => ({ one, distance: editDistance(one, id) })).sort((a, b) => a.distance - b.distance)[0]
  const hint =
    near && near.distance <= Math.max(2, id.length / 3)
      ? `; did you mean ${near.one}?`
      : '; see the catalogue for what there is'
  return `the catalogue has no ${kind} "${id}"${hint}`
}
