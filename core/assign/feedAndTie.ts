import { applyEdits, type Edit } from '../plan/edit.ts'
import { companionEdits } from '../plan/kit.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { bestSource, groundEnd, supplyEnd } from '../wiring/supply.ts'
import { openEnds } from './openEnds.ts'

/** A wire that was decided, with the reason. */
export interface Decision {
  readonly edits: readonly Edit[]
  readonly from: string
  readonly to: string
  readonly why: string
}

export interface Refusal {
  readonly end: string
  readonly needs: string
  readonly reasons: readonly string[]
  /** A pin would take it if its level were shifted. */
  readonly level?: boolean
}

/** A wiring on which decisions have been carried out, and what they were. */
export interface Progress {
  readonly wiring: Wiring
  readonly decisions: readonly Decision[]
  readonly refused: readonly Refusal[]
}

const after = (wiring: Wiring, decisions: readonly Decision[]): Wiring =>
  decisions.length === 0
    ? wiring
    : resolve(
        applyEdits(
          wiring.plan,
          decisions.flatMap((one) => one.edits),
        ),
        wiring.catalog,
      )

/** Puts in the companions without which a part would be damaged: the resistor of an LED. */
export function addSeriesCompanions(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  let now = wiring
  for (const use of wiring.signals) {
    if (!use.lacksSeries || use.state !== 'open' || !wanted(use.part.ref)) continue
    const edits = companionEdits(
      now.plan,
      wiring.catalog,
      use.part.ref,
      (companion) => companion.required && companion.series === use.facts.pin,
    )
    const added = edits.find((edit) => edit.do === 'add-part')
    if (!added) continue
    decisions.push({
      edits,
      from: use.end,
      to: added.ref,
      why: use.part.part.companions.find((one) => one.series === use.facts.pin)?.why ?? '',
    })
    now = resolve(applyEdits(now.plan, edits), wiring.catalog)
  }
  return { wiring: now, decisions, refused: [] }
}

/** Feeds every part and board side that is open, joins the grounds, and ties what is to be tied. */
export function feedAndTie(wiring: Wiring, chosen: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  const refused: Refusal[] = []
  const connect = (from: string, to: string, why: string): Decision => ({
    edits: [{ do: 'connect', from, to }],
    from,
    to,
    why,
  })

  const boards = feedBoards(wiring)
  decisions.push(...boards)
  let now = after(wiring, boards)
  for (const ref of wiring.parts.map((part) => part.ref).filter(chosen)) {
    const part = now.parts.find((one) => one.ref === ref)!
    const wanted: Decision[] = []
    for (const open of openEnds(now, part)) {
      if (wanted.some((one) => one.from === open.end)) continue
      if (open.kind === 'supply') {
        const use = part.supplies.find((one) => one.pins.includes(open.end))!
        const source = bestSource(now, part, use)
        if (source)
          wanted.push(
            connect(
              open.end,
              source.end,
              `${source.volts} V, in its range of ${use.facts.least} to ${use.facts.most} V${use.facts.heavy ? '; kept off the logic supply where there is another' : ''}`,
            ),
          )
        else
          refused.push({
            end: open.end,
            needs: `${use.facts.least} to ${use.facts.most} V`,
            reasons: ['no supply of the plan gives that voltage'],
          })
      } else if (open.kind === 'ground' && open.required) {
        const fed = wanted.find((one) => part.supplies.some((use) => use.pins.includes(one.from)))
        const target = (fed && returnEnd(now, fed.to)) ?? groundEnd(now, part)
        if (target) wanted.push(connect(open.end, target, 'ground of what feeds it'))
        else refused.push({ end: open.end, needs: 'ground', reasons: ['the plan has no board and no supply'] })
      }
    }
    decisions.push(...wanted)
    now = after(now, wanted)
  }
  const joined = joinGrounds(now)
  decisions.push(...joined)
  now = after(now, joined)

  const ties: Decision[] = []
  for (const tie of now.ties) {
    if (tie.state !== 'open' || !chosen(tie.part.ref)) continue
    const to =
      tie.to === 'ground'
        ? groundEnd(now, tie.part)
        : tie.to === 'supply'
          ? supplyEnd(now, tie.part)
          : `${tie.part.ref}.${tie.to}`
    // Two pins of one part may each name the other: one wire joins them.
    if (ties.some((one) => one.from === to && one.to === tie.end)) continue
    if (to) ties.push(connect(tie.end, to, tie.facts.text ?? `tied to ${tie.to}`))
    else refused.push({ end: tie.end, needs: `a tie to ${tie.to}`, reasons: ['there is nothing to tie it to'] })
  }
  return { wiring: after(now, ties), decisions: [...decisions, ...ties], refused }
}

/** Feeds boards that have no socket of their own from the first supply that suits one of their pins. */
function feedBoards(wiring: Wiring): Decision[] {
  return wiring.boards.flatMap((board): Decision[] => {
    if (board.feed !== undefined) return []
    for (const feed of board.board.feeds) {
      const supply = wiring.supplies.find(({ entry }) => entry.volts >= feed.least && entry.volts <= feed.most)
      const pin = feed.pins[0]
      if (!supply || pin === undefined) continue
      const [from, to] = [`${supply.ref}.+`, `${board.ref}.${pin}`]
      return [{ edits: [{ do: 'connect', from, to }], from, to, why: `${supply.entry.volts} V suits ${feed.title}` }]
    }
    return []
  })
}

/** The ground that belongs to a source: a supply's own minus, or its board's first ground hole. */
function returnEnd(wiring: Wiring, source: string): string | undefined {
  const ref = source.slice(0, source.indexOf('.'))
  if (wiring.supplies.some((one) => one.ref === ref)) return `${ref}.-`
  const board = wiring.boards.find((one) => one.ref === ref)
  const pin = board?.facts.pins.find((one) => one.kind === 'ground')
  return board && pin ? `${ref}.${pin.id}` : undefined
}

/** Joins the minus of every supply in use with the ground of the board whose parts it feeds. */
function joinGrounds(wiring: Wiring): Decision[] {
  const decisions: Decision[] = []
  for (const supply of wiring.supplies) {
    const minus = wiring.netOf(`${supply.ref}.-`)
    const fed = wiring.parts.find((part) => part.supplies.some((use) => use.source?.ref === supply.ref))
    const board =
      fed?.home ??
      wiring.boards.find((one) =>
        one.board.feeds.some((feed) =>
          feed.pins.some((pin) =>
            wiring.netOf(`${one.ref}.${pin}`).sources.some((source) => source.ref === supply.ref),
          ),
        ),
      )
    const hole = board?.facts.pins.find((pin) => pin.kind === 'ground')
    if (!board || !hole || board.ground === minus) continue
    decisions.push({
      edits: [{ do: 'connect', from: `${supply.ref}.-`, to: `${board.ref}.${hole.id}` }],
      from: `${supply.ref}.-`,
      to: `${board.ref}.${hole.id}`,
      why: 'common ground of supply and board',
    })
  }
  return decisions
}
