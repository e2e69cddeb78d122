import { staysInBox } from '../assign/left.ts'
import { openEnds } from '../assign/openEnds.ts'
import { memo } from '../base/memo.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Finding } from './finding.ts'
import { allRules } from './index.ts'

/** Findings of a plan that is still being wired: what is wrong, and what is only not there yet. */
export interface Sifted {
  readonly standing: readonly Finding[]
  readonly waiting: readonly Finding[]
}

const lacking = new Set(allRules.flatMap(({ meta }) => (meta.lacking ?? []).map((id) => `${meta.id} ${id}`)))

interface Unfinished {
  /** Required pins without a wire, by part. */
  readonly open: ReadonlyMap<string, readonly string[]>
  /** Some part has no wire at all. */
  readonly hasLoose: boolean
  /** Parts of which `pin-unplaced` speaks. */
  readonly unplaced: number
}

const unfinished = memo((wiring: Wiring): Unfinished => {
  const open = new Map<string, string[]>()
  let unplaced = 0
  const boxed = new Set(staysInBox(wiring).map(({ ref }) => ref))
  for (const part of wiring.parts) {
    if (boxed.has(part.ref)) continue
    const ends = openEnds(wiring, part).filter(({ required }) => required)
    if (ends.length > 0)
      open.set(
        part.ref,
        ends.map(({ end }) => end),
      )
    if (ends.some(({ why }) => why === 'open')) unplaced += 1
  }
  const isLoose = ({ ref, part }: PartInstance): boolean =>
    !part.pins.some(({ id }) => wiring.netOf(`${ref}.${id}`).wired)
  return { open, unplaced, hasLoose: wiring.parts.some((part) => open.has(part.ref) && isLoose(part)) }
})

/**
 * Half-way through, what is simply not entered yet is counted and not scolded: a finding that says that something is
 * lacking waits as long as a part that it speaks of has other open pins, or a part of the kit, which may be the one that
 * is lacking, has no wire at all; an open pin, as long as other parts have some. What is the last to be lacking stands. What is accepted stays so.
 */
export function sift(wiring: Wiring, findings: readonly Finding[]): Sifted {
  const { open, hasLoose, unplaced } = unfinished(wiring)
  const hasMore = (at: readonly string[]): boolean =>
    at.some((place) => open.get(place.split('.')[0] as string)?.some((end) => !at.includes(end)))
  const waits = ({ rule, says, at, accepted }: Finding): boolean =>
    accepted === undefined &&
    lacking.has(`${rule} ${says}`) &&
    (hasLoose || (rule === 'pin-unplaced' ? unplaced > 1 : hasMore(at)))
  return { standing: findings.filter((one) => !waits(one)), waiting: findings.filter(waits) }
}
