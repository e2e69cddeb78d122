import { useMemo, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Board } from '../../../core/catalog/boardSchema.ts'
import type { Part } from '../../../core/catalog/partSchema.ts'
import { searchCatalog } from '../../../core/catalog/search.ts'
import { addBoard, addParts } from '../../../core/plan/kit.ts'
import { useCatalog, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useAppSelector } from '../../store/store.ts'
import { Glyph } from './Glyph.tsx'

/** What a thing does, in plain words, by the kind of part. */
const purposes: Readonly<Record<string, string>> = {
  boards: 'Runs the program',
  sensor: 'Senses something',
  input: 'Is pressed or turned',
  display: 'Shows text or pictures',
  light: 'Lights up',
  load: 'Moves, pumps or sounds',
  driver: 'Switches and drives',
  radio: 'Talks without wires',
  expander: 'Gives more pins',
  bus: 'Joins and translates',
  storage: 'Keeps data',
  clock: 'Keeps time',
  power: 'Feeds the rest',
  passive: 'Resistors and the like',
}

/** The shelf inside the plan: by what a thing does, each put into the kit by one press. */
export function Browse({ onClose }: { readonly onClose: () => void }) {
  const catalog = useCatalog()
  const plan = usePlan()
  const planId = useAppSelector((state) => state.plan.pen?.id)
  const [purpose, setPurpose] = useState(Object.keys(plan.boards).length === 0 ? 'boards' : 'sensor')
  const [typed, setTyped] = useState('')
  const entries = useMemo((): readonly (Board | Part)[] => {
    const all = [...catalog.boards.values(), ...catalog.parts.values()]
    if (typed.trim() !== '') return searchCatalog<Board | Part>(all, typed)
    const own = all.filter((one) => ('headers' in one ? 'boards' : one.category) === purpose)
    return own.sort((a, b) => Number(b.usual ?? false) - Number(a.usual ?? false) || a.title.localeCompare(b.title))
  }, [catalog, typed, purpose])
  const add = (entry: Board | Part): void => {
    const edits = 'headers' in entry ? addBoard(plan, catalog, entry) : addParts(plan, catalog, entry, 1)
    edit(edits, `Add ${entry.title}`)
  }
  const has = (entry: Board | Part): number =>
    'headers' in entry
      ? Object.values(plan.boards).filter(({ board }) => board === entry.id).length
      : Object.values(plan.parts).filter(({ part }) => part === entry.id).length
  return (
    <Modal show onHide={onClose} aria-labelledby="browse" scrollable size="xl">
      <Modal.Header closeButton>
        <Modal.Title id="browse" as="h2">
          Browse by what it does
        </Modal.Title>
      </Modal.Header>
      <Modal.Body tabIndex={0} className="browse">
        <nav aria-label="What it does">
          <Form.Control
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            placeholder="or search"
            aria-label="Search the shelf"
            maxLength={80}
          />
          {Object.entries(purposes).map(([id, title]) => (
            <button
              key={id}
              type="button"
              aria-pressed={typed.trim() === '' && id === purpose}
              onClick={() => {
                setTyped('')
                setPurpose(id)
              }}
            >
              {title}
            </button>
          ))}
        </nav>
        <ul aria-label="Things">
          {entries.map((entry) => (
            <li key={entry.id}>
              <Glyph of={entry} />
              <div>
                <b>{entry.title}</b> <span className="mono soft">{entry.id}</span>
                <p>{entry.summary}</p>
              </div>
              <Button size="sm" variant="outline-dark" aria-label={`Add ${entry.title}`} onClick={() => add(entry)}>
                {has(entry) > 0 ? `Add another (${has(entry)})` : 'Add'}
              </Button>
            </li>
          ))}
          {entries.length === 0 && (
            <li className="soft">
              Nothing answers to that. Try fewer letters, or{' '}
              <Link to={`/shelf/new/parts?for=${planId}&name=${encodeURIComponent(typed.trim())}`}>
                make it yourself
              </Link>
              .
            </li>
          )}
        </ul>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="dark" onClick={onClose}>
          Done
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
