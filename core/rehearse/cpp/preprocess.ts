import { evaluateCondition } from './condition.ts'
import { fileOf, SourceError, type Token, tokensOf } from './tokens.ts'

export interface SourceFile {
  readonly name: string
  readonly text: string
}

interface Macro {
  /** Names of its arguments; undefined for one that is written without brackets. */
  readonly params: readonly string[] | undefined
  readonly rest: boolean
  readonly body: readonly Token[]
}

export interface Preprocessed {
  readonly tokens: readonly Token[]
  /** Headers that are none of the program's own files, as written: `Servo.h`. */
  readonly headers: readonly { readonly name: string; readonly at: number }[]
}

/** Expansions of one program, beyond which a macro calls itself by way of others. */
const MOST_EXPANSIONS = 200_000

/**
 * The directives of a program carried out: own headers put in once, branches chosen, macros with and without arguments
 * put into their places (ISO C++17, clause 19). Files that are no header follow one another, as tabs of a sketch do.
 * @throws SourceError for a directive that cannot be carried out.
 */
export function preprocess(files: readonly SourceFile[], given: Readonly<Record<string, string>>): Preprocessed {
  return new Preprocessor(files, given).run()
}

class Preprocessor {
  readonly #files: readonly SourceFile[]
  readonly #macros = new Map<string, Macro>()
  readonly #out: Token[] = []
  readonly #headers: { name: string; at: number }[] = []
  readonly #included = new Set<number>()
  #expansions = 0

