import { entryOf } from '../base/entryOf.ts'
import { type Levels, volts } from '../catalog/common.ts'
import { circuitOf } from '../circuit/circuit.ts'
import type { PartInstance, TieUse, Wiring } from '../wiring/model.ts'
import { groundEnd, sourcesOf, supplyEnd } from '../wiring/supply.ts'
import { after, connect, type Decision, type Progress, type Refusal } from './progress.ts'

/** Ties what is to be tied: straps that are open, and those that wait behind a resistor. */
export function tieUp(now: Wiring, chosen: (ref: string) => boolean): Progress {
  const refused: Refusal[] = []
  const ties: Decision[] = []
  for (const tie of now.ties) {
    const from = tie.state === 'open' ? tie.end : looseLeg(now, tie)
    if (from === undefined || !chosen(tie.part.ref)) continue
    // What waits together needs one wire.
    if (ties.some((one) => now.netOf(one.from) === now.netOf(from))) continue
    const to =
      tie.to === 'ground'
        ? groundEnd(now, tie.part)
        : tie.to === 'supply'
          ? highEnd(now, tie.part, entryOf(tie.part.part.levels, tie.facts.levels ?? 'logic')?.most)
          : `${tie.part.ref}.${tie.to}`
    // Two pins of one part may each name the other: one wire joins them.
    if (ties.some((one) => one.from === to && one.to === tie.end)) continue
    if (to) ties.push(connect(from, to, tie.facts.text ?? `tied to ${tie.to}`))
    else refused.push({ end: tie.end, needs: `a tie to ${tie.to}`, reasons: ['there is nothing to tie it to'] })
  }
  ties.push(...toTheirPosts(now, chosen))
  return { wiring: after(now, ties), decisions: ties, refused }
}

/** Lines that belong to a post of the board which is no signal, such as that of an adapter for uploads. */
const toTheirPosts = (now: Wiring, chosen: (ref: string) => boolean): Decision[] =>
  now.signals.flatMap(({ part, end, facts }) => {
    if (facts.posts.length === 0 || !chosen(part.ref) || now.netOf(end).wired) return []
    const board = part.home ?? now.boards[0]
    const post = board?.facts.pins.find(
      ({ id, control }) => facts.posts.some((one) => one === control) && !now.netOf(`${board.ref}.${id}`).wired,
    )
    return board && post ? [connect(end, `${board.ref}.${post.id}`, facts.text ?? 'belongs there')] : []
  })

/** The far leg of a resistor that lies in series with a strap and leads nowhere yet. */
function looseLeg(wiring: Wiring, { end, to, state }: TieUse): string | undefined {
  const net = wiring.netOf(end)
  if ((to !== 'supply' && to !== 'ground') || state !== 'right' || net.ground || net.sources.length > 0)
    return undefined
  return circuitOf(wiring)
    .on(net)
    .filter((one) => one.kind === 'resistor')
    .map((one) => (one.netA === net ? one.b : one.a))
    .find((leg) => !wiring.netOf(leg).wired)
}

/**
 * Where a strap for high, or an enable, goes: the supply of its part, where the pin bears that; else a rail that the part
 * itself gives, else one of the plan that the pin bears and its part's logic runs at.
 */
export function highEnd(wiring: Wiring, part: PartInstance, bearsAtMost: Levels['most']): string | undefined {
  const most = volts(bearsAtMost, part.logicVolts)
  const usual = supplyEnd(wiring, part)
  const bears = (at: number | undefined): boolean => at !== undefined && (most === undefined || at <= most)
  if (usual === undefined || bears(wiring.netOf(usual).sources[0]?.volts)) return usual
  const own = part.part.rails.find((rail) => typeof rail.volts === 'number' && bears(rail.volts))
  if (own) return `${part.ref}.${own.pin}`
  const logic = part.home?.board.logicVolts
  const there = sourcesOf(wiring).filter((source) => bears(source.volts))
  return (there.find((source) => source.volts === logic) ?? there[0])?.end ?? usual
}
