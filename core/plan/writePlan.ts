import { Document, isMap, isNode, isSeq, Scalar, YAMLMap, YAMLSeq } from 'yaml'
import type { Outcome } from '../base/problem.ts'
import { parseYaml } from '../base/yamlSource.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { catalogFor } from './carried.ts'
import type { Bench, BringUp, Plan, PlanPart, Rehearsal } from './planSchema.ts'
import { planFromSource } from './readPlan.ts'
import { samePlan } from './samePlan.ts'

/**
 * Writes a plan as YAML. Given the text that it was read from, everything that did not change stays as it was written,
 * comments and order included; only entries that differ are written anew, in the canonical form. The text is proven to
 * read back as this plan; where the old text stands in the way of that (a name for a value that is gone, say), the plan
 * is written without it.
 */
export function writePlan(plan: Plan, catalog: Catalog, before?: string): string {
  if (before !== undefined) {
    const parsed = parseYaml(before, 'the plan')
    const kept = parsed.ok ? keepPlan(plan, catalog, { text: before, document: parsed.value.document }) : undefined
    if (kept?.ok) return kept.value.text
  }
  return planText(plan, catalog, new Document({}))
}

/** A text as it is kept, with its document, which the next save writes into. */
export interface KeptText {
  readonly text: string
  readonly document: Document
}

/**
 * The text under which a plan is kept, proven to read back as the same plan with the same reader and limits; otherwise
 * the problems that the reader has with it. A document that is written into is used up, whatever comes of it.
 */
export function keepPlan(plan: Plan, catalog: Catalog, before: KeptText | undefined): Outcome<KeptText> {
  let refused: Outcome<KeptText> | undefined
  for (const text of candidateTexts(plan, catalog, before)) {
    const parsed = parseYaml(text, 'the plan as it would be written')
    if (!parsed.ok) {
      refused = parsed
      continue
    }
    const read = planFromSource(parsed.value, catalog, 'set-aside')
    if (!read.ok) refused = read
    else if (samePlan(read.value, plan)) return { ok: true, value: { text, document: parsed.value.document } }
    else
      refused = {
        ok: false,
        problems: [{ file: 'the plan', path: '', message: 'read back from its text it would not say the same' }],
      }
  }
  return refused as Outcome<KeptText>
}

/** Texts of a plan, the one that keeps most of the old text first. */
function* candidateTexts(plan: Plan, catalog: Catalog, before: KeptText | undefined): Generator<string> {
  if (before) {
    let text: string | undefined
    try {
      text = planText(plan, catalog, before.document)
    } catch {
      // The old text holds names for values (`&lamp`, `*lamp`) that the change took away.
    }
    if (text !== undefined) {
      const spaced = keepSpacing(text, before.text)
      yield spaced
      if (spaced !== text) yield text
    }
  }
  yield planText(plan, catalog, new Document({}))
}

function planText(plan: Plan, catalog: Catalog, document: Document): string {
  if (!isMap(document.contents)) document.contents = new YAMLMap(document.schema) as unknown as typeof document.contents
  const root = document.contents as unknown as YAMLMap
  const writer = new Writer(document, catalogFor(plan, catalog))

  writer.value(root, 'markpost', plan.markpost)
  writer.value(root, 'title', plan.title)
  writer.value(root, 'notes', plan.notes === undefined || plan.notes === '' ? undefined : plan.notes)
  for (const section of ['boards', 'supplies', 'parts'] as const) writer.map(root, section, plan[section])
  writer.list(root, 'wires', plan.wires, false)
  writer.list(root, 'unused', plan.unused, true)
  writer.list(root, 'accepted', plan.accepted, false)
  writer.nested(root, 'bench', plan.bench && withoutEmpty(plan.bench))
  writer.value(root, 'settings', plan.settings)
  writer.value(root, 'names', plan.names && Object.keys(plan.names).length > 0 ? plan.names : undefined)
  writer.nested(root, 'bringup', plan.bringup && withoutEmpty(plan.bringup))
  writer.nested(root, 'rehearsal', plan.rehearsal && withoutEmpty(plan.rehearsal), { programs: 'text', steps: 'lines' })
  writer.map(root, 'comments', plan.comments ?? {})
  writer.list(root, 'aside', plan.aside ?? [], false)
  writer.value(root, 'own', plan.own && prunedOwn(plan.own))
  return document.toString({ lineWidth: 0, flowCollectionPadding: true })
}

/** A section without what is empty in it. */
const withoutEmpty = (section: Bench | BringUp | Rehearsal): Readonly<Record<string, unknown>> =>
  Object.fromEntries(
    Object.entries(section).filter(
      ([, value]) => value !== undefined && (typeof value !== 'object' || Object.keys(value).length > 0),
    ),
  )

