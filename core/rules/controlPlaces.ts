import { candidates } from '../assign/candidates.ts'
import type { Port } from '../circuit/circuit.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { bestSource, groundEnd } from '../wiring/supply.ts'
import { takeOut } from './mend.ts'

/** What a post does, for sentences in which something hangs on it. */
export const controlWords = {
  reset: 'resets the board',
  upload: 'resets the board before an upload',
  enable: 'switches the board on and off',
  boot: 'chooses what the board starts',
  reference: 'is the reference of its converter',
  debug: 'belongs to the programmer',
} as const

export type Control = keyof typeof controlWords

/** Pins that could take a signal and have no wire yet, the best first. */
const freePins = (wiring: Wiring, use: SignalUse): string[] =>
  candidates(wiring, use)
    .filter(({ blocked, host }) => blocked === undefined && !wiring.netOf(host.end).wired)
    .slice(0, 2)
    .map(({ host }) => host.end)

/** Takes the one wire of a post to a pin for a signal, or away. */
export function offPost(wiring: Wiring, post: string, use: SignalUse | undefined): readonly Fix[] {
  const wires = wiring.plan.wires.filter(([from, to]) => from === post || to === post)
  const [wire] = wires
  const other = wire && (wire[0] === post ? wire[1] : wire[0])
  const away = takeOut(wiring, (a, b) => a === post || b === post)
  const places = use && wires.length === 1 ? freePins(wiring, use) : []
  if (other === undefined || places.length === 0) return away
  return places.flatMap((to) =>
    away.map(
      ({ edits }): Fix => ({ title: `Move ${other} to ${to}`, edits: [...edits, { do: 'connect', from: other, to }] }),
    ),
  )
}

/** Takes a pin of a part off the post on which it hangs, to a pin that can do what it needs, or to its ground or supply. */
export function toItsPlace(wiring: Wiring, { terminal: { end, owner }, use, role }: Port): Fix[] {
  if (owner.kind !== 'part') return []
  const isPost = (one: string): boolean => {
    const kind = wiring.terminal(one)?.boardPin?.kind
    return kind === 'control' || kind === 'none'
  }
  const wires = wiring.plan.wires.filter(([from, to]) => (from === end && isPost(to)) || (to === end && isPost(from)))
  if (wires.length === 0 || wires.some((wire) => wire[2]?.locked)) return []
  const supply = owner.supplies.find(({ pins }) => pins.includes(end))
  const places = use
    ? freePins(wiring, use)
    : [role === 'ground' ? groundEnd(wiring, owner) : supply && bestSource(wiring, owner, supply)?.end]
  return places.flatMap((to): Fix[] =>
    to === undefined
      ? []
      : [
          {
            title: `Move ${end} to ${to}`,
            edits: [
              ...wires.map(([from, other]): Edit => ({ do: 'disconnect', from, to: other })),
              { do: 'connect', from: end, to },
            ],
          },
        ],
  )
}
