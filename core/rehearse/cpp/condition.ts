import { LEVELS, SourceError, type Token } from './tokens.ts'

const operations: Readonly<Record<string, (a: number, b: number) => number>> = {
  '||': (a, b) => (a || b ? 1 : 0),
  or: (a, b) => (a || b ? 1 : 0),
  '&&': (a, b) => (a && b ? 1 : 0),
  and: (a, b) => (a && b ? 1 : 0),
  '|': (a, b) => a | b,
  '^': (a, b) => a ^ b,
  '&': (a, b) => a & b,
  '==': (a, b) => (a === b ? 1 : 0),
  '!=': (a, b) => (a !== b ? 1 : 0),
  '<': (a, b) => (a < b ? 1 : 0),
  '>': (a, b) => (a > b ? 1 : 0),
  '<=': (a, b) => (a <= b ? 1 : 0),
  '>=': (a, b) => (a >= b ? 1 : 0),
  '<<': (a, b) => a * 2 ** b,
  '>>': (a, b) => Math.floor(a / 2 ** b),
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => (b === 0 ? 0 : Math.trunc(a / b)),
  '%': (a, b) => (b === 0 ? 0 : a % b),
}

/**
 * The condition of an `#if`, macros put in already; a name that is left counts as 0 (ISO C++17, 19.1).
 * @throws SourceError when it is none.
 */
export function evaluateCondition(
  tokens: readonly Token[],
  at: number,
  isOwn: (header: string) => boolean = () => false,
): number {
  let next = 0
  const fail = (): never => {
    const found = tokens[next]
    throw new SourceError(`#if cannot be worked out${found ? ` at "${found.text}"` : ': it ends too early'}`, at)
  }
  const take = (text: string): boolean => {
    if (tokens[next]?.text !== text || tokens[next]?.is === 'text') return false
    next += 1
    return true
  }
  const unary = (): number => {
    if (take('!')) return unary() ? 0 : 1
    if (take('-')) return -unary()
    if (take('+')) return unary()
    if (take('~')) return ~unary()
    if (take('(')) {
      const inner = conditional()
      if (!take(')')) fail()
      return inner
    }
    const token = tokens[next]
    if (!token) return fail()
    next += 1
    if (token.is === 'number') {
      const digits = token.text.replace(/'/g, '').replace(/[uUlL]+$/, '')
      return /^0[0-7]+$/.test(digits) ? Number.parseInt(digits, 8) : Number(digits)
    }
    if (token.is === 'letter') return token.text.charCodeAt(0)
    if (token.is === 'word') {
      if (token.text === 'true') return 1
      if (/^__has_include$/.test(token.text)) {
        const close = tokens.findIndex((one, index) => index > next && one.text === ')')
        const name = tokens
          .slice(next + 1, close)
          .map(({ text }) => text)
          .join('')
          .replace(/[<>]/g, '')
        next = close + 1
        return isOwn(name) ? 1 : 0
      }
      // A macro with arguments that nobody has defined, such as a comparison of versions, counts as 0.
      if (take('(')) {
        for (let depth = 1; depth > 0; next += 1) {
          if (next >= tokens.length) fail()
          if (tokens[next]?.text === '(') depth += 1
          if (tokens[next]?.text === ')') depth -= 1
        }
      }
      return 0
    }
    next -= 1
    return fail()
  }
  const binary = (level: number): number => {
    const signs = LEVELS[level]
    if (!signs) return unary()
    let left = binary(level + 1)
    for (;;) {
      const sign = signs.find((one) => tokens[next]?.text === one && tokens[next]?.is === 'sign')
      if (!sign) return left
      next += 1
      left = operations[sign]!(left, binary(level + 1))
    }
  }
  const conditional = (): number => {
    const asked = binary(0)
    if (!take('?')) return asked
    const yes = conditional()
    if (!take(':')) fail()
    const no = conditional()
    return asked ? yes : no
  }
  const value = conditional()
  return next < tokens.length ? fail() : value
}