/** Without sections that hold nothing; undefined when nothing is left. */
function prunedOwn(own: NonNullable<Plan['own']>): object | undefined {
  const filled = Object.entries(own).filter(([, entries]) => Object.keys(entries).length > 0)
  return filled.length === 0 ? undefined : Object.fromEntries(filled)
}

/** Gives lines that differ only in their spacing back as they were written. */
function keepSpacing(text: string, before: string): string {
  const bare = (line: string): string => line.replace(/\s+/g, '')
  const lines = new Set(before.split('\n'))
  const written = new Map([...lines].map((line) => [bare(line), line]))
  return (
    text
      .split('\n')
      // Lines of a program may differ in nothing but how deep they stand.
      .map((line) => (bare(line) === '' || lines.has(line) ? line : (written.get(bare(line)) ?? line)))
      .join('\n')
  )
}

class Writer {
  readonly #document: Document
  readonly #catalog: Catalog
  constructor(document: Document, catalog: Catalog) {
    this.#document = document
    this.#catalog = catalog
  }

  value(root: YAMLMap, key: string, value: unknown): void {
    if (value === undefined) root.delete(key)
    else if (!same(this.#plain(root.get(key, true)), value)) root.set(key, this.#document.createNode(value))
  }

  /** A section of sections: breadboards and places an entry a line; programs as the text that they are. */
  nested(
    root: YAMLMap,
    key: string,
    value: Readonly<Record<string, unknown>> | undefined,
    as: Readonly<Record<string, 'text' | 'lines'>> = {},
  ): void {
    if (value === undefined) {
      root.delete(key)
      return
    }
    const old: unknown = root.get(key, true)
    const map = isMap(old) && !old.flow ? old : new YAMLMap(this.#document.schema)
    if (map !== old) root.set(key, map)
    for (const pair of [...map.items])
      if (!Object.hasOwn(value, String((pair.key as Scalar).value))) map.delete(pair.key)
    for (const [name, entry] of Object.entries(value))
      if (as[name] === 'text') this.value(map as YAMLMap, name, entry)
      else if (Array.isArray(entry)) this.list(map as YAMLMap, name, entry, as[name] !== 'lines')
      else if (typeof entry === 'object') this.map(map as YAMLMap, name, entry as Readonly<Record<string, object>>)
      else this.value(map as YAMLMap, name, entry)
  }

  map(root: YAMLMap, key: string, entries: Readonly<Record<string, object>>): void {
    if (Object.keys(entries).length === 0) {
      root.delete(key)
      return
    }
    const old: unknown = root.get(key, true)
    const map = isMap(old) && !old.flow ? old : new YAMLMap(this.#document.schema)
    if (map !== old) root.set(key, map)
    const pairs = new Map(map.items.map((pair) => [String((pair.key as Scalar).value), pair]))
    map.items = Object.entries(entries).map(([ref, entry]) => {
      const pair = pairs.get(ref)
      if (pair && same(this.#plain(pair.value), entry)) return pair
      const node = this.#entry(entry)
      if (!pair) return this.#document.createPair(ref, node)
      if (isNode(pair.value)) node.comment = pair.value.comment
      pair.value = node
      return pair
    })
  }

  list(root: YAMLMap, key: string, entries: readonly unknown[], flow: boolean): void {
    if (entries.length === 0) {
      root.delete(key)
      return
    }
    const old: unknown = root.get(key, true)
    const list = isSeq(old) ? old : new YAMLSeq(this.#document.schema)
    if (list !== old) {
      root.set(key, list)
      list.flow = flow
    }
    const kept = new Map<string, unknown>()
    for (const item of list.items) kept.set(JSON.stringify(this.#plain(item)), item)
    list.items = entries.map((entry) => kept.get(JSON.stringify(entry)) ?? this.#entry(entry as object))
  }

  /** One entry on one line, addresses in hexadecimal. */
  #entry(entry: object): YAMLMap | YAMLSeq | Scalar {
    const node = this.#document.createNode(entry, { flow: true }) as YAMLMap | YAMLSeq | Scalar
    const part = this.#catalog.parts.get((entry as Partial<PlanPart>).part ?? '')
    for (const option of part?.options ?? []) {
      if (option.kind !== 'i2c-address' || !isMap(node)) continue
      const value = node.getIn(['options', option.id], true)
      if (value instanceof Scalar && typeof value.value === 'number') value.format = 'HEX'
    }
    return node
  }

  #plain(node: unknown): unknown {
    return isNode(node) ? node.toJS(this.#document) : undefined
  }
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
