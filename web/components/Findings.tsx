import { useEffect, useMemo, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Link, useLocation, useParams } from 'react-router'
import { fixesFor } from '../../core/advice/fixes.ts'
import type { Mended } from '../../core/advice/mendAll.ts'
import { describeDifference } from '../../core/plan/difference.ts'
import { applyEdits, type Fix } from '../../core/plan/edit.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { Finding } from '../../core/rules/finding.ts'
import { count, isBenchRule } from '../../core/rules/index.ts'
import { counted } from '../../core/text/counted.ts'
import type { Wiring } from '../../core/wiring/model.ts'
import { useBench } from '../store/bench.tsx'
import { useCatalog, useDerived } from '../store/derived.ts'
import { editPlan as edit, editLate } from '../store/desk.ts'
import { planActions } from '../store/planSlice.ts'
import { useAppDispatch } from '../store/store.ts'
import { answerOf, useSearch } from '../store/useSearch.ts'
import { SearchClient } from '../workers/search.ts'

const groups = [
  { severity: 'fault', title: 'Faults', mark: '✕' },
  { severity: 'caution', title: 'Cautions', mark: '!' },
  { severity: 'tip', title: 'Tips', mark: 'i' },
] as const

/** Faults first, what is accepted last. */
const inOrder = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort((a, b) => Number(a.accepted !== undefined) - Number(b.accepted !== undefined))

const keyOf = (finding: Finding): string => `${finding.rule} ${finding.at.join(' ')}`

/** What is wrong with the plan, beside every place. */
export function Findings() {
  const { findings: own, wiring } = useDerived()
  const { findings: ofBench } = useBench()
  const all = useMemo(() => inOrder([...own, ...ofBench]), [own, ofBench])
  const [picked, setPicked] = useState<string>()
  const [about, setAbout] = useState('')
  const counts = count(all)
  const subjects = useMemo(() => subjectsOf(all, wiring), [all, wiring])
  const subject = subjects.some(([ref]) => ref === about) ? about : ''
  const findings = subject === '' ? all : all.filter((finding) => refsOf(finding).has(subject))
  const accepted = findings.filter((finding) => finding.accepted !== undefined)
  return (
    <aside className="findings" aria-label="Findings">
      <header>
        <h2>Findings</h2>
        <span className="soft" role="status" data-testid="finding-counts">
          {counted(counts.fault, 'fault')}, {counted(counts.caution, 'caution')}
          {counts.tip > 0 ? `, ${counted(counts.tip, 'tip')}` : ''}
        </span>
      </header>
      {subjects.length > 1 && (
        <div className="finding-tools">
          <Form.Select
            size="sm"
            aria-label="Only findings about"
            value={subject}
            onChange={(event) => setAbout(event.target.value)}
          >
            <option value="">about everything</option>
            {subjects.map(([ref, number]) => (
              <option key={ref} value={ref}>
                {ref} ({number})
              </option>
            ))}
          </Form.Select>
          {counts.fault + counts.caution > 1 && <MendAll />}
        </div>
      )}
      <section className="list" tabIndex={0} aria-label="List of findings">
        {counts.fault + counts.caution + counts.tip === 0 && (
          <p className="soft px-3 pt-3">Nothing stands in the way.</p>
        )}
        {groups.map(({ severity, title, mark }) => {
          const own = findings.filter((finding) => finding.severity === severity && finding.accepted === undefined)
          return own.length === 0 ? null : (
            <section key={severity} aria-label={title}>
              <h3>{title}</h3>
              {own.map((finding) => (
                <Card
                  key={keyOf(finding)}
                  finding={finding}
                  mark={mark}
                  open={picked === keyOf(finding)}
                  onPick={() => setPicked(picked === keyOf(finding) ? undefined : keyOf(finding))}
                />
              ))}
            </section>
          )
        })}
        {accepted.length > 0 && (
          <section aria-label="Accepted">
            <h3>Accepted</h3>
            {accepted.map((finding) => (
              <AcceptedCard key={keyOf(finding)} finding={finding} />
            ))}
          </section>
        )}
      </section>
    </aside>
  )
}

const refsOf = (finding: Finding): Set<string> => new Set(finding.at.map((at) => at.split('.')[0] as string))

/** Boards, supplies and parts that findings are about, with their number. */
function subjectsOf(findings: readonly Finding[], wiring: Wiring): [ref: string, number: number][] {
  const counts = new Map<string, number>()
  const known = new Set([...wiring.boards, ...wiring.supplies, ...wiring.parts].map((one) => one.ref))
  for (const finding of findings)
    for (const ref of refsOf(finding)) if (known.has(ref)) counts.set(ref, (counts.get(ref) ?? 0) + 1)
  return [...counts].sort((a, b) => a[0].localeCompare(b[0]))
}