  constructor(files: readonly SourceFile[], given: Readonly<Record<string, string>>) {
    this.#files = files
    for (const [key, body] of Object.entries(given)) {
      const [, name = key, params] = /^(\w+)(?:\((.*)\))?$/.exec(key) ?? []
      this.#macros.set(name, {
        params: params?.split(',').map((one) => one.trim()),
        rest: false,
        body: tokensOf(body, 0).slice(0, -1),
      })
    }
  }

  run(): Preprocessed {
    const isHeader = ({ name }: SourceFile): boolean => /\.(h|hpp|hh|inl)$/i.test(name)
    this.#files.forEach((file, index) => {
      if (!isHeader(file)) this.#file(index)
    })
    const last = this.#out.at(-1)?.at ?? 0
    this.#out.push({ is: 'end', text: '', at: last, first: true, spaced: true })
    return { tokens: withoutAttributes(this.#out), headers: this.#headers }
  }

  #file(index: number): void {
    if (this.#included.has(index)) return
    this.#included.add(index)
    const tokens = tokensOf(this.#files[index]!.text, index)
    /** Branches that are open: whether this one counts, whether one was taken already, whether the outer one counts. */
    const branches: { on: boolean; taken: boolean; outer: boolean; at: number }[] = []
    const isOn = (): boolean => branches.at(-1)?.on ?? true
    let at = 0
    let pending: Token[] = []
    const flush = (): void => {
      if (pending.length > 0) this.#out.push(...this.#expand(pending, new Set()))
      pending = []
    }
    while (tokens[at]!.is !== 'end') {
      const token = tokens[at]!
      if (token.text !== '#' || !token.first || token.is !== 'sign') {
        if (isOn()) pending.push(token)
        at += 1
        continue
      }
      let end = at + 1
      while (tokens[end]!.is !== 'end' && !tokens[end]!.first) end += 1
      const line = tokens.slice(at + 1, end)
      at = end
      const [word, ...rest] = line
      if (!word) continue
      switch (word.text) {
        case 'if':
        case 'ifdef':
        case 'ifndef': {
          flush()
          const outer = isOn()
          const on = outer && this.#holds(word, rest)
          branches.push({ on, taken: on, outer, at: word.at })
          break
        }
        case 'elif':
        case 'else': {
          flush()
          const branch = branches.at(-1)
          if (!branch) throw new SourceError(`#${word.text} without an #if before it`, word.at)
          branch.on = branch.outer && !branch.taken && (word.text === 'else' || this.#holds(word, rest))
          branch.taken ||= branch.on
          break
        }
        case 'endif':
          flush()
          if (!branches.pop()) throw new SourceError('#endif without an #if before it', word.at)
          break
        default:
          if (!isOn()) break
          flush()
          this.#directive(word, rest)
      }
    }
    flush()
    const open = branches.at(-1)
    if (open) throw new SourceError('an #if that begins here has no #endif', open.at)
  }

  #directive(word: Token, rest: readonly Token[]): void {
    switch (word.text) {
      case 'define':
        this.#define(rest, word.at)
        break
      case 'undef':
        this.#macros.delete(rest[0]?.text ?? '')
        break
      case 'include':
        this.#include(rest, word.at)
        break
      case 'error':
        throw new SourceError(`#error ${rest.map(({ text }) => text).join(' ')}`, word.at)
      case 'pragma':
      case 'warning':
      case 'line':
        break
      default:
        throw new SourceError(`#${word.text} is no directive`, word.at)
    }
  }

  #include(rest: readonly Token[], at: number): void {
    const [first] = rest
    const name =
      first?.is === 'text'
        ? first.text
        : rest
            .slice(1, -1)
            .map(({ text }) => text)
            .join('')
    const bare = name.split('/').at(-1) ?? name
    const own = this.#files.findIndex((file) => (file.name.split('/').at(-1) ?? '') === bare)
    if (own >= 0) this.#file(own)
    else if (first?.is === 'text' || first?.text === '<') this.#headers.push({ name, at })
    else throw new SourceError('#include names no file', at)
  }

  #define(rest: readonly Token[], at: number): void {
    const [name, open] = rest
    if (name?.is !== 'word') throw new SourceError('#define names nothing', at)
    if (open?.text !== '(' || open.spaced) {
      this.#macros.set(name.text, { params: undefined, rest: false, body: rest.slice(1) })
      return
    }
    const close = rest.findIndex((token, index) => index > 1 && token.text === ')')
    if (close < 0) throw new SourceError(`the arguments of ${name.text} are not closed`, at)
    const params = rest.slice(2, close).filter(({ text }) => text !== ',')
    this.#macros.set(name.text, {
      params: params.map(({ text }) => (text === '...' ? '__VA_ARGS__' : text)),
      rest: params.some(({ text }) => text === '...'),
      body: rest.slice(close + 1),
    })
  }

  #holds(word: Token, rest: readonly Token[]): boolean {
    if (word.text === 'ifdef' || word.text === 'ifndef')
      return this.#macros.has(rest[0]?.text ?? '') === (word.text === 'ifdef')
    // `defined` is asked before macros are put in.
    const asked: Token[] = []
    for (let at = 0; at < rest.length; at += 1) {
      const token = rest[at]!
      if (token.text !== 'defined') {
        asked.push(token)
        continue
      }
      const name = rest[at + 1]?.text === '(' ? rest[at + 2] : rest[at + 1]
      at += rest[at + 1]?.text === '(' ? 3 : 1
      asked.push({ ...token, is: 'number', text: this.#macros.has(name?.text ?? '') ? '1' : '0' })
    }
    const isOwn = (name: string): boolean =>
      this.#files.some((file) => (file.name.split('/').at(-1) ?? '') === (name.split('/').at(-1) ?? name))
    return evaluateCondition(this.#expand(asked, new Set()), word.at, isOwn) !== 0
  }

  /** Puts macros into their places; `hidden` are those inside whose own text this is. */
  #expand(tokens: readonly Token[], hidden: ReadonlySet<string>): Token[] {
    const out: Token[] = []
    for (let at = 0; at < tokens.length; at += 1) {
      const token = tokens[at]!
      if (token.is === 'bad') throw new SourceError(token.text, token.at)
      const macro = token.is === 'word' && !hidden.has(token.text) ? this.#macros.get(token.text) : undefined
      if (!macro) {
        out.push(token.text === '__LINE__' ? { ...token, is: 'number', text: String(token.at % (1 << 20)) } : token)
        continue
      }
      this.#expansions += 1
      if (this.#expansions > MOST_EXPANSIONS) throw new SourceError(`${token.text} grows without end`, token.at)
      let body = macro.body
      if (macro.params) {
        if (tokens[at + 1]?.text !== '(') {
          out.push(token)
          continue
        }
        const { args, end } = argumentsAt(tokens, at + 1, token)
        at = end
        body = this.#substituted(macro, args, token, hidden)
      }
      const inner = new Set([...hidden, token.text])
      const placed = body.map((one, index) => ({
        ...one,
        at: token.at,
        first: false,
        spaced: index === 0 ? token.spaced : one.spaced,
      }))
      // What the text of a macro ends with may take its arguments from behind it.
      const last = placed.at(-1)
      const calls = last?.is === 'word' ? this.#macros.get(last.text)?.params : undefined
      if (calls && !inner.has(last!.text) && tokens[at + 1]?.text === '(') {
        const { end } = argumentsAt(tokens, at + 1, token)
        placed.push(...tokens.slice(at + 1, end + 1).map((one) => ({ ...one })))
        at = end
      }
      out.push(...this.#expand(placed, inner))
    }
    return out
  }

  #substituted(macro: Macro, args: readonly Token[][], token: Token, hidden: ReadonlySet<string>): Token[] {
    const params = macro.params!
    const fixed = macro.rest ? params.length - 1 : params.length
    const given = args.length === 1 && args[0]!.length === 0 && fixed === 0 ? [] : args
    if (given.length < fixed || (!macro.rest && given.length > fixed))
      throw new SourceError(
        `${token.text} takes ${fixed} argument${fixed === 1 ? '' : 's'}, and has ${given.length} here`,
        token.at,
      )
    const comma: Token = { is: 'sign', text: ',', at: token.at, first: false, spaced: false }
    const givenFor = (name: string): Token[] | undefined => {
      const index = params.indexOf(name)
      if (index < 0) return undefined
      if (macro.rest && index === params.length - 1)
        return given.slice(index).flatMap((one, at) => (at === 0 ? one : [comma, ...one]))
      return given[index] ?? []
    }
    const out: Token[] = []
    const { body } = macro
    for (let at = 0; at < body.length; at += 1) {
      const one = body[at]!
      if (one.text === '#' && one.is === 'sign') {
        const value = givenFor(body[at + 1]?.text ?? '')
        if (value) {
          out.push({ ...one, is: 'text', text: writtenAs(value) })
          at += 1
          continue
        }
      }
      if (body[at + 1]?.text === '##') {
        const left = givenFor(one.text) ?? [one]
        const right = givenFor(body[at + 2]?.text ?? '') ?? (body[at + 2] ? [body[at + 2]!] : [])
        const joined = `${left.at(-1)?.text ?? ''}${right[0]?.text ?? ''}`
        out.push(...left.slice(0, -1), ...tokensOf(joined, fileOf(token.at)).slice(0, -1), ...right.slice(1))
        at += 2
        continue
      }
      const value = givenFor(one.text)
      if (value) out.push(...this.#expand(value, hidden))
      else out.push(one)
    }
    return out
  }
}

/** The word that is left of attributes which say that a struct has no room between its fields. */
export const PACKED = '__packed__'

/** Tokens without `__attribute__((…))`, which says nothing of what a program does; of a packed struct a word is left. */
function withoutAttributes(tokens: readonly Token[]): Token[] {
  const out: Token[] = []
  for (let at = 0; at < tokens.length; at += 1) {
    const token = tokens[at]!
    if (token.text !== '__attribute__' || token.is !== 'word') {
      out.push(token)
      continue
    }
    const { args, end } = argumentsAt(tokens, at + 1, token)
    if (args.flat().some(({ text }) => text === 'packed' || text === PACKED)) out.push({ ...token, text: PACKED })
    at = end
  }
  return out
}

/** Arguments between brackets, and where they end. */
function argumentsAt(tokens: readonly Token[], open: number, token: Token): { args: Token[][]; end: number } {
  const args: Token[][] = [[]]
  let depth = 0
  for (let at = open; at < tokens.length; at += 1) {
    const one = tokens[at]!
    if (one.is === 'sign' && /^[([{]$/.test(one.text)) {
      depth += 1
      if (depth === 1) continue
    }
    if (one.is === 'sign' && /^[)\]}]$/.test(one.text)) {
      depth -= 1
      if (depth === 0) return { args, end: at }
    }
    if (depth === 1 && one.is === 'sign' && one.text === ',') args.push([])
    else args.at(-1)!.push(one)
  }
  throw new SourceError(`the arguments of ${token.text} are not closed; expected )`, token.at)
}

const writtenAs = (tokens: readonly Token[]): string =>
  tokens
    .map(({ is, text, spaced }, at) => {
      const bare = is === 'text' ? JSON.stringify(text) : is === 'letter' ? `'${text}'` : text
      return at > 0 && spaced ? ` ${bare}` : bare
    })
    .join('')
