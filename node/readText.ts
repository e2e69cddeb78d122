import { closeSync, constants, fstatSync, openSync, readFileSync } from 'node:fs'

/** Why a file cannot be read, in words that follow its name. */
export class FileTrouble extends Error {
  override name = 'FileTrouble'
}

/**
 * The text of an ordinary file of at most `most` characters. Throws {@link FileTrouble} for everything else: a folder,
 * a pipe (which would never end), a device, a file that is too large or may not be read. Links are followed.
 */
export function readText(file: string, most: number): string {
  let handle: number
  try {
    // A pipe that nobody writes to would hold the program for ever without O_NONBLOCK.
    handle = openSync(file, constants.O_RDONLY | constants.O_NONBLOCK)
  } catch (error) {
    throw new FileTrouble(codeOf(error) === 'ENOENT' ? 'there is no such file' : `cannot be read (${codeOf(error)})`)
  }
  try {
    const facts = fstatSync(handle)
    if (!facts.isFile()) throw new FileTrouble('not a file')
    if (facts.size > most * 4)
      throw new FileTrouble(
        `the file has ${facts.size.toLocaleString('en')} bytes; expected at most ${most.toLocaleString('en')}`,
      )
    return readFileSync(handle, 'utf8')
  } catch (error) {
    if (error instanceof FileTrouble) throw error
    throw new FileTrouble(`cannot be read (${codeOf(error)})`)
  } finally {
    closeSync(handle)
  }
}

/** The code of a system error (`EACCES`), or what else is known of it. */
export const codeOf = (error: unknown): string => {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  return typeof code === 'string' ? code : typeof message === 'string' ? message : 'unknown reason'
}
