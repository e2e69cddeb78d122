import { type ChangeEvent, type FormEvent, useRef, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link, useNavigate } from 'react-router'
import type { Language } from '../../core/catalog/boardSchema.ts'
import type { SourceFile } from '../../core/firmware/source/ir.ts'
import { Brand } from '../components/Brand.tsx'
import { leaveFiles } from '../components/classroom/waitingFiles.ts'
import { late } from '../components/late.tsx'
import { Bin } from '../components/plans/Bin.tsx'
import { KeptWork } from '../components/plans/KeptWork.tsx'
import { PlanList } from '../components/plans/PlanList.tsx'
import { SummariesNote } from '../components/plans/SummariesNote.tsx'
import { isSource, readSources, sourceEndings } from '../components/sources.ts'
import { ThemeButton } from '../components/ThemeButton.tsx'
import { useFileDrop } from '../components/useFileDrop.ts'
import { type NewPlan, problemText, useCreateMutation, useSamplesQuery } from '../store/api.ts'
import { useAppDispatch } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'

const FromProgram = late(() => import('../components/plans/FromProgram.tsx'), 'FromProgram', 'reader of programs')

/** Home: what each plan is, how far it is, and what stands in its way. */
export function Plans() {
  const [create] = useCreateMutation()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const file = useRef<HTMLInputElement>(null)
  const [program, setProgram] = useState<{ files: readonly SourceFile[]; language: Language }>()

  const open = async (body: NewPlan, place: 'kit' | 'pins'): Promise<void> => {
    const made = await create(body)
    if ('data' in made && made.data) navigate(`/plan/${made.data.id}/${place}`)
    else dispatch(toasted({ text: problemText(made.error), kind: 'wrong' }))
  }
  const wrong = (text: string): void => void dispatch(toasted({ text, kind: 'wrong' }))
  const importPlan = async (chosen: File): Promise<void> => {
    if (chosen.size > 1_000_000)
      wrong(`${chosen.name}: the file has ${chosen.size.toLocaleString('en')} bytes; expected at most 1,000,000`)
    else await open({ text: await chosen.text(), file: chosen.name }, 'pins')
  }
  /** A plan file is opened; files of a program are asked what plan they would make. */
  const take = async (given: readonly File[]): Promise<void> => {
    const [first] = given
    if (!first) return
    const isClass = given.filter(({ name }) => /\.(ya?ml|json)$/i.test(name)).length > 1
    if (isClass) {
      leaveFiles(given)
      navigate('/class')
    } else if (given.some(isSource)) {
      const read = await readSources(given)
      if ('trouble' in read) wrong(read.trouble)
      else setProgram(read)
    } else if (given.length > 1) wrong(`${given.length} files: expected plan files, or the files of one program`)
    else await importPlan(first)
  }
  const choose = (event: ChangeEvent<HTMLInputElement>): void => {
    const given = [...(event.target.files ?? [])]
    event.target.value = ''
    void take(given)
  }
  const { over, drop } = useFileDrop(take)

  return (
    <>
      <header className="top">
        <Brand />
        <div className="tools">
          <input
            ref={file}
            type="file"
            accept={`.yaml,.yml,.json,${sourceEndings}`}
            multiple
            hidden
            onChange={choose}
            aria-label="Plan file or program"
          />
          <Link className="btn btn-sm btn-outline-dark" to="/class">
            Class
          </Link>
          <Link className="btn btn-sm btn-outline-dark" to="/shelf">
            Shelf
          </Link>
          <Button size="sm" variant="outline-dark" onClick={() => file.current?.click()}>
            Open a plan file or a program
          </Button>
          <a
            className="btn btn-sm btn-outline-dark"
            href="/api/archive"
            download
            title="All plans and own entries in one archive of plain text"
          >
            Take all along
          </a>
          <ThemeButton />
        </div>
      </header>
      <main className={`home ${over ? 'over' : ''}`} id="main" {...drop}>
        {program ? (
          <FromProgram
            files={program.files}
            language={program.language}
            onPlan={(plan) => void open({ plan }, 'pins')}
            onClose={() => setProgram(undefined)}
          />
        ) : (
          <Home open={open} />
        )}
      </main>
    </>
  )
}

/** The plans, and what one can start with. */
function Home({ open }: { readonly open: (body: NewPlan, place: 'kit' | 'pins') => Promise<void> }) {
  const { data: samples } = useSamplesQuery()
  const [title, setTitle] = useState('')
  const start = (event: FormEvent): void => {
    event.preventDefault()
    void open({ title: title.trim() || 'New plan' }, 'kit')
  }
  return (
    <>
      <h1>Plans</h1>
      <p className="soft">
        Which pin for which signal, whether it will work, and what to plug in where. A plan file or a program dropped
        here is opened.
      </p>
      <Form onSubmit={start} className="d-flex gap-2 mb-3" style={{ maxWidth: 560 }}>
        <Form.Control
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          placeholder="Name of a new plan"
          aria-label="Name of a new plan"
          maxLength={200}
        />
        <Button type="submit" variant="dark" className="text-nowrap">
          Start a plan
        </Button>
      </Form>
      <KeptWork />
      <SummariesNote />
      <PlanList
        empty={
          <section className="greeting">
            <h2>Nothing planned yet</h2>
            <p>
              A plan starts with a board and the parts in front of you. Name one above, or open a sample and look
              around: it opens as a copy, so nothing can be spoiled.
            </p>
            {samples?.[0] && (
              <Button variant="dark" onClick={() => void open({ sample: samples[0]!.id }, 'pins')}>
                Open “{samples[0].title}”
              </Button>
            )}
          </section>
        }
      />
      <Bin />
      {samples && samples.length > 0 && (
        <section className="mt-5">
          <h2>Samples</h2>
          <div className="samples">
            {samples.map((sample) => (
              <article key={sample.id} className="sample">
                <h3>{sample.title}</h3>
                <p>{sample.notes}</p>
                <div>
                  <Button
                    size="sm"
                    variant="outline-dark"
                    onClick={() => void open({ sample: sample.id }, 'pins')}
                    aria-label={`Open a copy of ${sample.title}`}
                  >
                    Open a copy
                  </Button>
                </div>
              </article>
            ))}
          </div>
        </section>
      )}
    </>
  )
}
