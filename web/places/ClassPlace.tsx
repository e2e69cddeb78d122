import { useEffect, useMemo, useRef, useState } from 'react'
import { Button, Form, ProgressBar } from 'react-bootstrap'
import { Link } from 'react-router'
import { counted } from '../../core/base/counted.ts'
import { formatProblem } from '../../core/base/problem.ts'
import { classCsv } from '../../core/classroom/classCsv.ts'
import { type ClassRow, differenceWords, handedIn, isWell, withProgram } from '../../core/classroom/classRow.ts'
import { readPlan } from '../../core/plan/readPlan.ts'
import type { SourceFile } from '../../core/rehearse/cpp/preprocess.ts'
import { readScript } from '../../core/rehearse/script.ts'
import { Brand } from '../components/Brand.tsx'
import { saveAs } from '../components/bringup/takeAway.ts'
import { waitingFiles } from '../components/classroom/waitingFiles.ts'
import { ThemeButton } from '../components/ThemeButton.tsx'
import { useFileDrop } from '../components/useFileDrop.ts'
import { problemText, useCreateMutation } from '../store/api.ts'
import { useBaseCatalog } from '../store/catalog.ts'
import { useAppDispatch } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'
import { answerOf } from '../store/useSearch.ts'
import { SearchClient } from '../workers/search.ts'

/** Bytes of one file, and files, that are taken at most. */
const MOST_BYTES = 1_000_000
const MOST_FILES = 500

/** How far is everybody, and what stands in their way? */
export function ClassPlace() {
  const catalog = useBaseCatalog()
  const dispatch = useAppDispatch()
  const [files, setFiles] = useState<readonly SourceFile[]>([])
  const [asked, setAsked] = useState('')
  const [rows, setRows] = useState<readonly ClassRow[]>([])
  const [made, setMade] = useState<ReadonlyMap<string, string>>(new Map())
  const [bringing, setBringing] = useState(false)
  const [create] = useCreateMutation()
  const folder = useRef<HTMLInputElement>(null)
  const single = useRef<HTMLInputElement>(null)
  const say = (text: string): void => void dispatch(toasted({ text, kind: 'wrong' }))

  const take = async (given: readonly File[]): Promise<void> => {
    const wanted = given.filter(({ name }) => /\.(ya?ml|json|ino|cpp|h|hpp|py)$/i.test(name))
    const large = wanted.find(({ size }) => size > MOST_BYTES)
    if (large) say(`${large.name}: the file has ${large.size.toLocaleString('en')} bytes; expected at most 1,000,000`)
    else if (wanted.length > MOST_FILES) say(`${wanted.length} files; expected at most ${MOST_FILES}`)
    else if (wanted.length === 0) say('no plan among these files; expected files ending in .yaml')
    else {
      const read = await Promise.all(
        wanted.map(async (file) => ({ name: file.webkitRelativePath || file.name, text: await file.text() })),
      )
      setFiles((now) => [...now.filter(({ name }) => !read.some((one) => one.name === name)), ...read])
    }
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the place is opened
  useEffect(() => {
    const waiting = waitingFiles()
    if (waiting.length > 0) void take(waiting)
  }, [])
  const { over, drop } = useFileDrop(take)

  const own = useMemo(() => files.find(({ name }) => /\.rehearsal\.ya?ml$/i.test(name)), [files])
  const { works, left } = useMemo(() => handedIn(files.filter(({ name }) => name !== asked)), [files, asked])
  const plans = useMemo(() => handedIn(files).works.map(({ file }) => file), [files])
  const task = useMemo(() => {
    const text = files.find(({ name }) => name === asked)?.text
    const plan = text === undefined ? undefined : readPlan(text, asked, catalog)
    const script = own && readScript(own.text, own.name)
    const troubles = [plan, script].flatMap((one) => (one && !one.ok ? one.problems.map(formatProblem) : []))
    return { asked: plan?.ok ? plan.value : undefined, script: script?.ok ? script.value : undefined, troubles }
  }, [files, asked, own, catalog])

  // One after the other in a thread of their own: the table fills while one looks.
  useEffect(() => {
    let here = true
    const client = new SearchClient(catalog)
    setRows([])
    void (async () => {
      for (const work of works) {
        const row = await answerOf(client.classRow(work, task))
        if (!here) return
        if (row) setRows((now) => [...now, row])
      }
    })()
    return () => {
      here = false
      client.stop()
    }
  }, [works, task, catalog])

  const bringIn = async (): Promise<void> => {
    setBringing(true)
    const all = new Map(made)
    for (const work of works) {
      const { file, text } = work
      const row = rows.find((one) => one.file === file)
      if (all.has(file) || row?.trouble !== undefined) continue
      const plan = row?.plan && withProgram(row.plan, work, catalog)
      const done = await create(plan && plan !== row.plan ? { plan } : { text, file })
      if ('data' in done && done.data) all.set(file, done.data.id)
      else say(`${file}: ${problemText(done.error)}`)
      setMade(new Map(all))
    }
    setBringing(false)
  }
  const well = rows.filter(isWell).length
  return (
    <>
      <header className="top">
        <Brand />
        <div className="tools">
          <Link className="btn btn-sm btn-outline-dark" to="/">
            Plans
          </Link>
          <ThemeButton />
        </div>
      </header>
      <main className={`home class ${over ? 'over' : ''}`} id="main" {...drop}>
        <h1>Class</h1>
        <p className="soft">
          Plans of many, with their programs beside them: how far each is, what stands in its way, what differs from
          what was asked, and whether the program does what the script expects. Files stay on this machine.
        </p>
        <div className="class-tools">
          <input
            ref={folder}
            type="file"
            hidden
            multiple
            aria-label="Folder of plans"
            {...{ webkitdirectory: '' }}
            onChange={(event) => {
              const given = [...(event.target.files ?? [])]
              event.target.value = ''
              void take(given)
            }}
          />
          <input
            ref={single}
            type="file"
            hidden
            multiple
            aria-label="Files of plans"
            onChange={(event) => {
              const given = [...(event.target.files ?? [])]
              event.target.value = ''
              void take(given)
            }}
          />
          <Button size="sm" variant="dark" onClick={() => folder.current?.click()}>
            Take a folder
          </Button>
          <Button size="sm" variant="outline-dark" onClick={() => single.current?.click()}>
            Take files
          </Button>
          {plans.length > 0 && (
            <Form.Select
              size="sm"
              aria-label="Plan that was asked for"
              value={asked}
              onChange={(event) => setAsked(event.target.value)}
            >
              <option value="">nothing was asked for</option>
              {plans.map((name) => (
                <option key={name} value={name}>
                  asked: {name}
                </option>
              ))}
            </Form.Select>
          )}
          {rows.length > 0 && (
            <>
              <Button size="sm" variant="outline-dark" onClick={() => saveAs('class.csv', classCsv(rows))}>
                Table as CSV
              </Button>
              <Button size="sm" variant="outline-dark" disabled={bringing} onClick={() => void bringIn()}>
                {bringing ? `Bringing in … ${made.size} of ${works.length}` : 'Bring them all in'}
              </Button>
            </>
          )}
        </div>
        {rows.length < works.length && (
          <ProgressBar now={(rows.length / works.length) * 100} aria-label="Plans looked at" />
        )}
        {task.troubles.map((one) => (
          <p key={one} role="alert" className="text-danger">
            {one}
          </p>
        ))}
        {works.length > 0 && (
          <p role="status">
            {rows.length} of {counted(works.length, 'plan')} looked at; {well} as they should be
            {own && task.script && `; rehearsed by ${own.name}`}
            {left.filter((name) => name !== own?.name).length > 0 &&
              `; belong to no plan: ${left.filter((name) => name !== own?.name).join(', ')}`}
          </p>
        )}
        {rows.length > 0 && (
          <section className="class-scroll" tabIndex={0} aria-label="Table of the class">
            <table className="class-table">
              <thead>
                <tr>
                  <th scope="col">File</th>
                  <th scope="col">Board</th>
                  <th scope="col">Placed</th>
                  <th scope="col">Stands in the way</th>
                  <th scope="col">Differs</th>
                  <th scope="col">Rehearsal</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <Row key={row.file} row={row} id={made.get(row.file)} />
                ))}
              </tbody>
            </table>
          </section>
        )}
      </main>
    </>
  )
}

