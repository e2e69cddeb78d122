import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { parse, stringify } from 'yaml'
import { fixesFor } from '../advice/fixes.ts'
import { assign } from '../assign/assign.ts'
import { applyEdits } from '../plan/edit.ts'
import { addBoard, addParts } from '../plan/kit.ts'
import { emptyPlan } from '../plan/planSchema.ts'
import { bindPlan, readPlan } from '../plan/readPlan.ts'
import { writePlan } from '../plan/writePlan.ts'
import { check } from '../rules/index.ts'
import { makeSheet } from '../sheets/sheet.ts'
import { catalog } from '../testing/plans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { makeCatalog } from './catalog.ts'
import { type EntryKind, readOwnEntry, validateEntry } from './ownEntry.ts'

const text = (kind: EntryKind, id: string): string => readFileSync(`catalog/${kind}/${id}.yaml`, 'utf8')
const rawOf = (kind: EntryKind, id: string): object => parse(text(kind, id), { maxAliasCount: 100 })

/** A plan with one board and some of a part, entries of the maker's own carried along. */
function planWith(kind: EntryKind, raw: unknown) {
  const read = validateEntry(kind, raw, catalog)
  if (!read.ok) return undefined
  const own = { boards: {}, parts: {}, [kind]: { [read.value.entry.id]: raw } }
  const all = makeCatalog(
    [...catalog.boards.values(), ...(read.value.kind === 'boards' ? [read.value.entry] : [])],
    [...catalog.parts.values(), ...(read.value.kind === 'parts' ? [read.value.entry] : [])],
    own,
  )
  const board = read.value.kind === 'boards' ? read.value.entry : catalog.boards.get('uno-r3')!
  const part = read.value.kind === 'parts' ? read.value.entry : catalog.parts.get('bme280')!
  let plan = applyEdits(emptyPlan('own'), addBoard(emptyPlan('own'), all, board))
  plan = applyEdits(plan, addParts(plan, all, part, 2))
  return plan
}

it('a plan carries what it uses and opens where the entry is not known', () => {
  const raw = { ...rawOf('parts', 'bme280'), id: 'loft-air', stem: 'LOFT' }
  const plan = planWith('parts', raw)!
  expect(Object.keys(plan.own!.parts)).toEqual(['loft-air'])
  const file = writePlan(plan, catalog)
  expect(file).toContain('own:')
  const opened = readPlan(file, 'f', catalog)
  expect(opened).toMatchObject({ ok: true, value: { parts: { LOFT1: { part: 'loft-air' } } } })
  const wiring = resolve(plan, catalog)
  expect(wiring.parts[0]?.part.id).toBe('loft-air')
  expect(assign(wiring).status).toBe('placed')
})

it('a carried entry that does not hold is said with its place in the plan', () => {
  const plan = planWith('parts', { ...rawOf('parts', 'bme280'), id: 'loft-air', stem: 'LOFT' })!
  const broken = {
    ...plan,
    own: { boards: {}, parts: { 'loft-air': { ...(plan.own!.parts['loft-air'] as object), pins: 3 } } },
  }
  const bound = bindPlan(broken, catalog)
  expect(bound.ok || bound.problems[0]).toMatchObject({ path: 'own.parts.loft-air.pins' })
})

it('says line and key of what is wrong', () => {
  const wrong = text('parts', 'bme280').replace('role: supply', 'role: suply')
  const read = readOwnEntry('parts', wrong, 'mine.yaml', catalog)
  expect(read.ok || read.problems[0]).toMatchObject({
    line: wrong.split('\n').findIndex((line) => line.includes('suply')) + 1,
    path: expect.stringMatching(/^pins\.\d+\.role$/),
    message: expect.stringContaining('"suply"'),
  })
})

