import { useMemo, useState } from 'react'
import { Button, Form, Spinner } from 'react-bootstrap'
import { useParams } from 'react-router'
import { describeDifference } from '../../core/plan/difference.ts'
import type { RevisionLine } from '../../core/rules/answers.ts'
import { momentWords } from '../base/momentWords.ts'
import { problemText, useNameRevisionMutation, useRevisionQuery, useRevisionsQuery } from '../store/api.ts'
import { useDerived, usePlan } from '../store/derived.ts'
import { editPlan } from '../store/desk.ts'
import { useAppDispatch, useAppSelector } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'

/** What was this plan before, and how do I get back? */
export function History() {
  const { id = '' } = useParams()
  // A save makes another revision.
  const saved = useAppSelector((state) => state.plan.pen?.base.revision)
  const { data, error, refetch } = useRevisionsQuery(id, { refetchOnMountOrArgChange: true })
  const [seen, setSeen] = useState(saved)
  if (seen !== saved) {
    setSeen(saved)
    if (data) void refetch()
  }
  const [picked, setPicked] = useState<number>()
  if (error && !data)
    return (
      <div className="history">
        <h1>History</h1>
        <p role="alert">The history cannot be loaded: {problemText(error)}</p>
      </div>
    )
  if (!data) return <Spinner animation="border" role="status" aria-label="Loading the history" />
  const [newest] = data
  const shown = data.find(({ revision }) => revision === picked)
  return (
    <div className="history">
      <section aria-label="Revisions">
        <h1>History</h1>
        <p className="soft">
          Every save is kept: all of the last hour, then fewer the older they are. What you name stays.
        </p>
        <ol className="revisions">
          {data.map((line) => (
            <li key={line.revision} className={line.revision === picked ? 'picked' : ''}>
              <button
                type="button"
                aria-pressed={line.revision === picked}
                onClick={() => setPicked(line.revision === picked ? undefined : line.revision)}
              >
                <span className="mono">{line.revision}</span>
                <span>
                  {line.name && <b>{line.name} </b>}
                  {sentence(line, line === data.at(-1))}
                  <small>
                    {line === newest ? 'now, ' : ''}
                    {momentWords(line.saved)}
                  </small>
                </span>
              </button>
            </li>
          ))}
        </ol>
      </section>
      {shown ? (
        <Compared key={shown.revision} id={id} line={shown} onNamed={() => void refetch()} />
      ) : (
        <section className="compared soft">
          <p>Press a revision to see what has changed since then.</p>
        </section>
      )}
    </div>
  )
}

const MOST_WORDS = 2

function sentence({ words }: RevisionLine, isFirst: boolean): string {
  if (words.length === 0) return isFirst ? 'as it began' : 'nothing that a plan says'
  const more = words.length - MOST_WORDS
  return `${words.slice(0, MOST_WORDS).join('; ')}${more > 0 ? `; and ${more} more` : ''}`
}

/** A revision held against the plan as it is: in words, and wire by wire for who has built it since. */
function Compared({
  id,
  line,
  onNamed,
}: {
  readonly id: string
  readonly line: RevisionLine
  readonly onNamed: () => void
}) {
  const plan = usePlan()
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const { data, error } = useRevisionQuery({ id, revision: line.revision })
  const [keepName] = useNameRevisionMutation()
  const [name, setName] = useState(line.name ?? '')
  const changes = useMemo(
    () => (data ? describeDifference(data.plan, plan, wiring.catalog) : []),
    [data, plan, wiring.catalog],
  )
  const wires = changes.filter((one) => /^wire .* (added|removed)$/.test(one))
  const others = changes.filter((one) => !wires.includes(one))
  // To go back, what came is taken out and what went is put in.
  const out = wires.filter((one) => one.endsWith(' added')).map((one) => one.replace(/^wire (.*) added$/, '$1'))
  const into = wires.filter((one) => one.endsWith(' removed')).map((one) => one.replace(/^wire (.*) removed$/, '$1'))
  const keep = async (): Promise<void> => {
    const done = await keepName({ id, revision: line.revision, name })
    if (done.error) dispatch(toasted({ text: problemText(done.error), kind: 'wrong' }))
    else onNamed()
  }
  return (
    <section className="compared" aria-label={`Revision ${line.revision}`}>
      <h2>
        Revision {line.revision} <small>against now</small>
      </h2>
      <Form
        className="name"
        onSubmit={(event) => {
          event.preventDefault()
          void keep()
        }}
      >
        <Form.Control
          size="sm"
          value={name}
          maxLength={100}
          placeholder="name it, and it stays"
          aria-label="Name of this revision"
          onChange={(event) => setName(event.target.value)}
        />
        <Button size="sm" type="submit" variant="outline-dark" disabled={name.trim() === (line.name ?? '')}>
          Keep the name
        </Button>
      </Form>
      {error && <p role="alert">{problemText(error)}</p>}
      {data && changes.length === 0 && <p className="soft">The plan is now as it was then.</p>}
      {others.length > 0 && (
        <>
          <h3>Since then</h3>
          <ul>
            {others.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </>
      )}
      {wires.length > 0 && (
        <>
          <h3>To re-plug, going back</h3>
          <ul className="replug">
            {out.map((one) => (
              <li key={one}>
                <b>out</b> {one}
              </li>
            ))}
            {into.map((one) => (
              <li key={one}>
                <b>in</b> {one}
              </li>
            ))}
          </ul>
        </>
      )}
      {data && changes.length > 0 && (
        <Button
          variant="dark"
          onClick={() => {
            editPlan([{ do: 'become', plan: data.plan }], `Go back to revision ${line.revision}`)
            dispatch(toasted({ text: `The plan is as at revision ${line.revision}; Undo brings it back.` }))
          }}
        >
          Go back to this
        </Button>
      )}
    </section>
  )
}