/** Mends in one step what can be mended without giving anything up; shows the steps before it does. */
function MendAll() {
  const { wiring } = useDerived()
  const client = useSearch()
  const [busy, setBusy] = useState(false)
  const [from, setFrom] = useState(wiring.plan)
  const [mended, setMended] = useState<Mended>()
  const look = async (): Promise<void> => {
    setBusy(true)
    setFrom(wiring.plan)
    setMended(await answerOf(client.mendAll(wiring.plan)))
    setBusy(false)
  }
  const close = (): void => setMended(undefined)
  return (
    <>
      <Button size="sm" variant="outline-dark" className="text-nowrap" disabled={busy} onClick={() => void look()}>
        {busy ? 'Looking …' : 'Mend all that is safe'}
      </Button>
      <Modal show={mended !== undefined} onHide={close} aria-labelledby="mend-all" scrollable>
        <Modal.Header closeButton>
          <Modal.Title id="mend-all" as="h2">
            {mended?.steps.length === 0 ? 'Nothing can be mended safely' : `${mended?.steps.length} findings to mend`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body tabIndex={0}>
          <p>
            {mended?.steps.length === 0
              ? 'What is left needs a choice of yours: open each finding to see its fixes.'
              : 'No part, feature or choice is given up, locked wires stay, and one undo takes it all back.'}
          </p>
          <ol className="mend-steps">
            {mended?.steps.map((step) => (
              <li key={step.message}>
                <b>{step.fix}</b>
                <div className="soft">{step.message}</div>
              </li>
            ))}
          </ol>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-dark" onClick={close}>
            {mended?.steps.length === 0 ? 'Close' : 'Leave as it is'}
          </Button>
          {mended !== undefined && mended.steps.length > 0 && (
            <Button
              variant="dark"
              onClick={() => {
                editLate(from, mended.edits, `Mend ${mended.steps.length} findings`)
                close()
              }}
            >
              Mend them
            </Button>
          )}
        </Modal.Footer>
      </Modal>
    </>
  )
}

interface CardProps {
  readonly finding: Finding
  readonly mark: string
  readonly open: boolean
  readonly onPick: () => void
}

function Card({ finding, mark, open, onPick }: CardProps) {
  const { wiring, findings } = useDerived()
  const dispatch = useAppDispatch()
  const { id } = useParams()
  const { pathname } = useLocation()
  const onBench = isBenchRule(finding.rule)
  const here = pathname.endsWith(onBench ? '/bench' : '/pins')
  const own = useMemo(
    () => (open && !onBench ? fixesFor(wiring, finding, findings) : []),
    [open, onBench, wiring, finding, findings],
  )
  const tried = useBenchFixes(open && onBench, wiring.plan, finding)
  const fixes = onBench ? (tried ?? []) : own
  const [shown, setShown] = useState<string>()
  const [reason, setReason] = useState<string>()
  const first = fixes[0]
  // A pin that the model can say something of: one that is wired, a board's before a part's.
  const pins = finding.at.filter((end) => wiring.terminal(end) && wiring.netOf(end).wired)
  const pin = onBench ? undefined : (pins.find((end) => wiring.terminal(end)?.host?.board) ?? pins[0])
  const apply = (fix: Fix): void => {
    edit(fix.edits, fix.title)
  }
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
          <p className="why">{finding.why}</p>
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
          {fixes.length === 0 && (
            <p className="why">
              {onBench && !tried ? 'Trying out fixes …' : 'There is no fix in one press for this one.'}
            </p>
          )}
          <Preview fix={fixes.find((fix) => fix.title === shown)} />
          {reason !== undefined && (
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
          )}
        </>
      )}
    </article>
  )
}

/** Fixes of the bench are laid out before they are offered, in the thread of the search; undefined until then. */
function useBenchFixes(wanted: boolean, plan: Plan, finding: Finding): readonly Fix[] | undefined {
  const catalog = useCatalog()
  const [fixes, setFixes] = useState<readonly Fix[]>()
  useEffect(() => {
    if (!wanted) return
    const client = new SearchClient(catalog)
    setFixes(undefined)
    void answerOf(client.benchFixes(plan, { rule: finding.rule, at: finding.at })).then(setFixes)
    return () => client.stop()
  }, [wanted, catalog, plan, finding.rule, finding.at])
  return fixes
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

function AcceptedCard({ finding }: { finding: Finding }) {
  return (
    <article className="finding">
      <div style={{ overflowWrap: 'anywhere' }}>{finding.message}</div>
      <p className="why">
        Accepted: {finding.accepted}{' '}
        <Button
          size="sm"
          variant="link"
          className="p-0 align-baseline"
          onClick={() => edit([{ do: 'withdraw', rule: finding.rule, at: finding.at }], 'Take back an acceptance')}
        >
          take back
        </Button>
      </p>
    </article>
  )
}
