/** Binary operators, weakest first (Python reference, 6.17). */
export const LEVELS: readonly (readonly string[])[] = [
  ['|'],
  ['^'],
  ['&'],
  ['<<', '>>'],
  ['+', '-'],
  ['*', '/', '//', '%', '@'],
]

export const COMPARE: ReadonlySet<string> = new Set(['<', '>', '<=', '>=', '==', '!='])
