import { entryOf } from '../base/entryOf.ts'
import type { PinFacts } from '../catalog/boardFacts.ts'
import type { Board, Language } from '../catalog/boardSchema.ts'

/** Languages in which programs for a board are written, the usual one first. */
export const languagesOf = (board: Board): Language[] => board.programs.map((one) => one.as)

export const languageTitles: Readonly<Record<Language, string>> = {
  cpp: 'C++',
  micropython: 'MicroPython',
  circuitpython: 'CircuitPython',
  python: 'Python',
}

/**
 * A pin as a program in this language writes it: `21`, `A0`, `board.GP2`, `'D3'`; undefined for a pin that programs
 * cannot name, and for a language that the board does not speak.
 */
export function programPin(board: Board, pin: PinFacts, language: Language): string | undefined {
  const program = board.programs.find((one) => one.as === language)
  if (!program) return undefined
  const other = entryOf(program.except, pin.id)
  if (other !== undefined) return other
  const names: Readonly<Record<string, string | undefined>> = {
    firmware: pin.firmware,
    id: pin.id,
    number: /\d+$/.exec(pin.id)?.[0],
    port: pin.port,
    'port-bare': pin.port?.replace(/^P/, ''),
    'port-padded': pin.port?.replace(/\d+$/, (digits) => digits.padStart(2, '0')),
  }
  let known = true
  const written = program.pin.replace(/\{([a-z-]+)\}/g, (_, name: string) => {
    const value = names[name]
    if (value === undefined) known = false
    return value ?? ''
  })
  return known ? written : undefined
}
