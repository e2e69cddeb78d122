import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { sheetBody } from '../../core/sheets/html.ts'
import { makeSheet } from '../../core/sheets/sheet.ts'
import { sheetStyle } from '../../core/sheets/sheetStyle.ts'
import { type TableName, tableNames } from '../../core/sheets/tables.ts'
import { useDerived, usePlan } from '../store/derived.ts'
import { useAppSelector } from '../store/store.ts'

const titles: Readonly<Record<TableName, string>> = {
  wiring: 'Wiring table',
  legs: 'Legs in their holes',
  leads: 'Cables and their leads',
  supplies: 'Supplies',
  addresses: 'I2C addresses',
  labels: 'Labels for wires',
  parts: 'Parts',
  jumpers: 'Jumper wires',
  steps: 'Build steps',
  pins: 'Pin chart',
}

/** What goes to the workbench: the pages as they will print, and files. */
export function Sheets() {
  const { wiring } = useDerived()
  const plan = usePlan()
  const id = useAppSelector((state) => state.plan.id)
  const revision = useAppSelector((state) => state.plan.revision)
  const saved = useAppSelector((state) => state.plan.saveState === 'saved')
  const [chosen, setChosen] = useState<readonly TableName[]>(['wiring', 'parts', 'jumpers', 'pins'])
  const [paper, setPaper] = useState<'A4' | 'Letter'>('A4')
  const sheet = useMemo(() => makeSheet(wiring), [wiring])
  const only = tableNames.filter((name) => chosen.includes(name))
  const html = useMemo(
    () => sheetBody(sheet, { only, revision, accepted: plan.accepted }),
    [sheet, only, revision, plan.accepted],
  )
  return (
    <div className="sheets">
      <h1 className="visually-hidden">Sheets</h1>
      <style>{sheetStyle(plan.title, revision, paper)}</style>
      <aside aria-label="Pages and files">
        <Button variant="dark" onClick={() => window.print()} disabled={only.length === 0}>
          Print
        </Button>
        <h2>Pages</h2>
        <div>
          {tableNames.map((name) => (
            <Form.Check
              key={name}
              id={`page-${name}`}
              type="checkbox"
              label={titles[name]}
              checked={chosen.includes(name)}
              onChange={() =>
                setChosen(chosen.includes(name) ? chosen.filter((one) => one !== name) : [...chosen, name])
              }
            />
          ))}
        </div>
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
          ['csv', 'Wiring table as CSV'],
          ['markdown', 'All tables as Markdown'],
          ['html', 'Pages as HTML'],
          ['svg', 'Pin chart as SVG'],
        ].map(([as, text]) => (
          <a key={as} href={`/api/plans/${id}/sheet?as=${as}`} aria-disabled={!saved} download>
            {text}
          </a>
        ))}
        <a href={`/api/plans/${id}/file`} download>
          Plan file
        </a>
      </aside>
      {/* The writer escapes every text that comes from the plan. */}
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: the same pages that the command line writes */}
      <div className="desk" dangerouslySetInnerHTML={{ __html: html }} />
    </div>
  )
}
