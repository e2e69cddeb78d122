import type { Code } from './code.ts'
import type { FunctionNode, TypeNode } from './syntax.ts'
import type { Type } from './types.ts'

/** Types and numbers that a call leaves no choice about. */
export function deduced(
  node: FunctionNode,
  given: readonly (Type | number)[],
  args: readonly Code[],
): Map<string, Type | number> | undefined {
  if (given.length > node.open.length) return undefined
  const types = new Map<string, Type | number>()
  node.open.forEach((one, at) => {
    const is = given[at]
    if (is !== undefined && one.isType === (typeof is !== 'number')) types.set(one.name, is)
  })
  const needed = node.params.filter(({ otherwise }) => otherwise === undefined).length
  if (args.length < needed || args.length > node.params.length) return undefined
  const match = (wanted: TypeNode, type: Type): void => {
    if (wanted.t === 'name' && node.open.some(({ name }) => name === wanted.name)) {
      if (!types.has(wanted.name)) types.set(wanted.name, type.is === 'array' ? { is: 'pointer', to: type.of } : type)
    } else if (wanted.t === 'reference') match(wanted.to, type)
    else if (wanted.t === 'pointer' && type.is === 'pointer') match(wanted.to, type.to)
    else if (wanted.t === 'pointer' && type.is === 'array') match(wanted.to, type.of)
    else if (wanted.t === 'array' && type.is === 'array') {
      match(wanted.of, type.of)
      const { length } = wanted
      if (length?.e === 'name' && node.open.some(({ name }) => name === length.name))
        types.set(length.name, type.length)
    }
  }
  for (const [at, arg] of args.entries()) match(node.params[at]!.type, arg.type)
  if (node.open.some(({ name, otherwise }) => !types.has(name) && otherwise === undefined)) return undefined
  return types
}
