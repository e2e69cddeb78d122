import { lazy, Suspense, useEffect, useState } from 'react'
import { Button, Spinner } from 'react-bootstrap'
import { Link, useNavigate } from 'react-router'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { momentWords } from '../../base/momentWords.ts'
import { problemText, useCreateMutation, useMendMutation } from '../../store/api.ts'
import { forgetDraft, orphanDrafts } from '../../store/desk.ts'
import type { Opened } from '../../store/pen/desk.ts'
import type { Draft } from '../../store/pen/penEvents.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { KeepAsFile } from './KeepAsFile.tsx'

const YamlField = lazy(() => import('../shelf/YamlField.tsx').then((module) => ({ default: module.YamlField })))

export type Lost = Exclude<Opened, { is: 'open' } | { is: 'superseded' }>

/** A plan that cannot be opened: what is known of it, and every way to get at the work. */
export function LostPlan({ id, lost, onAgain }: { id: string; lost: Lost; onAgain: () => void }) {
  const drafts = useDrafts(id)
  return (
    <main className="home">
      {lost.is === 'missing' && (
        <>
          <h1>This plan is not here</h1>
          <p>It may have been deleted, or it lives in another data folder.</p>
        </>
      )}
      {lost.is === 'failed' && (
        <>
          <h1>The plan cannot be loaded just now</h1>
          <p>
            {lost.text}.{drafts.length > 0 && ' Your last changes are kept in this browser.'}
          </p>
          <p>
            <Button variant="dark" onClick={onAgain}>
              Try again
            </Button>
          </p>
        </>
      )}
      {lost.is === 'damaged' && <Damaged id={id} lost={lost} onMended={onAgain} />}
      {drafts.map((draft) => (
        <KeptDraft key={draft.slot} draft={draft} />
      ))}
      <Link to="/">Back to all plans</Link>
    </main>
  )
}

function useDrafts(id: string): readonly Draft[] {
  const [drafts, setDrafts] = useState<readonly Draft[]>([])
  useEffect(() => {
    let here = true
    void orphanDrafts(id).then((found) => here && setDrafts(found))
    return () => {
      here = false
    }
  }, [id])
  return drafts
}

/** Makes a plan of one that is kept in this browser only, and opens it; undefined when the server does not take it. */
export function useKeepAsNew(): (plan: Plan, title: string) => Promise<string | undefined> {
  const [create] = useCreateMutation()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  return async (plan, title) => {
    const made = await create({ plan: { ...plan, title: [...title].slice(0, 200).join('') } })
    if (!('data' in made) || !made.data) {
      dispatch(toasted({ text: `It could not be kept: ${problemText(made.error)}`, kind: 'wrong' }))
      return undefined
    }
    navigate(`/plan/${made.data.id}/pins`)
    return made.data.id
  }
}

function KeptDraft({ draft }: { draft: Draft }) {
  const keepAsNew = useKeepAsNew()
  return (
    <section className="notice">
      <p>
        <b>This browser keeps unsaved changes of “{draft.plan.title}”</b>
        {draft.at > 0 && `, of ${momentWords(draft.at)}`}.
      </p>
      <span className="notice-actions">
        <Button
          size="sm"
          variant="dark"
          onClick={() =>
            void keepAsNew(draft.plan, draft.plan.title).then((made) => made !== undefined && forgetDraft(draft.slot))
          }
        >
          Bring it back as a new plan
        </Button>
        <KeepAsFile plan={draft.plan} />
      </span>
    </section>
  )
}

/** The server keeps a text that it cannot read: it is shown with what is wrong, and can be mended here. */
function Damaged({ id, lost, onMended }: { id: string; lost: Extract<Lost, { is: 'damaged' }>; onMended: () => void }) {
  const [text, setText] = useState(lost.text)
  const [problems, setProblems] = useState(lost.problems)
  const [mend, { isLoading }] = useMendMutation()
  const dispatch = useAppDispatch()
  const put = async (): Promise<void> => {
    const done = await mend({ id, text, revision: lost.revision })
    if ('data' in done && done.data) return onMended()
    const { data } = (done.error ?? {}) as { data?: { problems?: typeof problems } }
    if (data?.problems) setProblems(data.problems)
    dispatch(toasted({ text: problemText(done.error), kind: 'wrong' }))
  }
  return (
    <>
      <h1>The text of this plan is damaged</h1>
      <p>Nothing of it is lost: here is what is kept. Mend what is named below, or take the text along as a file.</p>
      <ul className="problems">
        {problems.slice(0, 8).map((one) => (
          <li key={`${one.line} ${one.path} ${one.message}`}>
            {one.line !== undefined && <b className="mono">line {one.line} </b>}
            {one.path !== '' && <span className="mono soft">{one.path}: </span>}
            {one.message}
          </li>
        ))}
      </ul>
      <div className="damaged-text">
        <Suspense fallback={<Spinner animation="border" role="status" aria-label="Loading the editor" />}>
          <YamlField value={text} onChange={setText} problems={problems} />
        </Suspense>
      </div>
      <p className="d-flex gap-2">
        <Button variant="dark" disabled={isLoading} onClick={() => void put()}>
          Save the mended text
        </Button>
        <a className="btn btn-outline-dark" href={`/api/plans/${id}/file`}>
          Take it along as a file
        </a>
      </p>
    </>
  )
}
