import { useMemo, useState, useSyncExternalStore } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useLocation, useParams } from 'react-router'
import { openEnds } from '../../../core/assign/openEnds.ts'
import { counted } from '../../../core/base/counted.ts'
import type { RunFinding } from '../../../core/rehearse/stage/findings.ts'
import type { Finding } from '../../../core/rules/finding.ts'
import { count } from '../../../core/rules/index.ts'
import { sift } from '../../../core/rules/waiting.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { useMayChange } from '../../store/access.ts'
import { useBench } from '../../store/bench.tsx'
import { findingsOpen, roomForBench } from '../../store/choice.ts'
import { useDerived } from '../../store/derived.ts'
import { useHints } from '../../store/hints.ts'
import { useAppSelector } from '../../store/store.ts'
import { Term } from '../words.tsx'
import { AcceptedCard } from './AcceptedCard.tsx'
import { CommentForm, CommentList } from './Comments.tsx'
import { FindingCard } from './FindingCard.tsx'
import { FixAll } from './FixAll.tsx'
import { RunFindings, useRunFindings } from './RunFindings.tsx'

const groups = [
  { severity: 'fault', title: 'Faults', mark: '✕' },
  { severity: 'caution', title: 'Cautions', mark: '!' },
  { severity: 'tip', title: 'Tips', mark: 'i' },
] as const

/** Faults first, what is accepted last. */
const inOrder = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort((a, b) => Number(a.accepted !== undefined) - Number(b.accepted !== undefined))

const keyOf = (finding: Finding): string => `${finding.rule} ${finding.at.join(' ')}`

/** Below this width, in pixels, the bench wants the room of the findings. */
const NARROW = 1180

/** Whether the findings stand open: everywhere as chosen, beside the bench of a narrow screen by a choice of its own. */
function useFold(): { readonly isOpen: boolean; readonly set: (open: boolean) => void } {
  const onBench = useLocation().pathname.endsWith('/bench')
  const isOpen = findingsOpen.useIsOn()
  const wantsRoom = roomForBench.useIsOn()
  const narrow = useSyncExternalStore(onResize, () => window.innerWidth < NARROW)
  if (onBench && narrow) return { isOpen: !wantsRoom, set: (open) => roomForBench.set(!open) }
  return { isOpen, set: findingsOpen.set }
}

const onResize = (listener: () => void): (() => void) => {
  window.addEventListener('resize', listener)
  return () => window.removeEventListener('resize', listener)
}

