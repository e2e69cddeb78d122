import { SourceError } from '../cpp/tokens.ts'
import type { PyArg, PyEach, PyExpr, PyFunctionNode, PyParam, PyStmt } from './syntax.ts'
import { type PyToken, pyTokens } from './tokens.ts'

const LEVELS: readonly (readonly string[])[] = [
  ['|'],
  ['^'],
  ['&'],
  ['<<', '>>'],
  ['+', '-'],
  ['*', '/', '//', '%', '@'],
]
const COMPARE: ReadonlySet<string> = new Set(['<', '>', '<=', '>=', '==', '!='])
const CHANGE = /^(?:[-+*/%&|^@]|\*\*|\/\/|<<|>>)=$/
const WORDS: ReadonlySet<string> = new Set([
  'and',
  'as',
  'assert',
  'async',
  'await',
  'break',
  'class',
  'continue',
  'def',
  'del',
  'elif',
  'else',
  'except',
  'finally',
  'for',
  'from',
  'global',
  'if',
  'import',
  'in',
  'is',
  'lambda',
  'nonlocal',
  'not',
  'or',
  'pass',
  'raise',
  'return',
  'try',
  'while',
  'with',
  'yield',
])

/**
 * The syntax of a Python program (Python reference, chapters 6 to 8).
 * @throws SourceError with the line of what was not expected.
 */
export const parsePython = (text: string, file: number): PyStmt[] => new Parser(pyTokens(text, file)).program()

class Parser {
  readonly #tokens: readonly PyToken[]
  #next = 0

  constructor(tokens: readonly PyToken[]) {
    this.#tokens = tokens
  }

