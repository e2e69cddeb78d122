import { entryOf } from '../base/entryOf.ts'
import { memoIn } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'
import { holds } from '../catalog/when.ts'
import type { PartInstance } from './model.ts'

/**
 * A part with the supplies, rails and given pins that it has with the options and the mode chosen; the same object for
 * the same choice.
 */
export function asChosen(
  part: Part,
  options: Readonly<Record<string, string | number>>,
  mode: string | undefined,
): Part {
  if (![...part.supplies, ...part.rails, ...part.provides].some((one) => one.when ?? ('modes' in one && one.modes)))
    return part
  const flags = (which: readonly boolean[]): string => which.map(Number).join('')
  return withOnly(
    part,
    [
      flags(
        part.supplies.map(
          (one) => holds(one.when, options) && (!one.modes || (mode !== undefined && one.modes.includes(mode))),
        ),
      ),
      flags(part.rails.map((one) => holds(one.when, options))),
      flags(part.provides.map((one) => holds(one.when, options))),
    ].join(' '),
  )
}

/** A part with those of its supplies, rails and given pins whose flag is 1, such as `110 1 01`. */
const withOnly = memoIn((part: Part, flags: string): Part => {
  const [supplies = '', rails = '', provides = ''] = flags.split(' ')
  return {
    ...part,
    supplies: part.supplies.filter((_, at) => supplies[at] === '1'),
    rails: part.rails.filter((_, at) => rails[at] === '1'),
    provides: part.provides.filter((_, at) => provides[at] === '1'),
  }
})

/** A figure that goes with the chosen value of one of a part's options. */
export function chosenFact(part: PartInstance, name: string): number | undefined {
  for (const option of part.part.options) {
    const value = option.values.find((one) => one.value === entryOf(part.options, option.id))
    const facts = new Map(Object.entries(value?.facts ?? {}))
    const figure = facts.get(name)
    if (figure !== undefined) return figure
  }
  return undefined
}

/** Current in milliamperes that a winding or plain load takes while it runs; undefined for what is neither. */
export function loadMilliamps({ part, options }: PartInstance): number | undefined {
  const given = part.inner.find(({ kind }) => kind === 'winding' || kind === 'load')?.milliamps
  const amount = typeof given === 'object' ? entryOf(options, given.option) : given
  return typeof amount === 'number' ? amount : undefined
}
