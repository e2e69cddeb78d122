import { useMemo, useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import type { AssignResult } from '../../core/assign/assign.ts'
import { describeDifference } from '../../core/plan/difference.ts'
import { applyEdits, type Edit } from '../../core/plan/edit.ts'
import { useDerived } from '../store/derived.ts'
import type { WayOut } from '../workers/search.worker.ts'

interface WayOutProps {
  readonly result: AssignResult
  /** Undefined while it is looked for. */
  readonly way: WayOut | undefined
  readonly onApply: (edits: readonly Edit[], label: string) => void
  readonly onClose: () => void
}

/** What collides when not everything can be placed, and what would help. */
export function WayOutDialog({ result, way, onApply, onClose }: WayOutProps) {
  const { wiring } = useDerived()
  const [shown, setShown] = useState<string>()
  const remedy = way?.remedies.find((one) => one.title === shown)
  const lines = useMemo(
    () => (remedy ? describeDifference(wiring.plan, applyEdits(wiring.plan, remedy.edits), wiring.catalog) : []),
    [remedy, wiring],
  )
  const left = result.unplaced.length
  return (
    <Modal show onHide={onClose} aria-labelledby="way-out" scrollable size="lg">
      <Modal.Header closeButton>
        <Modal.Title id="way-out" as="h2">
          {left === 1 ? 'One signal finds no place' : `${left} signals find no place`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body tabIndex={0}>
        {!result.optimal && <p>Not everything was tried: this is the best so far, and there may be a better one.</p>}
        <p>
          {way === undefined
            ? 'Looking for what collides …'
            : (way.text ?? result.unplaced.map((one) => `${one.end} needs ${one.needs}`).join('; '))}
        </p>
        {result.unplaced.length > 0 && (
          <ul className="soft">
            {result.unplaced.slice(0, 6).map((one) => (
              <li key={one.end}>
                <span className="mono">{one.end}</span> needs {one.needs}: {one.reasons.slice(0, 3).join('; ')}
              </li>
            ))}
          </ul>
        )}
        {way && way.remedies.length > 0 && (
          <>
            <h3 className="h6">What would help</h3>
            <div className="remedies">
              {way.remedies.map((one) => (
                <div key={one.title}>
                  <Button
                    size="sm"
                    variant="outline-dark"
                    onClick={() => onApply(one.edits, one.title)}
                    onFocus={() => setShown(one.title)}
                    onMouseEnter={() => setShown(one.title)}
                  >
                    {one.title}
                  </Button>{' '}
                  <span className="soft">
                    {one.left === 0 ? 'then everything is placed' : `then ${one.left} still find none`}
                  </span>
                </div>
              ))}
            </div>
            {lines.length > 0 && (
              <ul className="preview" aria-label="What this changes">
                {lines.slice(0, 8).map((line) => (
                  <li key={line}>{line}</li>
                ))}
                {lines.length > 8 && <li>and {lines.length - 8} more</li>}
              </ul>
            )}
          </>
        )}
        {way && way.remedies.length === 0 && (
          <p className="soft">None of what was tried helps: other addresses, modes, features, expanders, boards.</p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={onClose}>
          Leave as it is
        </Button>
        {result.edits.length > 0 && (
          <Button variant="dark" onClick={() => onApply(result.edits, 'Place what can be placed')}>
            Place what can be placed
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  )
}
