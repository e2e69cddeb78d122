import { lineAt, SourceError } from '../cpp/tokens.ts'

export interface PyToken {
  readonly is: 'name' | 'number' | 'text' | 'bytes' | 'form' | 'sign' | 'line' | 'in' | 'out' | 'end'
  readonly text: string
  readonly at: number
}

const SIGNS =
  /^(?:\*\*=|\/\/=|>>=|<<=|\.\.\.|:=|->|\*\*|\/\/|<<|>>|<=|>=|==|!=|\+=|-=|\*=|\/=|%=|&=|\|=|\^=|@=|[-+*/%&|^~<>()[\]{},:.;@=])/
const NUMBER =
  /^(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|0[oO][0-7_]+|(?:\d[\d_]*)?\.\d[\d_]*(?:[eE][-+]?\d+)?|\d[\d_]*\.?(?:[eE][-+]?\d+)?)/
const NAME = /^[\p{L}_][\p{L}\p{N}_]*/u

/**
 * Cuts a Python text into tokens; what is indented stands between `in` and `out` (Python reference, chapter 2).
 * @throws SourceError for a text that is not closed, or lines that stand under none.
 */
export function pyTokens(text: string, file: number): PyToken[] {
  const tokens: PyToken[] = []
  const depths = [0]
  let at = 0
  let line = 1
  let brackets = 0
  let begins = true
  const place = (): number => lineAt(file, line)
  const fail = (message: string): never => {
    throw new SourceError(message, place())
  }
  const push = (is: PyToken['is'], written: string): void => {
    tokens.push({ is, text: written, at: place() })
  }
  while (at < text.length) {
    if (begins && brackets === 0) {
      const [white = ''] = /^[ \t\f]*/.exec(text.slice(at)) ?? []
      at += white.length
      const next = text[at]
      if (next === '\n' || next === '\r' || next === '#' || next === undefined) {
        const end = text.indexOf('\n', at)
        at = end < 0 ? text.length : end + 1
        line += 1
        continue
      }
      const depth = [...white].reduce((sum, one) => (one === '\t' ? (Math.floor(sum / 8) + 1) * 8 : sum + 1), 0)
      begins = false
      if (depth > depths.at(-1)!) {
        depths.push(depth)
        push('in', '')
      }
      while (depth < depths.at(-1)!) {
        depths.pop()
        push('out', '')
      }
      if (depth !== depths.at(-1)) fail('this line stands under none of those before it; expected the same indentation')
      continue
    }
    const sign = text[at]!
    if (sign === '\n') {
      if (brackets === 0) {
        push('line', '')
        begins = true
      }
      at += 1
      line += 1
    } else if (sign === '\\' && /^\\\r?\n/.test(text.slice(at, at + 3))) {
      at = text.indexOf('\n', at) + 1
      line += 1
    } else if (/\s/.test(sign) || sign === '\uFEFF') at += 1
    else if (sign === '#') {
      const end = text.indexOf('\n', at)
      at = end < 0 ? text.length : end
    } else {
      const quoted = /^([rRbBuUfF]{0,2})("""|'''|"|')/.exec(text.slice(at, at + 6))
      if (quoted) {
        const [all, prefix = '', quote = ''] = quoted
        const kind = prefix.toLowerCase()
        const from = at + all.length
        const { value, end } = quotedText(text, from, quote, kind.includes('r'), kind.includes('f'), fail)
        push(kind.includes('b') ? 'bytes' : kind.includes('f') ? 'form' : 'text', value)
        line += text.slice(at, end).split('\n').length - 1
        at = end
        continue
      }
      const rest = text.slice(at, at + 120)
      const name = NAME.exec(rest)?.[0]
      const number = name === undefined && /^\.?\d/.test(rest) ? NUMBER.exec(rest)?.[0] : undefined
      const found = name ?? number ?? SIGNS.exec(rest)?.[0] ?? fail(`"${sign}" is no sign of Python`)
      if (/^[([{]$/.test(found)) brackets += 1
      if (/^[)\]}]$/.test(found)) brackets = Math.max(0, brackets - 1)
      push(name !== undefined ? 'name' : number !== undefined ? 'number' : 'sign', found)
      at += found.length
    }
  }
  if (!begins) push('line', '')
  while (depths.length > 1) {
    depths.pop()
    push('out', '')
  }
  push('end', '')
  return tokens
}

const ESCAPES: Readonly<Record<string, string>> = {
  n: '\n',
  t: '\t',
  r: '\r',
  a: '\x07',
  b: '\b',
  f: '\f',
  v: '\v',
  '\n': '',
}

/** What stands between quotes; of a formatted text the braces and what is in them stay as they are. */
function quotedText(
  text: string,
  from: number,
  quote: string,
  raw: boolean,
  formatted: boolean,
  fail: (message: string) => never,
): { value: string; end: number } {
  let value = ''
  let at = from
  let depth = 0
  for (;;) {
    const sign = text[at]
    if (sign === undefined || (sign === '\n' && quote.length === 1))
      return fail(`a text is not closed; expected ${quote}`)
    if (text.startsWith(quote, at) && depth === 0) return { value, end: at + quote.length }
    if (formatted && sign === '{') {
      if (text[at + 1] === '{' && depth === 0) {
        value += '{{'
        at += 2
        continue
      }
      depth += 1
    }
    if (formatted && sign === '}' && depth > 0) depth -= 1
    if (sign !== '\\' || raw || depth > 0) {
      value += sign
      at += 1
      if (sign === '\\' && raw && text[at] !== undefined) {
        value += text[at]
        at += 1
      }
      continue
    }
    const next = text[at + 1] ?? ''
    const code =
      next === 'x'
        ? /^[0-9a-fA-F]{2}/.exec(text.slice(at + 2))
        : next === 'u'
          ? /^[0-9a-fA-F]{4}/.exec(text.slice(at + 2))
          : next === 'U'
            ? /^[0-9a-fA-F]{8}/.exec(text.slice(at + 2))
            : null
    const octal = /^[0-7]{1,3}/.exec(text.slice(at + 1, at + 4))
    if (code) {
      value += String.fromCodePoint(Number.parseInt(code[0], 16))
      at += 2 + code[0].length
    } else if (octal) {
      value += String.fromCharCode(Number.parseInt(octal[0], 8))
      at += 1 + octal[0].length
    } else {
      value += ESCAPES[next] ?? (/['"\\]/.test(next) ? next : `\\${next}`)
      at += 2
    }
  }
}
