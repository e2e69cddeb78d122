import type { Language } from '../../core/catalog/boardSchema.ts'
import { languageOfFiles } from '../../core/firmware/source/guessLanguage.ts'
import type { SourceFile } from '../../core/firmware/source/ir.ts'

/** Longest program that is read, in bytes of all its files. */
const MOST_SOURCE = 2_000_000

/** Endings of the files of a program, as a file chooser takes them. */
export const sourceEndings = '.ino,.pde,.cpp,.cc,.c,.h,.hpp,.py'

/** True for a file that by its name belongs to a program. */
export const isSource = ({ name }: { readonly name: string }): boolean =>
  sourceEndings.split(',').some((ending) => name.toLowerCase().endsWith(ending))

/** Files of a program that were chosen or dropped; what stands in the way, as one message. */
export async function readSources(
  given: readonly File[],
): Promise<{ readonly files: readonly SourceFile[]; readonly language: Language } | { readonly trouble: string }> {
  const size = given.reduce((sum, one) => sum + one.size, 0)
  if (size > MOST_SOURCE)
    return {
      trouble: `${Math.round(size / 1000)} kB are more than a program: expected at most ${MOST_SOURCE / 1000} kB.`,
    }
  const files = await Promise.all(given.map(async (file) => ({ name: file.name, text: await file.text() })))
  const language = languageOfFiles(files)
  if (!language)
    return {
      trouble: `${given.map((one) => one.name).join(', ')}: expected files ending in .ino, .cpp, .h or .py, of one language.`,
    }
  return { files, language }
}
