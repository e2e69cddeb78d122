import { useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import type { AllFixed } from '../../../core/advice/fixAll.ts'
import { useDerived } from '../../store/derived.ts'
import { editLate } from '../../store/desk.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'

/** Fixes in one step what can be fixed without giving anything up; shows the steps before it does. */
export function FixAll() {
  const { wiring } = useDerived()
  const client = useSearch()
  const [busy, setBusy] = useState(false)
  const [from, setFrom] = useState(wiring.plan)
  const [found, setFound] = useState<AllFixed>()
  const look = async (): Promise<void> => {
    setBusy(true)
    setFrom(wiring.plan)
    setFound(await answerOf(client.fixAll(wiring.plan)))
    setBusy(false)
  }
  const close = (): void => setFound(undefined)
  return (
    <>
      <Button size="sm" variant="outline-dark" className="text-nowrap" disabled={busy} onClick={() => void look()}>
        {busy ? 'Looking …' : 'Fix all that is safe'}
      </Button>
      <Modal show={found !== undefined} onHide={close} aria-labelledby="fix-all" scrollable>
        <Modal.Header closeButton>
          <Modal.Title id="fix-all" as="h2">
            {found?.steps.length === 0 ? 'Nothing can be fixed safely' : `${found?.steps.length} findings to fix`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body tabIndex={0}>
          <p>
            {found?.steps.length === 0
              ? 'What is left needs a choice of yours: open each finding to see its fixes.'
              : 'No part, feature or choice is given up, locked wires stay, and one undo takes it all back.'}
          </p>
          <ol className="mend-steps">
            {found?.steps.map((step) => (
              <li key={step.message}>
                <b>{step.fix}</b>
                <div className="soft">{step.message}</div>
              </li>
            ))}
          </ol>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-dark" onClick={close}>
            {found?.steps.length === 0 ? 'Close' : 'Leave as it is'}
          </Button>
          {found !== undefined && found.steps.length > 0 && (
            <Button
              variant="dark"
              onClick={() => {
                editLate(from, found.edits, `Fix ${found.steps.length} findings`)
                close()
              }}
            >
              Fix them
            </Button>
          )}
        </Modal.Footer>
      </Modal>
    </>
  )
}
