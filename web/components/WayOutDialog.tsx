import { useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import type { AssignResult } from '../../core/assign/assign.ts'
import type { Edit } from '../../core/plan/edit.ts'
import type { Impasse } from '../workers/search.worker.ts'
import { Changes } from './Changes.tsx'

interface WayOutProps {
  readonly result: AssignResult
  /** Undefined while it is looked for. */
  readonly way: Impasse | undefined
  readonly onApply: (edits: readonly Edit[], label: string) => void
  readonly onClose: () => void
}

/** What collides when not everything can be placed, and what would help. */
export function WayOutDialog({ result, way, onApply, onClose }: WayOutProps) {
  const [shown, setShown] = useState<string>()
  const tried = way?.ways.find((one) => one.title === shown)
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
        {way && way.ways.length > 0 && (
          <>
            <h3 className="h6">What would help</h3>
            <div className="ways-out">
              {way.ways.map((one) => (
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
            <Changes edits={tried?.edits} />
          </>
        )}
        {way && way.ways.length === 0 && (
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
