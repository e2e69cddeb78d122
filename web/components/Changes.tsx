import { useMemo } from 'react'
import { describeDifference } from '../../core/plan/difference.ts'
import { applyEdits, type Edit } from '../../core/plan/edit.ts'
import { useDerived } from '../store/derived.ts'

/** Lines shown before the rest is only counted. */
const MOST_LINES = 8

/** What edits would change in the open plan, in words; nothing when there are none. */
export function Changes({ edits }: { edits: readonly Edit[] | undefined }) {
  const { wiring } = useDerived()
  const lines = useMemo(
    () => (edits ? describeDifference(wiring.plan, applyEdits(wiring.plan, edits), wiring.catalog) : []),
    [edits, wiring],
  )
  if (lines.length === 0) return null
  return (
    <ul className="preview" aria-label="What this changes">
      {lines.slice(0, MOST_LINES).map((line) => (
        <li key={line}>{line}</li>
      ))}
      {lines.length > MOST_LINES && <li>and {lines.length - MOST_LINES} more</li>}
    </ul>
  )
}
