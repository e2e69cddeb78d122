import type { Expr, Param, TypeNode } from './syntax.ts'
import { lineOf, SourceError, type Token } from './tokens.ts'
import { BESIDE, SIZES, sizeName, typedefName, WORDS, written } from './typeWords.ts'

export interface Said {
  readonly type: TypeNode
  readonly words: ReadonlySet<string>
}

/** Reads types and declarators; the rest of the language stands upon it. */
export abstract class TypeParser {
  protected readonly tokens: readonly Token[]
  protected next = 0
  /** Names that are types, in any of the files. */
  protected readonly types: Set<string>

  constructor(tokens: readonly Token[], types: ReadonlySet<string>) {
    this.tokens = tokens
    this.types = new Set(types)
    // A type may be named before the tab that makes it is read.
    tokens.forEach((token, at) => {
      if (token.is !== 'word') return
      const after = tokens[at + 1]
      if (/^(class|struct|union|enum|typename)$/.test(token.text)) {
        const name = after?.text === 'class' || after?.text === 'struct' ? tokens[at + 2] : after
        if (name?.is === 'word') this.types.add(name.text)
      }
      if (token.text === 'using' && tokens[at + 2]?.text === '=' && after) this.types.add(after.text)
      if (token.text === 'typedef') this.types.add(typedefName(tokens, at))
    })
  }

  protected abstract assignment(): Expr
  protected abstract conditional(): Expr

  protected get token(): Token {
    return this.tokens[this.next]!
  }

  protected peek(by = 1): Token {
    return this.tokens[Math.min(this.next + by, this.tokens.length - 1)]!
  }

  protected is(text: string): boolean {
    const { token } = this
    return token.text === text && (token.is === 'sign' || token.is === 'word')
  }

  protected take(text: string): boolean {
    if (!this.is(text)) return false
    this.next += 1
    return true
  }

  protected expect(text: string, where: string): void {
    if (this.take(text)) return
    const { token } = this
    // What is missing mostly belongs to the end of the line before.
    const before = this.tokens[Math.max(0, this.next - 1)]!
    const at = lineOf(before.at) < lineOf(token.at) ? before.at : token.at
    throw new SourceError(`expected "${text}" ${where}, found ${written(token)}`, at)
  }

  protected fail(message: string, at = this.token.at): never {
    throw new SourceError(message, at)
  }

  protected word(what: string): string {
    const { token } = this
    if (token.is !== 'word') this.fail(`expected ${what}, found ${written(token)}`)
    this.next += 1
    return token.text
  }

  /** Tries something; where it does not fit, everything is as it was before. */
  protected attempt<T>(read: () => T | undefined): T | undefined {
    const from = this.next
    try {
      const found = read()
      if (found !== undefined) return found
    } catch (error) {
      if (!(error instanceof SourceError)) throw error
    }
    this.next = from
    return undefined
  }

