import { ExpressionParser } from './expressionParser.ts'
import type { CaseLabel, Expr, Item, Statement, TypeNode, Variable } from './syntax.ts'
import type { Said } from './typeParser.ts'

/** The syntax of statements; what is declared inside of them is the matter of the declarations. */
export abstract class StatementParser extends ExpressionParser {
  protected abstract item(): Item[]
  protected abstract using(at: number): Item[]
  protected abstract declared(said: Said, at: number): Item[]

  protected override block(): Statement {
    const { at } = this.token
    this.expect('{', 'before a body')
    const body: Statement[] = []
    while (!this.is('}')) {
      if (this.token.is === 'end') this.fail('a body that begins here is never closed; expected }', at)
      body.push(this.statement())
    }
    this.next += 1
    return { s: 'block', body, at }
  }

  protected statement(): Statement {
    const { at, text, is } = this.token
    if (is === 'sign') {
      if (text === '{') return this.block()
      if (this.take(';')) return { s: 'empty', at }
    }
    if (is === 'word')
      switch (text) {
        case 'if':
          return this.ifStatement(at)
        case 'while': {
          this.next += 1
          return { s: 'while', if: this.inBrackets('while'), body: this.statement(), at }
        }
        case 'do': {
          this.next += 1
          const body = this.statement()
          this.expect('while', 'after the body of do')
          const asked = this.inBrackets('while')
          this.expect(';', 'after do … while')
          return { s: 'do', if: asked, body, at }
        }
        case 'for':
          return this.forStatement(at)
        case 'switch':
          return this.switchStatement(at)
        case 'break':
        case 'continue':
          this.next += 1
          this.expect(';', `after ${text}`)
          return { s: text, at }
        case 'return': {
          this.next += 1
          const value = this.is(';') ? undefined : this.is('{') ? this.list() : this.expression()
          this.expect(';', 'after return')
          return { s: 'return', value, at }
        }
        case 'goto':
        case 'try':
        case 'throw':
        case 'asm':
        case '__asm__':
          return this.fail(`${text} is not understood`)
        case 'using':
          return { s: 'group', at, body: this.using(at).map((item) => ({ s: 'type', item, at })) }
        case 'static_assert':
          this.item()
          return { s: 'empty', at }
        case 'typedef':
        case 'enum':
        case 'struct':
        case 'class':
        case 'union': {
          const items = this.item()
          return {
            s: 'group',
            at,
            body: items.map((item) =>
              item.i === 'variables' ? { s: 'variables', variables: item.variables, at } : { s: 'type', item, at },
            ),
          }
        }
      }
    if (is === 'word' && this.peek().text === ':' && this.peek(2).text !== ':' && text !== 'default')
      this.fail('goto and its labels are not understood')
    if (this.beginsType()) return this.localVariables(at)
    if (is === 'word' && this.types.has(text)) {
      const local = this.attempt(() => this.localVariables(at))
      if (local) return local
    }
    const value = this.expression()
    this.expect(';', 'after a statement')
    return { s: 'expression', value, at }
  }

  private localVariables(at: number): Statement {
    const said = this.specifiers()
    const bound = this.boundNames()
    if (bound) {
      const whole = this.hidden(at)
      const value = this.take('=') ? this.assignment() : this.inBraces(at)
      this.expect(';', 'after a statement')
      const type: TypeNode = bound.isReference ? { t: 'reference', to: said.type } : said.type
      return { s: 'group', body: [this.given(whole, type, value, at), ...this.partsOf(bound.names, whole, at)], at }
    }
    const items = this.declared(said, at)
    const [item] = items
    if (!item) return { s: 'empty', at }
    // A function that is announced inside another one.
    if (item.i === 'function') {
      if (item.function.body) this.fail('a function inside a function is not understood', at)
      return { s: 'empty', at }
    }
    return item.i === 'variables' ? { s: 'variables', variables: item.variables, at } : { s: 'type', item, at }
  }

  /** Names for the parts of what follows: `[a, b]`, or `&[a, b]` (ISO C++17, 11.5). */
  private boundNames(): { names: readonly string[]; isReference: boolean } | undefined {
    const isReference = /^&&?$/.test(this.token.text)
    if ((isReference ? this.peek().text : this.token.text) !== '[') return undefined
    this.next += isReference ? 2 : 1
    const names: string[] = []
    do names.push(this.word('a name'))
    while (this.take(','))
    this.expect(']', 'after the names of parts')
    return { names, isReference }
  }

