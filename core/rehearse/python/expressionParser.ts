import { formParts } from './formText.ts'
import { COMPARE, LEVELS } from './precedence.ts'
import { PyReader, wordsOf } from './reader.ts'
import type { PyArg, PyEach, PyExpr, PyParam } from './syntax.ts'
import { pyTokens } from './tokens.ts'

/** Values of Python's grammar, weakest operator first (Python reference, chapter 6). */
export class PyExpressionParser extends PyReader {
  protected tupleOrYield(): PyExpr {
    return this.is('yield') ? this.yieldHere() : this.tuple()
  }

  protected yieldHere(): PyExpr {
    const { at } = this.token
    this.next += 1
    if (this.take('from')) return { e: 'yield', value: this.expression(), from: true, at }
    const isBare = this.ends() || this.is(')') || this.is('=')
    return { e: 'yield', value: isBare ? undefined : this.tuple(), from: false, at }
  }

  protected tuple(): PyExpr {
    const { at } = this.token
    const first = this.starred()
    if (!this.is(',')) return first
    const items = [first]
    while (this.take(',')) {
      if (this.ends() || (this.token.is === 'sign' && /^[)\]}=:]$/.test(this.token.text))) break
      items.push(this.starred())
    }
    return { e: 'tuple', items, at }
  }

  protected targets(): PyExpr {
    const { at } = this.token
    const item = (): PyExpr => (this.take('*') ? { e: 'star', of: this.binary(0), at } : this.binary(0))
    const items = [item()]
    let isTuple = false
    while (this.take(',')) {
      isTuple = true
      if (this.is('in')) break
      items.push(item())
    }
    return isTuple ? { e: 'tuple', items, at } : items[0]!
  }

  protected starred(): PyExpr {
    const { at } = this.token
    return this.take('*') ? { e: 'star', of: this.binary(0), at } : this.namedExpression()
  }

  protected namedExpression(): PyExpr {
    const { at, is, text } = this.token
    const next = this.tokens[this.next + 1]
    if (is === 'name' && next?.text === ':=' && next.is === 'sign') {
      this.next += 2
      return { e: 'named', name: text, value: this.expression(), at }
    }
    return this.expression()
  }

  protected expression(): PyExpr {
    const { at } = this.token
    if (this.is('lambda')) return this.lambdaHere(at)
    const value = this.orHere()
    if (!this.take('if')) return value
    const asked = this.orHere()
    this.expect('else', 'in a choice between two values')
    return { e: 'choose', if: asked, yes: value, else: this.expression(), at }
  }

  protected lambdaHere(at: number): PyExpr {
    this.next += 1
    const params = this.params(':')
    this.expect(':', 'before the value of a lambda')
    const value = this.expression()
    return {
      e: 'lambda',
      function: { name: 'lambda', params, body: [{ s: 'return', value, at }], isAsync: false, at },
      at,
    }
  }

  protected orHere(): PyExpr {
    return this.chained('or', () => this.chained('and', () => this.notHere()))
  }

  protected chained(op: 'and' | 'or', next: () => PyExpr): PyExpr {
    let left = next()
    while (this.is(op)) {
      const { at } = this.token
      this.next += 1
      left = { e: 'logic', op, a: left, b: next(), at }
    }
    return left
  }

  protected notHere(): PyExpr {
    const { at } = this.token
    return this.take('not') ? { e: 'unary', op: 'not', of: this.notHere(), at } : this.comparison()
  }

  protected comparison(): PyExpr {
    const { at } = this.token
    const first = this.binary(0)
    const rest: { op: string; value: PyExpr }[] = []
    for (;;) {
      const { text, is } = this.token
      let op: string | undefined
      if (is === 'sign' && COMPARE.has(text)) op = text
      else if (this.is('in')) op = 'in'
      else if (this.is('is')) op = this.tokens[this.next + 1]?.text === 'not' ? 'is not' : 'is'
      else if (this.is('not') && this.tokens[this.next + 1]?.text === 'in') op = 'not in'
      if (op === undefined) break
      this.next += op.includes(' ') ? 2 : 1
      rest.push({ op, value: this.binary(0) })
    }
    return rest.length === 0 ? first : { e: 'compare', first, rest, at }
  }

  protected binary(level: number): PyExpr {
    const signs = LEVELS[level]
    if (!signs) return this.unary()
    let left = this.binary(level + 1)
    for (;;) {
      const { text, is, at } = this.token
      if (is !== 'sign' || !signs.includes(text)) return left
      this.next += 1
      left = { e: 'binary', op: text, a: left, b: this.binary(level + 1), at }
    }
  }

  protected unary(): PyExpr {
    const { at, text, is } = this.token
    if (is === 'sign' && /^[-+~]$/.test(text)) {
      this.next += 1
      return { e: 'unary', op: text, of: this.unary(), at }
    }
    if (this.take('await')) return this.power({ e: 'await', of: this.primary(), at })
    return this.power(this.primary())
  }

  protected power(base: PyExpr): PyExpr {
    const { at } = this.token
    return this.take('**') ? { e: 'binary', op: '**', a: base, b: this.unary(), at } : base
  }

  protected primary(): PyExpr {
    let value = this.atom()
    for (;;) {
      const { at } = this.token
      if (this.take('(')) value = { e: 'call', of: value, args: this.args(), at }
      else if (this.take('[')) {
        value = { e: 'index', of: value, by: this.subscript(), at }
        this.expect(']', 'after an index')
      } else if (this.take('.')) {
        const token = this.token
        if (token.is !== 'name') this.fail('expected the name of a member')
        this.next += 1
        value = { e: 'member', of: value, name: token.text, at }
      } else return value
    }
  }

  /** Arguments up to and with the bracket that closes them. */
  protected args(): PyArg[] {
    const args: PyArg[] = []
    while (!this.is(')')) {
      const { at, is, text } = this.token
      if (this.take('**')) args.push({ value: this.expression(), name: undefined, star: 2 })
      else if (this.take('*')) args.push({ value: this.expression(), name: undefined, star: 1 })
      else if (is === 'name' && this.tokens[this.next + 1]?.text === '=' && this.tokens[this.next + 1]?.is === 'sign') {
        this.next += 2
        args.push({ value: this.expression(), name: text, star: 0 })
      } else {
        const value = this.namedExpression()
        const each = this.is('for') || this.is('async') ? this.each() : undefined
        args.push({
          value: each ? { e: 'each', kind: 'generator', value, key: undefined, each, at } : value,
          name: undefined,
          star: 0,
        })
      }
      if (!this.take(',')) break
    }
    this.expect(')', 'after arguments')
    return args
  }

  protected each(): PyEach[] {
    const all: PyEach[] = []
    while (this.take('for')) {
      const target = this.targets()
      this.expect('in', 'after the names of a loop')
      const over = this.orHere()
      const tests: PyExpr[] = []
      while (this.take('if')) tests.push(this.orHere())
      all.push({ target, over, tests })
    }
    return all
  }

  protected subscript(): PyExpr {
    const { at } = this.token
    const first = this.sliced()
    if (!this.is(',')) return first
    const items = [first]
    while (this.take(',')) if (!this.is(']')) items.push(this.sliced())
    return { e: 'tuple', items, at }
  }

  protected sliced(): PyExpr {
    const { at } = this.token
    const part = (): PyExpr | undefined =>
      this.is(':') || this.is(']') || this.is(',') ? undefined : this.expression()
    const from = part()
    if (!this.take(':')) return from ?? this.fail('expected an index')
    const to = part()
    const step = this.take(':') ? part() : undefined
    return { e: 'slice', from, to, step, at }
  }

  protected atom(): PyExpr {
    const token = this.token
    const { at } = token
    switch (token.is) {
      case 'number':
        this.next += 1
        return { e: 'number', text: token.text, at }
      case 'bytes': {
        let text = ''
        for (; this.token.is === 'bytes'; this.next += 1) text += this.token.text
        return { e: 'bytes', text, at }
      }
      case 'text':
      case 'form':
        return this.texts(at)
      case 'name':
        if (token.text === 'None' || token.text === 'True' || token.text === 'False') {
          this.next += 1
          return { e: 'constant', value: token.text === 'None' ? null : token.text === 'True', at }
        }
        return { e: 'name', name: this.nameHere('a value'), at }
      case 'sign':
        if (this.take('(')) return this.bracketed(at)
        if (this.take('[')) return this.list(at)
        if (this.take('{')) return this.braced(at)
        if (this.take('...')) return { e: 'constant', value: null, at }
    }
    return this.fail(`expected a value, found ${wordsOf(token)}`)
  }

  /** Texts that stand side by side are one, formatted ones among them. */
  protected texts(at: number): PyExpr {
    const parts: (string | { value: PyExpr; turn: string; spec: PyExpr | undefined })[] = []
    for (; this.token.is === 'text' || this.token.is === 'form'; this.next += 1)
      parts.push(...(this.token.is === 'text' ? [this.token.text] : formParts(this.token.text, this.token.at, exprOf)))
    if (parts.every((one) => typeof one === 'string')) return { e: 'text', text: parts.join(''), at }
    return { e: 'form', parts, at }
  }

  protected bracketed(at: number): PyExpr {
    if (this.take(')')) return { e: 'tuple', items: [], at }
    const value = this.tupleOrYield()
    const each = this.is('for') ? this.each() : undefined
    this.expect(')', 'after a value in brackets')
    return each ? { e: 'each', kind: 'generator', value, key: undefined, each, at } : value
  }

  protected list(at: number): PyExpr {
    const items: PyExpr[] = []
    while (!this.is(']')) {
      const value = this.starred()
      if (this.is('for')) {
        const each = this.each()
        this.expect(']', 'after a list')
        return { e: 'each', kind: 'list', value, key: undefined, each, at }
      }
      items.push(value)
      if (!this.take(',')) break
    }
    this.expect(']', 'after a list')
    return { e: 'list', items, at }
  }

  protected braced(at: number): PyExpr {
    const items: { key: PyExpr | undefined; value: PyExpr }[] = []
    const members: PyExpr[] = []
    while (!this.is('}')) {
      if (this.take('**')) items.push({ key: undefined, value: this.binary(0) })
      else {
        const first = this.starred()
        if (this.take(':')) {
          const value = this.expression()
          if (this.is('for')) {
            const each = this.each()
            this.expect('}', 'after a map')
            return { e: 'each', kind: 'dict', value, key: first, each, at }
          }
          items.push({ key: first, value })
        } else {
          if (this.is('for')) {
            const each = this.each()
            this.expect('}', 'after a set')
            return { e: 'each', kind: 'set', value: first, key: undefined, each, at }
          }
          members.push(first)
        }
      }
      if (!this.take(',')) break
    }
    this.expect('}', 'after a map')
    return members.length > 0 ? { e: 'set', items: members, at } : { e: 'dict', items, at }
  }

  /** A value that stands by itself, such as in the braces of a formatted text. */
  alone(): PyExpr {
    const value = this.tuple()
    if (this.token.is !== 'line' && this.token.is !== 'end')
      this.fail(`expected the end of a value, found ${wordsOf(this.token)}`)
    return value
  }

  protected params(end: string): PyParam[] {
    const params: PyParam[] = []
    let named = false
    while (!this.is(end)) {
      if (this.take('**')) params.push({ name: this.annotated(end), kind: 'map', otherwise: undefined })
      else if (this.take('*')) {
        named = true
        if (!this.is(',')) params.push({ name: this.annotated(end), kind: 'list', otherwise: undefined })
      } else if (this.take('/')) {
        // What stands before it is given by place only; programs of this kind do not depend on that.
      } else {
        const name = this.annotated(end)
        params.push({
          name,
          kind: named ? 'named' : 'plain',
          otherwise: this.take('=') ? this.expression() : undefined,
        })
      }
      if (!this.take(',')) break
    }
    return params
  }

  protected annotated(end: string): string {
    const name = this.nameHere('a parameter')
    if (end === ')' && this.take(':')) this.expression()
    return name
  }
}

const exprOf = (source: string): PyExpr => new PyExpressionParser(pyTokens(`(${source})`, 0)).alone()
