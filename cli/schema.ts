import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type SchemaName, schemaFile } from '../core/plan/schemaLine.ts'
import { projectFolder } from '../node/builtCatalog.ts'
import { print, type Status, writeOut } from './input.ts'

/** A JSON Schema as it is published. */
export function schemaCommand(name: SchemaName, { out }: { readonly out?: string }): Status {
  const text = readFileSync(join(projectFolder(), 'docs', schemaFile(name)), 'utf8')
  if (out === undefined) print(text)
  else writeOut(out, text)
  return 0
}
