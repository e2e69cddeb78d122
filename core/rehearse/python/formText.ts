import { SourceError } from '../cpp/tokens.ts'
import type { PyExpr } from './syntax.ts'

/** Pieces of a formatted text: what is written, and values with how they are turned and formatted. */
export function formParts(
  text: string,
  at: number,
  exprOf: (source: string) => PyExpr,
): (string | { value: PyExpr; turn: string; spec: PyExpr | undefined })[] {
  const parts: (string | { value: PyExpr; turn: string; spec: PyExpr | undefined })[] = []
  let plain = ''
  for (let place = 0; place < text.length; place += 1) {
    const sign = text[place]!
    if ((sign === '{' || sign === '}') && text[place + 1] === sign) {
      plain += sign
      place += 1
      continue
    }
    if (sign !== '{') {
      plain += sign
      continue
    }
    if (plain !== '') parts.push(plain)
    plain = ''
    let depth = 0
    let colon = -1
    let turn = -1
    let end = place + 1
    for (; end < text.length; end += 1) {
      const one = text[end]!
      if (/[([{]/.test(one)) depth += 1
      else if (/[)\]}]/.test(one)) {
        if (depth === 0 && one === '}') break
        depth -= 1
      } else if (depth === 0 && one === ':' && colon < 0) colon = end
      else if (depth === 0 && one === '!' && text[end + 1] !== '=' && colon < 0) turn = end
    }
    if (end >= text.length) throw new SourceError('a value in a formatted text is not closed; expected }', at)
    const stop = turn >= 0 ? turn : colon >= 0 ? colon : end
    let source = text.slice(place + 1, stop)
    // `{speed=}` shows its own name.
    const shows = /^(.*[^=!<>])=\s*$/s.exec(source)
    if (shows && turn < 0 && colon < 0) {
      parts.push(source)
      source = shows[1]!
    }
    const spec = colon >= 0 ? text.slice(colon + 1, end) : undefined
    const inner = spec === undefined ? undefined : formParts(spec, at, exprOf)
    const specExpr: PyExpr | undefined =
      inner &&
      (inner.every((one) => typeof one === 'string')
        ? { e: 'text', text: inner.join(''), at }
        : { e: 'form', parts: inner, at })
    parts.push({
      value: placed(exprOf(source), at),
      turn: turn >= 0 ? text.slice(turn + 1, colon >= 0 ? colon : end) : shows && turn < 0 && colon < 0 ? 'r' : '',
      spec: specExpr,
    })
    place = end
  }
  if (plain !== '') parts.push(plain)
  return parts
}

/** A value with all its places put to where its text stands. */
function placed<T>(node: T, at: number): T {
  if (Array.isArray(node)) return node.map((one) => placed(one, at)) as T
  if (typeof node !== 'object' || node === null) return node
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => [key, key === 'at' ? at : placed(value, at)]),
  ) as T
}
