import { useEffect, useMemo, useState } from 'react'
import { Button, Modal, Spinner } from 'react-bootstrap'
import { useLocation, useNavigate, useParams, useSearchParams } from 'react-router'
import type { Problem } from '../../../core/base/problem.ts'
import { withForm } from '../../../core/catalog/formText.ts'
import { type EntryKind, readOwnEntry } from '../../../core/catalog/ownEntry.ts'
import { emptyForm } from '../../../core/catalog/partForm.ts'
import {
  problemText,
  useDeleteEntryMutation,
  useEntriesQuery,
  useEntryPlansQuery,
  useSaveEntryMutation,
} from '../../store/api.ts'
import { useCatalog } from '../../store/derived.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { PartDrawing } from './PartDrawing.tsx'
import { PartForm } from './PartForm.tsx'
import { PinChart } from './PinChart.tsx'
import { YamlField } from './YamlField.tsx'

/** Writes an entry of the maker's own as YAML, checked at every key and drawn as soon as it holds. */
export function EntryEditor({ isNew }: { isNew: boolean }) {
  const { kind: written, id = '' } = useParams()
  const kind: EntryKind = written === 'boards' ? 'boards' : 'parts'
  const imported = (useLocation().state as { text?: string } | null)?.text
  const [asked] = useSearchParams()
  const name = asked.get('name') ?? ''
  const draft = useDraft(`${kind} ${isNew ? `new ${id}` : id}`)
  const [start, setStart] = useState<string | undefined>(imported ?? (id === '' ? named(name) : undefined))
  const [text, setText] = useState<string | undefined>(imported ?? draft.kept)
  const { data: entries } = useEntriesQuery()
  const line = isNew ? undefined : entries?.entries.find((one) => one.kind === kind && one.id === id)
  useEffect(() => {
    if (imported !== undefined || id === '') return
    let here = true
    void fetch(`/api/entries/${kind}/${encodeURIComponent(id)}/file`)
      .then(async (answer) => (answer.ok ? answer.text() : '# Nothing to start from was found.\n'))
      .then((yaml) => here && setStart(isNew ? renamed(yaml, id) : yaml))
    return () => {
      here = false
    }
  }, [imported, kind, id, isNew])
  const shown = text ?? start
  if (shown === undefined || start === undefined || !entries)
    return <Spinner animation="border" role="status" aria-label="Loading the entry" />
  const change = (next: string): void => {
    setText(next)
    if (next === start) draft.drop()
    else draft.keep(next)
  }
  return (
    <Editor
      kind={kind}
      id={isNew ? undefined : id}
      revision={line?.revision}
      text={shown}
      onText={change}
      onDone={draft.drop}
      isLost={draft.isLost}
      onAnew={draft.kept !== undefined && shown !== start ? () => change(start) : undefined}
    />
  )
}

/** A part of which only the name is known yet. */
const named = (name: string): string =>
  name === '' ? '' : (withForm('', { ...emptyForm, title: name.slice(0, 120) }, true) ?? '')

/** What was written and not put on the shelf yet, kept in this browser until it is, or thrown away. */
function useDraft(of: string) {
  const key = `markpost entry ${of}`
  const [kept] = useState(() => localStorage.getItem(key) ?? undefined)
  const [isLost, setLost] = useState(false)
  return {
    kept,
    /** The browser's store takes nothing more. */
    isLost,
    keep: (text: string) => {
      try {
        localStorage.setItem(key, text)
        setLost(false)
      } catch {
        setLost(true)
      }
    },
    drop: () => localStorage.removeItem(key),
  }
}

/** A copy of an entry under an id of its own. */
const renamed = (yaml: string, id: string): string =>
  yaml.replace(/^id: .*$/m, `id: my-${id}`).replace(/^usual: true\n/m, '')

interface EditorProps {
  readonly kind: EntryKind
  /** Undefined for a new entry. */
  readonly id: string | undefined
  readonly revision: number | undefined
  readonly text: string
  readonly onText: (text: string) => void
  /** It is on the shelf, or off it. */
  readonly onDone: () => void
  /** What is written is not kept in this browser. */
  readonly isLost: boolean
  /** Throws away what an earlier visit left; undefined where nothing was. */
  readonly onAnew: (() => void) | undefined
}

