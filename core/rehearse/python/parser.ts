import { PyPatternParser } from './patternParser.ts'
import { wordsOf } from './reader.ts'
import type { PyExpr, PyFunctionNode, PyStmt } from './syntax.ts'
import { type PyToken, pyTokens } from './tokens.ts'

const CHANGE = /^(?:[-+*/%&|^@]|\*\*|\/\/|<<|>>)=$/

/**
 * The syntax of a Python program (Python reference, chapters 6 to 8).
 * @throws SourceError with the line of what was not expected.
 */
export const parsePython = (text: string, file: number): PyStmt[] => new PyParser(pyTokens(text, file)).program()

class PyParser extends PyPatternParser {
  program(): PyStmt[] {
    const body: PyStmt[] = []
    while (this.token.is !== 'end') body.push(...this.statement())
    return body
  }

  protected statement(): PyStmt[] {
    const { at, is, text } = this.token
    if (is === 'line') {
      this.next += 1
      return []
    }
    if (is === 'in') this.fail('this line is indented, and nothing before it asks for that')
    if (is === 'sign' && text === '@') return [this.marked()]
    if (is === 'name')
      switch (text) {
        case 'if':
          return [this.ifHere(at)]
        case 'while': {
          this.next += 1
          const asked = this.namedExpression()
          const body = this.block()
          return [{ s: 'while', if: asked, body, else: this.elseBlock(), at }]
        }
        case 'for':
          return [this.forHere(at, false)]
        case 'def':
          return [{ s: 'def', function: this.defHere(at, false), marks: [], at }]
        case 'class':
          return [this.classHere(at, [])]
        case 'try':
          return [this.tryHere(at)]
        case 'with':
          return [this.withHere(at)]
        case 'async':
          this.next += 1
          if (this.is('def')) return [{ s: 'def', function: this.defHere(at, true), marks: [], at }]
          if (this.is('for')) return [this.forHere(at, true)]
          if (this.is('with')) return [this.withHere(at)]
          return this.fail('expected def, for or with after async')
        case 'match':
          if (this.isMatch()) return [this.matchHere(at)]
      }
    const all = [this.simple()]
    while (this.take(';')) {
      if (this.token.is === 'line') break
      all.push(this.simple())
    }
    if (this.token.is !== 'line' && this.token.is !== 'end')
      this.fail(`expected the end of the line, found ${wordsOf(this.token)}`)
    if (this.token.is === 'line') this.next += 1
    return all
  }

  protected block(): PyStmt[] {
    this.expect(':', 'before what belongs to it')
    if (this.token.is !== 'line') return this.statement()
    this.next += 1
    if (!this.begins('in')) this.fail('expected lines that are indented')
    this.next += 1
    const body: PyStmt[] = []
    while (!this.begins('out')) body.push(...this.statement())
    this.next += 1
    return body
  }

  protected begins(is: PyToken['is']): boolean {
    return this.token.is === is
  }

  protected elseBlock(): PyStmt[] {
    return this.take('else') ? this.block() : []
  }

  protected ifHere(at: number): PyStmt {
    this.next += 1
    const asked = this.namedExpression()
    const yes = this.block()
    const place = this.token.at
    const other = this.is('elif') ? [this.ifHere(place)] : this.elseBlock()
    return { s: 'if', if: asked, yes, else: other, at }
  }

  protected forHere(at: number, isAsync: boolean): PyStmt {
    this.next += 1
    const target = this.targets()
    this.expect('in', 'after the names of a loop')
    const over = this.tuple()
    const body = this.block()
    return { s: 'for', target, over, body, else: this.elseBlock(), isAsync, at }
  }

  protected defHere(at: number, isAsync: boolean): PyFunctionNode {
    this.next += 1
    const name = this.nameHere('the name of a function')
    this.expect('(', 'before parameters')
    const params = this.params(')')
    this.expect(')', 'after parameters')
    if (this.take('->')) this.expression()
    return { name, params, body: this.block(), isAsync, at }
  }

  protected marked(): PyStmt {
    const marks: PyExpr[] = []
    while (this.take('@')) {
      marks.push(this.expression())
      while (this.token.is === 'line') this.next += 1
    }
    const { at } = this.token
    if (this.is('class')) return this.classHere(at, marks)
    const isAsync = this.take('async')
    if (!this.is('def')) this.fail('expected def or class after @')
    return { s: 'def', function: this.defHere(at, isAsync), marks, at }
  }

  protected classHere(at: number, marks: readonly PyExpr[]): PyStmt {
    this.next += 1
    const name = this.nameHere('the name of a class')
    const bases = this.take('(') ? this.args().flatMap((arg) => (arg.name === undefined ? [arg.value] : [])) : []
    return { s: 'class', name, bases, body: this.block(), marks, at }
  }

