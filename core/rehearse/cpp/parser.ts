import { withOwnNamespaces } from './namespaceNames.ts'
import { PACKED } from './preprocess.ts'
import { StatementParser } from './statementParser.ts'
import type { Expr, FunctionNode, Item, Statement, StructNode, TemplateParam, TypeNode, Variable } from './syntax.ts'
import type { Token } from './tokens.ts'
import type { Said } from './typeParser.ts'
import { written } from './typeWords.ts'

/**
 * The syntax of a C++ program, macros put in before.
 * @throws SourceError with the place of what was not expected.
 */
export const parseCpp = (tokens: readonly Token[], types: ReadonlySet<string>): Item[] =>
  new Parser(withOwnNamespaces(tokens), types).program()

class Parser extends StatementParser {
  program(): Item[] {
    const items: Item[] = []
    while (this.token.is !== 'end') items.push(...this.item())
    return items
  }

  protected override item(open: readonly TemplateParam[] = []): Item[] {
    const { at } = this.token
    if (this.take(';')) return []
    if (this.is('template')) return this.item(this.template())
    if (this.is('namespace')) return this.namespace(at)
    if (this.is('extern') && this.peek().is === 'text') {
      this.next += 2
      return this.is('{') ? this.braced() : this.item()
    }
    if (this.is('using')) return this.using(at)
    if (this.is('typedef')) return this.typedef(at)
    if (this.is('enum')) return this.enumeration(at)
    if (this.is('static_assert')) {
      this.next = this.closing(this.next + 1) + 1
      this.take(';')
      return []
    }
    if (/^(struct|class|union)$/.test(this.token.text) && this.definesStruct()) return this.structure(at, open)
    return this.declaration(open)
  }

  private braced(): Item[] {
    this.expect('{', 'before a group')
    const items: Item[] = []
    while (!this.is('}')) {
      if (this.token.is === 'end') this.fail('a group is never closed; expected }')
      items.push(...this.item())
    }
    this.next += 1
    return items
  }

  private template(): TemplateParam[] {
    this.next += 1
    this.expect('<', 'after template')
    const open: TemplateParam[] = []
    while (!this.is('>')) {
      if (/^(typename|class)$/.test(this.token.text)) {
        this.next += 1
        if (this.is('...')) this.fail('a template with any number of arguments is not understood')
        const name = this.word('the name of a type')
        this.types.add(name)
        open.push({ name, isType: true, otherwise: this.take('=') ? this.typeOnly() : undefined })
      } else {
        const { type: base } = this.specifiers()
        const { name } = this.declarator(base, 'one')
        open.push({ name, isType: false, otherwise: this.take('=') ? this.shifted() : undefined })
      }
      if (!this.take(',')) break
    }
    this.expect('>', 'after the parameters of a template')
    return open
  }

  private namespace(at: number): Item[] {
    this.next += 1
    const name = this.token.is === 'word' ? this.word('a name') : ''
    return [{ i: 'namespace', name, items: this.braced(), at }]
  }

  protected override using(at: number): Item[] {
    this.next += 1
    if (this.take('namespace') || this.peek().text !== '=') {
      while (!this.take(';')) this.next += 1
      return []
    }
    const name = this.word('a name')
    this.next += 1
    const type = this.typeOnly()
    this.expect(';', 'after using')
    return [{ i: 'alias', name, type, at }]
  }

  private typedef(at: number): Item[] {
    this.next += 1
    const items: Item[] = []
    let base: TypeNode
    if (this.is('enum')) {
      const made = this.enumeration(at, true)
      items.push(...made)
      const [first] = made
      base = { t: 'name', name: first?.i === 'enum' && first.name !== '' ? first.name : 'int' }
    } else if (/^(struct|class|union)$/.test(this.token.text) && this.definesStruct()) {
      const name = this.peek().is === 'word' ? this.peek().text : `unnamed ${at}`
      items.push(...this.structure(at, [], name, true))
      base = { t: 'name', name }
    } else base = this.specifiers().type
    do {
      const { name, type } = this.declarator(base, 'one')
      items.push({ i: 'alias', name, type, at })
    } while (this.take(','))
    this.expect(';', 'after typedef')
    return items
  }

