import { PyExpressionParser } from './expressionParser.ts'
import { wordsOf } from './reader.ts'
import type { PyCase, PyExpr, PyPattern, PyStmt } from './syntax.ts'

/** `match` and its patterns (Python reference, 8.6). The words `match`, `case` and `_` are names elsewhere. */
export abstract class PyPatternParser extends PyExpressionParser {
  protected abstract block(): PyStmt[]

  /** A line that ends in a colon, before cases. */
  protected isMatch(): boolean {
    let end = this.next
    while (this.tokens[end] && !/^(line|end)$/.test(this.tokens[end]!.is)) end += 1
    return (
      end > this.next + 1 &&
      this.tokens[end - 1]?.text === ':' &&
      this.tokens[end + 1]?.is === 'in' &&
      this.tokens[end + 2]?.text === 'case'
    )
  }

  protected matchHere(at: number): PyStmt {
    this.next += 1
    const of = this.tuple()
    this.expect(':', 'before the cases')
    this.next += 2
    const cases: PyCase[] = []
    while (this.token.is !== 'out') {
      if (!this.take('case')) this.fail(`expected case, found ${wordsOf(this.token)}`)
      const pattern = this.openPattern()
      const test = this.take('if') ? this.namedExpression() : undefined
      cases.push({ pattern, test, body: this.block() })
    }
    this.next += 1
    return { s: 'match', of, cases, at }
  }

  /** Several patterns with commas are a list without its brackets. */
  private openPattern(): PyPattern {
    const first = this.starredPattern()
    if (!this.is(',') && !('star' in first)) return first.of
    return this.listOf(':', [first])
  }

  private starredPattern(): { of: PyPattern; star?: true } {
    if (this.take('*')) return { of: this.named(), star: true }
    return { of: this.pattern() }
  }

  private listOf(end: string, all: { of: PyPattern; star?: true }[] = []): PyPattern {
    while (all.length > 0 ? this.take(',') : !this.is(end)) {
      if (this.is(end) || this.is('if')) break
      all.push(this.starredPattern())
    }
    return { p: 'list', items: all.map(({ of }) => of), star: all.findIndex(({ star }) => star === true) }
  }

  private named(): PyPattern {
    const name = this.nameHere('a name')
    return { p: 'name', name: name === '_' ? undefined : name }
  }

  private pattern(): PyPattern {
    const all = [this.closed()]
    while (this.take('|')) all.push(this.closed())
    const of: PyPattern = all.length === 1 ? all[0]! : { p: 'or', all }
    return this.take('as') ? { p: 'as', of, name: this.nameHere() } : of
  }

  private closed(): PyPattern {
    const { is, text, at } = this.token
    if (this.take('[')) {
      const list = this.listOf(']')
      this.expect(']', 'after a list of patterns')
      return list
    }
    if (this.take('(')) {
      const first = this.is(')') ? undefined : this.starredPattern()
      const isGroup = first !== undefined && !this.is(',') && !('star' in first)
      const made: PyPattern = isGroup ? first.of : this.listOf(')', first ? [first] : [])
      this.expect(')', 'after patterns')
      return made
    }
    if (this.take('{')) return this.mapping()
    if (is === 'name' && /^(None|True|False)$/.test(text)) {
      this.next += 1
      return { p: 'value', value: { e: 'constant', value: text === 'None' ? null : text === 'True', at }, isSame: true }
    }
    if (is !== 'name') return { p: 'value', value: this.literal(), isSame: false }
    const ahead = this.tokens[this.next + 1]?.text
    if (ahead !== '.' && ahead !== '(') return this.named()
    let of: PyExpr = { e: 'name', name: this.nameHere(), at }
    while (this.take('.')) of = { e: 'member', of, name: this.nameHere(), at }
    return this.take('(') ? this.classPattern(of) : { p: 'value', value: of, isSame: false }
  }

  /** A number, with a minus or not, or a text: what follows is no part of it. */
  private literal(): PyExpr {
    const { at } = this.token
    if (this.take('-')) return { e: 'unary', op: '-', of: this.literal(), at }
    return this.atom()
  }

  private mapping(): PyPattern {
    const items: { key: PyExpr; of: PyPattern }[] = []
    let rest: string | undefined
    while (!this.is('}')) {
      if (this.take('**')) rest = this.nameHere()
      else {
        const key = this.expression()
        this.expect(':', 'after a key')
        items.push({ key, of: this.pattern() })
      }
      if (!this.take(',')) break
    }
    this.expect('}', 'after a map of patterns')
    return { p: 'map', items, rest }
  }

  private classPattern(of: PyExpr): PyPattern {
    const plain: PyPattern[] = []
    const named: { name: string; of: PyPattern }[] = []
    while (!this.is(')')) {
      if (this.tokens[this.next + 1]?.text === '=') {
        const name = this.nameHere()
        this.next += 1
        named.push({ name, of: this.pattern() })
      } else plain.push(this.pattern())
      if (!this.take(',')) break
    }
    this.expect(')', 'after the patterns of a class')
    return { p: 'class', of, plain, named }
  }
}
