import { useEffect, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link, useLocation, useParams } from 'react-router'
import { fixesFor, type TriedFix } from '../../../core/advice/fixes.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import type { Finding } from '../../../core/rules/finding.ts'
import { isBenchRule } from '../../../core/rules/index.ts'
import { useCatalog, useDerived } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useHints } from '../../store/hints.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch } from '../../store/store.ts'
import { answerOf } from '../../store/useSearch.ts'
import { SearchClient } from '../../workers/search.ts'
import { Changes } from '../Changes.tsx'
import { Explained } from '../words.tsx'
import { CommentForm } from './Comments.tsx'

interface CardProps {
  readonly finding: Finding
  readonly mark: string
  readonly open: boolean
  readonly onPick: () => void
}

/** One finding: what and where in a sentence, and when it is open why, what fixes it, and the way to accept it. */
export function FindingCard({ finding, mark, open, onPick }: CardProps) {
  const { wiring, findings } = useDerived()
  const dispatch = useAppDispatch()
  const { id } = useParams()
  const { pathname } = useLocation()
  const onBench = isBenchRule(finding.rule)
  const hints = useHints()
  const here = pathname.endsWith(onBench ? '/bench' : '/pins')
  const own = useMemo(
    () => (open && hints && !onBench ? fixesFor(wiring, finding, findings) : []),
    [open, hints, onBench, wiring, finding, findings],
  )
  const tried = useBenchFixes(open && hints && onBench, wiring.plan, finding)
  const fixes = onBench ? (tried ?? []) : own
  const [shown, setShown] = useState<string>()
  const [asks, setAsks] = useState<'reason' | 'comment'>()
  const first = fixes[0]
  const shownFix = fixes.find((fix) => fix.title === shown)
  // A pin that the model can say something of: one that is wired, a board's before a part's.
  const pins = finding.at.filter((end) => wiring.terminal(end) && wiring.netOf(end).wired)
  const pin = onBench ? undefined : (pins.find((end) => wiring.terminal(end)?.host?.board) ?? pins[0])
  return (
    <article className={`finding ${finding.severity} ${open ? 'picked' : ''}`} data-rule={finding.rule}>
      <button
        type="button"
        className="say"
        aria-expanded={open}
        onClick={() => {
          onPick()
          dispatch(planActions.lit(open ? [] : finding.at))
        }}
      >
        <span className="sign" aria-hidden="true">
          {mark}
        </span>
        <span className="visually-hidden">{finding.severity}: </span>
        {finding.message}
      </button>
      {open && (
        <>
          <p className="why">
            <Explained text={finding.why} />
          </p>
          <p className="rule-line">
            <span className="mono">{finding.rule}</span>
            {!here && (
              <Link to={`/plan/${id}/${onBench ? 'bench' : 'pins'}`} className="ms-2">
                Show on the {onBench ? 'bench' : 'board'}
              </Link>
            )}
            {pin !== undefined && (
              <Link to={`/plan/${id}/workings/pins?end=${encodeURIComponent(pin)}`} className="ms-2">
                Volts at {pin}
              </Link>
            )}
          </p>
          <div className="fixes">
            {fixes.map((fix) => (
              <Button
                key={fix.title}
                size="sm"
                variant={fix === first ? 'dark' : 'outline-dark'}
                onClick={() => edit(fix.edits, fix.title)}
                onFocus={() => setShown(fix.title)}
                onMouseEnter={() => setShown(fix.title)}
              >
                {fix.title}
                {fix.brings.length > 0 && <span title="It brings a caution"> !</span>}
              </Button>
            ))}
            {asks === undefined && (
              <>
                <Button size="sm" variant="outline-dark" onClick={() => setAsks('reason')}>
                  Accept …
                </Button>
                <Button size="sm" variant="outline-dark" onClick={() => setAsks('comment')}>
                  Comment …
                </Button>
              </>
            )}
          </div>
          {fixes.length === 0 && (
            <p className="why">
              {!hints
                ? 'This is a task to be solved by oneself: fixes are not offered.'
                : onBench && !tried
                  ? 'Trying out fixes …'
                  : 'There is no fix in one press for this one.'}
            </p>
          )}
          <Changes edits={shownFix?.edits} />
          {shownFix?.brings.map((message) => (
            <p key={message} className="brings">
              <b>It brings a caution:</b> {message}
            </p>
          ))}
          {asks === 'reason' && <AcceptForm finding={finding} />}
          {asks === 'comment' && <CommentForm on={finding} onDone={() => setAsks(undefined)} />}
        </>
      )}
    </article>
  )
}

/** Asks for the reason, which is kept in the plan and printed. */
function AcceptForm({ finding }: { finding: Finding }) {
  const [reason, setReason] = useState('')
  return (
    <Form
      className="mt-2 d-flex gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (reason.trim() !== '')
          edit(
            [{ do: 'accept', rule: finding.rule, at: finding.at, because: reason.trim().slice(0, 200) }],
            `Accept ${finding.rule}`,
          )
      }}
    >
      <Form.Control
        size="sm"
        autoFocus
        value={reason}
        maxLength={200}
        onChange={(event) => setReason(event.target.value)}
        placeholder="Why it is all right"
        aria-label="Why it is all right"
      />
      <Button size="sm" variant="dark" type="submit" disabled={reason.trim() === ''}>
        Accept
      </Button>
    </Form>
  )
}

/** Fixes of the bench are laid out before they are offered, in the thread of the search; undefined until then. */
function useBenchFixes(wanted: boolean, plan: Plan, finding: Finding): readonly TriedFix[] | undefined {
  const catalog = useCatalog()
  const [fixes, setFixes] = useState<readonly TriedFix[]>()
  useEffect(() => {
    if (!wanted) return
    const client = new SearchClient(catalog)
    setFixes(undefined)
    void answerOf(client.benchFixes(plan, { rule: finding.rule, at: finding.at })).then(setFixes)
    return () => client.stop()
  }, [wanted, catalog, plan, finding.rule, finding.at])
  return fixes
}
