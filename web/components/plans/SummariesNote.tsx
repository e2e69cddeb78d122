import { ProgressBar } from 'react-bootstrap'
import { useStateQuery } from '../../store/api.ts'

/** After a new program: how far it has looked through the plans again. */
export function SummariesNote() {
  const { data } = useStateQuery()
  if (!data || data.summaries.done >= data.summaries.of) return null
  const { done, of } = data.summaries
  return (
    <div className="notice" role="status">
      <p>
        Looking through the plans with this version: {done.toLocaleString('en')} of {of.toLocaleString('en')}.
        Everything can be used meanwhile.
      </p>
      <ProgressBar now={(100 * done) / of} aria-label="Plans looked through" />
    </div>
  )
}