  get #token(): PyToken {
    return this.#tokens[this.#next]!
  }

  #is(text: string): boolean {
    const { token } = { token: this.#token }
    return token.text === text && (token.is === 'sign' || token.is === 'name')
  }

  #take(text: string): boolean {
    if (!this.#is(text)) return false
    this.#next += 1
    return true
  }

  #expect(text: string, where: string): void {
    if (!this.#take(text)) this.#fail(`expected "${text}" ${where}, found ${wordsOf(this.#token)}`)
  }

  #fail(message: string, at = this.#token.at): never {
    throw new SourceError(message, at)
  }

  #name(what = 'a name'): string {
    const token = this.#token
    if (token.is !== 'name' || WORDS.has(token.text)) this.#fail(`expected ${what}, found ${wordsOf(token)}`)
    this.#next += 1
    return token.text
  }

  program(): PyStmt[] {
    const body: PyStmt[] = []
    while (this.#token.is !== 'end') body.push(...this.#statement())
    return body
  }

  #statement(): PyStmt[] {
    const { at, is, text } = this.#token
    if (is === 'line') {
      this.#next += 1
      return []
    }
    if (is === 'in') this.#fail('this line is indented, and nothing before it asks for that')
    if (is === 'sign' && text === '@') return [this.#marked()]
    if (is === 'name')
      switch (text) {
        case 'if':
          return [this.#if(at)]
        case 'while': {
          this.#next += 1
          const asked = this.#namedExpression()
          const body = this.#block()
          return [{ s: 'while', if: asked, body, else: this.#elseBlock(), at }]
        }
        case 'for':
          return [this.#for(at, false)]
        case 'def':
          return [{ s: 'def', function: this.#def(at, false), marks: [], at }]
        case 'class':
          return [this.#class(at, [])]
        case 'try':
          return [this.#try(at)]
        case 'with':
          return [this.#with(at)]
        case 'async':
          this.#next += 1
          if (this.#is('def')) return [{ s: 'def', function: this.#def(at, true), marks: [], at }]
          if (this.#is('for')) return [this.#for(at, true)]
          if (this.#is('with')) return [this.#with(at)]
          return this.#fail('expected def, for or with after async')
        case 'match':
          if (this.#tokens[this.#next + 1]?.is === 'name') return this.#fail('match is not understood', at)
      }
    const all = [this.#simple()]
    while (this.#take(';')) {
      if (this.#token.is === 'line') break
      all.push(this.#simple())
    }
    if (this.#token.is !== 'line' && this.#token.is !== 'end')
      this.#fail(`expected the end of the line, found ${wordsOf(this.#token)}`)
    if (this.#token.is === 'line') this.#next += 1
    return all
  }

  #block(): PyStmt[] {
    this.#expect(':', 'before what belongs to it')
    if (this.#token.is !== 'line') return this.#statement()
    this.#next += 1
    if (!this.#begins('in')) this.#fail('expected lines that are indented')
    this.#next += 1
    const body: PyStmt[] = []
    while (!this.#begins('out')) body.push(...this.#statement())
    this.#next += 1
    return body
  }

  #begins(is: PyToken['is']): boolean {
    return this.#token.is === is
  }

  #elseBlock(): PyStmt[] {
    return this.#take('else') ? this.#block() : []
  }

  #if(at: number): PyStmt {
    this.#next += 1
    const asked = this.#namedExpression()
    const yes = this.#block()
    const place = this.#token.at
    const other = this.#is('elif') ? [this.#if(place)] : this.#elseBlock()
    return { s: 'if', if: asked, yes, else: other, at }
  }

  #for(at: number, isAsync: boolean): PyStmt {
    this.#next += 1
    const target = this.#targets()
    this.#expect('in', 'after the names of a loop')
    const over = this.#tuple()
    const body = this.#block()
    return { s: 'for', target, over, body, else: this.#elseBlock(), isAsync, at }
  }

  #def(at: number, isAsync: boolean): PyFunctionNode {
    this.#next += 1
    const name = this.#name('the name of a function')
    this.#expect('(', 'before parameters')
    const params = this.#params(')')
    this.#expect(')', 'after parameters')
    if (this.#take('->')) this.#expression()
    return { name, params, body: this.#block(), isAsync, at }
  }

  #params(end: string): PyParam[] {
    const params: PyParam[] = []
    let named = false
    while (!this.#is(end)) {
      if (this.#take('**')) params.push({ name: this.#annotated(end), kind: 'map', otherwise: undefined })
      else if (this.#take('*')) {
        named = true
        if (!this.#is(',')) params.push({ name: this.#annotated(end), kind: 'list', otherwise: undefined })
      } else if (this.#take('/')) {
        // What stands before it is given by place only; programs of this kind do not depend on that.
      } else {
        const name = this.#annotated(end)
        params.push({
          name,
          kind: named ? 'named' : 'plain',
          otherwise: this.#take('=') ? this.#expression() : undefined,
        })
      }
      if (!this.#take(',')) break
    }
    return params
  }

  #annotated(end: string): string {
    const name = this.#name('a parameter')
    if (end === ')' && this.#take(':')) this.#expression()
    return name
  }

  #marked(): PyStmt {
    const marks: PyExpr[] = []
    while (this.#take('@')) {
      marks.push(this.#expression())
      while (this.#token.is === 'line') this.#next += 1
    }
    const { at } = this.#token
    if (this.#is('class')) return this.#class(at, marks)
    const isAsync = this.#take('async')
    if (!this.#is('def')) this.#fail('expected def or class after @')
    return { s: 'def', function: this.#def(at, isAsync), marks, at }
  }

  #class(at: number, marks: readonly PyExpr[]): PyStmt {
    this.#next += 1
    const name = this.#name('the name of a class')
    const bases = this.#take('(') ? this.#args().flatMap((arg) => (arg.name === undefined ? [arg.value] : [])) : []
    return { s: 'class', name, bases, body: this.#block(), marks, at }
  }

  #try(at: number): PyStmt {
    this.#next += 1
    const body = this.#block()
    const excepts: { types: PyExpr | undefined; name: string | undefined; body: PyStmt[] }[] = []
    while (this.#take('except')) {
      const types = this.#is(':') ? undefined : this.#tuple()
      const name = this.#take('as') ? this.#name() : undefined
      excepts.push({ types, name, body: this.#block() })
    }
    const other = this.#elseBlock()
    const last = this.#take('finally') ? this.#block() : []
    if (excepts.length === 0 && last.length === 0) this.#fail('expected except or finally after try', at)
    return { s: 'try', body, excepts, else: other, finally: last, at }
  }

  #with(at: number): PyStmt {
    this.#next += 1
    const items: { value: PyExpr; target: PyExpr | undefined }[] = []
    const bracketed = this.#is('(') && this.#closesBeforeColon()
    if (bracketed) this.#next += 1
    do {
      const value = this.#expression()
      items.push({ value, target: this.#take('as') ? this.#primary() : undefined })
    } while (this.#take(',') && !this.#is(')'))
    if (bracketed) this.#expect(')', 'after with')
    return { s: 'with', items, body: this.#block(), at }
  }

  /** `with (open(a) as b, open(c) as d):` */
  #closesBeforeColon(): boolean {
    let depth = 0
    for (let at = this.#next; at < this.#tokens.length; at += 1) {
      const { text, is } = this.#tokens[at]!
      if (is === 'line') return false
      if (is !== 'sign') continue
      if (/^[([{]$/.test(text)) depth += 1
      if (/^[)\]}]$/.test(text)) depth -= 1
      if (depth === 0)
        return this.#tokens[at + 1]?.text === ':' && this.#tokens.slice(this.#next, at).some((one) => one.text === 'as')
    }
    return false
  }

  #simple(): PyStmt {
    const { at, text, is } = this.#token
    if (is === 'name')
      switch (text) {
        case 'pass':
        case 'break':
        case 'continue':
          this.#next += 1
          return { s: text, at }
        case 'return': {
          this.#next += 1
          return { s: 'return', value: this.#ends() ? undefined : this.#tuple(), at }
        }
        case 'raise': {
          this.#next += 1
          const value = this.#ends() ? undefined : this.#expression()
          if (this.#take('from')) this.#expression()
          return { s: 'raise', value, at }
        }
        case 'global':
        case 'nonlocal': {
          this.#next += 1
          const names = [this.#name()]
          while (this.#take(',')) names.push(this.#name())
          return { s: text, names, at }
        }
        case 'del': {
          this.#next += 1
          const targets = [this.#primary()]
          while (this.#take(',')) targets.push(this.#primary())
          return { s: 'del', targets, at }
        }
        case 'assert': {
          this.#next += 1
          const test = this.#expression()
          return { s: 'assert', test, message: this.#take(',') ? this.#expression() : undefined, at }
        }
        case 'import':
          return this.#import(at)
        case 'from':
          return this.#from(at)
      }
    const first = this.#tupleOrYield()
    if (this.#take(':')) {
      // `speed: int = 3`: what it is meant to be is not held against it.
      this.#expression()
      if (!this.#take('=')) return { s: 'pass', at }
      return { s: 'assign', targets: [first], value: this.#tupleOrYield(), at }
    }
    if (this.#token.is === 'sign' && CHANGE.test(this.#token.text)) {
      const op = this.#token.text.slice(0, -1)
      this.#next += 1
      return { s: 'change', target: first, op, value: this.#tupleOrYield(), at }
    }
    if (!this.#is('=')) return { s: 'expression', value: first, at }
    const targets = [first]
    let value = first
    while (this.#take('=')) {
      value = this.#tupleOrYield()
      targets.push(value)
    }
    targets.pop()
    return { s: 'assign', targets, value, at }
  }

  #ends(): boolean {
    return this.#token.is === 'line' || this.#token.is === 'end' || this.#is(';')
  }

  #import(at: number): PyStmt {
    this.#next += 1
    const all: { name: string; as: string }[] = []
    do {
      let name = this.#name('the name of a module')
      while (this.#take('.')) name += `.${this.#name()}`
      all.push({ name, as: this.#take('as') ? this.#name() : name.split('.')[0]! })
    } while (this.#take(','))
    const [first] = all
    if (all.length === 1 && first) return { s: 'import', ...first, at }
    return {
      s: 'if',
      if: { e: 'constant', value: true, at },
      yes: all.map((one) => ({ s: 'import', ...one, at })),
      else: [],
      at,
    }
  }

  #from(at: number): PyStmt {
    this.#next += 1
    let module = ''
    while (this.#take('.')) module += ''
    if (!this.#is('import')) {
      module += this.#name('the name of a module')
      while (this.#take('.')) module += `.${this.#name()}`
    }
    this.#expect('import', 'after the name of a module')
    if (this.#take('*')) return { s: 'from', module, names: [{ name: '*', as: '*' }], at }
    const bracketed = this.#take('(')
    const names: { name: string; as: string }[] = []
    do {
      if (bracketed && this.#is(')')) break
      const name = this.#name()
      names.push({ name, as: this.#take('as') ? this.#name() : name })
    } while (this.#take(','))
    if (bracketed) this.#expect(')', 'after the names that are imported')
    return { s: 'from', module, names, at }
  }

  #tupleOrYield(): PyExpr {
    return this.#is('yield') ? this.#yield() : this.#tuple()
  }

  #yield(): PyExpr {
    const { at } = this.#token
    this.#next += 1
    if (this.#take('from')) return { e: 'yield', value: this.#expression(), from: true, at }
    const isBare = this.#ends() || this.#is(')') || this.#is('=')
    return { e: 'yield', value: isBare ? undefined : this.#tuple(), from: false, at }
  }

  #tuple(): PyExpr {
    const { at } = this.#token
    const first = this.#starred()
    if (!this.#is(',')) return first
    const items = [first]
    while (this.#take(',')) {
      if (this.#ends() || (this.#token.is === 'sign' && /^[)\]}=:]$/.test(this.#token.text))) break
      items.push(this.#starred())
    }
    return { e: 'tuple', items, at }
  }

  #targets(): PyExpr {
    const { at } = this.#token
    const item = (): PyExpr => (this.#take('*') ? { e: 'star', of: this.#binary(0), at } : this.#binary(0))
    const items = [item()]
    let isTuple = false
    while (this.#take(',')) {
      isTuple = true
      if (this.#is('in')) break
      items.push(item())
    }
    return isTuple ? { e: 'tuple', items, at } : items[0]!
  }

  #starred(): PyExpr {
    const { at } = this.#token
    return this.#take('*') ? { e: 'star', of: this.#binary(0), at } : this.#namedExpression()
  }

  #namedExpression(): PyExpr {
    const { at, is, text } = this.#token
    const next = this.#tokens[this.#next + 1]
    if (is === 'name' && next?.text === ':=' && next.is === 'sign') {
      this.#next += 2
      return { e: 'named', name: text, value: this.#expression(), at }
    }
    return this.#expression()
  }

  #expression(): PyExpr {
    const { at } = this.#token
    if (this.#is('lambda')) return this.#lambda(at)
    const value = this.#or()
    if (!this.#take('if')) return value
    const asked = this.#or()
    this.#expect('else', 'in a choice between two values')
    return { e: 'choose', if: asked, yes: value, else: this.#expression(), at }
  }

  #lambda(at: number): PyExpr {
    this.#next += 1
    const params = this.#params(':')
    this.#expect(':', 'before the value of a lambda')
    const value = this.#expression()
    return {
      e: 'lambda',
      function: { name: 'lambda', params, body: [{ s: 'return', value, at }], isAsync: false, at },
      at,
    }
  }

  #or(): PyExpr {
    let left = this.#and()
    while (this.#is('or')) {
      const { at } = this.#token
      this.#next += 1
      left = { e: 'logic', op: 'or', a: left, b: this.#and(), at }
    }
    return left
  }

  #and(): PyExpr {
    let left = this.#not()
    while (this.#is('and')) {
      const { at } = this.#token
      this.#next += 1
      left = { e: 'logic', op: 'and', a: left, b: this.#not(), at }
    }
    return left
  }

  #not(): PyExpr {
    const { at } = this.#token
    return this.#take('not') ? { e: 'unary', op: 'not', of: this.#not(), at } : this.#comparison()
  }

  #comparison(): PyExpr {
    const { at } = this.#token
    const first = this.#binary(0)
    const rest: { op: string; value: PyExpr }[] = []
    for (;;) {
      const { text, is } = this.#token
      let op: string | undefined
      if (is === 'sign' && COMPARE.has(text)) op = text
      else if (this.#is('in')) op = 'in'
      else if (this.#is('is')) op = this.#tokens[this.#next + 1]?.text === 'not' ? 'is not' : 'is'
      else if (this.#is('not') && this.#tokens[this.#next + 1]?.text === 'in') op = 'not in'
      if (op === undefined) break
      this.#next += op.includes(' ') ? 2 : 1
      rest.push({ op, value: this.#binary(0) })
    }
    return rest.length === 0 ? first : { e: 'compare', first, rest, at }
  }

  #binary(level: number): PyExpr {
    const signs = LEVELS[level]
    if (!signs) return this.#unary()
    let left = this.#binary(level + 1)
    for (;;) {
      const { text, is, at } = this.#token
      if (is !== 'sign' || !signs.includes(text)) return left
      this.#next += 1
      left = { e: 'binary', op: text, a: left, b: this.#binary(level + 1), at }
    }
  }

  #unary(): PyExpr {
    const { at, text, is } = this.#token
    if (is === 'sign' && /^[-+~]$/.test(text)) {
      this.#next += 1
      return { e: 'unary', op: text, of: this.#unary(), at }
    }
    if (this.#take('await')) return this.#power({ e: 'await', of: this.#primary(), at })
    return this.#power(this.#primary())
  }

  #power(base: PyExpr): PyExpr {
    const { at } = this.#token
    return this.#take('**') ? { e: 'binary', op: '**', a: base, b: this.#unary(), at } : base
  }

  #primary(): PyExpr {
    let value = this.#atom()
    for (;;) {
      const { at } = this.#token
      if (this.#take('(')) value = { e: 'call', of: value, args: this.#args(), at }
      else if (this.#take('[')) {
        value = { e: 'index', of: value, by: this.#subscript(), at }
        this.#expect(']', 'after an index')
      } else if (this.#take('.')) {
        const token = this.#token
        if (token.is !== 'name') this.#fail('expected the name of a member')
        this.#next += 1
        value = { e: 'member', of: value, name: token.text, at }
      } else return value
    }
  }

  /** Arguments up to and with the bracket that closes them. */
  #args(): PyArg[] {
    const args: PyArg[] = []
    while (!this.#is(')')) {
      const { at, is, text } = this.#token
      if (this.#take('**')) args.push({ value: this.#expression(), name: undefined, star: 2 })
      else if (this.#take('*')) args.push({ value: this.#expression(), name: undefined, star: 1 })
      else if (
        is === 'name' &&
        this.#tokens[this.#next + 1]?.text === '=' &&
        this.#tokens[this.#next + 1]?.is === 'sign'
      ) {
        this.#next += 2
        args.push({ value: this.#expression(), name: text, star: 0 })
      } else {
        const value = this.#namedExpression()
        const each = this.#is('for') || this.#is('async') ? this.#each() : undefined
        args.push({
          value: each ? { e: 'each', kind: 'generator', value, key: undefined, each, at } : value,
          name: undefined,
          star: 0,
        })
      }
      if (!this.#take(',')) break
    }
    this.#expect(')', 'after arguments')
    return args
  }

  #each(): PyEach[] {
    const all: PyEach[] = []
    while (this.#take('for')) {
      const target = this.#targets()
      this.#expect('in', 'after the names of a loop')
      const over = this.#or()
      const tests: PyExpr[] = []
      while (this.#take('if')) tests.push(this.#or())
      all.push({ target, over, tests })
    }
    return all
  }

  #subscript(): PyExpr {
    const { at } = this.#token
    const first = this.#sliced()
    if (!this.#is(',')) return first
    const items = [first]
    while (this.#take(',')) if (!this.#is(']')) items.push(this.#sliced())
    return { e: 'tuple', items, at }
  }

  #sliced(): PyExpr {
    const { at } = this.#token
    const part = (): PyExpr | undefined =>
      this.#is(':') || this.#is(']') || this.#is(',') ? undefined : this.#expression()
    const from = part()
    if (!this.#take(':')) return from ?? this.#fail('expected an index')
    const to = part()
    const step = this.#take(':') ? part() : undefined
    return { e: 'slice', from, to, step, at }
  }

  #atom(): PyExpr {
    const token = this.#token
    const { at } = token
    switch (token.is) {
      case 'number':
        this.#next += 1
        return { e: 'number', text: token.text, at }
      case 'bytes': {
        let text = ''
        for (; this.#token.is === 'bytes'; this.#next += 1) text += this.#token.text
        return { e: 'bytes', text, at }
      }
      case 'text':
      case 'form':
        return this.#texts(at)
      case 'name':
        if (token.text === 'None' || token.text === 'True' || token.text === 'False') {
          this.#next += 1
          return { e: 'constant', value: token.text === 'None' ? null : token.text === 'True', at }
        }
        return { e: 'name', name: this.#name('a value'), at }
      case 'sign':
        if (this.#take('(')) return this.#bracketed(at)
        if (this.#take('[')) return this.#list(at)
        if (this.#take('{')) return this.#braced(at)
        if (this.#take('...')) return { e: 'constant', value: null, at }
    }
    return this.#fail(`expected a value, found ${wordsOf(token)}`)
  }

  /** Texts that stand side by side are one, formatted ones among them. */
  #texts(at: number): PyExpr {
    const parts: (string | { value: PyExpr; turn: string; spec: PyExpr | undefined })[] = []
    for (; this.#token.is === 'text' || this.#token.is === 'form'; this.#next += 1)
      parts.push(...(this.#token.is === 'text' ? [this.#token.text] : formParts(this.#token.text, this.#token.at)))
    if (parts.every((one) => typeof one === 'string')) return { e: 'text', text: parts.join(''), at }
    return { e: 'form', parts, at }
  }

  #bracketed(at: number): PyExpr {
    if (this.#take(')')) return { e: 'tuple', items: [], at }
    const value = this.#tupleOrYield()
    const each = this.#is('for') ? this.#each() : undefined
    this.#expect(')', 'after a value in brackets')
    return each ? { e: 'each', kind: 'generator', value, key: undefined, each, at } : value
  }

  #list(at: number): PyExpr {
    const items: PyExpr[] = []
    while (!this.#is(']')) {
      const value = this.#starred()
      if (this.#is('for')) {
        const each = this.#each()
        this.#expect(']', 'after a list')
        return { e: 'each', kind: 'list', value, key: undefined, each, at }
      }
      items.push(value)
      if (!this.#take(',')) break
    }
    this.#expect(']', 'after a list')
    return { e: 'list', items, at }
  }

  #braced(at: number): PyExpr {
    const items: { key: PyExpr | undefined; value: PyExpr }[] = []
    const members: PyExpr[] = []
    while (!this.#is('}')) {
      if (this.#take('**')) items.push({ key: undefined, value: this.#binary(0) })
      else {
        const first = this.#starred()
        if (this.#take(':')) {
          const value = this.#expression()
          if (this.#is('for')) {
            const each = this.#each()
            this.#expect('}', 'after a map')
            return { e: 'each', kind: 'dict', value, key: first, each, at }
          }
          items.push({ key: first, value })
        } else {
          if (this.#is('for')) {
            const each = this.#each()
            this.#expect('}', 'after a set')
            return { e: 'each', kind: 'set', value: first, key: undefined, each, at }
          }
          members.push(first)
        }
      }
      if (!this.#take(',')) break
    }
    this.#expect('}', 'after a map')
    return members.length > 0 ? { e: 'set', items: members, at } : { e: 'dict', items, at }
  }

  /** A value that stands by itself, such as in the braces of a formatted text. */
  alone(): PyExpr {
    const value = this.#tuple()
    if (this.#token.is !== 'line' && this.#token.is !== 'end')
      this.#fail(`expected the end of a value, found ${wordsOf(this.#token)}`)
    return value
  }
}

const wordsOf = ({ is, text }: PyToken): string =>
  is === 'line'
    ? 'the end of the line'
    : is === 'end' || is === 'out'
      ? 'the end of what is indented'
      : is === 'in'
        ? 'an indented line'
        : `"${text}"`

/** Pieces of a formatted text: what is written, and values with how they are turned and formatted. */
function formParts(text: string, at: number): (string | { value: PyExpr; turn: string; spec: PyExpr | undefined })[] {
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
    const inner = spec === undefined ? undefined : formParts(spec, at)
    const specExpr: PyExpr | undefined =
      inner &&
      (inner.every((one) => typeof one === 'string')
        ? { e: 'text', text: inner.join(''), at }
        : { e: 'form', parts: inner, at })
    parts.push({
      value: placed(new Parser(pyTokens(`(${source})`, 0)).alone(), at),
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
