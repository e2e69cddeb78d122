import type { Driver } from '../../catalog/driverSchema.ts'
import type { SourceFile } from '../cpp/preprocess.ts'

const INCLUDES = /^[ \t]*#[ \t]*include[ \t]*[<"]([^>"\n]+)[>"]/gm

/**
 * The libraries that a sketch includes, and those that they include, as files: texts of our own from the drivers. Names
 * with a word of an author before them, with an underscore between, lead to the same text.
 */
export function libraryFiles(drivers: readonly Driver[], files: readonly SourceFile[]): SourceFile[] {
  const program = files.map(({ text }) => text).join('\n')
  const bare = (path: string): string => path.split('/').at(-1) ?? path
  const known = new Set(files.map(({ name }) => bare(name)))
  const found: SourceFile[] = []
  const take = (text: string): void => {
    for (const [, path = ''] of text.matchAll(INCLUDES)) {
      const name = bare(path)
      if (known.has(name)) continue
      const driver = drivers.find(
        (one) =>
          one.text !== undefined &&
          one.headers.some((header) => name === header || (one.prefixed && name.endsWith(`_${header}`))),
      )
      if (driver?.text === undefined) continue
      known.add(name)
      found.push({ name, text: `${aliases(driver, program)}${driver.text}` })
      take(driver.text)
    }
  }
  take(program)
  return found
}

/** What the text defines under the names by which the program writes it. */
function aliases({ prefixed, defines }: Driver, program: string): string {
  if (!prefixed) return ''
  return defines
    .flatMap((name) =>
      [...new Set(Array.from(program.matchAll(new RegExp(`\\b[A-Z]\\w*_${name}\\b`, 'g')), ([written]) => written))]
        .filter((written) => !defines.includes(written))
        .map((written) => `#define ${written} ${name}\n`),
    )
    .join('')
}