  private enumeration(at: number, inTypedef = false): Item[] {
    this.next += 1
    const scoped = this.take('class') || this.take('struct')
    const name = this.token.is === 'word' ? this.word('a name') : ''
    const base = this.take(':') ? this.specifiers().type : undefined
    if (!this.is('{')) {
      // `enum Mode now = OFF;`, or one that is only announced.
      if (this.take(';')) return []
      return this.declared({ type: { t: 'name', name }, words: new Set() }, at)
    }
    this.next += 1
    const values: { name: string; value: Expr | undefined }[] = []
    while (!this.is('}')) {
      const one = this.word('a name of the enumeration')
      values.push({ name: one, value: this.take('=') ? this.conditional() : undefined })
      if (!this.take(',')) break
    }
    this.expect('}', 'after the names of an enumeration')
    const type = name === '' ? `unnamed ${at}` : name
    const item: Item = { i: 'enum', name: type, scoped, base, values, at }
    if (inTypedef) return [item]
    if (this.take(';')) return [item]
    return [item, ...this.declared({ type: { t: 'name', name: type }, words: new Set() }, at)]
  }

  /** True where a body follows, and not only a name of a type that is there already. */
  private definesStruct(): boolean {
    let at = this.next + 1
    while (this.tokens[at]?.is === 'word' || this.tokens[at]?.text === '::') at += 1
    return /^[{:;]$/.test(this.tokens[at]?.text ?? '')
  }

  private structure(at: number, open: readonly TemplateParam[], unnamed = `unnamed ${at}`, inTypedef = false): Item[] {
    const isUnion = this.token.text === 'union'
    this.next += 1
    let name = unnamed
    let isPacked = this.take(PACKED)
    while (this.token.is === 'word') name = this.word('a name')
    if (name === 'final') name = unnamed
    if (this.take(';')) return []
    let base: TypeNode | undefined
    if (this.take(':')) {
      while (/^(public|private|protected|virtual)$/.test(this.token.text)) this.next += 1
      base = this.specifiers().type
      if (this.is(',')) this.fail(`${name} has more than one base, which is not understood`)
    }
    this.types.add(name)
    const members = this.members(name, base, isUnion, open, at)
    isPacked = this.take(PACKED) || isPacked
    const struct: StructNode = { ...members, isPacked }
    const item: Item = { i: 'struct', struct, at }
    if (inTypedef) return [item]
    if (this.take(';')) return [item]
    return [item, ...this.declared({ type: { t: 'name', name }, words: new Set() }, at)]
  }

  private members(
    name: string,
    base: TypeNode | undefined,
    isUnion: boolean,
    open: readonly TemplateParam[],
    at: number,
  ): Omit<StructNode, 'isPacked'> {
    this.expect('{', `before the members of ${name}`)
    const fields: (Variable & { bits?: Expr | undefined })[] = []
    const methods: FunctionNode[] = []
    const types: Item[] = []
    while (!this.is('}')) {
      if (this.token.is === 'end') this.fail(`${name} is never closed; expected }`, at)
      if (/^(public|private|protected)$/.test(this.token.text)) {
        this.next += 1
        this.expect(':', 'after who may use what follows')
        continue
      }
      if (this.take(';')) continue
      if (this.is('friend')) {
        while (!this.is(';') && !this.is('{')) this.next += 1
        this.next = this.is('{') ? this.closing(this.next) + 1 : this.next + 1
        continue
      }
      for (const item of this.memberItem(name)) {
        if (item.i === 'function') methods.push(item.function)
        else if (item.i === 'variables') fields.push(...item.variables)
        else types.push(item)
      }
    }
    this.next += 1
    return { name, base, fields, methods, types, isUnion, open, at }
  }

  private memberItem(owner: string): Item[] {
    const { at } = this.token
    if (this.is('template')) return this.item()
    const from = this.next
    while (/^(explicit|inline|virtual|constexpr)$/.test(this.token.text)) this.next += 1
    const isVirtual = this.tokens.slice(from, this.next).some(({ text }) => text === 'virtual')
    const isDestructor = this.is('~')
    if ((this.is(owner) && this.peek().text === '(') || isDestructor) {
      const name = isDestructor ? `~${this.peek().text}` : owner
      this.next += isDestructor ? 2 : 1
      const params = this.params()
      return [
        this.functionItem({
          name,
          returns: { t: 'name', name: 'void' },
          params,
          isStatic: false,
          isVirtual,
          open: [],
          at,
        }),
      ]
    }
    if (this.is('operator')) {
      const name = this.operatorName()
      const params = this.params()
      const to: TypeNode = { t: 'name', name: name.slice('operator '.length).replace('*', '') }
      const returns: TypeNode = name.endsWith('*') ? { t: 'pointer', to } : to
      return [this.functionItem({ name, returns, params, isStatic: false, isVirtual, open: [], at })]
    }
    this.next = from
    return this.item()
  }

  private declaration(open: readonly TemplateParam[]): Item[] {
    const { at } = this.token
    // `Lamp::Lamp(int pin) : pin(pin) {}` has no type before it.
    if (this.token.is === 'word' && this.peek().text === '::' && this.isConstructorOutside()) {
      const owner = this.word('a name')
      this.next += 1
      const name = this.take('~') ? `~${this.word('a name')}` : this.word('a name')
      const params = this.params()
      return [
        this.functionItem({
          name: `${owner}::${name}`,
          returns: { t: 'name', name: 'void' },
          params,
          isStatic: false,
          isVirtual: false,
          open,
          at,
        }),
      ]
    }
    if (!this.beginsType() && !(this.token.is === 'word' && this.peek().text !== '('))
      this.fail(`expected a declaration, found ${written(this.token)}`)
    return this.declared(this.specifiers(), at, open)
  }

  private isConstructorOutside(): boolean {
    const [owner, , name, after] = [0, 1, 2, 3].map((by) => this.peek(by).text)
    return (owner === name && after === '(') || name === '~'
  }

  protected override declared(said: Said, at: number, open: readonly TemplateParam[] = []): Item[] {
    if (this.take(';')) return []
    const { words } = said
    const first = this.declarator(said.type, 'one')
    if (
      first.type.t === 'function' &&
      !this.is(',') &&
      (this.is('{') || this.is(';') || this.is('=') || this.is(':'))
    ) {
      const { returns, params } = first.type
      return [
        this.functionItem({
          name: first.name,
          returns,
          params,
          isStatic: words.has('static'),
          isVirtual: words.has('virtual'),
          open,
          at: first.at,
        }),
      ]
    }
    const variables: (Variable & { bits?: Expr | undefined })[] = [this.variable(first, said)]
    while (this.take(',')) variables.push(this.variable(this.declarator(said.type, 'one'), said))
    this.expect(';', 'after a declaration')
    return [{ i: 'variables', variables, at }]
  }

  private variable(
    { name, type, at }: { name: string; type: TypeNode; at: number },
    { words, type: base }: Said,
  ): Variable & { bits?: Expr | undefined } {
    const bits = this.take(':') ? this.conditional() : undefined
    const value = this.take('=') ? this.assignment() : this.is('{') ? this.list() : undefined
    const args = value === undefined && this.is('(') ? this.arguments() : undefined
    return {
      name,
      type,
      isStatic: words.has('static'),
      isExtern: words.has('extern'),
      isLasting: words.has('__lasting'),
      isConst: 'isConst' in base && base.isConst === true,
      value,
      args,
      at,
      ...(bits ? { bits } : {}),
    }
  }

  private functionItem(head: Omit<FunctionNode, 'body' | 'isPure' | 'first'>): Item {
    while (/^(const|override|final|noexcept|volatile)$/.test(this.token.text)) this.next += 1
    const first: { name: string; args: Expr[] }[] = []
    let isPure = false
    let body: Statement | undefined
    if (this.take('=')) {
      if (this.take('default')) body = { s: 'block', body: [], at: head.at }
      else {
        isPure = this.token.text === '0'
        this.next += 1
      }
      this.expect(';', 'after the announcement of a function')
      return { i: 'function', function: { ...head, body, isPure, first }, at: head.at }
    }
    if (this.take(':'))
      do {
        let name = this.word('a member')
        if (this.is('<')) this.templateArguments()
        while (this.take('::')) name = this.word('a member')
        first.push({ name, args: this.is('{') ? this.items() : this.arguments() })
      } while (this.take(','))
    if (!this.take(';')) body = this.block()
    return { i: 'function', function: { ...head, body, isPure, first }, at: head.at }
  }
}