function Row({ row, id }: { readonly row: ClassRow; readonly id: string | undefined }) {
  const { file, trouble, board, placed, needed, faults, cautions, worst, rehearsal } = row
  return (
    <tr className={isWell(row) ? 'well' : ''}>
      <th scope="row">{id === undefined ? file : <Link to={`/plan/${id}/pins`}>{file}</Link>}</th>
      {trouble !== undefined ? (
        <td colSpan={5} className="text-danger">
          cannot be read: {trouble}
        </td>
      ) : (
        <>
          <td>{board || 'none'}</td>
          <td className="mono">
            {placed} of {needed}
          </td>
          <td>
            {faults + cautions === 0
              ? 'nothing'
              : `${[faults > 0 ? counted(faults, 'fault') : '', cautions > 0 ? counted(cautions, 'caution') : ''].filter(Boolean).join(', ')}: ${worst}`}
          </td>
          <td>
            {[differenceWords(row), row.comments > 0 ? counted(row.comments, 'open comment') : '']
              .filter(Boolean)
              .join('; ')}
          </td>
          <td>
            {rehearsal === undefined
              ? 'no program'
              : rehearsal.passed
                ? `passed${rehearsal.of > 0 ? `, ${rehearsal.came} of ${rehearsal.of}` : ''}`
                : `not passed: ${rehearsal.said || `${rehearsal.came} of ${rehearsal.of}`}`}
          </td>
        </>
      )}
    </tr>
  )
}