  private inBraces(at: number): Expr {
    const isList = this.is('{')
    if (!isList) this.expect('(', 'after the names of parts')
    else this.next += 1
    const value = this.assignment()
    this.expect(isList ? '}' : ')', 'after what falls into parts')
    return { ...value, at }
  }

  private hidden = (at: number): string => ` whole ${at} ${this.next}`

  private given(name: string, type: TypeNode, value: Expr, at: number): Statement {
    const one: Variable = { name, type, isStatic: false, isConst: false, isExtern: false, value, args: undefined, at }
    return { s: 'variables', variables: [one], at }
  }

  private partsOf(names: readonly string[], whole: string, at: number): Statement[] {
    const type: TypeNode = { t: 'reference', to: { t: 'auto' } }
    return names.map((name, index) =>
      this.given(name, type, { e: 'part', of: { e: 'name', name: whole, at }, index, at }, at),
    )
  }

  private inBrackets(what: string): Expr {
    this.expect('(', `after ${what}`)
    const value = this.expression()
    this.expect(')', `after the condition of ${what}`)
    return value
  }

  private ifStatement(at: number): Statement {
    this.next += 1
    this.take('constexpr')
    this.expect('(', 'after if')
    let before: Statement | undefined
    let asked: Expr
    if (this.beginsType()) {
      const said = this.specifiers()
      const { name, type, at: place } = this.declarator(said.type, 'one')
      this.expect('=', 'in the condition of if')
      const value = this.assignment()
      const variable: Variable = {
        name,
        type,
        isStatic: false,
        isConst: false,
        isExtern: false,
        value,
        args: undefined,
        at: place,
      }
      before = { s: 'variables', variables: [variable], at }
      asked = this.take(';') ? this.expression() : { e: 'name', name, at: place }
    } else asked = this.expression()
    this.expect(')', 'after the condition of if')
    const then = this.statement()
    return { s: 'if', before, if: asked, then, else: this.take('else') ? this.statement() : undefined, at }
  }

  private forStatement(at: number): Statement {
    this.next += 1
    this.expect('(', 'after for')
    const each = this.attempt(() => this.eachHead())
    if (each) {
      const { parts, ...head } = each
      const body = this.statement()
      if (!parts) return { s: 'each', ...head, body, at }
      return { s: 'each', ...head, body: { s: 'block', body: [...this.partsOf(parts, head.name, at), body], at }, at }
    }
    let before: Statement | undefined
    if (!this.take(';')) {
      if (this.beginsType()) before = this.localVariables(at)
      else {
        before = { s: 'expression', value: this.expression(), at }
        this.expect(';', 'after the beginning of for')
      }
    }
    const asked = this.is(';') ? undefined : this.expression()
    this.expect(';', 'after the condition of for')
    const step = this.is(')') ? undefined : this.expression()
    this.expect(')', 'after the head of for')
    return { s: 'for', before, if: asked, step, body: this.statement(), at }
  }

  private eachHead(): { name: string; type: TypeNode; of: Expr; parts?: readonly string[] } | undefined {
    if (!this.beginsType()) return undefined
    const { type: base } = this.specifiers()
    const bound = this.boundNames()
    const whole: TypeNode = bound?.isReference ? { t: 'reference', to: base } : base
    const { name, type } = bound ? { name: this.hidden(this.token.at), type: whole } : this.declarator(base, 'one')
    if (!this.take(':')) return undefined
    const of = this.is('{') ? this.list() : this.expression()
    this.expect(')', 'after the head of for')
    return { name, type, of, ...(bound ? { parts: bound.names } : {}) }
  }

  private switchStatement(at: number): Statement {
    this.next += 1
    const of = this.inBrackets('switch')
    this.expect('{', 'after switch')
    const body: (Statement | CaseLabel)[] = []
    while (!this.is('}')) {
      const place = this.token.at
      if (this.token.is === 'end') this.fail('a switch is never closed; expected }', at)
      if (this.take('case')) {
        const value = this.conditional()
        if (this.take('...')) this.fail('a case over a stretch of numbers is not understood', place)
        this.expect(':', 'after case')
        body.push({ s: 'case', value, at: place })
      } else if (this.take('default')) {
        this.expect(':', 'after default')
        body.push({ s: 'case', value: undefined, at: place })
      } else body.push(this.statement())
    }
    this.next += 1
    return { s: 'switch', of, body, at }
  }
}
