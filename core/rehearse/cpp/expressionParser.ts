import type { Capture, Expr, FunctionNode, Statement, TypeNode } from './syntax.ts'
import { LEVELS } from './tokens.ts'
import { TypeParser } from './typeParser.ts'
import { written } from './typeWords.ts'

const ASSIGN: ReadonlySet<string> = new Set(['=', '+=', '-=', '*=', '/=', '%=', '&=', '|=', '^=', '<<=', '>>='])
const UNARY: ReadonlySet<string> = new Set(['+', '-', '!', '~', '*', '&', 'not'])
const CASTS: ReadonlySet<string> = new Set(['static_cast', 'reinterpret_cast', 'const_cast', 'dynamic_cast'])
/** What may begin a value behind a type in brackets, so that the brackets are a cast. */
const BEGINS = /^(?:[(~!&*+-]|\+\+|--)$/

/** Reads values. */
export abstract class ExpressionParser extends TypeParser {
  /** Arguments of a template are being read: a `>` ends them. */
  #inTemplate = false

  protected abstract block(): Statement

  protected expression(): Expr {
    let left = this.assignment()
    while (this.is(',')) {
      const { at } = this.token
      this.next += 1
      left = { e: 'binary', op: ',', a: left, b: this.assignment(), at }
    }
    return left
  }

  protected override assignment(): Expr {
    if (this.is('{')) return this.list()
    const left = this.conditional()
    const { token } = this
    if (token.is !== 'sign' || !ASSIGN.has(token.text)) return left
    this.next += 1
    return { e: 'assign', op: token.text, a: left, b: this.assignment(), at: token.at }
  }

  protected override conditional(): Expr {
    const asked = this.binary(0)
    if (!this.is('?')) return asked
    const { at } = this.token
    this.next += 1
    const then = this.#outside(() => this.assignment())
    this.expect(':', 'between the two values of a choice')
    return { e: 'choose', if: asked, then, else: this.assignment(), at }
  }

  protected override shifted(): Expr {
    this.#inTemplate = true
    try {
      return this.binary(7)
    } finally {
      this.#inTemplate = false
    }
  }

  /** Inside brackets a `>` is a sign between values again. */
  #outside<T>(read: () => T): T {
    const before = this.#inTemplate
    this.#inTemplate = false
    try {
      return read()
    } finally {
      this.#inTemplate = before
    }
  }

  private binary(level: number): Expr {
    const signs = LEVELS[level]
    if (!signs) return this.unary()
    let left = this.binary(level + 1)
    for (;;) {
      const { token } = this
      if (token.is !== 'sign' && token.is !== 'word') return left
      if (!signs.includes(token.text) || (this.#inTemplate && token.text.startsWith('>'))) return left
      this.next += 1
      const op = token.text === 'and' ? '&&' : token.text === 'or' ? '||' : token.text
      left = { e: 'binary', op, a: left, b: this.binary(level + 1), at: token.at }
    }
  }

  private unary(): Expr {
    const { token } = this
    const { at } = token
    if (token.is === 'sign' && (token.text === '++' || token.text === '--')) {
      this.next += 1
      return { e: 'step', op: token.text, before: true, of: this.unary(), at }
    }
    if ((token.is === 'sign' || token.text === 'not') && UNARY.has(token.text)) {
      this.next += 1
      return { e: 'unary', op: token.text === 'not' ? '!' : token.text, of: this.unary(), at }
    }
    if (this.is('sizeof')) return this.sizeOf(at)
    if (this.is('new')) return this.made(at)
    if (this.take('delete')) {
      if (this.take('[')) this.expect(']', 'after delete[')
      return { e: 'delete', of: this.unary(), at }
    }
    if (this.is('(')) {
      const cast = this.attempt(() => this.cast(at))
      if (cast) return cast
    }
    return this.postfix(this.primary())
  }

  /** `(uint8_t)value`: a type in brackets with a value behind it. */
  private cast(at: number): Expr | undefined {
    this.next += 1
    const named = this.token.is === 'word' && this.types.has(this.token.text)
    if (!named && !this.beginsTypeInBrackets()) return undefined
    const type = this.typeOnly()
    if (!this.take(')')) return undefined
    const { token } = this
    const goesOn =
      token.is === 'word'
        ? token.text !== 'and' && token.text !== 'or'
        : token.is === 'sign'
          ? BEGINS.test(token.text)
          : token.is !== 'end'
    if (!goesOn) return this.is('{') ? { e: 'make', type, args: this.items(), at } : undefined
    return { e: 'cast', type, of: this.unary(), at }
  }

  private beginsTypeInBrackets(): boolean {
    if (this.beginsType()) return true
    // `(Colour *)`: the name of a type that only the star tells.
    return this.token.is === 'word' && /^[*&]$/.test(this.peek().text) && this.peek(2).text === ')'
  }

  private sizeOf(at: number): Expr {
    this.next += 1
    const type = this.is('(')
      ? this.attempt(() => {
          this.next += 1
          if (!this.beginsType() && !this.types.has(this.token.text)) return undefined
          const found = this.typeOnly()
          return this.take(')') ? found : undefined
        })
      : undefined
    if (type) return { e: 'size', type, of: undefined, at }
    return { e: 'size', type: undefined, of: this.unary(), at }
  }

  private made(at: number): Expr {
    this.next += 1
    const { type: base } = this.specifiers()
    let type: TypeNode = base
    while (this.take('*')) type = { t: 'pointer', to: type }
    if (this.take('[')) {
      const count = this.expression()
      this.expect(']', 'after the number of things to make')
      return { e: 'new', type, args: this.is('{') ? this.items() : [], count, at }
    }
    const args = this.is('(') ? this.arguments() : this.is('{') ? this.items() : []
    return { e: 'new', type, args, count: undefined, at }
  }

  private postfix(first: Expr): Expr {
    let value = first
    for (;;) {
      const { at } = this.token
      if (this.is('(')) value = { e: 'call', of: value, args: this.arguments(), at: value.at }
      else if (this.take('[')) {
        const by = this.#outside(() => this.expression())
        this.expect(']', 'after an index')
        value = { e: 'index', of: value, by, at }
      } else if (this.is('.') || this.is('->')) {
        const arrow = this.token.text === '->'
        this.next += 1
        const name = this.is('operator')
          ? this.operatorName()
          : `${this.take('~') ? '~' : ''}${this.word('the name of a member')}`
        let member = name
        let owner: string | undefined
        while (this.take('::')) {
          owner = owner === undefined ? member : `${owner}::${member}`
          member = this.word('the name of a member')
        }
        const args = this.is('<') && !this.#inTemplate ? this.attempt(() => this.templateCall()) : undefined
        value = { e: 'member', of: value, name: member, arrow, owner, at, ...(args ? { args } : {}) }
      } else if (this.is('++') || this.is('--')) {
        const op = this.token.text as '++' | '--'
        this.next += 1
        value = { e: 'step', op, before: false, of: value, at }
      } else return value
    }
  }

  protected arguments(): Expr[] {
    this.expect('(', 'before arguments')
    const args: Expr[] = []
    this.#outside(() => {
      while (!this.is(')')) {
        args.push(this.assignment())
        if (!this.take(',')) break
      }
    })
    this.expect(')', 'after arguments')
    return args
  }

  protected items(): Expr[] {
    const list = this.list()
    return list.e === 'list' ? [...list.items] : []
  }

  /** `{1, 2, 3}`, `{.x = 1}`. */
  protected list(): Expr {
    const { at } = this.token
    this.expect('{', 'before a list')
    const items: Expr[] = []
    const names: (string | undefined)[] = []
    this.#outside(() => {
      while (!this.is('}')) {
        let name: string | undefined
        if (this.is('.') && this.peek().is === 'word') {
          this.next += 1
          name = this.word('a field')
          this.expect('=', 'after a field in a list')
        }
        names.push(name)
        items.push(this.assignment())
        if (!this.take(',')) break
      }
    })
    this.expect('}', 'after a list')
    return { e: 'list', items, at, ...(names.some((name) => name !== undefined) ? { names } : {}) }
  }

  private primary(): Expr {
    const { token } = this
    const { at } = token
    switch (token.is) {
      case 'number':
        this.next += 1
        return { e: 'number', text: token.text, at }
      case 'letter':
        this.next += 1
        return { e: 'letter', text: token.text, at }
      case 'text': {
        let text = ''
        for (; this.token.is === 'text'; this.next += 1) text += this.token.text
        return { e: 'text', text, at }
      }
      case 'word':
        return this.named()
      case 'sign':
        if (this.take('(')) {
          const inner = this.#outside(() => this.expression())
          this.expect(')', 'after a value in brackets')
          return inner
        }
        if (token.text === '[') return this.lambda()
        if (token.text === '{') return this.list()
        if (this.take('::')) {
          const { at: place } = this.token
          return { e: 'name', name: `::${this.word('a name')}`, at: place }
        }
    }
    return this.fail(`expected a value, found ${written(token)}`)
  }

  private named(): Expr {
    const { at, text } = this.token
    if (this.take('true')) return { e: 'truth', value: true, at }
    if (this.take('false')) return { e: 'truth', value: false, at }
    if (this.take('nullptr')) return { e: 'null', at }
    if (this.take('this')) return { e: 'this', at }
    if (CASTS.has(text)) {
      this.next += 1
      this.expect('<', `after ${text}`)
      const type = this.typeOnly()
      this.expect('>', `after the type of ${text}`)
      this.expect('(', `before the value of ${text}`)
      const of = this.#outside(() => this.expression())
      this.expect(')', `after the value of ${text}`)
      return { e: 'cast', type, of, at }
    }
    // `int(x)`, `unsigned long(x)`, `Point{1, 2}`.
    const made = this.attempt(() => this.construction(at))
    if (made) return made
    let name = this.word('a value')
    while (this.is('::') && this.peek().is === 'word') {
      this.next += 1
      name += `::${this.word('a name')}`
    }
    const args = this.is('<') && !this.#inTemplate ? this.attempt(() => this.templateCall()) : undefined
    return { e: 'name', name, at, ...(args ? { args } : {}) }
  }

  /** `biggest<int>(`: arguments of a template only where a call follows. */
  private templateCall(): (TypeNode | Expr)[] | undefined {
    const args = this.templateArguments()
    return this.is('(') || this.is('::') ? args : undefined
  }

  private construction(at: number): Expr | undefined {
    const isName = this.types.has(this.token.text) && !this.tokens[this.next + 1]?.text.startsWith('::')
    const isSize = /^(unsigned|signed|short|long|int|char|bool|float|double|void)$/.test(this.token.text)
    if (!isName && !isSize) return undefined
    const { type } = this.specifiers()
    if (this.is('(')) return { e: 'make', type, args: this.arguments(), at }
    if (this.is('{')) return { e: 'make', type, args: this.items(), at }
    return undefined
  }

  private lambda(): Expr {
    const { at } = this.token
    this.expect('[', 'before what a lambda takes along')
    const captures: Capture[] = []
    let all: '' | '=' | '&' = ''
    while (!this.is(']')) {
      if (this.take('=')) all = '='
      else if (this.is('&') && /^[,\]]$/.test(this.peek().text)) {
        this.next += 1
        all = '&'
      } else if (this.take('this') || (this.is('*') && this.peek().text === 'this')) {
        if (this.take('*')) this.take('this')
      } else {
        const byReference = this.take('&')
        const name = this.word('the name of what a lambda takes along')
        captures.push({ name, byReference, value: this.take('=') ? this.assignment() : undefined })
      }
      if (!this.take(',')) break
    }
    this.expect(']', 'after what a lambda takes along')
    const params = this.is('(') ? this.params() : []
    while (this.take('mutable') || this.take('noexcept'));
    const returns: TypeNode = this.take('->') ? this.typeOnly() : { t: 'auto' }
    const body = this.#outside(() => this.block())
    const node: FunctionNode = {
      name: '',
      returns,
      params,
      body,
      isStatic: false,
      isVirtual: false,
      isPure: false,
      first: [],
      open: [],
      at,
    }
    return { e: 'lambda', function: node, captures, all, at }
  }
}
