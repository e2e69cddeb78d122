import { existsSync, lstatSync, statSync } from 'node:fs'
import writeFileAtomic from 'write-file-atomic'

/**
 * Writes a file as a whole or not at all: beside its place under a name that nobody has, onto the disk, and then moved.
 * Mode and owner of a file that was there stay, and a link goes on leading to it. Throws the system's error, or one that
 * says what stands in the way.
 */
export function writeWhole(file: string, text: string | Buffer): void {
  if (existsSync(file) && !statSync(file).isFile()) throw new Error('not a file')
  // A link to nowhere: its target is not made, since nobody can say that it is wanted.
  if (!existsSync(file) && lstatSync(file, { throwIfNoEntry: false })?.isSymbolicLink())
    throw new Error('a link that leads nowhere')
  writeFileAtomic.sync(file, text)
}
