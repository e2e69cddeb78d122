import { homedir } from 'node:os'
import { join } from 'node:path'

/** Folder in which plans are kept where nobody says another. */
export const usualData = (): string => join(homedir(), '.markpost')
