import { Spinner } from 'react-bootstrap'

/** Stands where something comes; `what` names it to those who do not see it turn. */
export function Loading({ what }: { what: string }) {
  return (
    <div className="p-5">
      <Spinner animation="border" role="status" aria-label={`Loading the ${what}`} />
    </div>
  )
}
