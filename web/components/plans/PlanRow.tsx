import { useState } from 'react'
import { Button, Dropdown, Modal } from 'react-bootstrap'
import { Link } from 'react-router'
import type { PlanLine } from '../../../core/rules/answers.ts'
import type { PlanSummary } from '../../../core/rules/summary.ts'
import { momentWords } from '../../base/momentWords.ts'
import { problemText, useCopyMutation, useRemoveMutation } from '../../store/api.ts'
import { useBaseCatalog } from '../../store/catalog.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { ShareDialog } from './ShareDialog.tsx'
import { TaskDialog } from './TaskDialog.tsx'

/** One plan of the list: what it is, how far it is, and what stands in its way. */
export function PlanRow({ plan }: { plan: PlanLine }) {
  const dispatch = useAppDispatch()
  const [copy] = useCopyMutation()
  const [remove] = useRemoveMutation()
  const [asking, setAsking] = useState(false)
  const [sharing, setSharing] = useState(false)
  const [handing, setHanding] = useState(false)
  const { summary, role = 'owner' } = plan
  const isOwn = role === 'owner'
  const drop = async (): Promise<void> => {
    setAsking(false)
    const done = await remove({ id: plan.id, revision: plan.revision })
    if (done.error) dispatch(toasted({ text: problemText(done.error), kind: 'wrong' }))
  }
  const duplicate = async (): Promise<void> => {
    const done = await copy(plan.id)
    if (done.error) dispatch(toasted({ text: problemText(done.error), kind: 'wrong' }))
  }
  return (
    <article className="plan-line">
      <div>
        <h2>
          <Link to={`/plan/${plan.id}/pins`}>{plan.title}</Link>
        </h2>
        <span className="soft">
          changed {momentWords(plan.changed)}
          {role === 'viewer' && ' · to look only'}
        </span>
      </div>
      {summary ? (
        <Summary summary={summary} />
      ) : (
        <div className="no-summary soft">Not looked through yet, or its text is damaged: open it to see.</div>
      )}
      <Dropdown align="end">
        <Dropdown.Toggle size="sm" variant="outline-dark" aria-label={`More for ${plan.title}`}>
          More
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {role !== 'viewer' && <Dropdown.Item onClick={() => void duplicate()}>Duplicate</Dropdown.Item>}
          <Dropdown.Item href={`/api/plans/${plan.id}/file`}>Save as a file</Dropdown.Item>
          {isOwn && <Dropdown.Item onClick={() => setSharing(true)}>Share …</Dropdown.Item>}
          {role !== 'viewer' && <Dropdown.Item onClick={() => setHanding(true)}>Make a task of it …</Dropdown.Item>}
          {isOwn && <Dropdown.Item onClick={() => setAsking(true)}>Delete …</Dropdown.Item>}
        </Dropdown.Menu>
      </Dropdown>
      {handing && <TaskDialog id={plan.id} title={plan.title} onClose={() => setHanding(false)} />}
      {sharing && <ShareDialog id={plan.id} title={plan.title} onClose={() => setSharing(false)} />}
      <Modal show={asking} onHide={() => setAsking(false)} centered aria-labelledby={`delete-${plan.id}`}>
        <Modal.Body>
          <h2 id={`delete-${plan.id}`}>Delete “{plan.title}”?</h2>
          <p className="mb-0">It goes into the bin, from which it can be put back for 90 days.</p>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-dark" onClick={() => setAsking(false)}>
            Keep it
          </Button>
          <Button variant="danger" onClick={() => void drop()}>
            Delete
          </Button>
        </Modal.Footer>
      </Modal>
    </article>
  )
}

function Summary({ summary }: { summary: PlanSummary }) {
  const catalog = useBaseCatalog()
  const boards = summary.boards.map((id) => catalog.boards.get(id)?.title ?? id)
  const share = summary.needed === 0 ? 0 : (100 * summary.placed) / summary.needed
  return (
    <>
      <div>
        {boards.length === 0 ? (
          <span className="soft">no board yet</span>
        ) : boards.length > 1 ? (
          `${boards.length} boards: ${[...new Set(boards)].join(', ')}`
        ) : (
          boards[0]
        )}
      </div>
      <div>
        <div className="track" aria-hidden="true">
          <i style={{ width: `${share}%` }} />
        </div>
        <span className="mono">
          {summary.placed} of {summary.needed}
        </span>{' '}
        <span className="soft">signals placed</span>
        {summary.stage && summary.stage !== 'planned' && <span className="stage">{summary.stage}</span>}
      </div>
      <div className="verdict">
        {summary.worst ? (
          <>
            <strong style={{ color: `var(--mp-${summary.worst.severity})` }}>{summary.worst.severity}</strong>{' '}
            {summary.worst.message}
          </>
        ) : summary.parts === 0 ? (
          <span className="soft">no parts yet</span>
        ) : (
          'nothing stands in the way'
        )}
      </div>
    </>
  )
}
