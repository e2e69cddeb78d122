import type { ScriptStep } from './rehearsalSchema.ts'

const pairs = (all: object | undefined, join: string): string[] =>
  Object.entries(all ?? {}).map(([name, value]) => `${name}${join}${value}`)

/** What is done at a step of a rehearsal: `GATE pressed, type "close"`. */
export const doneWords = ({ set, type }: ScriptStep): string =>
  [...pairs(set, ' '), ...(type === undefined ? [] : [`type "${type}"`])].join(', ')

/** What must be so then: `LAMP must be on`. */
export const expectWords = ({ expect }: ScriptStep): string => pairs(expect, ' must be ').join(', ')
