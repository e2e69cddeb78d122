import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { describeDifference } from '../../core/plan/difference.ts'
import { applyEdits, type Fix } from '../../core/plan/edit.ts'
import type { Report } from '../../core/rules/finding.ts'
import { fixesFor } from '../../core/rules/fixes.ts'
import { count } from '../../core/rules/index.ts'
import { useDerived, useEdit } from '../store/derived.ts'
import { planActions } from '../store/planSlice.ts'
import { useAppDispatch } from '../store/store.ts'

const groups = [
  { severity: 'fault', title: 'Faults', mark: '✕' },
  { severity: 'caution', title: 'Cautions', mark: '!' },
  { severity: 'tip', title: 'Tips', mark: 'i' },
] as const

const keyOf = (report: Report): string => `${report.rule} ${report.at.join(' ')}`

/** What is wrong with the plan, beside every place. */
export function Findings() {
  const { reports } = useDerived()
  const [picked, setPicked] = useState<string>()
  const counts = count(reports)
  const accepted = reports.filter((report) => report.accepted !== undefined)
  return (
    <aside className="findings" aria-label="Findings">
      <header>
        <h2>Findings</h2>
        <span className="soft" role="status" data-testid="finding-counts">
          {plural(counts.fault, 'fault')}, {plural(counts.caution, 'caution')}
          {counts.tip > 0 ? `, ${plural(counts.tip, 'tip')}` : ''}
        </span>
      </header>
      <section className="list" tabIndex={0} aria-label="List of findings">
        {counts.fault + counts.caution + counts.tip === 0 && (
          <p className="soft px-3 pt-3">Nothing stands in the way.</p>
        )}
        {groups.map(({ severity, title, mark }) => {
          const own = reports.filter((report) => report.severity === severity && report.accepted === undefined)
          return own.length === 0 ? null : (
            <section key={severity} aria-label={title}>
              <h3>{title}</h3>
              {own.map((report) => (
                <Card
                  key={keyOf(report)}
                  report={report}
                  mark={mark}
                  open={picked === keyOf(report)}
                  onPick={() => setPicked(picked === keyOf(report) ? undefined : keyOf(report))}
                />
              ))}
            </section>
          )
        })}
        {accepted.length > 0 && (
          <section aria-label="Accepted">
            <h3>Accepted</h3>
            {accepted.map((report) => (
              <AcceptedCard key={keyOf(report)} report={report} />
            ))}
          </section>
        )}
      </section>
    </aside>
  )
}

interface CardProps {
  readonly report: Report
  readonly mark: string
  readonly open: boolean
  readonly onPick: () => void
}

function Card({ report, mark, open, onPick }: CardProps) {
  const { wiring, reports } = useDerived()
  const dispatch = useAppDispatch()
  const edit = useEdit()
  const fixes = useMemo(() => (open ? fixesFor(wiring, report, reports) : []), [open, wiring, report, reports])
  const [shown, setShown] = useState<string>()
  const [reason, setReason] = useState<string>()
  const first = fixes[0]
  const apply = (fix: Fix): void => {
    edit(fix.edits, fix.title)
  }
  return (
    <article className={`finding ${report.severity} ${open ? 'picked' : ''}`} data-rule={report.rule}>
      <button
        type="button"
        className="say"
        aria-expanded={open}
        onClick={() => {
          onPick()
          dispatch(planActions.lit(open ? [] : report.at))
        }}
      >
        <span className="sign" aria-hidden="true">
          {mark}
        </span>
        <span className="visually-hidden">{report.severity}: </span>
        {report.message}
      </button>
      {open && (
        <>
          <p className="why">{report.why}</p>
          <div className="fixes">
            {fixes.map((fix) => (
              <Button
                key={fix.title}
                size="sm"
                variant={fix === first ? 'dark' : 'outline-dark'}
                onClick={() => apply(fix)}
                onFocus={() => setShown(fix.title)}
                onMouseEnter={() => setShown(fix.title)}
              >
                {fix.title}
              </Button>
            ))}
            {reason === undefined && (
              <Button size="sm" variant="outline-dark" onClick={() => setReason('')}>
                Accept …
              </Button>
            )}
          </div>
          {fixes.length === 0 && <p className="why">There is no fix in one press for this one.</p>}
          <Preview fix={fixes.find((fix) => fix.title === shown)} />
          {reason !== undefined && (
            <Form
              className="mt-2 d-flex gap-2"
              onSubmit={(event) => {
                event.preventDefault()
                if (reason.trim() !== '')
                  edit(
                    [{ do: 'accept', rule: report.rule, at: report.at, because: reason.trim().slice(0, 200) }],
                    `Accept ${report.rule}`,
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
          )}
        </>
      )}
    </article>
  )
}

function Preview({ fix }: { fix: Fix | undefined }) {
  const { wiring } = useDerived()
  const lines = useMemo(
    () => (fix ? describeDifference(wiring.plan, applyEdits(wiring.plan, fix.edits), wiring.catalog) : []),
    [fix, wiring],
  )
  if (lines.length === 0) return null
  return (
    <ul className="preview" aria-label="What this changes">
      {lines.slice(0, 8).map((line) => (
        <li key={line}>{line}</li>
      ))}
      {lines.length > 8 && <li>and {lines.length - 8} more</li>}
    </ul>
  )
}

function AcceptedCard({ report }: { report: Report }) {
  const edit = useEdit()
  return (
    <article className="finding">
      <div style={{ overflowWrap: 'anywhere' }}>{report.message}</div>
      <p className="why">
        Accepted: {report.accepted}{' '}
        <Button
          size="sm"
          variant="link"
          className="p-0 align-baseline"
          onClick={() => edit([{ do: 'withdraw', rule: report.rule, at: report.at }], 'Take back an acceptance')}
        >
          take back
        </Button>
      </p>
    </article>
  )
}

const plural = (number: number, word: string): string => `${number} ${word}${number === 1 ? '' : 's'}`
