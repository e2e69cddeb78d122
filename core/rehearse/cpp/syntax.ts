/** What a C++ program is made of, as it is written; `at` is a place as `lineAt` packs it. */

/** A type as it is written. */
export type TypeNode =
  | {
      readonly t: 'name'
      readonly name: string
      readonly args?: readonly (TypeNode | Expr)[]
      /** A type inside of it: `iterator` of `vector<int>::iterator`. */
      readonly inner?: string
      readonly isConst?: boolean
    }
  | { readonly t: 'auto'; readonly isConst?: boolean }
  | { readonly t: 'pointer'; readonly to: TypeNode }
  | { readonly t: 'reference'; readonly to: TypeNode }
  | { readonly t: 'array'; readonly of: TypeNode; readonly length: Expr | undefined }
  | { readonly t: 'function'; readonly returns: TypeNode; readonly params: readonly Param[] }

export interface Param {
  readonly name: string
  readonly type: TypeNode
  readonly otherwise: Expr | undefined
}

interface Node {
  readonly at: number
}

export type Expr = Node &
  (
    | { readonly e: 'number'; readonly text: string }
    | { readonly e: 'text'; readonly text: string }
    | { readonly e: 'letter'; readonly text: string }
    | { readonly e: 'truth'; readonly value: boolean }
    | { readonly e: 'null' }
    | { readonly e: 'this' }
    | { readonly e: 'name'; readonly name: string; readonly args?: readonly (TypeNode | Expr)[] }
    | { readonly e: 'unary'; readonly op: string; readonly of: Expr }
    | { readonly e: 'step'; readonly op: '++' | '--'; readonly before: boolean; readonly of: Expr }
    | { readonly e: 'binary'; readonly op: string; readonly a: Expr; readonly b: Expr }
    | { readonly e: 'assign'; readonly op: string; readonly a: Expr; readonly b: Expr }
    | { readonly e: 'choose'; readonly if: Expr; readonly then: Expr; readonly else: Expr }
    | { readonly e: 'call'; readonly of: Expr; readonly args: readonly Expr[] }
    | {
        readonly e: 'member'
        readonly of: Expr
        readonly name: string
        readonly arrow: boolean
        /** Class that it is asked of: `Base` of `it.Base::go()`. */
        readonly owner: string | undefined
        /** Arguments of a template: `it.add<2>()`. */
        readonly args?: readonly (TypeNode | Expr)[]
      }
    | { readonly e: 'index'; readonly of: Expr; readonly by: Expr }
    /** One of the parts into which an object or an array falls: of `auto [a, b] = pair`. */
    | { readonly e: 'part'; readonly of: Expr; readonly index: number }
    | { readonly e: 'cast'; readonly type: TypeNode; readonly of: Expr }
    | { readonly e: 'make'; readonly type: TypeNode; readonly args: readonly Expr[] }
    | { readonly e: 'size'; readonly of: Expr | undefined; readonly type: TypeNode | undefined }
    | { readonly e: 'new'; readonly type: TypeNode; readonly args: readonly Expr[]; readonly count: Expr | undefined }
    | { readonly e: 'delete'; readonly of: Expr }
    | {
        readonly e: 'lambda'
        readonly function: FunctionNode
        readonly captures: readonly Capture[]
        readonly all: '' | '=' | '&'
      }
    | { readonly e: 'list'; readonly items: readonly Expr[]; readonly names?: readonly (string | undefined)[] }
  )

export interface Capture {
  readonly name: string
  readonly byReference: boolean
  readonly value: Expr | undefined
}

export interface Variable extends Node {
  readonly name: string
  readonly type: TypeNode
  readonly isStatic: boolean
  readonly isConst: boolean
  readonly isExtern: boolean
  /** It outlasts a sleep after which the program begins anew. */
  readonly isLasting?: boolean | undefined
  readonly value: Expr | undefined
  /** `Servo flap(9)`: arguments of its constructor. */
  readonly args: readonly Expr[] | undefined
}

export type Statement = Node &
  (
    | { readonly s: 'block'; readonly body: readonly Statement[] }
    /** Several that were written as one: what they name is named around them. */
    | { readonly s: 'group'; readonly body: readonly Statement[] }
    | { readonly s: 'expression'; readonly value: Expr }
    | { readonly s: 'variables'; readonly variables: readonly Variable[] }
    | { readonly s: 'type'; readonly item: Item }
    | {
        readonly s: 'if'
        readonly before: Statement | undefined
        readonly if: Expr
        readonly then: Statement
        readonly else: Statement | undefined
      }
    | { readonly s: 'while'; readonly if: Expr; readonly body: Statement }
    | { readonly s: 'do'; readonly if: Expr; readonly body: Statement }
    | {
        readonly s: 'for'
        readonly before: Statement | undefined
        readonly if: Expr | undefined
        readonly step: Expr | undefined
        readonly body: Statement
      }
    | {
        readonly s: 'each'
        readonly name: string
        readonly type: TypeNode
        readonly of: Expr
        readonly body: Statement
      }
    | { readonly s: 'switch'; readonly of: Expr; readonly body: readonly (Statement | CaseLabel)[] }
    | { readonly s: 'break' }
    | { readonly s: 'continue' }
    | { readonly s: 'return'; readonly value: Expr | undefined }
    | { readonly s: 'empty' }
  )

export interface CaseLabel extends Node {
  readonly s: 'case'
  /** Undefined for `default`. */
  readonly value: Expr | undefined
}

export interface FunctionNode extends Node {
  readonly name: string
  readonly returns: TypeNode
  readonly params: readonly Param[]
  /** Undefined for one that is only announced. */
  readonly body: Statement | undefined
  readonly isStatic: boolean
  readonly isVirtual: boolean
  /** `= 0`. */
  readonly isPure: boolean
  /** `: pin(p), Base(3)` of a constructor. */
  readonly first: readonly { readonly name: string; readonly args: readonly Expr[] }[]
  /** Names of types and numbers that a template leaves open. */
  readonly open: readonly TemplateParam[]
}

export interface TemplateParam {
  readonly name: string
  readonly isType: boolean
  readonly otherwise: TypeNode | Expr | undefined
}

export interface StructNode extends Node {
  readonly name: string
  readonly base: TypeNode | undefined
  readonly fields: readonly (Variable & { readonly bits?: Expr | undefined })[]
  readonly methods: readonly FunctionNode[]
  readonly types: readonly Item[]
  readonly isUnion: boolean
  /** No room is left between its fields. */
  readonly isPacked: boolean
  readonly open: readonly TemplateParam[]
}

export type Item = Node &
  (
    | { readonly i: 'function'; readonly function: FunctionNode }
    | { readonly i: 'variables'; readonly variables: readonly Variable[] }
    | { readonly i: 'struct'; readonly struct: StructNode }
    | {
        readonly i: 'enum'
        readonly name: string
        readonly scoped: boolean
        readonly base: TypeNode | undefined
        readonly values: readonly { readonly name: string; readonly value: Expr | undefined }[]
      }
    | { readonly i: 'alias'; readonly name: string; readonly type: TypeNode }
    | { readonly i: 'namespace'; readonly name: string; readonly items: readonly Item[] }
  )

export const isExpr = (one: TypeNode | Expr): one is Expr => 'e' in one
