/** Smallest pieces of a C++ text: words, numbers, texts and signs, with their places. */
export interface Token {
  readonly is: 'word' | 'number' | 'text' | 'letter' | 'sign' | 'end' | 'bad'
  /** As written; of a text or letter what it stands for; of what cannot be read, why. */
  readonly text: string
  /** File by its number, and line from 1, packed: see {@link lineAt}. */
  readonly at: number
  /** First of its line. */
  readonly first: boolean
  /** White space stands before it. */
  readonly spaced: boolean
}

const FILE = 1 << 20

export const lineAt = (file: number, line: number): number => file * FILE + line
export const fileOf = (at: number): number => Math.floor(at / FILE)
export const lineOf = (at: number): number => at % FILE

/** Signs between two values, weakest first (ISO C++17, clause 8). */
export const LEVELS: readonly (readonly string[])[] = [
  ['||', 'or'],
  ['&&', 'and'],
  ['|'],
  ['^'],
  ['&'],
  ['==', '!='],
  ['<', '>', '<=', '>='],
  ['<<', '>>'],
  ['+', '-'],
  ['*', '/', '%'],
]

/** A text that cannot be read, or a program that asks for what is not understood: one line, and where. */
export class SourceError extends Error {
  override name = 'SourceError'
  readonly at: number

  constructor(message: string, at: number) {
    super(message)
    this.at = at
  }
}

const SIGNS =
  /^(?:<<=|>>=|\.\.\.|->\*|<=>|->|\+\+|--|<<|>>|<=|>=|==|!=|&&|\|\||\+=|-=|\*=|\/=|%=|&=|\|=|\^=|::|##|[-+*/%&|^~!<>=?:;,.(){}[\]#@\\])/
const NUMBER =
  /^(?:0[xX][0-9a-fA-F']+|0[bB][01']+|(?:\d[\d']*)?\.\d+(?:[eE][-+]?\d+)?|\d[\d']*\.?(?:[eE][-+]?\d+)?)[uUlLfF]*/
const WORD = /^[A-Za-z_$][\w$]*/
const ESCAPES: Readonly<Record<string, string>> = {
  n: '\n',
  t: '\t',
  r: '\r',
  a: '\x07',
  b: '\b',
  f: '\f',
  v: '\v',
  e: '\x1b',
}

/**
 * Cuts a C++ text into tokens, comments left out and lines that end in a backslash joined.
 * A text that is not closed on its line, or a sign that C++ does not know, is a `bad` token: where a program is left out,
 * such as behind `#if 0`, anything may stand.
 * @throws SourceError for a comment or raw text that is never closed.
 */
export function tokensOf(text: string, file: number): Token[] {
  const tokens: Token[] = []
  let line = 1
  let at = 0
  let first = true
  let spaced = false
  const fail = (message: string): never => {
    throw new SourceError(message, lineAt(file, line))
  }
  const push = (is: Token['is'], written: string): void => {
    tokens.push({ is, text: written, at: lineAt(file, line), first, spaced })
    first = false
    spaced = false
  }
  while (at < text.length) {
    const sign = text[at]!
    if (sign === '\n') {
      line += 1
      at += 1
      first = true
      spaced = true
    } else if (sign === '\\' && /^\\[ \t]*\r?\n/.test(text.slice(at, at + 20))) {
      at = text.indexOf('\n', at) + 1
      line += 1
      spaced = true
    } else if (/\s/.test(sign) || sign === '\uFEFF') {
      at += 1
      spaced = true
    } else if (text.startsWith('//', at)) {
      const end = text.indexOf('\n', at)
      at = end < 0 ? text.length : end
    } else if (text.startsWith('/*', at)) {
      const end = text.indexOf('*/', at + 2)
      if (end < 0) fail('a comment that begins here is never closed; expected */')
      line += text.slice(at, end).split('\n').length - 1
      at = end + 2
      spaced = true
    } else if (text.startsWith('R"', at)) {
      const [, mark = ''] = /^R"([^(]*)\(/.exec(text.slice(at)) ?? []
      const from = at + 3 + mark.length
      const end = text.indexOf(`)${mark}"`, from)
      if (end < 0) fail('a raw text that begins here is never closed')
      push('text', text.slice(from, end))
      line += text.slice(at, end).split('\n').length - 1
      at = end + mark.length + 2
    } else if (sign === '"' || sign === "'") {
      const found = quoted(text, at)
      if (found) {
        push(sign === '"' ? 'text' : 'letter', found.value)
        at = found.end
      } else {
        push('bad', `a ${sign === '"' ? 'text' : 'letter'} is not closed; expected ${sign}`)
        const end = text.indexOf('\n', at)
        at = end < 0 ? text.length : end
      }
    } else {
      const rest = text.slice(at, at + 80)
      const word = WORD.exec(rest)?.[0]
      const number = word === undefined && /^\.?\d/.test(rest) ? NUMBER.exec(rest)?.[0] : undefined
      const found = word ?? number ?? SIGNS.exec(rest)?.[0]
      if (found === undefined) {
        const whole = String.fromCodePoint(text.codePointAt(at)!)
        push('bad', `"${whole}" is no sign of C++`)
        at += whole.length
      } else {
        push(word !== undefined ? 'word' : number !== undefined ? 'number' : 'sign', found)
        at += found.length
      }
    }
  }
  push('end', '')
  return tokens
}

/** What stands between two quotes, escapes put into what they mean; bytes above 127 as UTF-8. Undefined where it is not closed. */
function quoted(text: string, from: number): { value: string; end: number } | undefined {
  const quote = text[from]!
  let value = ''
  let at = from + 1
  for (;;) {
    const sign = text[at]
    if (sign === undefined || sign === '\n') return undefined
    if (sign === quote) return { value, end: at + 1 }
    if (sign !== '\\') {
      const point = text.codePointAt(at)!
      value += point < 128 ? sign : bytesOf(String.fromCodePoint(point))
      at += point > 0xffff ? 2 : 1
      continue
    }
    const next = text[at + 1] ?? ''
    const octal = /^[0-7]{1,3}/.exec(text.slice(at + 1, at + 4))?.[0]
    const hex = next === 'x' ? /^[0-9a-fA-F]+/.exec(text.slice(at + 2, at + 10))?.[0] : undefined
    if (octal !== undefined) {
      value += String.fromCharCode(Number.parseInt(octal, 8) & 255)
      at += 1 + octal.length
    } else if (hex !== undefined) {
      value += String.fromCharCode(Number.parseInt(hex, 16) & 255)
      at += 2 + hex.length
    } else if (next === '\n') at += 2
    else {
      value += ESCAPES[next] ?? next
      at += 2
    }
  }
}

const bytesOf = (text: string): string => String.fromCharCode(...new TextEncoder().encode(text))
