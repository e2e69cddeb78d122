import type { SyntaxNode } from '@lezer/common'
import { parser } from '@lezer/python'
import type { Argument, Expr, Param, Stmt } from './ir.ts'
import { numberOf, TreeReader } from './tree.ts'

/** Reads one file of a Python program, of whichever kind. */
export function readPython(text: string, file: number): Stmt[] {
  return new PythonReader(text, file).statements(parser.parse(text).topNode)
}

const isSign = (node: SyntaxNode, ...signs: readonly string[]): boolean => signs.includes(node.name)

class PythonReader extends TreeReader {
  statements(node: SyntaxNode): Stmt[] {
    return this.all(node).flatMap((child) => this.#statement(child))
  }

  #statement(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    switch (node.name) {
      case 'StatementGroup':
        return this.statements(node)
      case 'ImportStatement':
        return this.#import(node)
      case 'AssignStatement':
        return this.#assign(node)
      case 'UpdateStatement': {
        const [target, operator, value] = this.parts(node)
        if (!target || !value) return []
        const change: Expr = {
          kind: 'assign',
          target: this.expr(target),
          operator: this.textOf(operator),
          value: this.expr(value),
          at,
        }
        return [{ kind: 'expression', value: change, at }]
      }
      case 'ExpressionStatement': {
        const [value] = this.parts(node)
        return value ? [{ kind: 'expression', value: this.expr(value), at }] : []
      }
      case 'IfStatement':
      case 'WhileStatement':
      case 'TryStatement':
      case 'MatchStatement':
        return this.#maybe(node)
      case 'MatchBody':
        return this.parts(node).flatMap((one) => this.#maybe(one))
      case 'ForStatement': {
        const body = this.child(node, 'Body')
        const before = this.#upTo(node, 'in')
        const over = this.#after(node, 'in')
        if (!over) return []
        return [
          {
            kind: 'for-each',
            names: this.#targets(before),
            over: this.expr(over),
            body: body ? this.statements(body) : [],
            at,
          },
        ]
      }
      case 'WithStatement': {
        const body = this.child(node, 'Body')
        const parts = this.parts(node).filter((one) => one.name !== 'Body')
        const given: Stmt[] = []
        parts.forEach((one, index) => {
          const named = this.all(node).some((two) => two.name === 'as' && two.to <= one.from) && index > 0
          const before = parts[index - 1]
          if (named && one.name === 'VariableName' && before)
            given.push({
              kind: 'declare',
              name: this.textOf(one),
              value: this.expr(before),
              type: undefined,
              fixed: false,
              at: this.at(one),
            })
          else given.push({ kind: 'expression', value: this.expr(one), at: this.at(one) })
        })
        return [...given, ...(body ? this.statements(body) : [])]
      }
      case 'FunctionDefinition':
        return this.#function(node)
      case 'DecoratedStatement':
        return this.parts(node).flatMap((one) => this.#statement(one))
      case 'ClassDefinition': {
        const body = this.child(node, 'Body')
        const list = this.child(node, 'ArgList')
        return [
          {
            kind: 'class',
            name: this.textOf(this.child(node, 'VariableName')),
            bases: list ? this.parts(list).map((one) => this.textOf(one)) : [],
            body: body ? this.statements(body) : [],
            at,
          },
        ]
      }
      case 'ScopeStatement':
        return [{ kind: 'global', names: this.parts(node).map((one) => this.textOf(one)), at }]
      case 'ReturnStatement': {
        const [value] = this.parts(node)
        return [{ kind: 'return', value: value && this.expr(value), at }]
      }
      default:
        return node.type.isError ? [{ kind: 'unread', at }] : []
    }
  }

  /** Nodes before a sign, and the first after it. */
  #upTo(node: SyntaxNode, sign: string): SyntaxNode[] {
    const all = this.all(node)
    const end = all.findIndex((one) => one.name === sign)
    return all.slice(0, end < 0 ? all.length : end).filter((one) => /^[A-Z]/.test(one.name))
  }

