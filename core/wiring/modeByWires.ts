import type { Part } from '../catalog/partSchema.ts'
import type { Mode } from '../catalog/signalSchema.ts'
import { holds } from '../catalog/when.ts'
import { busNeed } from './buses.ts'
import { functionsOf } from './givenHosts.ts'
import type { PartInstance, Terminal } from './model.ts'
import { meets } from './needs.ts'

/** What the pins that a part's pin is joined with can do: undefined for a pin that no such pin is joined with. */
type Reaches = (pin: string) => readonly ReadonlySet<string>[]

/** Pins of other things on the net of a part's pin, by what they can do. */
export const reachedBy =
  (
    { ref }: PartInstance,
    netEnds: (end: string) => readonly string[],
    terminals: ReadonlyMap<string, Terminal>,
  ): Reaches =>
  (pin) =>
    netEnds(`${ref}.${pin}`).flatMap((end) => {
      const terminal = terminals.get(end)
      if (!terminal || terminal.ref === ref) return []
      if (terminal.host) return [terminal.host.functions]
      const given = terminal.owner.kind === 'part' ? functionsOf(terminal.owner.part, terminal.pin) : undefined
      return given ? [given] : []
    })

/**
 * The mode of a part for which the plan names none: the usual one, unless a line of it lies where it cannot work, a pin
 * that it does not know is in use, or nothing that it needs is wired, and all that another one, a bus, needs is wired to what
 * can do it. A part that is wired for half keeps its usual mode.
 */
export function modeByWires(part: Part, options: PartInstance['options'], reaches: Reaches): Mode | undefined {
  const [usual, ...more] = part.modes
  const others = more.filter(({ signals }) => signals.some(({ needs }) => busNeed(needs) !== undefined))
  if (!usual || others.length === 0) return usual
  const signalsOf = (mode: Mode) => mode.signals.filter((one) => holds(one.when, options))
  const isMet = (signal: Mode['signals'][number]): boolean =>
    reaches(signal.pin).some((functions) => meets({ functions }, { facts: signal }) !== undefined)
  const isUnmet = (signal: Mode['signals'][number]): boolean => reaches(signal.pin).length > 0 && !isMet(signal)
  const pinsOf = (mode: Mode): Set<string> => new Set(signalsOf(mode).map(({ pin }) => pin))
  const all = new Set([usual, ...others].flatMap((mode) => [...pinsOf(mode)]))
  const strays = (mode: Mode): number =>
    [...all].filter((pin) => !pinsOf(mode).has(pin) && reaches(pin).length > 0).length
  const misfits = (mode: Mode): number => signalsOf(mode).filter(isUnmet).length + strays(mode)
  const neededBy = (mode: Mode) => signalsOf(mode).filter(({ required }) => required)
  const isIdle = neededBy(usual).every(({ pin }) => reaches(pin).length === 0)
  const before = misfits(usual) + (isIdle ? 1 : 0)
  if (before === 0) return usual
  const isWhole = (mode: Mode): boolean => {
    const needed = neededBy(mode)
    return needed.length > 0 && needed.every(isMet)
  }
  const [best] = others
    .filter(isWhole)
    .map((mode) => ({ mode, count: misfits(mode) }))
    .filter(({ count }) => count < before)
    .sort((a, b) => a.count - b.count)
  return best?.mode ?? usual
}
