import type { Path } from './yamlSource.ts'

/** Deepest nesting of maps and lists that is read: far above any plan, below what a recursive reader bears. */
export const MOST_DEPTH = 60

/** Keys that JavaScript's objects cannot hold, or that validation would drop without a word. */
const reservedKeys: ReadonlySet<string> = new Set(['__proto__', 'constructor', 'prototype'])

export interface PlainProblem {
  readonly path: Path
  readonly message: string
}

/**
 * What in a value from outside would not survive being written and read again: numbers that are not finite, text that
 * is no valid UTF-8 or holds a zero byte, reserved words as keys, nesting without end, and whatever is neither map,
 * list, text, number, truth value nor nothing. At most `most` problems are named.
 */
export function plainProblems(value: unknown, most = 20): PlainProblem[] {
  const problems: PlainProblem[] = []
  const path: (string | number)[] = []
  const say = (message: string): void => {
    problems.push({ path: [...path], message })
  }
  const under = (key: string | number, one: unknown): void => {
    path.push(key)
    look(one)
    path.pop()
  }
  const look = (one: unknown): void => {
    if (problems.length >= most || one === null || typeof one === 'boolean') return
    if (typeof one === 'number') {
      if (!Number.isFinite(one)) say(`expected a finite number, found ${one}`)
    } else if (typeof one === 'string') {
      if (!isText(one)) say('the text holds characters that no file can keep; expected text in UTF-8')
    } else if (path.length > MOST_DEPTH) say(`maps and lists inside each other; expected at most ${MOST_DEPTH} deep`)
    else if (Array.isArray(one)) for (const [index, item] of one.entries()) under(index, item)
    else if (isPlainMap(one))
      for (const [key, item] of Object.entries(one)) {
        if (reservedKeys.has(key)) {
          path.push(key)
          say(`"${key}" is a reserved word; expected another name`)
          path.pop()
        } else if (isText(key)) under(key, item)
        else say('a key holds characters that no file can keep; expected text in UTF-8')
      }
    else say('expected a map, a list, text, a number, true, false or nothing')
  }
  look(value)
  return problems
}

/** Text that comes back as it was from a file in UTF-8; U+FFFD stands for bytes that were lost before. */
const isText = (text: string): boolean => !text.includes('\0') && !/\uFFFD|\p{Surrogate}/u.test(text)

function isPlainMap(value: unknown): value is Record<string, unknown> {
  if (typeof value !== 'object' || value === null) return false
  const prototype: unknown = Object.getPrototypeOf(value)
  return prototype === Object.prototype || prototype === null
}
