import { useMemo } from 'react'
import { Button } from 'react-bootstrap'
import { describeDifference } from '../../../core/plan/difference.ts'
import { mergePlans } from '../../../core/plan/merge.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { momentWords } from '../../base/momentWords.ts'
import { useCatalog, usePlan } from '../../store/derived.ts'
import { dropOffer, joinOffer } from '../../store/desk.ts'
import type { Draft } from '../../store/pen/penEvents.ts'
import { useAppSelector } from '../../store/store.ts'

/** Unsaved work of pages that are gone, besides what was taken up when the plan was opened. */
export function Offers({ onKeepBoth }: { onKeepBoth: (plan: Plan, slot: string) => void }) {
  const offers = useAppSelector((state) => state.plan.pen?.offers) ?? []
  return offers.map((offer) => <Offer key={offer.slot} offer={offer} onKeepBoth={onKeepBoth} />)
}

function Offer({ offer, onKeepBoth }: { offer: Draft; onKeepBoth: (plan: Plan, slot: string) => void }) {
  const catalog = useCatalog()
  const plan = usePlan()
  const lines = useMemo(() => describeDifference(offer.base ?? plan, offer.plan, catalog), [offer, plan, catalog])
  const touches = useMemo(() => mergePlans(offer.base ?? plan, offer.plan, plan).clashes.length > 0, [offer, plan])
  return (
    <section className="notice" aria-label="Unsaved changes of another page">
      <p>
        <b>Another page left changes that were never saved</b>
        {offer.at > 0 && ` (${momentWords(offer.at)})`}: {lines.slice(0, 5).join('; ') || 'the same as before'}
        {lines.length > 5 && `; and ${lines.length - 5} more`}.
      </p>
      <span className="notice-actions">
        {!touches && (
          <Button size="sm" variant="dark" onClick={() => joinOffer(offer.slot)}>
            Join them in
          </Button>
        )}
        <Button
          size="sm"
          variant={touches ? 'dark' : 'outline-dark'}
          onClick={() => onKeepBoth(offer.plan, offer.slot)}
        >
          Make a plan of them
        </Button>
        <Button size="sm" variant="outline-dark" onClick={() => dropOffer(offer.slot)}>
          Let them go
        </Button>
      </span>
    </section>
  )
}