it.each<[string, EntryKind, string, (raw: string) => string, RegExp]>([
  [
    'a need that objects inherit',
    'parts',
    'led',
    (raw) => raw.replace(/needs: [\w-]+/, 'needs: constructor'),
    /signals\.0\.needs/,
  ],
  [
    'an ability that objects inherit',
    'parts',
    'mcp23017',
    (raw) => raw.replace(/does: \[[^\]]*\]/, 'does: [constructor]'),
    /provides\.0\.does/,
  ],
  [
    'a pin ability that objects inherit',
    'boards',
    'uno-r3',
    (raw) => raw.replace(/does: \[[^\]]*\]/, 'does: [toString]'),
    /does/,
  ],
  [
    'a span without end',
    'parts',
    'resistor',
    (raw) => raw.replace(/spanMost: \S+?(?=[,\s}])/, 'spanMost: 1e308'),
    /footprint.*(pitches|fact)/,
  ],
  [
    'a span that ends before it starts',
    'parts',
    'resistor',
    (raw) => raw.replace(/spanLeast: \S+?(?=[,\s}])/, 'spanLeast: 199'),
    /span of the legs ends before/,
  ],
  [
    'something between a pin and itself',
    'parts',
    'resistor',
    (raw) => raw.replace(/between: \[(\S+), \S+\]/, 'between: [$1, $1]'),
    /with itself/,
  ],
  [
    'a stem without end',
    'parts',
    'led',
    (raw) => raw.replace(/stem: \w+/, `stem: ${'L'.repeat(5000)}`),
    /stem: expected at most 20/,
  ],
  [
    'an id without end',
    'parts',
    'led',
    (raw) => raw.replace(/^id: \w+/m, `id: ${'l'.repeat(150_000)}`),
    /id: expected at most 80/,
  ],
  [
    'a companion without end',
    'parts',
    'led',
    (raw) => raw.replace('part: resistor', `part: ${'r'.repeat(150_000)}`),
    /expected at most 80|at most 200,000/,
  ],
  [
    'forty thousand keys',
    'parts',
    'led',
    (raw) => `${raw}\n${Array.from({ length: 18_000 }, (_, n) => `k${n}: 1`).join('\n')}`,
    /unknown key "k0"/,
  ],
])('%s: refused with words, in no time', (_, kind, id, spoil, said) => {
  const spoiled = spoil(text(kind, id))
  expect(spoiled).not.toBe(text(kind, id))
  const start = performance.now()
  const read = readOwnEntry(kind, spoiled, 'mine.yaml', catalog)
  expect(read.ok ? [] : read.problems.map(({ path, message }) => `${path}: ${message}`).join('\n')).toMatch(said)
  // Seconds, not the minutes that it took; no measurement.
  expect(performance.now() - start).toBeLessThan(5000)
})

/** Every shipped entry read back from what was written is the same entry: the schema loses nothing. */
it.each(['boards', 'parts'] as const)('%s survive being written as YAML and read again', (kind) => {
  for (const [id, entry] of catalog[kind]) {
    const read = readOwnEntry(kind, stringify(rawOf(kind, id)), id, catalog)
    expect(read.ok && read.value.entry).toEqual(entry)
  }
})

const entries = [
  ...[...catalog.parts.keys()].map((id) => ['parts', id] as const),
  ...[...catalog.boards.keys()].map((id) => ['boards', id] as const),
]
/** Any value inside an entry, by a walk of random turns. */
function change(value: unknown, turns: readonly number[], act: number): unknown {
  if (turns.length === 0 || value === null || typeof value !== 'object') {
    const near =
      typeof value === 'number'
        ? [0, value * 2, value / 2, value + 1, 1e9]
        : typeof value === 'boolean'
          ? [!value]
          : ['X', 'A', 'pull-up', 'free', 'some words']
    const others = [...near, ...near, undefined, undefined, -1, '', [], {}, null]
    return others[act % others.length]
  }
  const [turn = 0, ...rest] = turns
  if (Array.isArray(value)) {
    if (value.length === 0) return value
    const at = turn % value.length
    if (rest.length === 0 && act % 3 === 0) return value.filter((_, index) => index !== at)
    if (rest.length === 0 && act % 3 === 1) return [...value, value[at]]
    return value.map((one, index) => (index === at ? change(one, rest, act) : one))
  }
  const keys = Object.keys(value)
  const key = keys[turn % Math.max(1, keys.length)]
  if (key === undefined) return value
  return Object.fromEntries(
    Object.entries(value)
      .map(([one, inner]) => [one, one === key ? change(inner, rest, act) : inner] as const)
      .filter(([, inner]) => inner !== undefined),
  )
}

it('cannot break anything, whatever it holds', () => {
  let accepted = 0
  fc.assert(
    fc.property(
      fc.constantFrom(...entries),
      fc.array(fc.tuple(fc.array(fc.nat(60), { minLength: 1, maxLength: 5 }), fc.nat(60)), {
        minLength: 1,
        maxLength: 2,
      }),
      ([kind, id], changes) => {
        const raw = changes.reduce<unknown>((now, [turns, act]) => change(now, turns, act), {
          ...rawOf(kind, id),
          id: 'own-entry',
        })
        const plan = planWith(kind, raw)
        if (!plan) return
        accepted += 1
        const bound = bindPlan(plan, catalog)
        expect(bound.ok || bound.problems).toBe(true)
        const wiring = resolve(plan, catalog)
        const after = resolve(applyEdits(plan, assign(wiring).edits), catalog)
        const findings = check(after)
        for (const finding of findings) fixesFor(after, finding, findings)
        makeSheet(after)
      },
    ),
    { numRuns: times(400) },
  )
  expect(accepted).toBeGreaterThan(60)
})
