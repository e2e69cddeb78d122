import type { SyntaxNode } from '@lezer/common'
import { parser } from '@lezer/cpp'
import type { Argument, Expr, Param, Stmt } from './ir.ts'
import { numberOf, TreeReader } from './tree.ts'

/** What a board's platform defines for the preprocessor: an `#if` on anything else takes both ways. */
export interface Defines {
  /** True or false where known. */
  readonly known: (name: string) => boolean | undefined
}

/** Reads one file of a C++ sketch. Branches of `#if` that the defines rule out are left out. */
export function readCpp(text: string, file: number, defines: Defines): Stmt[] {
  const kept = withoutBranches(text, defines)
  return new CppReader(kept, file).statements(parser.parse(kept).topNode)
}

/** Blanks the branches of `#if` that cannot hold, length and lines kept; of what is not known all branches stay. */
function withoutBranches(text: string, defines: Defines): string {
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

const typeNodes = new Set([
  'TypeIdentifier',
  'PrimitiveType',
  'SizedTypeSpecifier',
  'TemplateType',
  'ScopedTypeIdentifier',
  'PlaceholderTypeSpecifier',
  'Decltype',
  'DependentType',
  'StructSpecifier',
  'ClassSpecifier',
  'UnionSpecifier',
  'EnumSpecifier',
])
const declarators = new Set([
  'Identifier',
  'FieldIdentifier',
  'InitDeclarator',
  'ArrayDeclarator',
  'PointerDeclarator',
  'ReferenceDeclarator',
  'FunctionDeclarator',
  'ParenthesizedDeclarator',
  'ScopedIdentifier',
])

class CppReader extends TreeReader {
  statements(node: SyntaxNode): Stmt[] {
    return this.parts(node).flatMap((child) => this.#statement(child))
  }

  #statement(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    switch (node.name) {
      case 'PreprocDirective':
        return this.#directive(node)
      case 'Declaration':
      case 'FieldDeclaration':
      case 'TypeDefinition':
        return this.#declaration(node)
      case 'StructSpecifier':
      case 'ClassSpecifier':
      case 'UnionSpecifier':
      case 'EnumSpecifier':
        return this.#type(node)
      case 'FunctionDefinition':
        return this.#function(node)
      case 'TemplateDeclaration':
      case 'LinkageSpecification':
      case 'AttributeStatement':
      case 'FriendDeclaration':
        return this.#templateOrInner(node)
      case 'NamespaceDefinition': {
        const body = this.child(node, 'CompoundStatement')
        const name = this.child(node, 'Identifier')
        const inner = body ? this.statements(body) : []
        return name ? [{ kind: 'class', name: this.textOf(name), bases: [], body: inner, at }, ...inner] : inner
      }
      case 'ExpressionStatement': {
        const [value] = this.parts(node)
        return value ? [{ kind: 'expression', value: this.expr(value), at }] : []
      }
      case 'CompoundStatement':
        return [{ kind: 'block', body: this.statements(node), at }]
      case 'IfStatement': {
        const [condition, yes, no] = this.parts(node)
        const bodies = [yes, no].map((one) => (one ? this.#statement(one) : []))
        return [{ kind: 'maybe', tests: this.#condition(condition), bodies, at }]
      }
      case 'SwitchStatement': {
        const [condition, body] = this.parts(node)
        const cases = body ? this.parts(body) : []
        const bodies = cases.map((one) => this.#caseBody(one))
        return [{ kind: 'maybe', tests: this.#condition(condition), bodies: [...bodies, []], at }]
      }
      case 'WhileStatement':
      case 'DoStatement': {
        const parts = this.parts(node)
        const [condition, body] = node.name === 'DoStatement' ? [parts[1], parts[0]] : parts
        return [
          { kind: 'maybe', tests: this.#condition(condition), bodies: [body ? this.#statement(body) : [], []], at },
        ]
      }
      case 'ForStatement':
        return this.#for(node)
      case 'ForRangeLoop': {
        const parts = this.parts(node).filter((one) => !typeNodes.has(one.name))
        const [variable, over, body] = parts
        if (!variable || !over) return []
        const names = [this.#nameOf(variable) ?? '']
        return [{ kind: 'for-each', names, over: this.expr(over), body: body ? this.#statement(body) : [], at }]
      }
      case 'TryStatement':
        return [{ kind: 'maybe', tests: [], bodies: this.parts(node).map((one) => this.#statement(one)), at }]
      case 'CatchClause': {
        const body = this.child(node, 'CompoundStatement')
        return body ? this.statements(body) : []
      }
      case 'LabeledStatement':
      case 'CaseStatement':
        return this.#caseBody(node)
      case 'ReturnStatement': {
        const [value] = this.parts(node)
        return [{ kind: 'return', value: value && this.expr(value), at }]
      }
      case '⚠':
        return [{ kind: 'unread', at }]
      default:
        return node.type.isError ? [{ kind: 'unread', at }] : []
    }
  }

  #templateOrInner(node: SyntaxNode): Stmt[] {
    const inner = this.parts(node).flatMap((one) => (one.name === 'TemplateParameterList' ? [] : this.#statement(one)))
    const params = this.child(node, 'TemplateParameterList')
    if (!params) return inner
    // Parameters of a template are fields of what it makes: `Lamp<5>` sets them as a constructor would.
    const names = this.#params(params)
    return inner.map((one): Stmt => {
      if (one.kind !== 'class') return one
      const field = ({ name, usual }: Param): Stmt => ({
        kind: 'declare',
        name,
        value: usual,
        type: 'template',
        fixed: false,
        at: one.at,
      })
      return { ...one, body: [...names.map(field), ...one.body] }
    })
  }

  #caseBody(node: SyntaxNode): Stmt[] {
    return this.parts(node).flatMap((one) =>
      /Statement$|Loop$|^Declaration$/.test(one.name) ? this.#statement(one) : [],
    )
  }

  #condition(node: SyntaxNode | undefined): Expr[] {
    if (!node) return []
    return this.parts(node).flatMap((one) => {
      if (one.name !== 'Declaration') return [this.expr(one)]
      return this.#declaration(one).flatMap((two) => (two.kind === 'declare' && two.value ? [two.value] : []))
    })
  }

  #for(node: SyntaxNode): Stmt[] {
    const groups: SyntaxNode[][] = [[]]
    let body: SyntaxNode | undefined
    let closed = false
    let end = node.from
    for (const child of this.all(node)) {
      // A semicolon is no node of its own; a declaration holds the one that ends it.
      if (this.text.slice(end, child.from).includes(';')) groups.push([])
      end = child.to
      if (child.name === ')') closed = true
      else if (closed && /^[A-Z]/.test(child.name)) body = child
      else if (/^[A-Z]/.test(child.name)) {
        groups.at(-1)?.push(child)
        if (child.name === 'Declaration' || child.name === 'ExpressionStatement') groups.push([])
      }
    }
    const [first = [], test = [], step = []] = groups
    return [
      {
        kind: 'for',
        first: first.flatMap((one) =>
          one.name === 'Declaration' || one.name === 'ExpressionStatement'
            ? this.#statement(one)
            : [{ kind: 'expression' as const, value: this.expr(one), at: this.at(one) }],
        ),
        test: test[0] && this.expr(test[0]),
        step: step[0] && this.expr(step[0]),
        body: body ? this.#statement(body) : [],
        at: this.at(node),
      },
    ]
  }

  #directive(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    const parts = this.all(node)
    const kind = this.textOf(parts[0]).replace(/\s/g, '')
    if (kind !== '#define') return []
    const names = parts.filter((one) => one.name === 'Identifier').map((one) => this.textOf(one))
    const [name, ...params] = names
    const arg = this.child(node, 'PreprocArg')
    if (name === undefined) return []
    if (!arg) return [{ kind: 'declare', name, value: undefined, type: undefined, fixed: true, at }]
    const body = this.textOf(arg).replace(/\/\/.*$|\/\*.*?\*\//g, (comment) => ' '.repeat(comment.length))
    const value = this.#inner(body, arg.from)
    if (this.child(node, '(')) return value ? [{ kind: 'macro', name, params, value, at }] : []
    return [{ kind: 'declare', name, value, type: undefined, fixed: true, at }]
  }

  /** Text of a macro read as an expression, its places those of the file. */
  #inner(text: string, from: number): Expr | undefined {
    const line = text.replace(/\\\r?\n/g, (cut) => ' '.repeat(cut.length))
    const source = `x=${line.trimEnd()};`
    const reader = new CppReader(source, this.file)
    const [first] = reader.statements(parser.parse(source).topNode)
    if (first?.kind !== 'expression' || first.value.kind !== 'assign') return undefined
    return moved(first.value.value, from - 2)
  }

  #declaration(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    const parts = this.parts(node)
    const type = parts.find((one) => typeNodes.has(one.name))
    const inner = type && /Specifier$/.test(type.name) && type.name !== 'SizedTypeSpecifier' ? this.#type(type) : []
    if (node.name === 'TypeDefinition') return inner
    const fixed = this.all(node).some((one) => one.name === 'const' || one.name === 'constexpr')
    const typeName = type && this.#typeName(type)
    const declared: Stmt[] = []
    const from = type ? parts.indexOf(type) + 1 : 0
    const rest = parts.slice(from)
    rest.forEach((one, index) => {
      if (!declarators.has(one.name)) return
      const next = rest[index + 1]
      // A field has its value beside it: `int w = 4;`.
      const beside = one.name !== 'InitDeclarator' && next && !declarators.has(next.name) ? next : undefined
      declared.push(...this.#declarator(one, typeName, type, fixed, beside))
    })
    if (!type && rest.length === 0) return [{ kind: 'unread', at }]
    return [...inner, ...declared]
  }

  #declarator(
    node: SyntaxNode,
    type: string | undefined,
    typeNode: SyntaxNode | undefined,
    fixed: boolean,
    beside: SyntaxNode | undefined,
  ): Stmt[] {
    const at = this.at(node)
    const name = this.#nameOf(node)
    if (name === undefined) return []
    const make = (args: readonly Argument[]): Expr => ({
      kind: 'call',
      callee: this.name(type ?? 'auto', typeNode ?? node),
      args: [...this.#templateArgs(typeNode), ...args],
      made: true,
      at,
    })
    const isPlain = typeNode?.name === 'PrimitiveType' || typeNode?.name === 'PlaceholderTypeSpecifier'
    if (node.name === 'FunctionDeclarator') {
      // `DHT probe(PIN, KIND);` reads like a function that takes two types: a parameter without a name is an argument.
      const list = this.child(node, 'ParameterList')
      const params = list ? this.parts(list) : []
      const args = params.map((param) => this.parts(param))
      if (params.length === 0 || !args.every((one) => one.length === 1 && isArgument(one[0] as SyntaxNode))) return []
      if (isPlain || args.every(([one]) => one?.name === 'PrimitiveType')) return []
      const value = make(
        args.map(([one]) => ({ name: undefined, value: this.name(this.textOf(one), one as SyntaxNode) })),
      )
      return [{ kind: 'declare', name, value, type, fixed, at }]
    }
    const init = node.name === 'InitDeclarator' ? this.parts(node).slice(1).at(-1) : beside
    const isArray = this.#isArray(node)
    if (!init) {
      const made = isPlain || isArray || type === undefined || node.name === 'PointerDeclarator' ? undefined : make([])
      return [{ kind: 'declare', name, value: made, type, fixed, at }]
    }
    if (init.name === 'ArgumentList') {
      const args = this.#args(init)
      const [only] = args
      const value = isPlain && args.length === 1 && only ? only.value : make(args)
      return [{ kind: 'declare', name, value, type, fixed, at }]
    }
    if (init.name === 'InitializerList' && !isArray && type !== undefined) {
      const items = this.#items(init)
      const [only] = items
      const value = isPlain && items.length === 1 && only ? only.value : make(items)
      return [{ kind: 'declare', name, value, type, fixed, at }]
    }
    return [{ kind: 'declare', name, value: this.expr(init), type, fixed, at }]
  }

  #templateArgs(node: SyntaxNode | undefined): Argument[] {
    const list = node?.name === 'TemplateType' ? this.child(node, 'TemplateArgumentList') : undefined
    return (list ? this.parts(list) : [])
      .filter((one) => one.name !== 'TypeDescriptor' || this.parts(one).every(({ name }) => name === 'TypeIdentifier'))
      .map((one) => ({
        name: undefined,
        value: one.name === 'TypeDescriptor' ? this.name(this.textOf(one), one) : this.expr(one),
      }))
  }

  #isArray(node: SyntaxNode): boolean {
    if (node.name === 'ArrayDeclarator') return true
    const [inner] = this.parts(node)
    return inner !== undefined && declarators.has(inner.name) && this.#isArray(inner)
  }

  #nameOf(node: SyntaxNode): string | undefined {
    if (node.name === 'Identifier' || node.name === 'FieldIdentifier' || node.name === 'TypeIdentifier')
      return this.textOf(node)
    if (node.name === 'ScopedIdentifier') return this.textOf(this.parts(node).at(-1))
    const inner = this.parts(node).find((one) => declarators.has(one.name))
    return inner && this.#nameOf(inner)
  }

  #typeName(node: SyntaxNode): string | undefined {
    if (node.name === 'TemplateType') return this.textOf(this.parts(node)[0])
    const named = /Specifier$/.test(node.name) ? this.child(node, 'TypeIdentifier') : node
    return named ? this.textOf(named).replace(/\s+/g, ' ') : `type at ${node.from}`
  }

  #type(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    if (node.name === 'EnumSpecifier') return this.#enum(node)
    const list = this.child(node, 'FieldDeclarationList')
    if (!list) return []
    const bases = this.child(node, 'BaseClassClause')
    return [
      {
        kind: 'class',
        name: this.#typeName(node) ?? '',
        bases: bases
          ? this.parts(bases)
              .filter((one) => one.name !== 'Access')
              .map((one) => this.textOf(one))
          : [],
        body: this.statements(list),
        at,
      },
    ]
  }

  #enum(node: SyntaxNode): Stmt[] {
    const list = this.child(node, 'EnumeratorList')
    const name = this.child(node, 'TypeIdentifier')
    let before: Expr | undefined
    const members = (list ? this.parts(list) : []).map((one): Stmt => {
      const [id, value] = this.parts(one)
      const at = this.at(one)
      const next: Expr = value
        ? this.expr(value)
        : before
          ? { kind: 'operation', operator: '+', parts: [before, { kind: 'number', number: 1, hex: false, at }], at }
          : { kind: 'number', number: 0, hex: false, at }
      before = next
      return { kind: 'declare', name: this.textOf(id), value: next, type: undefined, fixed: true, at }
    })
    return name
      ? [{ kind: 'class', name: this.textOf(name), bases: [], body: members, at: this.at(node) }, ...members]
      : members
  }

  #function(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    const declarator = this.#functionDeclarator(node)
    const body = this.child(node, 'CompoundStatement')
    if (!declarator || !body) return []
    const list = this.child(declarator, 'ParameterList')
    const id = this.parts(declarator)[0]
    const scoped = id?.name === 'ScopedIdentifier' || id?.name === 'ScopedFieldIdentifier'
    const path = id ? this.textOf(id).split('::') : []
    const inits = this.child(node, 'FieldInitializerList')
    const fields = (inits ? this.parts(inits) : []).map((one): Stmt => {
      const [field, given] = this.parts(one)
      const args = given?.name === 'ArgumentList' ? this.#args(given) : given ? this.#items(given) : []
      const [only] = args
      const here = this.at(one)
      const target: Expr = {
        kind: 'member',
        of: this.name('this', one),
        name: this.textOf(field),
        at: here,
      }
      const value: Expr = only && args.length === 1 ? only.value : { kind: 'list', items: args, at: here }
      return { kind: 'expression', value: { kind: 'assign', target, operator: '=', value, at: here }, at: here }
    })
    return [
      {
        kind: 'function',
        name: path.at(-1)?.trim() ?? '',
        of: scoped ? path.at(-2)?.trim() : undefined,
        params: list ? this.#params(list) : [],
        body: [...fields, ...this.statements(body)],
        at,
      },
    ]
  }

  #functionDeclarator(node: SyntaxNode): SyntaxNode | undefined {
    for (const child of this.parts(node)) {
      if (child.name === 'FunctionDeclarator') return child
      if (declarators.has(child.name)) {
        const inner = this.#functionDeclarator(child)
        if (inner) return inner
      }
    }
    return undefined
  }

  #params(list: SyntaxNode): Param[] {
    return this.parts(list).map((one) => {
      const parts = this.parts(one).filter((two) => !typeNodes.has(two.name))
      const [declarator, usual] = parts
      return {
        name: (declarator && this.#nameOf(declarator)) ?? '',
        usual: usual ? this.expr(usual) : undefined,
      }
    })
  }

  #args(list: SyntaxNode): Argument[] {
    return this.parts(list).map((one) => ({ name: undefined, value: this.expr(one) }))
  }

  #items(list: SyntaxNode): Argument[] {
    return this.parts(list).map((one) => {
      if (one.name !== 'InitializerPair') return { name: undefined, value: this.expr(one) }
      const [designator, value] = this.parts(one)
      const field = designator?.name === 'FieldDesignator' ? this.textOf(designator).replace('.', '') : undefined
      return { name: field, value: value ? this.expr(value) : this.unknown(one) }
    })
  }

  expr(node: SyntaxNode): Expr {
    const at = this.at(node)
    const parts = (): SyntaxNode[] => this.parts(node)
    switch (node.name) {
      case 'Number':
      case 'UserDefinedLiteral': {
        const read = numberOf(this.textOf(node))
        return read ? { kind: 'number', ...read, at } : this.unknown(node)
      }
      case 'True':
      case 'False':
        return { kind: 'number', number: node.name === 'True' ? 1 : 0, hex: false, at }
      case 'CharLiteral':
        return { kind: 'text', text: this.textOf(node).slice(1, -1), at }
      case 'String':
        return { kind: 'text', text: this.textOf(node).replace(/^[^"]*"|"$/g, ''), at }
      case 'Identifier':
      case 'FieldIdentifier':
      case 'TypeIdentifier':
      case 'this':
        return this.name(this.textOf(node), node)
      case 'ScopedIdentifier':
      case 'ScopedTypeIdentifier': {
        const [first, ...rest] = this.textOf(node)
          .split('::')
          .map((one) => one.trim())
        return rest.reduce<Expr>((of, name) => ({ kind: 'member', of, name, at }), this.name(first ?? '', node))
      }
      case 'FieldExpression': {
        const [of, name] = [this.all(node)[0], this.all(node).at(-1)]
        return of && name ? { kind: 'member', of: this.expr(of), name: this.textOf(name), at } : this.unknown(node)
      }
      case 'SubscriptExpression': {
        const [of, index] = parts()
        return of && index ? { kind: 'index', of: this.expr(of), index: this.expr(index), at } : this.unknown(node)
      }
      case 'CallExpression': {
        const [callee] = this.all(node)
        const list = this.child(node, 'ArgumentList')
        const args = list ? this.#args(list) : []
        // A cast changes no pin: static_cast<int>(x), int(x), F("text").
        const [only] = args
        if (
          only &&
          args.length === 1 &&
          (callee?.name === 'TemplateFunction' || callee?.name === 'PrimitiveType' || this.textOf(callee) === 'F')
        )
          return only.value
        return callee ? { kind: 'call', callee: this.expr(callee), args, made: false, at } : this.unknown(node)
      }
      case 'TemplateFunction':
      case 'TemplateMethod':
      case 'TemplateType':
        return this.name(this.textOf(parts()[0]), node)
      case 'NewExpression': {
        const type = parts().find((one) => typeNodes.has(one.name))
        const list = this.child(node, 'ArgumentList', 'InitializerList')
        return type
          ? {
              kind: 'call',
              callee: this.name(this.#typeName(type) ?? '', type),
              args: list ? this.#args(list) : [],
              made: true,
              at,
            }
          : this.unknown(node)
      }
      case 'CompoundLiteralExpression': {
        const [type, list] = parts()
        return type && list
          ? { kind: 'call', callee: this.name(this.textOf(type), type), args: this.#items(list), made: true, at }
          : this.unknown(node)
      }
      case 'CastExpression':
      case 'ParenthesizedExpression':
      case 'ConditionClause': {
        const inner = parts().at(-1)
        return inner ? this.expr(inner) : this.unknown(node)
      }
      case 'PointerExpression': {
        const inner = parts().at(-1)
        return inner ? this.expr(inner) : this.unknown(node)
      }
      case 'InitializerList':
        return { kind: 'list', items: this.#items(node), at }
      case 'ConditionalExpression': {
        const [test, yes, no] = parts()
        return test && yes && no
          ? { kind: 'choice', test: this.expr(test), yes: this.expr(yes), no: this.expr(no), at }
          : this.unknown(node)
      }
      case 'AssignmentExpression': {
        const [target, second, third] = parts()
        const value = third ?? second
        const operator = this.all(node).find((one) => /=$/.test(this.textOf(one)) && one !== target && one !== value)
        return target && value
          ? {
              kind: 'assign',
              target: this.expr(target),
              operator: this.textOf(operator) || '=',
              value: this.expr(value),
              at,
            }
          : this.unknown(node)
      }
      case 'BinaryExpression': {
        const [left, operator, right] = parts()
        return left && right
          ? { kind: 'operation', operator: this.textOf(operator), parts: [this.expr(left), this.expr(right)], at }
          : this.unknown(node)
      }
      case 'UnaryExpression': {
        const [operator, of] = parts()
        return of
          ? { kind: 'operation', operator: this.textOf(operator), parts: [this.expr(of)], at }
          : this.unknown(node)
      }
      case 'UpdateExpression': {
        const of = parts().find((one) => one.name !== 'UpdateOp')
        const by = this.textOf(this.child(node, 'UpdateOp'))
        return of
          ? {
              kind: 'assign',
              target: this.expr(of),
              operator: by === '--' ? '-=' : '+=',
              value: { kind: 'number', number: 1, hex: false, at },
              at,
            }
          : this.unknown(node)
      }
      case 'TypeDescriptor': {
        // What is measured reads like a type: `sizeof(rows[0])`.
        const [type, array] = parts()
        const index = array?.name === 'AbstractArrayDeclarator' ? this.parts(array).at(-1) : undefined
        if (!type) return this.unknown(node)
        const of = this.name(this.textOf(type), type)
        return index ? { kind: 'index', of, index: this.expr(index), at } : of
      }
      case 'SizeofExpression': {
        const inner = parts().at(-1)
        const of = inner ? this.expr(inner) : this.unknown(node)
        return { kind: 'operation', operator: 'sizeof', parts: [of], at }
      }
      case 'LambdaExpression': {
        const body = this.child(node, 'CompoundStatement')
        const list = this.child(node, 'AbstractFunctionDeclarator')
        const params = list && this.child(list, 'ParameterList')
        return {
          kind: 'function',
          params: params ? this.#params(params) : [],
          body: body ? this.statements(body) : [],
          at,
        }
      }
      case 'CommaExpression': {
        const all = parts().map((one) => this.expr(one))
        return { kind: 'operation', operator: ',', parts: all, at }
      }
      default:
        return this.unknown(
          node,
          parts().map((one) => this.expr(one)),
        )
    }
  }
}

const isArgument = (node: SyntaxNode): boolean => ['TypeIdentifier', 'ScopedTypeIdentifier'].includes(node.name)

/** An expression whose places lie so much further on. */
function moved(expr: Expr, by: number): Expr {
  const shift = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(shift)
    if (typeof value !== 'object' || value === null) return value
    const { at, ...rest } = value as { at?: Expr['at'] }
    const inner = Object.fromEntries(Object.entries(rest).map(([key, one]) => [key, shift(one)]))
    return at ? { ...inner, at: { ...at, from: at.from + by, to: at.to + by } } : inner
  }
  return shift(expr) as Expr
}
