import { SourceError } from '../cpp/tokens.ts'
import type { PyToken } from './tokens.ts'

export const WORDS: ReadonlySet<string> = new Set([
  'and',
  'as',
  'assert',
  'async',
  'await',
  'break',
  'class',
  'continue',
  'def',
  'del',
  'elif',
  'else',
  'except',
  'finally',
  'for',
  'from',
  'global',
  'if',
  'import',
  'in',
  'is',
  'lambda',
  'nonlocal',
  'not',
  'or',
  'pass',
  'raise',
  'return',
  'try',
  'while',
  'with',
  'yield',
])

/** Reads tokens of a program in Python one after the other. */
export abstract class PyReader {
  protected readonly tokens: readonly PyToken[]
  protected next = 0

  constructor(tokens: readonly PyToken[]) {
    this.tokens = tokens
  }

  protected get token(): PyToken {
    return this.tokens[this.next]!
  }

  protected is(text: string): boolean {
    const { token } = { token: this.token }
    return token.text === text && (token.is === 'sign' || token.is === 'name')
  }

  protected take(text: string): boolean {
    if (!this.is(text)) return false
    this.next += 1
    return true
  }

  protected expect(text: string, where: string): void {
    if (!this.take(text)) this.fail(`expected "${text}" ${where}, found ${wordsOf(this.token)}`)
  }

  protected fail(message: string, at = this.token.at): never {
    throw new SourceError(message, at)
  }

  protected nameHere(what = 'a name'): string {
    const token = this.token
    if (token.is !== 'name' || WORDS.has(token.text)) this.fail(`expected ${what}, found ${wordsOf(token)}`)
    this.next += 1
    return token.text
  }

  protected ends(): boolean {
    return this.token.is === 'line' || this.token.is === 'end' || this.is(';')
  }
}

export const wordsOf = ({ is, text }: PyToken): string =>
  is === 'line'
    ? 'the end of the line'
    : is === 'end' || is === 'out'
      ? 'the end of what is indented'
      : is === 'in'
        ? 'an indented line'
        : `"${text}"`
