import { type ChangeEvent, type FormEvent, useRef, useState } from 'react'
import { Button, Dropdown, Form, Modal, Spinner } from 'react-bootstrap'
import { Link, useNavigate } from 'react-router'
import { Brand } from '../components/Brand.tsx'
import { ThemeButton } from '../components/ThemeButton.tsx'
import {
  type NewPlan,
  type PlanLine,
  problemText,
  useCopyMutation,
  useCreateMutation,
  usePlansQuery,
  useRemoveMutation,
  useSamplesQuery,
} from '../store/api.ts'
import { useCatalog } from '../store/derived.ts'
import { useAppDispatch } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'

/** Home: what each plan is, how far it is, and what stands in its way. */
export function Plans() {
  const { data: plans, error, refetch } = usePlansQuery(undefined, { refetchOnMountOrArgChange: true })
  const { data: samples } = useSamplesQuery()
  const [create] = useCreateMutation()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const file = useRef<HTMLInputElement>(null)
  const [title, setTitle] = useState('')

  const open = async (body: NewPlan, place: 'kit' | 'pins'): Promise<void> => {
    const made = await create(body)
    if ('data' in made && made.data) navigate(`/plan/${made.data.id}/${place}`)
    else dispatch(toasted({ text: problemText(made.error), kind: 'wrong' }))
  }
  const start = (event: FormEvent): void => {
    event.preventDefault()
    void open({ title: title.trim() || 'New plan' }, 'kit')
  }
  const importFile = async (event: ChangeEvent<HTMLInputElement>): Promise<void> => {
    const chosen = event.target.files?.[0]
    event.target.value = ''
    if (!chosen) return
    if (chosen.size > 1_000_000) {
      dispatch(
        toasted({
          text: `${chosen.name}: the file has ${chosen.size.toLocaleString('en')} bytes; expected at most 1,000,000`,
          kind: 'wrong',
        }),
      )
      return
    }
    await open({ text: await chosen.text(), file: chosen.name }, 'pins')
  }

  return (
    <>
      <header className="top">
        <Brand />
        <div className="tools">
          <input
            ref={file}
            type="file"
            accept=".yaml,.yml,.json"
            hidden
            onChange={(event) => void importFile(event)}
            aria-label="Plan file"
          />
          <Link className="btn btn-sm btn-outline-dark" to="/shelf">
            Shelf
          </Link>
          <Button size="sm" variant="outline-dark" onClick={() => file.current?.click()}>
            Import a plan file
          </Button>
          <ThemeButton />
        </div>
      </header>
      <main className="home" id="main">
        <h1>Plans</h1>
        <p className="soft">Which pin for which signal, whether it will work, and what to plug in where.</p>
        <Form onSubmit={start} className="d-flex gap-2 mb-3" style={{ maxWidth: 560 }}>
          <Form.Control
            value={title}
            onChange={(event) => setTitle(event.target.value)}
            placeholder="Name of a new plan"
            aria-label="Name of a new plan"
            maxLength={200}
          />
          <Button type="submit" variant="dark" className="text-nowrap">
            Start a plan
          </Button>
        </Form>
        {error && (
          <p role="alert">
            The plans cannot be loaded: {problemText(error)}{' '}
            <Button size="sm" variant="outline-dark" onClick={() => void refetch()}>
              Try again
            </Button>
          </p>
        )}
        {!plans && !error && <Spinner animation="border" role="status" aria-label="Loading plans" />}
        {plans?.length === 0 && (
          <section className="greeting">
            <h2>Nothing planned yet</h2>
            <p>
              A plan starts with a board and the parts in front of you. Name one above, or open a sample and look
              around: it opens as a copy, so nothing can be spoiled.
            </p>
            {samples?.[0] && (
              <Button variant="dark" onClick={() => void open({ sample: samples[0]!.id }, 'pins')}>
                Open “{samples[0].title}”
              </Button>
            )}
          </section>
        )}
        {plans?.map((plan) => (
          <PlanRow key={plan.id} plan={plan} />
        ))}
        {samples && samples.length > 0 && (
          <section className="mt-5">
            <h2>Samples</h2>
            <div className="samples">
              {samples.map((sample) => (
                <article key={sample.id} className="sample">
                  <h3>{sample.title}</h3>
                  <p>{sample.notes}</p>
                  <div>
                    <Button
                      size="sm"
                      variant="outline-dark"
                      onClick={() => void open({ sample: sample.id }, 'pins')}
                      aria-label={`Open a copy of ${sample.title}`}
                    >
                      Open a copy
                    </Button>
                  </div>
                </article>
              ))}
            </div>
          </section>
        )}
      </main>
    </>
  )
}

function PlanRow({ plan }: { plan: PlanLine }) {
  const catalog = useCatalog()
  const [copy] = useCopyMutation()
  const [remove] = useRemoveMutation()
  const [asking, setAsking] = useState(false)
  const { summary } = plan
  const boards = summary.boards.map((id) => catalog.boards.get(id)?.title ?? id)
  const share = summary.needed === 0 ? 0 : (100 * summary.placed) / summary.needed
  return (
    <article className="plan-line">
      <div>
        <h2>
          <Link to={`/plan/${plan.id}/pins`}>{plan.title}</Link>
        </h2>
        <span className="soft">
          changed {new Date(plan.changed).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}
        </span>
      </div>
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
      <Dropdown align="end">
        <Dropdown.Toggle size="sm" variant="outline-dark" aria-label={`More for ${plan.title}`}>
          More
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item onClick={() => void copy(plan.id)}>Duplicate</Dropdown.Item>
          <Dropdown.Item href={`/api/plans/${plan.id}/file`}>Save as a file</Dropdown.Item>
          <Dropdown.Item onClick={() => setAsking(true)}>Delete …</Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      <Modal show={asking} onHide={() => setAsking(false)} centered aria-labelledby={`delete-${plan.id}`}>
        <Modal.Body>
          <h2 id={`delete-${plan.id}`}>Delete “{plan.title}”?</h2>
          <p className="mb-0">This cannot be undone. Save it as a file first if you may want it back.</p>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-dark" onClick={() => setAsking(false)}>
            Keep it
          </Button>
          <Button variant="danger" onClick={() => void remove(plan.id)}>
            Delete
          </Button>
        </Modal.Footer>
      </Modal>
    </article>
  )
}
