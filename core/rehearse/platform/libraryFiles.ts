import type { Driver } from '../../catalog/driverSchema.ts'
import type { SourceFile } from '../cpp/preprocess.ts'
import { lineAt } from '../cpp/tokens.ts'

const INCLUDES = /^[ \t]*#[ \t]*include[ \t]*[<"]([^>"\n]+)[>"]/gm

/** What a text of ours stands for, and what must be known of it. */
export interface LibraryFile extends SourceFile {
  readonly notice: string | undefined
  /** Feature that the board must have. */
  readonly feature: string | undefined
  /** Place of the sketch that includes it; undefined where another text does. */
  readonly at: number | undefined
}

/**
 * The libraries that a sketch includes, and those that they include, as files: texts of our own from the drivers. Names
 * with a word of an author before them, with an underscore between, lead to the same text.
 */
export function libraryFiles(drivers: readonly Driver[], files: readonly SourceFile[]): LibraryFile[] {
  const program = files.map(({ text }) => text).join('\n')
  const bare = (path: string): string => path.split('/').at(-1) ?? path
  const known = new Set(files.map(({ name }) => bare(name)))
  const found: LibraryFile[] = []
  const take = (text: string, file: number | undefined): void => {
    for (const { 1: path = '', index } of text.matchAll(INCLUDES)) {
      const name = bare(path)
      if (known.has(name)) continue
      const driver = drivers.find(
        (one) =>
          one.text !== undefined &&
          one.headers.some((header) => name === header || (one.prefixed && name.endsWith(`_${header}`))),
      )
      if (driver?.text === undefined) continue
      known.add(name)
      const at = file === undefined ? undefined : lineAt(file, text.slice(0, index).split('\n').length)
      found.push({
        name,
        text: `${aliases(driver, program)}${driver.text}`,
        notice: driver.notice,
        feature: driver.feature,
        at,
      })
      take(driver.text, undefined)
    }
  }
  for (const [file, { text }] of files.entries()) take(text, file)
  return found
}

/** What the text defines under the names by which the program writes it. */
function aliases({ prefixed, defines, patterns }: Driver, program: string): string {
  const written = (pattern: string): string[] => [
    ...new Set(Array.from(program.matchAll(new RegExp(`\\b(?:${pattern})\\b`, 'g')), ([name]) => name)),
  ]
  const named = prefixed ? defines.map((name) => [`[A-Z]\\w*_${name}`, name] as const) : []
  return [...named, ...Object.entries(patterns)]
    .flatMap(([pattern, stands]) =>
      written(pattern)
        .filter((name) => !defines.includes(name))
        .map((name) => `#define ${name} ${stands}\n`),
    )
    .join('')
}
