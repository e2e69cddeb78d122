/** What a board's platform defines for the preprocessor: an `#if` on anything else takes both ways. */
export interface Defines {
  /** True or false where known. */
  readonly known: (name: string) => boolean | undefined
}

/** Blanks the branches of `#if` that cannot hold, length and lines kept; of what is not known all branches stay. */
export function withoutBranches(text: string, defines: Defines): string {
  interface Level {
    readonly outer: boolean
    keeps: boolean
    /** A branch before was surely taken. */
    taken: boolean
  }
  const stack: Level[] = []
  let keeps = true
  return text
    .split(/(?<=\n)/)
    .map((line) => {
      const found = /^\s*#\s*(if|ifdef|ifndef|elif|else|endif)\b(.*)/.exec(line)
      if (!found) return keeps ? line : blank(line)
      const [, directive, condition = ''] = found
      const level = stack.at(-1)
      if (directive === 'endif') {
        if (level) keeps = level.outer
        stack.pop()
      } else if (directive === 'else' || directive === 'elif') {
        if (level) {
          const holds = directive === 'else' ? true : conditionHolds(condition, defines)
          level.keeps = !level.taken && holds !== false
          if (holds === true && directive === 'elif') level.taken = true
          keeps = level.outer && level.keeps
        }
      } else {
        const holds =
          directive === 'if'
            ? conditionHolds(condition, defines)
            : flip(defines.known(condition.trim().split(/\s/)[0] ?? ''), directive === 'ifndef')
        stack.push({ outer: keeps, keeps: holds !== false, taken: holds === true })
        keeps = keeps && holds !== false
      }
      return blank(line)
    })
    .join('')
}

const blank = (line: string): string => line.replace(/[^\r\n]/g, ' ')

const flip = (known: boolean | undefined, turned: boolean): boolean | undefined =>
  known === undefined ? undefined : known !== turned

/** `defined(X)`, `defined X`, joined by `||` and `&&` and turned by `!`; a plain number; else not known. */
function conditionHolds(condition: string, defines: Defines): boolean | undefined {
  const text = condition.replace(/\/\/.*|\/\*.*?\*\//g, '').trim()
  const either = text.split('||').map((part) => {
    const each = part.split('&&').map((one) => {
      const found = /^\(?\s*(!?)\s*defined\s*\(?\s*(\w+)\s*\)?\s*\)?$/.exec(one.trim())
      if (found) return flip(defines.known(found[2] as string), found[1] === '!')
      return /^\d+$/.test(one.trim()) ? one.trim() !== '0' : undefined
    })
    return each.includes(false) ? false : each.includes(undefined) ? undefined : true
  })
  return either.includes(true) ? true : either.includes(undefined) ? undefined : false
}
