import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { formatProblem } from '../core/base/problem.ts'
import { MAX_TEXT_LENGTH } from '../core/base/yamlSource.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import type { Plan } from '../core/plan/planSchema.ts'
import { readPlan } from '../core/plan/readPlan.ts'
import { SCHEMA_FILE, withSchemaLine } from '../core/plan/schemaLine.ts'
import { loadCatalog, projectFolder } from '../node/builtCatalog.ts'
import { codeOf, FileTrouble, readText } from '../node/readText.ts'
import { writeWhole } from '../node/writeWhole.ts'

export type Status = 0 | 1 | 2

/** Input that cannot be used: said on standard error, exit status 2. */
export class InputError extends Error {
  readonly lines: readonly string[]
  constructor(lines: readonly string[]) {
    super(lines.join('\n'))
    this.lines = lines
  }
}

let catalog: Catalog | undefined
export function theCatalog(): Catalog {
  catalog ??= loadCatalog()
  return catalog
}

/** Reads a plan file; any trouble becomes one {@link InputError} with file, place and what was expected. */
export function readPlanFile(file: string): { plan: Plan; text: string } {
  const text = readTextFile(file)
  const plan = readPlan(text, file, theCatalog())
  if (!plan.ok) throw new InputError(plan.problems.map(formatProblem))
  return { plan: plan.value, text }
}

export function readTextFile(file: string, expected = 'a plan in YAML or JSON'): string {
  try {
    return readText(file, MAX_TEXT_LENGTH)
  } catch (error) {
    if (!(error instanceof FileTrouble)) throw error
    throw new InputError([`${file}: ${error.message}; expected ${expected}`])
  }
}

/** Writes a file that was asked for, whole or not at all; what stands in the way becomes one {@link InputError}. */
export function writeOut(file: string, content: string | Buffer): void {
  try {
    writeWhole(file, content)
  } catch (error) {
    throw new InputError([`${file}: cannot be written (${codeOf(error)})`])
  }
}

export const print = (text: string): void => {
  process.stdout.write(text.endsWith('\n') ? text : `${text}\n`)
}

export const printJson = (value: unknown): void => print(JSON.stringify(value, null, 2))

/** Rows in aligned columns. */
export function columns(rows: readonly (readonly string[])[]): string {
  const widths = rows.reduce<number[]>(
    (all, row) => row.map((cell, index) => Math.max(all[index] ?? 0, cell.length)),
    [],
  )
  return rows
    .map((row) =>
      row
        .map((cell, index) => (index === row.length - 1 ? cell : cell.padEnd(widths[index] ?? 0)))
        .join('  ')
        .trimEnd(),
    )
    .join('\n')
}

/** Version of the program, as its package says. */
export const version = (): string =>
  (JSON.parse(readFileSync(join(projectFolder(), 'package.json'), 'utf8')) as { version: string }).version

/** Writes a plan; where its schema lies beside it, the first line names that for editors. */
export function writePlanOut(file: string, text: string): void {
  const hasSchema = existsSync(join(dirname(file), SCHEMA_FILE))
  writeOut(file, hasSchema ? withSchemaLine(text, `./${SCHEMA_FILE}`) : text)
}
