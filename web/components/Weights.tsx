import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { preferenceNames, preferences, type Weight } from '../../core/assign/preferences.ts'
import { usePlan } from '../store/derived.ts'
import { editPlan as edit } from '../store/desk.ts'

const words: Readonly<Record<Weight, string>> = {
  less: 'does not matter much',
  usual: 'as usual',
  more: 'matters more',
}

/** What the search is to weigh less or more in this plan, in words. */
export function Weights() {
  const plan = usePlan()
  const [shown, setShown] = useState(false)
  const prefer = plan.settings?.prefer ?? {}
  const changed = Object.keys(prefer).length
  return (
    <>
      <Button size="sm" variant="link" className="weights" onClick={() => setShown(true)}>
        What counts{changed > 0 ? ` (${changed} changed)` : ''} …
      </Button>
      <Modal show={shown} onHide={() => setShown(false)} aria-labelledby="weights">
        <Modal.Header closeButton>
          <Modal.Title id="weights" as="h2">
            What counts when pins are chosen
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>Saved with the plan. Signals that have their pin stay there; the next search goes by it.</p>
          {preferenceNames.map((name) => (
            <Form.Group key={name} controlId={`weight-${name}`} className="weight-line">
              <Form.Label>{preferences[name]}</Form.Label>
              <Form.Select
                size="sm"
                value={prefer[name] ?? 'usual'}
                onChange={(event) => {
                  const weight = event.target.value as Weight
                  edit(
                    [{ do: 'prefer', what: name, weight: weight === 'usual' ? null : weight }],
                    `Change what counts: ${preferences[name]}`,
                  )
                }}
              >
                {(['less', 'usual', 'more'] as const).map((weight) => (
                  <option key={weight} value={weight}>
                    {words[weight]}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
          ))}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="dark" onClick={() => setShown(false)}>
            Close
          </Button>
        </Modal.Footer>
      </Modal>
    </>
  )
}
