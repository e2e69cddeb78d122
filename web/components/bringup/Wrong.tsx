import { useEffect, useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import type { Diagnosis, Observation } from '../../../core/bringup/diagnose.ts'
import { noticesOf } from '../../../core/bringup/notices.ts'
import { observationsOf } from '../../../core/bringup/results.ts'
import { capital } from '../../../core/bringup/step.ts'
import { useDerived, usePlan } from '../../store/derived.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'
import type { Practice } from './Practice.tsx'
import { useSteps } from './useSteps.ts'

/** Most causes that are listed. */
const LISTED = 6

/** What was seen, the causes that explain it in order, and the measurement that tells most. */
export function Wrong({ practice }: { readonly practice: Practice | undefined }) {
  const plan = usePlan()
  const { wiring } = useDerived()
  const notices = useMemo(() => noticesOf(wiring), [wiring])
  const { laid, layingOut } = useSteps()
  const client = useSearch()
  const [own, setOwn] = useState<readonly (Observation & { readonly words: string })[]>([])
  const done = practice ? practice.done : plan.bringup?.done
  // An answer belongs to what it was asked of: until the next one is there, no button answers the old question.
  const asked = useMemo(() => ({ plan, done, own, laid }), [plan, done, own, laid])
  const [found, setFound] = useState<{ readonly of: typeof asked; readonly diagnosis: Diagnosis | undefined }>()
  const busy = layingOut || found?.of !== asked
  useEffect(() => {
    if (layingOut) return
    let here = true
    const { plan, done, own, laid } = asked
    const answered = new Set(own.map(({ step }) => step))
    const seen = observationsOf(done ?? {}).filter(({ step }) => !answered.has(step))
    const all: Observation[] = [...seen, ...own.map(({ step, saw }) => ({ step, saw }))]
    void answerOf(client.diagnose(plan, all, laid)).then((answer) => {
      if (here) setFound({ of: asked, diagnosis: answer })
    })
    return () => {
      here = false
    }
  }, [asked, client, layingOut])
  const wrong =
    Object.values(done ?? {}).filter((proof) => proof.wrong).length + own.filter(({ saw }) => saw !== 'right').length
  const diagnosis = found?.diagnosis
  const { next, causes = [] } = diagnosis ?? {}
  const answer = (saw: Observation['saw']): void => {
    if (next) setOwn([...own, { step: next.id, words: next.words, saw }])
  }
  return (
    <div className="wrong scan">
      <section aria-label="The next measurement">
        <h2>What tells most now</h2>
        {next ? (
          <>
            <p className="step-do">{capital(next.words)}.</p>
            {practice && (
              <p className="step-shows">
                <b>The stand-in:</b> {practice.board.shows(next.id)}
                {practice.board.isRight(next.id) ? ', as planned' : ', not as planned'}.
              </p>
            )}
            <div className="step-buttons">
              <Button variant="dark" size="lg" disabled={busy} onClick={() => answer('right')}>
                As it should be
              </Button>
              <Button variant="outline-danger" size="lg" disabled={busy} onClick={() => answer('wrong')}>
                Otherwise
              </Button>
            </div>
          </>
        ) : (
          <p className="soft">
            {busy
              ? 'The faults that may be in this build are worked out …'
              : 'Nothing that can be measured tells more.'}
          </p>
        )}
        <h3>What do you notice?</h3>
        <select
          className="form-select"
          aria-label="What do you notice?"
          value=""
          onChange={({ target }) => {
            const notice = notices[Number(target.value)]
            if (notice)
              setOwn([
                ...own.filter(({ step }) => step !== notice.id),
                { step: notice.id, words: notice.words, saw: notice.saw },
              ])
          }}
        >
          <option value="">While the program runs …</option>
          {notices.map(({ words }, index) => (
            <option key={words} value={index}>
              {words}
            </option>
          ))}
        </select>
        {own.length > 0 && (
          <>
            <h3>Seen here</h3>
            <ol className="measured">
              {own.map(({ step, words, saw }) => (
                <li key={step} className={saw === 'right' ? '' : 'text-danger'}>
                  {saw === 'right' ? '✓' : '✗'} {words}
                </li>
              ))}
            </ol>
            <Button size="sm" variant="outline-dark" onClick={() => setOwn(own.slice(0, -1))}>
              Take the last one back
            </Button>{' '}
            <Button size="sm" variant="outline-dark" onClick={() => setOwn([])}>
              Begin anew
            </Button>
          </>
        )}
      </section>
      <section aria-label="Causes" aria-live="polite">
        <h2>What it could be</h2>
        {wrong === 0 ? (
          <p className="soft">
            Nothing that was seen is wrong so far. Begin with the measurement beside, or write down at its step what is
            otherwise: it counts here.
          </p>
        ) : null}
        {wrong > 0 && (
          <ol className="causes">
            {causes.slice(0, LISTED).map(({ words, odds }) => (
              <li key={words}>
                <meter min={0} max={1} value={odds} aria-label={`odds ${Math.round(odds * 100)} %`} />
                <b>{Math.round(odds * 100)} %</b> {words}
              </li>
            ))}
          </ol>
        )}
        {wrong > 0 && diagnosis && (
          <p className="soft">
            Each fault that may be in a build is planted in the electrical model, and what it would show is held against
            what you saw. All other causes together:{' '}
            {Math.round(100 * Math.max(0, 1 - causes.slice(0, LISTED).reduce((sum, { odds }) => sum + odds, 0)))} %.
          </p>
        )}
      </section>
    </div>
  )
}