  /** True where a type begins. A name that nobody has made is one before another name. */
  protected beginsType(): boolean {
    const { token } = this
    if (token.is !== 'word') return false
    if (SIZES.has(token.text) || BESIDE.has(token.text) || token.text === 'auto') return true
    if (WORDS.has(token.text)) return false
    let at = this.next
    let name = token.text
    while (this.tokens[at + 1]?.text === '::' && this.tokens[at + 2]?.is === 'word') {
      at += 2
      name = this.tokens[at]!.text
    }
    const after = this.tokens[at + 1]!
    if (this.types.has(name)) return after.text !== '(' && after.text !== '.' && after.text !== '::'
    if (after.is === 'word' && !WORDS.has(after.text)) {
      const further = this.tokens[at + 2]!.text
      return /^[;=,([{:]$/.test(further)
    }
    // `std::vector<int> all;`
    if (after.text === '<') return this.closesAsType(at + 1)
    return false
  }

  private closesAsType(open: number): boolean {
    let depth = 0
    // `std::function<void(int)>`: there brackets hold parameters, elsewhere a call.
    const ends = this.tokens[open - 1]!.text === 'function' ? /^[;{}]$/ : /^[;{}()]$/
    for (let at = open; at < Math.min(open + 40, this.tokens.length); at += 1) {
      const { text, is } = this.tokens[at]!
      if (text === '<') depth += 1
      else if (text === '>' || text === '>>') depth -= text.length
      else if (ends.test(text) && is === 'sign') return false
      if (depth <= 0) return this.tokens[at + 1]?.is === 'word' || /^[*&]$/.test(this.tokens[at + 1]?.text ?? '')
    }
    return false
  }

  /** `static const unsigned long`, `Servo`, `std::array<int, 3>`. */
  protected specifiers(): Said {
    const words = new Set<string>()
    const sizes: string[] = []
    let name: string | undefined
    let args: readonly (TypeNode | Expr)[] | undefined
    let inner: string | undefined
    for (;;) {
      const { token } = this
      if (token.is !== 'word') break
      if (token.text === 'auto') {
        words.add('auto')
        this.next += 1
      } else if (SIZES.has(token.text)) {
        sizes.push(token.text)
        this.next += 1
      } else if (BESIDE.has(token.text)) {
        words.add(token.text)
        this.next += 1
      } else if (name === undefined && sizes.length === 0 && !words.has('auto') && !WORDS.has(token.text)) {
        name = this.word('a type')
        while (this.is('::') && this.peek().is === 'word') {
          this.next += 1
          name += `::${this.word('a type')}`
        }
        if (this.is('<')) args = this.templateArguments()
        if (args && this.is('::') && this.peek().is === 'word') {
          this.next += 1
          inner = this.word('a type')
        }
      } else break
    }
    const isConst = words.has('const') || words.has('constexpr')
    if (sizes.length > 0) return { type: { t: 'name', name: sizeName(sizes), isConst }, words }
    if (name !== undefined)
      return { type: { t: 'name', name, isConst, ...(args ? { args } : {}), ...(inner ? { inner } : {}) }, words }
    if (words.has('auto')) return { type: { t: 'auto', isConst }, words }
    return this.fail(`expected a type, found ${written(this.token)}`)
  }

  protected templateArguments(): (TypeNode | Expr)[] {
    this.expect('<', 'before the arguments of a template')
    const args: (TypeNode | Expr)[] = []
    while (!this.is('>') && !this.is('>>')) {
      const type =
        this.beginsType() || this.types.has(this.token.text) ? this.attempt(() => this.typeOnly()) : undefined
      args.push(type ?? this.shifted())
      if (!this.take(',')) break
    }
    this.closeTemplate()
    return args
  }

  /** A number among the arguments of a template, in which `>` closes. */
  protected abstract shifted(): Expr

  private closeTemplate(): void {
    const { token } = this
    if (token.text === '>>') {
      // The first half closes this one, the second the one around it.
      ;(this.tokens as Token[])[this.next] = { ...token, text: '>' }
      return
    }
    this.expect('>', 'after the arguments of a template')
  }

  /** A type with nothing named, as in a cast. */
  protected typeOnly(): TypeNode {
    const { type } = this.specifiers()
    return this.declarator(type, 'none').type
  }

  /**
   * What stands around a name in a declaration (ISO C++17, clause 11.3): `*`, `&`, brackets of arrays and functions.
   * `none`: nothing is named.
   */
  protected declarator(base: TypeNode, names: 'one' | 'maybe' | 'none'): { name: string; type: TypeNode; at: number } {
    let type = base
    for (;;) {
      if (this.take('*')) type = { t: 'pointer', to: type }
      else if (this.take('&')) type = { t: 'reference', to: type }
      else if (this.take('&&')) type = { t: 'reference', to: type }
      else if (this.take('const') || this.take('volatile') || this.take('constexpr')) continue
      else break
    }
    const { at } = this.token
    // `(*handler)(int)`: what is inside goes around what follows.
    if (this.is('(') && /^[*&]$/.test(this.peek().text)) {
      const from = this.next
      const depthEnd = this.closing(this.next)
      this.next = depthEnd + 1
      const outer = this.suffixes(type)
      const end = this.next
      this.next = from + 1
      const inner = this.declarator(outer, names)
      this.expect(')', 'after a name in brackets')
      this.next = end
      return inner
    }
    let name = ''
    if (names !== 'none' && this.token.is === 'word' && !WORDS.has(this.token.text)) {
      name = this.word('a name')
      while (this.is('::') && (this.peek().is === 'word' || this.peek().text === '~')) {
        this.next += 1
        name += this.take('~') ? '::~' : '::'
        name += this.is('operator') ? this.operatorName() : this.word('a name')
      }
    } else if (names !== 'none' && this.is('operator')) name = this.operatorName()
    if (names === 'one' && name === '') this.fail(`expected a name, found ${written(this.token)}`)
    return { name, type: this.suffixes(type), at }
  }

  protected operatorName(): string {
    this.expect('operator', 'before the sign of an operator')
    let sign = ''
    if (this.take('(')) {
      this.expect(')', 'after operator(')
      sign = '()'
    } else if (this.take('[')) {
      this.expect(']', 'after operator[')
      sign = '[]'
    } else if (this.token.is === 'sign') {
      sign = this.token.text
      this.next += 1
    } else {
      // `operator bool`: a way to turn it into another type.
      const { type } = this.specifiers()
      sign = ` ${type.t === 'name' ? type.name : 'auto'}`
      while (this.take('*')) sign += '*'
    }
    return `operator${sign}`
  }

  /** Place of the bracket that closes one. */
  protected closing(open: number): number {
    let depth = 0
    for (let at = open; at < this.tokens.length; at += 1) {
      const { text, is } = this.tokens[at]!
      if (is !== 'sign') continue
      if (/^[([{]$/.test(text)) depth += 1
      if (/^[)\]}]$/.test(text)) {
        depth -= 1
        if (depth === 0) return at
      }
    }
    return this.fail(`a "${this.tokens[open]!.text}" that stands here is never closed`, this.tokens[open]!.at)
  }

  /** Brackets of arrays, and of functions where what stands in them are parameters. */
  private suffixes(type: TypeNode): TypeNode {
    if (this.is('[')) {
      this.next += 1
      const length = this.is(']') ? undefined : this.conditional()
      this.expect(']', 'after the length of an array')
      return { t: 'array', of: this.suffixes(type), length }
    }
    if (this.is('(') && this.holdsParams()) {
      const params = this.params()
      while (
        this.take('const') ||
        this.take('noexcept') ||
        this.take('override') ||
        this.take('final') ||
        this.take('volatile')
      );
      if (this.take('->')) return { t: 'function', returns: this.typeOnly(), params }
      return { t: 'function', returns: type, params }
    }
    return type
  }

  /** True for `()` and `(int x)`, false for `(9)`: arguments of a constructor. */
  private holdsParams(): boolean {
    if (this.peek().text === ')') return true
    if (this.peek().text === '...') return true
    this.next += 1
    const begins =
      this.beginsType() ||
      (this.types.has(this.token.text) && this.peek().text === '(' && /^[*&]$/.test(this.peek(2).text)) ||
      (this.types.has(this.token.text) && /^[,)*&<]$/.test(this.peek().text))
    this.next -= 1
    return begins
  }

  protected params(): Param[] {
    this.expect('(', 'before parameters')
    const params: Param[] = []
    while (!this.is(')')) {
      if (this.take('...')) break
      if (this.is('void') && this.peek().text === ')') {
        this.next += 1
        break
      }
      const { type: base } = this.specifiers()
      const { name, type } = this.declarator(base, 'maybe')
      const otherwise = this.take('=') ? this.assignment() : undefined
      params.push({ name, type, otherwise })
      if (!this.take(',')) break
    }
    this.expect(')', 'after parameters')
    return params
  }
}
