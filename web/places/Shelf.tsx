import { type ChangeEvent, lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { Button, Form, Spinner } from 'react-bootstrap'
import { Link, NavLink, useNavigate, useParams } from 'react-router'
import { entryOf } from '../../core/base/entryOf.ts'
import type { EntryKind } from '../../core/catalog/ownEntry.ts'
import { searchCatalog } from '../../core/catalog/search.ts'
import { Brand } from '../components/Brand.tsx'
import { BoardPage, ComparePage } from '../components/shelf/BoardPage.tsx'
import { categoryTitles } from '../components/shelf/categories.ts'
import { PartPage } from '../components/shelf/PartPage.tsx'
import { ThemeButton } from '../components/ThemeButton.tsx'
import { useEntriesQuery } from '../store/api.ts'
import { useCatalog } from '../store/derived.ts'
import { useAppDispatch } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'

// The text editor is large and only needed here.
const EntryEditor = lazy(() =>
  import('../components/shelf/EntryEditor.tsx').then((module) => ({ default: module.EntryEditor })),
)

/** The catalogue: boards and parts with their facts and sources, and the maker's own. */
export function Shelf({ view }: { view: 'entry' | 'compare' | 'edit' | 'new' }) {
  const params = useParams()
  return (
    <div className="shelf-frame">
      <header className="top">
        <Brand />
        <nav className="places" aria-label="Places">
          <NavLink to="/shelf" end>
            Shelf
          </NavLink>
        </nav>
        <div className="tools">
          <Link className="btn btn-sm btn-outline-dark" to="/shelf/new/parts">
            Make a part
          </Link>
          <ImportButton />
          <Link className="btn btn-sm btn-outline-dark" to="/">
            Plans
          </Link>
          <ThemeButton />
        </div>
      </header>
      <ShelfList picked={params.id ?? params.a} />
      <main className="shelf-main" id="main" tabIndex={-1}>
        {view === 'edit' || view === 'new' ? (
          <Suspense fallback={<Spinner animation="border" role="status" aria-label="Loading the editor" />}>
            <EntryEditor key={`${view} ${params.kind} ${params.id}`} isNew={view === 'new'} />
          </Suspense>
        ) : view === 'compare' ? (
          <Compare />
        ) : (
          <Entry />
        )}
      </main>
    </div>
  )
}

function Entry() {
  const { kind, id = '' } = useParams()
  const catalog = useCatalog()
  if (kind === undefined) return <Welcome />
  const board = kind === 'boards' ? catalog.boards.get(id) : undefined
  const part = kind === 'parts' ? catalog.parts.get(id) : undefined
  if (board) return <BoardPage key={id} board={board} />
  if (part) return <PartPage key={id} part={part} />
  return <p>The catalogue has no such entry. It may have been deleted.</p>
}

function Compare() {
  const { a = '', b = '' } = useParams()
  const catalog = useCatalog()
  const [one, two] = [catalog.boards.get(a), catalog.boards.get(b)]
  return one && two ? <ComparePage a={one} b={two} /> : <p>The catalogue has no such boards.</p>
}

function Welcome() {
  const { boards, parts } = useCatalog()
  const { data } = useEntriesQuery()
  return (
    <article className="entry">
      <h1>Shelf</h1>
      <p>
        {boards.size} boards and {parts.size} parts, each with its pins, limits and sources. Type any name into the
        field on the left: the printed one, the chip’s, or what people call it.
      </p>
      <p>
        Something missing? <Link to="/shelf/new/parts">Make a part of your own</Link> with a form, open the entry that
        is most like it and press “Copy as my own”, or start a <Link to="/shelf/new/boards/uno-r3">board</Link> from a
        simple one.
      </p>
      {data && data.problems.length > 0 && (
        <section aria-label="Entries that were left off">
          <h2>Left off the shelf</h2>
          <p>These entries of yours do not hold. Mend them and come back.</p>
          <ul>
            {data.problems.map((problem) => (
              <li key={problem} className="mono">
                {problem}
              </li>
            ))}
          </ul>
        </section>
      )}
    </article>
  )
}

function ShelfList({ picked }: { picked: string | undefined }) {
  const catalog = useCatalog()
  const [typed, setTyped] = useState('')
  const list = useRef<HTMLElement>(null)
  useEffect(() => {
    if (picked !== undefined) list.current?.querySelector('.picked')?.scrollIntoView({ block: 'nearest' })
  }, [picked])
  const all = useMemo(
    () => [
      ...[...catalog.boards.values()].map((entry) => ({ kind: 'boards' as EntryKind, group: 'Boards', entry })),
      ...[...catalog.parts.values()].map((entry) => ({
        kind: 'parts' as EntryKind,
        group: categoryTitles[entry.category] ?? entry.category,
        entry,
      })),
    ],
    [catalog],
  )
  const groups = useMemo(() => {
    if (typed.trim() !== '') {
      const found = searchCatalog(
        all.map((one) => one.entry),
        typed,
      )
      return [['Found', found.map((entry) => all.find((one) => one.entry === entry)!)] as const]
    }
    const titles = ['Boards', ...Object.values(categoryTitles)]
    return titles
      .map((title) => [title, all.filter((one) => one.group === title)] as const)
      .filter(([, lines]) => lines.length > 0)
  }, [all, typed])
  return (
    <nav className="shelf-list" aria-label="Entries" ref={list}>
      <Form.Control
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        placeholder="Search boards and parts"
        aria-label="Search boards and parts"
        maxLength={80}
      />
      {groups.map(([title, lines]) => (
        <section key={title} aria-label={title}>
          <h2>
            {title} <span className="soft">{lines.length}</span>
          </h2>
          {lines.length === 0 && (
            <p className="soft px-3">
              Nothing answers to that. Try fewer letters, or the chip’s name, or{' '}
              <Link to="/shelf/new/parts">make it yourself</Link>.
            </p>
          )}
          {lines.map(({ kind, entry }) => (
            <Link
              key={`${kind} ${entry.id}`}
              to={`/shelf/${kind}/${entry.id}`}
              className={entry.id === picked ? 'picked' : ''}
              aria-current={entry.id === picked ? 'page' : undefined}
            >
              <b>{entry.title}</b>
              <span className="mono soft">
                {entry.id}
                {entryOf(catalog.own[kind], entry.id) !== undefined ? ' (yours)' : ''}
              </span>
            </Link>
          ))}
        </section>
      ))}
    </nav>
  )
}

/** Reads an entry from a file and opens it in the editor, where whatever is wrong with it is said. */
function ImportButton() {
  const file = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const dispatch = useAppDispatch()
  const read = async (event: ChangeEvent<HTMLInputElement>): Promise<void> => {
    const chosen = event.target.files?.[0]
    event.target.value = ''
    if (!chosen) return
    if (chosen.size > 200_000) {
      dispatch(toasted({ text: `${chosen.name} is too large; expected at most 200,000 bytes`, kind: 'wrong' }))
      return
    }
    const text = await chosen.text()
    const kind = /^headers:/m.test(text) ? 'boards' : 'parts'
    navigate(`/shelf/new/${kind}/file`, { state: { text } })
  }
  return (
    <>
      <input
        ref={file}
        type="file"
        accept=".yaml,.yml,.json"
        hidden
        aria-label="Entry file"
        onChange={(event) => void read(event)}
      />
      <Button size="sm" variant="outline-dark" onClick={() => file.current?.click()}>
        Import an entry
      </Button>
    </>
  )
}
