import type { SyntaxNode } from '@lezer/common'
import { parser } from '@lezer/python'
import type { Expr, Stmt } from './ir.ts'
import { PythonExpressions } from './pythonExpressions.ts'

/** Reads one file of a Python program, of whichever kind. */
export function readPython(text: string, file: number): Stmt[] {
  return new PythonReader(text, file).statements(parser.parse(text).topNode)
}

class PythonReader extends PythonExpressions {
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
            names: this.targets(before),
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
        params: list ? this.params(list) : [],
        body: body ? this.statements(body) : [],
        at: this.at(node),
      },
    ]
  }
}
