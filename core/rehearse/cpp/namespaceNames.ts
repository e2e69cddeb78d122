import { SourceError, type Token } from './tokens.ts'

/**
 * The tokens of a program in which a namespace may have another name (`namespace lights = shed::lamps;`), with its own put
 * in wherever the other one stands before `::`; up to the end of the program, or of the block in which the name is given.
 * @throws SourceError where what stands behind `=` is no name.
 */
export function withOwnNamespaces(tokens: readonly Token[]): Token[] {
  const found: Token[] = []
  /** Names in force, and how deep in blocks they were given. */
  const names: { readonly name: string; readonly own: readonly Token[]; readonly depth: number }[] = []
  let depth = 0
  for (let at = 0; at < tokens.length; at += 1) {
    const token = tokens[at]!
    if (token.text === '{' && token.is === 'sign') depth += 1
    if (token.text === '}' && token.is === 'sign') {
      depth -= 1
      while ((names.at(-1)?.depth ?? 0) > depth) names.pop()
    }
    if (isWord(token, 'namespace') && tokens[at + 1]?.is === 'word' && isSign(tokens[at + 2], '=')) {
      const end = tokens.findIndex((one, index) => index > at && isSign(one, ';'))
      const own = tokens.slice(at + 3, end < 0 ? undefined : end)
      if (end < 0 || own.at(-1)?.is !== 'word' || own.some((one) => one.is !== 'word' && !isSign(one, '::')))
        throw new SourceError('expected the name of a namespace and ; behind =', token.at)
      names.push({ name: tokens[at + 1]!.text, own: replaced(own, names), depth })
      at = end
      continue
    }
    const isFirst = !isSign(tokens[at - 1], '::') && !isSign(tokens[at - 1], '.') && !isSign(tokens[at - 1], '->')
    const other =
      token.is === 'word' && isFirst && isSign(tokens[at + 1], '::')
        ? names.findLast(({ name }) => name === token.text)
        : undefined
    if (other) found.push(...other.own.map((one) => ({ ...one, at: token.at, first: false })))
    else found.push(token)
  }
  return found
}

/** A name of which the first piece may itself be another name. */
function replaced(
  own: readonly Token[],
  names: readonly { readonly name: string; readonly own: readonly Token[] }[],
): readonly Token[] {
  const first = names.findLast(({ name }) => name === own[0]?.text)
  return first ? [...first.own, ...own.slice(1)] : own
}

const isWord = (token: Token, text: string): boolean => token.is === 'word' && token.text === text
const isSign = (token: Token | undefined, text: string): boolean => token?.is === 'sign' && token.text === text
