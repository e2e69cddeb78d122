import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link, useLocation, useParams } from 'react-router'
import { counted } from '../../../core/base/counted.ts'
import { count } from '../../../core/rules/index.ts'
import { sift } from '../../../core/rules/waiting.ts'
import { useDerived } from '../../store/derived.ts'
import { useSearch } from '../../store/useSearch.ts'
import { Questions } from '../Questions.tsx'
import type { PaperState } from './ToPaper.tsx'

/** Lines that are told one by one. */
const MOST_SAID = 8

/** What was done on the way from the kit to paper, what was added, and what is still open. */
export function PaperAccount() {
  const { id } = useParams()
  const { wiring, findings } = useDerived()
  const { paper, total = 0 } = (useLocation().state as PaperState | null) ?? {}
  const client = useSearch()
  const [isClosed, setClosed] = useState(false)
  if (!paper || isClosed || wiring.plan.wires.length < total) return null
  const { wires, added, left, choices, breadboards, unplaced } = paper
  // As they are now: an answer below may have mended some.
  const { fault, caution } = count(sift(wiring, findings).standing)
  const alike = together(added)
  const kinds = [...new Set(breadboards)].map((kind) =>
    counted(breadboards.filter((one) => one === kind).length, `${kind} breadboard`),
  )
  return (
    <section className="account" aria-label="What was done">
      <Button size="sm" variant="outline-dark" onClick={() => setClosed(true)}>
        Close
      </Button>
      <p>
        <b>
          {wires === 0 ? 'Nothing was open' : `${counted(wires, 'wire')} placed`}
          {kinds.length > 0 && `, laid out on ${kinds.join(' and ')}`}
        </b>
        {choices.length > 0 && `; ${choices.map(({ ref, title }) => `${ref} as ${title}`).join(', ')}`}.{' '}
        {unplaced.length === 0 &&
          fault + caution === 0 &&
          `Nothing ${left.length > 0 ? 'else ' : ''}is left open, and no check speaks.`}
      </p>
      {added.length > 0 && (
        <p>
          Added, and to buy:{' '}
          {alike.slice(0, MOST_SAID).map(([{ ref, what, why }, ...others], index) => (
            <span key={ref}>
              {index > 0 && ', '}
              <b className="mono">{ref}</b>
              {others.length > 0 && ` and ${others.length} more like it:`} {what} <span className="soft">({why})</span>
            </span>
          ))}
          {alike.length > MOST_SAID && ` and ${alike.length - MOST_SAID} kinds more, in the list of parts`}.
        </p>
      )}
      {left.slice(0, MOST_SAID).map(({ ref, why }) => (
        <p key={ref}>
          <b className="mono">{ref}</b> stays in the box <span className="soft">({why})</span>.
        </p>
      ))}
      {left.length > MOST_SAID && (
        <p>
          {left.length - MOST_SAID} more {left.length === MOST_SAID + 1 ? 'stays' : 'stay'} in the box, as the cover of
          the sheet says.
        </p>
      )}
      {unplaced.length > 0 && (
        <p className="open">
          <b>Still open:</b>{' '}
          {unplaced.slice(0, MOST_SAID).map(({ end, why }, index) => (
            <span key={end}>
              {index > 0 && ', '}
              <b className="mono">{end}</b> <span className="soft">({why})</span>
            </span>
          ))}
          {unplaced.length > MOST_SAID && ` and ${unplaced.length - MOST_SAID} more`}.{' '}
          <Link to={`/plan/${id}/pins`}>Place the rest on Pins</Link> says what collides, and the ways out.
        </p>
      )}
      {fault + caution > 0 && (
        <p>
          {[
            ...(fault > 0 ? [counted(fault, 'fault')] : []),
            ...(caution > 0 ? [counted(caution, 'caution')] : []),
          ].join(' and ')}{' '}
          {fault + caution === 1 ? 'stands' : 'stand'} under Findings, with the reason and mostly a fix.
        </p>
      )}
      <Questions client={client} />
    </section>
  )
}

/** Parts that are the same and there for the same reason, said once. */
function together<T extends { readonly what: string; readonly why: string }>(added: readonly T[]): [T, ...T[]][] {
  const groups = new Map<string, [T, ...T[]]>()
  for (const one of added) {
    const key = `${one.what} ${one.why}`
    const known = groups.get(key)
    if (known) known.push(one)
    else groups.set(key, [one])
  }
  return [...groups.values()]
}
