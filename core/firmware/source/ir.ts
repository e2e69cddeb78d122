/**
 * A program as statements and expressions that C++ and Python have in common: what following a pin through it needs, and
 * no more. Every piece knows its place in its text, as an offset from 0.
 */

export interface At {
  /** Index of the file and offset in it. */
  readonly file: number
  readonly from: number
  readonly to: number
}

export interface Argument {
  /** Of a keyword argument. */
  readonly name: string | undefined
  readonly value: Expr
}

export type Expr = { readonly at: At } & (
  | { readonly kind: 'number'; readonly number: number; readonly hex: boolean }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'name'; readonly name: string }
  /** `of.name`, `of->name`, `of::name`. */
  | { readonly kind: 'member'; readonly of: Expr; readonly name: string }
  | { readonly kind: 'index'; readonly of: Expr; readonly index: Expr }
  /** `made` marks what certainly makes an object: `new`, or a declaration with arguments. */
  | { readonly kind: 'call'; readonly callee: Expr; readonly args: readonly Argument[]; readonly made: boolean }
  /** Array, tuple, braces of an initialiser; a name stands where an item is for a field. */
  | { readonly kind: 'list'; readonly items: readonly Argument[] }
  | { readonly kind: 'map'; readonly entries: readonly (readonly [Expr, Expr])[] }
  | { readonly kind: 'operation'; readonly operator: string; readonly parts: readonly Expr[] }
  | { readonly kind: 'choice'; readonly test: Expr; readonly yes: Expr; readonly no: Expr }
  /** A list made item by item, or with keys a map. */
  | {
      readonly kind: 'each'
      readonly names: readonly string[]
      readonly over: Expr
      readonly key: Expr | undefined
      readonly value: Expr
    }
  | { readonly kind: 'assign'; readonly target: Expr; readonly operator: string; readonly value: Expr }
  | { readonly kind: 'function'; readonly params: readonly Param[]; readonly body: readonly Stmt[] }
  | { readonly kind: 'unknown'; readonly parts: readonly Expr[] }
)

export interface Param {
  readonly name: string
  readonly usual: Expr | undefined
}

export type Stmt = { readonly at: At } & (
  | {
      readonly kind: 'declare'
      readonly name: string
      readonly value: Expr | undefined
      /** Type as written, where it is a plain name. */
      readonly type: string | undefined
      /** Cannot be given another value: `const`, `#define`, an enumerator. */
      readonly fixed: boolean
    }
  | { readonly kind: 'expression'; readonly value: Expr }
  | {
      readonly kind: 'for'
      readonly first: readonly Stmt[]
      readonly test: Expr | undefined
      readonly step: Expr | undefined
      readonly body: readonly Stmt[]
    }
  | {
      readonly kind: 'for-each'
      readonly names: readonly string[]
      readonly over: Expr
      readonly body: readonly Stmt[]
    }
  /** Any of these bodies may run: branches, loops without a count, handlers. */
  | { readonly kind: 'maybe'; readonly tests: readonly Expr[]; readonly bodies: readonly (readonly Stmt[])[] }
  | { readonly kind: 'block'; readonly body: readonly Stmt[] }
  | { readonly kind: 'return'; readonly value: Expr | undefined }
  | {
      readonly kind: 'function'
      readonly name: string
      /** Class of a method that is written outside of it. */
      readonly of: string | undefined
      readonly params: readonly Param[]
      readonly body: readonly Stmt[]
    }
  | { readonly kind: 'class'; readonly name: string; readonly bases: readonly string[]; readonly body: readonly Stmt[] }
  | { readonly kind: 'import'; readonly module: string; readonly name: string | undefined; readonly as: string }
  /** A macro with parameters, its text read as an expression. */
  | { readonly kind: 'macro'; readonly name: string; readonly params: readonly string[]; readonly value: Expr }
  /** Names of a function that stand for those of the file. */
  | { readonly kind: 'global'; readonly names: readonly string[] }
  /** What the parser could not read. */
  | { readonly kind: 'unread' }
)

export const sourceLanguages = ['cpp', 'python'] as const
export type SourceLanguage = (typeof sourceLanguages)[number]

/** A file of a program, as it was handed in. */
export interface SourceFile {
  readonly name: string
  readonly text: string
}
