import { isNumber } from './arithmetic.ts'
import type { Code } from './code.ts'
import type { FunctionInfo } from './program.ts'
import { type Parameter, type StructType, sameType, type Type } from './types.ts'

/** Methods of a name, those of the class itself first. */
export function methodsOf(struct: StructType, name: string): readonly FunctionInfo[] {
  for (let one: StructType | undefined = struct; one; one = one.base) {
    const own = one.methods.get(name)
    if (own) return own
  }
  return []
}

/** A constructor that takes a list of any length, as `std::initializer_list`. */
export const takesList = ({ params }: FunctionInfo): boolean => {
  const [first, ...more] = params
  return first?.type.is === 'array' && first.byReference && more.every(({ otherwise }) => otherwise !== undefined)
}

/** Every argument is just what its parameter wants; an array counts as the pointer to its first one (16.3.3.1.1). */
export const isExact = ({ params }: FunctionInfo, args: readonly Code[], intBits: number): boolean =>
  args.every((arg, at) => {
    const { type } = params[at]!
    // An object where what it builds on is wanted: a template beside it would have to turn it as well.
    if (arg.type.is === 'struct' && type.is === 'struct') return isBase(type.struct, arg.type.struct)
    return distance(arg, params[at]!, intBits) < 1
  })

/** The one that its arguments fit best (overload resolution, ISO C++17, 16.3, by the sum of what must be turned). */
export function fittest(
  all: readonly FunctionInfo[],
  args: readonly Code[],
  intBits: number,
): FunctionInfo | undefined {
  let best: FunctionInfo | undefined
  let least = Number.POSITIVE_INFINITY
  for (const one of all) {
    const needed = one.params.filter(({ otherwise }) => otherwise === undefined).length
    if (args.length < needed || args.length > one.params.length) continue
    const cost = args.reduce((sum, arg, at) => sum + distance(arg, one.params[at]!, intBits), 0)
    if (cost < least) {
      least = cost
      best = one
    }
  }
  return best
}

/** How far an argument is from what a parameter wants; infinite where it cannot be turned into it. */
function distance({ type, place, known }: Code, { type: wanted, byReference }: Parameter, intBits: number): number {
  if (sameType(type, wanted)) return byReference && !place ? 0.1 : 0
  if (isNumber(type) && isNumber(wanted)) {
    if (byReference && place && !sameType(type, wanted)) return 3
    const small = type.is === 'bool' || (type.is === 'int' && type.bits < intBits)
    if (small && wanted.is === 'int' && wanted.bits === intBits && wanted.signed) return 1
    if (type.is === 'float' && wanted.is === 'float') return 1
    return 2
  }
  // A list goes to what takes a whole list before anything that could begin with it.
  if (type.is === 'list') return wanted.is === 'array' && byReference ? 1 : 2
  if (type.is === 'struct' && wanted.is !== 'struct') return turning(type.struct, wanted)
  if (wanted.is === 'pointer') {
    if (type.is === 'null' || (type.is === 'int' && known === 0)) return 2
    if (type.is === 'array')
      return sameType(type.of, wanted.to) ? 0.5 : wanted.to.is === 'void' ? 2 : Number.POSITIVE_INFINITY
    if (type.is === 'pointer') {
      if (wanted.to.is === 'void') return 2
      if (type.to.is === 'struct' && wanted.to.is === 'struct')
        return isBase(wanted.to.struct, type.to.struct) ? 1 : Number.POSITIVE_INFINITY
      return sameType(type.to, wanted.to) ? 0 : Number.POSITIVE_INFINITY
    }
    if (type.is === 'native' && wanted.to.is === 'native') return 1
    return Number.POSITIVE_INFINITY
  }
  if (wanted.is === 'string') return type.is === 'array' || type.is === 'pointer' ? 2 : Number.POSITIVE_INFINITY
  if (wanted.is === 'struct') {
    if (type.is === 'struct') return isBase(wanted.struct, type.struct) ? 1 : Number.POSITIVE_INFINITY
    return wanted.struct.constructors.length > 0 ? 4 : Number.POSITIVE_INFINITY
  }
  if (wanted.is === 'function') return type.is === 'function' || type.is === 'null' ? 1 : Number.POSITIVE_INFINITY
  if (wanted.is === 'bool' && (type.is === 'pointer' || type.is === 'array')) return 3
  if (wanted.is === 'native' || type.is === 'native') return 3
  return Number.POSITIVE_INFINITY
}

/** How far an object is from what it turns into by an operator of its own (16.3.1.5): further than what needs none. */
function turning(struct: StructType, wanted: Type): number {
  let least = Number.POSITIVE_INFINITY
  for (let one: StructType | undefined = struct; one; one = one.base)
    for (const [name, [info]] of one.methods) {
      if (!info?.returns || !/^operator [A-Za-z]/.test(name)) continue
      const cost = sameType(info.returns, wanted) ? 4 : isNumber(info.returns) && isNumber(wanted) ? 5 : least
      least = Math.min(least, cost)
    }
  return least
}

/** A class is another, or comes from it. */
export function isBase(base: StructType, of: StructType): boolean {
  for (let one: StructType | undefined = of; one; one = one.base) if (one === base) return true
  return false
}
