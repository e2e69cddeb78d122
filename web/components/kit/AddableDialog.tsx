import { useState } from 'react'
import { Button, Modal, ProgressBar } from 'react-bootstrap'
import { usePlan } from '../../store/derived.ts'
import { editLate } from '../../store/desk.ts'
import { useTrying } from './useTrying.ts'

/** What the boards could carry besides, each part tried on its own beside what is wired. */
export function AddableDialog({ onClose }: { onClose: () => void }) {
  const plan = usePlan()
  const { share, answer: found, stopped } = useTrying((client, tell) => client.addable(plan, tell))
  const [from] = useState(plan)
  const goes = found?.filter((one) => one.why === undefined) ?? []
  const rest = found?.filter((one) => one.why !== undefined) ?? []
  return (
    <Modal show onHide={onClose} aria-labelledby="addable" scrollable size="lg">
      <Modal.Header closeButton>
        <Modal.Title id="addable" as="h2">
          What can still be added
        </Modal.Title>
      </Modal.Header>
      <Modal.Body tabIndex={0}>
        {stopped ? (
          <p>The search was stopped.</p>
        ) : found === undefined ? (
          <>
            <p>Wiring each part of the catalogue to what is left …</p>
            <ProgressBar now={share} aria-label="Parts tried" />
          </>
        ) : (
          <>
            <p>
              {goes.length} of {found.length} parts still go, one of them at a time: everything that they need finds its
              place, no wire of yours moves, and no fault is new.
            </p>
            <table className="facts wide">
              <thead>
                <tr>
                  <th>Part</th>
                  <th>Wires</th>
                  <th>
                    <span className="visually-hidden">Add</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {goes.map((one) => (
                  <tr key={one.part}>
                    <th>{one.title}</th>
                    <td>{one.edits.filter((step) => step.do === 'connect').length}</td>
                    <td>
                      <Button
                        size="sm"
                        variant="outline-dark"
                        aria-label={`Add ${one.title}`}
                        onClick={() => {
                          if (editLate(from, one.edits, `Add ${one.title}`)) onClose()
                        }}
                      >
                        Add
                      </Button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {rest.length > 0 && (
              <>
                <h3 className="mt-3">What does not go, and why</h3>
                <table className="facts wide">
                  <tbody>
                    {rest.map((one) => (
                      <tr key={one.part}>
                        <th>{one.title}</th>
                        <td>{one.why}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </>
            )}
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={onClose}>
          Close
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
