import { closeSync, fstatSync, openSync, readFileSync, realpathSync } from 'node:fs'
import type { Catalog } from '../core/catalog/catalog.ts'
import type { Plan } from '../core/plan/planSchema.ts'
import { readPlan } from '../core/plan/readPlan.ts'
import { formatProblem } from '../core/text/problem.ts'
import { MAX_TEXT_LENGTH } from '../core/text/yamlSource.ts'
import { loadCatalog } from '../server/builtCatalog.ts'

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

function readTextFile(file: string): string {
  try {
    const handle = openSync(realpathSync(file), 'r')
    try {
      const facts = fstatSync(handle)
      if (!facts.isFile()) throw new InputError([`${file}: not a file; expected a plan in YAML or JSON`])
      if (facts.size > MAX_TEXT_LENGTH * 4)
        throw new InputError([
          `${file}: the file has ${facts.size.toLocaleString('en')} bytes; expected at most ${MAX_TEXT_LENGTH.toLocaleString('en')}`,
        ])
      return readFileSync(handle, 'utf8')
    } finally {
      closeSync(handle)
    }
  } catch (error) {
    if (error instanceof InputError) throw error
    const code = (error as NodeJS.ErrnoException).code
    throw new InputError([
      `${file}: ${code === 'ENOENT' ? 'there is no such file' : `cannot be read (${code ?? String(error)})`}; expected a plan in YAML or JSON`,
    ])
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
