import type { Token } from './tokens.ts'

/** Words of which types are made that the language brings along. */
export const SIZES: ReadonlySet<string> = new Set([
  'unsigned',
  'signed',
  'short',
  'long',
  'int',
  'char',
  'bool',
  'float',
  'double',
  'void',
  'wchar_t',
])
export const BESIDE: ReadonlySet<string> = new Set([
  'const',
  'volatile',
  'static',
  'inline',
  'constexpr',
  'extern',
  '__lasting',
  'register',
  'mutable',
  'virtual',
  'explicit',
  'typename',
  'struct',
  'class',
  'enum',
  'friend',
  'thread_local',
])

/** Words that stand where a type may stand and are none. */
export const WORDS: ReadonlySet<string> = new Set([
  'if',
  'else',
  'for',
  'while',
  'do',
  'switch',
  'case',
  'default',
  'return',
  'break',
  'continue',
  'goto',
  'new',
  'delete',
  'this',
  'sizeof',
  'true',
  'false',
  'nullptr',
  'throw',
  'try',
  'catch',
  'operator',
  'public',
  'private',
  'protected',
  'using',
  'typedef',
  'namespace',
  'template',
  'static_cast',
  'reinterpret_cast',
  'const_cast',
  'dynamic_cast',
  'and',
  'or',
  'not',
])
export const written = ({ is, text }: Token): string =>
  is === 'end' ? 'the end of the program' : is === 'text' ? `the text "${text}"` : `"${text}"`

/** `unsigned long int` as `unsigned long`, whatever order it is written in. */
export function sizeName(sizes: readonly string[]): string {
  const has = (one: string): boolean => sizes.includes(one)
  const longs = sizes.filter((one) => one === 'long').length
  const sign = has('unsigned') ? 'unsigned ' : ''
  if (has('char')) return has('unsigned') ? 'unsigned char' : has('signed') ? 'signed char' : 'char'
  if (has('short')) return `${sign}short`
  if (has('double')) return longs > 0 ? 'long double' : 'double'
  if (longs > 1) return `${sign}long long`
  if (longs === 1) return `${sign}long`
  const [other] = sizes.filter((one) => !/^(unsigned|signed|int)$/.test(one))
  return other ?? `${sign}int`
}

/** The name that a `typedef` makes: the last word before its semicolon, or that in brackets behind a star. */
export function typedefName(tokens: readonly Token[], from: number): string {
  let last = ''
  let depth = 0
  for (let at = from + 1; at < tokens.length; at += 1) {
    const { text, is } = tokens[at]!
    if (/^[{(]$/.test(text) && is === 'sign') {
      depth += 1
      if (text === '(' && tokens[at + 1]?.text === '*' && tokens[at + 2]?.is === 'word') return tokens[at + 2]!.text
    }
    if (/^[})]$/.test(text) && is === 'sign') depth -= 1
    if (text === ';' && depth === 0) return last
    if (is === 'word' && depth === 0) last = text
  }
  return last
}
