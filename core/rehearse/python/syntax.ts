/** What a Python program is made of; `at` is a place as `lineAt` packs it. */

interface Node {
  readonly at: number
}

export interface PyParam {
  readonly name: string
  readonly kind: 'plain' | 'named' | 'list' | 'map'
  readonly otherwise: PyExpr | undefined
}

export interface PyArg {
  readonly value: PyExpr
  readonly name: string | undefined
  readonly star: 0 | 1 | 2
}

/** What a value is held against: `case PATTERN if TEST:`. */
export interface PyCase {
  readonly pattern: PyPattern
  readonly test: PyExpr | undefined
  readonly body: readonly PyStmt[]
}

export type PyPattern =
  /** Equal to a value; `None`, `True` and `False` are the same. */
  | { readonly p: 'value'; readonly value: PyExpr; readonly isSame: boolean }
  /** Anything, given a name or not. */
  | { readonly p: 'name'; readonly name: string | undefined }
  | { readonly p: 'as'; readonly of: PyPattern; readonly name: string }
  | { readonly p: 'or'; readonly all: readonly PyPattern[] }
  /** One after the other; one of them may take what the others leave. */
  | { readonly p: 'list'; readonly items: readonly PyPattern[]; readonly star: number }
  | {
      readonly p: 'map'
      readonly items: readonly { readonly key: PyExpr; readonly of: PyPattern }[]
      readonly rest: string | undefined
    }
  | {
      readonly p: 'class'
      readonly of: PyExpr
      readonly plain: readonly PyPattern[]
      readonly named: readonly { readonly name: string; readonly of: PyPattern }[]
    }

/** `for NAMES in OVER if TEST`. */
export interface PyEach {
  readonly target: PyExpr
  readonly over: PyExpr
  readonly tests: readonly PyExpr[]
}

export type PyExpr = Node &
  (
    | { readonly e: 'number'; readonly text: string }
    | { readonly e: 'text'; readonly text: string }
    | { readonly e: 'bytes'; readonly text: string }
    | {
        readonly e: 'form'
        readonly parts: readonly (
          | string
          | { readonly value: PyExpr; readonly turn: string; readonly spec: PyExpr | undefined }
        )[]
      }
    | { readonly e: 'constant'; readonly value: null | boolean }
    | { readonly e: 'name'; readonly name: string }
    | { readonly e: 'unary'; readonly op: string; readonly of: PyExpr }
    | { readonly e: 'binary'; readonly op: string; readonly a: PyExpr; readonly b: PyExpr }
    | {
        readonly e: 'compare'
        readonly first: PyExpr
        readonly rest: readonly { readonly op: string; readonly value: PyExpr }[]
      }
    | { readonly e: 'logic'; readonly op: 'and' | 'or'; readonly a: PyExpr; readonly b: PyExpr }
    | { readonly e: 'choose'; readonly if: PyExpr; readonly yes: PyExpr; readonly else: PyExpr }
    | { readonly e: 'call'; readonly of: PyExpr; readonly args: readonly PyArg[] }
    | { readonly e: 'member'; readonly of: PyExpr; readonly name: string }
    | { readonly e: 'index'; readonly of: PyExpr; readonly by: PyExpr }
    | {
        readonly e: 'slice'
        readonly from: PyExpr | undefined
        readonly to: PyExpr | undefined
        readonly step: PyExpr | undefined
      }
    | { readonly e: 'list' | 'tuple' | 'set'; readonly items: readonly PyExpr[] }
    | { readonly e: 'star'; readonly of: PyExpr }
    | { readonly e: 'dict'; readonly items: readonly { readonly key: PyExpr | undefined; readonly value: PyExpr }[] }
    | {
        readonly e: 'each'
        readonly kind: 'list' | 'set' | 'generator' | 'dict'
        readonly value: PyExpr
        readonly key: PyExpr | undefined
        readonly each: readonly PyEach[]
      }
    | { readonly e: 'lambda'; readonly function: PyFunctionNode }
    | { readonly e: 'yield'; readonly value: PyExpr | undefined; readonly from: boolean }
    | { readonly e: 'await'; readonly of: PyExpr }
    | { readonly e: 'named'; readonly name: string; readonly value: PyExpr }
  )

export interface PyFunctionNode extends Node {
  readonly name: string
  readonly params: readonly PyParam[]
  readonly body: readonly PyStmt[]
  readonly isAsync: boolean
}

export type PyStmt = Node &
  (
    | { readonly s: 'expression'; readonly value: PyExpr }
    | {
        readonly s: 'assign'
        readonly targets: readonly PyExpr[]
        readonly value: PyExpr
        /** The name whose kind it says. */
        readonly notes?: string
      }
    | { readonly s: 'change'; readonly target: PyExpr; readonly op: string; readonly value: PyExpr }
    | { readonly s: 'if'; readonly if: PyExpr; readonly yes: readonly PyStmt[]; readonly else: readonly PyStmt[] }
    | { readonly s: 'while'; readonly if: PyExpr; readonly body: readonly PyStmt[]; readonly else: readonly PyStmt[] }
    | {
        readonly s: 'for'
        readonly target: PyExpr
        readonly over: PyExpr
        readonly body: readonly PyStmt[]
        readonly else: readonly PyStmt[]
        readonly isAsync: boolean
      }
    | { readonly s: 'def'; readonly function: PyFunctionNode; readonly marks: readonly PyExpr[] }
    | {
        readonly s: 'class'
        readonly name: string
        readonly bases: readonly PyExpr[]
        readonly body: readonly PyStmt[]
        readonly marks: readonly PyExpr[]
      }
    | { readonly s: 'match'; readonly of: PyExpr; readonly cases: readonly PyCase[] }
    | { readonly s: 'return'; readonly value: PyExpr | undefined }
    | { readonly s: 'raise'; readonly value: PyExpr | undefined }
    | {
        readonly s: 'try'
        readonly body: readonly PyStmt[]
        readonly excepts: readonly {
          readonly types: PyExpr | undefined
          readonly name: string | undefined
          readonly body: readonly PyStmt[]
        }[]
        readonly else: readonly PyStmt[]
        readonly finally: readonly PyStmt[]
      }
    | {
        readonly s: 'with'
        readonly items: readonly { readonly value: PyExpr; readonly target: PyExpr | undefined }[]
        readonly body: readonly PyStmt[]
      }
    | { readonly s: 'import'; readonly name: string; readonly as: string }
    | {
        readonly s: 'from'
        readonly module: string
        readonly names: readonly { readonly name: string; readonly as: string }[]
      }
    | { readonly s: 'global' | 'nonlocal'; readonly names: readonly string[] }
    | { readonly s: 'del'; readonly targets: readonly PyExpr[] }
    | { readonly s: 'assert'; readonly test: PyExpr; readonly message: PyExpr | undefined }
    | { readonly s: 'break' | 'continue' | 'pass'; readonly notes?: string }
  )