  protected tryHere(at: number): PyStmt {
    this.next += 1
    const body = this.block()
    const excepts: { types: PyExpr | undefined; name: string | undefined; body: PyStmt[] }[] = []
    while (this.take('except')) {
      const types = this.is(':') ? undefined : this.tuple()
      const name = this.take('as') ? this.nameHere() : undefined
      excepts.push({ types, name, body: this.block() })
    }
    const other = this.elseBlock()
    const last = this.take('finally') ? this.block() : []
    if (excepts.length === 0 && last.length === 0) this.fail('expected except or finally after try', at)
    return { s: 'try', body, excepts, else: other, finally: last, at }
  }

  protected withHere(at: number): PyStmt {
    this.next += 1
    const items: { value: PyExpr; target: PyExpr | undefined }[] = []
    const bracketed = this.is('(') && this.closesBeforeColon()
    if (bracketed) this.next += 1
    do {
      const value = this.expression()
      items.push({ value, target: this.take('as') ? this.primary() : undefined })
    } while (this.take(',') && !this.is(')'))
    if (bracketed) this.expect(')', 'after with')
    return { s: 'with', items, body: this.block(), at }
  }

  /** `with (open(a) as b, open(c) as d):` */
  protected closesBeforeColon(): boolean {
    let depth = 0
    for (let at = this.next; at < this.tokens.length; at += 1) {
      const { text, is } = this.tokens[at]!
      if (is === 'line') return false
      if (is !== 'sign') continue
      if (/^[([{]$/.test(text)) depth += 1
      if (/^[)\]}]$/.test(text)) depth -= 1
      if (depth === 0)
        return this.tokens[at + 1]?.text === ':' && this.tokens.slice(this.next, at).some((one) => one.text === 'as')
    }
    return false
  }

  protected simple(): PyStmt {
    const { at, text, is } = this.token
    if (is === 'name')
      switch (text) {
        case 'pass':
        case 'break':
        case 'continue':
          this.next += 1
          return { s: text, at }
        case 'return': {
          this.next += 1
          return { s: 'return', value: this.ends() ? undefined : this.tuple(), at }
        }
        case 'raise': {
          this.next += 1
          const value = this.ends() ? undefined : this.expression()
          if (this.take('from')) this.expression()
          return { s: 'raise', value, at }
        }
        case 'global':
        case 'nonlocal': {
          this.next += 1
          const names = [this.nameHere()]
          while (this.take(',')) names.push(this.nameHere())
          return { s: text, names, at }
        }
        case 'del': {
          this.next += 1
          const targets = [this.primary()]
          while (this.take(',')) targets.push(this.primary())
          return { s: 'del', targets, at }
        }
        case 'assert': {
          this.next += 1
          const test = this.expression()
          return { s: 'assert', test, message: this.take(',') ? this.expression() : undefined, at }
        }
        case 'import':
          return this.importHere(at)
        case 'from':
          return this.fromHere(at)
      }
    const first = this.tupleOrYield()
    if (this.take(':')) {
      // `speed: int = 3`: what it is meant to be is not held against it.
      this.expression()
      const notes = first.e === 'name' ? { notes: first.name } : {}
      if (!this.take('=')) return { s: 'pass', ...notes, at }
      return { s: 'assign', targets: [first], value: this.tupleOrYield(), ...notes, at }
    }
    if (this.token.is === 'sign' && CHANGE.test(this.token.text)) {
      const op = this.token.text.slice(0, -1)
      this.next += 1
      return { s: 'change', target: first, op, value: this.tupleOrYield(), at }
    }
    if (!this.is('=')) return { s: 'expression', value: first, at }
    const targets = [first]
    let value = first
    while (this.take('=')) {
      value = this.tupleOrYield()
      targets.push(value)
    }
    targets.pop()
    return { s: 'assign', targets, value, at }
  }

  protected importHere(at: number): PyStmt {
    this.next += 1
    const all: { name: string; as: string }[] = []
    do {
      let name = this.nameHere('the name of a module')
      while (this.take('.')) name += `.${this.nameHere()}`
      all.push({ name, as: this.take('as') ? this.nameHere() : name.split('.')[0]! })
    } while (this.take(','))
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

  protected fromHere(at: number): PyStmt {
    this.next += 1
    let module = ''
    while (this.take('.')) module += ''
    if (!this.is('import')) {
      module += this.nameHere('the name of a module')
      while (this.take('.')) module += `.${this.nameHere()}`
    }
    this.expect('import', 'after the name of a module')
    if (this.take('*')) return { s: 'from', module, names: [{ name: '*', as: '*' }], at }
    const bracketed = this.take('(')
    const names: { name: string; as: string }[] = []
    do {
      if (bracketed && this.is(')')) break
      const name = this.nameHere()
      names.push({ name, as: this.take('as') ? this.nameHere() : name })
    } while (this.take(','))
    if (bracketed) this.expect(')', 'after the names that are imported')
    return { s: 'from', module, names, at }
  }
}
