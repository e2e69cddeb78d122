import type { SyntaxNode } from '@lezer/common'
import type { Argument, Expr, Param } from './ir.ts'
import { numberOf, TreeReader } from './tree.ts'

const isSign = (node: SyntaxNode, ...signs: readonly string[]): boolean => signs.includes(node.name)

/** Expressions of Python, and the small pieces that they share with statements. */
export abstract class PythonExpressions extends TreeReader {
  protected targets(nodes: readonly SyntaxNode[]): string[] {
    return nodes.flatMap((one) =>
      one.name === 'VariableName'
        ? [this.textOf(one)]
        : one.name === 'TupleExpression' || one.name === 'ParenthesizedExpression'
          ? this.targets(this.parts(one))
          : [],
    )
  }

  protected params(list: SyntaxNode): Param[] {
    const params: { name: string; usual: Expr | undefined }[] = []
    let usual = false
    let starred = false
    for (const one of this.all(list)) {
      if (isSign(one, ',')) {
        usual = false
        starred = false
      } else if (isSign(one, '*', '**')) starred = true
      else if (one.name === 'AssignOp') usual = true
      else if (one.name === 'TypeDef') continue
      else if (/^[A-Z]/.test(one.name)) {
        const last = params.at(-1)
        if (usual && last) last.usual = this.expr(one)
        else if (!starred) params.push({ name: this.textOf(one), usual: undefined })
      }
    }
    return params
  }

  protected args(list: SyntaxNode): Argument[] {
    const args: Argument[] = []
    let name: string | undefined
    let pending: SyntaxNode | undefined
    const flush = (): void => {
      if (pending) args.push({ name, value: this.expr(pending) })
      name = undefined
      pending = undefined
    }
    for (const one of this.all(list)) {
      if (isSign(one, ',', ')')) flush()
      else if (one.name === 'AssignOp') {
        name = this.textOf(pending)
        pending = undefined
      } else if (/^[A-Z]/.test(one.name) && !/Comment$/.test(one.name)) pending = one
    }
    flush()
    return args
  }

  expr(node: SyntaxNode): Expr {
    const at = this.at(node)
    const parts = (): SyntaxNode[] => this.parts(node)
    switch (node.name) {
      case 'Number': {
        const read = numberOf(this.textOf(node))
        return read ? { kind: 'number', ...read, at } : this.unknown(node)
      }
      case 'Boolean':
        return { kind: 'number', number: this.textOf(node) === 'True' ? 1 : 0, hex: false, at }
      case 'String':
      case 'ContinuedString':
        return { kind: 'text', text: this.textOf(node).replace(/^[a-zA-Z]*("""|'''|"|')|("""|'''|"|')$/g, ''), at }
      case 'VariableName':
        return this.name(this.textOf(node), node)
      case 'None':
        return this.name('None', node)
      case 'ParenthesizedExpression':
      case 'AwaitExpression':
      case 'NamedExpression': {
        const inner = parts().at(-1)
        return inner ? this.expr(inner) : this.unknown(node)
      }
      case 'MemberExpression': {
        const all = this.all(node)
        const [of] = all
        if (!of) return this.unknown(node)
        const property = this.child(node, 'PropertyName')
        if (property) return { kind: 'member', of: this.expr(of), name: this.textOf(property), at }
        if (all.some((one) => one.name === ':')) return this.unknown(node, [this.expr(of)])
        const index = all.slice(1).find((one) => /^[A-Z]/.test(one.name))
        return index ? { kind: 'index', of: this.expr(of), index: this.expr(index), at } : this.unknown(node)
      }
      case 'CallExpression': {
        const [callee] = this.all(node)
        const list = this.child(node, 'ArgList')
        if (!callee) return this.unknown(node)
        // A generator as the only argument: `list(P(n) for n in PINS)`.
        if (list && this.all(list).some((one) => one.name === 'for')) {
          const each = this.#comprehension(list, at)
          return { kind: 'call', callee: this.expr(callee), args: [{ name: undefined, value: each }], made: false, at }
        }
        return { kind: 'call', callee: this.expr(callee), args: list ? this.args(list) : [], made: false, at }
      }
      case 'ArrayExpression':
      case 'TupleExpression':
      case 'SetExpression':
        return { kind: 'list', items: parts().map((one) => ({ name: undefined, value: this.expr(one) })), at }
      case 'ArrayComprehensionExpression':
      case 'SetComprehensionExpression':
      case 'ComprehensionExpression':
      case 'DictionaryComprehensionExpression':
        return this.#comprehension(node, at)
      case 'DictionaryExpression': {
        const all = parts()
        const entries: (readonly [Expr, Expr])[] = []
        for (let index = 0; index + 1 < all.length; index += 2)
          entries.push([this.expr(all[index] as SyntaxNode), this.expr(all[index + 1] as SyntaxNode)])
        return { kind: 'map', entries, at }
      }
      case 'ConditionalExpression': {
        const [yes, test, no] = parts()
        return test && yes && no
          ? { kind: 'choice', test: this.expr(test), yes: this.expr(yes), no: this.expr(no), at }
          : this.unknown(node)
      }
      case 'BinaryExpression': {
        const all = this.all(node).filter((one) => !/Comment$/.test(one.name))
        const [left, right] = [all[0], all.at(-1)]
        const operator = all
          .slice(1, -1)
          .map((one) => this.textOf(one))
          .join(' ')
        return left && right && left !== right
          ? { kind: 'operation', operator, parts: [this.expr(left), this.expr(right)], at }
          : this.unknown(node)
      }
      case 'UnaryExpression': {
        const all = this.all(node)
        const of = all.at(-1)
        return of
          ? { kind: 'operation', operator: this.textOf(all[0]), parts: [this.expr(of)], at }
          : this.unknown(node)
      }
      case 'LambdaExpression': {
        const list = this.child(node, 'ParamList')
        const body = parts().at(-1)
        return {
          kind: 'function',
          params: list ? this.params(list) : [],
          body: body ? [{ kind: 'return', value: this.expr(body), at: this.at(body) }] : [],
          at,
        }
      }
      default:
        return this.unknown(
          node,
          parts().map((one) => this.expr(one)),
        )
    }
  }

  #comprehension(node: SyntaxNode, at: Expr['at']): Expr {
    const all = this.all(node)
    const loop = all.findIndex((one) => one.name === 'for')
    const into = all.findIndex((one) => one.name === 'in')
    const made = all.slice(0, Math.max(0, loop)).filter((one) => /^[A-Z]/.test(one.name))
    const value = made.at(-1)
    const key = node.name === 'DictionaryComprehensionExpression' ? made[0] : undefined
    const over = all.slice(into + 1).find((one) => /^[A-Z]/.test(one.name))
    if (!value || !over || loop < 0 || into < loop) return this.unknown(node)
    const names = this.targets(all.slice(loop + 1, into))
    return { kind: 'each', names, over: this.expr(over), key: key && this.expr(key), value: this.expr(value), at }
  }
}
