import type { SyntaxNode } from '@lezer/common'
import { CppExpressions, declarators, typeNodes } from './cppExpressions.ts'
import type { Argument, Expr, Stmt } from './ir.ts'

const plainTypes = new Set(['PrimitiveType', 'SizedTypeSpecifier', 'PlaceholderTypeSpecifier'])

const isArgument = (node: SyntaxNode): boolean => ['TypeIdentifier', 'ScopedTypeIdentifier'].includes(node.name)

/** Declarations of C++: variables, fields, types. */
export abstract class CppDeclarations extends CppExpressions {
  protected declaration(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    const parts = this.parts(node)
    const type = parts.find((one) => typeNodes.has(one.name))
    const inner = type && /Specifier$/.test(type.name) && type.name !== 'SizedTypeSpecifier' ? this.type(type) : []
    if (node.name === 'TypeDefinition') {
      // `typedef struct { … } Ranger;`
      const names = parts.filter((one) => one.name === 'TypeIdentifier' && one !== type).map((one) => this.textOf(one))
      const [made] = inner
      return made?.kind === 'class' ? [made, ...names.map((name): Stmt => ({ ...made, name }))] : inner
    }
    const fixed = this.all(node).some((one) => one.name === 'const' || one.name === 'constexpr')
    const typeName = type && this.typeName(type)
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
    const name = this.nameOf(node)
    if (name === undefined) return []
    const make = (args: readonly Argument[]): Expr => ({
      kind: 'call',
      callee: this.name(type ?? 'auto', typeNode ?? node),
      args: [...this.templateArgs(typeNode?.name === 'TemplateType' ? typeNode : undefined), ...args],
      made: true,
      at,
    })
    const isPlain = plainTypes.has(typeNode?.name ?? '')
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
      const args = this.args(init)
      const [only] = args
      const value = isPlain && args.length === 1 && only ? only.value : make(args)
      return [{ kind: 'declare', name, value, type, fixed, at }]
    }
    if (init.name === 'InitializerList' && !isArray && type !== undefined) {
      const items = this.items(init)
      const [only] = items
      const value = isPlain && items.length === 1 && only ? only.value : make(items)
      return [{ kind: 'declare', name, value, type, fixed, at }]
    }
    return [{ kind: 'declare', name, value: this.expr(init), type, fixed, at }]
  }

  #isArray(node: SyntaxNode): boolean {
    if (node.name === 'ArrayDeclarator') return true
    const [inner] = this.parts(node)
    return inner !== undefined && declarators.has(inner.name) && this.#isArray(inner)
  }

  protected type(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    if (node.name === 'EnumSpecifier') return this.#enum(node)
    const list = this.child(node, 'FieldDeclarationList')
    if (!list) return []
    const bases = this.child(node, 'BaseClassClause')
    return [
      {
        kind: 'class',
        name: this.typeName(node) ?? '',
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
}
