import { useLocation, useNavigate, useParams } from 'react-router'
import type { RunFinding } from '../../../core/rehearse/stage/findings.ts'
import { usePlan } from '../../store/derived.ts'
import { rehearsalActions, sameRun } from '../../store/rehearsalSlice.ts'
import { useAppDispatch, useAppSelector } from '../../store/store.ts'
import { clockWords } from '../rehearse/rows.ts'

const nothing: readonly RunFinding[] = []

/** What the last run of a program found; of a plan that has changed since nobody knows. */
export function useRunFindings(): readonly RunFinding[] | undefined {
  const plan = usePlan()
  const state = useAppSelector(({ rehearsal }) => rehearsal)
  if (state.plan === undefined || !sameRun(state.plan, plan)) return undefined
  return state.findings.length === 0 ? nothing : state.findings
}

/** Findings of the rehearsal, each with its line and its moment; one that is pressed leads there. */
export function RunFindings({
  findings,
  subject,
}: {
  readonly findings: readonly RunFinding[]
  readonly subject: string
}) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const { id } = useParams()
  const { pathname } = useLocation()
  const own = subject === '' ? findings : findings.filter(({ at }) => at.some((end) => end.split('.')[0] === subject))
  const go = ({ seconds }: RunFinding): void => {
    if (!pathname.endsWith('/rehearse')) navigate(`/plan/${id}/rehearse`)
    dispatch(rehearsalActions.wanted(seconds * 1e6))
  }
  return (
    <section aria-label="Findings of this run" className="run-findings">
      <h3>Rehearsal</h3>
      {own.length === 0 && <p className="soft px-3">Nothing stands in the way.</p>}
      {own.map((finding) => {
        const { severity, message, why, file, line, seconds, times, kind, at } = finding
        return (
          <article
            key={`${kind} ${at.join()} ${line} ${message}`}
            className={`finding ${severity} picked`}
            data-kind={kind}
          >
            <button type="button" className="say" onClick={() => go(finding)}>
              <span className="sign" aria-hidden="true">
                {severity === 'fault' ? '✕' : '!'}
              </span>
              <span className="visually-hidden">{severity}: </span>
              {message}
            </button>
            <p className="why">{why}</p>
            <p className="rule-line mono">
              {line > 0 ? `${file}, line ${line}` : ''} {clockWords(seconds * 1e6)}
              {times > 1 ? ` · ${times} times` : ''}
            </p>
          </article>
        )
      })}
    </section>
  )
}
