import type { Language } from '../../catalog/boardSchema.ts'
import { fillMessage, type MessageData } from '../../rules/messages.ts'
import type { At, SourceFile } from './ir.ts'

/** Kinds of what a comparison says, with what they look for and their message. */
export const differenceKinds = {
  same: {
    about: 'The program has the pin that the plan has.',
    severity: 'same',
    message: '{name} is {pin}, as {end} is wired.',
  },
  differs: {
    about: 'The program has another pin for a signal than the plan.',
    severity: 'fault',
    message: '{name} is {pin} here; the plan has {end} on {planned}.',
  },
  exchanged: {
    about: 'Two signals have each other’s pin.',
    severity: 'fault',
    message: '{one} and {two} are exchanged: the plan has {oneEnd} on {onePin} and {twoEnd} on {twoPin}.',
  },
  numbering: {
    about: 'A number counts pins otherwise than this platform does: the commonest mistake of all.',
    severity: 'fault',
    message: '{written} is the {way} of {planned}, where {end} is wired; programs of this board call that pin {right}.',
  },
  'no-pin': {
    about: 'The board has no such pin.',
    severity: 'fault',
    message: '{written} is no pin of {board}.',
  },
  unknown: {
    about: 'The program uses a pin on which the plan has nothing.',
    severity: 'caution',
    message: '{name} is {pin}, and the plan has nothing there.',
  },
  missing: {
    about: 'A wired signal does not appear in the program.',
    severity: 'caution',
    message: '{end} on {planned} does not appear in the program.',
  },
  mode: {
    about: 'The program drives what the plan lets talk, or reads what it should drive.',
    severity: 'fault',
    message: '{pin} is {done}, and {end} there {wants}.',
  },
  pull: {
    about: 'A contact needs a pull that nothing outside gives, and the program does not switch it on.',
    severity: 'fault',
    message: '{pin} is read without a pull, and nothing outside holds the line of {end}: switch the pull-{way} on.',
  },
  bus: {
    about: 'A bus lies on other pins than in the plan.',
    severity: 'fault',
    message: '{object} takes {pins}; the plan has {parts} on {planned}.',
  },
  address: {
    about: 'The program speaks to an address that nobody has in the plan.',
    severity: 'fault',
    message: '{address} is the address of nobody in the plan{hint}.',
  },
  baud: {
    about: 'A serial line runs at another rate than its part does as delivered.',
    severity: 'caution',
    message: '{object} runs at {baud}; {part} speaks at {rates} as delivered.',
  },
  lost: {
    about: 'The pin of a call cannot be followed without running the program.',
    severity: 'note',
    message: 'the pin of {call} cannot be followed: {why}.',
  },
  unread: {
    about: 'A place that the parser could not read.',
    severity: 'note',
    message: 'this line could not be read.',
  },
} as const
export type DifferenceKind = keyof typeof differenceKinds

/** One thing that a comparison says, at its place in the program; `missing` has none. */
export interface Difference {
  readonly kind: DifferenceKind
  readonly message: string
  readonly data: MessageData
  /** Ends of the plan that it is about. */
  readonly ends: readonly string[]
  readonly place: SourcePlace | undefined
}

export interface SourcePlace {
  readonly file: string
  /** From 1. */
  readonly line: number
  readonly column: number
  /** The line itself. */
  readonly text: string
}

export interface Comparison {
  readonly board: string
  readonly language: Language
  readonly differences: readonly Difference[]
  /** True when the program does what the plan says, as far as it could be followed. */
  readonly agrees: boolean
}

/** A difference with its message filled and its place found. */
export function differenceAt(
  files: readonly SourceFile[],
  kind: DifferenceKind,
  at: At | undefined,
  data: MessageData,
  ends: readonly string[],
): Difference {
  const file = at && files[at.file]
  const message = fillMessage(differenceKinds[kind].message, data)
  return { kind, message, data, ends, place: file && at ? placeIn(file, at.from) : undefined }
}

function placeIn({ name, text }: SourceFile, offset: number): SourcePlace {
  const before = text.slice(0, offset)
  const start = before.lastIndexOf('\n') + 1
  const end = text.indexOf('\n', offset)
  return {
    file: name,
    line: before.split('\n').length,
    column: offset - start + 1,
    text: text.slice(start, end < 0 ? undefined : end).trim(),
  }
}
