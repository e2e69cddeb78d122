import type { PyScope } from './scope.ts'
import type { PyExpr, PyPattern, PyStmt } from './syntax.ts'

/** Names that a statement of a function gives values to: they are its own. */
export function declareNames(node: PyStmt, scope: PyScope): void {
  const target = (one: PyExpr): void => {
    if (one.e === 'name') {
      if (!scope.isElsewhere(one.name)) scope.declare(one.name)
    } else if (one.e === 'tuple' || one.e === 'list') one.items.forEach(target)
    else if (one.e === 'star') target(one.of)
  }
  const name = (one: string): void => target({ e: 'name', name: one, at: node.at })
  const all = (body: readonly PyStmt[]): void => {
    for (const one of body) declareNames(one, scope)
  }
  const walrus = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return
    const expr = value as PyExpr
    if (expr.e === 'named') name(expr.name)
    if (expr.e !== 'lambda') for (const one of Object.values(value)) walrus(one)
  }
  switch (node.s) {
    case 'global':
      for (const one of node.names) scope.global(one)
      break
    case 'nonlocal':
      for (const one of node.names) scope.nonlocal(one)
      break
    case 'assign':
      node.targets.forEach(target)
      walrus(node.value)
      break
    case 'change':
      target(node.target)
      break
    case 'expression':
      walrus(node.value)
      break
    case 'if':
      walrus(node.if)
      all(node.yes)
      all(node.else)
      break
    case 'match':
      walrus(node.of)
      for (const { pattern, body } of node.cases) {
        patternNames(pattern).forEach(name)
        all(body)
      }
      break
    case 'while':
      walrus(node.if)
      all(node.body)
      all(node.else)
      break
    case 'for':
      target(node.target)
      all(node.body)
      all(node.else)
      break
    case 'try':
      all(node.body)
      for (const { name: as, body } of node.excepts) {
        if (as !== undefined) name(as)
        all(body)
      }
      all(node.else)
      all(node.finally)
      break
    case 'with':
      for (const { target: as } of node.items) if (as) target(as)
      all(node.body)
      break
    case 'def':
      name(node.function.name)
      break
    case 'class':
      name(node.name)
      break
    case 'import':
      name(node.as)
      break
    case 'from':
      for (const { as } of node.names) if (as !== '*') name(as)
      break
  }
}

/** Names that a pattern gives values to. */
function patternNames(pattern: PyPattern): string[] {
  switch (pattern.p) {
    case 'value':
      return []
    case 'name':
      return pattern.name === undefined ? [] : [pattern.name]
    case 'as':
      return [...patternNames(pattern.of), pattern.name]
    case 'or':
      return pattern.all.flatMap(patternNames)
    case 'list':
      return pattern.items.flatMap(patternNames)
    case 'map':
      return [
        ...pattern.items.flatMap(({ of }) => patternNames(of)),
        ...(pattern.rest === undefined ? [] : [pattern.rest]),
      ]
    case 'class':
      return [...pattern.plain, ...pattern.named.map(({ of }) => of)].flatMap(patternNames)
  }
}

export function declareInner(target: PyExpr, scope: PyScope): void {
  if (target.e === 'name') scope.declareInner(target.name)
  else if (target.e === 'tuple' || target.e === 'list') for (const one of target.items) declareInner(one, scope)
}

/** Something is given out or waited for in it, functions inside left out. */
export function hasYield(node: unknown): boolean {
  if (typeof node !== 'object' || node === null) return false
  if (Array.isArray(node)) return node.some(hasYield)
  const { e, s } = node as { e?: string; s?: string }
  if (e === 'yield' || e === 'await') return true
  if (e === 'lambda' || s === 'def' || s === 'class') return false
  return Object.values(node).some(hasYield)
}

/** Kinds of statements that can stop in their middle. */
const CAN_STOP = new Set(['expression', 'assign', 'change', 'return', 'if', 'while', 'for', 'try', 'with', 'match'])

/** Something is called in it, functions inside left out: in a thread it may wait there. */
export const mayWait = (node: PyStmt): boolean => CAN_STOP.has(node.s) && hasCall(node)

function hasCall(node: unknown): boolean {
  if (typeof node !== 'object' || node === null) return false
  if (Array.isArray(node)) return node.some(hasCall)
  const { e, s } = node as { e?: string; s?: string }
  if (e === 'call' || s === 'with') return true
  if (e === 'lambda' || s === 'def' || s === 'class') return false
  return Object.values(node).some(hasCall)
}
