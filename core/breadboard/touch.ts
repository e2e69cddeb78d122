import { memo, memoIn } from '../base/memo.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { plugsOf } from '../wiring/plugs.ts'

/**
 * Ends that hang together without a wire: pins that a board or a part joins inside, a post and what is plugged onto it.
 * For an end the names of what it hangs together with; ends with a name in common touch.
 */
export const touching = memo((wiring: Wiring): ((end: string) => readonly string[]) => {
  const plugged = new Map(plugsOf(wiring).flatMap(({ pairs }) => pairs))
  const inside = (end: string): string => {
    const pin = wiring.terminal(end)?.boardPin
    return pin ? `${splitEnd(end).ref} inside ${pin.net}` : end
  }
  return (end) => {
    const terminal = wiring.terminal(end)
    const names = [end, inside(end)]
    const post = plugged.get(end)
    if (post !== undefined) names.push(inside(post))
    if (terminal?.owner.kind === 'part')
      for (const inner of terminal.owner.part.inner)
        if (inner.kind === 'join' && inner.between.includes(terminal.pin))
          names.push(`${terminal.owner.ref}.${inner.between[inner.between[0] === terminal.pin ? 1 : 0]}`)
    return names
  }
})

/**
 * Ends of a net, of a board's joined holes only those of the name that the plan uses (no reference pin instead of
 * `5V`), and none on a small side header where a long one has it too.
 */
export const mainEnds = memoIn((wiring: Wiring, net: number): readonly string[] => {
  const { ends } = wiring.nets[net]!
  const used = new Set(wiring.plan.wires.flatMap(([a, b]) => [withoutNumber(a), withoutNumber(b)]))
  const onBoard = ends.filter((end) => wiring.terminal(end)?.boardPin)
  const header = (end: string) => wiring.terminal(end)!.boardPin!.header
  const isNamed = (end: string): boolean => used.has(withoutNumber(end))
  const isLong = (end: string): boolean => header(end).columns === 1 || header(end).pins.length >= 10
  const best = (own: readonly string[]): readonly string[] => {
    const named = own.some(isNamed) ? own.filter(isNamed) : own
    return named.some(isLong) ? named.filter(isLong) : named
  }
  const joined = new Map<string, string[]>()
  for (const end of onBoard) {
    const key = `${splitEnd(end).ref} ${wiring.terminal(end)!.boardPin!.net}`
    joined.set(key, [...(joined.get(key) ?? []), end])
  }
  const kept = new Set([...joined.values()].flatMap(best))
  return ends.filter((end) => kept.has(end) || !onBoard.includes(end))
})

/** `MCU.GND.2` is one of the holes of `MCU.GND`. */
const withoutNumber = (end: string): string => end.replace(/\.\d+$/, '')