  #after(node: SyntaxNode, sign: string): SyntaxNode | undefined {
    const all = this.all(node)
    const start = all.findIndex((one) => one.name === sign)
    return start < 0 ? undefined : all.slice(start + 1).find((one) => /^[A-Z]/.test(one.name))
  }

  #targets(nodes: readonly SyntaxNode[]): string[] {
    return nodes.flatMap((one) =>
      one.name === 'VariableName'
        ? [this.textOf(one)]
        : one.name === 'TupleExpression' || one.name === 'ParenthesizedExpression'
          ? this.#targets(this.parts(one))
          : [],
    )
  }

  #maybe(node: SyntaxNode): Stmt[] {
    const tests: Expr[] = []
    const bodies: Stmt[][] = []
    let whole = false
    for (const one of this.all(node)) {
      if (one.name === 'Body' || one.name === 'MatchBody') bodies.push(this.statements(one))
      else if (one.name === 'else' || one.name === 'finally') whole = true
      else if (/^[A-Z]/.test(one.name) && !/Pattern$|Guard/.test(one.name)) tests.push(this.expr(one))
    }
    const main = tests[0]
    // What stands under the test for the main program runs.
    if (main?.kind === 'operation' && this.text.slice(main.at.from, main.at.to).includes('__main__'))
      return bodies[0] ?? []
    return [{ kind: 'maybe', tests, bodies: whole ? bodies : [...bodies, []], at: this.at(node) }]
  }

  #import(node: SyntaxNode): Stmt[] {
    const all = this.all(node)
    const at = this.at(node)
    const words = all.map((one) => this.textOf(one))
    const isFrom = words[0] === 'from'
    const split = isFrom ? words.indexOf('import') : 0
    const found: Stmt[] = []
    const add = (path: readonly string[], as: string | undefined, module: string | undefined): void => {
      const name = path.join('')
      const last = path.at(-1)
      if (name === '' || last === undefined) return
      if (module !== undefined) found.push({ kind: 'import', module, name, as: as ?? name, at })
      // `import a.b` makes `a` known; `import a.b as c` makes `c` stand for `a.b`.
      else
        found.push({
          kind: 'import',
          module: as === undefined ? (path[0] ?? name) : name,
          name: undefined,
          as: as ?? path[0] ?? name,
          at,
        })
    }
    const module = isFrom ? words.slice(1, split).join('') : undefined
    let path: string[] = []
    let as: string | undefined
    for (let index = split + 1; index <= words.length; index += 1) {
      const word = words[index]
      if (word === undefined || word === ',' || word === ')') {
        add(path, as, module)
        path = []
        as = undefined
      } else if (word === 'as') {
        as = words[index + 1]
        index += 1
      } else if (word !== '(') path.push(word)
    }
    return found
  }

  #assign(node: SyntaxNode): Stmt[] {
    const at = this.at(node)
    const sides: SyntaxNode[][] = [[]]
    for (const one of this.all(node)) {
      if (one.name === 'AssignOp') sides.push([])
      else if (/^[A-Z]/.test(one.name) && one.name !== 'TypeDef' && !/Comment$/.test(one.name)) sides.at(-1)?.push(one)
    }
    const values = sides.pop() ?? []
    const value: Expr | undefined =
      values.length === 1 && values[0]
        ? this.expr(values[0])
        : values.length > 1
          ? { kind: 'list', items: values.map((one) => ({ name: undefined, value: this.expr(one) })), at }
          : undefined
    return sides.flatMap((targets): Stmt[] => {
      const flat = targets.flatMap((one) =>
        one.name === 'TupleExpression' || (one.name === 'ParenthesizedExpression' && targets.length === 1)
          ? this.parts(one)
          : [one],
      )
      if (flat.length === 1 && targets.length === 1 && targets[0] === flat[0])
        return this.#put(targets[0] as SyntaxNode, value, at)
      return flat.flatMap((one, index) => {
        const item: Expr | undefined =
          value?.kind === 'list'
            ? value.items[index]?.value
            : value && {
                kind: 'index',
                of: value,
                index: { kind: 'number', number: index, hex: false, at },
                at: value.at,
              }
        return this.#put(one, item, at)
      })
    })
  }

  #put(target: SyntaxNode, value: Expr | undefined, at: Expr['at']): Stmt[] {
    if (target.name === 'VariableName')
      return [{ kind: 'declare', name: this.textOf(target), value, type: undefined, fixed: false, at }]
    if (!value) return []
    return [{ kind: 'expression', value: { kind: 'assign', target: this.expr(target), operator: '=', value, at }, at }]
  }

  #function(node: SyntaxNode): Stmt[] {
    const list = this.child(node, 'ParamList')
    const body = this.child(node, 'Body')
    return [
      {
        kind: 'function',
        name: this.textOf(this.child(node, 'VariableName')),
        of: undefined,
        params: list ? this.#params(list) : [],
        body: body ? this.statements(body) : [],
        at: this.at(node),
      },
    ]
  }

  #params(list: SyntaxNode): Param[] {
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

  #args(list: SyntaxNode): Argument[] {
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
        return { kind: 'call', callee: this.expr(callee), args: list ? this.#args(list) : [], made: false, at }
      }
      case 'ArrayExpression':
      case 'TupleExpression':
      case 'SetExpression':
        return { kind: 'list', items: parts().map((one) => ({ name: undefined, value: this.expr(one) })), at }
      case 'ArrayComprehensionExpression':
      case 'SetComprehensionExpression':
      case 'ComprehensionExpression':
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
          params: list ? this.#params(list) : [],
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
    const value = all.slice(0, loop).find((one) => /^[A-Z]/.test(one.name))
    const over = all.slice(into + 1).find((one) => /^[A-Z]/.test(one.name))
    if (!value || !over || loop < 0 || into < loop) return this.unknown(node)
    const names = this.#targets(all.slice(loop + 1, into))
    return { kind: 'each', names, over: this.expr(over), value: this.expr(value), at }
  }
}
