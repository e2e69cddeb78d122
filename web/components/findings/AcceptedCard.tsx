import { Button } from 'react-bootstrap'
import type { Finding } from '../../../core/rules/finding.ts'
import { editPlan as edit } from '../../store/desk.ts'

/** A finding that the maker has accepted, with the reason. */
export function AcceptedCard({ finding }: { finding: Finding }) {
  return (
    <article className="finding">
      <div style={{ overflowWrap: 'anywhere' }}>{finding.message}</div>
      <p className="why">
        Accepted: {finding.accepted}{' '}
        <Button
          size="sm"
          variant="link"
          className="p-0 align-baseline"
          onClick={() => edit([{ do: 'withdraw', rule: finding.rule, at: finding.at }], 'Take back an acceptance')}
        >
          take back
        </Button>
      </p>
    </article>
  )
}
