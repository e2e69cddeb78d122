import { useMemo, useState } from 'react'
import { Button, Form, Spinner } from 'react-bootstrap'
import { Link } from 'react-router'
import { openFindings } from '../../core/sheets/cover.ts'
import { sheetBody } from '../../core/sheets/html.ts'
import { benchPages, type PageName, pageHolds, pageNames, pageTitles, usualPages } from '../../core/sheets/pages.ts'
import { makeSheet } from '../../core/sheets/sheet.ts'
import { sheetStyle } from '../../core/sheets/sheetStyle.ts'
import { PaperAccount } from '../components/kit/PaperAccount.tsx'
import { useSharedLink } from '../store/access.ts'
import { useBench } from '../store/bench.tsx'
import { useDerived, usePlan } from '../store/derived.ts'
import { useAppSelector } from '../store/store.ts'
import { useStyleSheet } from '../theme/useStyleSheet.ts'

/** What goes to the workbench: the pages as they will print, and files. */
export function Sheets() {
  const { findings } = useDerived()
  const plan = usePlan()
  const { layout, wiring, findings: ofBench, share } = useBench()
  const id = useAppSelector((state) => state.plan.pen?.id)
  const revision = useAppSelector((state) => state.plan.pen?.base.revision)
  const saved = useAppSelector((state) => state.plan.pen?.sync.is === 'saved')
  const [chosen, setChosen] = useState<readonly PageName[]>(usualPages)
  const [paper, setPaper] = useState<'A4' | 'Letter'>('A4')
  const hasBench = Object.keys(plan.bench?.breadboards ?? {}).length > 0
  const waiting = hasBench && (!layout || share !== undefined)
  const sheet = useMemo(() => (waiting ? undefined : makeSheet(wiring, layout)), [waiting, wiring, layout])
  const only = useMemo(
    () => pageNames.filter((name) => chosen.includes(name) && (hasBench || !benchPages.includes(name))),
    [chosen, hasBench],
  )
  const open = useMemo(() => openFindings([...findings, ...ofBench]), [findings, ofBench])
  const link = useSharedLink(id)
  const html = useMemo(
    () => (sheet ? sheetBody({ sheet, wiring, layout }, { only, revision, accepted: plan.accepted, open, link }) : ''),
    [sheet, wiring, layout, only, revision, plan.accepted, open, link],
  )
  useStyleSheet(sheetStyle(plan.title, revision, paper))
  return (
    <div className="sheets">
      <h1 className="visually-hidden">Sheets</h1>
      <aside aria-label="Pages and files">
        <Button variant="dark" onClick={() => window.print()} disabled={only.length === 0 || waiting}>
          Print
        </Button>
        <h2>Pages</h2>
        <div>
          {pageNames.map((name) => (
            <Form.Check
              key={name}
              id={`page-${name}`}
              type="checkbox"
              label={
                <>
                  {pageTitles[name]}{' '}
                  <span className="soft">{sheet ? pageHolds(sheet, name, { open, accepted: plan.accepted }) : ''}</span>
                </>
              }
              disabled={!hasBench && benchPages.includes(name)}
              checked={only.includes(name)}
              onChange={() =>
                setChosen(chosen.includes(name) ? chosen.filter((one) => one !== name) : [...chosen, name])
              }
            />
          ))}
        </div>
        {!hasBench && (
          <p className="soft mb-0">
            Holes and drawings come with a breadboard on the <Link to={`/plan/${id}/bench`}>bench</Link>.
          </p>
        )}
        <h2>Paper</h2>
        <Form.Select
          aria-label="Paper"
          value={paper}
          onChange={(event) => setPaper(event.target.value as 'A4' | 'Letter')}
        >
          <option>A4</option>
          <option>Letter</option>
        </Form.Select>
        <h2>Files</h2>
        {[
          ['as=csv', 'Wiring table as CSV'],
          ...(hasBench ? [['as=csv&only=legs', 'Legs as CSV']] : []),
          ['as=markdown', 'All tables as Markdown'],
          [`as=html&paper=${paper}${only.length > 0 ? `&only=${only.join(',')}` : ''}`, 'Chosen pages as HTML'],
          ['as=svg', 'Pin chart as SVG'],
          ...(hasBench ? [['as=svg&only=drawing', 'Drawing as SVG']] : []),
          ['as=svg&only=strips', 'Strips as SVG'],
        ].map(([query, text]) => (
          <a key={query} href={`/api/plans/${id}/sheet?${query}`} aria-disabled={!saved} download>
            {text}
          </a>
        ))}
        <a href={`/api/plans/${id}/file`} download>
          Plan file
        </a>
      </aside>
      <div className="desk-side">
        <PaperAccount />
        {waiting ? (
          <div className="desk">
            <Spinner animation="border" role="status" aria-label="Laying the bench out" />
          </div>
        ) : (
          // biome-ignore lint/security/noDangerouslySetInnerHtml: the same pages that the command line writes, every text escaped
          <div className="desk" dangerouslySetInnerHTML={{ __html: html }} />
        )}
      </div>
    </div>
  )
}
