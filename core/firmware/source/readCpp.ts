import type { SyntaxNode } from '@lezer/common'
import { parser } from '@lezer/cpp'
import { type Defines, withoutBranches } from './cppBranches.ts'
import { CppDeclarations } from './cppDeclarations.ts'
import { declarators, typeNodes } from './cppExpressions.ts'
import type { Expr, Param, Stmt } from './ir.ts'

/** Reads one file of a C++ sketch. Branches of `#if` that the defines rule out are left out. */
export function readCpp(text: string, file: number, defines: Defines): Stmt[] {
  const kept = withoutBranches(text, defines)
  return new CppReader(kept, file).statements(parser.parse(kept).topNode)
}

class CppReader extends CppDeclarations {
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
        return this.declaration(node)
      case 'StructSpecifier':
      case 'ClassSpecifier':
      case 'UnionSpecifier':
      case 'EnumSpecifier':
        return this.type(node)
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
        const names = [this.nameOf(variable) ?? '']
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
    const names = this.params(params)
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
      return this.declaration(one).flatMap((two) => (two.kind === 'declare' && two.value ? [two.value] : []))
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
      const args = given?.name === 'ArgumentList' ? this.args(given) : given ? this.items(given) : []
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
        params: list ? this.params(list) : [],
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
}

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