function Editor({ kind, id, revision, text, onText, onDone, isLost, onAnew }: EditorProps) {
  const catalog = useCatalog()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const plan = useSearchParams()[0].get('for')
  const [save, { isLoading }] = useSaveEntryMutation()
  const [remove] = useDeleteEntryMutation()
  const read = useMemo(() => readOwnEntry(kind, text, 'line', catalog), [kind, text, catalog])
  const taken = read.ok && id === undefined && catalog[kind].has(read.value.entry.id) ? read.value.entry.id : undefined
  const moved = read.ok && id !== undefined && read.value.entry.id !== id
  const problems: readonly Problem[] = read.ok
    ? taken !== undefined
      ? [{ file: 'line', line: 2, path: 'id', message: `the id "${taken}" is taken; expected another id` }]
      : moved
        ? [{ file: 'line', line: 2, path: 'id', message: `the id must stay "${id}"; copy the entry to have another` }]
        : []
    : read.problems
  const put = async (): Promise<void> => {
    const done = await save({ kind, id, text, revision })
    if ('data' in done && done.data) {
      onDone()
      dispatch(toasted({ text: `${done.data.id} is on the shelf.`, kind: 'said' }))
      // Who came from a plan, for a part that the catalogue lacks, goes back there, and the part comes along.
      if (plan !== null && kind === 'parts') navigate(`/plan/${plan}/kit`, { state: { add: done.data.id } })
      else navigate(`/shelf/${kind}/${done.data.id}`)
    } else dispatch(toasted({ text: problemText(done.error), kind: 'wrong' }))
  }
  const [asking, setAsking] = useState(false)
  const throwAway = async (): Promise<void> => {
    setAsking(false)
    if (id === undefined) return
    const done = await remove({ kind, id })
    if (done.error) dispatch(toasted({ text: problemText(done.error), kind: 'wrong' }))
    else {
      onDone()
      navigate('/shelf')
    }
  }
  return (
    <article className="entry editor">
      <header>
        <h1>{id === undefined ? `A ${kind === 'boards' ? 'board' : 'part'} of your own` : `Change ${id}`}</h1>
        <div className="entry-actions">
          <Button size="sm" variant="dark" disabled={problems.length > 0 || isLoading} onClick={() => void put()}>
            {id !== undefined
              ? 'Save'
              : plan !== null && kind === 'parts'
                ? 'Put it on the shelf and into the plan'
                : 'Put it on the shelf'}
          </Button>
          {id !== undefined && (
            <Button size="sm" variant="outline-danger" onClick={() => setAsking(true)}>
              Take it off the shelf
            </Button>
          )}
        </div>
      </header>
      {asking && id !== undefined && (
        <ThrowAway kind={kind} id={id} onKeep={() => setAsking(false)} onGo={() => void throwAway()} />
      )}
      {isLost && (
        <p className="taken-up form-wrong" role="alert">
          This browser’s store is full, so that what you write is not kept here: put it on the shelf before you leave.
        </p>
      )}
      {onAnew && (
        <p className="taken-up" role="status">
          Taken up where you left it.{' '}
          <Button size="sm" variant="outline-dark" onClick={onAnew}>
            Start anew
          </Button>
        </p>
      )}
      <div className={kind === 'parts' ? 'editor-halves with-form' : 'editor-halves'}>
        {kind === 'parts' && <PartForm text={text} isNew={id === undefined} problems={problems} onText={onText} />}
        <YamlField value={text} onChange={onText} problems={problems} />
        <div className="editor-side">
          <section aria-label="What is wrong" aria-live="polite">
            {problems.length === 0 ? (
              <p className="holds">Holds. This is how it looks:</p>
            ) : (
              <>
                <h2>
                  {problems.length} {problems.length === 1 ? 'thing' : 'things'} to mend
                </h2>
                <ul className="problems">
                  {problems.slice(0, 12).map((problem) => (
                    <li key={`${problem.line} ${problem.path} ${problem.message}`}>
                      {problem.line !== undefined && <b className="mono">line {problem.line} </b>}
                      {problem.path !== '' && <span className="mono soft">{problem.path}: </span>}
                      {problem.message}
                    </li>
                  ))}
                </ul>
              </>
            )}
          </section>
          {read.ok && read.value.kind === 'parts' && <PartDrawing part={read.value.entry} />}
          {read.ok && read.value.kind === 'boards' && <PinChart board={read.value.entry} />}
        </div>
      </div>
    </article>
  )
}

/** Says where an entry is used before it goes. */
function ThrowAway({ kind, id, onKeep, onGo }: { kind: EntryKind; id: string; onKeep: () => void; onGo: () => void }) {
  const { data: plans } = useEntryPlansQuery({ kind, id }, { refetchOnMountOrArgChange: true })
  return (
    <Modal show onHide={onKeep} centered aria-labelledby="throw-away">
      <Modal.Body>
        <h2 id="throw-away">Take {id} off the shelf?</h2>
        {plans === undefined ? (
          <Spinner animation="border" role="status" aria-label="Looking where it is used" />
        ) : plans.length === 0 ? (
          <p className="mb-0">No plan uses it. Save its text first if you may want it back.</p>
        ) : (
          <>
            <p>
              {plans.length === 1 ? 'One plan uses it and carries' : `${plans.length} plans use it and carry`} a copy of
              it: they go on as they are.
            </p>
            <ul className="mb-0">
              {plans.slice(0, 10).map((plan) => (
                <li key={plan.id}>{plan.title}</li>
              ))}
              {plans.length > 10 && <li>and {plans.length - 10} more</li>}
            </ul>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={onKeep}>
          Keep it
        </Button>
        <Button variant="danger" disabled={plans === undefined} onClick={onGo}>
          Take it off
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
