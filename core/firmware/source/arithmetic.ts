import type { Value } from './values.ts'

const operations: Readonly<Record<string, (a: number, b: number) => number>> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  '//': (a, b) => Math.floor(a / b),
  '%': (a, b) => a % b,
  '**': (a, b) => a ** b,
  '<<': (a, b) => a << b,
  '>>': (a, b) => a >> b,
  '&': (a, b) => a & b,
  '|': (a, b) => a | b,
  '^': (a, b) => a ^ b,
  '<': (a, b) => Number(a < b),
  '>': (a, b) => Number(a > b),
  '<=': (a, b) => Number(a <= b),
  '>=': (a, b) => Number(a >= b),
  '==': (a, b) => Number(a === b),
  '!=': (a, b) => Number(a !== b),
  '&&': (a, b) => Number(a !== 0 && b !== 0),
  '||': (a, b) => Number(a !== 0 || b !== 0),
  and: (a, b) => (a === 0 ? a : b),
  or: (a, b) => (a === 0 ? b : a),
}

const turns: Readonly<Record<string, (a: number) => number>> = {
  '-': (a) => -a,
  '+': (a) => a,
  '~': (a) => ~a,
  '!': (a) => Number(a === 0),
  not: (a) => Number(a === 0),
}

/** Whole numbers stay whole: in C++ a quotient is cut. */
const whole = (number: number): number => (Number.isFinite(number) ? Math.trunc(number) : Number.NaN)

/** Arithmetic on what is known: a sum is no longer what its parts were called. A list counts its items for `sizeof`. */
export function arithmetic(operator: string, parts: readonly Value[]): Value {
  const [a, b] = parts
  const lost: Value = { is: 'unknown', why: 'arithmetic with what is not known', via: [] }
  if (operator === ',' || operator === 'sizeof') {
    if (operator === ',') return parts.at(-1) ?? lost
    return { is: 'number', number: a?.is === 'list' ? a.items.length : 1, hex: false, via: [] }
  }
  if (!a) return lost
  if (parts.length === 1) {
    const turn = turns[operator]
    return turn && a.is === 'number' ? { is: 'number', number: turn(a.number), hex: a.hex, via: [] } : lost
  }
  if (a.is === 'list' && b?.is === 'list' && operator === '+')
    return { is: 'list', items: [...a.items, ...b.items], via: [] }
  if (a.is === 'text' && b?.is === 'text' && operator === '+') return { is: 'text', text: a.text + b.text, via: [] }
  // `A0 + 2` is the second pin after A0.
  if (a.is === 'symbol' && b?.is === 'number' && operator === '+') {
    const found = /^(.*?)(\d+)$/.exec(a.path)
    if (found) return { is: 'symbol', path: `${found[1]}${Number(found[2]) + b.number}`, via: [] }
  }
  const work = operations[operator]
  if (!work || a.is !== 'number' || b?.is !== 'number') return lost
  const result = work(a.number, b.number)
  return { is: 'number', number: operator === '/' ? whole(result) : result, hex: a.hex || b.hex, via: [] }
}
