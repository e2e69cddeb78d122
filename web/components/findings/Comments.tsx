import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useNavigate, useParams } from 'react-router'
import { counted } from '../../../core/base/counted.ts'
import { sameFinding } from '../../../core/plan/findingKey.ts'
import type { Comment } from '../../../core/plan/planSchema.ts'
import type { Finding } from '../../../core/rules/finding.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { momentWords } from '../../base/momentWords.ts'
import { useDerived, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch } from '../../store/store.ts'

/** Under which whoever comments in this browser is called. */
const NAME_KEY = 'markpost.name'

/** What people have said of the plan: open comments, and those that are settled for who wants to see them. */
export function CommentList({ findings }: { readonly findings: readonly Finding[] }) {
  const { comments = {} } = usePlan()
  const [showsSettled, setShowsSettled] = useState(false)
  const all = Object.entries(comments)
  const settled = all.filter(([, one]) => one.settled)
  const shown = all.filter(([, one]) => showsSettled || !one.settled)
  if (all.length === 0) return null
  return (
    <section aria-label="Comments">
      <h3>Comments</h3>
      {shown.map(([id, one]) => (
        <CommentCard key={id} id={id} comment={one} findings={findings} />
      ))}
      {settled.length > 0 && (
        <button type="button" className="waiting-head" onClick={() => setShowsSettled(!showsSettled)}>
          {showsSettled ? 'Hide' : 'Show'} {counted(settled.length, 'settled comment')}
        </button>
      )}
    </section>
  )
}

function CommentCard({
  id,
  comment,
  findings,
}: {
  readonly id: string
  readonly comment: Comment
  readonly findings: readonly Finding[]
}) {
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const { id: plan } = useParams()
  const { at, rule, text, by, said, settled } = comment
  const [first] = at
  const signal = at.find((end) => wiring.signal(end))
  const show = (): void => {
    if (signal !== undefined) {
      dispatch(planActions.picked(signal))
      navigate(`/plan/${plan}/pins`)
    }
    dispatch(planActions.lit(at))
  }
  return (
    <article className={`finding comment ${settled ? 'settled' : ''}`}>
      <p className="said">{text}</p>
      <p className="rule-line">
        {first === undefined ? (
          'on the whole plan'
        ) : (
          <>
            on{' '}
            <Button size="sm" variant="link" className="p-0 align-baseline mono" onClick={show}>
              {rule ?? first}
            </Button>{' '}
            {goneWords(comment, wiring, findings)}
          </>
        )}
        {by && ` · ${by}`}
        {said && ` · ${momentWords(said)}`}
      </p>
      <div className="fixes">
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() =>
            edit(
              [{ do: 'comment', id, comment: settled ? without(comment) : { ...comment, settled: true } }],
              settled ? 'Open a comment again' : 'Settle a comment',
            )
          }
        >
          {settled ? 'Open again' : 'Settle'}
        </Button>
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() => edit([{ do: 'comment', id, comment: null }], 'Take a comment away')}
        >
          Take away
        </Button>
      </div>
    </article>
  )
}

function without({ settled: _, ...rest }: Comment): Comment {
  return rest
}

/** What became of the thing that a comment is pinned to. */
function goneWords({ at, rule }: Comment, wiring: Wiring, findings: readonly Finding[]): string {
  if (rule !== undefined) return findings.some((one) => sameFinding(one, { rule, at })) ? '' : '(no longer found)'
  const known = new Set([...wiring.boards, ...wiring.supplies, ...wiring.parts].map(({ ref }) => ref))
  return at.every((one) => known.has(one.split('.')[0] as string)) ? '' : '(no longer there)'
}

/** Asks for a comment on a finding, or on what is chosen: the picked pin, a part, a board, the whole plan. */
export function CommentForm({
  on,
  onDone,
}: {
  readonly on: Pick<Finding, 'rule' | 'at'> | { readonly pin: string | undefined }
  readonly onDone: () => void
}) {
  const { wiring } = useDerived()
  const pin = 'pin' in on ? on.pin : undefined
  const [text, setText] = useState('')
  const [place, setPlace] = useState(pin ?? '')
  const [name, setName] = useState(localStorage.getItem(NAME_KEY) ?? '')
  const submit = (event: FormEvent): void => {
    event.preventDefault()
    const by = name.trim()
    localStorage.setItem(NAME_KEY, by)
    const comment: Comment = {
      ...('rule' in on ? { at: [...on.at], rule: on.rule } : { at: place === '' ? [] : [place] }),
      text: text.trim(),
      ...(by === '' ? {} : { by }),
      said: `${new Date().toISOString().slice(0, 19)}Z`,
    }
    if (edit([{ do: 'comment', id: freshId(), comment }], 'Comment')) onDone()
  }
  return (
    <Form className="comment-form" onSubmit={submit}>
      {!('rule' in on) && (
        <Form.Select size="sm" aria-label="Comment on" value={place} onChange={({ target }) => setPlace(target.value)}>
          <option value="">on the whole plan</option>
          {pin !== undefined && <option value={pin}>on {pin}</option>}
          {[...wiring.boards, ...wiring.supplies, ...wiring.parts].map(({ ref, title }) => (
            <option key={ref} value={ref}>
              on {ref}
              {title ? `, ${title}` : ''}
            </option>
          ))}
        </Form.Select>
      )}
      <Form.Control
        as="textarea"
        size="sm"
        rows={2}
        autoFocus
        maxLength={2000}
        value={text}
        aria-label="Comment"
        placeholder="What is to be said"
        onChange={({ target }) => setText(target.value)}
      />
      <div className="d-flex gap-2">
        <Form.Control
          size="sm"
          maxLength={60}
          value={name}
          aria-label="Your name"
          placeholder="your name"
          onChange={({ target }) => setName(target.value)}
        />
        <Button size="sm" variant="dark" type="submit" className="text-nowrap" disabled={text.trim() === ''}>
          Say it
        </Button>
        <Button size="sm" variant="outline-dark" className="text-nowrap" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </Form>
  )
}

/** An id that no other page makes at the same moment. */
const freshId = (): string =>
  `${Date.now().toString(36)}${Math.floor(Math.random() * 1296)
    .toString(36)
    .padStart(2, '0')}`
