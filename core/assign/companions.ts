import type { Companion } from '../catalog/partSchema.ts'
import { applyEdits, type Edit, toBuy } from '../plan/edit.ts'
import { editsOfCompanion } from '../plan/kit.ts'
import { companionsOf } from '../wiring/companions.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { halfFor } from './halves.ts'
import { openEnds } from './openEnds.ts'
import type { Decision, Progress } from './progress.ts'
import { fitting, spareFor } from './spares.ts'

/**
 * Puts in the companions that parts lack: those without which a part would be damaged or could not work, and others where
 * a loose part of the kit fits; `needed` makes all of them so. What lies loose in the kit is taken first.
 */
export function addCompanions(
  wiring: Wiring,
  wanted: (ref: string) => boolean,
  which: (companion: Companion, ref: string) => boolean,
  needed = false,
): Progress {
  const decisions: Decision[] = []
  const taken = new Set<string>()
  let now = wiring
  // What a part must have comes before what does it good: it may be the last of the kit.
  const rounds = [true, false].flatMap((required) => wiring.parts.map(({ ref }) => ({ ref, required })))
  for (const { ref, required } of rounds) {
    if (!wanted(ref)) continue
    const owner = now.parts.find((one) => one.ref === ref)
    if (!owner || owner.part.companions.length === 0) continue
    for (const { facts, present } of companionsOf(now, owner)) {
      if (pullsFollower(now, owner, facts)) continue
      if ((facts.required ?? false) !== required || present || !which(facts, ref)) continue
      const half = halfFor(now, owner, facts, (one) => isMeant(now, owner, facts, one) && !taken.has(one.ref))
      if (half) {
        taken.add(half.ref)
        const edits: Edit[] = [{ do: 'connect', from: half.open, to: half.to }]
        decisions.push({ edits, from: half.open, to: half.to, why: facts.why })
        now = resolve(applyEdits(now.plan, edits), wiring.catalog)
        continue
      }
      if (!needed && !hasRoom(now, owner, facts)) continue
      const spare = spareFor(now, owner, facts, taken)
      if (!spare && !needed && !(facts.required && (facts.series !== undefined || facts.across !== undefined))) continue
      const edits = toBuy(editsOfCompanion(now.plan, wiring.catalog, ref, facts, spare?.ref))
      const added = edits.find((edit) => edit.do === 'add-part')
      const to = spare?.ref ?? added?.ref
      if (to === undefined) continue
      if (spare) taken.add(spare.ref)
      decisions.push({ edits, from: `${ref}.${facts.series ?? facts.across?.[0] ?? ''}`, to, why: facts.why })
      now = resolve(applyEdits(now.plan, edits), wiring.catalog)
    }
  }
  return { wiring: now, decisions, refused: [] }
}

/** The pull-up of a device with a number of its own that comes to the line of an earlier one, which has it already. */
function pullsFollower({ parts, signals }: Wiring, owner: PartInstance, { across }: Companion): boolean {
  const mine = signals.find((use) => use.part === owner && use.facts.numbered && across?.includes(use.facts.pin))
  const isLeader = ({ part, facts }: SignalUse): boolean =>
    facts.numbered === true && part.home === owner.home && parts.indexOf(part) < parts.indexOf(owner)
  return mine !== undefined && mine.state === 'open' && signals.some(isLeader)
}

/** Kind and value do for a companion. */
const isMeant = (wiring: Wiring, owner: PartInstance, facts: Companion, one: PartInstance): boolean =>
  one !== owner && one.part.id === facts.part && fitting(wiring, owner, facts, [one]) !== undefined

/** Something of the part still has to be wired, or it lacks what it cannot do without. */
export const waits = (wiring: Wiring, part: PartInstance): boolean =>
  openEnds(wiring, part).some((one) => one.required) ||
  companionsOf(wiring, part).some(({ facts, present }) => facts.required && facts.across && !present) ||
  wiring.signals.some((use) => use.part === part && use.lacksSeries)

/** A companion in series goes to a pin that is not wired to its end; one across to pins of which no signal is settled. */
function hasRoom(wiring: Wiring, owner: PartInstance, { series, across }: Companion): boolean {
  if (series !== undefined) {
    const use = wiring.signal(`${owner.ref}.${series}`)
    return use ? use.state === 'open' : !wiring.netOf(`${owner.ref}.${series}`).wired
  }
  return (across ?? []).every((pin) => {
    const tie = wiring.ties.find(({ end }) => end === `${owner.ref}.${pin}`)
    return tie === undefined || !wiring.netOf(tie.end).wired
  })
}
