/** What JSON Schemas are published of; they lie in `docs`. */
export const schemaNames = ['plan', 'board', 'part', 'driver'] as const
export type SchemaName = (typeof schemaNames)[number]
export const schemaFile = (name: SchemaName): string => `${name}.schema.json`

/** Name of the file that describes plans. */
export const SCHEMA_FILE = schemaFile('plan')

/**
 * The comment by which editors that read JSON Schema know what a YAML file holds (the `$schema` modeline of YAML language
 * servers); it must stand in the first line.
 */
const MODELINE = /^# yaml-language-server: \$schema=\S*\r?\n/

/** A plan's text whose first line names its schema, in place of another schema that it named; JSON stays as it is. */
export function withSchemaLine(text: string, schema: string): string {
  if (/^\s*\{/.test(text)) return text
  return `# yaml-language-server: $schema=${schema}\n${text.replace(MODELINE, '')}`
}
