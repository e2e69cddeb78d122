import type { Expr, Stmt } from './ir.ts'

/** Names to which statements give values. */
export function collectChanged(body: readonly Stmt[], changed: Set<string>): void {
  for (const stmt of body)
    switch (stmt.kind) {
      case 'expression':
        collectInExpr(stmt.value, changed)
        break
      case 'for':
        collectChanged(stmt.body, changed)
        collectChanged(stmt.first, changed)
        if (stmt.step) collectInExpr(stmt.step, changed)
        break
      case 'for-each':
      case 'block':
      case 'function':
      case 'class':
        collectChanged(stmt.body, changed)
        break
      case 'maybe':
        for (const one of stmt.bodies) collectChanged(one, changed)
        break
      case 'declare':
        if (stmt.value) collectInExpr(stmt.value, changed)
        // In Python every assignment reads like this.
        if (stmt.type === undefined && !stmt.fixed) changed.add(stmt.name)
        break
    }
}

export function collectInExpr(expr: Expr, changed: Set<string>): void {
  if (expr.kind === 'assign') {
    if (expr.target.kind === 'name') changed.add(expr.target.name)
    collectInExpr(expr.value, changed)
  } else if (expr.kind === 'function') collectChanged(expr.body, changed)
  else if (expr.kind === 'call') for (const { value } of expr.args) collectInExpr(value, changed)
  else if (expr.kind === 'operation' || expr.kind === 'unknown')
    for (const part of expr.parts) collectInExpr(part, changed)
}