/** What is wrong with the plan, beside every place. */
export function Findings() {
  const { findings: own, wiring } = useDerived()
  const { findings: ofBench } = useBench()
  const { standing, waiting } = useMemo(() => sift(wiring, own), [wiring, own])
  const all = useMemo(() => inOrder([...standing, ...ofBench]), [standing, ofBench])
  const [picked, setPicked] = useState<string>()
  const [about, setAbout] = useState('')
  const [commenting, setCommenting] = useState(false)
  const pin = useAppSelector((state) => state.plan.picked)
  const hints = useHints()
  const mayChange = useMayChange(useParams().id ?? '')
  const ofRun = useRunFindings()
  const counts = countBoth(all, ofRun)
  const subjects = useMemo(() => subjectsOf(all, wiring), [all, wiring])
  const subject = subjects.some(([ref]) => ref === about) ? about : ''
  const findings = subject === '' ? all : all.filter((finding) => refsOf(finding).has(subject))
  const accepted = findings.filter((finding) => finding.accepted !== undefined)
  const fold = useFold()
  const said = `${counted(counts.fault, 'fault')}, ${counted(counts.caution, 'caution')}${counts.tip > 0 ? `, ${counted(counts.tip, 'tip')}` : ''}`
  if (!fold.isOpen)
    return (
      <aside className="findings folded" aria-label="Findings">
        <button type="button" title="Show the findings" onClick={() => fold.set(true)}>
          <b>Findings</b>{' '}
          <span role="status" data-testid="finding-counts">
            {said}
          </span>
        </button>
      </aside>
    )
  return (
    <aside className="findings" aria-label="Findings">
      <header>
        <h2>Findings</h2>
        <span className="soft" role="status" data-testid="finding-counts">
          {said}
        </span>
        <button type="button" className="fold" title="Fold the findings" onClick={() => fold.set(false)}>
          ›<span className="visually-hidden">Fold the findings</span>
        </button>
      </header>
      <div className="finding-tools">
        {subjects.length > 1 && (
          <Form.Select
            size="sm"
            aria-label="Only findings about"
            value={subject}
            onChange={(event) => setAbout(event.target.value)}
          >
            <option value="">about all</option>
            {subjects.map(([ref, number]) => (
              <option key={ref} value={ref}>
                {ref} ({number})
              </option>
            ))}
          </Form.Select>
        )}
        {hints && counts.fault + counts.caution > 1 && <FixAll />}
        {mayChange && (
          <Button
            size="sm"
            variant="outline-dark"
            aria-label="Comment …"
            title="Comment on the picked pin, a part or the whole plan"
            aria-expanded={commenting}
            onClick={() => setCommenting(!commenting)}
          >
            <span aria-hidden="true">❝</span>
          </Button>
        )}
      </div>
      {commenting && <CommentForm key={pin ?? ''} on={{ pin }} onDone={() => setCommenting(false)} />}
      <section className="list" tabIndex={0} aria-label="List of findings">
        {!ofRun && counts.fault + counts.caution + counts.tip === 0 && (
          <p className="soft px-3 pt-3">
            {waiting.length === 0 ? 'Nothing stands in the way.' : 'Nothing of what is wired stands in the way.'}
          </p>
        )}
        <CommentList findings={own} />
        <Waiting findings={waiting} picked={picked} onPick={(key) => setPicked(picked === key ? undefined : key)} />
        {groups.map(({ severity, title, mark }) => {
          const own = findings.filter((finding) => finding.severity === severity && finding.accepted === undefined)
          return own.length === 0 ? null : (
            <section key={severity} aria-label={title}>
              <h3>
                <Term word={severity}>{title}</Term>
              </h3>
              {own.map((finding) => (
                <FindingCard
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
        {ofRun && <RunFindings findings={ofRun} subject={subject} />}
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

/** What is not wired yet: counted, and told part by part to who wants to know. */
function Waiting({
  findings,
  picked,
  onPick,
}: {
  readonly findings: readonly Finding[]
  readonly picked: string | undefined
  readonly onPick: (key: string) => void
}) {
  const { wiring } = useDerived()
  const [open, setOpen] = useState(false)
  if (findings.length === 0) return null
  const ends = wiring.parts.flatMap((part) => openEnds(wiring, part).filter(({ required }) => required))
  return (
    <section className="waiting" aria-label="Not wired yet">
      <button type="button" className="waiting-head" aria-expanded={open} onClick={() => setOpen(!open)}>
        <span aria-hidden="true">{open ? '▾' : '▸'}</span> Not wired yet: {counted(ends.length, 'pin')}
      </button>
      {open &&
        findings.map((finding) => (
          <FindingCard
            key={keyOf(finding)}
            finding={finding}
            mark="·"
            open={picked === keyOf(finding)}
            onPick={() => onPick(keyOf(finding))}
          />
        ))}
    </section>
  )
}

/** Findings of the plan and of the last rehearsal, by severity. */
function countBoth(findings: readonly Finding[], ofRun: readonly RunFinding[] = []): ReturnType<typeof count> {
  const counts = count(findings)
  const more = (severity: Finding['severity']): number => ofRun.filter((one) => one.severity === severity).length
  return { ...counts, fault: counts.fault + more('fault'), caution: counts.caution + more('caution') }
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
