import type { SyntaxNode } from '@lezer/common'
import type { Argument, Expr, Param, Stmt } from './ir.ts'
import { numberOf, TreeReader } from './tree.ts'

/** Nodes that name a type, and nodes that declare something. */
export const typeNodes = new Set([
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
export const declarators = new Set([
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

/** Expressions of C++, and the small pieces that they share with declarations. */
export abstract class CppExpressions extends TreeReader {
  protected nameOf(node: SyntaxNode): string | undefined {
    if (node.name === 'Identifier' || node.name === 'FieldIdentifier' || node.name === 'TypeIdentifier')
      return this.textOf(node)
    if (node.name === 'ScopedIdentifier') return this.textOf(this.parts(node).at(-1))
    const inner = this.parts(node).find((one) => declarators.has(one.name))
    return inner && this.nameOf(inner)
  }

  protected typeName(node: SyntaxNode): string | undefined {
    if (node.name === 'TemplateType') return this.textOf(this.parts(node)[0])
    const named = /Specifier$/.test(node.name) ? this.child(node, 'TypeIdentifier') : node
    return named ? this.textOf(named).replace(/\s+/g, ' ') : `type at ${node.from}`
  }

  protected params(list: SyntaxNode): Param[] {
    return this.parts(list).map((one) => {
      const parts = this.parts(one).filter((two) => !typeNodes.has(two.name))
      const [declarator, usual] = parts
      return {
        name: (declarator && this.nameOf(declarator)) ?? '',
        usual: usual ? this.expr(usual) : undefined,
      }
    })
  }

  /** What stands between the angles of a type or a method: `Lamp<5>`. */
  protected templateArgs(node: SyntaxNode | undefined): Argument[] {
    const list = node && this.child(node, 'TemplateArgumentList')
    return (list ? this.parts(list) : [])
      .filter((one) => one.name !== 'TypeDescriptor' || this.parts(one).every(({ name }) => name === 'TypeIdentifier'))
      .map((one) => ({
        name: undefined,
        value: one.name === 'TypeDescriptor' ? this.name(this.textOf(one), one) : this.expr(one),
      }))
  }

  protected args(list: SyntaxNode): Argument[] {
    return this.parts(list).map((one) => ({ name: undefined, value: this.expr(one) }))
  }

  protected items(list: SyntaxNode): Argument[] {
    return this.parts(list).map((one) => {
      if (one.name !== 'InitializerPair') return { name: undefined, value: this.expr(one) }
      const [designator, value] = this.parts(one)
      const field = designator?.name === 'FieldDesignator' ? this.textOf(designator).replace('.', '') : undefined
      return { name: field, value: value ? this.expr(value) : this.unknown(one) }
    })
  }

  /** Statements of a body, for handlers that stand within an expression. */
  abstract statements(node: SyntaxNode): Stmt[]

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
        // `strip.add<KIND, 6>` is a call of `strip.add`.
        const called = name?.name === 'TemplateMethod' ? (this.parts(name)[0] ?? name) : name
        return of && called ? { kind: 'member', of: this.expr(of), name: this.textOf(called), at } : this.unknown(node)
      }
      case 'SubscriptExpression': {
        const [of, index] = parts()
        return of && index ? { kind: 'index', of: this.expr(of), index: this.expr(index), at } : this.unknown(node)
      }
      case 'CallExpression': {
        const [callee] = this.all(node)
        const list = this.child(node, 'ArgumentList')
        const method = callee && this.child(callee, 'TemplateMethod')
        const args = [...this.templateArgs(method), ...(list ? this.args(list) : [])]
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
              callee: this.name(this.typeName(type) ?? '', type),
              args: list ? this.args(list) : [],
              made: true,
              at,
            }
          : this.unknown(node)
      }
      case 'CompoundLiteralExpression': {
        const [type, list] = parts()
        return type && list
          ? { kind: 'call', callee: this.name(this.textOf(type), type), args: this.items(list), made: true, at }
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
        return { kind: 'list', items: this.items(node), at }
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
          params: params ? this.params(params) : [],
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
